"""Files that would break a page or hold up everybody are answered with a sentence."""

import io
import json
import time
from decimal import Decimal

import ezdxf
import pytest
from openpyxl import load_workbook

from ditto_run.core.close import report
from ditto_run.core.errors import FileNotRead
from ditto_run.core.run import events as do
from ditto_run.core.shop import Dialect
from ditto_run.desk import Desk
from ditto_run.formats.dxf import read_outlines
from ditto_run.formats.job_bundle import read_bundle, write_bundle
from ditto_run.formats.readings import readings_xlsx, table
from ditto_run.formats.rs274 import read_offsets
from tests.conftest import CoreHand, planned


def drawing(add) -> bytes:
    document = ezdxf.new(units=4)
    add(document.modelspace(), document)
    out = io.StringIO()
    document.write(out)
    return out.getvalue().encode()


@pytest.mark.parametrize(
    "add",
    [
        lambda space, _: space.add_circle((0, 0), 0),
        lambda space, _: space.add_circle((0, 0), -5),
        lambda space, _: space.add_circle((0, 0), float("nan")),
        lambda space, _: space.add_arc((0, 0), 1e13, 0, 90),
        lambda space, _: space.add_blockref("nowhere", (0, 0)),
        lambda space, _: space.add_lwpolyline([(i, i % 2) for i in range(2_000)], close=True),
    ],
    ids=["zero", "negative", "nan", "huge arc", "no block", "2,000 corners"],
)
def test_a_shape_no_workshop_has_is_refused_at_once(add) -> None:
    content = drawing(add)
    started = time.perf_counter()
    with pytest.raises(FileNotRead) as refused:
        read_outlines(content)
    assert refused.value.remedy
    assert time.perf_counter() - started < 15


@pytest.mark.parametrize(
    "text",
    ["G10 L2 P1 X1 " + "(" * 100_000, "G10 L2 P" + "1" * 5000 + " X1", "G10 L2 P1 X" + "9" * 400],
    ids=["brackets", "5,000 digits", "a long number"],
)
def test_a_line_no_control_takes_is_a_fault_and_quick(text: str) -> None:
    started = time.perf_counter()
    found = read_offsets(text, Dialect(), "mm")
    assert (found.axes, len(found.faults)) == ({}, 1)
    assert time.perf_counter() - started < 0.5


def test_a_workbook_runs_nothing_and_takes_any_text() -> None:
    hand = CoreHand(planned(3)).proven()
    hand.do(do.Dispose(2, "scrap", '=HYPERLINK("http://x","y")'), do.Dispose(3, "scrap", "chatter\x0b\x00"))
    book = load_workbook(io.BytesIO(readings_xlsx(*table(report(hand.state), hand.state.plan))))
    cells = [cell for row in book.active.iter_rows() for cell in row]
    assert not any(cell.data_type == "f" for cell in cells)
    assert any(cell.value == '=HYPERLINK("http://x","y")' for cell in cells)


@pytest.fixture
def bundle(desk: Desk) -> dict:
    job = desk.jobs.new(planned(6), "RK")
    run = desk.runs.start(job, "RK")
    for n, command in enumerate((do.StartCycle(), do.EndCycle(), do.TakeReading(1, 1, "20.001"))):
        desk.runs.record(run, command, "RK", f"k{n}")
    return json.loads(write_bundle(desk.bundles.take_out(job)))


def seq(data: dict) -> None:
    data["runs"][0]["events"][1]["seq"] = -5


def zone(data: dict) -> None:
    data["runs"][0]["events"][1]["at"] = "2026-05-12T07:00:00"


def decimals(data: dict) -> None:
    data["runs"][0]["events"][3]["body"]["decimals"] = 10**9


def number(data: dict) -> None:
    data["runs"][0]["events"][3]["body"]["value"] = "1e400000"


def quantity(data: dict) -> None:
    data["versions"][0]["plan"]["heading"]["quantity"] = 10**12


def no_setups(data: dict) -> None:
    data["versions"][0]["plan"]["setups"] = []


def twice(data: dict) -> None:
    data["runs"][0]["events"][2]["client_key"] = data["runs"][0]["events"][1]["client_key"]


def skipped(data: dict) -> None:
    del data["runs"][0]["events"][2]


def digits(data: dict) -> None:
    data["version"] = 10**80


def two_numbers(data: dict) -> None:
    data["versions"][0]["plan"]["characteristics"][1]["number"] = 1


def lost_setup(data: dict) -> None:
    data["runs"][0]["events"][1]["body"]["setup"] = 99


def nothing(data: dict) -> None:
    data["versions"] = []


@pytest.mark.parametrize(
    "spoil",
    [
        seq,
        zone,
        decimals,
        number,
        quantity,
        no_setups,
        twice,
        skipped,
        digits,
        two_numbers,
        lost_setup,
        nothing,
    ],
    ids=lambda spoil: spoil.__name__,
)
def test_a_bundle_that_would_break_a_page_is_refused_whole(desk: Desk, bundle: dict, spoil) -> None:
    spoil(bundle)
    bundle["machines"][0]["name"] = "Mill from elsewhere"
    with pytest.raises(FileNotRead):
        desk.bundles.read(json.dumps(bundle).encode())
    assert [machine.name for machine in desk.shop.load().machines.values()] == ["Mill 2"]
    assert len(desk.jobs.find()) == 1


def test_a_sound_bundle_is_read_in_the_other_process(desk: Desk, bundle: dict) -> None:
    assert read_bundle(json.dumps(bundle).encode()).head == 1
    job = desk.bundles.read(json.dumps(bundle).encode())
    with desk.runs.folded(desk.runs.require(job)) as state:
        assert state.pieces[1].last(state.cycle, 1).value == Decimal("20.001")
