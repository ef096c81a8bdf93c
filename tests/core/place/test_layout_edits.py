"""The layout's edits: placing, moving, copying, lining up; and what is refused."""

from decimal import Decimal as D

import pytest

from ditto_run.core.edits import (
    ChangePlaced,
    CopyPlaced,
    LineUp,
    MovePlaced,
    PlaceHolder,
    RemovePlaced,
    SetLayout,
    SetStation,
    apply_edit,
)
from ditto_run.core.errors import BadEntry, DittoError, NotNow
from ditto_run.core.plan import plan_findings
from ditto_run.core.plan.held import standings
from ditto_run.core.sheets import Entries
from ditto_run.core.shop import Bed
from ditto_run.core.shop.bed import LABELS, bed_texts, read_bed
from ditto_run.core.shop.body import read_body
from ditto_run.core.shop.outlines import read_outline
from tests.core.place.layouts import BED, SHOP, TRAVEL, laid_out

THREE = PlaceHolder(1, "Vise", count="3", gap="20")


def lefts(plan) -> list[D]:
    return [placed.left_mm for placed in plan.placed]


def test_placing_gives_a_label_an_offset_and_a_free_place_each() -> None:
    plan = laid_out(THREE, PlaceHolder(1, "Pallet"))
    assert [(s.label, s.offset) for s in plan.stations[:3]] == [("A", "G54"), ("B", "G55"), ("C", "G56")]
    assert [(s.label, s.offset, s.shift[:2]) for s in plan.stations[3:5]] == [
        ("P1", "G57", (D(-50), D(-50))),
        ("P2", "G57", (D(50), D(-50))),
    ]
    assert "overlap" not in {f.code for f in plan_findings(plan, SHOP.machines)}


def test_a_typed_place_is_kept_and_an_edge_alone_moves_alone() -> None:
    plan = laid_out(PlaceHolder(1, "Vise", left="90", front="4 in"))
    assert (plan.placed[0].left_mm, plan.placed[0].front_mm) == (D(90), D("101.6"))
    moved = apply_edit(MovePlaced(plan.placed[0].key, left="120"), plan, SHOP).plan.placed[0]
    assert (moved.left_mm, moved.front_mm) == (D(120), D("101.6"))
    turned = apply_edit(MovePlaced(moved.key, turn="90"), plan, SHOP).plan.placed[0]
    assert (turned.left_mm, turned.front_mm, turned.across_mm) == (D(90), D("101.6"), (D(200), D(100)))
    on_slot = apply_edit(MovePlaced(moved.key, front="118", snap=True), plan, SHOP).plan.placed[0]
    assert on_slot.front_mm == D(100)


def test_turning_a_pallet_turns_its_shifts() -> None:
    plan = laid_out(PlaceHolder(1, "Pallet"))
    turned = apply_edit(ChangePlaced(plan.placed[0].key, "turn"), plan, SHOP).plan
    assert turned.stations[0].shift[:2] == (D(50), D(-50))
    for _ in range(3):
        turned = apply_edit(ChangePlaced(plan.placed[0].key, "turn"), turned, SHOP).plan
    assert turned == plan


def test_copying_and_taking_away() -> None:
    plan = laid_out(PlaceHolder(1, "Vise", left="60", front="100"))
    copied = apply_edit(CopyPlaced(plan.placed[0].key, times="2", gap="10"), plan, SHOP).plan
    assert lefts(copied) == [D(60), D(170), D(280)]
    assert {placed.front_mm for placed in copied.placed} == {D(100)}
    gone = apply_edit(RemovePlaced(copied.placed[1].key), copied, SHOP).plan
    assert [s.label for s in gone.stations] == ["A", "C"]


def test_lining_up_and_spreading() -> None:
    plan = laid_out(
        *(PlaceHolder(1, "Vise", left=str(x), front=str(y)) for x, y in ((60, 100), (200, 130), (400, 90)))
    )
    lined = apply_edit(LineUp(1, "back"), plan, SHOP).plan
    assert {placed.front_mm for placed in lined.placed} == {D(100)}
    spread = apply_edit(LineUp(1, "spread x"), lined, SHOP).plan
    assert lefts(spread) == [D(60), D(230), D(400)]


@pytest.mark.parametrize("change", ["turn", "mirror", "handle", "stays"])
def test_changes_go_back_where_they_came_from(change: str) -> None:
    plan = laid_out(PlaceHolder(1, "Vise"))
    times = 4 if change == "turn" else 2
    again = plan
    for _ in range(times):
        again = apply_edit(ChangePlaced(plan.placed[0].key, change), again, SHOP).plan  # type: ignore[arg-type]
    assert again == plan


