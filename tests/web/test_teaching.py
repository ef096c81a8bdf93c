"""A closed batch teaches the shop: only what was ticked, once, and the next plan starts from it."""

import pytest
from starlette.testclient import TestClient

from ditto_run.core.edits import AddWays, KeepSheet, SetOrder
from ditto_run.core.errors import BadEntry, NotNow
from ditto_run.core.run import events as do
from ditto_run.desk import Desk
from ditto_run.desk.gate import start_run
from ditto_run.desk.teaching import lessons_of, price_paid, teach
from ditto_run.desk.ways import compare
from tests.conftest import planned
from tests.web.conftest import flat


@pytest.fixture
def job(desk: Desk) -> int:
    """A job with a closed batch of four loads of two."""
    job = desk.jobs.new(planned(8, stations="AB"), "RK")
    run = start_run(desk, job, "RK")
    n = 0
    for load in range(4):
        commands: list[object] = [do.StartCycle(), do.EndCycle()]
        for piece in (2 * load + 1, 2 * load + 2):
            commands += [do.TakeReading(piece, 1, "20.001"), do.TakeReading(piece, 2, "31.5")]
        if not load:
            commands.append(do.AcceptMaster(1))
        for command in commands:
            n += 1
            desk.runs.record(run, command, "RK", f"k{n}")
    return job


def close(desk: Desk, job: int) -> None:
    desk.runs.record(desk.runs.require(job), do.CloseRun(), "RK", "end")


def test_an_open_batch_teaches_nothing_yet(desk: Desk, job: int) -> None:
    with pytest.raises(NotNow):
        teach(desk, job, 0, {"scrap Mill 2"})
    assert desk.drawers.rows("taught") == []


def test_only_what_is_ticked_is_kept_and_a_batch_counts_once(desk: Desk, job: int) -> None:
    close(desk, job)
    machine = lessons_of(desk, job)[0].lesson.machine
    assert {one.lesson.figure for one in lessons_of(desk, job)} == {"pace", "handling", "scrap"}
    assert teach(desk, job, 0, {f"pace {machine}"}) == 1
    assert [row.value.figure for row in desk.drawers.rows("taught")] == ["pace"]
    assert [one.kept for one in lessons_of(desk, job)] == [True, False, False]
    assert teach(desk, job, 0, {f"pace {machine}"}) == 0
    assert teach(desk, job, 0, {f"scrap {machine}"}, "1 h 20") == 2
    rows = {row.value.figure: row.value for row in desk.drawers.rows("taught")}
    assert rows["setting up"].value == 4800
    assert rows["setting up"].batches == 1
    with pytest.raises(BadEntry) as caught:
        teach(desk, job, 0, set())
    assert caught.value.field == "ticked"
    with pytest.raises(BadEntry) as caught:
        teach(desk, job, 0, set(), "soon")
    assert caught.value.field == "setting_up"


def test_the_next_plan_starts_from_it(desk: Desk, job: int) -> None:
    close(desk, job)
    desk.jobs.change(job, 1, "RK", AddWays(("planned",)))
    before = compare(desk.worked_out(desk.jobs.load(job))).ways[0]
    for one in lessons_of(desk, job):
        teach(desk, job, 0, {f"{one.lesson.figure} {one.lesson.machine}"})
    after = compare(desk.worked_out(desk.jobs.load(job))).ways[0]
    pace = next(row.value for row in desk.drawers.rows("taught") if row.value.figure == "pace")
    assert after.cut.likely_s == pytest.approx(before.cut.likely_s * pace.value, abs=0.51)
    assert "1 batch" in after.rest_of("cut").of
    next_job = desk.jobs.new(planned(8, stations="AB"), "RK")
    desk.jobs.change(next_job, 1, "RK", AddWays(("planned",)))
    way = compare(desk.worked_out(desk.jobs.load(next_job))).ways[0]
    assert way.rest_of("cut").of.startswith("Tools, ")
    assert (
        way.rest_of("load").origin == "computed"
    )  # the batch chose no way, so how it was handled is not this way's


def test_the_page_offers_it_and_says_what_is_in_it_already(client: TestClient, desk: Desk, job: int) -> None:
    assert "What it teaches the shop" not in flat(client.get(f"/jobs/{job}/close").text)
    close(desk, job)
    page = flat(client.get(f"/jobs/{job}/close").text)
    assert "What it teaches the shop" in page
    machine = lessons_of(desk, job)[0].lesson.machine
    sent = {"ticked": [f"pace {machine}"], "setting_up": "soon"}
    wrong = client.post(f"/jobs/{job}/close/teach", data=sent, headers={"HX-Request": "true"})
    assert (wrong.status_code, 'data-field="setting_up"' in wrong.text) == (422, True)
    assert desk.drawers.rows("taught") == []
    client.post(f"/jobs/{job}/close/teach", data={"ticked": [f"pace {machine}"]})
    assert "this batch is in it" in flat(client.get(f"/jobs/{job}/close").text)


def test_the_price_paid_and_a_sentence_for_a_holder_go_to_their_places(
    client: TestClient, desk: Desk, job: int
) -> None:
    """2 blanks of 1 kg of 8 g/cm³ at 5.00 a kg in the register, paid 24.00: 12.00 a kg."""
    desk.drawers.save("materials", 0, {"name": "316", "density": "8", "price": "5 /kg"})
    desk.drawers.save("holders", 0, {"name": "vises", "kind": "vise", "low": "0", "high": "120"})

    def change(edit: object) -> None:
        desk.jobs.change(job, desk.jobs.load(job).version, "RK", edit)

    change(KeepSheet("blank", {"shape": "block", "length": "50", "width": "50", "height": "50"}, "Blank"))
    change(KeepSheet("mass", {"material": "316"}, "Mass"))
    kilograms = desk.worked_out(desk.jobs.load(job)).result_of("mass").all_kg
    change(SetOrder("316 flat", price=str(round(kilograms * 12, 2))))
    close(desk, job)
    page = flat(client.get(f"/jobs/{job}/close").text)
    assert "316 cost €12.00 a kilogram by this order; the register says €5.00" in page
    assert "Next time with vises" in page
    assert price_paid(desk, job).paid == 1200
    sent = {"ticked": ["price"], "holder": ["vises"], "next_time": ["Relieve the corner."]}
    client.post(f"/jobs/{job}/close/teach", data=sent)
    assert desk.drawers.rows("materials")[0].value.cents_per_kg == 1200
    assert desk.drawers.rows("holders")[0].value.next_time == "Relieve the corner."
    assert desk.drawers.rows("taught") == []  # nothing else was ticked
    assert "a kilogram by this order" not in client.get(f"/jobs/{job}/close").text


def test_rows_of_the_usual_set_say_that_they_are_made_up_until_they_are_changed(
    client: TestClient, desk: Desk
) -> None:
    client.post("/shop/drawers/materials/standard")
    page = client.get("/shop/drawers/materials").text
    rows = desk.drawers.rows("materials")
    assert page.count("of the usual set, made up") == len(rows)
    first = rows[0]
    desk.drawers.save("materials", first.id, first.texts | {"price": "7.77 /kg"})
    assert client.get("/shop/drawers/materials").text.count("of the usual set, made up") == len(rows) - 1
    assert "made up" not in client.get("/shop/drawers/drills").text
