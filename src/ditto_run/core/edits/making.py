"""Changes to setups, stations and tool steps."""

from dataclasses import dataclass, replace
from decimal import Decimal
from typing import Literal, TypeVar

from ditto_run.core.edits.base import PlanRegisters, apply_edit
from ditto_run.core.errors import BadEntry, NotFound
from ditto_run.core.hold import FACES, Setup
from ditto_run.core.hold.held import Holding, check_held, read_straps
from ditto_run.core.part import Characteristic
from ditto_run.core.place import Station, check_station
from ditto_run.core.plan import Changed, Plan
from ditto_run.core.plan.at_work import tool_thing
from ditto_run.core.plan.worked import thing_of
from ditto_run.core.sheets.entries import Entries
from ditto_run.core.shop.codes import read_code
from ditto_run.core.sizes import read_value
from ditto_run.core.times import read_seconds
from ditto_run.core.tools import ToolStep, check_tool_step
from ditto_run.core.units import LengthUnit

ZERO = Decimal(0)
T = TypeVar("T")


@dataclass(frozen=True, slots=True)
class SetSetup:
    """Add a setup at the end, or change the one of that key."""

    name: str
    machine_id: int | None = None
    holds: str = ""
    locates: str = ""
    handling: str = ""
    key: int | None = None
    locates_on: tuple[str, ...] = ()
    clamps_on: tuple[str, ...] = ()
    cuts: tuple[int, ...] = ()
    relay: bool = False
    centres: tuple[str, ...] = ()
    proof: str = ""
    stop: str = ""
    torque: str = ""
    up: str = ""
    to_stop: str = ""
    parallels: str = ""
    parallel_wide: str = ""
    jaw_high: str = ""
    jaw_wide: str = ""
    grip: str = ""
    stick_out: str = ""
    stop_high: str = ""
    straps: str = ""
    kind: Literal["set_setup"] = "set_setup"


@dataclass(frozen=True, slots=True)
class MoveSetup:
    """Move a setup one place earlier or later."""

    key: int
    by: Literal[-1, 1]
    kind: Literal["move_setup"] = "move_setup"


@dataclass(frozen=True, slots=True)
class MoveCut:
    """Move a feature one place earlier or later among those a setup makes."""

    setup: int
    feature: int
    by: Literal[-1, 1]
    kind: Literal["move_cut"] = "move_cut"


@dataclass(frozen=True, slots=True)
class RemoveSetup:
    """Take a setup out, with its stations and tool steps."""

    key: int
    kind: Literal["remove_setup"] = "remove_setup"


@dataclass(frozen=True, slots=True)
class SetStation:
    """Add a station, or change the one that has the label `was`. Coordinates are as typed.

    `cycle` says in which cycle a new one is cut, where its setup is cut in several.
    """

    setup: int
    label: str
    holds: str = ""
    offset: str = ""
    shift: tuple[str, str, str] = ("", "", "")
    zero: tuple[str, str, str] = ("", "", "")
    unit: LengthUnit = "mm"
    pieces: int = 1
    was: str = ""
    stop: Literal["", "left", "right"] = ""
    cycle: int = 0
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
    stations: tuple[str, ...] = ()
    across: str = ""
    reach: str = ""
    at_once: int = 1
    makes: tuple[int, ...] = ()
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


@apply_edit.register
def _set_setup(edit: SetSetup, plan: Plan, shop: PlanRegisters) -> Changed:
    if not edit.name.strip():
        raise BadEntry("The setup has no name.", "Type what is done in it, such as first side.", "name")
    if edit.machine_id is not None and edit.machine_id not in shop.machines:
        raise NotFound("machine", edit.machine_id, "Choose one from Shop.")
    new = Setup(
        plan.number_for(Setup, edit.key),
        edit.name.strip(),
        edit.machine_id,
        edit.holds.strip(),
        edit.locates.strip(),
        read_seconds(edit.handling, "handling"),
        edit.locates_on,
        edit.clamps_on,
        edit.cuts,
        edit.relay,
        edit.centres,
        edit.proof.strip()[:120],
        edit.stop.strip()[:200],
        edit.torque.strip()[:60],
        _holding(edit, plan),
    )
    surfaces = {*FACES[plan.form], *(feature.name for feature in plan.features)}
    for name in (*edit.locates_on, *edit.clamps_on):
        if name not in surfaces:
            raise BadEntry(
                f"The part has no face or feature “{name[:30]}”.", "Choose one of the list.", "locates_on"
            )
    for cut in edit.cuts:
        plan.feature(cut)
    changed = plan.put(new)
    machine = shop.machines.get(new.machine_id or 0)
    for station in changed.stations_of(new.key):
        check_station(station, [s for s in changed.stations_of(new.key) if s is not station], machine)
    return Changed(changed, f"{'added' if edit.key is None else 'changed'} setup {new.name}")


