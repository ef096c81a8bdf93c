"""What the sheets of finding zero share: reading touches, wording results, and the picture they are drawn as."""

from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

from ditto_run.core.entry.rows import lengths_of
from ditto_run.core.errors import BadEntry
from ditto_run.core.findings import Finding
from ditto_run.core.place.placed import Ring, Spot
from ditto_run.core.place.touch import Repeats, repeats
from ditto_run.core.sheets import Entries, Entry, Fact, Known
from ditto_run.core.sheets.reader import read_as
from ditto_run.core.units import LengthUnit, length_text, rounded, small_mm_text

MOST_TOUCHES = 200
SIGN = {
    "left": 1,
    "right": -1,
    "front": 1,
    "back": -1,
}  # from the spindle to the edge it touches, along the axis
SHOWN = Entry(
    "shown",
    "The read-out shows",
    kind="choose",
    choices=("", "mm", "in"),
)
PROBE = Entry("probe", "Edge finder or ball, Ø")
NOBODY_MOVES = "The spindle is still or the probe armed; jog slowly, and look before each touch."


@dataclass(frozen=True, slots=True)
class TouchPicture:
    """Where a feature was touched, and where its zero comes to lie.

    Args:
        touches: middle of the probe at each touch. [mm]
        probe_mm: diameter of the probe. [mm]
        zero: the zero that was found. [mm]
        edges: edges of the work, as lines. [mm]
        circle: middle and radius of a bore or boss; None without one. [mm]
        left_out: positions of touches that do not count.
    """

    touches: Ring
    probe_mm: float
    zero: Spot
    edges: tuple[Ring, ...] = ()
    circle: tuple[float, float, float] | None = None
    left_out: tuple[int, ...] = ()


@dataclass(frozen=True, slots=True)
class CutPicture:
    """A test cut: what was wanted beside what was measured, and which way the tool has to go.

    Args:
        wanted_mm: size that was wanted. [mm]
        measured_mm: size that came out. [mm]
        inside: True for a bore or slot, whose material lies round it.
    """

    wanted_mm: float
    measured_mm: float
    inside: bool


def shown_unit(entries: Entries, known: Known) -> LengthUnit:
    """Return the unit the read-out shows."""
    chosen = entries.choice("shown", ("", "mm", "in"))
    return known.unit if not chosen else "in" if chosen == "in" else "mm"


def coordinate(text: str, unit: LengthUnit, field: str) -> float:
    """Return one coordinate as the read-out shows it; it may be negative, [mm].

    Raises:
        BadEntry: if it is no plain number.
    """
    try:
        return float(read_as("length", text, unit, field))
    except BadEntry:
        raise BadEntry(
            f"“{text[:20]}” is not a coordinate.", "Type what the read-out shows, such as −23.6220.", field
        ) from None


def row_of(line: str, unit: LengthUnit, field: str) -> list[float]:
    """Return the coordinates of a row, parted by spaces; they may be negative, [mm]."""
    return [float(length) for length in lengths_of(line, unit, field)]


def touches(entries: Entries, name: str, unit: LengthUnit, example: str = "−23.6220") -> list[float]:
    """Return repeat touches of one place, parted by spaces or lines, [mm].

    Raises:
        BadEntry: if there is none, or one is no coordinate.
    """
    found = row_of(entries.need(name, example), unit, name)
    if len(found) > MOST_TOUCHES:
        raise BadEntry(f"{len(found)} touches are over {MOST_TOUCHES}.", "A few are enough.", name)
    return found


def spots(entries: Entries, name: str, unit: LengthUnit, least: int = 1) -> list[Spot]:
    """Return places of two coordinates, one a line, [mm].

    Raises:
        BadEntry: if a line has not two coordinates, or there are too few.
    """
    found = []
    for line in entries.lines(name):
        parts = row_of(line, unit, name)
        if len(parts) != 2:  # noqa: PLR2004 - X and Y
            raise BadEntry(
                f"“{line[:30]}” is not one place.", "Type X and Y parted by a space, a line each.", name
            )
        found.append((parts[0], parts[1]))
    if len(found) < least:
        raise BadEntry(
            f"{entries.label(name)} wants {least} lines or more.", "Type X and Y, a line each.", name
        )
    if len(found) > MOST_TOUCHES:
        raise BadEntry(f"{len(found)} lines are over {MOST_TOUCHES}.", "A few are enough.", name)
    return found


def repeated(entries: Entries, name: str, unit: LengthUnit) -> Repeats:
    """Return what the repeat touches of a field say."""
    return repeats(touches(entries, name, unit))


def spread_facts(label: str, found: Repeats, unit: LengthUnit) -> list[Fact]:
    """Return how well repeat touches agree, in words."""
    if found.half is None:
        return [Fact(label, "touched once", "touch again to know how well it repeats")]
    said = f"±{small_mm_text(found.half, unit)}"
    return [Fact(label, said, f"80 % range; touches differ by {small_mm_text(found.spread, unit)}")]


def outliers(found: Repeats, where: str, unit: LengthUnit) -> list[Finding]:
    """Return what is asked about touches that do not fit the others."""
    if found.differ:
        return [
            Finding(
                "place",
                "ask",
                "touches-differ",
                f"The touches {where} differ by {small_mm_text(found.spread, unit)}, and too few were made to say which is wrong.",
                "Clean it and touch again, four times or more.",
            )
        ]
    if not found.left_out:
        return []
    which = ", ".join(str(i + 1) for i in found.left_out)
    return [
        Finding(
            "place",
            "ask",
            "touch-outlier",
            f"Touch {which} {where} does not fit the others; it is left out.",
            "A chip, a burr or a slipped digit? Clean it and touch again.",
        )
    ]


def axis_words(axis: Literal["X", "Y", "Z"], value: float, unit: LengthUnit) -> str:
    """Return an axis as the read-out should be set: X −23.6220 in (−600.000 mm)."""
    return f"{axis} {length_text(value, unit)}"


def over(value_mm: float, limit_mm: float | Decimal) -> bool:
    """Return whether a worked-out distance is over a limit; on the limit is inside, a nanometre of arithmetic aside."""
    return round(abs(value_mm), 6) > float(limit_mm)


def exact(value: float) -> Decimal:
    """Return a worked-out coordinate to a nanometre, [mm]: rounded once, where it is shown or written."""
    return rounded(Decimal(repr(value)), 6)
