"""The order of visits of a cycle in a job: its weave worked by hand, an order taken, given up, and asked about when its ground moves."""

from dataclasses import replace

import pytest

from ditto_run.core.edits import (
    RemoveSetup,
    RemoveStation,
    SetStation,
    SetToolStep,
    SetVisits,
    apply_edit,
)
from ditto_run.core.edits.visiting import read_move
from ditto_run.core.errors import BadEntry, NotFound, NotNow
from ditto_run.core.plan import Plan, plan_findings
from ditto_run.core.plan.differences import differences
from ditto_run.core.plan.visited import taken_says
from ditto_run.core.plan.woven import Moves, weave_of
from ditto_run.core.run.at_machine import plan_words
from ditto_run.core.tools.weave.cost import cost_of
from ditto_run.core.tools.weave.habits import habit_orders
from ditto_run.core.tools.weave.problem import Weave, by_id
from tests.conftest import MILL, SHOP, CoreHand, planned

MACHINES = {1: MILL}


def two_tools(*edits: object, stations: str = "ABC") -> Plan:
    """Three stations; T3 cuts 60 s and costs 20 s once a load, then T4 cuts 10 s and costs 14 s."""
    plan = planned(12, stations=stations)
    for edit in (SetToolStep(plan.setups[0].key, 4, "chamfer", "10", "14"), *edits):
        plan = apply_edit(edit, plan, SHOP).plan
    return plan


def weave(plan: Plan, move_s: float = 3) -> Weave:
    return weave_of(plan.cycle_tools(plan.all_cycles[0]), Moves(move_s))


def ids(plan: Plan, words: str) -> tuple[str, ...]:
    """A3 B3 …: the station and the tool number of each visit."""
    key = {step.tool: step.key for step in plan.tool_steps}
    return tuple(f"{word[0]}.{key[int(word[1:])]}" for word in words.split())


def take(plan: Plan, words: str, move: str = "3") -> Plan:
    return apply_edit(SetVisits(plan.setups[0].key, ids(plan, words), move), plan, SHOP).plan


def test_one_tool_round_all_takes_what_tools_says_whatever_a_move_takes() -> None:
    """3 × 60 + 20 + 3 × 10 + 14 = 244 s: what a change is said to take includes the two moves of its tool, but the way back to A."""
    plan = two_tools()
    assert plan.times(plan.setups[0].key).cycle_s == 244
    for move_s in (0, 3, 6):
        back = habit_orders(weave(plan, move_s))["back"]
        assert cost_of(weave(plan, move_s), back).cycle_ms == 244_000
    assert (
        cost_of(weave(plan, 9), habit_orders(weave(plan, 9))["back"]).cycle_ms == 210_000 + 2 * 18_000 + 2_000
    )


def test_an_order_that_is_taken_is_what_the_times_follow_until_it_is_given_up() -> None:
    """Each station finished: three times 60 + 10, six changes of 14 or 8 s, two moves of 3 s: 210 + 3 × 14 + 3 × 8 + 6 = 282 s."""
    plan = two_tools()
    key = plan.setups[0].key
    taken = take(plan, "A3 A4 B3 B4 C3 C4")
    assert taken.times(key).cycle_s == pytest.approx(282)
    assert taken.times(key).per_piece_s == pytest.approx((282 + 3 * 45) / 3)
    assert taken.times(key, 1).cycle_s == pytest.approx(plan.times(key, 1).cycle_s * 282 / 244)
    assert taken_says(taken, key) == "T03 at A; T04 at A; T03 at B; T04 at B; T03 at C; T04 at C."
    assert taken_says(plan, key) == ""
    assert differences(plan, taken) == ["added order of visits"]
    assert not plan.same_work(taken)
    assert apply_edit(SetVisits(key), taken, SHOP).plan == replace(plan, next_number=taken.next_number)


def test_an_order_for_other_stations_is_asked_about_and_counts_no_more() -> None:
    plan = take(two_tools(), "A3 A4 B3 B4 C3 C4")
    key = plan.setups[0].key
    assert "visits-moved" not in {f.code for f in plan_findings(plan, MACHINES)}
    for edit in (
        SetStation(key, "D", "vise", "G57"),
        RemoveStation(key, "C"),
        SetToolStep(key, 5, "deburr", "5"),
    ):
        moved = apply_edit(edit, plan, SHOP).plan
        (found,) = [f for f in plan_findings(moved, MACHINES) if f.code == "visits-moved"]
        assert (
            found.problem
            == "first side: the order of visits is for other stations or tools than there are now."
        )
        assert moved.times(key).cycle_s == apply_edit(SetVisits(key), moved, SHOP).plan.times(key).cycle_s
    assert apply_edit(RemoveSetup(key), plan, SHOP).plan.visits == ()


def test_an_order_against_that_of_the_steps_is_asked_about() -> None:
    plan = take(two_tools(), "A4 A3 B3 B4 C3 C4")
    (found,) = [f for f in plan_findings(plan, MACHINES) if f.code == "visits-break"]
    assert found.problem == "first side: T04 chamfer at A comes before T03 finish slot at A."


@pytest.mark.parametrize(
    ("order", "wrong"),
    [("A3 A4 B3 B4 C3", BadEntry), ("A3 A3 B3 B4 C3 C4", BadEntry), ("A3 A4 B3 B4 C3 D4", BadEntry)],
)
def test_an_order_holds_every_visit_once(order: str, wrong: type[Exception]) -> None:
    with pytest.raises(wrong):
        take(two_tools(), order)


def test_what_cannot_be_ordered_is_said() -> None:
    with pytest.raises(NotNow, match="no two stations"):
        weave(two_tools(stations="A"))
    with pytest.raises(NotFound):
        apply_edit(SetVisits(99, ("A.1",)), two_tools(), SHOP)
    assert [read_move(text) for text in ("", "3", "0:04", "1.5 s")] == [3, 3, 4, 1.5]
    for text in ("2 h", "soon", "-1"):
        with pytest.raises(BadEntry):
            read_move(text)


def test_steps_of_some_stations_of_strips_and_of_the_whole_load() -> None:
    """A tool only at B; one for the whole load at the first of its stations; hand work is a tool of its own."""
    plan = two_tools()
    key = plan.setups[0].key
    for edit in (
        SetToolStep(key, 6, "engrave", "5", stations=("B",)),
        SetToolStep(key, 7, "sweep", "9", at_once=0),
        SetToolStep(key, 0, "turn the clamp", "4"),
    ):
        plan = apply_edit(edit, plan, SHOP).plan
    found = weave(plan)
    by_station = {
        s.id: [found.tools[op.tool] for op in found.ops if op.station == n]
        for n, s in enumerate(found.stations)
    }
    hand = f"hand {plan.tool_steps[-1].key}"
    assert by_station == {
        "A": ["T03", "T04", "T07", hand],
        "B": ["T03", "T04", "T06", hand],
        "C": ["T03", "T04", hand],
    }
    assert found.ops[by_id(found)[f"A.{plan.tool_steps[3].key}"]].cut_ms == 9_000


def test_what_is_taken_is_in_the_run_and_a_later_one_is_a_change_of_work() -> None:
    plan = take(two_tools(), "A3 A4 B3 B4 C3 C4")
    hand = CoreHand(plan)
    said = dict(plan_words(hand.state))
    assert said["Order of visits"] == "T03 at A; T04 at A; T03 at B; T04 at B; T03 at C; T04 at C."
    assert "Order of visits" not in dict(plan_words(CoreHand(two_tools()).state))
    assert hand.state.plan.times(plan.setups[0].key).cycle_s == pytest.approx(282)
