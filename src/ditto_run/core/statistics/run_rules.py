"""Run rules: patterns that a sound process seldom shows.

They say that something changed, not what it costs: the judgement decides. They are here for who wants to see it the usual way.
"""

import itertools
from collections.abc import Callable, Sequence
from dataclasses import dataclass


def _beyond(count: int, window: int, sigma: float) -> Callable[[Sequence[float]], bool]:
    """So many of so many beyond a distance, on one side."""

    def holds(z: Sequence[float]) -> bool:
        last = z[-window:]
        sign = 1 if last[-1] > 0 else -1
        return sign * last[-1] > sigma and sum(sign * x > sigma for x in last) >= count

    return holds


def _trend(count: int) -> Callable[[Sequence[float]], bool]:
    def holds(z: Sequence[float]) -> bool:
        last = z[-count:]
        steps = [b - a for a, b in itertools.pairwise(last)]
        return len(last) == count and (all(s > 0 for s in steps) or all(s < 0 for s in steps))

    return holds


def _up_and_down(count: int) -> Callable[[Sequence[float]], bool]:
    def holds(z: Sequence[float]) -> bool:
        last = z[-count:]
        steps = [b - a for a, b in itertools.pairwise(last)]
        return len(last) == count and all(a * b < 0 for a, b in itertools.pairwise(steps))

    return holds


def _within(count: int, sigma: float, *, inside: bool) -> Callable[[Sequence[float]], bool]:
    def holds(z: Sequence[float]) -> bool:
        last = z[-count:]
        return len(last) == count and all((abs(x) < sigma) == inside for x in last)

    return holds


RULES: dict[str, Callable[[Sequence[float]], bool]] = {
    "one beyond three sigma": _beyond(1, 1, 3.0),
    "nine in a row on one side": _beyond(9, 9, 0.0),
    "six in a row up or down": _trend(6),
    "fourteen up and down in turn": _up_and_down(14),
    "two of three beyond two sigma": _beyond(2, 3, 2.0),
    "four of five beyond one sigma": _beyond(4, 5, 1.0),
    "fifteen within one sigma": _within(15, 1.0, inside=True),
    "eight in a row beyond one sigma": _within(8, 1.0, inside=False),
}
"""The eight usual rules, by what they say."""

LONGEST = 15


@dataclass(frozen=True, slots=True)
class Signal:
    """A rule that spoke: its name, and the reading at which it did, counted from 0."""

    rule: str
    at: int


def run_rules(
    values: Sequence[float], centre: float, sigma: float, rules: Sequence[str] = tuple(RULES)
) -> list[Signal]:
    """Return where the rules speak, in the order of the readings; each where its pattern is complete.

    Args:
        values: readings in order. [any unit]
        centre: where they should lie. [their unit]
        sigma: their usual spread, over 0. [their unit]
        rules: which are asked; the more, the oftener they speak of a sound process.

    Source:
        Rules and the reading at which each first speaks: [rules].
    """
    z = [(value - centre) / sigma for value in values]
    return [
        Signal(rule, at)
        for at in range(len(z))
        for rule in rules
        if RULES[rule](z[max(at + 1 - LONGEST, 0) : at + 1])
    ]
