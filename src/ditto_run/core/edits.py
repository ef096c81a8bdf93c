"""Changes to a plan: one small value a change, one function that makes the next plan of it."""

from collections.abc import Mapping
from dataclasses import dataclass, field, fields, replace
from decimal import Decimal
from functools import singledispatch
from typing import Any, Literal, TypeVar

from ditto_run.core.errors import BadEntry, NotFound
from ditto_run.core.hold import Setup
from ditto_run.core.part import Characteristic, Grade, Heading, check_heading, doubt_about_size
from ditto_run.core.place import Station, check_station
from ditto_run.core.plan import Plan
from ditto_run.core.shop import Machine
from ditto_run.core.shop.codes import read_code
from ditto_run.core.sizes import Size, read_size, read_value
from ditto_run.core.times import read_seconds
from ditto_run.core.tools import ToolStep, check_tool_step
from ditto_run.core.units import LengthUnit

MOST_ROWS = 500
ZERO = Decimal(0)
T = TypeVar("T")


@dataclass(frozen=True, slots=True)
class SetHeading(Heading):
    """Change the head of the job."""

    kind: Literal["set_heading"] = "set_heading"


@dataclass(frozen=True, slots=True)
class SetCharacteristic:
    """Add a characteristic, or change the one of that number. `keep` holds a size we asked about."""

    name: str
    size: str
    grade: Grade = "functional"
    gauge_id: int | None = None
    why: str = ""
    setup: int | None = None
    number: int | None = None
    keep: str = ""
    kind: Literal["set_characteristic"] = "set_characteristic"


@dataclass(frozen=True, slots=True)
class AddCharacteristics:
    """Add many at once, after they were rehearsed."""

    rows: tuple[SetCharacteristic, ...]
    kind: Literal["add_characteristics"] = "add_characteristics"


@dataclass(frozen=True, slots=True)
class RemoveCharacteristic:
    """Take a characteristic out."""

    number: int
    kind: Literal["remove_characteristic"] = "remove_characteristic"


@dataclass(frozen=True, slots=True)
class SetSetup:
    """Add a setup at the end, or change the one of that key."""

    name: str
    machine_id: int | None = None
    holds: str = ""
    locates: str = ""
    handling: str = ""
    key: int | None = None
    kind: Literal["set_setup"] = "set_setup"


@dataclass(frozen=True, slots=True)
class MoveSetup:
    """Move a setup one place earlier or later."""

    key: int
    by: Literal[-1, 1]
    kind: Literal["move_setup"] = "move_setup"


@dataclass(frozen=True, slots=True)
class RemoveSetup:
    """Take a setup out, with its stations and tool steps."""

    key: int
    kind: Literal["remove_setup"] = "remove_setup"


@dataclass(frozen=True, slots=True)
class SetStation:
    """Add a station, or change the one that has the label `was`. Coordinates are as typed."""

    setup: int
    label: str
    holds: str = ""
    offset: str = ""
    shift: tuple[str, str, str] = ("", "", "")
    zero: tuple[str, str, str] = ("", "", "")
    unit: LengthUnit = "mm"
    pieces: int = 1
    was: str = ""
    kind: Literal["set_station"] = "set_station"


@dataclass(frozen=True, slots=True)
class RemoveStation:
    """Take a station out."""

    setup: int
    label: str
    kind: Literal["remove_station"] = "remove_station"


@dataclass(frozen=True, slots=True)
class SetToolStep:
    """Add a tool step at the end of a setup, or change the one of that key."""

    setup: int
    tool: int
    does: str
    cut: str = ""
    change: str = ""
    key: int | None = None
    kind: Literal["set_tool_step"] = "set_tool_step"


@dataclass(frozen=True, slots=True)
class MoveToolStep:
    """Move a tool step one place earlier or later in its setup."""

    key: int
    by: Literal[-1, 1]
    kind: Literal["move_tool_step"] = "move_tool_step"


@dataclass(frozen=True, slots=True)
class RemoveToolStep:
    """Take a tool step out."""

    key: int
    kind: Literal["remove_tool_step"] = "remove_tool_step"


Edit = (
    SetHeading | SetCharacteristic | AddCharacteristics | RemoveCharacteristic | SetSetup | MoveSetup | RemoveSetup
    | SetStation | RemoveStation | SetToolStep | MoveToolStep | RemoveToolStep
)  # fmt: skip


@dataclass(frozen=True, slots=True)
class Changed:
    """A changed plan, and what was changed in a few words for the history."""

    plan: Plan
    what: str


@dataclass(frozen=True, slots=True)
class Registers:
    """What of the shop a plan may refer to."""

    machines: Mapping[int, Machine] = field(default_factory=dict)
    gauge_ids: frozenset[int] = frozenset()


@singledispatch
def apply_edit(edit: Edit, _plan: Plan, _shop: Registers) -> Changed:
    """Return the plan with one change made.

    Args:
        edit: what to change; its type says how.
        _plan: the plan as it is.
        _shop: machines and gauges the plan may name.

    Returns:
        The next plan, and the change in words.

    Raises:
        BadEntry: if a field cannot be used; `field` names it.
        NeedsAnswer: if a size is doubtful and was not said twice.
        NotFound: if it changes something that is not there.
    """
    raise TypeError(edit)


