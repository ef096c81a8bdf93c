"""Tables in and out: rehearsed before they change anything, and written so that they read back."""

import csv
import io
import json

import pytest
from openpyxl import load_workbook

from ditto_run.core.close import report
from ditto_run.core.errors import FileNotRead
from ditto_run.core.run import events as do
from ditto_run.formats.characteristic_table import rehearse
from ditto_run.formats.csv_tables import decode, read_rows, write_rows
from ditto_run.formats.line_documents import BODY
from ditto_run.formats.readings import log_lines, readings_csv, readings_xlsx, table
from tests.conftest import CoreHand, planned


def test_good_rows_are_understood() -> None:
    found = rehearse("bore\t12 H7\tcritical\tmates with the pin\nwidth\t40 ±0.1", planned())

    assert found.faults == 0
    assert [row.name for row in found.rows] == ["bore", "width"]
    assert found.lines[0].understood == "diameter H7, 12.000 mm, limits 12.000 to 12.018 mm"
    assert found.rows[0].why == "mates with the pin"


def test_named_columns_may_come_in_any_order() -> None:
    found = rehearse("class;size;name\nc;12,5 ±0,1;bore", planned())

    assert (found.rows[0].name, found.rows[0].grade) == ("bore", "critical")


def test_every_faulty_row_is_named_at_once() -> None:
    found = rehearse("bore,banana\n,12\nslot,20\nwidth,12-10\nlength,60,very\nok,61", planned())

    assert found.faults == 5
    assert [line.row for line in found.lines if line.problem] == [1, 2, 3, 4, 5]
    assert [line.field for line in found.lines[:4]] == ["size", "name", "name", "size"]
    assert len(found.rows) == 1


def test_a_slipped_point_is_asked_about_in_the_rehearsal() -> None:
    assert "Did you mean" in rehearse("width,315 ±0.1", planned()).lines[0].problem


@pytest.mark.parametrize("content", [b"\0\1\2", b"x" * 2_000_001])
def test_what_is_no_table_is_refused(content: bytes) -> None:
    with pytest.raises(FileNotRead):
        decode(content)


def test_old_spreadsheets_are_read() -> None:
    assert decode("Ø;20 ±0,1".encode("cp1252")) == "Ø;20 ±0,1"
    assert read_rows("a;b\n\n;c") == [["a", "b"], ["", "c"]]


def test_a_cell_that_would_run_as_a_formula_is_text() -> None:
    written = write_rows(["a"], [["=1+1"], ["-0.5"], ["plain"]])

    assert written.split("\r\n")[1:4] == ["'=1+1", "-0.5", "plain"]


@pytest.fixture
def hand() -> CoreHand:
    hand = CoreHand(planned(3)).proven()
    hand.do(do.TakeReading(2, 1, "20.04"), do.Dispose(2, "scrap", "=too wide, by far"))
    return hand


def test_readings_csv_holds_every_piece(hand: CoreHand) -> None:
    text = readings_csv(report(hand.state), hand.state.plan).decode("utf-8-sig")
    rows = list(csv.DictReader(io.StringIO(text)))

    assert len(rows) == 3
    assert rows[0]["1 slot 20.00 ±0.03 mm [mm]"] == "20.004"
    assert rows[1]["stands"] == "scrap"
    assert rows[1]["reason"] == "'=too wide, by far"


def test_readings_in_the_workbook_are_numbers(hand: CoreHand) -> None:
    sheet = load_workbook(io.BytesIO(readings_xlsx(*table(report(hand.state), hand.state.plan)))).active

    assert sheet.max_row == 4
    assert sheet.cell(1, 8).value == "heat"
    assert sheet.cell(2, 9).value == 20.004
    assert sheet.cell(1, 9).value.startswith("1 slot")


def test_the_log_is_one_line_an_event(hand: CoreHand) -> None:
    lines = [json.loads(line) for line in log_lines(hand.log).decode().splitlines()]

    assert [line["seq"] for line in lines] == list(range(1, len(hand.log) + 1))
    assert [BODY.validate_python(line["body"]) for line in lines] == [event.body for event in hand.log]
