"""Tools proposed for a setup: shown with reasons, taken by one key, undone as one change; what cannot be proposed is said."""

import pytest
from starlette.testclient import TestClient

from ditto_run.core.edits import AddFeatureLines, SetSetup, SetToolStep
from ditto_run.core.part import Heading
from ditto_run.core.plan import Plan
from ditto_run.core.propose.taking import features_left
from ditto_run.desk import Desk
from tests.web.conftest import flat

HX = {"HX-Request": "true"}
LINES = """block 60 x 40 x 20
face top
bore 12 H7 through, top, 15 from left, 20 from front
hole 6 x 8 deep, top, 45 from left, 20 from front"""


def change(desk: Desk, job: int, edit: object) -> None:
    desk.jobs.change(job, desk.jobs.load(job).version, "RK", edit)  # type: ignore[arg-type]


@pytest.fixture
def job(desk: Desk) -> int:
    """A block whose top, bore and hole are cut in one setup of the mill."""
    number = desk.jobs.new(Plan(Heading("Gate block", 12, "mm", material="6061")), "RK")
    change(desk, number, AddFeatureLines(LINES))
    keys = tuple(f.key for f in desk.jobs.load(number).plan.features)
    change(desk, number, SetSetup("first side", 1, "Vise 1", cuts=keys[1:]))
    return number


def take(client: TestClient, desk: Desk, job: int, name: str = "quick", version: int | None = None) -> int:
    job_now = desk.jobs.load(job)
    form = {
        "setup": job_now.plan.setups[0].key,
        "version": job_now.version if version is None else version,
        "name": name,
    }
    answer = client.post(f"/jobs/{job}/tools/proposed", data=form, headers=HX, follow_redirects=False)
    return answer.status_code


def test_an_empty_shop_is_proposed_usual_tools_and_says_so(client: TestClient, desk: Desk, job: int) -> None:
    page = flat(client.get(f"/jobs/{job}/tools/proposed").text)
    assert "Shop lists no tool for this machine: usual ones stand in." in page
    assert "drilled, then bored" in page or "drilled, then reamed" in page
    assert "holds IT" in page


def test_tools_of_the_shop_are_proposed_and_taken_by_one_key_and_taken_back_as_one(
    client: TestClient, desk: Desk, job: int
) -> None:
    for name, kind, across in (
        ("T01 face", "face mill", "50 mm"),
        ("T02 spot", "spot drill", ""),
        ("T03 reamer", "reamer", "12.006 mm"),
    ):
        desk.drawers.save("tools", 0, {"name": name, "kind": kind, "across": across})
    page = flat(client.get(f"/jobs/{job}/tools/proposed").text)
    assert "usual ones stand in" not in page
    assert "3 features, " in page
    assert take(client, desk, job) == 303
    plan = desk.jobs.load(job).plan
    does = [step.does.split()[0] for step in plan.tool_steps]
    assert does == ["face", "spot", "drill", "drill", "ream"]
    assert [step.tool for step in plan.tool_steps][:2] == [1, 2]
    assert features_left(plan, plan.setups[0].key) == ()
    assert "Every feature of this setup has its tool step." in flat(
        client.get(f"/jobs/{job}/tools/proposed").text
    )
    desk.jobs.undo(job, desk.jobs.load(job).version, "RK")
    assert desk.jobs.load(job).plan.tool_steps == ()


def test_what_is_there_stays_and_only_the_rest_is_proposed(client: TestClient, desk: Desk, job: int) -> None:
    plan = desk.jobs.load(job).plan
    key, hole = plan.setups[0].key, plan.setups[0].cuts[-1]
    change(desk, job, SetToolStep(key, 9, "drill hole by hand", makes=(hole,)))
    assert hole not in features_left(desk.jobs.load(job).plan, key)
    assert take(client, desk, job) == 303
    after = desk.jobs.load(job).plan.tool_steps
    assert after[0].does == "drill hole by hand"
    assert 9 not in [step.tool for step in after[1:]]
    assert all(hole not in step.makes for step in after[1:])


