"""The register of work offsets: kept and scratch ones, what a change would do, and the guard before a kept one.

The register is a record. The control keeps its own values; nothing here reaches it.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import datetime
from decimal import Decimal
from typing import Literal

from ditto_run.core.errors import BadEntry
from ditto_run.core.sheets.reader import read_as
from ditto_run.core.shop import Machine
from ditto_run.core.units import LengthUnit, bare_text, convert, rounded, small_text, to_base

Axis = Literal["x", "y", "z", "a", "b", "c"]
AXES: tuple[Axis, ...] = ("x", "y", "z", "a", "b", "c")
LINEAR = frozenset("xyz")
LONGEST_NAME, LONGEST_PURPOSE, LONGEST_HOW = 40, 200, 200
FARTHEST = Decimal(100_000)
WHOLE_TURNS = Decimal(36_000)


@dataclass(frozen=True, slots=True)
class Offset:
    """One line of the register: what an offset was set to, by whom, when and how.

    Args:
        code: such as G54.
        axes: value of each axis that is set, in the control's unit, degrees for A, B and C.
        unit: the control's unit.
        kept: True if it must last.
        name: what a kept one is called.
        purpose: what it is for.
        limit: how far it may drift until somebody is asked; 0 for no limit. [unit]
        who: initials.
        at: when.
        how: how it was found.
        number: its place in the register's history; 0 before it is written.
    """

    code: str
    axes: Mapping[Axis, Decimal] = field(default_factory=dict)
    unit: LengthUnit = "mm"
    kept: bool = False
    name: str = ""
    purpose: str = ""
    limit: Decimal = Decimal(0)
    who: str = ""
    at: datetime | None = None
    how: str = ""
    number: int = 0

    def mm(self, axis: Axis) -> Decimal | None:
        """Return one linear axis, exact, [mm]; None while it is not set."""
        value = self.axes.get(axis)
        return None if value is None else to_base(value, self.unit)


@dataclass(frozen=True, slots=True)
class OffsetChange:
    """What is to be written: some axes of one offset, or how it is kept.

    Args:
        code: the offset.
        axes: new value of each axis that changes; None takes it out of the register.
        how: how it was found.
        kept: keep it, or let it go; None leaves it as it is.
        name: name of a kept one; None leaves it.
        purpose: its purpose; None leaves it.
        limit: how far it may drift; None leaves it.
        typed: the name typed to change a kept one.
    """

    code: str
    axes: Mapping[Axis, Decimal | None] = field(default_factory=dict)
    how: str = ""
    kept: bool | None = None
    name: str | None = None
    purpose: str | None = None
    limit: Decimal | None = None
    typed: str = ""


@dataclass(frozen=True, slots=True)
class Register:
    """The offsets of every machine as they stand, and when each machine was last backed up.

    Args:
        offsets: by machine and code.
        backed_up: by machine.
        looked: who last saw the read-out agree at an offset and when, by machine and code.
    """

    offsets: Mapping[int, Mapping[str, Offset]] = field(default_factory=dict)
    backed_up: Mapping[int, datetime] = field(default_factory=dict)
    looked: Mapping[tuple[int, str], tuple[str, datetime]] = field(default_factory=dict)

    def agreed(self, machine_id: int, code: str) -> tuple[str, datetime] | None:
        """Return who saw the read-out agree and when; None if nobody did since the offset was last set."""
        look, offset = self.looked.get((machine_id, code)), self.of(machine_id).get(code)
        if look is None or offset is None or (offset.at is not None and offset.at > look[1]):
            return None
        return look

    def of(self, machine_id: int | None) -> Mapping[str, Offset]:
        """Return the offsets of one machine."""
        return self.offsets.get(machine_id or 0, {})


def change_words(old: Offset | None, new: Offset) -> str:
    """Return what a change does to each axis: −6.2205 to −6.2200, by 0.5 thou; empty if nothing changes.

    Args:
        old: the offset as it stands; None if it was never set.
        new: as it would be.
    """
    said = []
    for axis in AXES:
        before, after = (old.axes.get(axis) if old else None), new.axes.get(axis)
        if before == after:
            continue
        shown = [
            axis_text(axis, value, new.unit) if value is not None else "not set" for value in (before, after)
        ]
        by = ""
        if before is not None and after is not None and axis in LINEAR:
            by = f", by {small_text(after - before, new.unit)}"
        said.append(f"{axis.upper()} {shown[0]} to {shown[1]}{by}")
    return "; ".join(said)


def as_shown(axis: str, value: Decimal, unit: LengthUnit) -> Decimal:
    """Return an axis rounded to what a control shows: four decimals in inches, three in millimetres and degrees."""
    return rounded(value, 4 if unit == "in" and axis in LINEAR else 3)


def axis_text(axis: str, value: Decimal, unit: LengthUnit) -> str:
    """Return an axis as the control shows it: four decimals in inches, three in millimetres and degrees."""
    if axis in LINEAR:
        return bare_text(value, unit, 4 if unit == "in" else 3)
    return f"{bare_text(value, 'mm', 3)}°"


def read_axis(axis: Axis, text: str, machine: Machine, name: str) -> Decimal | None:
    """Return an axis as typed, in the control's unit, rounded to what the control shows; None if nothing is typed.

    Args:
        axis: which one.
        text: as typed; a length may bear another unit.
        machine: whose control it is.
        name: the field, for a refusal.

    Raises:
        BadEntry: if it is no number, or too far away.
    """
    if not text.strip():
        return None
    unit = machine.wear.unit
    try:
        value = read_as("length" if axis in LINEAR else "angle", text, unit, name)
    except BadEntry:
        raise BadEntry(
            f"“{text[:30]}” is not a coordinate.", "Type a plain number such as −23.6220.", name
        ) from None
    if axis in LINEAR:
        too_far = abs(value) > FARTHEST
        value = as_shown(axis, convert(value, "mm", unit), unit)
    else:
        value = as_shown(axis, value, unit)
        too_far = abs(value) > WHOLE_TURNS
    if too_far:
        raise BadEntry(
            f"{axis.upper()} {text[:20]} is too far away.", "Check the decimal point and the unit.", name
        )
    return value


def changed(old: Offset | None, change: OffsetChange, machine: Machine) -> Offset:
    """Return the offset as it would stand after a change; a kept one only with its name typed.

    Args:
        old: as it stands; None if it was never set.
        change: what is to be written.
        machine: whose register it is.

    Raises:
        BadEntry: if the machine lacks the code, a kept one has no name, or a kept one would be overwritten without
            its name typed.
    """
    if change.code not in machine.offset_codes:
        raise BadEntry(f"{machine.name} has no {change.code}.", "Choose one of its work offsets.", "code")
    base = old or Offset(change.code, unit=machine.wear.unit)
    if base.unit != machine.wear.unit:  # the control was set to another unit since
        base = replace(
            base,
            unit=machine.wear.unit,
            axes={a: _in_unit(a, v, base.unit, machine.wear.unit) for a, v in base.axes.items()},
        )
    axes = {axis: value for axis, value in (base.axes | change.axes).items() if value is not None}  # type: ignore[operator]
    kept = base.kept if change.kept is None else change.kept
    name = (base.name if change.name is None else change.name).strip()[:LONGEST_NAME]
    new = replace(
        base,
        axes=axes,
        kept=kept,
        name=name,
        purpose=(base.purpose if change.purpose is None else change.purpose).strip()[:LONGEST_PURPOSE],
        limit=base.limit if change.limit is None else change.limit,
        how=change.how.strip()[:LONGEST_HOW],
    )
    if kept and not name:
        raise BadEntry(
            f"{change.code} is to be kept, but has no name.", "Name it, such as pallet base centre.", "name"
        )
    if name and not kept and name != base.name:
        raise BadEntry(
            f"{change.code} is not kept, so it bears no name.", "Tick Keep it, or clear the name.", "name"
        )
    if change.typed.strip() and not base.kept and not kept:
        raise BadEntry(
            f"{change.code} is not a kept one, so there is no name to type.",
            "Clear the name, then write it down.",
            "typed",
        )
    _guard(old, new, change)
    return new


def _guard(old: Offset | None, new: Offset, change: OffsetChange) -> None:
    if old is None or not old.kept or change.typed.strip().lower() == old.name.lower():
        return
    words = change_words(old, new)
    if not words and new.kept and new.name == old.name:
        return  # its purpose or limit only
    does = (
        f"would change {words}"
        if words
        else "would no longer be kept"
        if not new.kept
        else f"would be called {new.name}"
    )
    set_by = f" {old.who} set it{f' on {old.at:%d %b %Y}' if old.at else ''}." if old.who else ""
    raise BadEntry(
        f"{old.code} is kept as “{old.name}”: it {does}.{set_by}",
        f"Type {old.name} to change it all the same.",
        "typed",
    )


def _in_unit(axis: Axis, value: Decimal, unit: LengthUnit, wanted: LengthUnit) -> Decimal:
    if axis not in LINEAR:
        return value
    return as_shown(axis, convert(value, unit, wanted), wanted)


def drift(history: Sequence[Offset]) -> tuple[tuple[Offset, dict[str, Decimal]], ...]:
    """Return how far each line of a history is from the first one that set the axis, [mm].

    Args:
        history: lines of one code, oldest first.
    """
    first: dict[str, Decimal] = {}
    found = []
    for line in history:
        by: dict[str, Decimal] = {}
        for axis in AXES[:3]:
            value = line.mm(axis)
            if value is not None:
                by[axis] = value - first.setdefault(axis, value)
        found.append((line, by))
    return tuple(found)


def drifted(history: Sequence[Offset]) -> str:
    """Return which axes of a kept offset are farther from where they were first found than its limit; empty if none.

    Exactly at the limit is inside.

    Args:
        history: lines of one code, oldest first.
    """
    if not history or not history[-1].limit:
        return ""
    last, by = drift(history)[-1]
    limit = to_base(last.limit, last.unit)
    far = [
        f"{axis.upper()} by {small_text(convert(way, 'mm', last.unit), last.unit)}"
        for axis, way in by.items()
        if abs(way) > limit
    ]
    return (
        f"{last.code} has drifted in {' and '.join(far)}; {small_text(last.limit, last.unit)} is the limit."
        if far
        else ""
    )
