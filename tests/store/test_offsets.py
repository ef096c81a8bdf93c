"""The register of offsets and the program files in the database."""

from datetime import timedelta
from decimal import Decimal as D

import pytest

from ditto_run.core.errors import BadEntry, FileNotRead, NotFound
from ditto_run.core.place.offsets import OffsetChange
from ditto_run.core.shop import Machine, read_codes
from ditto_run.desk import Desk
from ditto_run.store.offsets import Offsets
from tests.conftest import MORNING, planned


@pytest.fixture
def machine(desk: Desk) -> Machine:
    number = desk.shop.save_machine(Machine(0, "Mill 2", "mill", read_codes("G54-G59")))
    return desk.shop.load().machines[number]


def at(desk: Desk, hours: int) -> Offsets:
    return desk.at(lambda: MORNING + timedelta(hours=hours)).offsets


def test_lines_are_added_and_the_last_one_counts(desk: Desk, machine: Machine) -> None:
    at(desk, 0).write(machine, [OffsetChange("G54", {"x": D(1)}, "first")], "RK")
    at(desk, 1).write(
        machine, [OffsetChange("G54", {"x": D(2)}, "second"), OffsetChange("G55", {"x": D(9)})], "MT"
    )
    now = desk.shop.load().register.of(machine.id)
    assert (now["G54"].axes, now["G54"].who, now["G54"].how) == ({"x": D(2)}, "MT", "second")
    assert [line.axes["x"] for line in desk.offsets.history(machine.id, "G54")] == [D(1), D(2)]
    assert desk.offsets.until(machine.id, MORNING + timedelta(minutes=30))["G54"].axes == {"x": D(1)}
    assert "G55" not in desk.offsets.until(machine.id, MORNING + timedelta(minutes=30))
    first = desk.offsets.history(machine.id)[0]
    assert desk.offsets.line(machine.id, first.number) == first
    with pytest.raises(NotFound):
        desk.offsets.line(machine.id, 999)


def test_writing_the_same_again_adds_no_line(desk: Desk, machine: Machine) -> None:
    assert desk.offsets.write(machine, [OffsetChange("G54", {"x": D(1)}, "typed")], "RK") == 1
    assert desk.offsets.write(machine, [OffsetChange("G54", {"x": D("1.000")}, "typed again")], "RK") == 0


def test_all_changes_are_written_or_none(desk: Desk, machine: Machine) -> None:
    desk.offsets.write(machine, [OffsetChange("G59", {"x": D(1)}, kept=True, name="base")], "RK")
    with pytest.raises(BadEntry, match="kept as"):
        desk.offsets.write(
            machine, [OffsetChange("G54", {"x": D(5)}), OffsetChange("G59", {"x": D(2)})], "RK"
        )
    assert set(desk.shop.load().register.of(machine.id)) == {"G59"}


def test_a_backup_is_remembered(desk: Desk, machine: Machine) -> None:
    assert desk.shop.load().register.backed_up == {}
    desk.offsets.backed_up(machine.id)
    assert set(desk.shop.load().register.backed_up) == {machine.id}


def test_program_files_are_kept_replaced_and_taken_away(desk: Desk) -> None:
    job = desk.jobs.new(planned(), "RK")
    desk.programs.keep(job, "C:\\nc\\first side.nc", b"%\nO1\nM30\n%", "RK")
    number = desk.programs.keep(job, "first side.nc", "(Ø12)\nM30".encode("latin-1"), "MT")
    (kept,) = desk.programs.of_job(job)
    assert (kept.name, kept.content, kept.who) == ("first side.nc", "(Ø12)\nM30", "MT")
    for content in (b"", b"\0\1"):
        with pytest.raises(FileNotRead):
            desk.programs.keep(job, "x.nc", content, "RK")
    with pytest.raises(NotFound):
        desk.programs.keep(99, "x.nc", b"M30", "RK")
    desk.programs.remove(job, number)
    with pytest.raises(NotFound):
        desk.programs.remove(job, number)
