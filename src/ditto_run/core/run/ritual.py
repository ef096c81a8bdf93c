"""Loading, thing by thing: what goes where, clean, seated, gap felt, tight, unlocked; taps with their chips and their count."""

import re
from collections.abc import Iterator

from ditto_run.core.hold import Setup
from ditto_run.core.plan import Plan
from ditto_run.core.prove.start_list import VISE
from ditto_run.core.run.loads import next_load
from ditto_run.core.run.state import RunState
from ditto_run.core.run.where import handled
from ditto_run.core.run.words import numbers_text
from ditto_run.core.shop import Machine
from ditto_run.core.tools import ToolStep
from ditto_run.core.tools.order_rules import kinds_of
from ditto_run.core.units import counted, length_text

AIRED = re.compile(r"\b(vacuum|air|pneumatic)\b", re.IGNORECASE)
MOST = 60  # things that are said one by one


def ritual(state: RunState, machine: Machine | None) -> tuple[str, ...]:
    """Return what the hands do before the next load is started, each thing a sentence; nothing while one is cut or none is left.

    Args:
        state: the run, looked at from the cycle.
        machine: it is cut on; None while nobody said it.

    Source:
        Common practice, no source; stop, torque and proof are the plan's.
    """
    if state.running is not None or state.closed_at is not None:
        return ()
    stations = next_load(state)
    if not stations:
        return ()
    found: list[str] = []
    setup_at = state.here.setup_at
    for one in handled(state, stations):
        if one.out:
            found.append(
                f"{one.station}: {numbers_text(one.out)} out, edges broken, into its place in the tray."
            )
        coming = numbers_text((*one.over, *one.new))
        if not one.over and not one.new:
            continue
        found += [
            f"{one.station}: {words}"
            for words in _at_station(state.plan, state.plan.setup(setup_at[one.station]), coming)
        ]
    found += list(_after(state, machine))
    return tuple(found[:MOST])


def _at_station(plan: Plan, setup: Setup, coming: str) -> Iterator[str]:
    yield "chips off the seat and what holds."
    seat = setup.stop or setup.locates
    yield f"{coming} in{f', against {seat}' if seat else ', against its stop'}."
    if setup.proof:
        yield f"the right way round: {setup.proof}."
    tight = f", {setup.torque}" if setup.torque else ""
    if VISE.search(setup.holds):
        parallels = setup.held.parallels_mm
        yield f"tight{tight}; seated down, the gap felt."
        if parallels:
            yield f"parallels of {length_text(parallels, plan.heading.unit, 1)} do not move."
    else:
        yield f"tight{tight}."
    if setup.relay:
        yield "straps where this load begins with them."
    aired = AIRED.search(setup.holds)
    if aired is not None:
        yield f"{aired[1].lower()} up, its reading looked at."


def _after(state: RunState, machine: Machine | None) -> Iterator[str]:
    taps = [
        step
        for key in state.here.setups
        for step in state.plan.tools_of(key)
        if step.tool and "tap" in kinds_of(step.does)
    ]
    for step in taps:
        count = tapped(state, step)
        cut = f"{counted(count, 'piece')} since it was new"
        yield f"{step.name} {step.does}: chips out of its flutes and the holes, depth mark seen, {cut}."
    turns = machine.turns if machine is not None else state.plan.form == "turned"
    yield (
        "Chuck key out, everything clear of what turns."
        if turns
        else "Wrench and rags off the table, spindle free."
    )
    if machine is not None and not machine.is_manual:
        yield "Door shut, the right program on, its first line."


def tapped(state: RunState, step: ToolStep) -> int:
    """Return how many pieces a tool has cut in this cycle since it was changed, by what was written down, [pieces].

    Args:
        state: the run.
        step: the tool's.
    """
    since = max(
        (
            change.load
            for change in state.here.changes
            if change.kind == "setting" and step.name in change.words
        ),
        default=0,
    )
    return sum(
        len(load.pieces) for load in state.here.loads if load.number >= since and load.ended_at is not None
    )
