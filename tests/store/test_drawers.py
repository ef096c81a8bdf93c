"""Drawers between the core and the database: rows as typed, once each, all of a file or nothing."""

import pytest

from ditto_run.core.errors import BadEntry, NotFound
from ditto_run.core.shop.drawers import DRAWERS, drawer_of
from ditto_run.desk import Desk
from ditto_run.formats.csv_tables import read_rows
from ditto_run.formats.drawer_table import rehearse_drawer, write_drawer
from ditto_run.store import drawers as store

VISE = drawer_of("holders").standard()[0]


@pytest.mark.parametrize("drawer", DRAWERS, ids=lambda drawer: drawer.name)
def test_the_usual_set_goes_in_out_and_in_again(desk: Desk, drawer) -> None:
    own = {
        "offcuts": {"name": "A1", "section": "Ø12", "length": "740 mm"},
        "rates": {"name": "labour", "per_hour": "42"},
        "pallets": {
            "name": "P",
            "holder": "Pallet",
            "state": "ready",
            "base": "Mill 2",
            "holds": "blocks",
            "note": "wipe it",
        },
        "coolants": {"name": "tapping 316", "operation": "tap", "what": "cutting oil, by brush"},
        "tools": {"name": "T03 finish slot", "across": "8 mm", "life": "45 min", "insert": "CNMG 120408"},
        "own_orders": {"name": "engrave before deburr", "reason": "its burr goes too"},
        "unknown": {"name": "red paint", "spark": "long", "magnet": "holds", "guess": "mild steel"},
        "devices": {"name": "micrometer 1", "kind": "gauge", "of": "", "key": "twelve-letters"},
        "forgotten": {"what": "chips under C", "machine": "Mill 2", "times": "2"},
        "maintenance": {"what": "way oil", "machine": "Mill 2", "noticed": "2026-11-28", "state": "to do"},
        "gauge_checks": {"gauge": "mic", "on": "28 Nov 2026", "result": "right", "due": "2027-11-28"},
        "condition": {"machine": "Hand lathe", "what": "backlash", "found": "0.12 mm", "on": "2026-11-28"},
        "fixtures": {"name": "soft jaws 3", "job": "stays", "shelf": "B2"},
        "finished": {"part": "Oarlock pin", "there": "12", "least": "20", "batch": "60", "shelf": "C1"},
        "to_ask": {"name": "the plater", "what": "anodise", "note": "a day late"},
        "taught": {"name": "pace", "figure": "pace", "value": "1.12", "machine": "Mill 2", "from": "3/1 4/1"},
    }
    standard = drawer.standard() or [own[drawer.name]]
    assert desk.drawers.replace(drawer.name, standard) == len(standard)
    assert desk.drawers.replace(drawer.name, standard) == 0
    rows = desk.drawers.rows(drawer.name)
    table = write_drawer(drawer, (row.texts for row in rows))
    again = rehearse_drawer(table, drawer, "mm")
    assert again.faults == ()
    assert [drawer.value(texts, "mm") for texts in again.rows] == [row.value for row in rows]
    desk.drawers.replace(drawer.name, again.rows, keep=False)
    assert [row.value for row in desk.drawers.rows(drawer.name)] == [row.value for row in rows]


PNG, JPEG = b"\x89PNG\r\n\x1a\n one", b"\xff\xd8\xff two"


def test_a_row_is_added_changed_removed_and_kept_as_typed(desk: Desk) -> None:
    number = desk.drawers.save("reamers", 0, {"name": "1/2", "cuts": ".5003 in"})
    row = desk.drawers.rows("reamers")[0]
    assert row.texts == {"name": "1/2", "cuts": ".5003 in"}
    assert float(row.value.cuts_mm) == pytest.approx(12.70762)
    desk.drawers.save("reamers", number, {"name": "1/2", "cuts": ""})
    assert float(desk.drawers.rows("reamers")[0].value.cuts_mm) == 12.7
    desk.drawers.remove("reamers", number)
    assert desk.drawers.rows("reamers") == []


@pytest.mark.parametrize(
    ("name", "texts", "field"),
    [
        ("drills", {"name": ""}, "name"),
        ("drills", {"name": "#99"}, "name"),
        ("taps", {"thread": "banana"}, "thread"),
        ("taps", {"thread": "M6", "lead": "sideways"}, "lead"),
        ("reamers", {"name": "6 mm", "cuts": "-1"}, "cuts"),
        ("materials", {"name": "lead", "density": "400"}, "density"),
        ("materials", {"name": "lead", "density": "11", "price": "x"}, "price"),
        ("coatings", {"name": "zinc", "film_low": "9", "film_high": "3"}, "film_low"),
        ("coatings", {"name": "zinc", "film_low": "1", "film_high": "3", "growth": "9"}, "growth"),
        ("rates", {"name": "labour", "per_hour": "much"}, "per_hour"),
        ("rates", {"name": "labour"}, "per_hour"),
        ("offcuts", {"name": "A", "section": "Ø12", "length": "0"}, "length"),
        ("holders", {"name": "V", "low": "9 mm", "high": "3 mm"}, "low"),
        ("holders", {"name": "V", "low": "1", "high": "3", "marks": "bruises"}, "marks"),
        ("holders", {"name": "V", "low": "1", "high": "3", "colour": "red"}, "file"),
        (
            "holders",
            {"name": "V", "low": "1", "high": "3", "body_x": "100", "body_y": "80", "nests": "200,20"},
            "nests",
        ),
        ("holders", {"name": "V", "low": "1", "high": "3", "outline": "0,0 10,10 10,0 0,10"}, "outline"),
        ("pallets", {"name": "P", "state": "lost"}, "state"),
    ],
)
def test_a_row_that_cannot_be_is_refused_at_its_column(
    desk: Desk, name: str, texts: dict, field: str
) -> None:
    with pytest.raises(BadEntry) as caught:
        desk.drawers.save(name, 0, texts)
    assert caught.value.field == field
    assert desk.drawers.rows(name) == []


