"""The order of visits on Tools: the shortest beside the habits, moved by hand, taken, given up; what it cannot order."""

import re
from dataclasses import replace
from decimal import Decimal as D
from time import sleep
from urllib.parse import parse_qs, urlsplit

import pytest
from httpx2 import Response
from starlette.testclient import TestClient

from ditto_run.core.edits import RemovePlaced
from ditto_run.core.errors import BeingWorkedOut
from ditto_run.core.plan.moves import between_s
from ditto_run.desk import Desk
from tests.conftest import planned
from tests.core.test_visits import two_tools
from tests.web.conftest import flat
from tests.web.placed import lay_out

HX = {"HX-Request": "true"}


@pytest.fixture
def job(desk: Desk) -> int:
    return desk.jobs.new(two_tools(), "RK")


def ready(client: TestClient, address: str) -> str:
    """The page once the search is done."""
    for _ in range(100):
        page = flat(client.get(address).text)
        if "Looking for a shorter order" not in page:
            return page
        sleep(0.1)
    raise AssertionError(page)


def order_of(page: str) -> str:
    found = re.search(r'name="order" value="([^"]+)"', page)
    assert found is not None
    return found[1]


def test_the_shortest_stands_beside_the_habits_and_says_that_it_is_proven(
    client: TestClient, job: int
) -> None:
    page = ready(client, f"/jobs/{job}/tools/order")
    assert "<h1>2 tool changes, 4:04 a load.</h1>" in page
    assert "There is nothing to save against there and back" in page
    assert "proven shortest" in page
    assert page.count("<svg") >= 1
    assert 'aria-label="T03 at A, B, C; T04 at C, B, A."' in page
    each = flat(client.get(f"/jobs/{job}/tools/order?show=each").text)
    assert "<h1>6 tool changes, 4:42 a load.</h1>" in each
    assert "Finish each station, 38.0 s a load longer than the proven shortest." in each
    assert "nothing to save" not in each  # said of the shortest alone
    assert 'aria-label="T03 at A; T04 at A; T03 at B; T04 at B; T03 at C; T04 at C."' in each


def test_a_visit_is_moved_by_hand_and_a_broken_order_is_said(client: TestClient, job: int) -> None:
    order = order_of(ready(client, f"/jobs/{job}/tools/order?show=each"))
    page = flat(client.get(f"/jobs/{job}/tools/order", params={"order": order, "at": "2", "by": "1"}).text)
    moved = order_of(page).split()
    assert moved[2] == order.split()[1]
    assert "Visit 3: A T04 chamfer" in page
    assert "Moved by hand" in page
    broken = flat(client.get(f"/jobs/{job}/tools/order", params={"order": order, "at": "2", "by": "-1"}).text)
    assert "<h1>It breaks 1 rule.</h1>" in broken
    assert "nothing to save" not in broken
    assert "too early" in broken
    ends = flat(client.get(f"/jobs/{job}/tools/order", params={"order": order, "at": "6", "by": "9"}).text)
    assert order_of(ends) == order  # it is the last one already


def test_an_order_is_taken_followed_by_the_times_and_undone(client: TestClient, desk: Desk, job: int) -> None:
    order = order_of(ready(client, f"/jobs/{job}/tools/order?show=each"))
    setup = desk.jobs.load(job).plan.setups[0].key
    form = {"kind": "set_visits", "step": "tools", "view": "order", "view_setup": setup, "cycle": setup}
    form |= {"order": order, "move": "3", "version": desk.jobs.load(job).version}
    answer = client.post(f"/jobs/{job}/plan", data=form, headers=HX, follow_redirects=False)
    there = urlsplit(answer.headers["location"])
    assert (there.path, parse_qs(there.query)) == (f"/jobs/{job}/tools/order", {"setup": [str(setup)]})
    page = ready(client, f"/jobs/{job}/tools/order")
    assert "This order is taken." in page
    assert "Give it up" in page
    printed = flat(client.get(f"/jobs/{job}/hold/sheet").text)
    assert "<b>Order of visits.</b> T03 at A; T04 at A; T03 at B;" in printed
    assert "cycle 4:42" in flat(client.get(f"/jobs/{job}/tools").text)
    undo = {"version": desk.jobs.load(job).version, "step": "tools", "view": "order", "view_setup": setup}
    assert (
        client.post(f"/jobs/{job}/plan/undo", data=undo, headers=HX, follow_redirects=False).status_code
        == 303
    )
    assert desk.jobs.load(job).plan.visits == ()


def test_a_move_is_worked_out_as_typed_and_what_is_no_time_is_said(client: TestClient, job: int) -> None:
    page = ready(client, f"/jobs/{job}/tools/order?show=round&move=9")
    assert "4:17 a load" in page  # 210 cut, 5 moves of 9, and 2 s that T03 costs beyond its moves
    refused = flat(client.get(f"/jobs/{job}/tools/order?move=soon").text)
    assert "soon" in refused
    assert 'value="soon"' in refused  # nothing typed is lost


def test_what_cannot_be_ordered_is_a_sentence(client: TestClient, desk: Desk) -> None:
    alone = desk.jobs.new(planned(4, stations="A"), "RK")
    assert "no two stations with tool steps" in flat(client.get(f"/jobs/{alone}/tools/order").text)
    assert client.get(f"/jobs/{alone}/tools/order?setup=x").status_code == 422


