"""What each offset should read, from the drawing and one measured station, held against what it does read."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from decimal import Decimal
from math import hypot

from ditto_run.core.findings import Finding
from ditto_run.core.place.offsets import AXES, Offset, Register
from ditto_run.core.place.placed import Standing, expected_mm
from ditto_run.core.shop import Bed, Machine
from ditto_run.core.units import LengthUnit, length_text

Three = tuple[Decimal, Decimal, Decimal]
MaybeThree = tuple[Decimal | None, Decimal | None, Decimal | None]


@dataclass(frozen=True, slots=True)
class Expected:
    """One offset beside what it should read.

    Args:
        label: the first station that uses it.
        code: the offset.
        drawn_mm: from the table's measures alone. [mm]
        expected_mm: the same, moved so that the measured station agrees. [mm]
        measured_mm: as the register has it; None where it is not set. [mm]
        reference: True for the measured station the others are worked out from.
        placing_mm: how far a placed holder may be from the drawing. [mm]
    """

    label: str
    code: str
    drawn_mm: Three
    expected_mm: Three
    measured_mm: MaybeThree
    reference: bool
    placing_mm: Decimal

    @property
    def off_mm(self) -> MaybeThree:
        """Measured less expected; None where it is not set, [mm]."""
        x, y, z = (
            None if measured is None else measured - expected
            for measured, expected in zip(self.measured_mm, self.expected_mm, strict=True)
        )
        return x, y, z

    @property
    def far(self) -> tuple[str, ...]:
        """Axes in which it is farther off than a holder may be placed; exactly at the tolerance is inside."""
        return tuple(
            axis.upper()
            for axis, off in zip(AXES[:3], self.off_mm, strict=True)
            if off is not None and abs(off) > self.placing_mm
        )


def expectations(
    standings: Sequence[Standing], offsets: Mapping[str, Offset], bed: Bed
) -> tuple[Expected, ...]:
    """Return every offset of a layout beside what it should read.

    The first station whose X and Y are measured is the reference: the others are expected where the drawing puts
    them from it. Without one, the table's own measures have to do.

    Args:
        standings: what stands on the table, with its stations.
        offsets: the register of the machine.
        bed: the table.

    Source:
        Own derivation: expected = measured reference + (drawn − drawn reference).
    """
    drawn: dict[str, tuple[str, Three]] = {}
    for standing in standings:
        for seat in standing.seats:
            code = seat.station.offset
            if code is not None and code not in drawn:
                drawn[code] = seat.label, expected_mm(seat, bed)
    measured = {code: _measured(offsets.get(code)) for code in drawn}
    reference = next((code for code in drawn if None not in measured[code][:2]), None)
    moved: list[Decimal] = [Decimal(0)] * 3
    if reference is not None:
        moved = [
            (m - d) if m is not None else Decimal(0)
            for m, d in zip(measured[reference], drawn[reference][1], strict=True)
        ]
    found = []
    for code, (label, at) in drawn.items():
        x, y, z = (part + by for part, by in zip(at, moved, strict=True))
        found.append(Expected(label, code, at, (x, y, z), measured[code], code == reference, bed.placing_mm))
    return tuple(found)


def elsewhere(
    standings: Sequence[Standing], offsets: Mapping[str, Offset], bed: Bed, found: Offset
) -> tuple[Expected, Expected] | None:
    """Return a zero's own station and the one it was more likely touched at; None where its own is the nearest.

    Args:
        standings: what stands on the table, with its stations.
        offsets: the register of the machine; what it says of the found offset itself does not count.
        bed: the table.
        found: the zero as it would be written, in X, in Y or in both.

    Source:
        Own derivation: the nearest of the expected zeros, in the axes that were found.
    """
    there = expectations(standings, {c: o for c, o in offsets.items() if c != found.code}, bed)
    mine = next((one for one in there if one.code == found.code), None)
    axes = [index for index, axis in enumerate(AXES[:2]) if found.mm(axis) is not None]
    if mine is None or not axes:
        return None

    def away(one: Expected) -> float:
        return hypot(*(float((found.mm(AXES[i]) or Decimal(0)) - one.expected_mm[i]) for i in axes))

    nearest = min(there, key=away)
    return None if away(nearest) >= away(mine) or away(mine) <= mine.placing_mm else (mine, nearest)


def _measured(offset: Offset | None) -> MaybeThree:
    if offset is None:
        return None, None, None
    return offset.mm("x"), offset.mm("y"), offset.mm("z")


def offset_findings(
    standings: Sequence[Standing], offsets: Mapping[str, Offset], bed: Bed, unit: LengthUnit
) -> list[Finding]:
    """Return what is asked about the offsets of a layout: not set yet, and farther off than a holder is placed."""
    found = []
    for one in expectations(standings, offsets, bed):
        missing = [
            axis.upper() for axis, value in zip(AXES[:3], one.measured_mm, strict=True) if value is None
        ]
        if missing:
            found.append(
                Finding(
                    "place",
                    "ask",
                    "offset-open",
                    f"{one.code} at {one.label} is not set in {' and '.join(missing)}.",
                    "Find its zero, then write it to the register.",
                )
            )
        for axis in one.far:
            off = one.off_mm["XYZ".index(axis)] or Decimal(0)
            found.append(
                Finding(
                    "place",
                    "ask",
                    "offset-far",
                    f"{axis} of {one.code} is {length_text(abs(off), unit, 2)} from where the drawing puts {one.label}.",
                    "See that it stands where it is drawn, and that the right offset was set.",
                )
            )
    return found


def backup_findings(machine: Machine, register: Register) -> list[Finding]:
    """Return the reminder that a machine's values were changed since they were last taken off it."""
    changes = [offset.at for offset in register.of(machine.id).values() if offset.at is not None]
    last = register.backed_up.get(machine.id)
    if not changes or (last is not None and max(changes) <= last):
        return []
    since = f"since {last:%d %b %Y}" if last else "and never backed up"
    return [
        Finding(
            "place",
            "note",
            "backup-old",
            f"Offsets of {machine.name} were changed {since}.",
            "Take a backup off the machine, on Files.",
        )
    ]
