"""Proposed tools: what holds is proposed and nothing else, in the order of the rules; more tools never make it worse."""

from decimal import Decimal
from itertools import pairwise

import pytest
from hypothesis import given as for_all
from hypothesis import strategies as st

from ditto_run.core.part.features import Named, known_feature
from ditto_run.core.propose.proposal import FeatureChoice, Proposal, ToolsThere, propose_tools
from ditto_run.core.propose.usual import usual_tools
from ditto_run.core.propose.ways import ORDER, said_by, wanted_of, ways_of
from ditto_run.core.shop.shop_tools import ShopTool
from ditto_run.core.sizes import read_size
from ditto_run.core.tools.order_rules import order_rule_findings
from ditto_run.core.tools.tool_step import ToolStep
from tests.searches import searches

MM = Decimal


def feature(line: str, key: int = 1, form: str = "block") -> Named:
    found = known_feature(line, form, "mm")  # type: ignore[arg-type] # of Form
    assert found is not None, line
    return Named(key, found.called or f"{found.kind} {key}", found)


def tool(number: int | None, kind: str, across: str = "", **more: object) -> ShopTool:
    name = str(more.pop("name", f"T{number} {kind}"))
    return ShopTool(name, number, "", kind, MM(across) if across else None, **more)  # type: ignore[arg-type] # of its fields


FACE, TEN, SIX = tool(1, "face mill", "50"), tool(2, "end mill", "10"), tool(3, "end mill", "6")
SPOT, EDGE = tool(4, "spot drill"), tool(5, "chamfer", "10")
M6 = tool(6, "tap", name="T6 M6 tap")
DRILLS = tuple((f"{MM(n) / 10} mm", MM(n) / 10) for n in range(10, 131))
SHOP = ToolsThere((FACE, TEN, SIX, SPOT, EDGE, M6), DRILLS, (("12 mm", MM("12.006")),))
SLOT = "slot 12 ±0.2 × 5 deep, full length on top"
CLOSE_SLOT = "slot 12 ±0.025 × 5 deep, full length on top"
CLOSEST_SLOT = "slot 12 ±0.005 × 5 deep, full length on top"


def of(proposal: Proposal, key: int = 1) -> FeatureChoice:
    return next(choice for choice in proposal.choices if choice.key == key)


@pytest.mark.parametrize(
    ("line", "grade"),
    [
        ("bore 12 H7 through on top", 7),
        ("bore 12 H11 through on top", 11),
        (CLOSE_SLOT, 9),  # 50 µm at 12 mm: IT9 is 43, IT10 70
        ("hole 8 through on top", None),
    ],
)
def test_the_tightest_size_is_told_by_its_grade(line: str, grade: int | None) -> None:
    """Held to the table of ISO 286-1: 12 mm lies in 10 to 18, IT7 18, IT9 43, IT10 70, IT11 110 µm."""
    found = wanted_of(feature(line))
    assert (found.grade if found is not None else None) == grade


def test_a_wide_slot_is_cut_at_once_or_by_two_tools() -> None:
    quick, thorough = propose_tools([feature(SLOT)], SHOP, turned=False)
    assert [(step.tool, step.does) for step in quick.steps] == [(2, "finish slot 1")]
    assert [(step.tool, step.does) for step in thorough.steps] == [(2, "rough slot 1"), (3, "finish slot 1")]
    wide = ToolsThere(
        (tool(9, "end mill", "12"),)
    )  # as wide as the slot: it cuts it at once and finishes no wall
    assert of(propose_tools([feature(SLOT)], wide, turned=False)[0]).is_whole
    assert not of(propose_tools([feature(CLOSE_SLOT)], wide, turned=False)[0]).is_whole
    assert (quick.changes, thorough.changes) == (1, 2)
    way = of(quick).way
    assert way is not None
    assert way.name == "milled at once"


def test_a_close_slot_is_not_cut_at_once_and_the_closest_is_claimed_by_none() -> None:
    quick, _ = propose_tools([feature(CLOSE_SLOT)], SHOP, turned=False)
    assert [step.does for step in quick.steps] == ["rough slot 1", "finish slot 1"]
    assert "milled at once: holds IT10, the width wants IT9." in of(quick).turned_down
    (only,) = propose_tools([feature(CLOSEST_SLOT)], SHOP, turned=False)
    assert not of(only).held
    assert not of(only).is_whole
    assert only.steps == ()


