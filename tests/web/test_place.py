"""The pages and the API of Place: layout, register, finding zero, files; bad input changes nothing."""

import io
import zipfile
from datetime import timedelta
from decimal import Decimal as D

import ezdxf
import pytest
from starlette.testclient import TestClient

from ditto_run.core.place.offsets import OffsetChange
from ditto_run.core.run import events as do
from ditto_run.core.shop import Dialect
from ditto_run.desk import Desk
from tests.web.conftest import flat
from tests.web.placed import HX, edit, setting


def test_the_layout_is_drawn_said_and_listed(client: TestClient, placed_job: int) -> None:
    page = client.get(f"/jobs/{placed_job}/place").text
    for said in ("Vise A, left edge 100.0", "P4", "reach 700 × 360 mm", "G57", "not set", "near"):
        assert said in page
    assert 'data-placed="3"' in page
    assert "Nothing clashes" in page


def test_a_move_is_checked_and_answered_with_the_way_out(
    client: TestClient, desk: Desk, placed_job: int
) -> None:
    key = desk.jobs.load(placed_job).plan.placed[1].key
    answer = edit(client, desk, placed_job, kind="move_placed", key=key, left="186", view_holder=key)
    assert "Vise A and Vise B overlap by 14.0 mm." in answer.text
    assert f"holder={key}" in str(answer.url)
    layout = client.get(f"/api/v1/jobs/{placed_job}/layout/1").json()
    assert layout["clashes"][0]["code"] == "overlap"
    assert layout["clashes"][0]["way_out"] == "Move Vise B 14.0 mm (0.55 in) to the right."
    undone = client.post(
        f"/jobs/{placed_job}/plan/undo",
        data={"version": desk.jobs.load(placed_job).version, "step": "place"},
        headers=HX,
    )
    assert "overlap" not in undone.text


@pytest.mark.parametrize(
    ("fields", "field"),
    [
        ({"kind": "place_holder", "setup": "1", "holder": "Bare"}, "holder"),
        ({"kind": "place_holder", "setup": "1", "holder": "Vise", "count": "40"}, "count"),
        ({"kind": "move_placed", "key": "4", "left": "far"}, "left"),
        ({"kind": "set_layout", "setup": "1", "piece_x": "60"}, "piece_y"),
    ],
)
def test_bad_entries_stand_at_their_field_and_change_nothing(
    client: TestClient, desk: Desk, placed_job: int, fields, field
) -> None:
    before = desk.jobs.load(placed_job)
    key = str(before.plan.placed[0].key)
    answer = edit(client, desk, placed_job, **fields | ({"key": key} if "key" in fields else {}))
    assert answer.status_code == 422
    assert f'data-field="{field}"' in answer.text
    assert desk.jobs.load(placed_job).version == before.version


def test_a_table_is_measured_drawn_and_refused_at_its_field(
    client: TestClient, desk: Desk, placed_job: int
) -> None:
    page = client.get("/shop/machines/2/table").text
    assert "reach 700 × 360 mm" in page
    form = {
        "table_x": "700",
        "table_y": "300",
        "slots": "2",
        "slot_first": "60",
        "slot_pitch": "80",
        "slot_width": "12",
        "slots_run": "X",
        "reach_from": "10,10",
        "home": "left back",
        "nose": "500",
        "keep_outs": "door: 0,0 10,10 10,0 0,10",
        "corner": "back left",
        "stop_side": "left",
        "zero_at": "seat",
        "placing": "0.3",
    }
    refused = client.post("/shop/machines/2/table", data=form, headers=HX)
    assert (
        refused.status_code,
        'data-field="keep_outs"' in refused.text,
        "crosses itself" in refused.text,
    ) == (422, True, True)
    assert (
        client.post(
            "/shop/machines/2/table", data=form | {"keep_outs": "door: 600,0 700,100"}, headers=HX
        ).status_code
        == 200
    )
    assert desk.shop.load().machines[2].bed.size_mm == (D(700), D(300))
    client.post("/shop/machines/2/dialect", data={"l20": "extended", "p0": "active"}, headers=HX)
    assert desk.shop.load().machines[2].dialect == Dialect("extended", "active", fine=False)
    # saving the machine's other entries leaves its table and dialect
    machine = {
        "machine_id": "2",
        "name": "Mill 3",
        "kind": "mill",
        "offset_codes": "G54-G59",
        "travel_x": "700 mm",
        "travel_y": "360 mm",
        "travel_z": "450 mm",
    }
    client.post("/shop/machines", data=machine, headers=HX)
    assert desk.shop.load().machines[2].bed is not None
    assert client.put("/api/v1/shop/machines/2/table", json=form | {"keep_outs": ""}).status_code == 200
    assert (
        client.put(
            "/api/v1/shop/machines/2/dialect",
            json={
                "keys": [["dwell_p", "s"], ["arc_tol_mm", "0.01"]],
                "l20": "here",
                "p0": "not used",
                "fine": True,
            },
        ).json()["keys"]
        == [["arc_tol_mm", "0.01"]]  # the other is as ready-made
    )


