"""The week in the browser: what is next, what is late, the proposed order, moving by hand, wrong entries."""

from dataclasses import replace
from datetime import date, timedelta
from decimal import Decimal

import pytest
from starlette.testclient import TestClient

from ditto_run.core.edits import SetHeading, apply_edit
from ditto_run.core.part import Heading
from ditto_run.core.plan import Plan
from ditto_run.core.run import events as do
from ditto_run.core.shop.day import ShopDay, read_day
from ditto_run.core.shop.registers import Gauge
from ditto_run.desk import Desk, week
from ditto_run.desk.gate import start_run
from ditto_run.desk.week import out_elsewhere, week_jobs
from tests.conftest import SHOP, Clock, planned
from tests.web.conftest import flat

HX = {"HX-Request": "true"}


def job(desk: Desk, name: str, quantity: int, due: date | None = None) -> int:
    plan = apply_edit(SetHeading(name, quantity, due=due), planned(quantity), SHOP).plan
    return desk.jobs.new(plan, "RK")


@pytest.fixture
def two(desk: Desk, clock: Clock) -> tuple[int, int]:
    """A long job first, then a short one that is due today; both on Mill 2."""
    return job(desk, "Rail", 1200), job(desk, "Cap", 6, clock.at.astimezone().date())


def rows(page: str) -> list[str]:
    return [part.partition("</a>")[0].rpartition(">")[2] for part in page.split('<th scope="row"><a ')[1:]]


def test_the_week_says_what_is_late_and_proposes_the_order_in_which_it_is_not(
    client: TestClient, desk: Desk, two: tuple[int, int]
) -> None:
    page = flat(client.get("/week").text)
    assert rows(page) == ["1 Rail", "2 Cap"]
    assert "Cap will be" in page
    assert "Cap, first side: late no more" in page
    taken = page.partition("A better order")[2].partition('name="order" value="')[2].partition('"')[0]
    client.post("/week", data={"order": taken, "hands": "1"}, headers=HX)
    after = flat(client.get("/week").text)
    assert rows(after) == ["1 Cap", "2 Rail"]
    assert "All that is due comes in time." in after
    assert "No better order" in after


def test_a_job_is_moved_by_hand_and_the_order_is_kept(
    client: TestClient, desk: Desk, two: tuple[int, int]
) -> None:
    keys = [one.task.key for one in week_jobs(desk)[0]]
    moved = next(key for key in keys if key.startswith(f"{two[1]}-"))
    by_age = sorted(keys, key=lambda key: key == moved)
    sent = {"order": ",".join(by_age), "hands": "2", "key": moved, "move": "earlier"}
    client.post("/week", data=sent, headers=HX)
    page = flat(client.get("/week").text)
    assert rows(page) == ["1 Cap", "2 Rail"]
    assert 'name="hands" value="2"' in page
    assert client.post("/week", data={"order": "x,y", "hands": "none"}, headers=HX).status_code == 422
    client.post("/week", data={"order": "x,y,1-9", "hands": "1", "key": "z", "move": "later"}, headers=HX)
    assert len(rows(flat(client.get("/week").text))) == 2
    assert "is not a whole number" in flat(client.get("/week?hands=lots").text)


def test_what_runs_comes_first_by_its_clock_and_what_is_closed_is_gone(
    client: TestClient, desk: Desk, clock: Clock, two: tuple[int, int]
) -> None:
    run = start_run(desk, two[1], "RK")
    for n in range(2):
        desk.runs.record(run, do.StartCycle(), "RK", f"s{n}")
        clock.at += timedelta(minutes=5)
        desk.runs.record(run, do.EndCycle(confirm=str(n + 1)), "RK", f"e{n}")
        for piece in range(3 * n + 1, 3 * n + 4):
            desk.runs.record(run, do.TakeReading(piece, 1, "20.001", confirm="20.001"), "RK", f"a{piece}")
            desk.runs.record(run, do.TakeReading(piece, 2, "31.5"), "RK", f"b{piece}")
        if not n:
            desk.runs.record(run, do.AcceptMaster(1), "RK", "m")
            page = flat(client.get("/week").text)
            assert rows(page) == ["1 Cap", "2 Rail"]
            assert "1 load, on the machine" in page
    desk.runs.record(run, do.CloseRun(), "RK", "c")
    assert rows(flat(client.get("/week").text)) == ["1 Rail"]


