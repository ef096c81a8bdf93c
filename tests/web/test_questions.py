"""Hold's front page: a setup at a time, its questions answered; a figure said otherwise, tried first, given back."""

import pytest
from starlette.testclient import TestClient

from ditto_run.core.edits import AddFeatureLines, SetHeading, SetSetup
from ditto_run.core.part import Heading
from ditto_run.core.plan import Plan
from ditto_run.desk import Desk
from tests.web.conftest import flat

HX = {"HX-Request": "true"}


@pytest.fixture
def job(desk: Desk) -> int:
    """A block faced and bored in a vise of the register, then turned over."""
    row = {"name": "Vise 1", "kind": "vise", "shape": "flat", "low": "0", "high": "120", "marks": "light"}
    desk.drawers.save("holders", 0, row | {"repeat": "0.01", "torque": "60 N·m", "jaw_high": "25"})
    number = desk.jobs.new(Plan(Heading("Gate block", 12, "mm")), "RK")

    def change(edit: object) -> None:
        desk.jobs.change(number, desk.jobs.load(number).version, "RK", edit)

    change(AddFeatureLines("block 60 x 40 x 31.5\nface 31.5 ±0.05, top\nface, bottom"))
    keys = [f.key for f in desk.jobs.load(number).plan.features]
    held = {"holds": "Vise 1", "clamps_on": ("front", "back"), "machine_id": 1}
    change(
        SetSetup(
            "first side",
            locates_on=("bottom", "back"),
            cuts=(keys[1],),
            parallels="17",
            to_stop="left",
            **held,
        )
    )
    change(SetSetup("second side", locates_on=("top",), cuts=(keys[2],), **held))
    return number


def keys_of(desk: Desk, job: int) -> tuple[int, int]:
    first, second = (s.key for s in desk.jobs.load(job).plan.setups)
    return first, second


def test_a_setup_is_shown_with_its_questions_answered(client: TestClient, desk: Desk, job: int) -> None:
    first, second = keys_of(desk, job)
    page = flat(client.get(f"/jobs/{job}/hold").text)
    assert "1 thing to look at." in page  # no blank says that the outline comes with it
    assert "3 of 4 questions are answered from the job." in page
    assert "Deep enough in the jaws? <b>8.0 mm (0.31 in).</b>" in page
    assert "Will it hold? <b>Not known: cutting force.</b>" in page
    assert f'href="/jobs/{job}/hold?setup={second}"' in page
    other = flat(client.get(f"/jobs/{job}/hold?setup={second}").text)
    assert "Can it go in the wrong way? <b>Both ways are right.</b>" in other
    assert client.get(f"/jobs/{job}/hold?setup=999").status_code == 200  # the first one
    assert first != second


def test_a_question_is_opened_figure_by_figure(client: TestClient, desk: Desk, job: int) -> None:
    first, _ = keys_of(desk, job)
    page = flat(client.get(f"/jobs/{job}/hold?setup={first}&ask=depth").text)
    assert '<td class="mk">8 mm</td>' in page
    assert "parallels 17" in page
    assert 'id="figure"' not in page
    assert 'id="figure"' not in client.get(f"/jobs/{job}/hold?setup={first}&ask=grip&figure=none").text
    assert 'id="figure"' in client.get(f"/jobs/{job}/hold?setup={first}&ask=depth&figure=gripped").text
    assert (
        'name="name" value="cutting"' in client.get(f"/jobs/{job}/hold?setup={first}&ask=grip").text
    )  # what is missing
    assert client.get(f"/jobs/{job}/hold?setup={first}&ask=nothing").status_code == 404


def say(client: TestClient, job: int, setup: int, **form: object):
    data = {"thing": f"setup {setup}", "question": "depth", "name": "gripped", "version": 0} | form
    return client.post(f"/jobs/{job}/ask/figure", data=data, headers=HX, follow_redirects=False)


def test_a_figure_is_tried_kept_and_taken_back(client: TestClient, desk: Desk, job: int) -> None:
    first, _ = keys_of(desk, job)
    asked = {"thing": f"setup {first}", "question": "depth", "name": "gripped", "text": "4"}
    tried = client.get(f"/jobs/{job}/ask/try", params=asked).text
    assert (
        tried
        == "It would be: 4.0 mm (0.16 in). 4.0 mm (0.16 in) is gripped, 23.5 mm (0.93 in) stands up and is cut."
    )
    assert "“x”" in client.get(f"/jobs/{job}/ask/try", params=asked | {"text": "x"}).text
    assert not desk.jobs.load(job).plan.figures
    refused = say(client, job, first, version=desk.jobs.load(job).version, text="banana", why="worn")
    assert refused.status_code == 422
    assert "banana" in refused.text
    assert (
        say(client, job, first, version=desk.jobs.load(job).version, text="4", why="worn jaws").status_code
        == 303
    )
    page = flat(client.get(f"/jobs/{job}/hold?setup={first}&ask=depth").text)
    assert "<s>8 mm</s> 4" in page
    assert "yours, RK: worn jaws" in page
    assert "first side: 4.0 mm (0.16 in) is gripped" in flat(client.get(f"/jobs/{job}/open").text)
    assert say(client, job, first, version=desk.jobs.load(job).version, text="").status_code == 303
    assert not desk.jobs.load(job).plan.figures


