"""What the next batch starts from, and what differs today and so must be proved again."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from datetime import datetime

from ditto_run.core.hold import Setup
from ditto_run.core.part import Characteristic
from ditto_run.core.place.offsets import Offset
from ditto_run.core.plan import Plan
from ditto_run.core.run.clocked import clocked
from ditto_run.core.run.state import RunState
from ditto_run.core.shop import Gauge, Machine
from ditto_run.core.units import clock_text, counted, day_text

FIRST_FULL = "the first piece in full"
LONG_DAYS = (
    180  # after which a fixture, a gauge and a program are looked at again; common practice, no source
)


@dataclass(frozen=True, slots=True)
class DiffersToday:
    """One thing that is not as it was: what, and what must be proved again for it; empty where nothing has to be."""

    what: str
    prove: str = ""


@dataclass(frozen=True, slots=True)
class ShopToday:
    """What of the shop a batch rests on, as it is now.

    Args:
        machines, gauges: of the registers, by number.
        offsets: of each machine, by its number and code.
        changed: what of the shop was changed since the revision was frozen, each a sentence.
    """

    machines: Mapping[int, Machine]
    gauges: Mapping[int, Gauge]
    offsets: Mapping[int, Mapping[str, Offset]]
    changed: tuple[str, ...] = ()


def starts_from(last: RunState) -> tuple[str, ...]:
    """Return what the next batch starts from, each in a few words: only what the last one really left.

    Args:
        last: the batch before.
    """
    plan = last.plan
    found = [
        f"revision {last.revision}, {counted(sum(len(part.plan.setups) for part in plan.all_parts), 'setup')}, {counted(_stations(plan), 'station')}"
    ]
    for key in last.cycles:
        clock = clocked(last, key)
        if clock is not None:
            found.append(
                f"{plan.cycle(key).name} took {clock_text(round(clock.cycle_s))} a load by {counted(clock.loads, 'load')} of the clock, "
                f"{clock_text(round(clock.planned_s))} planned; the plan keeps its own until it is said on Tools"
            )
    turned = sum(len(run.dialled) for run in last.cycles.values())
    if turned:
        found.append(
            f"{counted(turned, 'turn')} of its knobs {'is' if turned == 1 else 'are'} written down: see what the control shows"
        )
    if last.every:
        names = [c.name for c in plan.all_characteristics if c.number in last.every]
        found.append(
            f"how often {', '.join(names)} {'is' if len(names) == 1 else 'are'} gauged, as said on Run"
        )
    return tuple(found)


def _stations(plan: Plan) -> int:
    return sum(len(cycle.stations) for cycle in plan.all_cycles)


def differs_today(last: RunState, plan: Plan, shop: ShopToday, now: datetime) -> tuple[DiffersToday, ...]:
    """Return what is not as it was in the last batch, the weightiest first; nothing where all is.

    Args:
        last: the batch before, closed.
        plan: the job's plan as it is now.
        shop: as it is now.
        now: the moment it is asked.

    Source:
        What has to be proved again after each kind of change: common practice, no source.
    """
    was = last.plan
    found = [
        *_drawing(was, plan),
        *_machines(was, plan, shop),
        *_setups(was, plan),
        *_tools(was, plan),
        *_programs(was, plan),
        *_sizes(was, plan, shop),
        *_material(last, plan),
        *_offsets(last, shop),
        *(DiffersToday(f"On Shop: {words}", FIRST_FULL) for words in shop.changed),
        *_quantity(was, plan),
        *_age(last, now),
    ]
    return tuple(dict.fromkeys(found))


def _drawing(was: Plan, plan: Plan) -> Iterator[DiffersToday]:
    before, after = was.heading, plan.heading
    if (before.drawing, before.drawing_revision) != (after.drawing, after.drawing_revision):
        now = f"{after.drawing} {after.drawing_revision}".strip() or "none"
        old = f"{before.drawing} {before.drawing_revision}".strip() or "none"
        yield DiffersToday(f"Drawing {old}, now {now}", "program, sizes, and " + FIRST_FULL)


def _machines(was: Plan, plan: Plan, shop: ShopToday) -> Iterator[DiffersToday]:
    def name(number: int | None) -> str:
        machine = shop.machines.get(number or 0)
        return machine.name if machine is not None else "no machine"

    before = {cycle.key: cycle for cycle in was.all_cycles}
    for cycle in plan.all_cycles:
        old = before.get(cycle.key)
        if old is None:
            yield DiffersToday(f"{cycle.name} is new", "its start list, and " + FIRST_FULL)
            continue
        if old.machine_id != cycle.machine_id:
            yield DiffersToday(
                f"{cycle.name} on {name(cycle.machine_id)}, before on {name(old.machine_id)}",
                "offsets, tool lengths, program, and " + FIRST_FULL,
            )
        elif cycle.machine_id and cycle.machine_id not in shop.machines:
            yield DiffersToday(f"The machine of {cycle.name} is no longer on Shop", "choose one on Hold")
        labels = {(one.label, one.offset, one.holds) for one in cycle.stations}
        gone = {(one.label, one.offset, one.holds) for one in old.stations}
        if labels != gone:
            which = sorted({label for label, _, _ in labels ^ gone})
            yield DiffersToday(
                f"{cycle.name}: station {', '.join(which)} otherwise", "its offset, and a piece of it in full"
            )


def _setups(was: Plan, plan: Plan) -> Iterator[DiffersToday]:
    before: dict[int, Setup] = {setup.key: setup for part in was.all_parts for setup in part.plan.setups}
    now = [setup for part in plan.all_parts for setup in part.plan.setups]
    for setup in now:
        old = before.get(setup.key)
        if old is None:
            yield DiffersToday(f"Setup {setup.name} is new", "its start list, and " + FIRST_FULL)
            continue
        pairs = (
            (old.holds, setup.holds, "held in"),
            (old.locates, setup.locates, "located by"),
            (old.stop, setup.stop, "stopped by"),
            (old.torque, setup.torque, "tight with"),
        )
        for left, right, words in pairs:
            if left != right:
                said = f"{setup.name} {words} {right or 'nothing said'}, before {left or 'nothing said'}"
                yield DiffersToday(said, "the seat, the push test, and " + FIRST_FULL)
    gone = set(before) - {setup.key for setup in now}
    for key in gone:
        yield DiffersToday(f"Setup {before[key].name} is taken out", FIRST_FULL)


def _tools(was: Plan, plan: Plan) -> Iterator[DiffersToday]:
    before = {step.key: step for part in was.all_parts for step in part.plan.tool_steps}
    after = {step.key: step for part in plan.all_parts for step in part.plan.tool_steps}
    for key, step in after.items():
        old = before.get(key)
        if old is None:
            yield DiffersToday(f"{step.name} {step.does} is new", "its length and offset, and what it cuts")
        elif (old.tool, old.does, old.across_mm, old.reach_mm) != (
            step.tool,
            step.does,
            step.across_mm,
            step.reach_mm,
        ):
            yield DiffersToday(
                f"{step.name} {step.does} is otherwise", "its length and offset, and what it cuts"
            )
    for key in set(before) - set(after):
        yield DiffersToday(f"{before[key].name} {before[key].does} is taken out", FIRST_FULL)
    if [one.key for one in was.tool_steps] != [one.key for one in plan.tool_steps] and set(before) == set(
        after
    ):
        yield DiffersToday("The tools come in another order", "the first piece, tool by tool")


def _programs(was: Plan, plan: Plan) -> Iterator[DiffersToday]:
    before = {one.key: one for one in was.programs}
    for one in plan.programs:
        old = before.get(one.key)
        if old is None or old.seal != one.seal:
            yield DiffersToday(
                f"The program of {plan.cycle(one.key).name} is {'another' if old else 'new'}",
                "read it, compare it with the machine's, air cut, and " + FIRST_FULL,
            )


def _sizes(was: Plan, plan: Plan, shop: ShopToday) -> Iterator[DiffersToday]:
    before: dict[int, Characteristic] = {c.number: c for c in was.all_characteristics}
    for c in plan.all_characteristics:
        old = before.get(c.number)
        if old is None:
            yield DiffersToday(f"{c.drawn} is new", "it on the first piece")
        elif old.size != c.size:
            yield DiffersToday(f"{c.drawn}, before {old.size.text}", "it on the first piece")
        elif old.gauge_id != c.gauge_id:
            yield DiffersToday(f"Another gauge for {c.name}", "the gauge on its master")
        if c.gauge_id and c.gauge_id not in shop.gauges:
            yield DiffersToday(f"The gauge of {c.name} is no longer on Shop", "choose one on Part")


def _material(last: RunState, plan: Plan) -> Iterator[DiffersToday]:
    before, after = last.plan.heading, plan.heading
    if before.material != after.material:
        yield DiffersToday(
            f"Material {after.material or 'not said'}, before {before.material or 'not said'}",
            "speeds, feeds, and " + FIRST_FULL,
        )
    elif after.heat and after.heat != before.heat:
        yield DiffersToday(f"Heat {after.heat}, before {before.heat or 'not said'}", FIRST_FULL)


def _offsets(last: RunState, shop: ShopToday) -> Iterator[DiffersToday]:
    """Offsets of the stations that were set again after the batch was closed."""
    for cycle in last.plan.all_cycles:
        there = shop.offsets.get(cycle.machine_id or 0, {})
        for station in cycle.stations:
            offset = there.get(station.offset or "")
            since = last.closed_at
            if offset is not None and offset.at is not None and since is not None and offset.at > since:
                yield DiffersToday(
                    f"{offset.code} at {station.label} was set again since", "it over a known feature"
                )


def _quantity(was: Plan, plan: Plan) -> Iterator[DiffersToday]:
    if was.wanted != plan.wanted:
        yield DiffersToday(
            f"{counted(plan.wanted, 'piece')}, before {was.wanted}", "stock, and how long the tools last"
        )


def _age(last: RunState, now: datetime) -> Iterator[DiffersToday]:
    if last.closed_at is not None and (now - last.closed_at).days >= LONG_DAYS:
        yield DiffersToday(
            f"The last batch was closed on {day_text(last.closed_at.astimezone())}",
            "fixture, gauges and program, as if they were new",
        )
