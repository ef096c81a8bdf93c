"""Small problems of every kind at random, and the best of all their orders by trying each."""

import random
from itertools import combinations, permutations
from typing import Any

from ditto_run.core.tools.weave.cost import broken_rules, cost_of
from ditto_run.core.tools.weave.problem import Weave

Doc = dict[str, Any]


def small_weave(seed: int) -> Doc:
    """Return a problem of two to seven operations: ends, changes, moves, faces, own orders and rules drawn at random."""
    draw = random.Random(seed)
    tools = [f"T{n}" for n in range(draw.randint(1, 4))]
    stations = _stations(draw, tools)
    return {
        "format": "weave/1",
        "stations": stations,
        "tools": [{"id": tool, "fit": draw.choice([0, 0, 2])} for tool in tools],
        "change": _change(draw, tools, stations),
        "moves": {
            "stations": [one["id"] for one in stations],
            "seconds": [[draw.randint(0, 6) for _ in stations] for _ in stations],
        },
        "index": {"kind": "constant", "seconds": draw.choice([0, 4])},
        "cycle": _cycle(draw, tools, stations),
        "rules": [_rule(draw, n, stations) for n in range(draw.choice([0, 0, 1, 1, 2, 3]))],
    }


def _stations(draw: random.Random, tools: list[str]) -> list[Doc]:
    many, count = draw.randint(1, 4), draw.randint(2, 7)
    found: list[Doc] = [
        {"id": chr(65 + n), "ops": [], "pieces": draw.randint(1, 3)} for n in range(min(many, count))
    ]
    for n in range(count):
        one = found[n] if n < len(found) else draw.choice(found)
        words = draw.choice([["rough"], ["fine"], []])
        one["ops"].append(
            {
                "id": f"{one['id']}{len(one['ops'])}",
                "tool": draw.choice(tools),
                "cut": draw.choice([0, 1, 2, 5.5]),
                "tags": words,
            }
        )
    for one in found:
        names = [op["id"] for op in one["ops"]]
        if draw.random() < 0.5:
            one["order"] = [[*pair] for pair in combinations(names, 2) if draw.random() < 0.4]
        if draw.random() < 0.3:
            one["finished"] = 0
        one["face"] = draw.randint(1, 2)
    return found


def _change(draw: random.Random, tools: list[str], stations: list[Doc]) -> Doc:
    table = [[draw.choice([0, 1, 3, 7]) for _ in tools] for _ in tools]
    found: Doc = draw.choice([{"kind": "table", "seconds": table}, {"kind": "constant", "seconds": 3}])
    extra = draw.choice(
        [{}, {}, {"at_once": True}, {"away": {s["id"]: draw.randint(0, 3) for s in stations}}]
    )
    return found | extra


def _cycle(draw: random.Random, tools: list[str], stations: list[Doc]) -> Doc:
    found: Doc = {"kind": draw.choice(["load", "loop", "once"])}
    if found["kind"] == "loop":
        return found
    if draw.random() < 0.5:
        found["start_tool"] = draw.choice(tools)
    if found["kind"] == "once" and draw.random() < 0.5:
        found["end_tool"] = draw.choice(tools)
    if draw.random() < 0.5:
        found["from_park"] = {one["id"]: draw.randint(0, 5) for one in stations}
        found["to_park"] = {one["id"]: draw.randint(0, 5) for one in stations}
    return found


def _rule(draw: random.Random, n: int, stations: list[Doc]) -> Doc:
    names = [op["id"] for one in stations for op in one["ops"]]
    used = sorted({op["tool"] for one in stations for op in one["ops"]})
    kind = draw.choice(["before", "rest", "together", "once", "cool", "first", "last"])
    found: Doc = {"rule": kind, "id": f"r{n}", "why": "drawn"}
    if kind in {"before", "rest"}:
        a = draw.sample(names, min(len(names) - 1, draw.randint(1, 2)))
        rest = [name for name in names if name not in a]
        found |= {"a": a, "b": draw.sample(rest, min(len(rest), draw.randint(1, 2)))}
        if draw.random() < 0.3:
            found["same"] = "station"
        if kind == "rest":
            found["seconds"] = draw.randint(1, 15)
    elif kind in {"once", "cool"}:
        found["tool"] = draw.choice(used)
        if kind == "cool":
            found["seconds"] = draw.randint(1, 12)
    else:
        found["ops"] = draw.sample(names, draw.randint(1, min(3, len(names))))
    return found


def best_of_all(weave: Weave) -> tuple[int, int, int] | None:
    """Return cycle, first station done and pieces at risk of the best of all orders that break no rule; None where there is none."""
    found = []
    for order in permutations(range(len(weave.ops))):
        done = 0
        for i in order:
            if weave.before[i] & ~done:
                break
            done |= 1 << i
        else:
            if not broken_rules(weave, order):
                cost = cost_of(weave, order)
                found.append((cost.cycle_ms, cost.first_ms, cost.at_risk))
    return min(found, default=None)
