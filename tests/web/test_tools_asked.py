"""Tools asks how each hole is made; answers go to the setup's tools, and those about a size go to Run."""

import re

import pytest
from starlette.testclient import TestClient

from ditto_run.core.edits import AddFeatureLines, SetFigure, SetSetup, SetStation, SetToolStep
from ditto_run.core.part import Heading
from ditto_run.core.plan import Plan
from ditto_run.desk import Desk
from tests.web.conftest import flat

HX = {"HX-Request": "true"}
DRIFT = {"name": "drift, Mill 2", "figure": "drift", "value": "0.05 mm", "batches": "2", "machine": "Mill 2"}


@pytest.fixture
def job(desk: Desk) -> int:
    """A block with a reamed bore and a drilled hole, cut in one setup of the mill."""
    for name in ("6 mm", "11.8 mm"):
        desk.drawers.save("drills", 0, {"name": name})
    desk.drawers.save("reamers", 0, {"name": "12 mm", "cuts": "12.008 mm"})
    number = desk.jobs.new(Plan(Heading("Gate block", 12, "mm")), "RK")
    lines = "block 60 x 40 x 20\nbore 12 H7 through, top, 15 from left, 20 from front\nhole 6 x 8 deep, top, 45 from left, 20 from front"
    change(desk, number, AddFeatureLines(lines))
    keys = tuple(f.key for f in desk.jobs.load(number).plan.features)
    change(desk, number, SetSetup("first side", 1, "Vise 1", cuts=keys))
    change(desk, number, SetStation(desk.jobs.load(number).plan.setups[0].key, "A", "Vise 1", "G54"))
    return number


def change(desk: Desk, job: int, edit: object) -> None:
    desk.jobs.change(job, desk.jobs.load(job).version, "RK", edit)  # type: ignore[arg-type]


def give(client: TestClient, desk: Desk, job: int, thing: str, question: str) -> int:
    form = {"thing": thing, "question": question, "version": desk.jobs.load(job).version}
    return client.post(f"/jobs/{job}/ask/give", data=form, headers=HX, follow_redirects=False).status_code


def test_each_hole_of_a_setup_is_answered_and_its_tools_go_to_the_setup_by_one_key(
    client: TestClient, desk: Desk, job: int
) -> None:
    plan = desk.jobs.load(job).plan
    bore, hole = (f.key for f in plan.features[1:])
    page = flat(client.get(f"/jobs/{job}/tools").text)
    assert page.count("How is this hole made?") == 2
    assert "<b>Spot it, drill 11.8 mm and ream 12 mm.</b>" in page
    opened = flat(client.get(f"/jobs/{job}/tools?feature={bore}&ask=hole&figure=none").text)
    assert "Add to its setup’s tools" in opened
    assert "Others bore it" in opened  # the other school
    assert give(client, desk, job, f"feature {bore}", "hole") == 303
    assert [s.does for s in desk.jobs.load(job).plan.tool_steps] == [
        "spot bore",
        "drill 11.8 mm",
        "ream 12 mm",
    ]
    assert "The setup has it so." in client.get(f"/jobs/{job}/tools?feature={bore}&ask=hole&figure=none").text
    desk.jobs.undo(job, desk.jobs.load(job).version, "RK")
    assert desk.jobs.load(job).plan == plan
    assert give(client, desk, job, f"feature {hole}", "hole") == 303
    assert client.get(f"/jobs/{job}/tools?feature=99&ask=hole").status_code == 404
    assert (
        client.get(f"/jobs/{job}/tools?feature={bore}&ask=taper").status_code == 200
    )  # Part asks it; here it is only shown


def test_all_sheets_of_tools_and_one_as_a_calculator(client: TestClient, desk: Desk, job: int) -> None:
    assert f'href="/jobs/{job}/tools/hole"' in client.get(f"/jobs/{job}/tools/sheets").text
    assert client.get(f"/jobs/{job}/tools/hole").status_code == 200
    assert client.get(f"/jobs/{job}/tools/thread").status_code == 404
    assert client.get(f"/jobs/{job}/tools/x-1").status_code == 404


