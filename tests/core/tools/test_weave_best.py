"""The best order of visits: against every order of small problems, instances worked out elsewhere, and when work runs out."""

import json
from pathlib import Path
from time import process_time

import pytest

from ditto_run.core.tools.weave import layers
from ditto_run.core.tools.weave.bound import bound_of
from ditto_run.core.tools.weave.cost import cost_of
from ditto_run.core.tools.weave.feasible import TooMany, any_order
from ditto_run.core.tools.weave.habits import habit_costs
from ditto_run.core.tools.weave.model import model_of
from ditto_run.core.tools.weave.problem import Weave, with_rules
from ditto_run.core.tools.weave.reading import WrongWeave, read_weave
from ditto_run.core.tools.weave.solve import Woven, weave_best
from ditto_run.core.tools.weave.words import sentence_of
from tests.core.tools.small_weaves import Doc, best_of_all, small_weave

HERE = Path(__file__).parents[2] / "data" / "weave"
GOOD = sorted((HERE / "dev").glob("*.json"))
BAD = sorted((HERE / "bad").glob("*.json"))
SEEDS, A_TEST = 480, 40


def value(found: Woven) -> tuple[int, int, int]:
    assert found.cost is not None
    return found.cost.cycle_ms, found.cost.first_ms, found.cost.at_risk


def check(weave: Weave, found: Woven) -> None:
    """Whatever is answered: every operation once, figures recomputed from the order, no rule broken, the bound not above."""
    assert found.order is not None
    assert found.cost is not None
    assert sorted(found.order) == list(range(len(weave.ops)))
    assert cost_of(weave, found.order) == found.cost
    assert found.cost.broken == ()
    assert found.bound_ms <= found.cost.cycle_ms
    assert (found.status == "proven") == (found.bound_ms == found.cost.cycle_ms)


@pytest.mark.parametrize("start", range(0, SEEDS, A_TEST))
def test_it_is_the_best_of_all_orders_of_small_problems(start: int) -> None:
    """Every kind of end, change, rule; waits, ties; and where no order keeps the rules, some of which none can be left out."""
    for seed in range(start, start + A_TEST):
        try:
            weave = read_weave(small_weave(seed))
        except WrongWeave:  # rules in a circle
            continue
        best, found = best_of_all(weave), weave_best(weave)
        if best is not None:
            check(weave, found)
            assert (found.status, found.ties_proven, value(found)) == ("proven", True, best), seed
            continue
        assert found.status == "impossible", seed
        clash = [rule for rule in weave.rules if rule.id in found.clash]
        assert any_order(with_rules(weave, clash)) is None, seed
        for one in clash:
            assert any_order(with_rules(weave, [rule for rule in clash if rule is not one])), (seed, one.id)


@pytest.mark.parametrize("path", GOOD, ids=lambda path: path.stem)
def test_the_named_instances_are_proven(path: Path) -> None:
    """Their optima, where another program proved them; where it did not, no worse than what it reached, above its bound."""
    said = json.loads(path.read_text("utf-8"))
    weave, known = read_weave(said["weave"]), said["known"]
    began = process_time()
    found = weave_best(weave)
    assert process_time() - began < 10  # seconds; the figure itself is the bench's
    check(weave, found)
    assert (found.status, found.ties_proven) == ("proven", True)
    cycle = value(found)[0] / 1000
    if known["status"] == "proven":
        assert (cycle, value(found)[1] / 1000, value(found)[2]) == (
            known["cycle"],
            known["first"],
            known["at_risk"],
        )
    else:
        assert known["bound"] <= cycle <= known["cycle"]


@pytest.mark.parametrize("path", BAD, ids=lambda path: path.stem)
def test_what_stands_at_the_edge_is_answered(path: Path) -> None:
    said = json.loads(path.read_text("utf-8"))
    expected = said["expect"]
    if expected["status"] == "wrong":
        return
    found = weave_best(read_weave(said["weave"]))
    assert found.status == expected["status"]
    if "cycle" in expected:
        assert value(found)[0] == expected["cycle"] * 1000
    else:
        assert found.clash


def big(seed_rule: tuple[Doc, ...] = ()) -> Weave:
    """Four stations of twelve operations over nine tools, a change of 5 s, a move of 2 s."""
    said = json.loads((HERE / "dev" / "d10-4x12-nine-tools.json").read_text("utf-8"))["weave"]
    return read_weave(said | {"rules": [*seed_rule]})


