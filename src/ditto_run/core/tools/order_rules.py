"""The order of tool steps in a setup: what comes before what, each with its reason.

A step is known by its words. Two steps are held to a rule where their words share a thing, such as slot, or where the setup
has one step of the earlier kind alone; steps that say more than one kind of work, such as drill and tap, are held to none.
"""

import re
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

from ditto_run.core.findings import Finding
from ditto_run.core.shop.own_orders import OwnOrder
from ditto_run.core.shop.recipes import DRILLS, SPOTS, WORDS
from ditto_run.core.tools.tool_step import ToolStep

WORK = dict(WORDS)  # words of a coolant's recipe: the same work is said by the same words
KINDS = {
    "face": r"fac(?:e[sd]?|ing)(?: mill(?:ing)?)?|skim",
    "rough": r"rough(?:s|ed|ing)?",
    "finish": r"finish(?:es|ed|ing)?",
    "spot": rf"(?:{SPOTS}|center)(?:[ -]?{DRILLS})?",
    "drill": f"{DRILLS}|pilot",
    "bore": r"bor(?:e[sd]?|ing)",
    "ream": WORK["ream"],
    "tap": WORK["tap"],
    "groove": r"groov(?:e[sd]?|ing)|undercut|relief",
    "thread": r"thread(?:s|ed|ing)?|screw[ -]?cut(?:ting)?",
    "chamfer": r"chamfer(?:s|ed|ing)?|break edges?|edges",
}
SAID = {kind: re.compile(rf"\b(?:{words})\b", re.IGNORECASE) for kind, words in KINDS.items()}
WORD = re.compile(r"[^\W\d_]{3,}")
NO_THING = frozenset(
    {"the", "and", "for", "all", "mill", "with", "side", "new", "end", "deep", "through", "it"}
)


@dataclass(frozen=True, slots=True)
class OrderRule:
    """One kind of work before another.

    Args:
        earlier, later: kinds of work.
        reason: why.
    """

    earlier: str
    later: tuple[str, ...]
    reason: str


RULES = (  # common practice, no source
    OrderRule(
        "face", ("spot", "drill", "bore", "ream", "tap"), "a hole counts its depth from the faced side"
    ),
    OrderRule("rough", ("finish",), "roughing pushes and heats what is finished already"),
    OrderRule("rough", ("chamfer",), "the rough cut takes the chamfer away again"),
    OrderRule("spot", ("drill",), "the drill has nothing to start in"),
    OrderRule("drill", ("bore", "ream", "tap"), "there is no hole to work in yet"),
    OrderRule("groove", ("thread",), "the threading tool runs out into the groove"),
    OrderRule("face", ("chamfer",), "the facing cut takes the chamfer away again"),
    OrderRule("finish", ("chamfer",), "the finish cut takes the chamfer away, or leaves a burr on it"),
)


@lru_cache(maxsize=4096)
def kinds_of(does: str) -> frozenset[str]:
    """Return the kinds of work a step's words say; a spot drill drills nothing."""
    found = {kind for kind, said in SAID.items() if said.search(does)}
    if "spot" in found and not SAID["drill"].search(SAID["spot"].sub(" ", does)):
        found.discard("drill")
    return frozenset(found)


def order_rule_findings(setup_key: int, setup_name: str, steps: Sequence[ToolStep]) -> list[Finding]:
    """Return the question about each step of a setup that comes before one it should follow; once for a pair.

    Args:
        setup_key: of the setup.
        setup_name: of it, for the sentence.
        steps: tool steps; those of other setups are left out.

    Source:
        Common practice, no source.
    """
    mine = [(step, kinds_of(step.does)) for step in steps if step.setup == setup_key]
    found = []
    for rule in RULES:
        for at, (late, kinds) in enumerate(mine):
            if len(kinds) != 1 or not kinds & {*rule.later}:
                continue
            early = next((step for step, _ in _wanted_before(rule, mine, at)), None)
            if early is not None:
                found.append(
                    Finding(
                        "tools",
                        "ask",
                        "order-rule",
                        f"{setup_name}: {late.name} {late.does} comes before {early.name} {early.does}; {rule.reason}.",
                        "Move it later, or let it stand with a note.",
                        f"setup {setup_key}",
                        f"{rule.earlier} {late.key} {early.key}",
                    )
                )
                break
    return found


def own_order_findings(
    setup_key: int, setup_name: str, steps: Sequence[ToolStep], rules: Sequence[OwnOrder]
) -> list[Finding]:
    """Return the question about the first step of a setup that breaks each of the shop's own rules.

    Args:
        setup_key: of the setup.
        setup_name: of it, for the sentence.
        steps: tool steps; those of other setups are left out.
        rules: of the shop.
    """
    mine, found = [step for step in steps if step.setup == setup_key], []
    for rule in rules:
        for at, late in enumerate(mine):
            early = next((step for step in mine[at + 1 :] if rule.is_first(step.does)), None)
            if early is None or not rule.is_then(late.does):
                continue
            why = f"; {rule.reason.rstrip('.')}" if rule.reason else ""
            says = f"the shop’s rule is {rule.first} before {rule.then}"
            found.append(
                Finding(
                    "tools",
                    "ask",
                    "own-order",
                    f"{setup_name}: {late.name} {late.does} comes before {early.name} {early.does}; {says}{why}.",
                    "Move it later, or let it stand with a note.",
                    f"setup {setup_key}",
                    f"{rule.first} {late.key} {early.key}",
                )
            )
            break
    return found


def _wanted_before(
    rule: OrderRule, mine: Sequence[tuple[ToolStep, frozenset[str]]], at: int
) -> list[tuple[ToolStep, frozenset[str]]]:
    """Steps behind one that a rule wants before it: of the same thing, or the only one of that kind."""
    of_kind = [one for one in mine if one[1] == {rule.earlier}]
    behind = [one for one in mine[at + 1 :] if one[1] == {rule.earlier}]
    things = _things(mine[at][0].does)
    same = [one for one in behind if things & _things(one[0].does)]
    return same or (behind if len(of_kind) == 1 else [])


def _things(does: str) -> frozenset[str]:
    """The words of a step that name what it works on."""
    bare = does
    for said in SAID.values():
        bare = said.sub(" ", bare)
    return frozenset(word.lower() for word in WORD.findall(bare)) - NO_THING
