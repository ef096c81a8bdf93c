"""A long log and a long table of pieces come a page at a time."""

import pytest
from starlette.testclient import TestClient

from ditto_run.core.run import events as do
from ditto_run.desk import Desk
from ditto_run.web.paging import TablePage, page_of
from tests.conftest import planned
from tests.web.conftest import flat


@pytest.mark.parametrize(
    ("last", "of", "found"),
    [
        (0, 0, TablePage(1, 0, 0)),
        (7, 7, TablePage(1, 7, 7)),
        (240, 240, TablePage(141, 240, 240)),
        (140, 240, TablePage(41, 140, 240)),
        (40, 240, TablePage(1, 100, 240)),  # the first page is as long as the others
        (999, 240, TablePage(141, 240, 240)),
        (100, 100, TablePage(1, 100, 100)),
    ],
)
def test_which_rows_are_shown(last: int, of: int, found: TablePage) -> None:
    assert page_of(last, of) == found


def test_the_pages_before_and_after_join_without_a_gap() -> None:
    page, seen = page_of(240, 240), []
    while True:
        seen = [*range(page.first, page.last + 1), *seen]
        if not page.before:
            break
        page = page_of(page.before, 240)
    assert sorted(set(seen)) == [*range(1, 241)]
    assert (page_of(100, 240).after, page_of(200, 240).after, page_of(240, 240).after) == (200, 240, 0)


@pytest.fixture
def long(desk: Desk) -> int:
    """A run of 240 pieces, all cut, and more than 100 lines."""
    job = desk.jobs.new(planned(240), "RK")
    run = desk.runs.start(job, "RK")
    desk.runs.record(run, do.EnterLoads(80), "RK", "loads")
    for n in range(120):
        desk.runs.record(run, do.AddNote(f"note {n}."), "RK", f"n{n}")
    return job


def test_a_log_of_many_lines(client: TestClient, long: int) -> None:
    newest = flat(client.get(f"/jobs/{long}/run/log").text)
    assert "122 lines, never changed." in newest
    assert "Lines 23 to 122 of 122" in newest
    assert "note 119." in newest
    assert "note 5." not in newest
    assert 'href="?line=22"> Earlier ones' in newest.replace(">Earlier", "> Earlier")
    first = flat(client.get(f"/jobs/{long}/run/log?line=22").text)
    assert "note 5." in first
    assert 'id="line-1"' in first
    assert "Later ones" in first
    assert 'id="line-30"' in client.get(f"/jobs/{long}/run/log?correct=30").text
    assert client.get(f"/jobs/{long}/run/log?line=-1").status_code == 422
    assert client.get(f"/jobs/{long}/run/log?line=99999").status_code == 200


def test_a_table_of_many_pieces(client: TestClient, long: int) -> None:
    newest = flat(client.get(f"/jobs/{long}/run/table").text)
    assert "240 pieces, as a table." in newest
    assert "Pieces 141 to 240 of 240" in newest
    assert newest.count('scope="row"') == 100
    assert client.get(f"/jobs/{long}/run/table?line=40").text.count('scope="row"') == 100


def test_a_register_of_five_thousand_tools_comes_in_as_one_file_and_is_searched(
    client: TestClient, desk: Desk
) -> None:
    lines = ["name,machine,kind,across,out,life"]
    lines += [
        f"T{n % 900 + 1} mill {n},Mill {n % 7},end mill,{n % 19 + 2} mm,{n % 40 + 30} mm,{n} min"
        for n in range(1, 5001)
    ]
    sent = {"file": ("tools.csv", "\n".join(lines), "text/csv")}
    came = client.post(
        "/shop/drawers/tools/csv", files=sent, headers={"HX-Request": "true"}, follow_redirects=False
    )
    assert came.status_code == 303
    page = flat(client.get("/shop/drawers/tools").text)
    assert "5000 tools." in page
    assert "The first 400 are shown; the CSV holds all." in page
    found = flat(client.get("/shop/drawers/tools?find=mill+4711").text)
    assert "1 of 5000 have “mill 4711”." in found
    assert "T212 mill 4711" in found
    assert "No row has all of these words." in client.get("/shop/drawers/tools?find=nothing+such").text
    most = "\n".join(["name", *(f"other {n}" for n in range(5001))])
    many = client.post(
        "/shop/drawers/tools/csv",
        files={"file": ("more.csv", most, "text/csv")},
        headers={"HX-Request": "true"},
    )
    assert many.status_code == 422
    assert "10,001 rows are too many." in many.text
    assert len(desk.drawers.rows("tools")) == 5000