def test_the_register_guards_what_is_kept(client: TestClient, desk: Desk, placed_job: int) -> None:
    form = {
        "code": "G59",
        "x": "-150",
        "y": "-180",
        "z": "",
        "kept": "true",
        "name": "pallet base",
        "purpose": "bushing",
        "limit": "0.02 mm",
        "how": "bushing",
    }
    assert client.post("/shop/machines/2/offsets", data=form, headers=HX).status_code == 200
    again = client.post("/shop/machines/2/offsets", data=form | {"x": "-150.05"}, headers=HX)
    assert again.status_code == 422
    assert 'data-field="typed"' in again.text
    assert "X −150.000 to −150.050, by 50 µm" in again.text
    typed = client.post(
        "/shop/machines/2/offsets", data=form | {"x": "-150.05", "typed": "pallet base"}, headers=HX
    )
    assert "has drifted in X by 50 µm" in client.get("/shop/machines/2/offsets?code=G59").text
    assert typed.status_code == 200
    first = desk.offsets.history(2, "G59")[0].number
    refused = client.post("/shop/machines/2/offsets/restore", data={"line": first}, headers=HX)
    assert refused.status_code == 422
    client.post(
        "/shop/machines/2/offsets/restore",
        data={"line": first, "typed": "Pallet base", "back": f"/jobs/{placed_job}/place/offsets"},
        headers=HX,
    )
    assert desk.offsets.of(2)["G59"].axes["x"] == D(-150)
    api = client.post(
        "/api/v1/shop/machines/2/offsets",
        json=[{"code": "G54", "axes": {"x": "1"}}, {"code": "G59", "axes": {"x": "0"}}],
    )
    assert api.status_code == 422
    assert "G54" not in desk.offsets.of(2)
    assert len(client.get("/api/v1/shop/machines/2/offsets/history", params={"code": "G59"}).json()) == 3


def test_z_takes_back_the_offset_written_last_and_not_an_older_change_of_the_plan(
    client: TestClient, desk: Desk, placed_job: int
) -> None:
    page = f"/jobs/{placed_job}/place/offsets"
    version = desk.jobs.load(placed_job).version
    client.post("/shop/machines/2/offsets", data={"code": "G54", "x": "-600"}, headers=HX)
    client.post("/shop/machines/2/offsets", data={"code": "G54", "x": "-601"}, headers=HX)
    shown = client.get(page).text
    assert shown.count('data-key="z"') == 1
    assert "Undo G54: X −600.000 to −601.000" in shown
    line = desk.offsets.history(2)[-1].number
    answer = client.post("/shop/machines/2/offsets/undo", data={"line": line, "back": page})
    assert answer.url.path == page
    assert desk.offsets.of(2)["G54"].axes["x"] == D(-600)
    assert desk.jobs.load(placed_job).version == version
    late = client.post("/shop/machines/2/offsets/undo", data={"line": line}, headers=HX)
    assert (late.status_code, "written to since" in late.text) == (409, True)

    client.post("/shop/machines/2/offsets", data={"code": "G55", "x": "-1"}, headers=HX)
    client.post("/shop/machines/2/offsets/undo", data={"line": desk.offsets.history(2)[-1].number})
    assert not desk.offsets.of(2)["G55"].axes  # it had none before
    client.post(
        "/shop/machines/2/offsets", data={"code": "G56", "x": "-1", "name": "base", "kept": "on"}, headers=HX
    )
    assert 'id="undo-offset"' not in client.get(page).text  # a kept one wants its name
    edit(client, desk, placed_job, kind="set_form", part_form="block")
    assert 'id="undo-plan"' in client.get(page).text