def test_what_cannot_be_taken_is_refused_and_nothing_is_lost(
    client: TestClient, desk: Desk, job: int
) -> None:
    before = desk.jobs.load(job)
    assert take(client, desk, job, version=before.version - 1) in {409, 422}
    assert take(client, desk, job, name="best") == 422
    assert desk.jobs.load(job).plan.tool_steps == ()
    assert take(client, desk, job) == 303
    assert take(client, desk, job) in {404, 409}  # nothing is proposed any more


def test_a_setup_that_cuts_nothing_or_is_not_described_is_told_where_to_go(
    client: TestClient, desk: Desk
) -> None:
    number = desk.jobs.new(Plan(Heading("Pin", 6, "mm")), "RK")
    assert "Say on Hold what this setup cuts." in flat(client.get(f"/jobs/{number}/tools/proposed").text)
    change(desk, number, SetSetup("only", 1, "Vise 1"))
    assert "Hold</a> asks for the features" in flat(client.get(f"/jobs/{number}/tools/proposed").text)


def test_setups_are_proposed_taken_and_taken_back_and_shown_beside_those_there_are(
    client: TestClient, desk: Desk
) -> None:
    number = desk.jobs.new(Plan(Heading("Gate block", 12, "mm")), "RK")
    assert "Describe the features first." in flat(client.get(f"/jobs/{number}/hold/proposed").text)
    change(desk, number, AddFeatureLines(LINES + "\nface bottom\nstamp the number"))
    vise = {
        "name": "Vise 1",
        "kind": "vise",
        "shape": "flat",
        "low": "0 mm",
        "high": "150 mm",
        "marks": "none",
    }
    desk.drawers.save("holders", 0, vise | {"jaw_high": "25 mm"})
    page = flat(client.get(f"/jobs/{number}/hold/proposed").text)
    assert "2 setups make all of it." in page
    assert "Left to the hand: stamp the number." in page
    assert "parallels under it" in page  # a drill through the piece needs room below
    assert "The checks would ask nothing." not in page
    form = {"version": desk.jobs.load(number).version, "name": "fewest"}
    old = client.post(f"/jobs/{number}/hold/proposed", data=form | {"version": 0}, headers=HX)
    assert old.status_code in {409, 422}
    taken = client.post(f"/jobs/{number}/hold/proposed", data=form, headers=HX, follow_redirects=False)
    assert taken.status_code == 303
    plan = desk.jobs.load(number).plan
    assert [setup.held.up for setup in plan.setups] == ["top", "bottom"]
    page = flat(client.get(f"/jobs/{number}/hold/proposed").text)
    assert "2 setups here, 2 proposed." in page
    assert "Take these" not in page
    again = client.post(
        f"/jobs/{number}/hold/proposed",
        data=form | {"version": desk.jobs.load(number).version},
        headers=HX,
    )
    assert again.status_code in {409, 422}
    assert len(desk.jobs.load(number).plan.setups) == 2
    desk.jobs.undo(number, desk.jobs.load(number).version, "RK")
    assert desk.jobs.load(number).plan.setups == ()


def test_one_feature_is_taken_alone_and_the_rest_is_still_proposed(
    client: TestClient, desk: Desk, job: int
) -> None:
    now = desk.jobs.load(job)
    hole = now.plan.setups[0].cuts[-1]
    form = {"setup": now.plan.setups[0].key, "version": now.version, "name": "quick", "only": hole}
    answer = client.post(f"/jobs/{job}/tools/proposed", data=form, headers=HX, follow_redirects=False)
    assert answer.status_code == 303
    plan = desk.jobs.load(job).plan
    assert {key for step in plan.tool_steps for key in step.makes} == {hole}
    assert len(features_left(plan, plan.setups[0].key)) == 2
    assert (
        client.post(f"/jobs/{job}/tools/proposed", data=form | {"only": 999}, headers=HX).status_code == 404
    )
