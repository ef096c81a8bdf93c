"""A machine, a process and a gauge that are made up, so that a batch can be practised on one screen. Only for demo jobs."""

from collections.abc import Callable
from dataclasses import dataclass
from datetime import datetime

from ditto_run.core.errors import NotNow
from ditto_run.core.rehearse.process import Fault, effect_mm, size_text
from ditto_run.core.run import RunState
from ditto_run.core.run.board import board
from ditto_run.core.run.events import TakeGo
from ditto_run.core.run.judged import DimensionJudged, Keeper
from ditto_run.core.run.loads import loads_to_go
from ditto_run.desk import Desk
from ditto_run.devices.listening import GAUGE, Heard, listen, take_reading
from ditto_run.devices.machine import SimulatedMachine
from ditto_run.devices.process import SimulatedProcess
from ditto_run.formats.gauge_lines import GaugeLine
from ditto_run.formats.mtconnect import read_streams

SPEEDS = {1: "as it is", 10: "ten times", 60: "sixty times"}
CYCLE_S = 120.0  # where the plan has none; made up
MOST_KEPT = 20


@dataclass(slots=True)
class StandIn:
    """The stand-in of one run.

    Args:
        machine: its machine.
        fault: what goes wrong.
        seed: of chance.
        heard_to: what was asked of the machine so far, by number.
        sent: how many readings its gauge sent.
        refused: what the run did not take last.
    """

    machine: SimulatedMachine
    fault: Fault
    seed: int
    heard_to: int = 1
    sent: int = 0
    refused: str = ""


class StandIns:
    """The stand-ins that are switched on.

    Args:
        of: by run; they are gone when the application ends.
    """

    def __init__(self, of: "dict[int, StandIn]") -> None:
        self._of = of

    def of(self, run_id: int) -> StandIn | None:
        """Return the stand-in of a run; None while none is on."""
        return self._of.get(run_id)

    def switch_on(self, desk: Desk, job_id: int, cycle: int, fault: Fault, speed: int) -> StandIn:
        """Switch a stand-in on for a demo job.

        Raises:
            NotNow: for a job that is no demo: its log is of real pieces.
        """
        if not desk.jobs.load(job_id).is_demo:
            raise NotNow(
                "A stand-in writes made-up readings.", "Practise on a job of the demo; a real log stays real."
            )
        run_id = desk.runs.require(job_id)
        with desk.runs.folded(run_id) as lent:
            state = lent.near(cycle)
            cycle_s = state.plan.times(state.cycle).cycle_s or CYCLE_S
            seq = state.seq
        clock: Callable[[], datetime] = lambda: desk.now  # noqa: E731
        instance = run_id * 1_000_000 + seq
        machine = SimulatedMachine(f"stand-in of run {run_id}", clock, cycle_s, float(speed), instance)
        while len(self._of) >= MOST_KEPT:
            self._of.pop(next(iter(self._of)))
        self._of[run_id] = StandIn(machine, fault, seed=run_id)
        return self._of[run_id]

    def switch_off(self, run_id: int) -> None:
        """Switch the stand-in of a run off."""
        self._of.pop(run_id, None)


def hear(desk: Desk, run_id: int, cycle: int, one: StandIn) -> Heard:
    """Ask the machine what it said since, and write it down."""
    found = listen(desk, run_id, cycle, read_streams(one.machine.sample(one.heard_to)))
    one.heard_to = found.next_sequence
    one.refused = found.refused[-1] if found.refused else "" if found.written else one.refused
    return found


def gauge(desk: Desk, run_id: int, cycle: int, one: StandIn) -> str:
    """Let the gauge send what it shows of the piece that is asked for. Returns what was said.

    Raises:
        NotNow: if no reading is asked for, or the process does not know the dimension.
    """
    with desk.runs.folded(run_id) as lent:
        state = lent.near(cycle)
        asked = board(state, desk.now, strip=False)
        if asked.call.next != "gauge" or asked.asked is None or asked.piece is None:
            raise NotNow("No reading is asked for now.", "Cut the next load.")
        number, wanted = asked.piece.number, asked.asked
        shown = None if wanted.by_gauge_only else _shows(desk, state, number, wanted.number, one)
        goes = _goes(state, number, wanted.number, one) if wanted.by_gauge_only else False
    one.sent += 1
    key = f"standin-{one.machine.instance}-{one.sent}"
    if shown is not None:
        return take_reading(desk, run_id, cycle, GaugeLine(shown, None), 0, key)
    desk.runs.record(run_id, TakeGo(number, wanted.number, goes), GAUGE, key, cycle)
    with desk.runs.folded(run_id) as lent:
        return board(lent.near(cycle), desk.now, strip=False).last_said


def _goes(state: RunState, number: int, of: int, one: StandIn) -> bool:
    """Whether the GO goes in and the NO-GO does not: the size is anywhere between its limits."""
    zone = DimensionJudged("zone", -1.0, 1.0, 0.0, 0.0, 0.0)
    loads = int(loads_to_go(state)) + len(state.here.loads)
    process = SimulatedProcess({of: zone}, tuple(state.here.composition), max(loads, 1), one.fault, one.seed)
    made = next(made for made in state.pieces[number].made.values() if made.cycle == state.cycle)
    for look in state.here.looked:
        process.look(look.load, look.station)
    return abs(process.size_mm(made.load, made.station, number, of, 0.0)) <= 1.0


def _shows(desk: Desk, state: RunState, number: int, of: int, one: StandIn) -> str:
    """What the gauge shows of a dimension of a piece."""
    shop = desk.shop.load()
    machine = shop.machines.get(state.plan.cycle(state.cycle).machine_id or 0)
    piece = state.pieces[number]
    for setup in state.here.setups:
        history = Keeper(setup).history(state, machine, shop.gauges)
        names = {c.number: name for name, c in history.of.items()} if history is not None else {}
        if history is None or of not in names or setup not in piece.made:
            continue
        made, name = piece.made[setup], names[of]
        dims = {history.of[dim.name].number: dim for dim in history.job.dimensions}
        loads = int(loads_to_go(state)) + len(state.here.loads)
        process = SimulatedProcess(dims, history.labels, max(loads, 1), one.fault, one.seed)
        turns = [
            (turn.what, turn.station, turn.amount_mm) for turn in state.here.dialled if turn.load <= made.load
        ]
        for look in state.here.looked:
            process.look(look.load, look.station)
        for tried in state.here.mastered:
            process.set_right(tried.characteristic, tried.load - 1)  # it comes before that load
        size = process.size_mm(
            made.load, made.station, number, of, effect_mm(history.job.knobs, name, turns, made.station)
        )
        times = len(piece.gaugings.get((setup, of), ()))
        shown = process.read_mm(size, made.load, number, of, times)
        unit = history.of[name].size.unit
        return size_text(shown, unit, 4 if unit == "in" else 3)
    raise NotNow("The stand-in gauges lengths with two limits.", "Answer this one by hand.")