def test_an_earlier_day_is_compared(client: TestClient, desk: Desk, placed_job: int, clock) -> None:
    client.post("/shop/machines/2/offsets", data={"code": "G54", "x": "-600"}, headers=HX)
    day = f"{desk.now:%Y-%m-%d}"
    assert "Nothing has changed since" in client.get(f"/shop/machines/2/offsets?day={day}").text
    assert "not set to −600.000" in client.get("/shop/machines/2/offsets?day=2020-01-01").text
    assert client.get("/shop/machines/2/offsets?day=soon").status_code == 422


def test_probing_fills_a_sheet_and_its_zero_goes_to_the_register(
    client: TestClient, desk: Desk, placed_job: int
) -> None:
    page = client.get(f"/jobs/{placed_job}/place/probe/corner", params={"station": "1|A"}).text
    assert "is the corner" in page
    assert '<option value="1|A" selected>' in page
    found = client.post(
        f"/jobs/{placed_job}/place/zeros",
        data={"target": "1|A", "x": "-620.5", "y": "-110.25", "how": "corner"},
        headers=HX,
    )
    assert found.status_code == 200
    assert desk.offsets.of(2)["G54"].axes == {"x": D("-620.5"), "y": D("-110.25")}
    nest = client.post(
        f"/jobs/{placed_job}/place/zeros",
        data={"target": "1|P1", "x": "-120", "y": "-230", "how": "bore"},
        headers=HX,
    )
    assert nest.status_code == 200
    assert desk.offsets.of(2)["G56"].axes["x"] == D(-70)  # its own shift of −50 is taken off
    for target, status in (("m2|G55", 200), ("m9|G55", 404), ("1|Z", 422), ("", 422), ("m2|G59.3", 422)):
        assert (
            client.post(
                f"/jobs/{placed_job}/place/zeros", data={"target": target, "z": "-400"}, headers=HX
            ).status_code
            == status
        ), target
    assert (
        client.post(
            f"/jobs/{placed_job}/place/zeros", data={"target": "1|A", "x": "left"}, headers=HX
        ).status_code
        == 422
    )
    for bad in ({"station": "1|Z"}, {"station": "x"}, {"station": "1|A", "scatter": "5"}):
        assert client.get(f"/jobs/{placed_job}/place/probe/corner", params=bad).status_code == 422


def test_a_zero_touched_at_another_station_is_asked_about_before_it_is_written(
    client: TestClient, desk: Desk, placed_job: int
) -> None:
    """A stands near X −630, Y −110; B 160 to the right of it."""
    at = f"/jobs/{placed_job}/place/zeros"
    other = {"target": "1|A", "x": "-470", "y": "-110", "how": "corner"}
    asked = client.post(at, data=other, headers=HX)
    assert asked.status_code == 422
    assert "The drawing puts B there, not A." in asked.text
    assert "data-keep" in asked.text
    assert "G54" not in desk.offsets.of(2)
    assert client.post(at, data=other | {"keep": "1|B"}, headers=HX).status_code == 422
    assert client.post(at, data=other | {"target": "1|B"}, headers=HX).status_code == 200
    assert client.post(at, data=other | {"keep": "1|A"}, headers=HX).status_code == 200
    assert desk.offsets.of(2)["G54"].axes["x"] == D(-470)


