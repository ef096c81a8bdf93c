"""Sheets answer what was typed, or say at which field it cannot be used; nothing falls through."""

from decimal import Decimal

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ditto_run.core.errors import BadEntry, DittoError, NotFound
from ditto_run.core.sheet_kinds import BY_KIND, sheet_of
from ditto_run.core.sheets import Known
from ditto_run.core.shop import Ability, Machine
from ditto_run.core.shop.drawers import DRAWERS, drawer_of
from tests.searches import searches

DRILLS = tuple(
    (d.name, d.diameter_mm)
    for d in (drawer_of("drills").value(t, "mm") for t in drawer_of("drills").standard())
)
MATERIALS = {
    m.name: m for m in (drawer_of("materials").value(t, "mm") for t in drawer_of("materials").standard())
}
MILL = Machine(1, "Mill", ability=Ability(Decimal(2), Decimal(20), Decimal(4000), Decimal(300), taps="no"))
KNOWN = Known(
    "mm",
    12,
    drills=DRILLS,
    reamers=(("12 new", Decimal("12.006")),),
    told={"materials": MATERIALS, "machines": {1: MILL}},
)


def say(kind: str, **texts: str) -> str:
    return sheet_of(kind).answer(texts, KNOWN).say


@pytest.mark.parametrize(
    ("kind", "texts", "said"),
    [
        ("thread", {"thread": "M6"}, "Drill 5 mm: 77 % of thread."),
        ("thread", {"thread": "1/4-20", "percent": "75"}, "Drill #7: 75 % of thread."),
        ("thread", {"thread": "1/4-20", "drill": "#7"}, "Drill #7: 75 % of thread."),
        (
            "thread",
            {"thread": "M6", "side": "external"},
            "Turn it to 5.884 mm (0.2317 in), then cut to the pitch diameter.",
        ),
        (
            "fit",
            {"nominal": "12", "hole": "12.006", "shaft": "11.95"},
            "These two have 56 µm (2.2 thou) of play.",
        ),
        ("taper", {"large": "20", "small": "15", "length": "80"}, "Swivel the slide 1.790° (1°47′)."),
        ("pattern", {"count": "6", "diameter": "100"}, "Step 50.000 mm (1.9685 in) from hole to hole."),
        ("profile", {"rows": "0 10 8 R1\n10 20 10"}, "2 stretches join, and none dips."),
        ("rules", {"punched": "2", "plate": "3"}, "1 rule of 1 does not hold."),
        ("rules", {"hole_depth": "12", "hole": "6"}, "1 rule asked, and it holds."),
    ],
)
def test_answers(kind: str, texts: dict, said: str) -> None:
    assert say(kind, **texts) == said


@pytest.mark.parametrize(
    ("kind", "texts", "field"),
    [
        ("thread", {}, "thread"),
        ("thread", {"thread": "Q7"}, "thread"),
        ("thread", {"thread": "M6", "percent": "120"}, "percent"),
        ("thread", {"thread": "M6", "tolerance_class": "6g"}, "tolerance_class"),
        ("thread", {"thread": "M6", "depth": "-3"}, "depth"),
        ("thread", {"thread": "M6", "side": "external", "wire": "9"}, "wire"),
        ("fit", {"nominal": "600"}, "nominal"),
        ("fit", {"nominal": "12", "classes": "H7"}, "classes"),
        ("fit", {"nominal": "12", "classes": "g6/H7"}, "classes"),
        ("taper", {"large": "20"}, "small"),
        ("taper", {"large": "20", "small": "15", "angle": "200"}, "angle"),
        ("taper", {"large": "1,000", "small": "15", "length": "3"}, "large"),
        ("profile", {"rows": "0 10"}, "rows"),
        ("profile", {"rows": "0 1 2\n" * 10_000}, "rows"),
        ("pattern", {"count": "1", "diameter": "9"}, "count"),
        ("pattern", {"count": "2.5", "diameter": "9"}, "count"),
        ("bend", {"thickness": "0", "radius": "1", "straights": "1 2"}, "thickness"),
        ("bend", {"thickness": "2", "radius": "1", "straights": "20"}, "straights"),
        ("bend", {"thickness": "2", "radius": "1", "straights": "1 2", "trials": "9"}, "trials"),
        ("order", {"rows": "saw"}, "rows"),
        ("order", {"rows": "saw; -3\nmill; 4"}, "rows"),
        ("machine", {}, "machine"),
        ("machine", {"machine": "1"}, "material"),
        (
            "machine",
            {
                "machine": "1",
                "material": "C45",
                "diameter": "20",
                "feed": "0.1",
                "depth": "2",
                "speed": "fast",
            },
            "speed",
        ),
        ("rules", {}, "hole_depth"),
    ],
)
def test_refusals_name_their_field(kind: str, texts: dict, field: str) -> None:
    with pytest.raises(DittoError) as caught:
        sheet_of(kind).answer(texts, KNOWN)
    assert caught.value.field == field
    assert caught.value.remedy


