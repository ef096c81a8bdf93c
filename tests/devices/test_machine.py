"""The machine's stand-in answers as an agent would, and what it says is written into the run once."""

from collections.abc import Iterator
from datetime import timedelta

import pytest

from ditto_run.core.errors import NeedsAnswer, NotNow
from ditto_run.core.run import events as do
from ditto_run.desk import Desk
from ditto_run.desk.gate import start_run
from ditto_run.devices.listening import listen, take_reading
from ditto_run.devices.machine import MachineFeed, SimulatedMachine
from ditto_run.formats.gauge_lines import GaugeLine
from ditto_run.formats.mtconnect import read_streams
from tests.conftest import MORNING, Clock, planned


class Wall:
    def __init__(self) -> None:
        self.at = MORNING

    def __call__(self):  # type: ignore[no-untyped-def]
        return self.at

    def go(self, seconds: float) -> None:
        self.at += timedelta(seconds=seconds)


@pytest.fixture(params=["stand-in"])
def feed(request: pytest.FixtureRequest) -> Iterator[tuple[MachineFeed, Wall]]:
    """Every feed there is; a real agent would stand beside the stand-in here."""
    wall = Wall()
    return SimulatedMachine("Mill 2", wall, 120.0), wall


def test_numbers_go_up_by_one_and_a_sample_goes_on_where_the_last_ended(
    feed: tuple[MachineFeed, Wall],
) -> None:
    machine, wall = feed
    first = read_streams(machine.sample(1))
    assert [one.sequence for one in first.observed] == list(range(1, len(first.observed) + 1))
    assert first.next_sequence == len(first.observed) + 1
    assert read_streams(machine.sample(first.next_sequence)).observed == ()
    assert isinstance(machine, SimulatedMachine)
    machine.press()
    wall.go(121)
    more = read_streams(machine.sample(first.next_sequence))
    assert [one.value for one in more.observed if one.item == "Execution"] == [
        "ACTIVE",
        "PROGRAM_COMPLETED",
        "READY",
    ]
    assert more.observed[0].sequence == first.next_sequence
    few = read_streams(machine.sample(1, 2))
    assert (len(few.observed), few.next_sequence) == (2, 3)


def test_current_says_the_newest_of_each(feed: tuple[MachineFeed, Wall]) -> None:
    machine, wall = feed
    assert isinstance(machine, SimulatedMachine)
    machine.press()
    wall.go(121)
    now = {one.item: one.value for one in read_streams(machine.current()).observed}
    assert (now["Execution"], now["PartCount"], now["Availability"]) == ("READY", "1", "AVAILABLE")
    assert "DataItem" in machine.probe()


def test_it_ends_to_the_second_and_a_button_pressed_too_soon_is_refused() -> None:
    wall = Wall()
    machine = SimulatedMachine("Mill 2", wall, 120.0)
    machine.press()
    wall.go(119.9)
    assert machine.is_cutting
    with pytest.raises(NotNow):
        machine.press()
    wall.go(0.1)
    assert not machine.is_cutting
    machine.fail("overload")
    with pytest.raises(NotNow, match="alarm"):
        machine.press()
    machine.clear()
    machine.press()
    assert SimulatedMachine("Mill 2", wall, 120.0, speed=60).cycle_s / 60 == 2


@pytest.fixture
def cut(desk: Desk) -> int:
    return start_run(desk, desk.jobs.new(planned(12, stations="A"), "RK"), "RK")


def test_a_load_is_begun_and_ended_by_the_machine_alone_and_only_once(
    desk: Desk, cut: int, clock: Clock
) -> None:
    machine = SimulatedMachine("Mill 2", lambda: clock.at, 60.0, instance=5)
    assert listen(desk, cut, 0, read_streams(machine.sample(1))).written == 0
    machine.press()
    for _ in range(2):  # asked twice from the beginning
        listen(desk, cut, 0, read_streams(machine.sample(1)))
    with desk.runs.folded(cut) as state:
        assert state.running is not None
    clock.at += timedelta(seconds=61)
    heard = listen(desk, cut, 0, read_streams(machine.sample(1)))
    assert (heard.written, heard.refused) == (1, ())
    with desk.runs.folded(cut) as state:
        assert state.running is None
        assert len(state.here.loads) == 1
        assert {event.who for event in desk.runs.events(cut)} == {"RK", "MCH"}


def test_what_the_run_does_not_take_is_said_and_asked_again_next_time(
    desk: Desk, cut: int, clock: Clock
) -> None:
    machine = SimulatedMachine("Mill 2", lambda: clock.at, 60.0)
    machine.press()
    listen(desk, cut, 0, read_streams(machine.sample(1)))
    clock.at += timedelta(seconds=61)
    listen(desk, cut, 0, read_streams(machine.sample(1)))
    machine.press()  # the first piece is not accepted yet
    heard = listen(desk, cut, 0, read_streams(machine.sample(1)))
    assert heard.written == 0
    assert "The machine says it cuts; the run did not take it:" in heard.refused[0]
    assert "is not accepted as the first piece" in heard.refused[0]


def test_an_alarm_is_a_stop_with_its_words_and_a_hold_is_nothing(desk: Desk, cut: int, clock: Clock) -> None:
    machine = SimulatedMachine("Mill 2", lambda: clock.at, 600.0)
    machine.press()
    machine.fail("spindle overload", "1042")
    listen(desk, cut, 0, read_streams(machine.sample(1)))
    with desk.runs.folded(cut) as state:
        assert state.here.stopped[0].what == "alarm 1042: spindle overload"
        assert state.running is not None  # interrupted is not done


def test_a_gauge_answers_what_is_asked_for_and_nothing_else(desk: Desk, cut: int) -> None:
    with pytest.raises(NotNow, match="No reading is asked for"):
        take_reading(desk, cut, 0, GaugeLine("20.01", "mm"), 0, "g0")
    desk.runs.record(cut, do.StartCycle(), "RK", "s")
    desk.runs.record(cut, do.EndCycle(confirm="1"), "RK", "e")
    said = take_reading(desk, cut, 0, GaugeLine("20.004", "mm"), 0, "g1")
    assert "20.004" in said
    assert take_reading(desk, cut, 0, GaugeLine("20.004", "mm"), 0, "g1") == ""  # the same sending
    with desk.runs.folded(cut) as state:
        assert len(state.gaugings) == 1
    with pytest.raises(NeedsAnswer):
        take_reading(desk, cut, 0, GaugeLine("999", "mm"), 0, "g2")


def test_what_nobody_heard_when_it_happened_is_said_and_not_written(
    desk: Desk, cut: int, clock: Clock
) -> None:
    machine = SimulatedMachine("Mill 2", lambda: clock.at, 6000.0, instance=9)
    machine.press()
    clock.at += timedelta(minutes=3)
    heard = listen(desk, cut, 0, read_streams(machine.sample(1)))
    assert heard.written == 0
    assert "while nobody listened. Write it down under Late" in heard.refused[0]
    with desk.runs.folded(cut) as state:
        assert state.running is None
