"""Reads a weave as it is sent: names looked up, times in whole milliseconds, rules to sets; one sentence for what cannot be read."""

from collections.abc import Callable, Iterable, Iterator, Mapping, Sequence
from decimal import Decimal
from functools import reduce
from itertools import pairwise
from operator import or_
from typing import Any

from ditto_run.core.errors import BadEntry
from ditto_run.core.tools.weave.problem import (
    CycleKind,
    Matrix,
    Weave,
    WeaveOp,
    WeaveRule,
    WeaveStation,
    all_before,
    members,
)

MOST_OPS = 400
LONGEST_S = Decimal(1_000_000)
KEYS = ("op", "station", "tool", "tag")


class WrongWeave(BadEntry):
    """A weave that cannot be read.

    Args:
        problem, remedy: one sentence each.
        ring: operations that stand in a circle, in order.
        rules: the rules that make it.
    """

    def __init__(
        self, problem: str, remedy: str, ring: Sequence[str] = (), rules: Sequence[str] = ()
    ) -> None:
        super().__init__(problem, remedy, "weave")
        self.ring, self.rules = tuple(ring), tuple(rules)


def milliseconds(value: object, what: str) -> int:
    """Return a time in whole milliseconds.

    Args:
        value: seconds, at most three decimals. [s]
        what: it is, for the sentence.

    Raises:
        WrongWeave: if it is no number, below 0, over 1,000,000 s, or has more decimals.
    """
    if not isinstance(value, int | float):  # a table stands where one time is wanted
        raise WrongWeave(f"{what} is no number of seconds.", "Write it as 12.5.")
    exact = Decimal(repr(value))
    if not 0 <= exact <= LONGEST_S:
        raise WrongWeave(f"{what} is {value}.", "Times are from 0 to 1,000,000 seconds.")
    if exact * 1000 != int(exact * 1000):
        raise WrongWeave(f"{what} is {value}.", "Times have three decimals at most.")
    return int(exact * 1000)


def read_weave(doc: Mapping[str, Any]) -> Weave:
    """Return the problem that a document holds.

    Args:
        doc: of the format weave/1; its shape was checked where it came in.

    Raises:
        WrongWeave: which operation, tool or rule cannot be read; the operations round a circle of precedences.
    """
    tools = [str(tool["id"]) for tool in doc["tools"]]
    if len(set(tools)) != len(tools):
        raise WrongWeave("A tool is named twice.", "Name each tool once.")
    stations, ops = _stations(doc, tools)
    indices = {station: s for s, station in enumerate(one.id for one in stations)}
    index = _index(ops, stations, tools)
    rules = tuple(_rule(raw, index) for raw in doc.get("rules") or ())
    own = _own_orders(doc, ops)
    before = all_before(ops, own, rules)
    _no_circle(ops, before, own, rules)
    raw_change = doc.get("change") or {"kind": "constant", "seconds": 0}
    away = raw_change.get("away")
    if away is not None and raw_change.get("at_once"):
        raise WrongWeave("The change is away and at once.", "Choose one of them.")
    faces = max(station.face for station in stations) + 1
    return Weave(
        tuple(ops),
        tuple(stations),
        tuple(tools),
        before,
        own,
        _changes(raw_change, doc["tools"], tools),
        _moves(doc.get("moves") or {"constant": 0}, indices),
        _between(doc.get("index") or {}, faces, [None] * faces),
        None if away is None else _each(away, indices, "away"),
        bool(raw_change.get("at_once", False)),
        *_cycle(doc.get("cycle") or {}, tools, indices),
        rules,
    )


