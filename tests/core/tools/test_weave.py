"""What an order of visits takes and breaks, and the three habits: against instances worked out elsewhere, and by hand."""

import json
from pathlib import Path
from time import perf_counter

import pytest
from hypothesis import given
from hypothesis import strategies as some

from ditto_run.core.tools.weave.cost import cost_of
from ditto_run.core.tools.weave.habits import HABITS, habit_costs, habit_orders
from ditto_run.core.tools.weave.problem import Weave, by_id
from ditto_run.core.tools.weave.reading import WrongWeave, read_weave

HERE = Path(__file__).parents[2] / "data" / "weave"
GOOD = sorted((HERE / "dev").glob("*.json"))
BAD = sorted((HERE / "bad").glob("*.json"))


def problem(ops: dict[str, list[tuple[str, str, float]]], **more: object) -> Weave:
    """Stations of operations (id, tool, cut), a change of 10 s and a move of 2 s, if nothing else is said."""
    stations = [
        {"id": name, "ops": [{"id": key, "tool": tool, "cut": cut} for key, tool, cut in mine]}
        for name, mine in ops.items()
    ]
    tools = [{"id": tool} for tool in dict.fromkeys(op[1] for mine in ops.values() for op in mine)]
    usual = {"change": {"kind": "constant", "seconds": 10}, "moves": {"constant": 2}}
    return read_weave({"format": "weave/1", "stations": stations, "tools": tools} | usual | more)


def order(weave: Weave, words: str) -> list[int]:
    return [by_id(weave)[name] for name in words.split()]


TWO = {"A": [("A1", "T1", 5), ("A2", "T2", 7)], "B": [("B1", "T1", 5), ("B2", "T2", 7)]}


@pytest.mark.parametrize("path", GOOD, ids=lambda path: path.stem)
def test_the_habits_take_what_was_worked_out_elsewhere(path: Path) -> None:
    """Figures that came with the instances, worked out by another program."""
    said = json.loads(path.read_text("utf-8"))
    weave = read_weave(said["weave"])
    for name, found in habit_costs(weave).items():
        wanted = said["habits"][HABITS[name]]
        assert (found.cycle_ms, found.first_ms) == (
            round(wanted["cycle"] * 1000),
            round(wanted["first"] * 1000),
        )
        assert (found.at_risk, found.changes) == (wanted["at_risk"], wanted["changes"])
        assert found.per_piece_ms == pytest.approx(wanted["per_piece"] * 1000, abs=0.6)
        assert sorted(one.rule for one in found.broken) == sorted(wanted["broken"])


@pytest.mark.parametrize(
    "path",
    [path for path in GOOD if "order" in json.loads(path.read_text("utf-8"))["known"]],
    ids=lambda path: path.stem,
)
def test_the_best_known_order_takes_what_was_worked_out_elsewhere(path: Path) -> None:
    said = json.loads(path.read_text("utf-8"))
    weave, known = read_weave(said["weave"]), said["known"]
    found = cost_of(weave, order(weave, " ".join(known["order"])))
    assert found.broken == ()
    assert [ms / 1000 for ms in (found.cycle_ms, found.first_ms)] == [known["cycle"], known["first"]]
    assert (found.at_risk, found.changes) == (known["at_risk"], known["changes"])
    assert [ms / 1000 for ms in found.totals] == list(known["totals"].values())


@pytest.mark.parametrize("path", BAD, ids=lambda path: path.stem)
def test_what_cannot_be_read_is_one_sentence(path: Path) -> None:
    said = json.loads(path.read_text("utf-8"))
    expected = said["expect"]
    if expected["status"] != "wrong":
        assert read_weave(said["weave"]).ops
        return
    with pytest.raises(WrongWeave) as refused:
        read_weave(said["weave"])
    assert set(expected.get("ring_holds", ())) <= set(refused.value.ring)
    assert list(refused.value.rules) == expected.get("rules", list(refused.value.rules))
    assert refused.value.problem.endswith(".")


