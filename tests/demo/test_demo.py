"""The demo shop is the scenario it promises, made through the real core, the same every time."""

from datetime import UTC, datetime
from pathlib import Path

import pytest

from ditto_run.core.close import report
from ditto_run.core.plan import plan_findings
from ditto_run.core.run import RunState
from ditto_run.core.run.board import board
from ditto_run.core.run.due import due_pieces
from ditto_run.core.run.loads import next_load
from ditto_run.demo import add_demo_jobs, make_demo_shop
from ditto_run.desk import Desk, open_desk
from ditto_run.settings import Settings

NOON = datetime(2026, 5, 12, 12, 0, tzinfo=UTC)


@pytest.fixture(scope="module")
def demo(tmp_path_factory: pytest.TempPathFactory) -> Desk:
    desk = open_desk(Settings(tmp_path_factory.mktemp("demo"), demo=True, clock=lambda: NOON))
    make_demo_shop(desk)
    return desk


def state_of(desk: Desk, part: str) -> RunState:
    job = next(job for job in desk.jobs.find() if job.plan.heading.part == part)
    with desk.runs.folded(desk.runs.of_job(job.id) or 0) as state:
        return state


def test_the_jobs_and_whether_they_run(demo: Desk) -> None:
    runs = demo.runs.of_jobs()
    states = {job.plan.heading.part: job.id in runs for job in demo.jobs.find()}

    assert states == {
        "Rigger clamp block": True,
        "Oarlock pin": True,
        "Foot stretcher plate": True,
        "Gate spacer": False,
        "Stay bracket, left": True,
        "Gate bushing": True,
    }
    assert all(job.is_demo for job in demo.jobs.find())


def test_the_clamp_block_is_in_the_middle_of_its_run(demo: Desk) -> None:
    state = state_of(demo, "Rigger clamp block")
    made = [piece for piece in state.pieces.values() if piece.standing != "cutting"]
    held = [piece for piece in made if piece.standing == "held"]
    changes = [c for run in state.cycles.values() for c in run.changes if c.kind == "offset"]

    assert (len(made), state.plan.heading.quantity) == (31, 48)
    assert list(state.here.composition) == ["A", "B", "C"]
    assert len(held) == 1
    assert held[0].out[0].text == "11.938"
    assert [(change.words, change.station) for change in changes] == [("G56 Z −0.0008 in", "C")]
    assert state.running is not None
    assert (NOON - state.running.started_at).total_seconds() == 348


def test_the_slot_drifts_at_c_and_nowhere_else(demo: Desk) -> None:
    state = state_of(demo, "Rigger clamp block")
    slot = state.plan.characteristics[1]
    drift = {}
    for station in "ABC":
        values = [float(g.value or 0) for g in state.here.lanes[station, slot.number].values()]
        drift[station] = values[-1] - values[0]

    assert drift["C"] < -0.01
    assert abs(drift["A"]) < 0.008
    assert abs(drift["B"]) < 0.008


def test_one_size_is_left_to_gauge(demo: Desk) -> None:
    state = state_of(demo, "Rigger clamp block")

    assert due_pieces(state) == [31]
    assert board(state, NOON).call.say == "Gauge the slot on piece 31."


def test_the_pin_runs_from_bar_on_a_lathe(demo: Desk) -> None:
    state = state_of(demo, "Oarlock pin")
    kinds = {change.kind for run in state.cycles.values() for change in run.changes}
    machine = demo.shop.load().machines[state.plan.setup(state.cycle).machine_id or 0]

    assert machine.kind == "lathe"
    assert kinds == {"offset", "break"}
    assert board(state, NOON).counts["good"] == 37


def test_the_plate_is_closed_in_inches_with_one_scrapped_and_one_accepted(demo: Desk) -> None:
    state = state_of(demo, "Foot stretcher plate")
    found = report(state)

    assert state.closed_at is not None
    assert state.plan.heading.unit == "in"
    assert found.good == 24
    assert found.counts["scrap"] == 1
    assert [row.standing for row in found.pieces].count("accepted as it is") == 1
    assert found.adds_up


def test_the_spacer_says_what_it_wants(demo: Desk) -> None:
    job = next(job for job in demo.jobs.find() if job.plan.heading.part == "Gate spacer")
    codes = {finding.code for finding in plan_findings(job.plan, demo.shop.load().machines)}

    assert codes == {"critical-without-limits", "waits", "nowhere-to-start", "no-tool"}


def test_left_and_right_run_together_both_sides_of_the_left(demo: Desk) -> None:
    state = state_of(demo, "Stay bracket, left")
    (cycle,) = state.plan.all_cycles
    assert (cycle.name, [s.label for s in cycle.stations]) == ("stays", ["A", "C", "B"])
    assert len(state.here.masters) == 3
    assert {part: counts["good"] for part, counts in state.by_part.items()} == {1: 3, 2: 3}
    assert [(x.station, x.pieces) for x in next_load(state)] == [("A", (7,)), ("C", (5,)), ("B", (8,))]


def test_the_bushing_runs_on_two_lathes_at_once(demo: Desk) -> None:
    state = state_of(demo, "Gate bushing")
    (one, two) = state.cycles.values()
    assert (len(one.loads), len(two.loads)) == (9, 5)
    starts = sorted((load.started_at, run.key) for run in (one, two) for load in run.loads)
    assert len({key for _, key in starts[:4]}) == 2  # they take turns
    assert one.master != two.master


def test_every_line_lies_in_the_past_and_in_order(demo: Desk) -> None:
    for run in demo.runs.of_jobs().values():
        moments = [event.at for event in demo.runs.events(run)]
        assert moments == sorted(moments)
        assert moments[-1] <= NOON


def test_it_is_the_same_every_time(demo: Desk, tmp_path: Path) -> None:
    again = open_desk(Settings(tmp_path, demo=True, clock=lambda: NOON))
    make_demo_shop(again)
    make_demo_shop(again)  # a second time changes nothing
    for job, run in demo.runs.of_jobs().items():
        assert [e.body for e in again.runs.events(again.runs.of_job(job) or 0)] == [
            e.body for e in demo.runs.events(run)
        ]
    assert len(again.jobs.find()) == 6


def test_added_to_a_shop_of_ones_own_it_touches_nothing(desk: Desk) -> None:
    before = desk.shop.load()
    add_demo_jobs(desk)
    after = desk.shop.load()

    assert {number: after.machines[number] for number in before.machines} == dict(before.machines)
    assert after.people == before.people
    assert len(desk.jobs.find()) == 6