def _cycle(
    cycle: Mapping[str, Any], tools: Sequence[str], stations: Mapping[str, int]
) -> tuple[CycleKind, int | None, int | None, tuple[int, ...], tuple[int, ...], int]:
    """Its kind, the tools at its ends, the ways from and to where it parks, and the time of loading; a loop has none of them."""
    kind: CycleKind = cycle.get("kind", "load")
    nothing = dict.fromkeys(stations, 0)
    parks = [_each(nothing | (cycle.get(name) or {}), stations, name) for name in ("from_park", "to_park")]
    load = milliseconds(cycle.get("load", 0), "load")
    start, end = (_tool(cycle.get(name), tools) for name in ("start_tool", "end_tool"))
    if kind == "loop":
        return kind, None, None, parks[0], parks[1], 0
    if kind == "load" and None not in {start, end} and start != end:
        raise WrongWeave("The cycle starts and ends with different tools.", "A load cycle ends as it starts.")
    return kind, start, end, parks[0], parks[1], load


def _each(times: Mapping[str, Any], stations: Mapping[str, int], what: str) -> tuple[int, ...]:
    """A time of each station, [ms]."""
    strange = next(iter(sorted(set(times) ^ set(stations))), None)
    if strange is not None:
        lacks = "has no time" if strange in stations else "is no station"
        raise WrongWeave(f"{strange} {lacks} under {what}.", "Give one for each station.")
    return tuple(milliseconds(times[name], f"The time of {name} under {what}") for name in stations)


def _tool(name: object, tools: Sequence[str]) -> int | None:
    if name is None:
        return None
    if name not in tools:
        raise WrongWeave(f"There is no tool {name}.", "Name one of the tools.")
    return tools.index(str(name))


def _stations(doc: Mapping[str, Any], tools: Sequence[str]) -> tuple[list[WeaveStation], list[WeaveOp]]:
    if not doc["stations"]:
        raise WrongWeave("There is no station.", "Send one at least.")
    stations: list[WeaveStation] = []
    ops: list[WeaveOp] = []
    seen: set[str] = set()
    for s, one in enumerate(doc["stations"]):
        name, pieces = one["id"], one.get("pieces", 1)
        if doc.get("index") and one.get("face") is None:
            raise WrongWeave(f"Station {name} has no face.", "An index wants the face of each station.")
        stations.append(WeaveStation(name, pieces, one.get("finished", pieces), one.get("face", 0)))
        ops += _operations(one, s, tools, seen)
    names = [station.id for station in stations]
    if len(set(names)) != len(names):
        raise WrongWeave("A station is named twice.", "Name each station once.")
    if len(ops) > MOST_OPS:
        raise WrongWeave(f"{len(ops)} operations.", f"{MOST_OPS} are the most.")
    return stations, ops


def _operations(
    station: Mapping[str, Any], number: int, tools: Sequence[str], seen: set[str]
) -> Iterator[WeaveOp]:
    """The operations of one station; their names are added to those seen."""
    if not station.get("ops"):
        raise WrongWeave(f"Station {station['id']} has no operation.", "Leave it out, or give it one.")
    for op in station["ops"]:
        key, tool = op["id"], op["tool"]
        if key in seen:
            raise WrongWeave(f"Operation {key} is there twice.", "Name each once.")
        seen.add(key)
        if tool not in tools:
            raise WrongWeave(f"Operation {key} wants tool {tool}, which is not listed.", "List it.")
        cut = milliseconds(op.get("cut", 0), f"The cut of {key}")
        yield WeaveOp(key, number, tools.index(tool), cut, tuple(op.get("tags") or ()))


def _own_orders(doc: Mapping[str, Any], ops: Sequence[WeaveOp]) -> tuple[int, ...]:
    """What the stations' own lists put before each operation."""
    number = {op.id: i for i, op in enumerate(ops)}
    found = [0] * len(ops)
    for s, station in enumerate(doc["stations"]):
        mine = [i for i, op in enumerate(ops) if op.station == s]
        order = station.get("order", "chain")
        pairs: Iterable[tuple[int, int]] = pairwise(mine)
        if order != "chain":
            strange = next(
                (pair for pair in order if any(number.get(name) not in mine for name in pair)), None
            )
            if strange is not None:
                raise WrongWeave(
                    f"The order of {station['id']} names {' and '.join(strange)}.",
                    "Pairs are of its own operations.",
                )
            pairs = [(number[a], number[b]) for a, b in order]
        for a, b in pairs:
            found[b] |= 1 << a
    return tuple(found)


