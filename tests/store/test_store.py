"""What the database keeps: versions, undo, the log, and that nothing is written half."""

from threading import Thread

import pytest

from ditto_run.core.edits import (
    Changed,
    MoveSetup,
    RemoveCharacteristic,
    SetCharacteristic,
    SetHeading,
    SetSetup,
    apply_edit,
)
from ditto_run.core.errors import BadEntry, ChangedMeanwhile, NotFound, NotNow
from ditto_run.core.plan import Plan
from ditto_run.core.run import events as do
from ditto_run.desk import Desk
from tests.conftest import planned

PNG = b"\x89PNG\r\n\x1a\n and more"


def edit(desk: Desk, job: int, version: int, change, who: str = "RK"):
    registers = desk.jobs.registers()
    return desk.jobs.edit(job, version, who, lambda plan: apply_edit(change, plan, registers))


def test_undo_walks_back_step_by_step(desk: Desk) -> None:
    job = desk.jobs.new(planned(), "RK")
    start = desk.jobs.load(job).plan
    found = edit(desk, job, 1, SetCharacteristic("width", "40 ±0.1"))
    found = edit(desk, job, found.version, RemoveCharacteristic(1))
    found = desk.jobs.undo(job, found.version, "RK")
    assert [c.name for c in found.plan.characteristics] == ["slot", "height", "width"]
    found = desk.jobs.undo(job, found.version, "RK")
    assert found.plan == start
    assert found.what == "undid: undid: removed slot" or found.what.startswith("undid")
    with pytest.raises(NotNow, match="nothing to undo"):
        desk.jobs.undo(job, found.version, "RK")


def test_a_number_is_never_used_twice(desk: Desk) -> None:
    job = desk.jobs.new(planned(), "RK")
    gone = desk.jobs.load(job).plan.characteristics[0].number
    found = edit(desk, job, 1, RemoveCharacteristic(gone))
    found = edit(desk, job, found.version, SetCharacteristic("width", "40 ±0.1"))
    assert gone not in {c.number for c in found.plan.characteristics}


def test_the_second_of_two_people_is_told(desk: Desk) -> None:
    job = desk.jobs.new(planned(), "RK")
    edit(desk, job, 1, SetCharacteristic("width", "40 ±0.1"), "MT")
    with pytest.raises(
        ChangedMeanwhile, match="MT changed this plan while you had it open: added width"
    ) as told:
        edit(desk, job, 1, RemoveCharacteristic(1), "RK")
    assert told.value.version == 2
    assert len(desk.jobs.load(job).plan.characteristics) == 3


def test_a_refused_edit_writes_nothing(desk: Desk) -> None:
    job = desk.jobs.new(planned(), "RK")
    with pytest.raises(BadEntry):
        edit(desk, job, 1, SetHeading("x", 0))
    assert desk.jobs.load(job).version == 1


def test_setups_move_and_search_finds_words(desk: Desk) -> None:
    job = desk.jobs.new(planned(), "RK")
    found = edit(desk, job, 1, SetSetup("second side"))
    found = edit(desk, job, found.version, MoveSetup(found.plan.setups[1].key, -1))
    assert [s.name for s in found.plan.setups] == ["second side", "first side"]
    assert [j.id for j in desk.jobs.find("clamp BLOCK")] == [job]
    assert desk.jobs.find("clamp pin") == []
    assert desk.jobs.find("%") == []
    desk.jobs.archive(job, archived=True)
    assert desk.jobs.find() == []
    assert [j.id for j in desk.jobs.find(archived=True)] == [job]
    with pytest.raises(NotNow, match="Only the demo"):
        desk.jobs.delete(job)


def test_attachments_are_pictures_or_pdfs(desk: Desk) -> None:
    job = desk.jobs.new(planned(), "RK")
    for name, content in (
        ("a.exe", b"MZ"),
        ("a.png", b""),
        ("b.png", PNG + b"x" * 20_000_000),
        ("page.png", b"<html><script>alert(1)</script>"),
    ):
        with pytest.raises(BadEntry):
            desk.jobs.attach(job, name, content)
    number = desk.jobs.attach(job, "a.png", PNG)
    desk.jobs.detach(job, number)
    with pytest.raises(NotFound):
        desk.jobs.attachment(job, number)


@pytest.fixture
def run(desk: Desk) -> int:
    return desk.runs.start(desk.jobs.new(planned(), "RK"), "RK")


def test_the_same_key_twice_writes_one_line(desk: Desk, run: int) -> None:
    assert desk.runs.record(run, do.StartCycle(), "RK", "one") is not None
    assert desk.runs.record(run, do.StartCycle(), "RK", "one") is None
    assert len(desk.runs.events(run)) == 2


def test_starting_twice_gives_the_same_run(desk: Desk) -> None:
    job = desk.jobs.new(planned(), "RK")
    assert desk.runs.start(job, "RK") == desk.runs.start(job, "RK")


def test_a_refused_command_writes_nothing(desk: Desk, run: int) -> None:
    with pytest.raises(NotNow):
        desk.runs.record(run, do.EndCycle(), "RK", "x")
    assert len(desk.runs.events(run)) == 1


def test_another_process_is_seen(desk: Desk, run: int) -> None:
    """A second reader of the same file, as the command line would be."""
    other = desk.at(desk.settings.clock).runs
    desk.runs.record(run, do.StartCycle(), "RK", "a")
    with other.folded(run) as state:
        assert state.running.number == 1
    desk.runs.record(run, do.EndCycle(), "RK", "b")
    desk.runs.record(run, do.Undo(), "RK", "c")
    with other.folded(run) as state:
        assert state.running.number == 1


def test_many_hands_at_once_lose_nothing(desk: Desk, run: int) -> None:
    """Forty notes from eight threads: forty lines, numbered without a gap."""

    def work(n: int) -> None:
        for i in range(5):
            desk.runs.record(run, do.AddNote(f"{n} {i}"), "RK", f"{n}-{i}")

    threads = [Thread(target=work, args=(n,)) for n in range(8)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert [event.seq for event in desk.runs.events(run)] == list(range(1, 42))


def test_a_revision_is_frozen_with_its_plan(desk: Desk, run: int) -> None:
    job = desk.jobs.find()[0]
    assert not desk.runs.ahead(run)
    edit(desk, job.id, job.version, SetCharacteristic("width", "40 ±0.1"))
    assert desk.runs.ahead(run)
    desk.runs.record(run, do.TakeRevision("asked for"), "RK", "r")
    desk.runs.forget()
    assert {n: len(plan.characteristics) for n, plan in desk.runs.plans(run).items()} == {1: 2, 2: 3}
    last = desk.runs.revisions(job.id)[-1]
    assert (last.number, last.version, last.reason) == (2, 2, "asked for")


def test_unknown_things_are_said(desk: Desk) -> None:
    for ask in (lambda: desk.jobs.load(99), lambda: desk.runs.events(99), lambda: desk.jobs.attachment(1, 9)):
        with pytest.raises(NotFound):
            ask()


def test_a_change_saved_while_another_is_worked_out_is_not_overwritten(desk: Desk) -> None:
    """The second look, under the lock: what was read before is old by then."""
    job = desk.jobs.new(planned(), "RK")

    def slow(plan: Plan) -> Changed:
        desk.jobs.change(job, 1, "MT", SetCharacteristic("width", "40 ±0.1"))
        return Changed(plan, "nothing")

    with pytest.raises(ChangedMeanwhile):
        desk.jobs.edit(job, 1, "RK", slow)
    assert [c.name for c in desk.jobs.load(job).plan.characteristics][-1] == "width"
