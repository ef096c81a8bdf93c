"""Where things stand, what clashes, and the property that moving inward never adds a finding."""

from dataclasses import replace
from decimal import Decimal as D

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ditto_run.core.errors import BadEntry
from ditto_run.core.place import Clash, Layout, Placed, clashes, expected_mm
from ditto_run.core.place.clashes import push_out
from ditto_run.core.place.fill import fill_table, free_spots, snapped
from ditto_run.core.sheets import Entries
from ditto_run.core.shop.body import read_nests
from tests.core.place.layouts import BED, PALLET, PIECE, VISE, bed, standing, vise
from tests.searches import searches


def found(*standings, table=BED) -> dict[str, Clash]:
    return {clash.code: clash for clash in clashes(standings, table)}


def test_the_zero_is_where_the_stop_meets_the_fixed_jaw() -> None:
    seat = standing(vise(left=200, front=100)).seats[0]
    # jaw face 30 from the back edge of a body 200 deep; a 60 mm piece centred on 100 mm jaws starts 20 in.
    assert seat.zero_mm == (D(220), D(270), D(112))
    assert seat.corner == "back left"
    assert expected_mm(seat, BED) == (D(220) - 750, D(270) - 380, D(112) - 600)


@pytest.mark.parametrize(
    ("change", "zero", "corner"),
    [
        ({"turn": D(180)}, (D(280), D(130)), "front right"),
        ({"turn": D(90)}, (D(180), D(170)), "front left"),
        ({"mirrored": True}, (D(220), D(270)), "back left"),
    ],
)
def test_turning_and_mirroring_take_the_zero_along(change, zero, corner) -> None:
    seat = standing(vise(left=200, front=100, **change)).seats[0]
    assert (seat.zero_mm[:2], seat.corner) == (zero, corner)


def test_several_pieces_between_one_pair_of_jaws() -> None:
    row = replace(PIECE, piece_mm=(D(20), D(40), D(32)), pieces=3, gap_mm=D(2))
    assert standing(vise(), layout=row).seats[0].zero_mm[0] == D(200) + (100 - 64) / D(2)
    packed = standing(vise(), layout=replace(row, how="packed")).seats[0]
    assert packed.zero_mm[0] == D(200)
    on_the_right = replace(packed.station, stop="right")
    from ditto_run.core.place import stand

    right = stand(vise(), (on_the_right,), replace(row, how="packed"), BED).seats[0]
    assert (right.zero_mm[0], right.corner) == (D(300), "back right")


def test_nests_are_shifts_from_the_origin_as_the_pallet_is_turned() -> None:
    flat = Placed(1, 1, "Pallet", PALLET, D(400), D(200))
    assert flat.shift_mm(0) == (D(-50), D(-50))
    assert replace(flat, turn=D(90)).shift_mm(0) == (D(50), D(-50))
    x, y = replace(flat, turn=D(30)).shift_mm(0)
    assert float(x) == pytest.approx(-50 * 0.8660254 + 50 * 0.5, abs=1e-4)
    assert float(y) == pytest.approx(-50 * 0.5 - 50 * 0.8660254, abs=1e-4)


def test_every_station_of_a_pallet_gives_the_same_offset() -> None:
    placed = Placed(1, 1, "Pallet", PALLET, D(400), D(200), turn=D(90))
    seats = [
        replace(seat, station=replace(seat.station, shift=(*placed.shift_mm(seat.station.nest), D(0))))
        for seat in standing(placed, "P").seats
    ]
    assert {expected_mm(seat, BED)[:2] for seat in seats} == {(D(400) - 750, D(200) - 380)}


def test_a_sound_layout_raises_nothing() -> None:
    assert clashes([standing(vise(1, 200, 100)), standing(vise(2, 400, 100), "B")], BED) == []


def test_an_empty_table_raises_nothing() -> None:
    assert clashes([], BED) == []


def test_overlap_names_both_says_by_how_much_and_the_way_out() -> None:
    clash = found(standing(vise(1, 200, 100)), standing(vise(2, 286, 100), "B"))["overlap"]
    assert clash.says == "Vise 1 A and Vise 2 B overlap by 14.0 mm (0.55 in)."
    assert clash.way_out == "Move Vise 2 B 14.0 mm (0.55 in) to the right."
    assert clash.by_mm == pytest.approx(14)
    assert {x for x, _ in clash.outline} == {286.0, 300.0}


def test_touching_is_not_overlapping() -> None:
    still = standing(vise(1, 200, 100, handle_off=True)), standing(vise(2, 300, 100, handle_off=True), "B")
    assert "overlap" not in found(*still)


