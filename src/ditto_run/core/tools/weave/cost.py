"""What an order of a weave takes, and which rules it breaks: one pass over it, no search."""

from collections.abc import Sequence
from dataclasses import dataclass
from itertools import pairwise

from ditto_run.core.tools.weave.problem import Weave, WeaveRule, members


@dataclass(frozen=True, slots=True)
class Visit:
    """One operation in an order; its change, move, index and wait come before it. Times in ms from the start of the cycle."""

    op: int
    change_ms: int
    move_ms: int
    index_ms: int
    wait_ms: int
    start_ms: int
    end_ms: int


@dataclass(frozen=True, slots=True)
class Broken:
    """A rule an order breaks, with a pair of operations that does it."""

    rule: str
    a: str
    b: str


@dataclass(frozen=True, slots=True)
class WeaveCost:
    """What an order takes.

    Args:
        visits: in order.
        closing: change, move and index after the last one. [ms]
        cycle_ms: the whole. [ms]
        first_ms: until the station that is done first is done. [ms]
        at_risk: most pieces begun and not yet finished while something cuts.
        changes: how often a different tool is put in.
        per_piece_ms: cycle and load over the pieces finished, exact to a thousandth of a ms. [ms]
        totals: cut, change, move, index, wait. [ms]
        broken: rules it breaks.
    """

    visits: tuple[Visit, ...]
    closing: tuple[int, int, int]
    cycle_ms: int
    first_ms: int
    at_risk: int
    changes: int
    per_piece_ms: float
    totals: tuple[int, int, int, int, int]
    broken: tuple[Broken, ...]


def cost_of(weave: Weave, order: Sequence[int]) -> WeaveCost:
    """Return what an order takes.

    Args:
        weave: the problem.
        order: every operation once.

    Source:
        Own derivation; held to [weave].
    """
    visits = _visits(weave, order)
    closing = weave.closing(order[0], order[-1])
    cycle = visits[-1].end_ms + sum(closing)
    tools = [weave.ops[i].tool for i in order]
    given = sum(s.finished for s in weave.stations) or sum(s.pieces for s in weave.stations)
    return WeaveCost(
        visits,
        closing,
        cycle,
        *_first_and_risk(weave, visits),
        sum(a != b for a, b in pairwise(tools)) + _ends(weave, tools),
        (cycle + weave.load_ms) / given,
        (
            sum(op.cut_ms for op in weave.ops),
            sum(v.change_ms for v in visits) + closing[0],
            sum(v.move_ms for v in visits) + closing[1],
            sum(v.index_ms for v in visits) + closing[2],
            sum(v.wait_ms for v in visits),
        ),
        tuple(broken_rules(weave, order)),
    )


def _first_and_risk(weave: Weave, visits: Sequence[Visit]) -> tuple[int, int]:
    """When the station that is done first is done, [ms], and the most pieces begun and not yet finished."""
    left = [sum(op.station == s for op in weave.ops) for s in range(len(weave.stations))]
    counts = _counting(weave)
    begun = risk = first = 0
    seen: set[int] = set()
    for visit in visits:
        station = weave.ops[visit.op].station
        if station not in seen:
            seen.add(station)
            begun += weave.stations[station].pieces
        risk = max(risk, begun)
        left[station] -= 1
        if left[station]:
            continue
        begun -= weave.stations[station].pieces
        if station in counts:
            first, counts = visit.end_ms, set()
    return first, risk


def _counting(weave: Weave) -> set[int]:
    """Stations of which the first one done counts."""
    giving = {s for s, station in enumerate(weave.stations) if station.finished > 0}
    return giving or set(range(len(weave.stations)))


def _ends(weave: Weave, tools: Sequence[int]) -> int:
    """How often a tool is put in at the two ends of the cycle."""
    if weave.kind == "loop":
        return int(tools[-1] != tools[0])
    opening = int(weave.start_tool is not None and weave.start_tool != tools[0])
    end = weave.end_tool
    if weave.kind == "load":
        end = weave.start_tool if weave.start_tool is not None else tools[0]
    return opening + int(end is not None and end != tools[-1])