@pytest.mark.parametrize("kind", BY_KIND)
@searches(60)
@given(data=st.data())
def test_whatever_is_typed_is_answered_or_refused_at_a_field_of_the_sheet(kind: str, data) -> None:
    sheet = BY_KIND[kind]
    words = st.sampled_from(
        [
            "",
            "12",
            "0",
            "-3",
            "1/2",
            "M6",
            "banana",
            "1e400",
            "20 30 20",
            "0 10 8",
            "∞",
            "1",
            "C45",
            "100",
            "0.1",
            "5%",
            "drill",
        ]
    )
    texts = {entry.name: data.draw(words) for entry in sheet.entries}
    try:
        answer = sheet.answer(texts, KNOWN)
    except DittoError as refusal:
        assert refusal.problem
        return
    assert answer.say


def test_heavy_cuts_are_met_with_an_offer() -> None:
    cut = {
        "machine": "1",
        "material": "C45",
        "cutting": "drill",
        "diameter": "25",
        "feed": "0.3",
        "speed": "25 m/min",
        "travel_x": "400",
    }
    found = sheet_of("machine").answer(cut, KNOWN)
    problems = {finding.code: finding for finding in found.findings}
    assert "pilot of 7.5 mm" in problems["torque"].remedy
    assert problems["travel_x-short"].weight == "stop"
    tapping = sheet_of("machine").answer(
        {"machine": "1", "material": "C45", "cutting": "tap", "thread": "M6", "speed": "10"}, KNOWN
    )
    assert any(finding.code == "no-tapping" for finding in tapping.findings)
    quick = sheet_of("machine").answer({**cut, "diameter": "3", "speed": "330 sfm", "travel_x": ""}, KNOWN)
    assert "4000 rev/min" in quick.facts[0].value


def test_a_thread_too_deep_for_its_room_stops() -> None:
    found = sheet_of("thread").answer({"thread": "M6", "depth": "10", "room": "12"}, KNOWN)
    assert [f.weight for f in found.findings if f.code == "too-deep"] == ["stop"]
    pipe = sheet_of("thread").answer({"thread": "1/8 NPT", "room": "8"}, KNOWN)
    assert [f.code for f in pipe.findings] == ["pipe-too-deep"]


def test_unknown_sheets_and_drawers() -> None:
    with pytest.raises(NotFound):
        sheet_of("banana")
    with pytest.raises(NotFound):
        drawer_of("banana")


@pytest.mark.parametrize("drawer", DRAWERS, ids=lambda drawer: drawer.name)
def test_the_usual_sets_can_be_read(drawer) -> None:
    assert all(drawer.value(texts, "mm") for texts in drawer.standard())


def test_drills_are_exact_whatever_they_are_called() -> None:
    drill = drawer_of("drills")
    sizes = {
        name: drill.value({"name": name}, "mm").diameter_mm
        for name in ("#7", "F", "13/64", "5.1 mm", "1/4", ".201 in")
    }
    assert sizes["#7"] == sizes[".201 in"] == Decimal("5.1054")
    assert sizes["F"] == Decimal("6.5278")
    assert sizes["13/64"] == Decimal("5.159375")
    with pytest.raises(BadEntry) as caught:
        drill.value({"name": "banana"}, "mm")
    assert caught.value.field == "name"
    with pytest.raises(BadEntry):
        drill.value({"name": "#7", "colour": "red"}, "mm")


def test_a_trapezoidal_nut_is_bored_to_its_minor_diameter_and_no_torque_is_made_up_for_it() -> None:
    """Tr20×4: 100 % is the minor diameter, 16; the torque of a tap was that of a 60° thread."""
    found = sheet_of("thread").answer({"thread": "Tr20x4", "drill": "16"}, KNOWN)
    assert found.say.endswith("100 % of thread.")
    assert {f.code for f in found.findings} & {"tight-tap", "minor-out"} == set()
    assert "thread-basic" in {f.code for f in found.findings}
    assert (found.result.torque_75_over_60, found.result.engagement_mm) == (None, None)
    assert not any("side by side" in grid.caption for grid in found.grids)
    assert sheet_of("thread").answer({"thread": "M10", "drill": "8.5"}, KNOWN).result.torque_75_over_60 > 1
