"""A line of a run and the offset it moves are one transaction."""

from decimal import Decimal as D
from threading import Thread

import pytest

from ditto_run.core.errors import BadEntry, NotNow
from ditto_run.core.place.offsets import OffsetChange
from ditto_run.core.run import events as do
from ditto_run.desk import Desk
from tests.conftest import planned


@pytest.fixture
def run(desk: Desk) -> int:
    machine = desk.shop.load().machines[1]
    desk.offsets.write(
        machine,
        [OffsetChange("G54", {"z": D(-300)}), OffsetChange("G55", {"z": D(-301)}, kept=True, name="base")],
        "RK",
    )
    return desk.runs.start(desk.jobs.new(planned(), "RK"), "RK")


def z(desk: Desk, code: str = "G54") -> D:
    return desk.offsets.of(1)[code].axes["z"]


def test_an_adjustment_moves_the_register_and_says_what_it_read(desk: Desk, run: int) -> None:
    event = desk.runs.record(run, do.Adjust("G54 Z", "-0.02"), "RK", "a")
    assert (event.body.moved.before, event.body.moved.after) == (D(-300), D("-300.020"))
    assert z(desk) == D("-300.02")
    assert desk.runs.record(run, do.Adjust("G54 Z", "-0.02"), "RK", "a") is None  # sent twice, moved once
    assert z(desk) == D("-300.02")


def test_undo_and_redo_move_it_back_and_forth(desk: Desk, run: int) -> None:
    desk.runs.record(run, do.Adjust("G54 Z", "-0.02"), "RK", "a")
    desk.runs.record(run, do.Undo(), "RK", "b")
    assert z(desk) == D(-300)
    desk.runs.record(run, do.Redo(), "RK", "c")
    assert z(desk) == D("-300.02")


def test_it_is_undone_only_while_the_register_reads_what_it_wrote(desk: Desk, run: int) -> None:
    desk.runs.record(run, do.Adjust("G54 Z", "-0.02"), "RK", "a")
    desk.offsets.write(desk.shop.machine(1), [OffsetChange("G54", {"z": D("-300.5")})], "MT")
    with pytest.raises(NotNow, match=r"G54 Z was set again since: it reads −300\.500"):
        desk.runs.record(run, do.Undo(), "RK", "b")
    assert len(desk.runs.events(run)) == 2


def test_a_kept_offset_is_not_moved_from_run(desk: Desk, run: int) -> None:
    with pytest.raises(BadEntry, match="kept as “base”"):
        desk.runs.record(run, do.Adjust("G55 Z", "-0.02"), "RK", "a")
    assert (z(desk, "G55"), len(desk.runs.events(run))) == (D(-301), 1)


def test_a_fault_between_the_two_leaves_neither(desk: Desk, run: int, monkeypatch) -> None:
    def torn(*_: object) -> None:
        raise RuntimeError("power cut")

    monkeypatch.setattr("ditto_run.desk.runs.write_offsets", torn)
    with pytest.raises(RuntimeError):
        desk.runs.record(run, do.Adjust("G54 Z", "-0.02"), "RK", "a")
    assert (z(desk), len(desk.runs.events(run))) == (D(-300), 1)


def test_six_hands_at_once_lose_no_move(desk: Desk, run: int) -> None:
    def work(n: int) -> None:
        for i in range(5):
            desk.runs.record(run, do.Adjust("G54 Z", "0.01"), "RK", f"{n}-{i}")

    threads = [Thread(target=work, args=(n,)) for n in range(6)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert z(desk) == D("-299.700")
    assert len(desk.runs.events(run)) == 31


def test_whoever_watches_is_told_after_the_line_is_kept(desk: Desk, run: int) -> None:
    heard: list[tuple[int, int]] = []
    end = desk.runs.watch(run, lambda seq: heard.append((seq, len(desk.runs.events(run)))))
    desk.runs.record(run, do.AddNote("chips"), "RK", "a")
    end()
    desk.runs.record(run, do.AddNote("more chips"), "RK", "b")
    assert heard == [(2, 2)]