def test_a_cycle_by_hand() -> None:
    """T1 at A and B, T2 at B and A, back to T1: 5 + 2 + 5 + 10 + 7 + 2 + 7 + 10 = 48 s."""
    weave = problem(TWO, cycle={"load": 30})
    found = cost_of(weave, order(weave, "A1 B1 B2 A2"))
    assert found.totals == (24_000, 20_000, 4_000, 0, 0)
    assert (found.cycle_ms, found.first_ms, found.at_risk, found.changes) == (48_000, 29_000, 2, 2)
    assert found.per_piece_ms == (48_000 + 30_000) / 2
    assert [visit.start_ms for visit in found.visits] == [0, 7_000, 22_000, 31_000]


@pytest.mark.parametrize(
    ("cycle", "takes_ms"),
    [
        ({"kind": "load"}, 48_000),
        (
            {"kind": "load", "start_tool": "T2"},
            48_000,
        ),  # T2 out at the start, and in again already at the end
        ({"kind": "once"}, 38_000),
        ({"kind": "once", "end_tool": "T1", "from_park": {"A": 3}, "to_park": {"A": 4}}, 55_000),
        ({"kind": "loop", "load": 99}, 48_000),
    ],
)
def test_the_ends_of_a_cycle(cycle: dict[str, object], takes_ms: int) -> None:
    weave = problem(TWO, cycle=cycle)
    assert cost_of(weave, order(weave, "A1 B1 B2 A2")).cycle_ms == takes_ms


@pytest.mark.parametrize(
    ("change", "first_ms"),
    [
        ({"kind": "constant", "seconds": 10, "away": {"A": 6, "B": 1}}, (10_000, 7_000)),  # A1 to B2: 6 + 1
        ({"kind": "constant", "seconds": 10, "at_once": True}, (10_000, 0)),
        ({"kind": "constant", "seconds": 1, "at_once": True}, (0, 2_000)),
    ],
)
def test_a_change_away_and_one_under_way(change: dict[str, object], first_ms: tuple[int, int]) -> None:
    weave = problem(TWO, change=change)
    visit = cost_of(weave, order(weave, "A1 B2 B1 A2")).visits[1]
    assert (visit.change_ms, visit.move_ms) == first_ms


@pytest.mark.parametrize(("direction", "seconds"), [("shortest", 3), ("up", 3), ("down", 17)])
def test_a_ring_turns_the_way_it_can(direction: str, seconds: float) -> None:
    """From place 19 to 2 of 20: three places up, seventeen down, a second each; and one to put the tool in."""
    ring = {"kind": "ring", "places": 20, "seconds": 0, "per_place": 1, "direction": direction}
    doc = {
        "format": "weave/1",
        "stations": [{"id": "A", "ops": [{"id": "A1", "tool": "T1"}, {"id": "A2", "tool": "T2"}]}],
        "tools": [{"id": "T1", "place": 19}, {"id": "T2", "place": 2, "fit": 1}],
        "change": ring,
        "cycle": {"kind": "once"},
    }
    assert cost_of(read_weave(doc), [0, 1]).cycle_ms == (seconds + 1) * 1000


@pytest.mark.parametrize(
    ("rule", "words", "broken"),
    [
        ({"rule": "before", "a": "A2", "b": {"station": "B"}}, "A1 B1 A2 B2", ("A2", "B1")),
        (
            {"rule": "before", "a": {"tool": "T1"}, "b": {"tool": "T2"}, "same": "station"},
            "A1 A2 B1 B2",
            None,
        ),
        ({"rule": "before", "a": {"tool": "T1"}, "b": {"tool": "T2"}}, "A1 A2 B1 B2", ("B1", "A2")),
        ({"rule": "together", "ops": {"station": "A"}}, "A1 B1 A2 B2", ("A1", "B1")),
        ({"rule": "once", "tool": "T1"}, "A1 A2 B1 B2", ("A1", "A2")),
        ({"rule": "first", "ops": "B1"}, "A1 A2 B1 B2", ("B1", "A1")),
        ({"rule": "last", "ops": ["A1", "A2"]}, "A1 A2 B1 B2", ("A2", "B2")),
        ({"rule": "last", "ops": ["B1", "B2"]}, "A1 A2 B1 B2", None),
    ],
)
def test_a_rule_that_is_broken_names_two_operations(
    rule: dict[str, object], words: str, broken: tuple[str, str] | None
) -> None:
    weave = problem(TWO, rules=[{"id": "r"} | rule])
    found = cost_of(weave, order(weave, words)).broken
    assert [(one.a, one.b) for one in found] == ([broken] if broken else [])