def _visits(weave: Weave, order: Sequence[int]) -> tuple[Visit, ...]:
    found: list[Visit] = []
    used: dict[int, int] = {}  # tool to when its last use ended
    rested = _Rested(weave)
    cooling = _cooling(weave)
    clock = 0
    for place, i in enumerate(order):
        if place:
            change, move, index = weave.between(order[place - 1], i)
        else:
            (change, move), index = weave.opening(i), 0
        ready = clock + change + move + index
        start = max(ready, rested.until(i))
        tool = weave.ops[i].tool
        if tool in cooling and tool in used:  # also where it stays in the spindle
            start = max(start, used[tool] + cooling[tool])
        clock = used[tool] = start + weave.ops[i].cut_ms
        rested.ended(i, clock)
        found.append(Visit(i, change, move, index, start - ready, start, clock))
    return tuple(found)


def _cooling(weave: Weave) -> dict[int, int]:
    """How long each tool cools between two uses, by tool, [ms]."""
    found: dict[int, int] = {}
    for rule in weave.rules:
        if rule.kind == "cool":
            tool = weave.ops[members(rule.a)[0]].tool
            found[tool] = max(found.get(tool, 0), rule.rest_ms)
    return found


class _Rested:
    """When each rest is over: the latest end of what it waits for, at each station where it holds within one."""

    def __init__(self, weave: Weave) -> None:
        self.weave = weave
        self.rests = [rule for rule in weave.rules if rule.kind == "rest"]
        self.over: dict[tuple[int, int], int] = {}

    def _at(self, n: int, i: int) -> tuple[int, int]:
        return n, self.weave.ops[i].station if self.rests[n].same_station else -1

    def until(self, i: int) -> int:
        """Return when an operation may start, [ms]."""
        return max(
            (self.over.get(self._at(n, i), 0) for n, rule in enumerate(self.rests) if rule.b >> i & 1),
            default=0,
        )

    def ended(self, i: int, at_ms: int) -> None:
        """Note that an operation's cut has ended."""
        for n, rule in enumerate(self.rests):
            if rule.a >> i & 1:
                self.over[self._at(n, i)] = at_ms + rule.rest_ms


def broken_rules(weave: Weave, order: Sequence[int]) -> list[Broken]:
    """Return the rules an order breaks, each with the first pair of operations that does.

    Waits are counted, so a rest or a cooling is never too short; a rest is broken only by its order.

    Args:
        weave: the problem.
        order: every operation once.
    """
    place = {i: n for n, i in enumerate(order)}
    found = []
    for i, wanted in enumerate(weave.own_before):
        late = next((a for a in members(wanted) if place[a] > place[i]), None)
        if late is not None:
            station = weave.stations[weave.ops[i].station].id
            found.append(Broken(f"order of {station}", weave.ops[late].id, weave.ops[i].id))
    for rule in weave.rules:
        pair = _breaks(weave, rule, order, place)
        if pair is not None:
            found.append(Broken(rule.id, weave.ops[pair[0]].id, weave.ops[pair[1]].id))
    return found


def _breaks(
    weave: Weave, rule: WeaveRule, order: Sequence[int], place: dict[int, int]
) -> tuple[int, int] | None:
    """A pair of operations that breaks a rule; None where it is kept."""
    if rule.kind in {"before", "rest"}:
        return _out_of_order(weave, rule, place)
    mine = sorted(members(rule.a), key=place.__getitem__)
    if rule.kind in {"together", "once"}:
        span = order[place[mine[0]] : place[mine[-1]] + 1]
        other = next((i for i in span if not rule.a >> i & 1), None)
        return None if other is None else (mine[0], other)
    if rule.kind == "first" and not rule.a >> order[0] & 1:
        return mine[0], order[0]
    if rule.kind == "last" and not rule.a >> order[-1] & 1:
        return mine[-1], order[-1]
    return None


def _out_of_order(weave: Weave, rule: WeaveRule, place: dict[int, int]) -> tuple[int, int] | None:
    """The latest that should be earlier, and the earliest that should be later; None where all are in order."""
    groups = weave.at_station if rule.same_station else (rule.a | rule.b,)
    for group in groups:
        if not (rule.a & group and rule.b & group):
            continue
        a = max(members(rule.a & group), key=place.__getitem__)
        b = min(members(rule.b & group), key=place.__getitem__)
        if place[a] > place[b]:
            return a, b
    return None
