"""A machine's table: its size, T-slots, what the spindle reaches, where nothing may stand, and the house's habits.

Table coordinates: the left front corner is 0,0; X to the right, Y away from you, Z up from the table's top.
"""

from collections.abc import Iterable
from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

from ditto_run.core.errors import BadEntry
from ditto_run.core.sheets.entries import Entries
from ditto_run.core.shop.outlines import Point, points_text, read_outline, read_points
from ditto_run.core.units import length_text

Corner = Literal["back left", "back right", "front left", "front right"]
Side = Literal["left", "right"]
CORNERS: tuple[Corner, ...] = ("back left", "back right", "front left", "front right")
ZERO_AT = ("top of the piece", "seat")
MOST_KEEP_OUTS, MOST_SLOTS = 40, 30


@dataclass(frozen=True, slots=True)
class KeepOut:
    """Where nothing may stand: column cover, door, operator side. Points in table coordinates, [mm]."""

    name: str
    points: tuple[Point, ...]


@dataclass(frozen=True, slots=True)
class Bed:
    """A machine's table.

    Args:
        size_mm: X and Y of its top. [mm]
        slots_mm: distance of each T-slot's middle from the front edge, or the left one. [mm]
        slot_mm: width of a slot. [mm]
        slots_run: along X or Y.
        reach_mm: what the middle of the spindle reaches: from X, from Y, to X, to Y. [mm]
        home_mm: where the spindle stands over the table at machine zero, X and Y. [mm]
        nose_high_mm: spindle nose over the table at the top of Z. [mm]
        nose_low_mm: the same at the bottom. [mm]
        keep_outs: where nothing may stand.
        corner: the house's zero corner of a piece.
        stop_side: the house's stop side.
        zero_at: where the house puts Z zero.
        placing_mm: how far a placed holder may be from the drawing. [mm]
    """

    size_mm: Point
    slots_mm: tuple[Decimal, ...]
    slot_mm: Decimal
    slots_run: Literal["X", "Y"]
    reach_mm: tuple[Decimal, Decimal, Decimal, Decimal]
    home_mm: Point
    nose_high_mm: Decimal
    nose_low_mm: Decimal
    keep_outs: tuple[KeepOut, ...] = ()
    corner: Corner = "back left"
    stop_side: Side = "left"
    zero_at: str = ZERO_AT[0]
    placing_mm: Decimal = Decimal("0.5")

    @property
    def pitch_mm(self) -> Decimal:
        """Distance between T-slots; 10 where there are less than two, [mm]."""
        return self.slots_mm[1] - self.slots_mm[0] if len(self.slots_mm) > 1 else Decimal(10)


LABELS = {
    "table_x": "Table along X",
    "table_y": "Table along Y",
    "slots": "How many slots",
    "slot_first": "First slot's middle",
    "slot_pitch": "Slot to slot",
    "slot_width": "Slot width",
    "reach_from": "Reach begins at",
    "nose": "Nose above the table",
    "keep_outs": "Keep out",
    "placing": "Placing within",
    "travel_x": "X travel",
    "travel_y": "Y travel",
    "travel_z": "Z travel",
}