@apply_edit.register
def _set_heading(edit: SetHeading, plan: Plan, _shop: Registers) -> Changed:
    typed: dict[str, Any] = {part.name: getattr(edit, part.name) for part in fields(Heading)}
    stripped: dict[str, Any] = {
        name: value.strip() if isinstance(value, str) else value for name, value in typed.items()
    }
    heading = check_heading(Heading(**stripped))
    return Changed(replace(plan, heading=heading), "the job's head")


def read_characteristic(edit: SetCharacteristic, plan: Plan, others: tuple[Characteristic, ...]) -> Size:
    """Return the size of a characteristic to be.

    Args:
        edit: the characteristic as typed.
        plan: the plan it would belong to.
        others: the other characteristics of the plan.

    Raises:
        BadEntry: if its name is missing or taken, or its size cannot be read.
        NeedsAnswer: if the size is doubtful beside the others and was not said twice.
    """
    if not edit.name.strip():
        raise BadEntry("The dimension has no name.", "Type what the shop calls it, such as slot.", "name")
    if any(other.name.lower() == edit.name.strip().lower() for other in others):
        raise BadEntry(f"There is a dimension {edit.name.strip()} already.", "Choose another name.", "name")
    size = read_size(edit.size, plan.heading.unit)
    doubt = doubt_about_size(size, [other.size for other in others], plan.heading.unit)
    if doubt is not None and edit.grade != "free" and edit.keep.strip() != edit.size.strip():
        raise doubt
    return size


@apply_edit.register
def _set_characteristic(edit: SetCharacteristic, plan: Plan, shop: Registers) -> Changed:
    others = tuple(c for c in plan.characteristics if c.number != edit.number)
    if edit.gauge_id is not None and edit.gauge_id not in shop.gauge_ids:
        raise NotFound("gauge", edit.gauge_id, "Choose one from Shop.")
    if edit.setup is not None:
        plan.setup(edit.setup)
    size = read_characteristic(edit, plan, others)
    number = edit.number or plan.next_number
    new = Characteristic(
        number, edit.name.strip(), size, edit.grade, edit.gauge_id, edit.why.strip(), edit.setup
    )
    if edit.number is None:
        added = replace(plan, characteristics=(*plan.characteristics, new), next_number=plan.next_number + 1)
        return Changed(added, f"added {new.drawn}")
    plan.characteristic(number)
    changed = tuple(new if c.number == number else c for c in plan.characteristics)
    return Changed(replace(plan, characteristics=changed), f"changed {new.drawn}")


@apply_edit.register
def _add_characteristics(edit: AddCharacteristics, plan: Plan, shop: Registers) -> Changed:
    if not 0 < len(edit.rows) <= MOST_ROWS:
        raise BadEntry(
            f"{len(edit.rows)} rows; between 1 and {MOST_ROWS} can be added at once.", "Paste fewer.", "rows"
        )
    for row in edit.rows:
        plan = _set_characteristic(row, plan, shop).plan
    return Changed(plan, f"added {len(edit.rows)} dimensions")


@apply_edit.register
def _remove_characteristic(edit: RemoveCharacteristic, plan: Plan, _shop: Registers) -> Changed:
    gone = plan.characteristic(edit.number)
    kept = tuple(c for c in plan.characteristics if c.number != edit.number)
    return Changed(replace(plan, characteristics=kept), f"removed {gone.name}")


@apply_edit.register
def _set_setup(edit: SetSetup, plan: Plan, shop: Registers) -> Changed:
    if not edit.name.strip():
        raise BadEntry("The setup has no name.", "Type what is done in it, such as first side.", "name")
    if edit.machine_id is not None and edit.machine_id not in shop.machines:
        raise NotFound("machine", edit.machine_id, "Choose one from Shop.")
    new = Setup(
        edit.key or plan.next_number, edit.name.strip(), edit.machine_id, edit.holds.strip(), edit.locates.strip(),
        read_seconds(edit.handling, "handling"),
    )  # fmt: skip
    if edit.key is None:
        added = replace(plan, setups=(*plan.setups, new), next_number=plan.next_number + 1)
        return Changed(added, f"added setup {new.name}")
    plan.setup(new.key)
    changed = replace(plan, setups=tuple(new if s.key == new.key else s for s in plan.setups))
    machine = shop.machines.get(new.machine_id or 0)
    for station in changed.stations_of(new.key):
        check_station(station, [s for s in changed.stations_of(new.key) if s is not station], machine)
    return Changed(changed, f"changed setup {new.name}")


@apply_edit.register
def _move_setup(edit: MoveSetup, plan: Plan, _shop: Registers) -> Changed:
    setup = plan.setup(edit.key)
    return Changed(
        replace(plan, setups=_moved(plan.setups, plan.setups.index(setup), edit.by)), f"moved {setup.name}"
    )