Index = Mapping[str, Mapping[str, int]]


def _index(ops: Sequence[WeaveOp], stations: Sequence[WeaveStation], tools: Sequence[str]) -> Index:
    """The operations of each name, station, tool and tag. [set each]."""
    found: dict[str, dict[str, int]] = {key: {} for key in KEYS}
    for i, op in enumerate(ops):
        said = (("op", op.id), ("station", stations[op.station].id), ("tool", tools[op.tool]))
        for key, value in (*said, *(("tag", tag) for tag in op.tags)):
            found[key][value] = found[key].get(value, 0) | 1 << i
    return found


def _rule(raw: Mapping[str, Any], index: Index) -> WeaveRule:
    kind, name, why = raw["rule"], raw["id"], raw.get("why", "")

    def chosen(selector: object) -> int:
        found = _selected(selector, index)
        if not found:
            raise WrongWeave(f"Rule {name} names nothing that is there.", "Name operations.", rules=[name])
        return found

    seconds = milliseconds(raw.get("seconds", 0), f"The time of {name}") if kind in {"rest", "cool"} else 0
    if kind in {"once", "cool"}:
        return WeaveRule(kind, name, why, chosen({"tool": raw.get("tool")}), 0, rest_ms=seconds)
    if kind in {"before", "rest"}:
        a, b = chosen(raw.get("a")), chosen(raw.get("b"))
        if a & b:
            both = next(op for op, bit in index["op"].items() if bit & a & b)
            raise WrongWeave(f"Rule {name} puts {both} before itself.", "Choose others.", [both], [name])
        return WeaveRule(kind, name, why, a, b, raw.get("same") == "station", seconds)
    return WeaveRule(kind, name, why, chosen(raw.get("ops")))


def _selected(selector: object, index: Index) -> int:
    """The set of operations a selector names: one, a list, or all that match every key."""
    if isinstance(selector, str | list):
        selector = {"op": selector}
    if not isinstance(selector, dict) or not selector:
        return 0
    found = -1
    for key, value in selector.items():
        values = value if isinstance(value, list) else [value]
        found &= reduce(or_, (index[key].get(one, 0) for one in values), 0)
    return found


def _no_circle(
    ops: Sequence[WeaveOp], before: Sequence[int], own: Sequence[int], rules: Sequence[WeaveRule]
) -> None:
    """Refuse precedences that stand in a circle, naming the operations round it and the rules that make it."""
    state = [0] * len(ops)
    for root in range(len(ops)):
        if state[root]:
            continue
        path: list[int] = []
        stack = [(root, iter(members(before[root])))]
        state[root] = 1
        path.append(root)
        while stack:
            i, more = stack[-1]
            a = next(more, None)
            if a is None:
                state[i] = 2
                path.pop()
                stack.pop()
            elif state[a] == 1:
                _refuse_ring(ops, own, rules, path[path.index(a) :])
            elif not state[a]:
                state[a] = 1
                path.append(a)
                stack.append((a, iter(members(before[a]))))


def _refuse_ring(
    ops: Sequence[WeaveOp], own: Sequence[int], rules: Sequence[WeaveRule], path: Sequence[int]
) -> None:
    ring = [*reversed(path)]  # each before the next, and the last before the first
    named = []
    for a, b in zip(ring, [*ring[1:], ring[0]], strict=True):
        if own[b] >> a & 1:
            continue
        named += [
            rule.id
            for rule in rules
            if rule.kind in {"before", "rest"}
            and rule.a >> a & 1
            and rule.b >> b & 1
            and (not rule.same_station or ops[a].station == ops[b].station)
        ][:1]
    words = [ops[i].id for i in ring]
    raise WrongWeave(
        f"{' before '.join([*words, words[0]])}: that is a circle.",
        "Take one of the rules out that make it.",
        words,
        list(dict.fromkeys(named)),
    )