@pytest.mark.parametrize(
    ("left", "front", "code", "words"),
    [
        (695, 100, "keep-out", "5.0 mm (0.20 in) in the door"),
        (400, 225, "keep-out", "in the column cover"),
        (30, 100, "travel", "it lacks 10.0 mm (0.39 in) to the left"),
        (-4, 100, "off-table", "hangs 4.0 mm (0.16 in) over the table's left edge"),
        (200, 120, "slots", "no T-slot under its bolts: 20.0 mm"),
        (200, -105, "travel", "lacks 5.0 mm (0.20 in) towards you"),
    ],
)
def test_each_check_says_what_where_and_how_far(left, front, code, words) -> None:
    assert words in found(standing(vise(1, left, front)))[code].says


def test_the_handle_has_to_swing_free() -> None:
    clash = found(standing(vise(1, 720, 100)))["handle"]
    assert clash.says.startswith("The handle of Vise 1 A hits the door")
    assert "handle" not in found(standing(vise(1, 720, 100, handle_off=True)))


def test_the_longest_tool_clears_everything_and_the_shortest_reaches_the_seat() -> None:
    # nose 600 at the top; piece top 112, jaws 110: 600 − 112 − 5 leaves 483. At the bottom the nose is at 150, the seat at 80.
    exact = replace(PIECE, longest_mm=D(483), shortest_mm=D(70))
    assert found(standing(vise(), layout=exact)) == {}
    too_long = found(standing(vise(), layout=replace(exact, longest_mm=D(484))))["tool-too-long"]
    assert "1.0 mm (0.04 in) are missing" in too_long.says
    too_short = found(standing(vise(), layout=replace(exact, shortest_mm=D(69))))["tool-too-short"]
    assert "1.0 mm (0.04 in) above the seat" in too_short.says


def test_jaws_and_rows() -> None:
    wide = replace(PIECE, piece_mm=(D(60), D(125), D(32)))
    assert "the piece is 5.0 mm (0.20 in) wider" in found(standing(vise(), layout=wide))["jaws"].says
    row = replace(PIECE, pieces=2)
    assert "20.0 mm (0.79 in) longer than the jaws" in found(standing(vise(), layout=row))["row"].says


def test_pieces_in_nests_too_close_are_named() -> None:
    placed = Placed(1, 1, "Pallet", PALLET, D(400), D(200))
    clash = found(standing(placed, "P", replace(PIECE, piece_mm=(D(110), D(40), D(10)))))["overlap"]
    assert clash.says.startswith("The piece at P1 and the piece at P2 overlap by 10.0 mm")
    assert clash.way_out == "Space the nests out."


def test_a_station_that_differs_from_the_house_is_named() -> None:
    assert "zero at the front right" in found(standing(vise(turn=D(180))))["habit-corner"].says
    assert clashes([standing(vise(turn=D(180)))], bed(corner="front right")) == []


SPOTS = st.tuples(st.integers(-120, 900), st.integers(-220, 420))


def excess(clash_list: list[Clash]) -> dict[str, float]:
    return {c.code: c.by_mm for c in clash_list if c.code in {"travel", "off-table"}}


@searches(120)
@given(SPOTS, st.floats(0, 1), st.sampled_from([0, 90, 180, 270, 33]))
def test_moving_inward_never_adds_a_finding(spot, part, turn) -> None:
    """Towards the middle of the reach, which is on the table: travel and edge only get better."""
    table = bed(keep_outs="")
    out = vise(1, *spot, turn=D(turn))
    home_x, home_y = D(400), D(200)
    inward = replace(
        out,
        x_mm=out.x_mm + (home_x - out.x_mm) * D(str(part)),
        y_mm=out.y_mm + (home_y - out.y_mm) * D(str(part)),
    )
    before, after = (excess(clashes([standing(one, table=table)], table)) for one in (out, inward))
    fits = excess(clashes([standing(replace(out, x_mm=home_x, y_mm=home_y), table=table)], table)) == {}
    assert fits
    assert set(after) <= set(before)


