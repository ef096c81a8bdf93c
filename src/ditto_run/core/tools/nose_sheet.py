"""The nose sheet: nose, rake and clearance of a turning tool for a material, and the feed its finish allows."""

from dataclasses import dataclass
from decimal import Decimal
from typing import Literal, get_args

from ditto_run.core.findings import Finding
from ditto_run.core.sheets import Answer, Entries, Entry, Fact, Grid, Known, SheetKind
from ditto_run.core.shop.groups import GROUPS
from ditto_run.core.tools.cutting.surface import STANDARD_NOSES_MM, feed_for_ra_mm, turned_ra_um
from ditto_run.core.tools.passes_sheet import NOSE_SHARE
from ditto_run.core.units import LengthUnit, capital, length_text, number_text

Stiff = Literal["stiff", "slender", "bored"]
STIFF: tuple[Stiff, ...] = get_args(Stiff)
GRABS = "brass"  # and bronze; common practice, no source
UM_PER_UIN = 0.0254
GROUP_NAMES = tuple(group.name for group in GROUPS)
MOST_OF_NOSE = 0.8  # of the nose radius, that a roughing feed is at most; common practice, no source


@dataclass(frozen=True, slots=True)
class EdgeAdvice:
    """An edge for a job.

    Args:
        nose_mm: the smallest standard nose that leaves the finish at this feed; None where none does. [mm]
        ra_um: what the nose that is there leaves; None while there is none. [µm]
        feed_mm: the fastest that leaves the finish with the nose that is there, or the one that is taken; None for neither. [mm]
        positive: True where a positive edge is taken; of one that grabs it has no rake.
        polished: True where it is sharp and not coated.
        grabs: True for a material that pulls a raked edge in.
    """

    nose_mm: float | None
    ra_um: float | None
    feed_mm: float | None
    positive: bool
    polished: bool
    grabs: bool = False


def edge_for(group: str, ra_um: float, feed_mm: float, nose_mm: float | None, stiff: Stiff) -> EdgeAdvice:
    """Return the edge that is taken.

    Args:
        group: of the material.
        ra_um: finish that is wanted. [µm]
        feed_mm: a turn. [mm]
        nose_mm: of the edge that is there; None while not known. [mm]
        stiff: how the work or the bar stands.

    Source:
        Finish by own derivation; which edge for which material is common practice, no source.
    """
    soft = next((one.soft for one in GROUPS if one.name == group), False)
    fit = [nose for nose in STANDARD_NOSES_MM if turned_ra_um(feed_mm, nose) <= ra_um]
    taken = nose_mm or (fit[0] if fit else None)
    return EdgeAdvice(
        fit[0] if fit else None,
        turned_ra_um(feed_mm, nose_mm) if nose_mm else None,
        feed_for_ra_mm(ra_um, taken) if taken else None,
        soft or stiff != "stiff",
        soft,
        group == GRABS,
    )