def _changes(raw: Mapping[str, Any], listed: Sequence[Mapping[str, Any]], tools: Sequence[str]) -> Matrix:
    """Times from tool to tool, with what is added when one is put in."""
    places = [tool.get("place") for tool in listed]
    if raw.get("kind") in {"ring", "line"}:
        missing = next(
            (tool["id"] for tool in listed if not isinstance(tool.get("place"), int | float)), None
        )
        if missing is not None:
            raise WrongWeave(
                f"Tool {missing} has no place.", f"A {raw['kind']} wants the place of each tool."
            )
    fit = [milliseconds(tool.get("fit", 0), f"fit of {tool['id']}") for tool in listed]
    plain = _between(raw, len(tools), places)
    return tuple(
        tuple(0 if a == b else plain[a][b] + fit[b] for b in range(len(tools))) for a in range(len(tools))
    )


def _between(raw: Mapping[str, Any], count: int, places: Sequence[Any]) -> Matrix:
    """Times from one to another of a change or an index; faces of an index are places of their own."""
    kind = raw.get("kind", "constant")
    every = range(count)
    if kind == "table":
        table = raw.get("seconds")
        if not isinstance(table, list) or len(table) < count or any(len(row) < count for row in table):
            raise WrongWeave(
                "The table of times has too few rows.", "Give a time from each to each; faces count from 0."
            )
        return tuple(
            tuple(0 if a == b else milliseconds(table[a][b], "A time of the table") for b in every)
            for a in every
        )
    base = milliseconds(raw.get("seconds", 0), "A change")
    if kind == "constant":
        return tuple(tuple(0 if a == b else base for b in every) for a in every)
    at = [Decimal(n) if place is None else Decimal(repr(place)) for n, place in enumerate(places)]
    each = Decimal(repr(raw.get("per_place", 0))) * 1000
    steps = _steps(kind, raw)
    return tuple(
        tuple(0 if a == b else base + round(steps(at[b] - at[a]) * each) for b in every) for a in every
    )


def _steps(kind: str, raw: Mapping[str, Any]) -> Callable[[Decimal], Decimal]:
    """How many places lie between two, from how far the second is ahead."""
    if kind == "line":
        return abs
    around = Decimal(repr(raw.get("places", 0) or 0))
    if around <= 0:
        raise WrongWeave("The ring has no places.", "Say how many it has.")
    return {
        "up": lambda ahead: _round(ahead, around),
        "down": lambda ahead: _round(-ahead, around),
    }.get(raw.get("direction", "shortest"), lambda ahead: min(_round(ahead, around), _round(-ahead, around)))


def _round(steps: Decimal, places: Decimal) -> Decimal:
    """Steps forward round a ring: at least 0, under its places."""
    rest = steps % places  # of the sign of the steps
    return rest + places if rest < 0 else rest


def _moves(raw: Mapping[str, Any], stations: Mapping[str, int]) -> Matrix:
    """Times from station to station."""
    count = len(stations)
    if "constant" in raw:
        every = milliseconds(raw["constant"], "A move")
        return tuple(tuple(0 if a == b else every for b in range(count)) for a in range(count))
    listed, table = raw.get("stations") or [], raw.get("seconds") or []
    if not set(stations) <= set(listed) or [len(row) for row in table] != [len(listed)] * len(listed):
        raise WrongWeave("The moves do not name every station.", "Give a time from each to each.")
    place = {name: n for n, name in enumerate(listed)}
    return tuple(
        tuple(
            0 if a == b else milliseconds(table[place[a]][place[b]], f"The move from {a} to {b}")
            for b in stations
        )
        for a in stations
    )
