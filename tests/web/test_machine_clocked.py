"""A machine's times from the clock of a program's cycle: shown with what they rest on, taken by one key."""

import re

import pytest
from starlette.testclient import TestClient

from ditto_run.core.edits import SetProgram
from ditto_run.core.errors import NotNow
from ditto_run.core.plan.programs_open import planned_of
from ditto_run.core.program.choice import ProgramChoice, TimeParts
from ditto_run.core.run import events as do
from ditto_run.desk import Desk
from ditto_run.desk.gate import start_run
from ditto_run.desk.learning import clocked_programs, take_learned
from tests.conftest import planned
from tests.web.conftest import flat
from tests.web.test_program_page import ready

HX = {"HX-Request": "true"}


def ran(desk: Desk, *, whole: bool = True) -> int:
    """A job whose program takes 20 s at feed and 4 tool changes, run for four loads. Returns the machine's number."""
    job = desk.jobs.new(planned(8, stations="AB"), "RK")
    at = desk.jobs.load(job)
    cycle = at.plan.all_cycles[0]
    tools, offsets = planned_of(at.plan, cycle)
    choice = ProgramChoice(
        cycle.key, "side.nc", "abc", "mill-ngc", tools=tools, offsets=offsets, is_whole=whole, parts=TimeParts(0.5, 4, 0, 0)
    )  # fmt: skip
    desk.jobs.change(job, at.version, "RK", SetProgram(choice), "tools")
    run = start_run(desk, job, "RK", "looked at")
    for load in range(4):
        for n, command in enumerate((do.StartCycle(), do.EndCycle())):
            desk.runs.record(run, command, "RK", f"k{load}-{n}")
        if not load:
            for n, (piece, size) in enumerate(((1, "20.001"), (2, "20.001"))):
                desk.runs.record(run, do.TakeReading(piece, 1, size), "RK", f"r{n}")
                desk.runs.record(run, do.TakeReading(piece, 2, "31.5"), "RK", f"s{n}")
            desk.runs.record(run, do.AcceptMaster(1), "RK", "m")
    return cycle.machine_id or 0


def test_what_the_clock_says_of_a_machine_is_shown_with_its_programs_and_taken(
    client: TestClient, desk: Desk
) -> None:
    machine = ran(desk)
    at = f"/shop/machines/{machine}/clocked"
    (program,) = clocked_programs(desk, machine)
    assert (program.name, program.loads) == ("Clamp block, side.nc", 4)
    change_s = (program.clock_s - 0.5) / 4
    page = flat(client.get(at).text)
    assert "The clock says them by 1 program." in page
    assert f"{change_s:.4g}" in page
    assert page.count("not told apart") == 2
    assert client.post(at, headers=HX).status_code == 200
    assert float(desk.shop.machine(machine).ability.change_s or 0) == pytest.approx(change_s, abs=0.051)
    assert desk.shop.machine(machine).ability.rapid_m_min is None  # it is not said, and stays as it was


def test_a_program_that_was_not_understood_to_its_end_teaches_nothing(client: TestClient, desk: Desk) -> None:
    machine = ran(desk, whole=False)
    assert "three full loads on the clock then say it" in flat(
        client.get(f"/shop/machines/{machine}/clocked").text
    )
    with pytest.raises(NotNow):
        take_learned(desk, desk.shop.machine(machine))
    assert client.post(f"/shop/machines/{machine}/clocked", headers=HX).status_code == 409


def test_the_clock_stands_beside_the_times_of_a_program(client: TestClient, desk: Desk) -> None:
    ran(desk)
    job = desk.jobs.find()[0].id
    text = b"G21 G90 G94\nT3 M6\nS900 M3\nG54 G0 X0.\nG43 H3 Z5.\nG1 X10. F60.\nM5\nM30\n"
    answer = client.post(
        f"/jobs/{job}/tools/program", files={"program": ("side.nc", text)}, headers=HX, follow_redirects=False
    )
    page = ready(client, answer.headers["location"])
    assert re.search(r"the clock has +0:20 in the middle of 4 loads", page)
