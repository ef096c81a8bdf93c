"""Every sheet from entries that answer, with one field made strange: an answer, or a refusal at a field of the sheet."""

from dataclasses import replace
from decimal import Decimal
from time import perf_counter

import pytest

from ditto_run.core.errors import DittoError
from ditto_run.core.place.worth import Cycle
from ditto_run.core.sheet_kinds import BY_KIND, sheet_of
from ditto_run.core.sheets import Known
from ditto_run.core.shop import Ability, Machine
from ditto_run.core.shop.drawers import drawer_of
from ditto_run.web.drawings import draw_picture
from tests.core.place.layouts import BED, HOLDERS, PIECE

MATERIALS = {
    found.name: found
    for found in (drawer_of("materials").value(texts, "mm") for texts in drawer_of("materials").standard())
}
MATERIAL = next(iter(MATERIALS))
LATHE = Machine(1, "Lathe", ability=Ability(), bed=BED)
ANSWERED = {
    "thread": {
        "thread": "M6",
        "side": "internal",
        "percent": "70",
        "depth": "12",
        "room": "20",
        "lead": "plug",
    },
    "lives": {"rows": "T03; 0:41; 45 min; 15 min; 1\nT05; 12; 200 pieces", "pieces": "48", "load": "3"},
    "stickout": {
        "tip": "24",
        "clear": "2",
        "out": "32",
        "cuts": "24",
        "flute": "26",
        "across": "12",
        "nose": "28",
        "work": "mill",
        "edge": "carbide",
        "force": "300 N",
        "longest": "200",
    },
    "speed": {
        "work": "mill",
        "across": "12",
        "group": "aluminium",
        "edge": "carbide",
        "own": "300 m/min",
        "most": "8000",
        "speeds": "500 4500 8000",
        "feed": "0.1",
        "teeth": "3",
        "runout": "0.02",
    },
    "spindle": {
        "work": "mill",
        "across": "16",
        "rpm": "6600",
        "feed": "0.1",
        "depth": "12",
        "width": "16",
        "teeth": "3",
        "kc11": "700",
        "mc": "0.25",
        "power": "3 kW",
        "torque": "48 N·m",
        "amps": "16",
        "takes": "0:30",
    },
    "cutting": {
        "way": "400",
        "feed": "600",
        "moves": "6",
        "move": "40",
        "rapid": "20",
        "accel": "3",
        "turns": "2",
        "pace": "1.1",
        "has": "0:50",
    },
    "minding": {"rows": "Mill 2; 9:24; 2:15\nLathe 1; 2:03; 0:20"},
    "minutes": {
        "cut": "6:00",
        "air": "0:30",
        "change": "2:00",
        "hands": "0:45",
        "gauge": "0:40",
        "every": "2",
        "beside": "no",
        "pieces": "3",
        "start": "48",
        "pace": "1.1",
    },
    "passes": {
        "cut": "turn",
        "start": "50",
        "end": "40",
        "deep": "0.92",
        "first": "0.25",
        "deepest": "2",
        "least": "0.03",
        "last": "0.3",
        "nose": "0.4",
        "spring": "1",
        "compound": "29.5",
    },
    "nose": {
        "group": "alloy steel",
        "ra": "3.2",
        "feed": "0.15",
        "nose": "0.4",
        "flank": "7",
        "stiff": "stiff",
    },
    "direction": {"control": "control", "skin": "clean", "wall": "stiff"},
    "centre": {"across": "20", "off": "0.3", "side": "below"},
    "tapping": {"thread": "M6", "percent": "75", "kc11": "1990", "can": "rigid", "control": "control"},
    "cutters": {"rows": "T02 rough; 0:41\nT01 face; 0:06", "used": "T02 rough", "pieces": "48"},
    "gauging": {"size": "12 ±0.05", "drift": "0.01", "pieces": "2"},
    "hole": {
        "hole": "12 H7",
        "through": "blind",
        "depth": "20",
        "room": "40",
        "entry": "raw",
        "drill": "stub",
    },
    "fit": {"nominal": "20", "purpose": "sliding", "hole": "20.01", "shaft": "19.98"},
    "taper": {"large": "20", "small": "15", "length": "80", "sine_bar": "100"},
    "profile": {"rows": "0 25 8 R0.4\n25 60 12", "join": "0.02"},
    "pattern": {"shape": "circle", "count": "6", "diameter": "80", "hole": "6", "angle": "15"},
    "bend": {"stock": "strip", "thickness": "3", "radius": "6", "angle": "90", "straights": "40 60"},
    "order": {"rows": "turn; 0:40; 0:10; 20:00\ndrill; 0:30; 0:10; 10:00", "pieces": "20", "lot": "5"},
    "machine": {
        "machine": "1",
        "material": MATERIAL,
        "cutting": "turn",
        "diameter": "40",
        "speed": "150",
        "feed": "0.2",
        "depth": "2",
    },
    "rules": {
        "hole_depth": "30",
        "hole": "6",
        "stem": "100",
        "stem_across": "20",
        "drilled": "9.8",
        "reamed": "10",
    },
    "sawn": {"square": "0.3", "across": "40", "length": "90", "facing": "0.2"},
    "marks": {"leaves": "deep", "face": "finished"},
    "on_hole": {"largest": "12.018", "pin": "11.99", "zone": "0.02", "allowed": "0.1"},
    "overlap": {
        "handling": "0:45",
        "cut": "2:50",
        "per_load": "2:48",
        "beside": "1:20",
        "pieces": "3",
        "attended": "start and stop",
    },
    "time_box": {"time": "half an hour", "pieces": "12", "rows": "one vise; 20 min; 3:00\nplate; 2 h; 1:10"},
    "blank": {"shape": "bar", "length": "80", "across": "12", "facing": "0.5", "grip": "5"},
    "starts": {"confidence": "90", "trials": "2", "scrap": "3", "history_good": "45", "history_made": "48"},
    "cuts": {
        "bar": "3000",
        "kerf": "2.5",
        "piece": "80",
        "across": "12",
        "pieces": "60",
        "rear": "300",
        "rpm": "1500",
    },
    "mixed": {"rows": "80 10\n120 6", "stock": "1000", "kerf": "2", "remnant": "30"},
    "mass": {"material": MATERIAL, "finished": "0.05", "chips": "broken", "bin": "100"},
    "incoming": {"across": "11.98", "length": "3000"},
    "ladder": {
        "edge": "chuck side",
        "length": "80",
        "kerf": "2.5",
        "count": "3",
        "across": "12",
        "repeat": "0.02",
        "tolerance": "0.1",
    },
    "stop": {"side": "left", "push": "left", "height": "5", "shorter": "0.4"},
    "blocks": {"sizes": "31.5 40.25", "set": "metric 88"},
    "dial": {
        "places": "5 10.5",
        "per_turn": "2",
        "divisions": "100",
        "cutter": "6",
        "width": "40",
        "height": "20",
        "deep": "5",
        "lap": "2",
    },
    "segments": {"rows": "0 60 8\n60 100 12", "bar_across": "16", "reach": "40", "pass": "1"},
    "strip": {"length": "30", "kerf": "1", "strip": "300", "ends": "10"},
    "grip": {
        "holder": "vise",
        "cutting": "800",
        "torque": "60",
        "screw": "20",
        "depth": "5",
        "height": "25",
        "offset": "5",
        "jaw": "150",
    },
    "clamps": {"thread": "M8", "torque": "20", "engaged": "14", "to_work": "30", "to_heel": "50"},
    "nest": {"largest": "30.05", "smallest": "29.95", "clearance": "0.02", "allowed": "0.2"},
    "thin": {"outside": "60", "inside": "54", "width": "20", "force": "500", "jaws": "3"},
    "vacuum": {"x": "100", "y": "150", "vacuum": "80", "altitude": "300", "cutting": "200"},
    "depth": {"gripped": "8", "stands": "26.5"},
    "reach": {"seat": "17", "deepest": "12.4"},
    "way_round": {"has_side": "yes", "proof": "a pin"},
    "overhang": {"length": "80", "across": "12", "force": "100", "allowed": "0.02"},
    "edge": {
        "side": "left",
        "touches": "-605.02 -605.01 -605.02 -605.02",
        "probe": "10",
        "inward": "3",
        "shown": "",
    },
    "halves": {
        "axis": "X",
        "kind_of": "outside",
        "first": "-605 -605.01",
        "second": "-535",
        "probe": "10",
        "wanted": "60",
        "allowed": "0.05",
    },
    "bore": {
        "kind_of": "bore",
        "points": "57 0\n0 57\n-57 0.01\n0 -57",
        "probe": "6",
        "wanted": "120",
        "round_limit": "0.01",
    },
    "corner": {
        "along": "-560 -133\n-500 -133.02",
        "stop": "-605 -150",
        "probe": "10",
        "jaw_side": "back",
        "stop_side": "left",
        "skew": "0.05",
    },
    "height": {"how": "pad", "touches": "-312.01 -312", "between": "50", "lower": "1"},
    "line": {
        "points": "-600 -130\n-540 -129.5",
        "wanted": "60",
        "allowed": "0.1",
        "drawn": "0",
        "zero_at": "middle",
    },
    "reversal": {"what": "square", "at_0": "0.02 0.021", "at_180": "-0.01", "over": "100"},
    "testcut": {"machine": "1", "cut": "outside", "wanted": "12", "measured": "12.02"},
    "features": {"features": "0 0 10 20\n100 0 110 20.2\n0 50 9.9 70", "limit": "0.02"},
    "rotary": {
        "axis": "A",
        "positive": "left",
        "centre": "-100 -200",
        "zero": "-100 -180",
        "angles": "0 90 180",
    },
    "stations": {
        "setup": "1",
        "cut": "2:30",
        "change": "2:48",
        "handling": "0:45",
        "door": "20",
        "ready": "5:00",
        "quantity": "48",
        "repeat": "0.01",
        "zeros": "0.005",
        "tolerance": "0.06",
        "most": "8",
    },
    "fill": {"setup": "1", "holder": "Vise", "gap": "10", "handle": "off", "beside": "empty"},
}
STRANGE = [
    "0",
    "-1",
    "0.0001",
    "999999",
    "1e9",
    "1e-30",
    "NaN",
    "-Infinity",
    "banana",
    "½",
    "1/0",
    "12,5",
    "1.2.3",
    "3 in",
    "2 mm in",
    "Ø",
    "M",
    "M0",
    "M6x0",
    "%",
    "101 %",
    "0:99",
    "∞",
    "<b>",
    "'; --",
    "\u200b",
    "٣",
    "1" * 60,
    "5\n",
    "a b c d e f g",
    "0 0",
    "10 -5",
]


