"""The feasibility sheet: rules of the trade against this part."""

from ditto_run.core.errors import BadEntry
from ditto_run.core.method.rules import (
    hole_rule,
    overhang_rule,
    punch_rule,
    ream_rule,
    rule_findings,
    stem_rule,
)
from ditto_run.core.sheets import Answer, Entries, Entry, Grid, Known, SheetKind
from ditto_run.core.units import counted

SUPPORTS = ("none", "centre", "steady")


def compute(entries: Entries, known: Known) -> Answer:  # noqa: ARG001 - every sheet has the same two
    """Return the answer of the feasibility sheet.

    Raises:
        BadEntry: at the field that cannot be used, or if nothing is typed.
    """
    rules = []
    for first, second, rule in (
        ("punched", "plate", punch_rule),
        ("hole_depth", "hole", hole_rule),
        ("drilled", "reamed", ream_rule),
    ):
        if entries.has(first) or entries.has(second):
            rules.append(rule(float(entries.mm(first)), float(entries.mm(second))))
    if entries.has("stem") or entries.has("stem_across"):
        rules.append(
            stem_rule(
                float(entries.mm("stem")),
                float(entries.mm("stem_across")),
                entries.choice("support", SUPPORTS),
            )
        )
    if entries.has("tool_out") or entries.has("shank"):
        kind = entries.choice("shank_of", ("steel", "carbide"))
        rules.append(overhang_rule(float(entries.mm("tool_out")), float(entries.mm("shank")), kind))
    if not rules:
        raise BadEntry(
            "Nothing is typed to hold against a rule.",
            "Type a pair, such as hole depth and hole.",
            "hole_depth",
        )
    broken = rule_findings(rules)
    say = (
        f"{counted(len(broken), 'rule')} of {len(rules)} {'does' if len(broken) == 1 else 'do'} not hold."
        if broken
        else f"{counted(len(rules), 'rule')} asked, and {'it holds' if len(rules) == 1 else 'each holds'}."
    )
    rows = tuple((r.name, r.value, r.limit, "holds" if r.holds else "does not hold", r.source) for r in rules)
    return Answer(
        say,
        "Rules of the trade, not laws: your own experience with the machine goes before them.",
        grids=(Grid("Rules", ("Rule", "Here", "Allowed", "", "Source"), rows),),
        findings=tuple(broken),
        result=tuple(rules),
        source="common practice, no source",
    )


RULES = SheetKind(
    "rules",
    "method",
    "Will it go",
    (
        Entry("hole_depth", "Hole depth"),
        Entry("hole", "Hole, Ø"),
        Entry("stem", "Stem length"),
        Entry("stem_across", "Stem, Ø"),
        Entry("support", "Supported by", kind="choose", choices=("none", "centre", "steady")),
        Entry("tool_out", "Tool reaches out"),
        Entry("shank", "Shank, Ø"),
        Entry("shank_of", "Shank of", kind="choose", choices=("steel", "carbide")),
        Entry("drilled", "Drilled"),
        Entry("reamed", "Reamed to"),
        Entry("punched", "Punched hole, Ø"),
        Entry("plate", "Plate thickness"),
    ),
    compute,
)
