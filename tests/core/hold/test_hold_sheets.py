"""What the sheets of Hold and Stock say: the figures in their facts are those of the pure functions, in both units."""

from dataclasses import replace
from decimal import Decimal

import pytest

from ditto_run.core.errors import BadEntry
from ditto_run.core.hold.nests import carried_runout_mm, fits_in, jack_lift_mm, nest_error_mm, nest_size_mm
from ditto_run.core.method.rules import overhang_rule
from ditto_run.core.sheet_kinds import sheet_of
from ditto_run.core.sheets import Answer, Known
from ditto_run.core.shop.drawers import drawer_of
from ditto_run.core.stock.bars import cut_bar
from ditto_run.core.stock.blank import bar_blank
from ditto_run.core.stock.cuts_sheet import Cuts
from ditto_run.core.units import counted, with_article

D = Decimal
MATERIALS = {
    m.name: m for m in (drawer_of("materials").value(t, "mm") for t in drawer_of("materials").standard())
}
BLANK = bar_blank(D(12), D(86), D(0), D(1), D(0), D(0))
CUT = cut_bar(D(3000), D(88), D(3), D(1), 32)
CUTS = Cuts(64, 32, 2, CUT, CUT, None)
KNOWN = Known("mm", 60, start=64, told={"materials": MATERIALS, "blank": BLANK, "cuts": CUTS}, money="€")


def answered(kind: str, known: Known = KNOWN, **texts: str) -> Answer:
    return sheet_of(kind).answer(texts, known)


def fact(answer: Answer, label: str) -> str:
    return next(f.value for f in answer.facts if f.label == label)


def grid(answer: Answer, place: int = 0) -> list[tuple[str, ...]]:
    return list(answer.grids[place].rows)


def test_the_ladder_takes_its_sizes_from_bars_and_cuts() -> None:
    found = answered("ladder", count="3")
    assert grid(found) == [("1", "91.000"), ("2", "182.000"), ("3", "273.000")]
    other = answered("ladder", count="3", edge="free end side")
    assert [row[1] for row in grid(other)] == ["88.000", "179.000", "270.000"]
    inch = answered("ladder", Known("in", 4), length="1", kerf="1/8", count="2")
    assert [row[1] for row in grid(inch)] == ["1.1250", "2.2500"]


def test_stops_of_every_kind() -> None:
    vise = answered("stop", side="right", push="right", shorter="0.6", height="5")
    assert vise.findings == ()
    assert fact(vise, "Hole off centre by") == "0.300 mm (0.0118 in)"
    pin = answered("stop", kind_of_stop="pin in a jaw", pin="6")
    assert fact(pin, "Ream the jaw") == "6.020 to 6.030 mm"
    tip = answered("stop", kind_of_stop="tool tip", overlap="3", slack="0.4", pull_back="0.05")
    assert fact(tip, "Covers in the worst case") == "2.600 mm (0.1024 in)"
    assert [f.code for f in tip.findings] == ["insert-moves-stop"]
    screwed = answered("stop", kind_of_stop="screw in", thread="M10", depth="12")
    assert screwed.say == "Screw it in 8.00 turns."
    with pytest.raises(BadEntry) as caught:
        answered("stop", kind_of_stop="screw in", thread="M10")
    assert caught.value.field == "depth"


@pytest.mark.parametrize(
    ("draws", "say", "codes"),
    [
        ("onto the stop", "Closing presses the piece onto the stop.", []),
        ("away from it", "Closing leaves 0.080 mm (0.0031 in) of gap.", ["collet-pulls-off"]),
        ("not at all", "Closing leaves the piece where it is.", []),
    ],
)
def test_a_collet_stop_may_be_pulled_off(draws: str, say: str, codes: list[str]) -> None:
    """Common practice, no source: a draw-in collet takes the work along while it closes."""
    found = answered("stop", kind_of_stop="collet", draws=draws, pull_back="0.08")
    assert (found.say, [f.code for f in found.findings]) == (say, codes)


def test_spacers_from_each_set() -> None:
    assert grid(answered("blocks", sizes="31.5"))[0] == ("31.5 mm", "1.5 + 30", "2")
    inch = grid(answered("blocks", sizes="1.3825", set="inch 81"))[0]
    assert inch == ("1.3825 in", "0.1005 + 0.132 + 0.15 + 1", "4")
    own = grid(answered("blocks", sizes="55.6", set="own", own="5 10.2 12 20 25.4 40"))[0]
    assert own[1] == "10.2 + 20 + 25.4"
    worn = grid(answered("blocks", sizes="31.5", wear="2"))[0]
    assert worn[1].startswith("2 + 2") or "2 + 2" in worn[1]
    with pytest.raises(BadEntry) as caught:
        answered("blocks", sizes="0.2")
    assert caught.value.field == "sizes"


