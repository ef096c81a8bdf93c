"""Records what was done in a run; an offset moved there is followed in the register of offsets."""

import re
from dataclasses import dataclass
from decimal import Decimal

from ditto_run.core.errors import BadEntry
from ditto_run.core.place.offsets import AXES, LINEAR, Axis, Change, as_shown
from ditto_run.core.run import Command, Event
from ditto_run.core.run import commands as do
from ditto_run.core.run import events as ev
from ditto_run.core.run.moved import FOLLOWED
from ditto_run.core.shop import Machine
from ditto_run.core.shop.codes import read_code
from ditto_run.core.units import convert
from ditto_run.web.dependencies import Desk

OFFSET_AXIS = re.compile(r"(.+?)\s+([XYZABC])", re.IGNORECASE)


@dataclass(frozen=True, slots=True)
class _Follow:
    machine: Machine
    code: str
    axis: Axis


def record(desk: Desk, run_id: int, command: Command, who: str, key: str) -> Event | None:
    """Record a command; an offset it moves is moved in the register too.

    Raises:
        BadEntry: if it would move an offset that is kept.
    """
    if isinstance(command, do.Adjust):
        _refuse_kept(desk, run_id, command.what)
    event = desk.runs.record(run_id, command, who, key)
    if event is None:
        return None
    body = event.body
    if isinstance(body, ev.Adjustment):
        _move(desk, run_id, body, body.amount, who)
    elif isinstance(body, ev.Undone):
        undone = next(
            (line.body for line in desk.runs.events(run_id, body.undoes - 1) if line.seq == body.undoes), None
        )
        if isinstance(undone, ev.Adjustment):
            _move(desk, run_id, undone, -undone.amount, who)
    return event


def _follow(desk: Desk, run_id: int, what: str) -> _Follow | None:
    """Return the offset and axis a wording means, if the run's machine has them."""
    found = OFFSET_AXIS.fullmatch(what.strip())
    if found is None:
        return None
    try:
        code = read_code(found[1])
    except BadEntry:
        return None
    with desk.runs.folded(run_id) as state:
        machine_id = state.plan.setup(state.setup).machine_id
    machine = desk.shop.load().machines.get(machine_id or 0)
    if machine is None or code not in machine.offset_codes:
        return None
    return _Follow(machine, code, AXES["XYZABC".index(found[2].upper())])


def _refuse_kept(desk: Desk, run_id: int, what: str) -> None:
    meant = _follow(desk, run_id, what)
    offset = desk.shop.load().register.of(meant.machine.id).get(meant.code) if meant else None
    if offset is not None and offset.kept:
        raise BadEntry(
            f"{offset.code} is kept as “{offset.name}”.",
            "Change it on Place, Offsets, with its name typed; others rely on it.",
            "what",
        )


def _move(desk: Desk, run_id: int, body: ev.Adjustment, amount: Decimal, who: str) -> None:
    meant = _follow(desk, run_id, body.what)
    if meant is None:
        return
    offset = desk.shop.load().register.of(meant.machine.id).get(meant.code)
    if offset is None or meant.axis not in offset.axes:
        return
    by = convert(amount, body.unit, offset.unit) if meant.axis in LINEAR else amount
    moved = as_shown(meant.axis, offset.axes[meant.axis] + by, offset.unit)
    desk.offsets.write(
        meant.machine, [Change(meant.code, {meant.axis: moved}, f"{FOLLOWED}{body.what}")], who
    )