def read_bed(entries: Entries, travel_mm: tuple[Decimal | None, Decimal | None, Decimal | None]) -> Bed:
    """Return a machine's table from what was typed.

    Args:
        entries: the fields of `LABELS`, and slots_run, home, corner, stop_side, zero_at.
        travel_mm: travel of X, Y and Z; None where it is not known. [mm]

    Raises:
        BadEntry: at the field that cannot be used.
    """
    travel_x, travel_y, travel_z = travel_mm
    if travel_x is None or travel_y is None or travel_z is None:
        raise BadEntry(
            "The machine's X, Y and Z travel are not all known.",
            "Type them from its manual; the reach follows from them.",
            next(f"travel_{axis}" for axis, way in zip("xyz", travel_mm, strict=True) if way is None),
        )
    size = entries.mm("table_x", "860"), entries.mm("table_y", "430")
    run: Literal["X", "Y"] = "Y" if entries.choice("slots_run", ("X", "Y")) == "Y" else "X"
    x, y = _one_point(entries, "reach_from")
    nose = entries.mm("nose", "560")
    if nose < travel_z:
        raise BadEntry(
            "The nose would go below the table.",
            f"It comes down {length_text(travel_z, entries.unit, 0)}; type how far it is above the table at the top.",
            "nose",
        )
    home = HOMES.index(entries.choice("home", HOMES))
    corner = CORNERS[CORNERS.index(entries.choice("corner", CORNERS))]
    placing = entries.maybe_mm("placing")
    return Bed(
        size,
        _slots(entries, size[1] if run == "X" else size[0]),
        entries.maybe_mm("slot_width") or Decimal(0),
        run,
        (x, y, x + travel_x, y + travel_y),
        (x + (travel_x if home in {0, 2} else 0), y + (travel_y if home in {0, 1} else 0)),
        nose,
        nose - travel_z,
        tuple(_keep_outs(entries)),
        corner,
        "right" if entries.choice("stop_side", ("left", "right")) == "right" else "left",
        entries.choice("zero_at", ZERO_AT),
        placing if placing is not None else Decimal("0.5"),
    )


HOMES = ("right back", "left back", "right front", "left front")


def _one_point(entries: Entries, name: str) -> Point:
    points = read_points(entries.text(name) or "0,0", entries.unit, name)
    if len(points) != 1:
        raise BadEntry("That is not one point.", "Type X, a comma and Y, such as 60,20.", name)
    return points[0]


def _slots(entries: Entries, across_mm: Decimal) -> tuple[Decimal, ...]:
    count = entries.whole("slots", 0, MOST_SLOTS, 0)
    if not count:
        return ()
    first = entries.mm("slot_first", "52")
    pitch = entries.mm("slot_pitch", "100") if count > 1 else Decimal(0)
    found = tuple(first + n * pitch for n in range(count))
    if found[-1] > across_mm:
        raise BadEntry(
            "The last slot lies beyond the table.", "Check the pitch and how many there are.", "slot_pitch"
        )
    return found


def _keep_outs(entries: Entries) -> Iterable[KeepOut]:
    lines = entries.lines("keep_outs")
    if len(lines) > MOST_KEEP_OUTS:
        raise BadEntry("Over 40 places are listed.", "Join those that touch.", "keep_outs")
    for line in lines:
        name, colon, rest = line.partition(":")
        points = read_outline(rest, entries.unit, "keep_outs") if colon else ()
        if not points:
            raise BadEntry(
                f"“{line[:30]}” is not a place.",
                "Type its name, a colon and its corners: door: 790,0 860,200",
                "keep_outs",
            )
        yield KeepOut(name.strip()[:30] or "keep out", points)


def bed_texts(bed: Bed) -> dict[str, str]:
    """Return a table as it is typed; reads back the same."""

    def mm(value: Decimal) -> str:
        return f"{value.normalize():f} mm"

    x1, y1, x2, y2 = bed.reach_mm
    home = HOMES[(0 if bed.home_mm[1] == y2 else 2) + (0 if bed.home_mm[0] == x2 else 1)]
    return {
        "table_x": mm(bed.size_mm[0]),
        "table_y": mm(bed.size_mm[1]),
        "slots": str(len(bed.slots_mm)),
        "slots_run": bed.slots_run,
        "slot_first": mm(bed.slots_mm[0]) if bed.slots_mm else "",
        "slot_pitch": mm(bed.pitch_mm) if len(bed.slots_mm) > 1 else "",
        "slot_width": mm(bed.slot_mm) if bed.slot_mm else "",
        "reach_from": points_text([(x1, y1)]),
        "home": home,
        "nose": mm(bed.nose_high_mm),
        "keep_outs": "\n".join(f"{place.name}: {points_text(place.points)}" for place in bed.keep_outs),
        "corner": bed.corner,
        "stop_side": bed.stop_side,
        "zero_at": bed.zero_at,
        "placing": mm(bed.placing_mm),
    }
