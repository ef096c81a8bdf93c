"""Nests and stepped jaws: how large they are made, what else they fit, and what a jack or an arbor does."""

from collections.abc import Sequence
from decimal import Decimal


def nest_size_mm(largest_mm: Decimal, clearance_mm: Decimal) -> Decimal:
    """Return the size of a nest: the largest part that may come, and clearance on both sides, [mm].

    Args:
        largest_mm: largest size of the part in its limits. [mm]
        clearance_mm: on each side. [mm]
    """
    return largest_mm + 2 * clearance_mm


def nest_error_mm(nest_mm: Decimal, smallest_mm: Decimal) -> Decimal:
    """Return how far off centre the smallest part can lie in a nest: half the play, [mm]."""
    return (nest_mm - smallest_mm) / 2


def fits_in(
    nest_mm: Decimal, least_clearance_mm: Decimal, others_mm: Sequence[Decimal], most_play_mm: Decimal
) -> tuple[Decimal, ...]:
    """Return which other sizes the same nest takes: loose enough to go in, not looser than allowed.

    Args:
        nest_mm: size of the nest. [mm]
        least_clearance_mm: on each side. [mm]
        others_mm: sizes asked about. [mm]
        most_play_mm: largest play, both sides together. [mm]
    """
    return tuple(size for size in others_mm if 2 * least_clearance_mm <= nest_mm - size <= most_play_mm)


def jack_lift_mm(force_n: float, span_mm: float, width_mm: float, thick_mm: float, modulus: float) -> float:
    """Return how far a jack in the middle lifts a plate held at both ends, F L³ / 48 E I, [mm].

    Args:
        force_n: of the jack. [N]
        span_mm: between the clamps. [mm]
        width_mm: of the plate. [mm]
        thick_mm: of the plate. [mm]
        modulus: of elasticity. [N/mm²]

    Source:
        Beam theory, simply supported; clamped ends lift a quarter of it. [beams]
    """
    inertia = width_mm * thick_mm**3 / 12
    return force_n * span_mm**3 / (48 * modulus * inertia)


def carried_runout_mm(arbor_mm: Decimal, seats_mm: Sequence[Decimal]) -> Decimal:
    """Return the worst run-out of a part carried on its arbor from machine to machine: the arbor's and each seat's, [mm]."""
    return arbor_mm + sum(seats_mm, Decimal(0))
