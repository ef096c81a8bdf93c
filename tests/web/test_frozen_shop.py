"""A revision keeps what of the shop it was worked out with, and says what comes out otherwise since."""

import pytest
from fastapi.testclient import TestClient

from ditto_run.core.edits import KeepSheet
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
    with desk.runs.folded(desk.runs.require(job)) as state:
        return desk.shop_changed(job, state.plan, state.revision)


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