def test_what_a_size_is_answered_goes_to_run(client: TestClient, desk: Desk, job: int) -> None:
    desk.drawers.save("taught", 0, DRIFT)
    bore = desk.jobs.load(job).plan.characteristics[0]
    assert "How often is it gauged?" in client.get(f"/jobs/{job}/part").text
    assert (
        "Gauge it so on Run"
        in client.get(f"/jobs/{job}/part?size={bore.number}&ask=gauging&figure=none").text
    )
    assert give(client, desk, job, f"size {bore.number}", "gauging") == 303
    assert desk.jobs.load(job).plan.characteristics[0].every == 9  # half of 9 µm at 0.5 µm a piece
    change(desk, job, SetFigure(f"size {bore.number}", "fit", "classes", "H7/g6", "", "", "RK"))
    assert "What play have they?" in client.get(f"/jobs/{job}/part").text
    assert give(client, desk, job, f"size {bore.number}", "fit") == 303
    assert desk.jobs.load(job).plan.characteristics[0].why.startswith("goes with its mate")
    assert (
        "The size has it so." in client.get(f"/jobs/{job}/part?size={bore.number}&ask=fit&figure=none").text
    )


def test_the_register_says_what_a_tool_is_and_which_come_up(client: TestClient, desk: Desk, job: int) -> None:
    setup = desk.jobs.load(job).plan.setups[0].key
    bore = desk.jobs.load(job).plan.features[1].key
    change(desk, job, SetToolStep(setup, 3, "finish", "60", "10", makes=(bore,)))
    row = {"name": "T03 finish", "machine": "Mill 2", "across": "12 mm", "out": "30 mm", "life": "10 min"}
    desk.drawers.save("tools", 0, row | {"insert": "CNMG 120408", "condition": "ground down"})
    desk.drawers.save("tools", 0, {"name": "T03 other", "machine": "Old mill", "life": "3"})
    page = flat(client.get(f"/jobs/{job}/tools").text)
    assert "makes bore" in page
    assert re.search(r"Ø12, 30\.0 mm out", page)
    assert "CNMG 120408: rhombic, 80°" in page
    assert "<b>ground down</b>" in page
    assert (
        "Which tools come up along the run? <b>1 stop for tools, the first after piece 10: T03.</b>" in page
    )
    opened = flat(client.get(f"/jobs/{job}/tools?setup={setup}&ask=lives&figure=none").text)
    assert "T03 wants 1 fresh one, and there is none." in opened
    assert "no tool step makes hole" in flat(client.get(f"/jobs/{job}/open").text)


def test_an_empty_number_is_missing_and_not_a_number_that_does_not_fit(
    client: TestClient, desk: Desk, job: int
) -> None:
    setup = desk.jobs.load(job).plan.setups[0].key
    form = {"kind": "set_tool_step", "setup": setup, "tool": "", "does": "spot", "step": "tools"}
    refused = client.post(
        f"/jobs/{job}/plan", data=form | {"version": desk.jobs.load(job).version}, headers=HX
    )
    assert refused.status_code == 422
    assert "The tool is missing." in refused.text


@pytest.mark.parametrize(
    ("lines", "form", "page", "text"),
    [
        (
            "body Ø20 x 86\nshoulder Ø10 x 20 long, free end\ngroove 4 wide x 2 deep, 40 from free end",
            "turned",
            "part/profile",
            "0 20 10\n20 40 20\n40 44 16 groove\n44 86 20",
        ),
        ("block 60 x 40 x 20", "block", "part/profile", ""),
        ("block 60 x 40 x 20", "block", "hold/strip", 'value="60 mm"'),
    ],
)
def test_a_calculator_opens_with_what_the_part_says(
    client: TestClient, desk: Desk, lines: str, form: str, page: str, text: str
) -> None:
    number = desk.jobs.new(Plan(Heading("Pin", 12, "mm"), form=form), "RK")  # type: ignore[arg-type]
    change(desk, number, AddFeatureLines(lines))
    shown = client.get(f"/jobs/{number}/{page}").text
    assert text in shown
    assert text or "stretch" not in flat(shown).split("<h1")[1].split("</h1")[0]