@apply_edit.register
def _remove_setup(edit: RemoveSetup, plan: Plan, _shop: Registers) -> Changed:
    gone = plan.setup(edit.key)
    kept = replace(
        plan,
        setups=tuple(s for s in plan.setups if s.key != edit.key),
        stations=tuple(s for s in plan.stations if s.setup != edit.key),
        tool_steps=tuple(s for s in plan.tool_steps if s.setup != edit.key),
        characteristics=tuple(
            replace(c, setup=None) if c.setup == edit.key else c for c in plan.characteristics
        ),
    )
    return Changed(kept, f"removed setup {gone.name}")


@apply_edit.register
def _set_station(edit: SetStation, plan: Plan, shop: Registers) -> Changed:
    setup = plan.setup(edit.setup)
    mine = plan.stations_of(setup.key)
    was = edit.was.strip().upper()
    if was and all(station.label != was for station in mine):
        raise NotFound("station", was, "Choose one of the stations on Place.")
    x, y, z = (
        _coordinate(text, f"shift_{axis}", edit.unit) for axis, text in zip("xyz", edit.shift, strict=True)
    )
    zero_x, zero_y, zero_z = (
        _coordinate(text, f"zero_{axis}", edit.unit) for axis, text in zip("xyz", edit.zero, strict=True)
    )
    new = Station(
        setup.key, edit.label.strip().upper(), edit.holds.strip(), _code(edit.offset),
        (x or ZERO, y or ZERO, z or ZERO), (zero_x, zero_y, zero_z), edit.unit, edit.pieces,
    )  # fmt: skip
    check_station(new, [s for s in mine if s.label != was], shop.machines.get(setup.machine_id or 0))
    if not was:
        return Changed(replace(plan, stations=(*plan.stations, new)), f"added station {new.label}")
    changed = tuple(new if s.setup == setup.key and s.label == was else s for s in plan.stations)
    return Changed(replace(plan, stations=changed), f"changed station {new.label}")


@apply_edit.register
def _remove_station(edit: RemoveStation, plan: Plan, _shop: Registers) -> Changed:
    kept = tuple(s for s in plan.stations if (s.setup, s.label) != (edit.setup, edit.label))
    if len(kept) == len(plan.stations):
        raise NotFound("station", edit.label, "Choose one of the stations on Place.")
    return Changed(replace(plan, stations=kept), f"removed station {edit.label}")


@apply_edit.register
def _set_tool_step(edit: SetToolStep, plan: Plan, _shop: Registers) -> Changed:
    plan.setup(edit.setup)
    new = check_tool_step(ToolStep(
        edit.key or plan.next_number, edit.setup, edit.tool, edit.does.strip(),
        read_seconds(edit.cut, "cut"), read_seconds(edit.change, "change"),
    ))  # fmt: skip
    if edit.key is None:
        added = replace(plan, tool_steps=(*plan.tool_steps, new), next_number=plan.next_number + 1)
        return Changed(added, f"added {new.name} {new.does}")
    plan.tool_step(edit.key)
    changed = tuple(new if s.key == edit.key else s for s in plan.tool_steps)
    return Changed(replace(plan, tool_steps=changed), f"changed {new.name} {new.does}")


@apply_edit.register
def _move_tool_step(edit: MoveToolStep, plan: Plan, _shop: Registers) -> Changed:
    step = plan.tool_step(edit.key)
    mine = plan.tools_of(step.setup)
    moved = _moved(mine, mine.index(step), edit.by)
    others = tuple(s for s in plan.tool_steps if s.setup != step.setup)
    return Changed(replace(plan, tool_steps=(*others, *moved)), f"moved {step.name} {step.does}")


@apply_edit.register
def _remove_tool_step(edit: RemoveToolStep, plan: Plan, _shop: Registers) -> Changed:
    gone = plan.tool_step(edit.key)
    kept = tuple(s for s in plan.tool_steps if s.key != edit.key)
    return Changed(replace(plan, tool_steps=kept), f"removed {gone.name} {gone.does}")


def _coordinate(text: str, name: str, unit: LengthUnit) -> Decimal | None:
    if not text.strip():
        return None
    try:
        value, _, typed_unit = read_value(text, unit)
    except BadEntry:
        raise BadEntry(
            f"“{text[:30]}” is not a coordinate.", "Type a plain number such as −23.6220.", name
        ) from None
    if typed_unit != unit:
        raise BadEntry(
            f"“{text[:30]}” is in another unit than the station.", "Type all of a station in one unit.", name
        )
    return value


def _code(text: str) -> str | None:
    if not text.strip():
        return None
    try:
        return read_code(text)
    except BadEntry as refusal:
        raise BadEntry(refusal.problem, refusal.remedy, "offset") from None


def _moved(items: tuple[T, ...], index: int, by: int) -> tuple[T, ...]:
    target = min(max(index + by, 0), len(items) - 1)
    listed = list(items)
    listed.insert(target, listed.pop(index))
    return tuple(listed)