def _holding(edit: SetSetup, plan: Plan) -> Holding:
    """What the setup says of jaws, parallels and grip."""
    names = ("parallels", "parallel_wide", "jaw_high", "jaw_wide", "grip", "stick_out", "stop_high")
    entries = Entries({name: getattr(edit, name) for name in names}, plan.heading.unit, {})
    parallels, thick, high, wide, grip, out, stop = (
        entries.maybe_mm(name, above=name != "parallels") for name in names
    )
    straps = read_straps(edit.straps, plan.heading.unit)
    held = Holding(edit.up, edit.to_stop, parallels or ZERO, thick, high, wide, grip, out, stop, straps)
    return check_held(held, plan.form)


@apply_edit.register
def _move_setup(edit: MoveSetup, plan: Plan, _shop: PlanRegisters) -> Changed:
    setup = plan.setup(edit.key)
    return Changed(
        replace(plan, setups=moved(plan.setups, plan.setups.index(setup), edit.by)), f"moved {setup.name}"
    )


@apply_edit.register
def _move_cut(edit: MoveCut, plan: Plan, _shop: PlanRegisters) -> Changed:
    setup, feature = plan.setup(edit.setup), plan.feature(edit.feature)
    if feature.key not in setup.cuts:
        raise BadEntry(
            f"{setup.name} does not make {feature.name}.", "Tick it in the setup first.", "feature"
        )
    in_order = moved(setup.cuts, setup.cuts.index(feature.key), edit.by)
    return Changed(
        plan.put(replace(setup, cuts=in_order)),
        f"{feature.name} {'earlier' if edit.by < 0 else 'later'} in {setup.name}",
    )


@apply_edit.register
def _remove_setup(edit: RemoveSetup, plan: Plan, _shop: PlanRegisters) -> Changed:
    gone = plan.setup(edit.key)
    things = {thing_of(gone), *(tool_thing(step) for step in plan.tools_of(gone.key))}
    kept = replace(
        plan.without(gone),
        stations=tuple(s for s in plan.stations if s.setup != edit.key),
        tool_steps=tuple(s for s in plan.tool_steps if s.setup != edit.key),
        placed=tuple(p for p in plan.placed if p.setup != edit.key),
        layouts=tuple(layout for layout in plan.layouts if layout.setup != edit.key),
        characteristics=tuple(_not_gauged_in(c, edit.key) for c in plan.characteristics),
        sheets=tuple(replace(s, setup=None) if s.setup == edit.key else s for s in plan.sheets),
        figures=tuple(figure for figure in plan.figures if figure.thing not in things),
    ).without_order(gone.key)
    return Changed(kept, f"removed setup {gone.name}")


def _not_gauged_in(c: Characteristic, gone: int) -> Characteristic:
    """Return a size without a setup it was gauged in."""
    return replace(
        c,
        setup=None if c.setup == gone else c.setup,
        also_in=None if c.also_in == gone else c.also_in,
    )


@apply_edit.register
def _set_station(edit: SetStation, plan: Plan, shop: PlanRegisters) -> Changed:
    setup = plan.setup(edit.setup)
    mine = plan.stations_of(setup.key)
    was = edit.was.strip().upper()
    old = next((station for station in mine if station.label == was), None) if was else None
    if was and old is None:
        raise NotFound("station", was, "Choose one of the stations on Place.")
    x, y, z = (
        _coordinate(text, f"shift_{axis}", edit.unit) for axis, text in zip("xyz", edit.shift, strict=True)
    )
    zero_x, zero_y, zero_z = (
        _coordinate(text, f"zero_{axis}", edit.unit) for axis, text in zip("xyz", edit.zero, strict=True)
    )
    new = Station(
        setup.key,
        edit.label.strip().upper(),
        edit.holds.strip(),
        _code(edit.offset),
        (x or ZERO, y or ZERO, z or ZERO),
        (zero_x, zero_y, zero_z),
        edit.unit,
        edit.pieces,
        old.placed if old else 0,
        old.nest if old else 0,
        edit.stop,
        old.cycle if old else edit.cycle if plan.is_declared(edit.cycle) else 0,
    )
    _check_beside(new, was, plan, shop)
    if not was:
        return Changed(replace(plan, stations=(*plan.stations, new)), f"added station {new.label}")
    changed = tuple(new if s.setup == setup.key and s.label == was else s for s in plan.stations)
    renamed = _renamed(replace(plan, stations=changed), setup.key, was, new.label)
    return Changed(renamed, f"changed station {new.label}")