def test_predicted_and_measured_are_held_together(client: TestClient, desk: Desk, placed_job: int) -> None:
    client.post(
        "/shop/machines/2/offsets", data={"code": "G54", "x": "-630", "y": "-110", "z": "-488"}, headers=HX
    )
    client.post(
        "/shop/machines/2/offsets", data={"code": "G55", "x": "-468", "y": "-110", "z": "-488"}, headers=HX
    )
    page = client.get(f"/jobs/{placed_job}/place").text
    assert "X of G55 is 2.00 mm (0.079 in) from where the drawing puts B." in page
    assert "Offsets of Mill 3 were changed and never backed up." in page


def test_offsets_go_out_and_come_in_unchanged(client: TestClient, desk: Desk, placed_job: int) -> None:
    setting(client)
    at = f"/jobs/{placed_job}/place/files/1"
    text = client.get(f"{at}/offsets.nc").text
    assert "G10 L2 P1 X-630.000 Y-110.000 Z-488.000 (G54)" in text
    assert "P6" not in text
    assert "P6 X1.000 (G59 KEPT base)" in client.get(f"{at}/offsets.nc?kept=true&everything=true").text
    read = client.post(f"{at}/read", files={"file": ("o.nc", text)}, headers=HX)
    assert "0 values differ from the register." in flat(read.text)
    before = desk.offsets.history(2)
    took = client.post(f"{at}/take", data={"text": text, "take": ["G54", "G55"]}, headers=HX)
    assert took.status_code == 200
    assert desk.offsets.history(2) == before
    table = client.get(f"{at}/offsets.csv").text
    again = client.post(f"{at}/read", files={"file": ("o.csv", table)}, headers=HX)
    assert "0 values differ" in again.text


def test_a_file_is_shown_three_ways_before_anything_changes(
    client: TestClient, desk: Desk, placed_job: int
) -> None:
    setting(client)
    at, text = (
        f"/jobs/{placed_job}/place/files/1",
        "G21\nG10 L2 P1 X-600\nG10 L2 P6 X9\nG10 L2 P9 X1\nG10 P1 X1",
    )
    page = client.post(f"{at}/read", files={"file": ("o.nc", text)}, headers=HX).text
    for said in (
        "−630.000",
        "−600.000",
        "far from the drawing",
        "kept: type base",
        "Mill 3 has no G59.3",
        "Line 5: L is missing.",
    ):
        assert said in flat(page)
    kept = client.post(f"{at}/take", data={"text": text, "take": ["G54", "G59"]}, headers=HX)
    assert kept.status_code == 422
    assert desk.offsets.of(2)["G54"].axes["x"] == D(-630)
    client.post(f"{at}/take", data={"text": text, "take": ["G54", "G59"], "typed G59": "base"}, headers=HX)
    assert (desk.offsets.of(2)["G54"].axes["x"], desk.offsets.of(2)["G59"].axes["x"]) == (D(-600), D(9))
    for take, status in (([], 422), (["G58"], 404), (["G59.3"], 422)):
        assert client.post(f"{at}/take", data={"text": text, "take": take}, headers=HX).status_code == status
    for name, content in (("a.nc", "M30"), ("b.csv", "name\nx"), ("c.nc", "G10 L9 P1 X1")):
        assert client.post(f"{at}/read", files={"file": (name, content)}, headers=HX).status_code == 422


def drawing(points: list[tuple[float, float]], units: int = 4) -> bytes:
    document = ezdxf.new("R2010", units=units)
    document.modelspace().add_lwpolyline(points, close=True)
    out = io.StringIO()
    document.write(out)
    return out.getvalue().encode()