def test_a_reamed_bore_has_its_drill_and_what_is_lacking_is_said_with_the_nearest() -> None:
    quick, *_ = propose_tools([feature("bore 12 H7 through on top")], SHOP, turned=False)
    assert [step.does.split()[0] for step in quick.steps] == ["spot", "drill", "ream"]
    assert of(quick).tools[-1] == ShopTool("12 mm", None, "", "reamer", MM("12.006"))
    bare = ToolsThere((FACE, TEN, SPOT), DRILLS)
    (only, *_) = propose_tools([feature("bore 12 H7 through on top")], bare, turned=False)
    assert not of(only).is_whole
    assert of(only).lacks == ("No reamer 12 mm to ream with: none is on Shop.",)
    assert "drilled, then milled round: holds IT9, the diameter wants IT7." in of(only).turned_down
    assert only.steps == ()


BAR = tool(7, "boring bar", "8")


@pytest.mark.parametrize(
    ("line", "by_hand", "way", "held"),
    [
        ("bore 12 H7 through, top, 16 ±0.2 from left, 20 from front", False, "drilled, then reamed", True),
        ("bore 12 H7 through, top, 16 ±0.1 from left, 20 from front", False, "drilled, then reamed", True),
        ("bore 12 H7 through, top, 16 ±0.09 from left, 20 from front", False, "drilled, then bored", True),
        ("bore 12 H7 through, top, 16 ±0.1 from left, 20 from front", True, "drilled, then bored", True),
        ("bore 12 H7 through, top, 16 ±0.02 from left, 20 from front", False, "drilled, then bored", True),
        ("bore 12 H7 through, top, 16 ±0.02 from left, 20 from front", True, "drilled, then bored", False),
        ("4 holes Ø6.6 through, on 40 ±0.01 x 20 centres, top", False, "drilled, then bored", False),
        ("hole 6 through, top, 16 from left, 20 from front", False, "drilled", True),
    ],
)
def test_a_reamer_follows_the_hole_and_a_bar_does_not(line: str, by_hand: bool, way: str, held: bool) -> None:
    """How near its place a way leaves a hole: common practice, no source. A reamer follows the drilled hole, a boring bar goes where the spindle is."""
    there = ToolsThere((*SHOP.tools, BAR), DRILLS, SHOP.reamers, by_hand=by_hand)
    quick, *_ = propose_tools([feature(line)], there, turned=False)
    chosen = of(quick).way
    assert chosen is not None
    assert of(quick).held is held
    if held:
        assert chosen.name == way
    if way == "drilled, then bored" and "12 H7" in line and not by_hand:
        assert "drilled, then reamed: leaves it within 0.1 mm of its place, " in " ".join(
            of(quick).turned_down
        )


@pytest.mark.parametrize(
    ("line", "turned", "way", "um"),
    [
        ("bore 12 H7 through on top", False, "drilled, then reamed", "1.6"),
        ("hole 6 through on top", False, "drilled", "6.3"),
        (
            "hole 6 through on top, counterbore 11 x 6 deep",
            False,
            "drilled",
            "6.3",
        ),  # of the hole, not of its mouth
        (SLOT, False, "milled at once", "3.2"),
        (SLOT, False, "roughed, then finished by another", "1.6"),
        ("M6 tapped hole 12 deep on top", False, "drilled, then tapped", None),
        ("shoulder 20 x 30", True, "turned at once", "3.2"),
        ("knurl 10 long, free end", True, "knurled", None),
    ],
)
def test_how_rough_a_way_leaves_it_is_said_of_its_last_work(
    line: str, turned: bool, way: str, um: str | None
) -> None:
    """Common practice, no source."""
    ways = ways_of(
        feature(line, form="turned" if turned else "block"),
        turned=turned,
        drills=DRILLS,
        reamers=SHOP.reamers,
    )
    found = next(one for one in ways if one.name == way)
    assert found.leaves_um == (None if um is None else MM(um))


def test_on_a_lathe_a_hole_is_on_the_axis_and_has_no_place() -> None:
    line = "bore 14 H7 through, free end"
    quick, *_ = propose_tools(
        [feature(line, form="turned")], ToolsThere(usual_tools(turned=True), DRILLS), turned=True
    )
    way = of(quick).way
    assert way is not None
    assert way.place_mm is None


def test_a_thread_wants_its_own_tap_and_a_drill_within_its_minor_diameter() -> None:
    thread = feature("M6 tapped hole 12 deep on top")
    quick, *_ = propose_tools([thread], SHOP, turned=False)
    drill = quick.steps[1]
    assert drill.does.startswith("drill")
    assert MM("4.917") <= (drill.across_mm or 0) <= MM("5.153")  # 6H, ISO 965-1
    assert quick.steps[-1].tool == 6
    other = ToolsThere((SPOT, tool(6, "tap", name="T6 M8 tap")), DRILLS)
    assert of(propose_tools([thread], other, turned=False)[0]).lacks == ("No tap M6×1 to tap with.",)