def _check_beside(new: Station, was: str, plan: Plan, shop: PlanRegisters) -> None:
    """Check a station beside those of its setup and those that are cut with it."""
    beside = [s for s in plan.stations_of(new.setup) if s.label != was]
    machine = shop.machines.get(plan.machine_of(new) or 0)
    if any(s.label == new.label for s in beside):
        raise BadEntry(f"There is a station {new.label} already.", "Choose another letter.", "label")
    if new.cycle:
        beside = [s for s in plan.cycle(new.cycle).stations if (s.setup, s.label) != (new.setup, was)]
    check_station(new, [s for s in beside if s.cycle == new.cycle], machine)


@apply_edit.register
def _remove_station(edit: RemoveStation, plan: Plan, _shop: PlanRegisters) -> Changed:
    kept = tuple(s for s in plan.stations if (s.setup, s.label) != (edit.setup, edit.label))
    if len(kept) == len(plan.stations):
        raise NotFound("station", edit.label, "Choose one of the stations on Place.")
    left = _renamed(replace(plan, stations=kept), edit.setup, edit.label)
    return Changed(left, f"removed station {edit.label}")


def _some_stations(edit: SetToolStep, plan: Plan) -> tuple[str, ...]:
    """Return the stations a tool step works at; none for all of them."""
    there = [station.label for station in plan.stations_of(edit.setup)]
    for label in edit.stations:
        if label not in there:
            raise NotFound("station", label, "Choose one of the stations on Place.")
    found = tuple(label for label in there if label in edit.stations)
    return found if len(found) < len(there) else ()


def _renamed(plan: Plan, setup: int, was: str, label: str = "") -> Plan:
    """Return the plan with a station's new name in the tool steps that work there; without one they forget it."""
    steps = tuple(
        replace(s, stations=tuple(label if one == was else one for one in s.stations if label or one != was))
        if s.setup == setup
        else s
        for s in plan.tool_steps
    )
    return replace(plan, tool_steps=steps)


@apply_edit.register
def _set_tool_step(edit: SetToolStep, plan: Plan, _shop: PlanRegisters) -> Changed:
    plan.setup(edit.setup)
    entries = Entries({"across": edit.across, "reach": edit.reach}, plan.heading.unit, {})
    new = check_tool_step(
        ToolStep(
            plan.number_for(ToolStep, edit.key),
            edit.setup,
            edit.tool,
            edit.does.strip(),
            read_seconds(edit.cut, "cut"),
            read_seconds(edit.change, "change"),
            _some_stations(edit, plan),
            entries.maybe_mm("across"),
            entries.maybe_mm("reach"),
            edit.at_once,
            _made(edit, plan),
        )
    )
    was = plan.tool_step(edit.key) if edit.key is not None else None
    if was is not None and (was.cut_s, was.change_s, was.at_once) == (new.cut_s, new.change_s, new.at_once):
        new = replace(new, time_by=was.time_by)
    return Changed(plan.put(new), f"{'added' if edit.key is None else 'changed'} {new.name} {new.does}")


def _made(edit: SetToolStep, plan: Plan) -> tuple[int, ...]:
    """The features a step makes, each once: those that its setup cuts.

    Raises:
        BadEntry: if its setup does not cut one of them.
    """
    cuts = plan.setup(edit.setup).cuts
    wrong = next((key for key in edit.makes if key not in cuts), None)
    if wrong is not None:
        raise BadEntry(
            "A step makes only what its setup cuts.", "Say on Hold what the setup cuts, then choose.", "makes"
        )
    return tuple(dict.fromkeys(edit.makes))


@apply_edit.register
def _move_tool_step(edit: MoveToolStep, plan: Plan, _shop: PlanRegisters) -> Changed:
    step = plan.tool_step(edit.key)
    mine = plan.tools_of(step.setup)
    in_order = moved(mine, mine.index(step), edit.by)
    others = tuple(s for s in plan.tool_steps if s.setup != step.setup)
    return Changed(replace(plan, tool_steps=(*others, *in_order)), f"moved {step.name} {step.does}")


@apply_edit.register
def _remove_tool_step(edit: RemoveToolStep, plan: Plan, _shop: PlanRegisters) -> Changed:
    gone = plan.tool_step(edit.key)
    figures = tuple(figure for figure in plan.figures if figure.thing != tool_thing(gone))
    return Changed(replace(plan.without(gone), figures=figures), f"removed {gone.name} {gone.does}")


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


def moved(items: tuple[T, ...], index: int, by: int) -> tuple[T, ...]:
    """Return the items with one of them moved, not past an end."""
    target = min(max(index + by, 0), len(items) - 1)
    listed = list(items)
    listed.insert(target, listed.pop(index))
    return tuple(listed)
