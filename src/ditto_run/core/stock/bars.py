"""Bars and cuts: pieces of a bar, where each cut lies, what is left, how far it sticks out."""

from dataclasses import dataclass
from decimal import Decimal
from math import ceil, pi, sqrt

from ditto_run.core.errors import BadEntry
from ditto_run.core.units import LengthUnit, length_text

MOST_BARS = 10_000
STICK_OUT_RATIO = 3  # unsupported stick-out over diameter; common practice, no source
CANTILEVER = 1.875104068711961  # first root of cos x cosh x = −1
STEEL_E, STEEL_DENSITY = 210_000.0, 7.85e-6  # N/mm², kg/mm³


@dataclass(frozen=True, slots=True)
class BarCut:
    """How one bar is cut.

    Args:
        bar_mm: length of the bar. [mm]
        piece_mm: length of each piece. [mm]
        kerf_mm: width of each cut. [mm]
        facing_mm: first facing of the bar. [mm]
        starts_mm: where each piece starts, from the free end. [mm]
        left_mm: what is left in the holder. [mm]
    """

    bar_mm: Decimal
    piece_mm: Decimal
    kerf_mm: Decimal
    facing_mm: Decimal
    starts_mm: tuple[Decimal, ...]
    left_mm: Decimal


def bar_room(
    bar_mm: Decimal, kerf_mm: Decimal, remnant_mm: Decimal, facing_mm: Decimal = Decimal(0)
) -> Decimal:
    """Return the room of a bar for pieces that each take their length and one kerf, [mm].

    Where the holder keeps a remnant every piece is cut off it; without one the last piece needs no cut, and one kerf
    comes back. Bars and cuts and mixed lengths both go by this.

    Args:
        bar_mm: length of the bar. [mm]
        kerf_mm: width of a cut. [mm]
        remnant_mm: what the holder keeps. [mm]
        facing_mm: first facing. [mm]

    Source:
        Rule of the Stock step; own derivation.
    """
    return bar_mm - remnant_mm - facing_mm + (kerf_mm if not remnant_mm else 0)


def pieces_per_bar(
    bar_mm: Decimal,
    piece_mm: Decimal,
    kerf_mm: Decimal,
    remnant_mm: Decimal,
    facing_mm: Decimal,
    unit: LengthUnit = "mm",
) -> int:
    """Return the pieces of one bar, floor((bar − remnant − first facing)/(piece + kerf)).

    Each piece costs its kerf, the last one too, since it is cut from a gripped remnant. Only where there is no
    remnant does the last piece need no cut, and one kerf comes back.

    Args:
        bar_mm: length of the bar, above 0. [mm]
        piece_mm: length of a piece, above 0. [mm]
        kerf_mm: width of the blade or part-off tool, from 0, less than the piece. [mm]
        remnant_mm: what the holder keeps. [mm]
        facing_mm: first facing of the bar. [mm]
        unit: unit that a refusal is said in.

    Raises:
        BadEntry: if the kerf is longer than the piece, or the bar gives no piece.

    Source:
        Rule of the Stock step; own derivation.

    Example:
        >>> pieces_per_bar(Decimal(1000), Decimal(97), Decimal(3), Decimal(0), Decimal(0))
        10
    """
    if kerf_mm > piece_mm:
        raise BadEntry(
            f"The kerf, {length_text(kerf_mm, unit, 2)}, is longer than the piece, {length_text(piece_mm, unit, 2)}.",
            "Check the two.",
            "kerf",
        )
    room = bar_room(bar_mm, kerf_mm, remnant_mm, facing_mm)
    found = int(room // (piece_mm + kerf_mm))
    if found < 1:
        raise BadEntry(
            f"A bar of {length_text(bar_mm, unit, 1)} gives no piece of {length_text(piece_mm, unit, 1)}.",
            "Take a longer bar, or a holder that keeps less.",
            "bar",
        )
    return found


def cut_bar(bar_mm: Decimal, piece_mm: Decimal, kerf_mm: Decimal, facing_mm: Decimal, count: int) -> BarCut:
    """Return where the cuts of one bar lie.

    Args:
        bar_mm: length of the bar. [mm]
        piece_mm: length of a piece. [mm]
        kerf_mm: width of a cut. [mm]
        facing_mm: first facing. [mm]
        count: pieces taken from it, 1 or more.
    """
    step = piece_mm + kerf_mm
    starts = tuple(facing_mm + i * step for i in range(count))
    left = bar_mm - facing_mm - count * step
    return BarCut(bar_mm, piece_mm, kerf_mm, facing_mm, starts, max(left, Decimal(0)))


def bars_for(pieces: int, per_bar: int) -> int:
    """Return how many bars a number of pieces wants.

    Raises:
        BadEntry: if that is more than 10,000.
    """
    bars = ceil(pieces / per_bar)
    if bars > MOST_BARS:
        raise BadEntry(f"{bars:,} bars are more than a shop buys.", "Check piece and bar.", "bar")
    return bars


@dataclass(frozen=True, slots=True)
class Pull:
    """How a bar is fed to a stop or puller.

    Args:
        pieces: made from one pull.
        stick_out_mm: how far the bar sticks out. [mm]
        ratio: stick-out over diameter. [-]
    """

    pieces: int
    stick_out_mm: Decimal
    ratio: Decimal


def pull_of(
    piece_mm: Decimal,
    kerf_mm: Decimal,
    across_mm: Decimal,
    clear_mm: Decimal,
    ratio: Decimal = Decimal(STICK_OUT_RATIO),
) -> Pull:
    """Return how many pieces one pull gives without sticking out too far; one at least.

    Args:
        piece_mm: length of a piece. [mm]
        kerf_mm: width of the part-off tool. [mm]
        across_mm: diameter of the bar. [mm]
        clear_mm: between the last cut and the collet. [mm]
        ratio: largest stick-out over diameter. [-]

    Source:
        About 3 × diameter unsupported: common practice, no source.
    """
    step = piece_mm + kerf_mm
    count = max(1, int((ratio * across_mm - clear_mm) // step))
    out = count * step + clear_mm
    return Pull(count, out, out / across_mm)


def whip_rpm(
    across_mm: float, overhang_mm: float, modulus: float = STEEL_E, density: float = STEEL_DENSITY
) -> float:
    """Return the speed at which a bar end that hangs out behind the spindle whips, [rev/min].

    First bending frequency of a round cantilever, f = (1.8751² / 2π) √(E I / (ρ A L⁴)); a bar that is bent
    or unguided whips well below it, so stay under half.

    Args:
        across_mm: diameter. [mm]
        overhang_mm: length that is not guided. [mm]
        modulus: of elasticity. [N/mm²]
        density: mass of a cubic millimetre. [kg/mm³]

    Source:
        Beam theory, own derivation; 1.8751 is the first root of cos x cosh x = −1.
    """
    radius_of_gyration = across_mm / 4
    # N/mm² over kg/mm³ is 10³ mm²/s² × 10³: the square of the speed of sound in the bar, in mm/s
    sound_mm_s = sqrt(modulus / density * 1000)
    return 60 * CANTILEVER**2 / (2 * pi) * sound_mm_s * radius_of_gyration / overhang_mm**2