def test_while_it_looks_the_habits_stand_and_it_can_be_stopped(
    client: TestClient, desk: Desk, job: int, monkeypatch: pytest.MonkeyPatch
) -> None:
    def slow(*_: object, **__: object) -> None:
        raise BeingWorkedOut(0.1, 0, 20)

    monkeypatch.setattr(desk.worker, "solve", slow)
    page = flat(client.get(f"/jobs/{job}/tools/order").text)
    assert "Looking for a shorter order." in page
    assert "There and back" in page
    order = order_of(page)
    again = client.get(f"/jobs/{job}/tools/order", params={"order": order, "at": "2", "by": "1"}).text
    asks = re.search(r'hx-get="\?([^"]*)"[^>]*hx-trigger="load', again)
    assert asks is not None  # what is looked at meanwhile is asked for again, not the page as it began
    assert parse_qs(asks[1].replace("&amp;", "&"))["order"][0].split() == order_of(flat(again)).split()
    answer = client.post(f"/jobs/{job}/tools/order/stop", headers=HX, follow_redirects=False)
    assert answer.status_code == 303


def test_a_move_between_stations_follows_from_the_table_and_the_rapid(client: TestClient, desk: Desk) -> None:
    """Vises 160 apart at 24 m/min, so 0.4 s, and 2 × 30 mm up and down, 0.15 s: 0.55 s, told as 0.5 or 0.6."""
    job = lay_out(desk)
    plan = desk.jobs.load(job).plan
    for placed in plan.placed[2:]:
        desk.jobs.change(job, desk.jobs.load(job).version, "RK", RemovePlaced(placed.key))
    worked = desk.worked_out(desk.jobs.load(job))
    cycle = worked.plan.all_cycles[0]
    assert between_s(worked, cycle) == ()  # its rapid is not known
    mill = next(m for m in desk.shop.load().machines.values() if m.name == "Mill 3")
    desk.shop.save_machine(replace(mill, ability=replace(mill.ability, rapid_m_min=D(24))))
    worked = desk.worked_out(desk.jobs.load(job))
    ((one, other, seconds),) = between_s(worked, cycle)
    assert (one, other) == ("A", "B")
    assert seconds == pytest.approx(0.55, abs=0.051)
    page = flat(client.get(f"/jobs/{job}/tools/order").text)
    assert "0.6 s by the table and its rapid" in page or "0.5 s by the table and its rapid" in page


def sent(client: TestClient, desk: Desk, job: int, **fields: object) -> Response:
    setup = desk.jobs.load(job).plan.setups[0].key
    form = {"step": "tools", "view": "order", "view_setup": setup, "version": desk.jobs.load(job).version}
    return client.post(f"/jobs/{job}/plan", data=form | fields, headers=HX, follow_redirects=False)


def test_a_rule_is_set_kept_by_the_shortest_and_taken_out(client: TestClient, desk: Desk, job: int) -> None:
    setup = desk.jobs.load(job).plan.setups[0].key
    page = ready(client, f"/jobs/{job}/tools/order")
    assert "No other rule is set." in page
    rule = {"kind": "set_visit_rule", "cycle": setup, "rule": "before", "why": "B stands on A"}
    refused = sent(client, desk, job, **rule, first="station A", then="", seconds="")
    assert refused.status_code == 422
    assert "Choose a station, a tool or a step." in refused.text
    answer = sent(client, desk, job, **rule, first="station A", then="station B", seconds="")
    there = urlsplit(answer.headers["location"])
    assert (there.path, parse_qs(there.query)) == (f"/jobs/{job}/tools/order", {"setup": [str(setup)]})
    page = ready(client, f"/jobs/{job}/tools/order")
    assert "A before B: B stands on A." in page
    assert "<h1>4 tool changes" in page  # A is finished first, so both tools are put in twice
    ids = order_of(page).split()
    late = max(n for n, one in enumerate(ids, 1) if one.startswith("A."))
    asked = {"order": " ".join(ids), "at": late, "by": 1}
    moved = flat(client.get(f"/jobs/{job}/tools/order", params=asked).text)
    assert "<h1>It breaks 1 rule.</h1>" in moved
    assert "against the rule “A before B”, because B stands on A." in moved
    key = desk.jobs.load(job).plan.visit_rules[0].key
    assert sent(client, desk, job, kind="remove_visit_rule", key=key).status_code == 303
    assert "No other rule is set." in ready(client, f"/jobs/{job}/tools/order")


def test_faces_are_kept_and_shown_and_a_strange_one_is_refused_at_its_field(
    client: TestClient, desk: Desk, job: int
) -> None:
    setup = desk.jobs.load(job).plan.setups[0].key
    going = {"kind": "set_going", "cycle": setup}
    refused = sent(client, desk, job, **going, on_faces="A / D", index="9", away="")
    assert refused.status_code == 422
    assert "D is no station of this cycle." in refused.text
    assert sent(client, desk, job, **going, on_faces="A B / C", index="9", away="").status_code == 303
    page = ready(client, f"/jobs/{job}/tools/order")
    assert 'value="A B / C"' in page
    assert 'name="index" type="text" value="0:09"' in page


def test_the_tool_sheet_bears_the_weave_of_an_order_that_was_taken(
    client: TestClient, desk: Desk, job: int
) -> None:
    assert 'aria-label="Order of visits"' not in client.get(f"/jobs/{job}/tools/sheet").text
    order = order_of(ready(client, f"/jobs/{job}/tools/order?show=each"))
    setup = desk.jobs.load(job).plan.setups[0].key
    form = {"kind": "set_visits", "cycle": setup, "order": order, "move": "3", "pairs": ""}
    assert sent(client, desk, job, **form).status_code == 303
    sheet = flat(client.get(f"/jobs/{job}/tools/sheet").text)
    assert 'aria-label="T03 at A; T04 at A; T03 at B; T04 at B; T03 at C; T04 at C."' in sheet
    assert '<li><b class="mk">6</b> C <b>T04</b> chamfer' in sheet
