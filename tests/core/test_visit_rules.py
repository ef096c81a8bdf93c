"""What an order of visits has to keep in a job, and how the machine goes from station to station; figures worked by hand."""

import pytest

from ditto_run.core.edits import (
    RemoveStation,
    RemoveVisitRule,
    SetGoing,
    SetVisitRule,
    SetVisits,
    apply_edit,
)
from ditto_run.core.errors import BadEntry, NotFound, NotNow
from ditto_run.core.plan import Plan, plan_findings
from ditto_run.core.plan.woven import Moves, weave_of
from ditto_run.core.tools.weave.cost import cost_of
from ditto_run.core.tools.weave.habits import habit_orders
from ditto_run.core.tools.weave.problem import by_id
from ditto_run.core.tools.weave.solve import weave_best
from tests.conftest import SHOP
from tests.core.test_visits import MACHINES, ids, take, two_tools, weave


def ruled(plan: Plan, rule: str, first: str, then: str = "", **more: object) -> Plan:
    edit = SetVisitRule(plan.setups[0].key, rule, first, then, **more)  # type: ignore[arg-type]
    return apply_edit(edit, plan, SHOP).plan


def step(plan: Plan, tool: int) -> str:
    return f"step {next(one.key for one in plan.tool_steps if one.tool == tool)}"


def best(plan: Plan) -> list[str]:
    """The best order as A3 B3 …."""
    found = weave_best(weave(plan))
    assert found.status == "proven"
    assert found.order is not None
    tool = {str(one.key): str(one.tool) for one in plan.tool_steps}
    return [f"{name[0]}{tool[name[2:]]}" for name in (weave(plan).ops[i].id for i in found.order)]


def test_a_station_finished_before_another_begins_is_kept_by_the_best_order() -> None:
    plan = two_tools()
    assert best(plan)[:2] != ["A3", "A4"]
    order = best(ruled(plan, "before", "station A", "station B"))
    assert max(order.index("A3"), order.index("A4")) < min(order.index("B3"), order.index("B4"))


def test_each_kind_of_rule_reaches_the_search() -> None:
    plan = two_tools()
    together = best(ruled(plan, "together", "station B"))
    assert abs(together.index("B3") - together.index("B4")) == 1
    assert best(ruled(plan, "first", "station C"))[0][0] == "C"
    assert best(ruled(plan, "last", "station A"))[-1] == "A4"
    once = best(ruled(ruled(plan, "together", "station A"), "once", "tool T03"))
    at = [n for n, one in enumerate(once) if one[1] == "3"]
    assert at == list(range(at[0], at[0] + 3))
    rested = weave(ruled(plan, "rest", "tool T03", step(plan, 4), seconds="400", at_each=True))
    (rule,) = rested.rules
    assert (rule.kind, rule.rest_ms, rule.same_station) == ("rest", 400_000, True)
    assert weave_best(rested).cost.cycle_ms > weave_best(weave(plan)).cost.cycle_ms  # type: ignore[union-attr]
    cool = weave(ruled(plan, "cool", "tool T04", seconds="30"))
    assert (
        cost_of(cool, habit_orders(cool)["back"]).totals[4] == 2 * 27_000
    )  # a move of 3 s is part of each rest


def test_a_broken_rule_of_a_taken_order_is_asked_about_with_its_reason() -> None:
    plan = ruled(two_tools(), "before", "station A", "station B", why="B stands on what A gives.")
    assert "visits-break" not in {f.code for f in plan_findings(plan, MACHINES)}
    taken = take(plan, "A3 B3 C3 C4 B4 A4")
    (found,) = [f for f in plan_findings(taken, MACHINES) if f.code == "visits-break"]
    assert found.problem.endswith(
        "comes before T04 chamfer at A, against the rule “A before B”, because B stands on what A gives."
    )
    kept = take(plan, "A3 A4 B3 B4 C3 C4")
    assert "visits-break" not in {f.code for f in plan_findings(kept, MACHINES)}
    last = take(ruled(two_tools(), "last", "station A"), "A3 A4 B3 B4 C3 C4")
    (found,) = [f for f in plan_findings(last, MACHINES) if f.code == "visits-break"]
    assert "T04 chamfer at C breaks the rule “A last”." in found.problem


def test_a_rule_that_cannot_be_kept_is_refused_at_its_field_and_names_the_circle() -> None:
    plan = two_tools()
    with pytest.raises(BadEntry, match="that is a circle, made by “T04 before T03”") as refused:
        ruled(plan, "before", "tool T04", "tool T03")
    assert refused.value.field == "first"
    with pytest.raises(BadEntry, match=r"puts T03 .* at A before itself"):
        ruled(plan, "before", "tool T03", "station A")
    both = ruled(plan, "before", "station A", "station B")
    with pytest.raises(BadEntry, match="that is a circle"):
        ruled(both, "before", "station B", "station A")


@pytest.mark.parametrize(
    ("said", "field"),
    [
        (("before", "", "station B"), "first"),
        (("before", "station A", ""), "then"),
        (("before", "station Q", "station A"), "first"),
        (("once", "station A"), "first"),
        (("together", "tool T77"), "first"),
        (("first", "door A"), "first"),
    ],
)
def test_what_names_nothing_is_refused_at_its_field(said: tuple[str, ...], field: str) -> None:
    with pytest.raises(BadEntry) as refused:
        ruled(two_tools(), *said)
    assert refused.value.field == field