def known_with(blank: bool) -> Known:
    known = Known("mm", 48, told={"materials": MATERIALS, "machines": {1: LATHE}})
    if blank:
        known = replace(
            known,
            drills=(("10 mm", Decimal(10)), ("11.7 mm", Decimal("11.7"))),
            told=dict(known.told)
            | {
                "blank": sheet_of("blank").answer(ANSWERED["blank"], known).result,
                "cycles": (Cycle(1, "first side", 1, 132, 168, 45),),
                "holders": HOLDERS,
                "layouts": {1: PIECE},
            },
        )
    return known


def test_every_kind_of_sheet_is_tried() -> None:
    assert set(ANSWERED) == set(BY_KIND)


@pytest.mark.parametrize("kind", BY_KIND)
def test_it_answers_before_anything_is_strange(kind: str) -> None:
    answer = sheet_of(kind).answer(ANSWERED[kind], known_with(True))
    assert answer.say.endswith((".", "?", "!"))
    assert answer.source


@pytest.mark.parametrize("blank", [True, False], ids=["blank", "no blank"])
@pytest.mark.parametrize("kind", BY_KIND)
def test_one_strange_field_is_answered_or_refused_there(kind: str, blank: bool) -> None:
    sheet, known = sheet_of(kind), known_with(blank)
    names = {entry.name for entry in sheet.entries}
    for name in names:
        for strange in STRANGE:
            texts = ANSWERED[kind] | {name: strange}
            started = perf_counter()
            try:
                answer = sheet.answer(texts, known)
            except DittoError as refusal:
                assert refusal.field in names, (name, strange, refusal)
                assert refusal.remedy, (name, strange)
                assert len(refusal.problem) < 200, (name, strange)
            else:
                assert answer.say, (name, strange)
                if answer.picture is not None:
                    assert draw_picture(answer.picture, answer.picture_says).startswith("<svg"), (
                        name,
                        strange,
                    )
            assert perf_counter() - started < 3, (name, strange)
