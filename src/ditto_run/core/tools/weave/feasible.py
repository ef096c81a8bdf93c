"""Whether any order keeps all rules, and which rules clash where none does."""

from collections.abc import Sequence

from ditto_run.core.tools.weave.problem import Weave, WeaveRule, members, with_rules

MOST_TRIED = 200_000  # states; beyond them nothing is said


class TooMany(Exception):
    """So many states were tried that nothing is said."""


def any_order(weave: Weave, most: int = MOST_TRIED) -> tuple[int, ...] | None:
    """Return an order that keeps all rules; None where there is none.

    Args:
        weave: the problem.
        most: states that are tried.

    Raises:
        TooMany: if so many states do not decide it.

    Source:
        Own derivation: depth first over sets of done operations; what leads nowhere is not gone into again.
    """
    every = (1 << len(weave.ops)) - 1
    wholes = [rule.a for rule in weave.rules if rule.kind in {"together", "once"}]
    lasts = [rule.a for rule in weave.rules if rule.kind == "last"]
    order: list[int] = []
    dead: set[int] = set()
    stack = [_ways(weave, 0, wholes, lasts)]
    done = 0
    while stack:
        if done == every:
            return tuple(order)
        i = stack[-1].pop() if stack[-1] else None
        if i is not None and done | 1 << i not in dead:
            done |= 1 << i
            order.append(i)
            stack.append(_ways(weave, done, wholes, lasts))
        elif i is None:
            stack.pop()
            dead.add(done)
            if len(dead) > most:
                raise TooMany
            if order:
                done &= ~(1 << order.pop())
    return None


def _ways(weave: Weave, done: int, wholes: Sequence[int], lasts: Sequence[int]) -> list[int]:
    """What may follow, the likeliest last: it is taken first."""
    left = ((1 << len(weave.ops)) - 1) & ~done
    for whole in wholes:
        if whole & done and whole & ~done:
            left &= whole
    for rule in weave.rules:
        if rule.kind == "first" and not done:
            left &= rule.a
    at_end = (done.bit_count() + 1) == len(weave.ops)
    found = []
    for i in members(left):
        if weave.before[i] & ~done:
            continue
        if at_end or not any(last >> i & 1 and not last & ~done & ~(1 << i) for last in lasts):
            found.append(i)
    return found


def clash_of(weave: Weave) -> tuple[WeaveRule, ...]:
    """Return rules that cannot be kept together, of which none can be left out; all of them where that takes too long.

    Args:
        weave: a problem without an answer.

    Source:
        Own derivation: rules are taken away one by one for as long as there is still no answer.
    """
    clash = [rule for rule in weave.rules if rule.kind != "cool"]
    for rule in [*clash]:
        fewer = [one for one in clash if one is not rule]
        try:
            if any_order(with_rules(weave, fewer), MOST_TRIED // 10) is None:
                clash = fewer
        except TooMany:
            continue
    return tuple(clash)