def compute(entries: Entries, known: Known) -> Answer:
    """Return the answer of the nose sheet.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    unit = known.unit
    entries.need("group", "alloy steel")
    group = entries.choice("group", GROUP_NAMES)
    ra = float(entries.number("ra", 0.05, 50, 3.2))
    feed = float(entries.mm("feed", "0.15"))
    nose = entries.maybe_mm("nose")
    stiff = STIFF[STIFF.index(entries.choice("stiff", STIFF))]
    flank = entries.number("flank", 0, 45) if entries.has("flank") else None
    found = edge_for(group, ra, feed, float(nose) if nose is not None else None, stiff)
    return Answer(
        _say(found, nose, unit),
        _why(found, group, stiff),
        tuple(_facts(found, ra, feed, nose, unit)),
        (_noses(ra, feed, unit),),
        findings=tuple(_findings(found, ra, feed, nose, flank, unit)),
        result=found,
        source="finish from feed and nose, own derivation; which edge is common practice: the maker’s figures go before it",
    )


def _say(found: EdgeAdvice, nose: Decimal | None, unit: LengthUnit) -> str:
    kind = (
        "Sharp, without rake"
        if found.grabs
        else "Sharp and polished, positive"
        if found.polished
        else "Coated, positive"
        if found.positive
        else "Coated, negative"
    )
    if nose is not None:
        return f"{kind}; nose {length_text(nose, unit, 2)} leaves Ra {found.ra_um:.2g} µm."
    if found.nose_mm is None:
        return f"{kind}; no nose leaves that finish at this feed."
    return f"{kind}, nose {length_text(found.nose_mm, unit, 2)}."


def _why(found: EdgeAdvice, group: str, stiff: Stiff) -> str:
    if found.grabs:
        return "Brass pulls a raked edge in, above all a drill or a bar. Others take a positive one on stiff work, for a finer face."
    if found.polished:
        name = f"{capital(group)}"
        return f"{name} sticks to a coating and a dull edge. Others turn it with a coated steel grade at high speed."
    if found.positive:
        where = "The work is slender" if stiff == "slender" else "A bar bends in its hole"
        return f"{where}, and a positive edge pushes less. Others keep a negative one for its strength, with a lighter cut."
    return "A negative edge is stronger and has twice as many corners. Others take a positive one: it cuts freer on a light machine."


def _facts(found: EdgeAdvice, ra: float, feed: float, nose: Decimal | None, unit: LengthUnit) -> list[Fact]:
    facts = []
    if found.ra_um is not None:
        facts.append(
            Fact(
                "Finish by feed and nose",
                _ra(found.ra_um),
                f"at {length_text(feed, unit)} a turn; wanted {_ra(ra)}",
            )
        )
    if found.feed_mm is not None:
        facts.append(
            Fact("Feed that leaves it", length_text(found.feed_mm, unit), "a turn at most, with a sharp edge")
        )
    taken = float(nose) if nose is not None else found.nose_mm
    if taken is not None:
        facts.append(
            Fact(
                "Last pass at least", length_text(NOSE_SHARE * taken, unit), "on the radius; on less it rubs"
            )
        )
    return facts


def _ra(value: float) -> str:
    return f"Ra {number_text(Decimal(repr(round(value, 2))), 2)} µm ({value / UM_PER_UIN:.0f} µin)"


def _noses(ra: float, feed: float, unit: LengthUnit) -> Grid:
    rows = tuple(
        (
            length_text(nose, unit, 2),
            _ra(turned_ra_um(feed, nose)),
            length_text(feed_for_ra_mm(ra, nose), unit),
            length_text(NOSE_SHARE * nose, unit),
        )
        for nose in STANDARD_NOSES_MM
    )
    return Grid(
        "Noses side by side",
        ("Nose", "Leaves", "Feed for the finish", "Last pass at least"),
        rows,
    )


def _findings(
    found: EdgeAdvice, ra: float, feed: float, nose: Decimal | None, flank: Decimal | None, unit: LengthUnit
) -> list[Finding]:
    told = []
    if found.ra_um is not None and found.ra_um > ra and found.feed_mm is not None:
        told.append(
            Finding(
                "tools",
                "ask",
                "finish-rough",
                f"Feed and nose leave {_ra(found.ra_um)}, and {_ra(ra)} is wanted.",
                f"Feed {length_text(found.feed_mm, unit)} a turn at most, or take a larger nose.",
                ground=f"{found.ra_um:.3g} {ra:.3g}",
            )
        )
    if nose is not None and feed > MOST_OF_NOSE * float(nose):
        told.append(
            Finding(
                "tools",
                "ask",
                "feed-over-nose",
                f"A feed of {length_text(feed, unit)} a turn is much for a nose of {length_text(nose, unit, 2)}: its corner breaks.",
                f"Feed {length_text(MOST_OF_NOSE * float(nose), unit)} at most, or take a larger nose.",
                ground=f"{feed:.4g} {nose}",
            )
        )
    if flank is not None and not flank and found.positive:
        told.append(
            Finding(
                "tools",
                "note",
                "edge-negative",
                "Its insert has no clearance, so it is a negative one; here a positive one is taken.",
                "Keep it with a lighter cut, or take another insert.",
            )
        )
    return told


NOSE = SheetKind(
    "nose",
    "tools",
    "Which edge",
    (
        Entry("group", "Cut like", kind="choose", choices=GROUP_NAMES),
        Entry("ra", "Finish wanted, Ra in µm"),
        Entry("feed", "Feed a turn"),
        Entry("nose", "Radius of its nose"),
        Entry("flank", "Clearance of its insert"),
        Entry("stiff", "How it stands", kind="choose", choices=STIFF),
    ),
    compute,
)
