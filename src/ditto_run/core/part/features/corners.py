"""Corners of an outline or a turned profile, said in the line: `points 0 0; 60 0; 60 30, 10 high`."""

import re
from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal

from ditto_run.core.errors import BadEntry
from ditto_run.core.part.faces import Form
from ditto_run.core.units import LengthUnit, to_base

LONGEST_POINTS = 24_000
MOST_POINTS = 1_000
FIGURE = r"-?(?:\d+(?:\.\d*)?|\.\d+)"
PAIR = re.compile(rf"({FIGURE})(?: ?, ?| )({FIGURE})(?![\d.])")
POINTS = re.compile(rf"\bpoints?:? +((?:{PAIR.pattern}[; ]*)+)", re.IGNORECASE)
TRIANGLE = 3
Spot = tuple[Decimal, Decimal]


@dataclass(frozen=True, slots=True)
class Corners:
    """Corners one after the other: x and y of an outline; distance from the free end and diameter of a profile.

    Args:
        unit: of the figures.
        spots: the corners. [unit]
    """

    unit: LengthUnit
    spots: tuple[Spot, ...]

    @property
    def mm(self) -> tuple[tuple[float, float], ...]:
        """The corners, [mm]."""
        return tuple((float(to_base(x, self.unit)), float(to_base(y, self.unit))) for x, y in self.spots)

    @property
    def text(self) -> str:
        """As it is typed."""
        return "points " + "; ".join(f"{_plain(x)} {_plain(y)}" for x, y in self.spots)


def take_corners(line: str, form: Form, unit: LengthUnit) -> tuple[str, Corners | None, str]:
    """Return the line without its corners, the corners, and how they were typed.

    Args:
        line: as typed.
        form: block or turned; it decides what a corner is.
        unit: of the figures. [mm or inch]

    Raises:
        BadEntry: fewer than an area has, too many, a shape that crosses itself, a profile that runs back.
    """
    match = POINTS.search(line)
    if match is None:
        return line, None, ""
    spots = tuple((Decimal(x), Decimal(y)) for x, y in PAIR.findall(match[1]))
    if len(spots) > MOST_POINTS:
        raise BadEntry(
            f"{len(spots):,} points are more than {MOST_POINTS:,}.",
            "Leave out those in a straight line.",
            "text",
        )
    if form == "turned":
        _runs_on(spots)
    else:
        spots = spots[:-1] if len(spots) > 1 and spots[0] == spots[-1] else spots
        _closes(spots)
    return line[: match.start()] + line[match.end() :], Corners(unit, spots), match[0].strip()


def _runs_on(spots: Sequence[Spot]) -> None:
    """A profile runs from the free end towards the chuck, at diameters of nought or more."""
    if len(spots) < 2:  # noqa: PLR2004 - a line has two ends
        raise BadEntry(
            "One point is no profile.", "Type distance and diameter, a pair for each corner.", "text"
        )
    for (z, across), (after, _) in zip(spots, (*spots[1:], spots[-1]), strict=True):
        if across < 0 or z < 0:
            raise BadEntry(
                f"A point of the profile is below nought: {_plain(z)} {_plain(across)}.",
                "Distances are from the free end, then the diameter.",
                "text",
            )
        if after < z:
            raise BadEntry(
                f"The profile runs back from {_plain(z)} to {_plain(after)}.",
                "Type the corners in order, from the free end to the chuck.",
                "text",
            )


def _closes(spots: Sequence[Spot]) -> None:
    from shapely import Polygon, is_valid_reason  # noqa: PLC0415 - shapely takes 0.2 s, and few lines have corners

    if len(spots) < TRIANGLE:
        raise BadEntry(f"{len(spots)} points make no outline.", "Three are the fewest.", "text")
    shape = Polygon([(float(x), float(y)) for x, y in spots])
    if not shape.is_valid or not shape.area:
        at = re.search(r"\[(\S+) (\S+)\]", is_valid_reason(shape))
        where = f" near {float(at[1]):.4g} {float(at[2]):.4g}" if at else ""
        raise BadEntry(
            f"The outline crosses itself{where}.", "Type its corners in order, once round.", "text"
        )


def _plain(value: Decimal) -> str:
    return f"{value.normalize():f}"