def test_dials_laps_and_halves() -> None:
    found = answered(
        "dial",
        places="7.35",
        per_turn="2",
        cutter="6",
        width="40",
        height="20",
        deep="5",
        lap="2",
        finish="0.2",
        touch_a="-3",
        touch_b="43",
    )
    assert grid(found)[0] == ("7.350", "4.350", "10.350", "3", "67 + 0.5", "8.1 h")
    assert grid(found, 1)[0] == ("1", "−3.000", "−3.000")
    assert [row[1] for row in grid(found, 2)] == ["−1.600", "−3.200", "−4.800", "−5.000"]
    assert fact(found, "Centre by halves") == "20.000 mm (0.7874 in)"


def test_segments_give_a_table_with_the_taper_of_each() -> None:
    found = answered("segments", rows="0 60 8\n60 80 8 10", bar_across="12", reach="30", **{"pass": "1"})
    assert found.say == "3 segments, 5 passes."
    assert [row[4] for row in grid(found)] == ["–", "–", "8.000 to 10.000"]
    assert all("G0" not in str(each.rows) for each in found.grids)


def test_a_strip_counts_its_saw_cuts() -> None:
    """13 pieces of 20 and 14 cuts of 2 are 288 of 300 − 2 × 5; in the middle that leaves 6 outside each end cut."""
    found = answered("strip", length="20", kerf="2", strip="300", ends="5")
    assert found.say == "13 pieces a strip, 5 strips for 64."
    assert (grid(found)[:2], grid(found)[-1], len(grid(found))) == (
        [("1", "6.000"), ("2", "28.000")],
        ("14", "292.000"),
        14,
    )
    assert fact(found, "Left at each end") == "6.00 mm (0.236 in)"
    assert fact(found, "Pieces of the last strip") == "12"


def test_a_strip_holds_no_more_than_is_wanted_and_without_ends_is_not_slit_there() -> None:
    few = answered("strip", replace(KNOWN, start=8), length="20", kerf="2", strip="300", ends="5")
    assert few.say == "8 pieces a strip, 1 strip for 8."
    bare = answered("strip", length="20", kerf="2", strip="284")
    assert (len(grid(bare)), grid(bare)[0]) == (12, ("1", "20.000"))


def test_the_ladder_says_how_far_the_bar_is_out_and_that_it_is_far() -> None:
    """3 pieces of 20 and their 3 kerfs of 3: 69, whichever edge was zeroed; 5.8 times a bar of 12."""
    for edge in ("chuck side", "free end side"):
        found = answered("ladder", length="20", kerf="3", count="3", edge=edge)
        assert fact(found, "Bar out of the collet at least").startswith("69.0 mm")
        assert [f.code for f in found.findings] == ["stick-out"]


def test_grip_from_a_rating_and_from_torque() -> None:
    rated = answered("grip", cutting="1000", rated="10000")
    assert rated.say == "It holds 3.0 times the cut."
    turned = answered(
        "grip", holder="chuck", cutting="1000", torque="60", screw="20", k="0.2", friction="0.2"
    )
    assert fact(turned, "Clamping force") == "15,000 N (3,372 lbf)"
    assert turned.say == "It holds 9.0 times the cut."
    with pytest.raises(BadEntry) as caught:
        answered("grip", cutting="1000")
    assert caught.value.field == "torque"


def test_a_nest_and_what_else_it_fits() -> None:
    assert nest_size_mm(D("31.55"), D("0.02")) == D("31.59")
    assert nest_error_mm(D("31.59"), D("31.45")) == D("0.07")
    assert fits_in(D("31.59"), D("0.02"), (D("31.5"), D("31.58"), D(30)), D("0.2")) == (D("31.5"),)
    assert carried_runout_mm(D("0.01"), (D("0.005"), D("0.004"))) == D("0.019")
    found = answered(
        "nest",
        largest="31.55",
        smallest="31.45",
        allowed="0.05",
        others="31.5 30",
        arbor="0.01",
        seat_a="0.005",
    )
    assert {f.code for f in found.findings} == {"nest-loose"}
    assert fact(found, "Also fits") == "31.500 mm (1.2402 in)"
    assert fact(found, "Run-out once carried over") == "15 µm (0.6 thou)"
    jacked = answered(
        "nest", largest="31.55", jack="500", span="120", width="40", thick="8", indicator="0.01"
    )
    assert {f.code for f in jacked.findings} == {"jack-lifts"}
    with pytest.raises(BadEntry) as caught:
        answered("nest", largest="3", smallest="4")
    assert caught.value.field == "smallest"