@pytest.mark.parametrize("seconds", ["", "0", "soon", "2 h", "nan"])
def test_a_rest_wants_its_seconds(seconds: str) -> None:
    with pytest.raises(BadEntry) as refused:
        ruled(two_tools(), "rest", "tool T03", "tool T04", seconds=seconds)
    assert refused.value.field == "seconds"


def test_a_rule_is_there_once_and_taken_out() -> None:
    plan = ruled(two_tools(), "once", "tool T03")
    with pytest.raises(BadEntry, match="there already"):
        ruled(plan, "once", "tool T03", why="again")
    changed = apply_edit(RemoveVisitRule(plan.visit_rules[0].key), plan, SHOP)
    assert changed.what == "took out rule T03 put in once"
    assert changed.plan.visit_rules == ()
    with pytest.raises(NotFound):
        apply_edit(RemoveVisitRule(77), plan, SHOP)
    with pytest.raises(NotFound):
        apply_edit(SetVisitRule(77, "once", "tool T03"), plan, SHOP)


def test_a_rule_of_which_a_station_is_gone_is_left_out_and_asked_about() -> None:
    plan = ruled(two_tools(), "before", "station A", "station B")
    gone = apply_edit(RemoveStation(plan.setups[0].key, "B"), plan, SHOP).plan
    assert weave(gone).rules == ()
    (found,) = [f for f in plan_findings(gone, MACHINES) if f.code == "visit-rule-gone"]
    assert "the rule “A before B” speaks of what is gone" in found.problem


def test_rules_that_clash_are_named() -> None:
    plan = ruled(ruled(two_tools(), "first", "station A"), "first", "station B")
    found = weave_best(weave(plan))
    assert found.status == "impossible"
    assert set(found.clash) == {"A first", "B first"}


def test_where_tools_are_changed_at_one_place_the_way_there_is_part_of_the_change() -> None:
    """T3: 20 less two moves less 2 × 5 = 4; T4: nothing left. Round: 210 cut, four moves, there and back once, 4 at the end: 236."""
    plan = two_tools()
    away = apply_edit(SetGoing(plan.setups[0].key, away="5"), plan, SHOP).plan
    assert cost_of(weave(away), habit_orders(weave(away))["round"]).cycle_ms == 236_000
    assert not plan.same_work(away)


def test_faces_cost_their_index_where_they_differ() -> None:
    """T3: 20 less 6 less 9 = 5, T4 none. Round: 210 cut, four moves and one from C to A, three turns of 9, changes 5: 257 s."""
    plan = two_tools()
    faced = apply_edit(SetGoing(plan.setups[0].key, "a, b / C", "9"), plan, SHOP).plan
    assert [weave(faced).stations[n].face for n in range(3)] == [0, 0, 1]
    assert cost_of(weave(faced), habit_orders(weave(faced))["round"]).cycle_ms == 257_000


@pytest.mark.parametrize(
    ("said", "field", "words"),
    [
        (("A B / D", "9"), "on_faces", "D is no station"),
        (("A B / B C", "9"), "on_faces", "B is named twice"),
        (("A / B", "9"), "on_faces", "C stands on no face"),
        (("A B / C", ""), "index", "How long from face to face is missing"),
        (("A B / C", "0"), "index", "How long from face to face is missing"),
        (("", "9"), "on_faces", "There are no two faces"),
        (("", "", "soon"), "away", "soon"),
        (("", "", "2 h"), "away", "more than an hour"),
    ],
)
def test_faces_and_ways_that_cannot_be_are_refused_at_their_field(
    said: tuple[str, ...], field: str, words: str
) -> None:
    plan = two_tools()
    with pytest.raises(BadEntry, match=words) as refused:
        apply_edit(SetGoing(plan.setups[0].key, *said), plan, SHOP)
    assert refused.value.field == field


def test_what_is_loaded_while_it_cuts_takes_the_longer_of_both() -> None:
    plan = two_tools()
    key = plan.setups[0].key
    assert plan.times(key).load_to_load_s == 244 + 3 * 45
    running = apply_edit(SetGoing(key, runs_on=True), plan, SHOP).plan
    assert running.times(key).load_to_load_s == 244
    assert weave(running).kind == "loop"
    assert apply_edit(SetGoing(key), running, SHOP).plan.goings == ()


def test_pairs_are_kept_with_an_order_and_typed_seconds_go_before_them() -> None:
    plan = two_tools()
    key, order = plan.setups[0].key, ids(two_tools(), "A3 B3 C3 C4 B4 A4")
    pairs = (("A", "B", 1.0), ("B", "C", 2.0), ("A", "C", 4.0))
    taken = apply_edit(SetVisits(key, order, "", pairs), plan, SHOP).plan
    moves = weave_of(taken.cycle_tools(taken.all_cycles[0]), Moves(3, pairs)).move
    assert moves == ((0, 1000, 4000), (1000, 0, 2000), (4000, 2000, 0))
    assert taken.taken_costs[key].totals[2] == 6000  # type: ignore[union-attr]
    typed = apply_edit(SetVisits(key, order, "3", pairs), plan, SHOP).plan
    assert typed.visits[0].pairs == ()
    for wrong in (-1.0, float("nan"), 4000.0):
        with pytest.raises(BadEntry):
            apply_edit(SetVisits(key, order, "", (("A", "B", wrong),)), plan, SHOP)


def test_a_cycle_holds_forty_rules() -> None:
    plan = two_tools()
    for n in range(40):
        plan = ruled(plan, "rest", "tool T03", "tool T04", seconds=str(n + 1))
    with pytest.raises(NotNow, match="40 rules at most"):
        ruled(plan, "rest", "tool T03", "tool T04", seconds="50")
    assert len(by_id(weave(plan))) == 6