def test_changing_a_station_keeps_its_holder() -> None:
    plan = laid_out(PlaceHolder(1, "Vise"))
    changed = apply_edit(SetStation(1, "D", "vise", "G58", was="A", stop="right"), plan, SHOP).plan
    assert changed.stations[0].placed == plan.placed[0].key
    assert [s.corner for s in standings(changed, 1, BED)[0].seats] == [""]


def test_pieces_side_by_side_are_counted_at_the_station() -> None:
    plan = laid_out(
        PlaceHolder(1, "Vise"), SetLayout(1, "20", "40", "32", side_by_side="3", how="packed", cutter="10")
    )
    assert plan.stations[0].pieces == 3
    assert plan.layout(1).row_mm == 60


@pytest.mark.parametrize(
    ("edit", "field", "words"),
    [
        (PlaceHolder(1, "No such"), "holder", "no holder “No such”"),
        (PlaceHolder(1, "Unmeasured"), "holder", "no footprint"),
        (PlaceHolder(1, "Vise", count="30"), "count", "more fit"),
        (PlaceHolder(1, "Vise", left="x", front="1"), "left", "not a length"),
        (PlaceHolder(1, "Vise", turn="400"), "turn", "outside"),
        (SetLayout(1, piece_x="60"), "piece_y", "missing"),
        (SetLayout(1, longest="50", shortest="60"), "shortest", "longer than"),
        (SetLayout(1, side_by_side="0"), "side_by_side", "outside"),
    ],
)
def test_bad_entries_are_answered_at_their_field(edit, field, words) -> None:
    with pytest.raises(BadEntry, match=words) as refused:
        laid_out(edit)
    assert refused.value.field == field


def test_without_a_measured_table_there_is_no_layout() -> None:
    with pytest.raises(NotNow, match="Old mill is not measured"):
        laid_out(PlaceHolder(1, "Vise"), machine=2)
    with pytest.raises(NotNow, match="nothing to line up"):
        laid_out(LineUp(1, "left"))


def test_a_table_reads_back_as_it_was_typed() -> None:
    assert isinstance(BED, Bed)
    assert read_bed(Entries(bed_texts(BED), "mm", LABELS), TRAVEL) == BED


@pytest.mark.parametrize(
    ("name", "text"),
    [
        ("nose", "300"),
        ("slot_pitch", "400"),
        ("reach_from", "1,2 3,4"),
        ("keep_outs", "door 1,2"),
        ("keep_outs", "door: 0,0 10,10 10,0 0,10"),
        ("keep_outs", "door: 5,5"),
        ("slots", "99"),
        ("table_x", ""),
    ],
)
def test_a_table_that_cannot_be_is_refused_at_its_field(name: str, text: str) -> None:
    from tests.core.place.layouts import TABLE

    with pytest.raises(DittoError) as refused:
        read_bed(Entries(TABLE | {name: text}, "mm", LABELS), TRAVEL)
    assert refused.value.field == name


def test_a_table_wants_the_travel() -> None:
    from tests.core.place.layouts import TABLE

    with pytest.raises(BadEntry, match="travel"):
        read_bed(Entries(TABLE, "mm", LABELS), (D(1), None, D(2)))


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("0,0 10,10 10,0 0,10", "crosses itself near 5, 5"),
        ("0,0", "three points"),
        ("0,0 5,0 10,0", "encloses nothing|crosses"),
        ("0,0 x", "not a point"),
    ],
)
def test_outlines_that_cannot_be_are_refused(text: str, words: str) -> None:
    with pytest.raises(BadEntry, match=words):
        read_outline(text, "mm", "outline")


@pytest.mark.parametrize(
    ("texts", "field"),
    [
        ({"body_x": "100", "body_y": "200", "nests": "150,20"}, "nests"),
        ({"body_x": "100", "body_y": "200", "bolts": "50,500"}, "bolts"),
        ({"body_x": "100", "body_y": "200", "jaw_width": "90", "jaw_at": "200"}, "jaw_at"),
        ({"body_x": "100", "body_y": "200", "handle_at": "5,5"}, "handle_swing"),
        ({"body_x": "100"}, "body_y"),
        ({"outline": "0,0 10,10 10,0 0,10"}, "outline"),
    ],
)
def test_bodies_that_cannot_be_are_refused_at_their_field(texts: dict[str, str], field: str) -> None:
    with pytest.raises(BadEntry) as refused:
        read_body(Entries(texts, "mm", {}), D(100))
    assert refused.value.field == field


def test_an_outline_makes_its_own_footprint() -> None:
    body = read_body(Entries({"outline": "10,10 110,10 110,60 60,60 60,90 10,90"}, "in", {}), D(0))
    assert body is not None
    assert body.size_mm == (D(2540), D(2032))
    assert read_body(Entries({}, "mm", {}), D(0)) is None