def test_a_jack_lifts_as_beam_theory_says() -> None:
    """F L³/48EI: 500 N, 120 mm, 40 × 8 mm of steel: 0.0502 mm, worked by hand: I = 1706.7 mm⁴."""
    assert jack_lift_mm(500, 120, 40, 8, 210_000) == pytest.approx(
        500 * 120**3 / (48 * 210_000 * 1706.667), rel=1e-5
    )
    lifts = [jack_lift_mm(500, 120, 40, thick, 210_000) for thick in range(4, 12)]
    assert lifts == sorted(lifts, reverse=True)


def test_a_long_tool_is_no_rigid_tool() -> None:
    """Common practice, no source."""
    assert overhang_rule(40, 10, "steel").holds
    assert not overhang_rule(41, 10, "steel").holds
    assert overhang_rule(60, 10, "carbide").holds


def test_mass_counts_whole_bars_and_the_incoming_check_the_blank() -> None:
    found = answered("mass", material="316 stainless", chips="short curls")
    assert fact(found, "Bought") == "5.42 kg (11.9 lb)"
    assert "€" in found.say
    came = answered("incoming", across="12.05", length="87.5")
    assert came.say == "1 size is short."
    assert answered("incoming", across="12.05").say == "It is large enough: section measured."


def test_starts_say_why() -> None:
    known = Known("mm", 60, spares=2, trials=3, scrap=5.0)
    found = answered("starts", known)
    assert found.why == "60 wanted and 2 spares, 3 to set up with, 6 more because 5% scrap is expected."
    assert answered("starts", known, scrap="0").result.start == 65
    assert [row[0] for row in grid(found)] == ["50 %", "80 %", "90 %", "95 %", "99 %"]
    starts = [int(row[1]) for row in grid(found)]
    assert starts == sorted(starts)


def test_mixed_lengths_name_their_bars() -> None:
    found = answered("mixed", rows="700 x 5 strut", stock="3000\n1500 x 1 A7 offcut", kerf="3")
    assert found.say.startswith("1 new bar, longest offcut 891 mm")
    assert {row[0] for row in grid(found)} == {"1 × A7", "1 × 3000"}
    assert fact(found, "Offcuts used up") == "1"


def test_a_block_of_plate() -> None:
    found = answered(
        "blank", shape="block", length="60", width="40", height="31.5", facing="2", skin="1", grip="6"
    )
    assert found.say == "Blank 64.00 mm (2.520 in) × 42.00 mm (1.654 in) × 39.50 mm (1.555 in)."
    assert found.result.across_mm == D("39.5")


@pytest.mark.parametrize("sizes", ["NaN", "0", "Infinity", "1e9", "12 -3"])
def test_sizes_of_spacers_that_cannot_be_meant(sizes: str) -> None:
    with pytest.raises(BadEntry) as caught:
        answered("blocks", sizes=sizes)
    assert caught.value.field == "sizes"


def test_a_comma_and_a_space_part_two_sizes() -> None:
    assert [row[0] for row in grid(answered("blocks", sizes="31.5, 12.5,"))] == ["31.5 mm", "12.5 mm"]


def test_forces_are_typed_and_said_in_the_unit_of_the_job() -> None:
    """1000 N are 224.8 lbf; typed alone in a job in inches 225 is pounds, and a unit typed is taken at its word."""
    metric = answered("grip", cutting="1000", rated="10 kN")
    inch_known = replace(KNOWN, unit="in")
    inch = answered("grip", inch_known, cutting="224.809", rated="10000 N")
    assert metric.result["factor"] == pytest.approx(inch.result["factor"], rel=1e-5)
    assert (fact(metric, "Cutting force"), fact(inch, "Cutting force")) == (
        "1,000 N (225 lbf)",
        "225 lbf (1,000 N)",
    )
    with pytest.raises(BadEntry, match="“m” is no unit of a force") as refused:
        answered("grip", cutting="5 m", rated="10")
    assert refused.value.field == "cutting"
    with pytest.raises(BadEntry, match=r"outside 0\.0225 to 224,809 lbf"):
        answered("grip", inch_known, cutting="0.01", rated="10")


@pytest.mark.parametrize("text", ["1 questions", "1 features"])
def test_one_is_not_many(text: str) -> None:
    assert counted(1, text.split()[1].removesuffix("s")) == text.removesuffix("s")
    assert [counted(n, w) for n, w in ((0, "pass"), (2, "stretch"), (1200, "piece"))] == [
        "0 passes",
        "2 stretches",
        "1,200 pieces",
    ]
    assert (with_article("offcut"), with_article("drill")) == ("an offcut", "a drill")


def test_a_stop_is_said_where_it_is_and_asked_about_on_the_side_nobody_pushes_to() -> None:
    assert (
        answered("stop", kind_of_stop="vise", side="left", push="left").say
        == "Stop at the left, corner relieved."
    )
    found = answered("stop", kind_of_stop="vise", side="left", push="right")
    assert (found.say, [f.code for f in found.findings]) == (
        "Put the stop at the right: there the piece is pushed.",
        ["pulling-side"],
    )