def test_the_same_thing_twice_is_refused_but_two_leads_of_a_tap_are_two(desk: Desk) -> None:
    desk.drawers.save("taps", 0, {"thread": "M6", "lead": "plug"})
    desk.drawers.save("taps", 0, {"thread": "M6", "lead": "bottoming"})
    with pytest.raises(BadEntry, match="already"):
        desk.drawers.save("taps", 0, {"thread": "m6", "lead": "plug"})
    assert len(desk.drawers.rows("taps")) == 2


def test_unknown_drawers_and_rows(desk: Desk) -> None:
    with pytest.raises(NotFound):
        desk.drawers.rows("banana")
    with pytest.raises(NotFound):
        desk.drawers.save("drills", 999, {"name": "#7"})


def test_a_register_has_an_end(desk: Desk, monkeypatch) -> None:
    monkeypatch.setattr(store, "MOST_ROWS", 3)
    desk.drawers.replace("rates", [{"name": f"r{n}", "per_hour": "1"} for n in range(3)])
    with pytest.raises(BadEntry, match="3 rows are the most"):
        desk.drawers.save("rates", 0, {"name": "r9", "per_hour": "1"})
    with pytest.raises(BadEntry, match="too many"):
        desk.drawers.replace("rates", [{"name": "r9", "per_hour": "1"}])


@pytest.mark.parametrize(
    ("text", "rows", "faults"),
    [
        ("name,cuts\n12 mm,12.006", 1, 0),
        ("cuts;name\n12.006;12 mm", 1, 0),
        ("12 mm\t12.006\n10 mm\t", 2, 0),
        ("name,cuts\n12 mm,12.006\n,3\nbanana,", 1, 2),
        ("", 0, 0),
        ("name\n", 0, 0),
    ],
)
def test_tables_are_rehearsed_row_by_row(text: str, rows: int, faults: int) -> None:
    found = rehearse_drawer(text, drawer_of("reamers"), "mm")
    assert (len(found.rows), len(found.faults)) == (rows, faults)
    assert all(fault.row and fault.message for fault in found.faults)


def test_a_cell_that_a_sheet_would_run_comes_back_as_it_was(desk: Desk) -> None:
    desk.drawers.save("rates", 0, {"name": "=SUM(A1)", "per_hour": "5"})
    drawer = drawer_of("rates")
    table = write_drawer(drawer, (row.texts for row in desk.drawers.rows("rates")))
    assert read_rows(table)[1][0] == "'=SUM(A1)"
    assert rehearse_drawer(table, drawer, "mm").rows[0]["name"] == "=SUM(A1)"


def test_a_holder_has_one_photo_and_only_holders_have(desk: Desk) -> None:
    row = desk.drawers.save("holders", 0, VISE)
    desk.drawers.set_photo("holders", row, "first.png", PNG)
    desk.drawers.set_photo("holders", row, "second.jpg", JPEG)
    assert desk.drawers.photo("holders", row).content == JPEG
    assert [found.photo for found in desk.drawers.rows("holders")] == [True]
    for content in (b"%PDF-1.7", b"", PNG * 2_000_000):
        with pytest.raises(BadEntry) as caught:
            desk.drawers.set_photo("holders", row, "a", content)
        assert caught.value.field == "photo"
    drill = desk.drawers.save("drills", 0, {"name": "#7"})
    with pytest.raises(BadEntry, match="Drills have no photos"):
        desk.drawers.set_photo("drills", drill, "a.png", PNG)
    with pytest.raises(NotFound):
        desk.drawers.set_photo("holders", drill, "a.png", PNG)
    with pytest.raises(NotFound):
        desk.drawers.photo("drills", row)


def test_a_photo_goes_with_its_holder(desk: Desk) -> None:
    first = desk.drawers.save("holders", 0, VISE)
    desk.drawers.set_photo("holders", first, "a.png", PNG)
    desk.drawers.remove_photo("drills", first)
    assert desk.drawers.photo("holders", first).name == "a.png"
    desk.drawers.remove("holders", first)
    again = desk.drawers.save("holders", 0, VISE)
    assert [(found.id, found.photo) for found in desk.drawers.rows("holders")] == [(again, False)]