def test_outlines_come_in_for_a_holder_and_for_the_piece(
    client: TestClient, desk: Desk, placed_job: int
) -> None:
    at = f"/jobs/{placed_job}/place/files/1/outline"
    shape = drawing([(5, 5), (125, 5), (125, 45), (65, 45), (65, 85), (5, 85)])
    client.post(at, data={"goes_to": "Bare"}, files={"outline": ("jaw.dxf", shape)}, headers=HX)
    bare = next(row.value for row in desk.drawers.rows("holders") if row.value.name == "Bare")
    assert bare.body.size_mm == (D(120), D(80))
    assert len(bare.body.outline) == 6
    client.post(
        at, files={"outline": ("part.dxf", drawing([(0, 0), (2, 0), (2, 1), (0, 1)], units=1))}, headers=HX
    )
    assert desk.jobs.load(placed_job).plan.layout(1).piece_mm == (D("50.8"), D("25.4"), D(32))
    asked = client.post(
        at, files={"outline": ("part.dxf", drawing([(0, 0), (2, 0), (2, 1)], units=0))}, headers=HX
    )
    assert (asked.status_code, 'data-fill="mm"' in asked.text) == (422, True)
    for content in (drawing([(0, 0), (9, 9), (9, 0), (0, 9)]), b"no drawing"):
        assert client.post(at, files={"outline": ("x.dxf", content)}, headers=HX).status_code == 422
    assert (
        client.post(
            at, data={"goes_to": "Nobody"}, files={"outline": ("j.dxf", shape)}, headers=HX
        ).status_code
        == 404
    )


def test_drawings_and_backup_leave_the_house_and_the_reminder_goes(
    client: TestClient, desk: Desk, placed_job: int, clock
) -> None:
    setting(client)
    at = f"/jobs/{placed_job}/place/files/1"
    assert client.get(f"{at}/layout.svg").text.startswith('<svg xmlns="http://www.w3.org/2000/svg"')
    assert ezdxf.read(io.StringIO(client.get(f"{at}/layout.dxf").text)).units == 4
    client.post(f"{at}/program", files={"program": ("first.nc", "%\nM30\n%")}, headers=HX)
    backup = zipfile.ZipFile(io.BytesIO(client.post(f"{at}/backup").content))
    assert set(backup.namelist()) == {
        "offsets.csv",
        "offsets.nc",
        "read me.txt",
        "tools.csv",
        "table.json",
        "layout first side.dxf",
        "programs/first.nc",
    }
    assert b"G10 L2 P1 X-630.000" in backup.read("offsets.nc")
    assert "were changed" not in client.get(f"/jobs/{placed_job}/place").text
    (kept,) = desk.programs.of_job(placed_job)
    assert client.get(f"/jobs/{placed_job}/place/files/program/{kept.id}").text == "%\nM30\n%"
    assert client.get(f"/jobs/{placed_job}/place/files/program/99").status_code == 404
    client.post(f"{at}/program/remove", data={"number": kept.id}, headers=HX)
    assert desk.programs.of_job(placed_job) == []


def test_the_layout_sheet_says_what_the_read_out_shows_until_the_offset_changes(
    client: TestClient, desk: Desk, placed_job: int
) -> None:
    setting(client)
    page = client.get(f"/jobs/{placed_job}/place/sheet").text
    assert "A: the front right corner of the piece" in page
    assert "−570.000" in page  # 60 mm to the right of X −630
    ticked = client.post(
        f"/jobs/{placed_job}/place/look", data={"setup": "1", "code": "G54"}, headers=HX
    ).text
    assert "G54: RK" in ticked
    later = type(desk.offsets)(desk.database, lambda: desk.now + timedelta(hours=1))
    later.write(desk.shop.load().machines[2], [OffsetChange("G54", {"x": D(-631)})], "MT")
    assert "G54 agrees" in client.get(f"/jobs/{placed_job}/place/sheet").text
    assert (
        client.post(
            f"/jobs/{placed_job}/place/look", data={"setup": "1", "code": "G58"}, headers=HX
        ).status_code
        == 404
    )


