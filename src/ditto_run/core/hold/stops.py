"""Stops: where each stands, from one zero, and what its error does."""

from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

from ditto_run.core.errors import BadEntry
from ditto_run.core.units import steps_of

Edge = Literal["chuck side", "free end side"]


def part_off_ladder(count: int, length_mm: Decimal, kerf_mm: Decimal, zeroed: Edge) -> tuple[Decimal, ...]:
    """Return the carriage positions of the part-off blade for each piece, from the face of the bar, [mm].

    With the blade's chuck-side edge zeroed on the face, piece i is cut at i × (length + kerf); with the free-end
    edge zeroed, at i × length + (i − 1) × kerf. The pieces are the same; only the reading differs by the kerf.

    Args:
        count: pieces, 1 or more.
        length_mm: of a piece. [mm]
        kerf_mm: width of the blade. [mm]
        zeroed: edge of the blade that touched the face at zero.

    Source:
        Rule of the Hold step; own derivation.

    Example:
        >>> [str(p) for p in part_off_ladder(2, Decimal(20), Decimal(3), "chuck side")]
        ['23', '46']
    """
    step = length_mm + kerf_mm
    back = kerf_mm if zeroed == "free end side" else Decimal(0)
    return tuple(i * step - back for i in range(1, count + 1))


@dataclass(frozen=True, slots=True)
class Dial:
    """A hand-wheel reading.

    Args:
        turns: whole turns.
        divisions: divisions past them.
        rest: part of a division that is left over. [divisions]
        clock_h: where the zero mark stands, as on a clock face, from 0 to under 12. [h]
    """

    turns: int
    divisions: int
    rest: Decimal
    clock_h: Decimal


@dataclass(frozen=True, slots=True)
class Dials:
    """Readings that are drawn: travel and hand-wheel, [mm]."""

    rows: tuple[tuple[Decimal, Dial], ...]


@dataclass(frozen=True, slots=True)
class SideStop:
    """A blank pushed against a stop at its side, as it is drawn, [mm].

    Args:
        length_mm, tall_mm: the blank, along and upright.
        at_mm: height the stop touches at.
        side: end the stop is at.
        shorter_mm: how much shorter the next blank is; 0 if it is not asked.
        pin_mm: diameter of a pin in the jaw; None for a vise stop.
    """

    length_mm: Decimal
    tall_mm: Decimal
    at_mm: Decimal
    side: str
    shorter_mm: Decimal
    pin_mm: Decimal | None = None


@dataclass(frozen=True, slots=True)
class TipGap:
    """A tool tip over the edge of a bar, as it is drawn: overlap, the bar's slack, gap after closing, [mm]."""

    overlap_mm: Decimal
    slack_mm: Decimal
    gap_mm: Decimal


def dial_of(travel_mm: Decimal, per_turn_mm: Decimal, divisions: int) -> Dial:
    """Return the turns, divisions and clock position of a travel, always wound in from the same side.

    Args:
        travel_mm: how far, above 0. [mm]
        per_turn_mm: travel of one turn. [mm]
        divisions: of the dial, 1 or more.

    Source:
        Own derivation.

    Example:
        >>> dial_of(Decimal("7.35"), Decimal(2), 100).divisions
        67
    """
    turns, rest = divmod(travel_mm, per_turn_mm)
    exact = rest / per_turn_mm * divisions
    whole = int(exact)
    return Dial(int(turns), whole, exact - whole, rest / per_turn_mm * 12)


def rectangle_laps(
    width_mm: Decimal, height_mm: Decimal, cutter_mm: Decimal, *, climb: bool
) -> list[tuple[Decimal, Decimal]]:
    """Return the centre of the cutter at the corners of one lap round a rectangle, zero at its lower left corner, [mm].

    Climb milling runs clockwise round an outside, conventional the other way, with a right-hand cutter.

    Args:
        width_mm: along X. [mm]
        height_mm: along Y. [mm]
        cutter_mm: diameter. [mm]
        climb: True for climb milling.

    Source:
        Own derivation.
    """
    r = cutter_mm / 2
    lap = [(-r, -r), (-r, height_mm + r), (width_mm + r, height_mm + r), (width_mm + r, -r), (-r, -r)]
    return lap if climb else lap[::-1]


def depth_steps(depth_mm: Decimal, largest_mm: Decimal, last_mm: Decimal) -> list[Decimal]:
    """Return the depths of each pass: equal roughing passes, then one finishing pass of its own, [mm].

    Args:
        depth_mm: whole depth, above 0. [mm]
        largest_mm: largest roughing pass, above 0. [mm]
        last_mm: finishing pass; 0 for none. [mm]

    Raises:
        BadEntry: if the finishing pass is deeper than the whole.

    Source:
        Own derivation.
    """
    if last_mm >= depth_mm:
        raise BadEntry("The finishing pass is as deep as the whole cut.", "Type a thinner one.", "finish")
    rough = depth_mm - last_mm
    count = steps_of(rough, largest_mm)
    steps = [rough * i / count for i in range(1, count + 1)]
    return [*steps, depth_mm] if last_mm else steps


def off_centre_mm(blank_shorter_mm: Decimal) -> Decimal:
    """Return how far a hole sits off centre when the stop stays and the blank is shorter: half the difference, [mm]."""
    return blank_shorter_mm / 2


@dataclass(frozen=True, slots=True)
class TipStop:
    """A tool tip used as a stop.

    Args:
        covers_mm: overlap of tip and bar once the bar hangs in its slack. [mm]
        holds: True if the bar cannot slip past.
        gap_mm: gap the collet leaves when it pulls the bar back; check it after closing. [mm]
    """

    covers_mm: Decimal
    holds: bool
    gap_mm: Decimal


def tip_stop(overlap_mm: Decimal, slack_mm: Decimal, pull_back_mm: Decimal) -> TipStop:
    """Return whether a tool tip stops the bar: it must overlap by more than the bar's slack.

    Args:
        overlap_mm: how far the tip reaches over the bar's face. [mm]
        slack_mm: play of the bar in the open collet, on the diameter. [mm]
        pull_back_mm: how far the closing collet draws the bar. [mm]

    Source:
        Rule of the Hold step.
    """
    covers = overlap_mm - slack_mm
    return TipStop(covers, covers > 0, pull_back_mm)


def screw_in_turns(depth_mm: Decimal, pitch_mm: Decimal) -> Decimal:
    """Return the turns that screw a part in to a depth, [turns]."""
    return depth_mm / pitch_mm


def effect_share(repeat_mm: Decimal, tolerance_mm: Decimal) -> Decimal:
    """Return how much of a tolerance the repeat of a stop takes, both ways, [-]."""
    return 2 * repeat_mm / tolerance_mm