@pytest.mark.parametrize(
    ("line", "form", "turned", "said"),
    [
        ("weld the lug", "block", False, "By hand."),
        ("groove 3 wide to Ø9 at 20", "turned", False, "Not on a mill"),
        ("slot 6 x 3 deep x 20 long", "turned", True, "Not on a lathe"),
    ],
)
def test_what_a_machine_cannot_make_is_left_and_said(line: str, form: str, turned: bool, said: str) -> None:
    (only,) = propose_tools([feature(line, form=form)], SHOP, turned=turned)
    assert of(only).way is None
    assert of(only).lacks[0].startswith(said)


def test_worn_tools_rough_and_short_ones_do_not_reach() -> None:
    worn = tool(2, "end mill", "10", condition="worn")
    short = tool(7, "end mill", "10", flute_mm=MM(4))
    (only, *_) = propose_tools([feature(SLOT)], ToolsThere((worn,)), turned=False)
    assert only.steps == ()  # it wants a finish
    (only, *_) = propose_tools([feature(SLOT)], ToolsThere((worn, SIX)), turned=False)[1:]
    assert [(step.tool, step.does.split()[0]) for step in only.steps] == [(2, "rough"), (3, "finish")]
    assert propose_tools([feature(SLOT)], ToolsThere((short,)), turned=False)[0].steps == ()


def test_loose_tools_get_numbers_that_none_has() -> None:
    quick, *_ = propose_tools([feature("hole 8 through on top")], SHOP, turned=False, taken={7})
    numbers = [step.tool for step in quick.steps]
    assert numbers == [4, 8]


LINES = (
    SLOT,
    CLOSE_SLOT,
    CLOSEST_SLOT,
    "hole 8 through on top",
    "bore 12 H7 through on top",
    "M6 tapped hole 12 deep on top",
    "step 10 × 4 on front",
    "chamfer 1 × 45° all round",
    "weld the lug",
)
KINDS = ("face mill", "end mill", "spot drill", "drill", "reamer", "tap", "chamfer", "boring bar")
tools = st.builds(
    lambda number, kind, across: tool(number, kind, str(across), name=f"T{number} M6 {kind}"),
    st.integers(1, 40),
    st.sampled_from(KINDS),
    st.sampled_from([5, 6, 8, 9, 10, 12]),
)
shops = st.lists(tools, max_size=8, unique_by=lambda one: one.number).map(tuple)
parts = st.lists(st.sampled_from(LINES), min_size=1, max_size=6).map(
    lambda lines: [feature(line, key) for key, line in enumerate(lines, 1)]
)


@searches(150)
@for_all(parts, shops)
def test_no_proposal_breaks_a_rule_of_order_or_claims_what_it_does_not_hold(
    features: list[Named], kept: tuple[ShopTool, ...]
) -> None:
    for proposal in propose_tools(features, ToolsThere(kept, DRILLS), turned=False):
        steps = [
            ToolStep(n, 1, step.tool, step.does, makes=step.makes) for n, step in enumerate(proposal.steps)
        ]
        assert order_rule_findings(1, "first side", steps) == []
        places = [ORDER.index(step.does.split()[0]) for step in proposal.steps]  # type: ignore[arg-type] # of Does
        assert all(a <= b for a, b in pairwise(places))
        made = {key for step in proposal.steps for key in step.makes}
        assert made == {choice.key for choice in proposal.choices if choice.is_whole}
        for choice in proposal.choices:
            if choice.is_whole and choice.wanted is not None and choice.way is not None:
                assert choice.wanted.role == "diameter" or (choice.way.grade or 10) <= choice.wanted.grade


@searches(150)
@for_all(parts, shops, tools, st.randoms(use_true_random=False))
def test_another_tool_never_makes_fewer_features_and_the_order_of_the_register_changes_nothing(
    features: list[Named], kept: tuple[ShopTool, ...], more: ShopTool, chance
) -> None:
    before = propose_tools(features, ToolsThere(kept, DRILLS), turned=False)
    if more.number not in {one.number for one in kept}:
        after = propose_tools(features, ToolsThere((*kept, more), DRILLS), turned=False)
        assert after[0].whole >= before[0].whole
    other = [*kept]
    chance.shuffle(other)
    assert propose_tools(features, ToolsThere(tuple(other), DRILLS), turned=False) == before
    fewer = propose_tools(features[1:], ToolsThere(kept, DRILLS), turned=False)
    first = sum(choice.is_whole for choice in before[0].choices[:1])
    assert fewer[0].whole == before[0].whole - first


