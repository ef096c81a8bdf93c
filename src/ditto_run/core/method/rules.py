"""Feasibility rules of the trade, each with its source or the words "common practice"."""

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal

from ditto_run.core.findings import Finding, Weight
from ditto_run.core.part.fit import ream_allowance_mm

PECK, DEEP = 4, 10  # hole depth over diameter: from here peck; from here a special drill
STEM = {"none": 3, "centre": 8, "steady": 20}  # stem length over diameter that each support allows
SMALLEST_SHARE = 0.5


@dataclass(frozen=True, slots=True)
class Rule:
    """One rule with what was held against it.

    Args:
        name: what it is about.
        value: what is there.
        limit: what is allowed.
        holds: True if it is kept.
        source: where the rule comes from.
    """

    name: str
    value: str
    limit: str
    holds: bool
    source: str


PRACTICE = "common practice, no source"


def punch_rule(hole_mm: float, plate_mm: float) -> Rule:
    """Return whether a hole can be punched: not smaller than the plate is thick, [mm].

    Source: common practice, no source.
    """
    return Rule(
        "Punched hole",
        f"Ø{hole_mm:g} mm",
        f"Ø{plate_mm:g} mm at least, the plate's thickness",
        hole_mm >= plate_mm,
        PRACTICE,
    )


def hole_rule(depth_mm: float, hole_mm: float) -> Rule:
    """Return whether a drilled hole is deep: over 4 diameters it is pecked, over 10 it wants a special drill, [mm].

    Source: common practice, no source.
    """
    ratio = depth_mm / hole_mm
    limit = f"{PECK} × peck, {DEEP} × special drill"
    return Rule("Hole depth over diameter", f"{ratio:.1f} ×", limit, ratio <= PECK, PRACTICE)


def stem_rule(length_mm: float, diameter_mm: float, support: str) -> Rule:
    """Return whether a stem is too slender for its support: none 3, centre 8, steady 20 diameters, [mm].

    Source: common practice, no source.
    """
    ratio = length_mm / diameter_mm
    return Rule(
        "Stem length over diameter",
        f"{ratio:.1f} ×",
        f"{STEM[support]} × with {support}",
        ratio <= STEM[support],
        PRACTICE,
    )


def ream_rule(drilled_mm: float, hole_mm: float) -> Rule:
    """Return whether a drilled hole leaves the reamer enough and not too much: half to twice the usual, [mm].

    Source: common practice, no source.
    """
    usual = float(ream_allowance_mm(Decimal(repr(hole_mm))))
    left = hole_mm - drilled_mm
    return Rule(
        "Left for the reamer",
        f"{left:.2f} mm",
        f"about {usual:.2f} mm",
        usual * SMALLEST_SHARE <= left <= usual / SMALLEST_SHARE,
        PRACTICE,
    )


OVERHANG = {"steel": 4, "carbide": 6}


def overhang_rule(out_mm: float, shank_mm: float, shank: str) -> Rule:
    """Return whether a tool reaches too far to be rigid: a steel shank 4 of its diameters, carbide 6, [mm].

    Source: common practice, no source; deflection goes with the cube: 4 to 6 diameters is 3.4 times.
    """
    ratio = out_mm / shank_mm
    return Rule(
        "Tool overhang over shank",
        f"{ratio:.1f} ×",
        f"{OVERHANG[shank]} × in {shank}",
        ratio <= OVERHANG[shank],
        PRACTICE,
    )


REMEDY = {
    "Tool overhang over shank": "Shorter, thicker or carbide; else lighter cuts, and expect chatter.",
    "Punched hole": "Drill it, or punch a larger one.",
    "Hole depth over diameter": "Peck, clear the chips; past 10 × use a long drill after a pilot, or drill from both ends.",
    "Stem length over diameter": "Support it with a centre or a steady, turn it in segments, or leave stock beside it.",
    "Left for the reamer": "Take the next drill: too little rubs, too much tears.",
}


def rule_findings(rules: Sequence[Rule]) -> list[Finding]:
    """Return a finding for each rule that does not hold."""
    weight: Weight = "ask"
    return [
        Finding(
            "method",
            weight,
            "rule",
            f"{rule.name} is {rule.value}; the rule says {rule.limit}.",
            REMEDY[rule.name],
        )
        for rule in rules
        if not rule.holds
    ]