@searches(60)
@given(SPOTS, st.integers(-300, 300), st.integers(-300, 300))
def test_shifting_the_origin_of_the_machine_changes_nothing(spot, dx, dy) -> None:
    """Table, reach, keep-outs and holders all moved by the same amount: the same sentences."""

    def moved(text: str) -> str:
        return " ".join(f"{D(p.split(',')[0]) + dx},{D(p.split(',')[1]) + dy}" for p in text.split())

    shifted = replace(
        BED,
        reach_mm=(BED.reach_mm[0] + dx, BED.reach_mm[1] + dy, BED.reach_mm[2] + dx, BED.reach_mm[3] + dy),
        home_mm=(BED.home_mm[0] + dx, BED.home_mm[1] + dy),
        slots_mm=tuple(slot + dy for slot in BED.slots_mm),
        keep_outs=tuple(
            replace(k, points=tuple((x + dx, y + dy) for x, y in k.points)) for k in BED.keep_outs
        ),
    )
    here = standing(vise(1, *spot))
    there = standing(vise(1, spot[0] + dx, spot[1] + dy))
    assert expected_mm(here.seats[0], BED) == expected_mm(there.seats[0], shifted)
    before = [c.says for c in clashes([here], BED) if c.code != "off-table"]
    after = [c.says for c in clashes([there], shifted) if c.code != "off-table"]
    assert before == after


def test_push_out_agrees_with_a_search_by_shapely() -> None:
    """Independent: the least move is found by trying 3,600 directions with shapely's own overlap."""
    from math import cos, radians, sin

    from shapely import Polygon
    from shapely.affinity import translate

    one = ((0.0, 0.0), (60.0, 10.0), (50.0, 70.0), (5.0, 50.0))
    other = ((40.0, 30.0), (90.0, 35.0), (80.0, 90.0), (45.0, 80.0))
    depth, (nx, ny) = push_out(one, other)
    fixed, moved = Polygon(one), Polygon(other)
    assert fixed.intersection(translate(moved, nx * (depth + 1e-6), ny * (depth + 1e-6))).area < 1e-6
    shorter = depth * 0.995
    assert all(
        fixed.intersection(
            translate(moved, shorter * cos(radians(a / 10)), shorter * sin(radians(a / 10)))
        ).area
        > 0
        for a in range(3600)
    )


def test_snapping_puts_the_first_bolt_over_a_slot() -> None:
    assert snapped(vise(front=120), BED).front_mm == 100
    assert snapped(vise(front=160), BED).front_mm == 200
    assert snapped(vise(front=160), bed(slots="0")).front_mm == 160


def test_free_places_do_not_clash_and_a_full_table_is_full() -> None:
    like = vise(1, 200, 100, handle_off=True)
    spots = free_spots(like, [like], BED, 30, layout=PIECE)
    row = [like, *(replace(like, key=n, x_mm=x, y_mm=y) for n, (x, y) in enumerate(spots, 2))]
    # Worked by hand: five beside it in the front row (0 to 200), five in the back row (200 to 400), itself between.
    assert len(row) == 11
    assert free_spots(like, [like], BED, 2, layout=PIECE)[0] == (
        D(350),
        D(200),
    )  # few go to its right hand first
    assert not {"overlap", "keep-out", "travel", "off-table"} & {
        c.code for c in clashes([standing(p, "A") for p in row], BED)
    }


def test_filling_takes_the_best_turn() -> None:
    long = replace(
        vise(handle_off=True), body=replace(VISE, size_mm=(D(300), D(60)), handle=None, bolts=(), jaw_mm=None)
    )
    fill = fill_table(long, [], bed(slots="0", keep_outs=""), D(10))
    across = {0: 2 * 5, 90: 10}  # 5 rows of 2 (800 wide, 400 deep) against one row of 10 standing
    assert len(fill.spots) >= max(across.values())


@pytest.mark.parametrize(
    ("text", "count", "first"),
    [
        ("rows 2 x 3 at 60,45 from 30,30", 6, (D(30), D(30))),
        ("circle 6 on 100 at 90,90", 6, (D(140), D(90))),
        ("circle 4 on Ø20 at 0,0 from 45°", 4, (D("7.0711"), D("7.0711"))),
        ("10,20 30,40", 2, (D(10), D(20))),
        ("", 0, None),
    ],
)
def test_nests_are_read(text, count, first) -> None:
    nests = [*read_nests(Entries({"nests": text}, "mm", {}))]
    assert len(nests) == count
    if first:
        assert nests[0] == first


@pytest.mark.parametrize(
    "text",
    [
        "rows 2",
        "rows 30 x 30 at 1,1 from 0,0",
        "circle 0 on 5 at 1,1",
        "10,20 10,20",
        "a,b",
        "circle 3 on . at 0,0",
    ],
)
def test_nests_that_cannot_be_are_refused_at_their_field(text) -> None:
    with pytest.raises(BadEntry) as refused:
        list(read_nests(Entries({"nests": text}, "mm", {})))
    assert refused.value.field == "nests"


def test_a_layout_without_sizes_still_has_its_zero() -> None:
    assert standing(vise(), layout=Layout(1)).seats[0].zero_mm == (D(250), D(270), D(80))