def test_the_same_request_gives_the_same_answer_and_little_work_an_honest_one() -> None:
    weave = big()
    habit = min(cost.cycle_ms for cost in habit_costs(weave).values() if not cost.broken)
    whole = value(weave_best(weave))[0]
    bounds = []
    for seconds in (0.001, 0.03, 0.06, 2):
        found, again = weave_best(weave, seconds), weave_best(weave, seconds)
        assert found == again
        check(weave, found)
        assert whole <= value(found)[0] <= habit
        assert found.bound_ms <= whole
        bounds.append((found.bound_ms, found.status))
    assert bounds[0][1] == "best"
    assert bounds[-1][1] == "proven"
    assert [bound for bound, _ in bounds] == sorted(bound for bound, _ in bounds)


def test_one_rule_more_never_shortens_it_and_names_change_nothing() -> None:
    plain = value(weave_best(big()))[0]
    ruled = weave_best(big(({"rule": "once", "id": "r", "why": "set by hand", "tool": "T03"},)))
    assert value(ruled)[0] >= plain
    said = json.loads((HERE / "dev" / "d12-change-position.json").read_text("utf-8"))["weave"]
    turned = said | {"stations": said["stations"][::-1], "tools": said["tools"][::-1]}
    assert value(weave_best(read_weave(turned)))[0] == value(weave_best(read_weave(said)))[0]


def test_the_bound_is_never_above_the_best_way_on_from_any_start_of_it() -> None:
    """Whatever the best order has done so far, what it takes at least is no more than what it takes."""
    for seed in range(60):
        try:
            weave = read_weave(small_weave(seed))
        except WrongWeave:
            continue
        best = best_of_all(weave)
        if best is None:
            continue
        search = layers.Search(model_of(weave), bound_of(model_of(weave)), 10**9)
        search.best = best
        found = search.through(10**6)  # cuts off all that takes at least more than the best there is
        assert found.value == best, seed


def test_many_operations_of_no_order_are_told_apart_only_where_they_differ() -> None:
    """Ninety-six of twelve tools at one station: all of a tool in a row, twelve changes of 5 s and 96 cuts of 3 s, worked by hand."""
    ops = [{"id": f"A{n}", "tool": f"T{n % 12}", "cut": 3} for n in range(96)]
    weave = read_weave(
        {
            "format": "weave/1",
            "stations": [{"id": "A", "ops": ops, "order": []}],
            "tools": [{"id": f"T{n}"} for n in range(12)],
            "change": {"kind": "constant", "seconds": 5},
        }
    )
    found = weave_best(weave, 0.5)
    check(weave, found)
    assert value(found)[0] == (12 * 5 + 96 * 3) * 1000
    assert (
        found.bound_ms >= (11 * 5 + 96 * 3) * 1000 - 5000
    )  # 96 that any may follow any would be bound by their cuts and little more


def test_what_would_take_too_long_is_not_decided() -> None:
    with pytest.raises(TooMany):
        any_order(
            read_weave(
                {
                    "format": "weave/1",
                    "stations": [
                        {"id": s, "ops": [{"id": f"{s}{n}", "tool": "T1"} for n in range(8)], "order": []}
                        for s in "ABC"
                    ],
                    "tools": [{"id": "T1"}],
                    "rules": [
                        {"rule": "last", "id": "x", "ops": "A0"},
                        {"rule": "last", "id": "y", "ops": "B0"},
                    ],
                }
            ),
            most=500,
        )


@pytest.mark.parametrize(
    ("rules", "words"),
    [
        (
            [],
            "There is nothing to save against there and back: 38.0 s in 2 tool changes, and no allowed order",
        ),
        (
            [{"rule": "first", "id": "r", "ops": "B0"}],
            "38.0 s in 2 tool changes, and no allowed order is shorter: proven; each of the three habits breaks a rule.",
        ),
        (
            [{"rule": "first", "id": "r", "ops": "A0"}, {"rule": "last", "id": "q", "ops": "A0"}],
            "No order keeps all rules: q and the stations’ own order cannot be kept together.",
        ),
    ],
)
def test_the_answer_is_a_sentence_of_what_was_found(rules: list[Doc], words: str) -> None:
    stations = [
        {"id": s, "ops": [{"id": f"{s}0", "tool": "T1", "cut": 5}, {"id": f"{s}1", "tool": "T2", "cut": 2}]}
        for s in "AB"
    ]
    weave = read_weave(
        {
            "format": "weave/1",
            "stations": stations,
            "tools": [{"id": "T1"}, {"id": "T2"}],
            "change": {"kind": "constant", "seconds": 10},
            "moves": {"constant": 2},
            "rules": rules,
        }
    )
    assert sentence_of(weave_best(weave), habit_costs(weave)).startswith(words)