def test_an_answer_is_put_into_its_setup_and_undone(client: TestClient, desk: Desk, job: int) -> None:
    first, _ = keys_of(desk, job)
    before = desk.jobs.load(job).plan
    page = client.get(f"/jobs/{job}/hold?setup={first}&ask=stop").text
    assert "Put it into the setup" in page
    form = {"thing": f"setup {first}", "question": "stop", "version": desk.jobs.load(job).version}
    assert (
        client.post(f"/jobs/{job}/ask/give", data=form, headers=HX, follow_redirects=False).status_code == 303
    )
    assert desk.jobs.load(job).plan.setups[0].stop.startswith("Stop at the left, corner relieved. Set: ")
    assert "The setup has it so." in client.get(f"/jobs/{job}/hold?setup={first}&ask=stop").text
    desk.jobs.undo(job, desk.jobs.load(job).version, "RK")
    assert desk.jobs.load(job).plan == before


def test_the_sheets_are_found_filled_from_a_setup(client: TestClient, desk: Desk, job: int) -> None:
    first, _ = keys_of(desk, job)
    page = client.get(f"/jobs/{job}/hold/sheets").text
    assert f'href="/jobs/{job}/hold/grip?setup={first}"' in page
    assert f'href="/jobs/{job}/hold/dial"' in page
    assert 'value="60 N·m"' in client.get(f"/jobs/{job}/hold/grip?setup={first}").text
    assert client.get(f"/jobs/{job}/hold/grip?setup=999").status_code == 404


def test_the_questions_as_json(client: TestClient, desk: Desk, job: int) -> None:
    first, _ = keys_of(desk, job)
    found = client.get(f"/api/v1/jobs/{job}/questions").json()
    depth = next(one for one in found if one["question"] == "depth")
    assert (depth["thing"], depth["asks"]) == (f"setup {first}", "Deep enough in the jaws?")
    assert depth["figures"][0] | {"who": ""} == {
        "name": "gripped",
        "label": "Gripped",
        "text": "8 mm",
        "origin": "computed",
        "of": "parallels 17",
        "replaced": "",
        "why": "",
        "who": "",
    }
    grip = next(one for one in found if one["question"] == "grip")
    assert (grip["answer"], grip["unknown"]) == (None, "cutting")
    sent = {"question": "grip", "thing": f"setup {first}", "figures": {"cutting": "2000 N", "rated": "20 kN"}}
    answer = client.post(f"/api/v1/jobs/{job}/questions", json=sent).json()["answer"]
    assert answer["say"] == "It holds 3.0 times the cut."
    assert client.post(f"/api/v1/jobs/{job}/questions", json=sent | {"question": "x"}).status_code == 404
    assert client.post(f"/api/v1/jobs/{job}/questions", json=sent | {"more": 1}).status_code == 422


def test_stock_is_answered_from_the_part_and_planned_by_one_key(
    client: TestClient, desk: Desk, job: int
) -> None:
    page = flat(client.get(f"/jobs/{job}/stock").text)
    assert "What is it cut from? <b>Blank 60.00 mm" in page  # no setup cuts the outline
    assert "Plan it so" in page
    assert "3 answers are not planned yet" in page
    assert "guess: bars as sold" in page
    opened = flat(client.get(f"/jobs/{job}/stock?ask=cuts").text)
    assert '<td class="mk">3000 mm</td>' in opened
    said = {
        "thing": "part",
        "question": "cuts",
        "name": "bar",
        "text": "2 m",
        "version": desk.jobs.load(job).version,
    }
    assert (
        client.post(f"/jobs/{job}/ask/figure", data=said, headers=HX, follow_redirects=False).status_code
        == 303
    )
    form = {"version": desk.jobs.load(job).version}
    kept = client.post(f"/jobs/{job}/ask/keep", data=form, headers=HX, follow_redirects=False)
    assert kept.headers["location"] == f"/jobs/{job}/stock"
    plan = desk.jobs.load(job).plan
    assert [sheet.kind for sheet in plan.sheets] == [
        "blank",
        "starts",
        "cuts",
    ]  # no material: mass is not known
    assert plan.sheets[2].texts["bar"] == "2 m"
    page = flat(client.get(f"/jobs/{job}/stock").text)
    assert "Plan it so" not in page
    assert "Note the order" in page
    again = client.post(f"/jobs/{job}/ask/keep", data={"version": desk.jobs.load(job).version}, headers=HX)
    assert again.status_code == 422
    desk.jobs.undo(job, desk.jobs.load(job).version, "RK")
    assert not desk.jobs.load(job).plan.sheets


def test_a_material_of_the_register_is_planned_with_the_rest(
    client: TestClient, desk: Desk, job: int
) -> None:
    desk.drawers.save(
        "materials", 0, {"name": "6061", "density": "2.7", "price": "6", "kc11": "700", "mc": "0.25"}
    )
    plan = desk.jobs.load(job).plan
    desk.jobs.change(
        job, desk.jobs.load(job).version, "RK", SetHeading(plan.heading.part, 12, material="6061-T6")
    )
    form = {"version": desk.jobs.load(job).version}
    kept = client.post(f"/jobs/{job}/ask/keep", data=form, headers=HX, follow_redirects=False)
    assert kept.status_code == 303, kept.text[:300]
    assert [sheet.kind for sheet in desk.jobs.load(job).plan.sheets] == ["blank", "starts", "cuts", "mass"]
