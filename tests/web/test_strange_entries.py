"""Every edit of the plan with one field made strange: kept or refused in words, and every step still opens."""

import pytest
from starlette.testclient import TestClient

from ditto_run.core.edits import (
    AddWays,
    KeepSheet,
    SetFeature,
    SetFinish,
    SetKitPart,
    SetStockSize,
    apply_edit,
)
from ditto_run.desk import Desk
from tests.conftest import SHOP, planned
from tests.core.place.layouts import BED

STEPS = [
    "part",
    "part/missing",
    "part/kit",
    "method",
    "method/order",
    "stock",
    "stock/order",
    "hold",
    "part/features",
    "hold/sheet",
    "place",
    "place/find",
    "place/offsets",
    "place/pallets",
    "place/stations",
    "place/fill",
    "place/files",
    "place/sheet",
    "tools",
]
STRANGE: list[object] = [
    "",
    "-1",
    "1e9",
    "1e-30",
    "NaN",
    "12,345",
    "<b>&",
    "\u200b",
    "1" * 300,
    "0:99",
    [],
    None,
    -1,
    10**12,
]
EDITS: dict[str, dict[str, object]] = {
    "set_heading": {
        "part": "Block",
        "quantity": 12,
        "unit": "mm",
        "customer": "",
        "material": "6061",
        "due": "2026-12-01",
        "spares": 1,
        "batches": 2,
        "purpose": "earn",
        "lifts": True,
        "heat": "H1",
        "approved_by": "RK",
        "customer_words": "nice",
        "agreed": "yes",
        "family": "f",
    },
    "set_characteristic": {
        "name": "edge",
        "size": "12 ±0.1",
        "grade": "functional",
        "why": "fits",
        "face": "bore",
        "limits_hold": "finished",
        "mate": "pin",
        "customer_words": "snug",
        "agreed": "H7",
        "keep": "",
        "setup": None,
        "made_in": None,
        "finish": None,
        "gauge_id": None,
    },
    "set_finish": {
        "name": "paint",
        "film_low": "8",
        "film_high": "15",
        "growth": "0.5",
        "bore_share": "0.8",
        "edge_share": "1.2",
        "pairs": "",
    },
    "set_stock_size": {"name": "bar", "nominal": "12", "measured": "11.98", "keep": ""},
    "set_kit_part": {"name": "bolt", "per_set": 2, "source": "bought", "have": 4, "job_id": None},
    "set_order": {
        "what": "bar",
        "supplier": "Weir Metals",
        "bars": 3,
        "length": "3000",
        "price": "120",
        "expected": "2026-12-01",
        "grade": "316",
        "heat": "H1",
    },
    "set_form": {"part_form": "block", "free_end": "allowed", "chuck_end": "allowed"},
    "add_feature_lines": {"lines": "face left\nface right", "keep": ""},
    "set_feature_form": {"what": "hole", "on_face": "top", "diameter": "6", "through": "on"},
    "set_feature_line": {"line": "slot 20 ±0.03 x 12 deep, full length, top", "keep": ""},
    "set_feature": {
        "name": "pocket",
        "face": "top",
        "feature_kind": "face",
        "refers": ["left"],
        "one_sided": True,
        "characteristic": 1,
    },
    "set_setup": {
        "name": "third",
        "machine_id": 1,
        "holds": "vise",
        "locates": "jaw",
        "handling": "0:40",
        "locates_on": ["bottom"],
        "clamps_on": ["front"],
        "cuts": [],
        "relay": False,
        "centres": [],
        "proof": "pin",
        "stop": "left",
        "torque": "60 N·m",
    },
    "set_station": {
        "setup": 3,
        "label": "Q",
        "holds": "piece",
        "offset": "G57",
        "shift": ["", "", ""],
        "zero": ["", "", ""],
        "unit": "mm",
        "pieces": 1,
    },
    "set_layout": {
        "setup": 3,
        "piece_x": "60",
        "piece_y": "40",
        "piece_z": "32",
        "side_by_side": "1",
        "how": "centred",
        "gap": "",
        "cutter": "20",
        "longest": "150",
        "shortest": "60",
        "clear": "5",
    },
    "place_holder": {
        "setup": 3,
        "holder": "Vise",
        "left": "",
        "front": "",
        "turn": "0",
        "count": "1",
        "gap": "",
    },
    "move_placed": {"key": 99, "left": "10", "front": "10", "turn": "90", "snap": True},
    "change_placed": {"key": 99, "change": "turn"},
    "copy_placed": {"key": 99, "times": "1", "gap": "5"},
    "remove_placed": {"key": 99},
    "line_up": {"setup": 3, "line": "left"},
    "set_tool_step": {"setup": 3, "tool": 7, "does": "drill", "cut": "0:30", "change": "5", "at_once": 6},
    "set_way": {
        "name": "plate",
        "way_kind": "several-up",
        "ready_what": ["plate"],
        "ready_time": ["2 h"],
        "ready_money": ["40"],
        "ready_lasting": ["0"],
        "trials": "1",
        "load": "0:20",
        "locate": "5",
        "cut": "3:00",
        "unload": "5",
        "deburr": "10",
        "gauge": "20",
        "per_load": "30",
        "pieces_per_load": "4",
        "second_cut": "",
        "scrap": "2",
        "labour": "42",
        "machine": "30",
        "material": "3",
        "bought": "",
        "order": "",
        "wait_days": "",
        "machine_id": None,
        "end_first": "",
        "second_machine": "",
    },
    "add_ways": {"kinds": ["strip"], "labour": "42", "machine": "30", "cut": "2:00"},
    "choose_way": {"key": 8, "reason": "quick"},
    "keep_sheet": {
        "sheet": "taper",
        "texts": {"large": "20", "small": "15", "length": "80"},
        "name": "cone",
        "key": None,
        "keep": "",
    },
    "override_finding": {"problem": "Something.", "note": "Seen.", "who": "RK"},
    "move_setup": {"key": 3, "by": 1},
    "move_cut": {"setup": 3, "feature": 99, "by": 1},
    "move_tool_step": {"key": 4, "by": -1},
    "remove_feature": {"key": 99},
    "remove_setup": {"key": 99},
    "remove_way": {"key": 99},
    "remove_sheet": {"key": 99},
    "remove_finish": {"key": 99},
    "remove_kit_part": {"key": 99},
    "remove_stock_size": {"key": 99},
    "remove_tool_step": {"key": 99},
    "remove_characteristic": {"number": 99},
    "remove_station": {"setup": 3, "label": "Z"},
    "remove_override": {"problem": "None such."},
    "add_part": {"name": "Block, right", "quantity": 8, "like": True},
    "remove_part": {"part": 2},
    "set_cycle": {"name": "both", "seats": ["3:A", "3:B"], "machine_id": None, "key": None},
    "remove_cycle": {"key": 9},
    "add_setup_lines": {"lines": "third side; vise\nfourth side; 0:30"},
    "add_tool_lines": {"setup": 3, "lines": "T7 drill 0:20 + 0:08\nT8 tap"},
    "set_figure": {
        "thing": "setup 3",
        "question": "grip",
        "name": "cutting",
        "text": "900 N",
        "why": "measured",
        "ground": "",
        "who": "RK",
    },
    "give_back": {"setup": 3, "name": "stop", "text": "left, by paper"},
}