def test_a_job_without_times_is_named_and_an_empty_shop_is_a_sentence(client: TestClient, desk: Desk) -> None:
    assert "No job can be laid out yet." in flat(client.get("/week").text)
    desk.jobs.new(Plan(Heading("Pin", 6, "mm")), "RK")
    assert ": it has no setup yet." in flat(client.get("/week").text)


def test_more_jobs_than_are_laid_out_are_named_and_closed_ones_take_no_place(
    desk: Desk, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(week, "MOST_JOBS", 2)
    oldest, older = job(desk, "Rail", 6), job(desk, "Cap", 6)
    newest = job(desk, "Pin", 6)
    run = start_run(desk, job(desk, "Bush", 6), "RK")
    desk.runs.record(run, do.CloseRun(short=True), "RK", "c")
    jobs, bare = week_jobs(desk)
    assert [one.job_id for one in jobs] == [newest, older]
    assert [(one.job_id, one.why) for one in bare] == [(oldest, "2 newer open jobs are laid out")]


def test_work_is_counted_between_two_moments_without_the_pauses(clock: Clock) -> None:
    """From 15:00 to 9:30 the day after: an hour, then two and a half less a quarter."""
    day = read_day("7:00 to 16:00", "9:00 15", "7")
    begin = clock.at.astimezone().replace(hour=15, minute=0, second=0, microsecond=0)
    end = begin + timedelta(hours=18, minutes=30)
    assert day.between(begin, end) == 3600 + 2.5 * 3600 - 900
    assert day.between(end, begin) == 0
    assert ShopDay().between(begin, end) == 18.5 * 3600
    assert day.after(begin, day.between(begin, end)) == end


def test_pieces_out_elsewhere_are_named_with_their_day_and_what_is_cut_waits_to_be_closed(
    client: TestClient, desk: Desk, clock: Clock
) -> None:
    today = clock.at.astimezone().date()
    number = job(desk, "Cap", 3, today + timedelta(days=2))
    run = start_run(desk, number, "RK")
    desk.runs.record(run, do.StartCycle(), "RK", "s")
    clock.at += timedelta(minutes=5)
    desk.runs.record(run, do.EndCycle(confirm="1"), "RK", "e")
    for piece in (1, 2, 3):
        desk.runs.record(run, do.TakeReading(piece, 1, "20.001", confirm="20.001"), "RK", f"a{piece}")
        desk.runs.record(run, do.TakeReading(piece, 2, "31.5"), "RK", f"b{piece}")
    desk.runs.record(run, do.AcceptMaster(1), "RK", "m")
    assert week_jobs(desk)[1][0].why == "all of it is cut; its batch is not closed"
    for n, promised in enumerate(("", today.isoformat(), (today + timedelta(days=3)).isoformat())):
        desk.runs.record(run, do.SendOut("anodise", "the plater", "1", promised), "RK", f"t{n}")
    out = out_elsewhere(desk)
    assert [one.words(today).partition(":")[0].partition(",")[0] for one in out] == [
        "",  # promised for today: still in time
        "It comes after the job is due",
        "No day was promised",
    ]
    assert out[0].words(today + timedelta(days=1)).startswith("It was promised for")
    page = flat(client.get("/week").text)
    assert "1 piece at the plater for anodise" in page
    desk.runs.record(run, do.CloseRun(), "RK", "c")
    assert len(out_elsewhere(desk)) == 3  # closed, and still out


def test_a_gauge_out_of_check_is_named_where_its_job_waits_for_it(client: TestClient, desk: Desk) -> None:
    gauge = Gauge(0, "micrometer", Decimal("0.001"), "mm")
    gauge_id = desk.shop.save_gauge(gauge)
    plan = planned(6)
    sizes = (replace(plan.characteristics[0], gauge_id=gauge_id), *plan.characteristics[1:])
    desk.jobs.new(replace(plan, characteristics=sizes), "RK")
    assert week_jobs(desk)[0][0].gauges == ""
    texts = {"gauge": gauge.name, "on": "2020-01-02", "due": "2021-01-02"}
    desk.drawers.save("gauge_checks", 0, texts)
    assert week_jobs(desk)[0][0].gauges == f"{gauge.name} since 2 Jan 2021"
    assert f"gauge out of check: {gauge.name} since 2 Jan 2021" in flat(client.get("/week").text)
