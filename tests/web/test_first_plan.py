"""A first plan: two whole plans side by side, a choice opened, another one taken, chosen first and told after; taken and taken back."""

import re

import pytest
from starlette.testclient import TestClient

from ditto_run.core.edits import AddFeatureLines
from ditto_run.core.part import Heading
from ditto_run.core.plan import Plan
from ditto_run.core.shop import Machine
from ditto_run.desk import Desk
from tests.core.propose.whole import BLOCK, FAST, PIN, SLOW
from tests.web.conftest import flat

HX = {"HX-Request": "true"}
VISE = {"kind": "vise", "shape": "flat", "low": "0 mm", "high": "100 mm", "marks": "light"}


def change(desk: Desk, job: int, edit: object) -> None:
    desk.jobs.change(job, desk.jobs.load(job).version, "RK", edit)  # type: ignore[arg-type]


def new_job(desk: Desk, lines: str, form: str = "block") -> int:
    plan = Plan(Heading("Gate block", 48, "mm", material="6061-T6"), form=form)  # type: ignore[arg-type] # of Form
    job = desk.jobs.new(plan, "RK")
    if lines:
        change(desk, job, AddFeatureLines(lines))
    return job


@pytest.fixture
def job(desk: Desk) -> int:
    """A block in a shop of two mills, three vises alike and a reamer."""
    desk.shop.save_machine(Machine(0, "Mill 9", "mill", ("G54", "G55", "G56"), ability=FAST))
    desk.shop.save_machine(Machine(0, "Old mill", "manual mill", ability=SLOW))
    for n in (1, 2, 3):
        desk.drawers.save("holders", 0, VISE | {"name": f"Vise {n}"})
    desk.drawers.save("reamers", 0, {"name": "12 mm", "cuts": "12.006"})
    return new_job(desk, BLOCK)


def page(client: TestClient, job: int, query: str = "") -> str:
    answer = client.get(f"/jobs/{job}/method/proposed{query}")
    assert answer.status_code == 200, answer.text[:400]
    return flat(answer.text)


def take(client: TestClient, desk: Desk, job: int, name: str, **more: object) -> int:
    form = {"version": desk.jobs.load(job).version, "name": name} | more
    return client.post(
        f"/jobs/{job}/method/proposed", data=form, headers=HX, follow_redirects=False
    ).status_code


def test_two_plans_stand_side_by_side_with_all_that_tells_them_apart(client: TestClient, job: int) -> None:
    seen = page(client, job)
    assert re.search(r"Thorough saves \d+ h \d\d; quick cuts its first piece 1 h \d\d sooner\.", seen)
    assert "Both make all 5 features within their limits." in seen
    for word in ("All 48", "Each", "First piece", "At risk", "How sure"):
        assert f'<th scope="row">{word}</th>' in seen
    assert "How many setups?" in seen
    assert "Every order of faces was tried; no fewer setups keep every rule of the chain." in seen
    assert "Shop lists no tool for a machine of it: usual ones stand in." in seen
    assert "Worked out, not tried" in seen


def test_a_choice_opens_with_what_was_turned_down_and_another_is_taken_in_its_place(
    client: TestClient, desk: Desk, job: int
) -> None:
    seen = page(client, job, "?name=thorough&ask=stations:0")
    assert "How many stations for the first side?" in seen
    assert re.search(r"less (from|up to) \d+ piece", seen)
    assert "with=stations%3A0%3A1" in seen
    changed = page(client, job, "?name=thorough&ask=stations:0&with=stations:0:3")
    assert "changed" in changed
    assert "3 stations in Vise 1 and its like." in changed
    assert take(client, desk, job, "thorough", **{"with": ["stations:0:3"]}) == 303
    plan = desk.jobs.load(job).plan
    assert [s.label for s in plan.stations_of(plan.setups[0].key)] == ["A", "B", "C"]


def test_a_whole_plan_is_taken_as_one_change_and_taken_back_as_one(
    client: TestClient, desk: Desk, job: int
) -> None:
    assert take(client, desk, job, "thorough") == 303
    plan = desk.jobs.load(job).plan
    assert len(plan.setups) == 2
    assert all(plan.stations_of(setup.key) and plan.tools_of(setup.key) for setup in plan.setups)
    assert plan.choice is not None
    assert take(client, desk, job, "thorough") == 409
    compared = page(client, job)
    assert "This job has setups: a proposal can be compared" in compared
    assert ">As it is</a>" in compared
    assert "Setups, stations and tools are there." in page(client, job, "?name=yours")
    desk.jobs.undo(job, desk.jobs.load(job).version, "RK")
    plan = desk.jobs.load(job).plan
    assert (plan.setups, plan.stations, plan.tool_steps, plan.choice) == ((), (), (), None)


def test_what_cannot_be_picked_is_said_and_the_proposal_stands(
    client: TestClient, desk: Desk, job: int
) -> None:
    for wrong in ("stations:0:9", "mill:77", "chain:5", "nonsense"):
        seen = page(client, job, f"?with={wrong}")
        assert 'role="alert"' in seen
        assert "Choose one of those that are shown." in seen
        assert take(client, desk, job, "quick", **{"with": [wrong]}) == 404
    assert desk.jobs.load(job).plan.setups == ()
    assert take(client, desk, job, "thorough", version=0) == 409  # of an older plan


def test_who_chooses_first_is_told_where_the_proposal_differs_and_what_each_costs(
    client: TestClient, job: int
) -> None:
    blank = page(client, job, "?learn=true")
    assert "Choose first." in blank
    assert "How many stations for the first side?" in blank
    assert "instead of" not in blank  # no reason, and no figure
    told = page(client, job, "?name=thorough&learn=true&told=true&pick1=&pick2=stations:0:1")
    assert re.search(r"1 of \d choices is not what is proposed: together \d+ min more\.", told)
    assert "One change of tool serves" in told
    assert "The same as proposed." in page(client, job, "?name=thorough&learn=true&told=true&pick1=")


def test_what_could_be_bought_is_shown_beside_and_not_taken(client: TestClient, desk: Desk, job: int) -> None:
    desk.shop.save_machine(Machine(0, "Hand lathe", "manual lathe", ability=SLOW))
    pin = new_job(desk, PIN, "turned")
    seen = page(client, pin)
    assert "Not made by what is here: groove." in seen
    assert "To buy: grooving tool 2 mm." in seen
    assert "Enter what was bought on" in page(client, pin, "?name=bought")
    assert take(client, desk, pin, "bought") == 404
    assert job


def test_a_part_without_features_and_one_that_no_chain_makes_are_sentences(
    client: TestClient, desk: Desk
) -> None:
    assert "Describe the features first." in page(client, new_job(desk, ""))
    circle = new_job(desk, "block 60 x 40 x 20\nstamp the number")
    assert page(client, circle)
    other = new_job(desk, "stamp the number")
    assert "No chain of setups keeps every rule." in page(client, other)


def test_eighty_features_are_answered(client: TestClient, desk: Desk, job: int) -> None:
    rows = [
        f"hole {3 + n % 4} x 6 deep, {('top', 'bottom')[n % 2]}, {4 + n} from left, {5 + n % 30} from front"
        for n in range(76)
    ]
    many = new_job(desk, "\n".join(["block 100 x 60 x 30", "face top", "face bottom", "face left", *rows]))
    assert "all 80 features within their limits" in page(client, many)
    assert job