@pytest.fixture
def job(desk: Desk) -> int:
    desk.shop.save_bed(1, BED, desk.shop.machine(1).ability)
    desk.drawers.save(
        "holders",
        0,
        {
            "name": "Vise",
            "kind": "vise",
            "shape": "flat",
            "low": "0",
            "high": "120",
            "marks": "light",
            "body_x": "100",
            "body_y": "200",
            "jaw_width": "100",
        },
    )
    plan = planned(48)
    for edit in (
        SetFinish("anodise", "8", "15", "0.5"),
        SetStockSize("bar", "12", "11.98"),
        SetKitPart("nut", 1, "bought", 5),
        AddWays(("dial-in", "soft-jaws")),
        KeepSheet("blank", {"shape": "block", "length": "80", "width": "40", "height": "32"}),
        SetFeature("top face", "top", "face"),
    ):
        plan = apply_edit(edit, plan, SHOP).plan
    return desk.jobs.new(plan, "RK")


def send(client: TestClient, desk: Desk, job: int, edit: dict[str, object]):
    version = desk.jobs.load(job).version
    return client.post(f"/api/v1/jobs/{job}/edits", json={"version": version, "edit": edit})


@pytest.mark.parametrize(
    "kind", [kind for kind in EDITS if kind.startswith(("set_", "add_", "choose_", "keep_", "place_"))]
)
def test_it_is_kept_before_anything_is_strange(client: TestClient, desk: Desk, job: int, kind: str) -> None:
    sent = send(client, desk, job, {"kind": kind} | EDITS[kind])
    assert sent.status_code == 200, sent.text


@pytest.mark.parametrize("kind", EDITS)
def test_one_strange_field_is_kept_or_refused_in_words(
    client: TestClient, desk: Desk, job: int, kind: str
) -> None:
    accepted = 0
    for name in EDITS[kind]:
        for strange in STRANGE:
            sent = send(client, desk, job, {"kind": kind} | EDITS[kind] | {name: strange})
            assert sent.status_code in {200, 404, 409, 422}, (name, strange, sent.text)
            accepted += sent.status_code == 200
            if sent.status_code != 200:
                assert len(sent.text) > 20, (name, strange)
    for step in STEPS if accepted else []:
        assert client.get(f"/jobs/{job}/{step}").status_code == 200, step