def test_its_own_order_is_a_rule() -> None:
    weave = problem(TWO)
    found = cost_of(weave, order(weave, "A2 A1 B1 B2")).broken
    assert [(one.rule, one.a, one.b) for one in found] == [("order of A", "A1", "A2")]


@pytest.mark.parametrize(
    ("rule", "waits_ms"),
    [
        (
            {"rule": "rest", "a": {"tool": "T1"}, "b": {"tool": "T2"}, "same": "station", "seconds": 30},
            [0, 0, 11_000, 0],
        ),
        ({"rule": "rest", "a": "A1", "b": "B1", "seconds": 9}, [0, 7_000, 0, 0]),
        ({"rule": "cool", "tool": "T1", "seconds": 6}, [0, 4_000, 0, 0]),
    ],
)
def test_waits_are_counted(rule: dict[str, object], waits_ms: list[int]) -> None:
    """A1 ends at 5, B1 runs from 7 to 12, A2 is ready at 24: with 30 s of rest it starts at 35; worked by hand."""
    weave = problem(TWO, rules=[{"id": "r"} | rule])
    found = cost_of(weave, order(weave, "A1 B1 A2 B2"))
    assert [visit.wait_ms for visit in found.visits] == waits_ms
    assert sum(found.totals) == found.cycle_ms


def test_the_habits_by_hand() -> None:
    weave = problem(TWO)
    found = {name: [weave.ops[i].id for i in one] for name, one in habit_orders(weave).items()}
    assert found == {
        "each": ["A1", "A2", "B1", "B2"],
        "round": ["A1", "B1", "A2", "B2"],
        "back": ["A1", "B1", "B2", "A2"],
    }


@given(some.data())
def test_the_parts_of_a_cycle_are_the_whole(data: some.DataObject) -> None:
    tools = some.sampled_from(["T1", "T2", "T3"])
    cuts = some.integers(0, 90_000).map(lambda ms: ms / 1000)
    ops = {
        name: [
            (f"{name}{n}", data.draw(tools), data.draw(cuts)) for n in range(data.draw(some.integers(1, 4)))
        ]
        for name in "ABC"
    }
    weave = problem(ops, cycle={"kind": data.draw(some.sampled_from(["load", "loop", "once"]))})
    every = data.draw(some.permutations(range(len(weave.ops))))
    found = cost_of(weave, every)
    assert sum(found.totals) == found.cycle_ms
    assert found.first_ms <= found.visits[-1].end_ms
    for habit in habit_orders(weave).values():
        assert sorted(habit) == list(range(len(weave.ops)))
        assert cost_of(weave, habit).broken == ()


def test_the_largest_is_read_and_counted_quickly() -> None:
    """400 operations and 200 rules, each over all of them."""
    ops = {f"S{s}": [(f"S{s}-{n}", f"T{n}", 1) for n in range(10)] for s in range(40)}
    rule = {
        "rule": "rest",
        "a": {"tool": ["T0", "T1", "T2", "T3", "T4"]},
        "b": {"tool": ["T5", "T6", "T7", "T8", "T9"]},
        "seconds": 1,
    }
    began = perf_counter()
    weave = problem(ops, rules=[{"id": f"r{n}"} | rule for n in range(200)])
    assert {len(one) for one in habit_orders(weave).values()} == {400}
    cost_of(weave, habit_orders(weave)["round"])
    assert perf_counter() - began < 3
