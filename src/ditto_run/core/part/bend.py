"""Bent forms: developed length, die and roller spacing, spring-back from trials."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import radians, sqrt

from ditto_run.core.errors import BadEntry
from ditto_run.core.units import LengthUnit, counted, length_text

HALF = 0.5
V_OVER_THICKNESS = 8  # opening of a V die over the sheet's thickness
RADIUS_OF_V = 6  # an air bend's inside radius is about the opening over this
NEUTRAL = ((0.5, 0.33), (1.0, 0.35), (2.0, 0.40), (3.0, 0.45))  # inside radius over thickness, up to: factor


@dataclass(frozen=True, slots=True)
class Bend:
    """One bend.

    Args:
        angle_deg: how far it is bent from flat. [°]
        radius_mm: inside radius. [mm]
    """

    angle_deg: float
    radius_mm: float


def neutral_factor(radius_mm: float, thickness_mm: float) -> float:
    """Return where the neutral line lies: its distance from the inside over the thickness, 0.33 to 0.5.

    Source:
        Common practice, no source: tight bends push it inwards, wide ones leave it in the middle.
    """
    ratio = radius_mm / thickness_mm
    return next((factor for limit, factor in NEUTRAL if ratio <= limit), HALF)


def developed_mm(
    straights_mm: Sequence[float], bends: Sequence[Bend], thickness_mm: float, factor: float | None = None
) -> float:
    """Return the flat length of a bent form: straights plus the neutral arcs.

    arc = angle × (inside radius + factor × thickness)

    Args:
        straights_mm: the straight parts between tangent points, one more than bends. [mm]
        bends: the bends in order.
        thickness_mm: measured thickness, above 0. [mm]
        factor: neutral-axis factor, 0 to 0.5; by `neutral_factor` for each bend if None.

    Raises:
        BadEntry: if the number of straights does not fit the bends.

    Source:
        Own derivation; at factor 0.5 the neutral line is the middle line, so a full turn of inside radius
        R is 2π (R + t/2).

    Example:
        >>> round(developed_mm([20, 30], [Bend(90, 3)], 2, 0.5), 4)
        56.2832
    """
    if len(straights_mm) != len(bends) + 1:
        raise BadEntry(
            f"{counted(len(bends), 'bend')} {'wants' if len(bends) == 1 else 'want'} {counted(len(bends) + 1, 'straight')}; {len(straights_mm)} given.",
            "Type a straight before, between and after the bends; 0 if there is none.",
            "straights",
        )
    arcs = (
        radians(bend.angle_deg)
        * (
            bend.radius_mm
            + (neutral_factor(bend.radius_mm, thickness_mm) if factor is None else factor) * thickness_mm
        )
        for bend in bends
    )
    return sum(straights_mm) + sum(arcs)


def v_die_mm(thickness_mm: float, radius_mm: float) -> tuple[float, float]:
    """Return the usual opening of a V die, and the opening whose air bend gives the wanted radius, [mm].

    Source:
        Common practice, no source: 8 × thickness; inside radius about a sixth of the opening.
    """
    return V_OVER_THICKNESS * thickness_mm, RADIUS_OF_V * radius_mm


def roller_depth_mm(
    radius_mm: float, thickness_mm: float, spacing_mm: float, roller_mm: float, unit: LengthUnit = "mm"
) -> float:
    """Return how far the middle roller goes in from touching the flat strip, for a wanted radius, [mm].

    Two outer rollers under the strip, one in the middle over it. The strip's outside, of radius R + t, rests on the
    outer rollers: their centres lie on a circle of radius R + t + r, so depth = (R + t + r) − √((R + t + r)² − (a/2)²).

    Args:
        radius_mm: inside radius wanted, after spring-back is allowed for. [mm]
        thickness_mm: of the strip. [mm]
        spacing_mm: centre distance of the outer rollers. [mm]
        roller_mm: diameter of the outer rollers. [mm]
        unit: unit that a refusal is said in.

    Raises:
        BadEntry: if the rollers stand too far apart for that radius.

    Source:
        Own derivation.
    """
    reach = radius_mm + thickness_mm + roller_mm / 2
    if spacing_mm / 2 >= reach:
        raise BadEntry(
            "The outer rollers stand too far apart for that radius.",
            f"Set them closer than {length_text(2 * reach, unit, 1)}.",
            "spacing",
        )
    return reach - sqrt(reach**2 - (spacing_mm / 2) ** 2)


def set_radius_mm(
    wanted_mm: float, trials_mm: Sequence[tuple[float, float]], unit: LengthUnit = "mm"
) -> float:
    """Return the radius to form round so that the wanted one is left after springing back.

    The same bending moment takes back the same curvature: 1/set − 1/got is the same for every radius, to
    first order. It is averaged over the trials.

    Args:
        wanted_mm: radius wanted. [mm]
        trials_mm: radius formed round, and radius measured after letting go, of each trial. [mm]
        unit: unit that a refusal is said in.

    Raises:
        BadEntry: without a trial, or if a trial sprang the wrong way.

    Source:
        Own derivation from elastic recovery; for round bars and strip alike.
    """
    if not trials_mm:
        raise BadEntry(
            "Spring-back is found by trial.", "Form one piece, measure it, type both radii.", "trials"
        )
    lost = []
    for formed, got in trials_mm:
        if got < formed:
            raise BadEntry(
                f"A piece formed round {length_text(formed, unit, 2)} cannot spring in to {length_text(got, unit, 2)}.",
                "Type formed first, then measured.",
                "trials",
            )
        lost.append(1 / formed - 1 / got)
    return 1 / (1 / wanted_mm + sum(lost) / len(lost))


def set_angle_deg(wanted_deg: float, trials_deg: Sequence[tuple[float, float]]) -> float:
    """Return the angle to bend to so that the wanted one is left: the line through the trials, read backwards.

    Args:
        wanted_deg: angle wanted. [°]
        trials_deg: angle set, and angle left, of each trial. [°]

    Raises:
        BadEntry: without a trial, or if more bending left less.

    Source:
        Own derivation: one trial gives a proportion, two or more a least-squares line.
    """
    if not trials_deg:
        raise BadEntry(
            "Spring-back is found by trial.", "Bend one piece, measure it, type both angles.", "trials"
        )
    n = len(trials_deg)
    mean_set, mean_got = sum(s for s, _ in trials_deg) / n, sum(g for _, g in trials_deg) / n
    spread = sum((s - mean_set) ** 2 for s, _ in trials_deg)
    slope = (
        sum((s - mean_set) * (g - mean_got) for s, g in trials_deg) / spread
        if spread
        else mean_got / mean_set
    )
    if slope <= 0:
        raise BadEntry(
            "In the trials more bending left less angle.", "Type set first, then what was left.", "trials"
        )
    return mean_set + (wanted_deg - mean_got) / slope