def test_every_kind_on_a_lathe_has_a_way_or_a_word() -> None:
    for line in (
        "shoulder 20 h7 x 30",
        "groove 3 wide to Ø9 at 20",
        "face, free end",
    ):
        ways = ways_of(feature(line, form="turned"), turned=True)
        assert ways
    (only,) = propose_tools(
        [feature("shoulder 20 h7 x 30", form="turned")],
        ToolsThere((tool(1, "turning"), tool(2, "turning", name="T2 finish"))),
        turned=True,
    )
    assert [step.does.split()[0] for step in only.steps] == ["rough", "finish"]
    assert len({step.tool for step in only.steps}) == 2  # IT7 wants two


def test_a_coarse_tap_does_not_cut_a_fine_thread_and_its_name_may_be_written_apart() -> None:
    fine = feature("M8x1 tapped hole x 12 deep, top, 20 from left, 20 from front")
    for name, does in (("T6 M8 tap", False), ("T6 M8 x 1 tap", True), ("T6 M8×1", True)):
        kit = ToolsThere((SPOT, tool(6, "tap", name=name)), DRILLS)
        assert of(propose_tools([fine], kit, turned=False)[0]).is_whole is does, name


def test_a_hole_in_the_outside_is_not_drilled_on_a_lathe() -> None:
    across = feature("hole 4 x 5 deep, outside, 20 from free end", form="turned")
    (only,) = propose_tools([across], SHOP, turned=True)
    assert of(only).lacks == ("Not on a lathe: on a mill, or by hand.",)


def test_a_hole_is_made_while_the_wall_is_thick_on_a_lathe_only() -> None:
    lines = [feature("body 30 x 60", 1, "turned"), feature("hole 8 x 20 deep, free end", 2, "turned")]
    kit = ToolsThere((tool(1, "turning"), tool(2, "turning"), tool(3, "spot drill")), DRILLS)
    *_, thorough = propose_tools(lines, kit, turned=True)
    assert [step.does.split()[0] for step in thorough.steps] == ["rough", "spot", "drill", "finish"]


@pytest.mark.parametrize(
    ("line", "does"),
    [
        ("hole 6.6 through, counterbore 11 x 6.5 deep, top, 20 from left, 20 from front", "finish"),
        ("hole 6.6 through, countersink 12, top, 20 from left, 20 from front", "chamfer"),
    ],
)
def test_what_belongs_to_a_hole_is_made_too_or_the_hole_is_not_whole(line: str, does: str) -> None:
    quick, *_ = propose_tools([feature(line)], SHOP, turned=False)
    assert does in {step.does.split()[0] for step in quick.steps}
    bare = ToolsThere((SPOT,) if does == "finish" else (tool(1, "drill", "9"),), DRILLS)
    assert not of(propose_tools([feature(line)], bare, turned=False)[0]).is_whole


def test_limits_of_a_size_that_a_feature_carries_are_held_to_and_a_close_depth_is_not_claimed() -> None:
    plain = feature("hole 12 through, top, 20 from left, 20 from front")
    assert of(propose_tools([plain], SHOP, turned=False)[0]).way.name == "drilled"  # type: ignore[union-attr] # there is one
    close = said_by(plain, read_size("12 H7", "mm"))
    assert of(propose_tools([close], SHOP, turned=False)[0]).way.name == "drilled, then reamed"  # type: ignore[union-attr]
    assert said_by(plain, read_size("30 ±0.1", "mm")) == plain  # another size
    deep = feature("hole 6 x 8 ±0.01 deep, top, 20 from left, 20 from front")
    assert not of(propose_tools([deep], SHOP, turned=False)[0]).held


def test_usual_reamers_cut_inside_h7_whatever_their_size() -> None:
    """At 3 mm H7 is 10 µm wide, at 20 mm 21 (ISO 286-1)."""
    usual = ToolsThere(usual_tools(turned=False), DRILLS + tuple((f"{n} mm", MM(n)) for n in (15, 19)))
    for across in (3, 12):
        bore = feature(f"bore {across} H7 through, top, 20 from left, 20 from front")
        (choice,) = propose_tools([bore], usual, turned=False)[0].choices
        assert choice.is_whole, choice.lacks