def test_pallets_are_worked_out_and_exchanged(client: TestClient, desk: Desk, placed_job: int) -> None:
    setting(client)
    page = client.get(
        f"/jobs/{placed_job}/place/pallets",
        params={"holder": "Pallet", "base": "G56", "turn": "90", "over": "2"},
    ).text
    assert "Pallet on G56: 4 nests from one origin." in flat(page)
    assert "−120.000" in page
    assert client.get(f"/jobs/{placed_job}/place/pallets", params={"turn": "x"}).status_code == 422
    row = desk.drawers.save("pallets", 0, {"name": "P", "holder": "Pallet", "state": "ready"})
    client.post(
        f"/jobs/{placed_job}/place/pallets/state", data={"row_id": row, "state": "on the machine"}, headers=HX
    )
    assert desk.drawers.rows("pallets")[0].value.state == "on the machine"
    desk.drawers.save(
        "pallets", row, {"name": "P", "holder": "Pallet", "state": "on the machine", "base": "Mill 3"}
    )
    other = desk.drawers.save(
        "pallets", 0, {"name": "Q", "holder": "Pallet", "state": "ready", "base": "mill 3"}
    )
    refused = client.post(
        f"/jobs/{placed_job}/place/pallets/state",
        data={"row_id": other, "state": "on the machine"},
        headers=HX,
    )
    assert (refused.status_code, "Pallet P sits on Mill 3 already." in refused.text) == (409, True)
    assert (
        client.post(
            f"/jobs/{placed_job}/place/pallets/state", data={"row_id": 99, "state": "ready"}, headers=HX
        ).status_code
        == 404
    )


def with_slot(client: TestClient, desk: Desk, placed_job: int) -> int:
    """Give the placed_job something to gauge. Returns its number."""
    edit(client, desk, placed_job, kind="set_characteristic", name="slot", size="20 ±0.03", grade="critical")
    return desk.jobs.load(placed_job).plan.characteristics[0].number


def test_an_offset_set_again_after_the_proof_is_flagged_on_run_until_gauged(
    client: TestClient, desk: Desk, placed_job: int, clock
) -> None:
    setting(client)
    slot = with_slot(client, desk, placed_job)
    run = desk.runs.start(placed_job, "RK")
    for n, command in enumerate(
        (
            do.StartCycle(),
            do.EndCycle("1"),
            do.TakeReading(1, slot, "20.001", confirm="20.001"),
            do.AcceptMaster(1),
        )
    ):
        desk.runs.record(run, command, "RK", f"k{n}")
    flag = "G55 at B was set again."
    assert flag not in client.get(f"/jobs/{placed_job}/run").text
    clock.at += timedelta(minutes=5)
    client.post("/shop/machines/2/offsets", data={"code": "G55", "x": "-470.02"}, headers=HX)
    assert flag in client.get(f"/jobs/{placed_job}/run").text
    clock.at += timedelta(minutes=5)
    for n, command in enumerate((do.StartCycle(), do.EndCycle("2"))):
        desk.runs.record(run, command, "RK", f"m{n}")
    with desk.runs.folded(run) as state:
        at_b = state.here.at_station["B"][-1][1]
    desk.runs.record(run, do.TakeReading(at_b, slot, "20.002", confirm="20.002"), "RK", "g")
    assert flag not in client.get(f"/jobs/{placed_job}/run").text


def test_an_offset_moved_on_run_is_followed_in_the_register_and_back_by_undo(
    client: TestClient, desk: Desk, placed_job: int, clock
) -> None:
    setting(client)
    with_slot(client, desk, placed_job)
    desk.runs.start(placed_job, "RK")
    clock.at += timedelta(minutes=1)
    said = {"kind": "adjust", "what": "G54 Z", "amount": "-0.02", "unit": "mm"}
    assert (
        client.post(f"/jobs/{placed_job}/run/do", data=said | {"client_key": "a"}, headers=HX).status_code
        == 200
    )
    line = desk.offsets.of(2)["G54"]
    assert (line.axes["z"], line.how) == (D("-488.020"), "on Run: G54 Z")
    with desk.runs.folded(1) as state:
        seq = state.seq
    client.post(
        f"/jobs/{placed_job}/run/do", data={"kind": "undo", "client_key": "u", "seq": seq}, headers=HX
    )
    assert desk.offsets.of(2)["G54"].axes["z"] == D(-488)
    kept = client.post(
        f"/jobs/{placed_job}/run/do", data=said | {"what": "G59 X", "client_key": "b"}, headers=HX
    )
    assert (kept.status_code, "kept as “base”" in kept.text) == (422, True)
    assert (
        client.post(
            f"/jobs/{placed_job}/run/do", data=said | {"what": "T03 length", "client_key": "c"}, headers=HX
        ).status_code
        == 200
    )
