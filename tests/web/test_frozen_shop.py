"""A revision keeps what of the shop it was worked out with, and says what comes out otherwise since."""

from dataclasses import replace

import pytest
from fastapi.testclient import TestClient

from ditto_run.core.edits import KeepSheet
from ditto_run.core.plan import shop_used
from ditto_run.core.shop import Machine, read_codes
from ditto_run.desk import Desk
from tests.conftest import planned

BRASS = {"name": "Brass", "density": "8.5", "price": "9", "kc11": "780", "mc": "0.18"}
BLANK = {"shape": "bar", "length": "30", "across": "12"}


@pytest.fixture
def job(desk: Desk) -> int:
    desk.shop.save_setting("unit", "mm")
    job = desk.jobs.new(planned(), "RK")
    desk.drawers.save("materials", 0, BRASS, "mm")
    desk.drawers.save("materials", 0, BRASS | {"name": "Steel nobody uses"}, "mm")
    desk.jobs.change(job, 1, "RK", KeepSheet("blank", BLANK))
    desk.jobs.change(job, 2, "RK", KeepSheet("mass", {"material": "Brass"}, name="Mass"))
    desk.runs.start(job, "RK")
    return job


def said(desk: Desk, job: int) -> tuple[str, ...]:
    return desk.shop_changed(job)


def test_only_what_the_plan_names_is_kept(desk: Desk, job: int) -> None:
    frozen = desk.runs.revisions(job)[0].shop
    assert frozen is not None
    assert list(frozen.materials) == ["Brass"]


def test_a_price_changed_later_is_said_and_what_comes_out_otherwise(desk: Desk, job: int) -> None:
    assert said(desk, job) == ()
    row = next(row for row in desk.drawers.rows("materials") if row.value.name == "Brass")
    desk.drawers.save("materials", row.id, BRASS | {"price": "12"}, "mm")
    assert said(desk, job) == ("Brass was changed.", "Mass comes out otherwise now.")
    desk.drawers.save("materials", row.id, BRASS | {"name": "Brass 58"}, "mm")
    assert said(desk, job)[0] == "Brass is no longer there."


def test_what_the_plan_does_not_use_is_not_said(desk: Desk, job: int) -> None:
    row = next(row for row in desk.drawers.rows("materials") if row.value.name != "Brass")
    desk.drawers.save("materials", row.id, BRASS | {"name": "Steel nobody uses", "price": "1"}, "mm")
    assert said(desk, job) == ()


def test_it_is_said_at_the_machine_and_on_close(desk: Desk, client: TestClient, job: int) -> None:
    words = "Brass was changed. Mass comes out otherwise now."
    assert "The shop was changed." not in client.get(f"/jobs/{job}/run").text
    row = next(row for row in desk.drawers.rows("materials") if row.value.name == "Brass")
    desk.drawers.save("materials", row.id, BRASS | {"price": "12"}, "mm")
    assert f"Since revision 1 was frozen: {words}" in client.get(f"/jobs/{job}/run").text
    assert words in client.get(f"/jobs/{job}/close").text


def test_a_count_that_reads_like_a_machine_is_no_machine(desk: Desk) -> None:
    """Only what was chosen as a machine is one; and a superscript two is no number at all."""
    desk.shop.save_setting("unit", "mm")
    job = desk.jobs.new(planned(), "RK")
    other = desk.shop.save_machine(Machine(0, "Mill 9", "mill", read_codes("G54-G59")))
    desk.jobs.change(
        job, 1, "RK", KeepSheet("ladder", {"length": "30", "kerf": "3", "count": str(other), "across": "20"})
    )
    plan = desk.jobs.load(job).plan
    strange = replace(plan.sheets[0], key=plan.next_number, texts=plan.sheets[0].texts | {"edge": "²"})
    used = shop_used(plan.put(strange), desk.worked.shop()[1])
    assert list(used.machines) == [plan.setups[0].machine_id]
