"""A setup's layout with what the register says of its offsets."""

from collections.abc import Sequence
from dataclasses import dataclass, field
from datetime import datetime

from ditto_run.core.errors import NotNow
from ditto_run.core.place import Clash, Standing, clashes
from ditto_run.core.place.offsets import AXES, Offset, OffsetChange, change_words
from ditto_run.core.place.predict import Expected, expectations
from ditto_run.core.plan import Plan
from ditto_run.core.plan.cycles import chosen_cycle
from ditto_run.core.plan.held import standings
from ditto_run.core.run.events.adjustment import FOLLOWED
from ditto_run.core.shop import Machine
from ditto_run.desk.desk import Desk


@dataclass(frozen=True, slots=True)
class Laid:
    """A setup's layout.

    Args:
        machine: the machine of the setup; None while it has none.
        offsets: the machine's offsets by code.
        standings: what stands on its table; nothing while the table is not measured.
        clashes: what is wrong.
        expected: what each offset should read, by code.
        settled: labels of the stations whose offset is set.
    """

    machine: Machine | None
    offsets: dict[str, Offset] = field(default_factory=dict)
    standings: Sequence[Standing] = ()
    clashes: Sequence[Clash] = ()
    expected: dict[str, Expected] = field(default_factory=dict)
    settled: frozenset[str] = frozenset()


def laid_out(desk: Desk, plan: Plan, setup_key: int, cycle_key: int = 0) -> Laid:
    """Return the layout of a setup with what the register says of its offsets.

    Args:
        desk: the shop.
        plan: the job, seen from the part of the setup.
        setup_key: of the setup.
        cycle_key: the cycle that is looked at, where the setup is cut in several; 0 for the first.
    """
    cycle = chosen_cycle(plan.cycles_of(setup_key), cycle_key)
    shop = desk.shop.load()
    machine = shop.machines.get(cycle.machine_id or 0) if cycle else None
    offsets = dict(shop.register.of(machine.id)) if machine else {}
    if machine is None or machine.bed is None:
        return Laid(machine, offsets)
    there = standings(plan, setup_key, machine.bed, cycle_key)
    found = clashes(there, machine.bed, plan.heading.unit)
    expected = {one.code: one for one in expectations(there, offsets, machine.bed)}
    settled = frozenset(s.label for s in plan.stations_of(setup_key) if _is_set(offsets.get(s.offset or "")))
    return Laid(machine, offsets, there, found, expected, settled)


def _is_set(offset: Offset | None) -> bool:
    return offset is not None and all(axis in offset.axes for axis in ("x", "y", "z"))


@dataclass(frozen=True, slots=True)
class PutBack:
    """The last line of a machine's register, which can be taken back.

    Args:
        machine: number of the machine.
        line: number of the line.
        code: the offset it wrote.
        words: what it changed.
    """

    machine: int
    line: int
    code: str
    words: str


def last_written(desk: Desk, machine: Machine, since: datetime, who: str) -> PutBack | None:
    """Return the last line of a machine's register, if it can be taken back where it was written; None else.

    Args:
        desk: the shop.
        machine: whose register.
        since: a line not younger than this is none.
        who: only a line of theirs. One that Run wrote is taken back there, a kept offset only with its name typed.
    """
    newest = desk.offsets.history(machine.id, most=1)
    if not newest or newest[0].at is None or newest[0].at <= since:
        return None
    line = newest[0]
    before = _before(desk, machine, line)
    words = change_words(before, line)
    guarded = line.kept or (before is not None and before.kept) or line.how.startswith(FOLLOWED)
    return (
        None
        if guarded or line.who != who or not words
        else PutBack(machine.id, line.number, line.code, words)
    )


def put_back(desk: Desk, machine: Machine, number: int, who: str) -> str:
    """Write again what an offset read before the last line of the register. Returns its code.

    Raises:
        NotNow: if another line was written since.
        BadEntry: if it is a kept one.
    """
    newest = desk.offsets.history(machine.id, most=1)
    if not newest or newest[0].number != number:
        raise NotNow("The register was written to since.", "Look at the history of the offset.")
    before = _before(desk, machine, newest[0])
    axes = {axis: before.axes.get(axis) if before else None for axis in AXES}
    desk.offsets.write(machine, [OffsetChange(newest[0].code, axes, "put back")], who)
    return newest[0].code


def _before(desk: Desk, machine: Machine, line: Offset) -> Offset | None:
    lines = desk.offsets.history(machine.id, line.code, 2)
    return lines[0] if len(lines) > 1 else None


@dataclass(frozen=True, slots=True)
class ZeroToFind:
    """One offset that the stations of a job use: on which machine, and the axes it still lacks."""

    machine: str
    code: str
    labels: tuple[str, ...]
    lacks: tuple[str, ...]


def zeros_to_find(desk: Desk, plan: Plan) -> list[ZeroToFind]:
    """Return every offset the job's stations use, with the axes that are not set yet."""
    shop = desk.shop.load()
    users: dict[tuple[int, str], list[str]] = {}
    for cycle in plan.all_cycles:
        for station in cycle.stations:
            if station.offset is not None and cycle.machine_id in shop.machines:
                users.setdefault((cycle.machine_id or 0, station.offset), []).append(station.label)
    found = []
    for (number, code), labels in users.items():
        offset = shop.register.of(number).get(code)
        lacks = tuple(axis.upper() for axis in ("x", "y", "z") if offset is None or axis not in offset.axes)
        found.append(ZeroToFind(shop.machines[number].name, code, tuple(labels), lacks))
    return found
