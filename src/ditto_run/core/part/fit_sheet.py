"""The fit sheet: classes both ways, two real sizes, reamers owned, ream allowance, slip-fit pin holes."""

import re
from dataclasses import dataclass
from decimal import Decimal

from ditto_run.core.errors import BadEntry
from ditto_run.core.findings import Finding
from ditto_run.core.part.fit import (
    PURPOSES,
    Fit,
    ReamerMatch,
    drill_before,
    fit_of_classes,
    match_reamers,
    purpose_of_play,
    ream_allowance_mm,
    slip_hole_mm,
)
from ditto_run.core.sheets import Answer, Entries, Entry, Fact, Grid, Known, Offer, SheetKind
from ditto_run.core.units import LengthUnit, length_text, number_text, small_text

CLASS = re.compile(r"([A-Za-z]{1,2}\d{1,2})\s*/\s*([A-Za-z]{1,2}\d{1,2})")
BY_PURPOSE = {purpose: (hole, shaft) for purpose, hole, shaft, _ in PURPOSES}


@dataclass(frozen=True, slots=True)
class FitAnswer:
    """What the fit sheet works out.

    Args:
        fit: of the classes; None if only real sizes are typed.
        play_mm: hole less shaft of the two real sizes; below 0 is interference. [mm]
        reamers: owned, best first.
        drill_mm: hole to drill before the reamer. [mm]
    """

    fit: Fit | None = None
    play_mm: Decimal | None = None
    reamers: tuple[ReamerMatch, ...] = ()
    drill_mm: Decimal | None = None


def compute(entries: Entries, known: Known) -> Answer:
    """Return the answer of the fit sheet.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    nominal = entries.size_mm("nominal", "12")
    hole_real, shaft_real = entries.maybe_mm("hole"), entries.maybe_mm("shaft")
    fit, name = _fit(entries, nominal)
    play = None if hole_real is None or shaft_real is None else hole_real - shaft_real
    wanted = fit.hole_mm
    reamers = tuple(match_reamers(wanted, known.reamers))
    allowance = ream_allowance_mm(nominal)
    drill = drill_before(wanted[0], allowance, known.drills)
    findings = [
        *_reamer_findings(reamers, known.unit),
        *_real_findings(fit, hole_real, shaft_real, known.unit),
    ]
    facts = [
        Fact("Hole", _span(fit.hole_mm, known.unit), name.split("/")[0]),
        Fact("Shaft", _span(fit.shaft_mm, known.unit), name.split("/")[1]),
        Fact("Play", _play_span(fit, known.unit), fit.kind),
        Fact(
            "Leave for the reamer", length_text(allowance, known.unit, 2), "on the diameter; common practice"
        ),
        Fact(
            "Drill before it",
            f"{drill[0]}, {length_text(drill[1], known.unit)}" if drill else "none in the drawer",
            "largest that leaves enough",
        ),
        Fact(
            "Hole for a pin that slips in by hand",
            _span(slip_hole_mm(shaft_real or nominal), known.unit),
            "half a thou to a thou over the pin; common practice",
        ),
    ]
    say = f"{length_text(nominal, known.unit)} {name}: {fit.kind}, {_play_span(fit, known.unit)}."
    if play is not None:
        word = "play" if play >= 0 else "interference"
        like = purpose_of_play(nominal, play)
        say = f"These two have {small_text(play, 'mm')} of {word}."
        facts.insert(
            0,
            Fact(
                "The two real sizes",
                f"{small_text(play, 'mm')} {word}",
                f"like {like}" if like else "like none of the common fits",
            ),
        )
    return Answer(
        say,
        _why(name, play, fit, known.unit),
        tuple(facts),
        (_reamer_grid(reamers, known.unit), _common(nominal, known.unit))
        if reamers
        else (_common(nominal, known.unit),),
        tuple(findings),
        (
            Offer("bore", f"{_bare(nominal, known.unit)} {name.split('/')[0]}"),
            Offer("shank", f"{_bare(nominal, known.unit)} {name.split('/')[1]}"),
        ),
        result=FitAnswer(fit, play, reamers[:6], drill[1] if drill else None),
        source="ISO 286-1",
    )


def _fit(entries: Entries, nominal: Decimal) -> tuple[Fit, str]:
    basis = entries.choice("basis", ("hole", "shaft"))
    typed = entries.text("classes")
    purpose = entries.text("purpose", "sliding")
    if not typed and purpose not in BY_PURPOSE:
        raise BadEntry(
            f"“{purpose[:30]}” is none of the common fits.",
            "Choose one, or type classes such as H7/g6.",
            "purpose",
        )
    name = typed or BY_PURPOSE[purpose][basis == "shaft"]
    match = CLASS.fullmatch(name)
    if match is None or not match[1][0].isupper() or not match[2][0].islower():
        raise BadEntry(
            f"“{name[:20]}” are not the classes of a fit.",
            "Type the hole's and the shaft's, such as H7/g6.",
            "classes",
        )
    try:
        return fit_of_classes(nominal, match[1], match[2]), f"{match[1]}/{match[2]}"
    except BadEntry as refusal:
        raise BadEntry(refusal.problem, refusal.remedy, "classes" if typed else "nominal") from None


def _bare(value_mm: Decimal, unit: LengthUnit) -> str:
    return (
        f"{value_mm.normalize():f} mm" if unit == "mm" else f"{(value_mm / Decimal('25.4')).normalize():f} in"
    )


def _span(ends: tuple[Decimal, Decimal], unit: LengthUnit) -> str:
    low, high = (end if unit == "mm" else end / Decimal("25.4") for end in ends)
    places = 3 if unit == "mm" else 4
    return f"{number_text(low, places)} to {number_text(high, places)} {unit}"


def _play_span(fit: Fit, unit: LengthUnit) -> str:
    def words(play: Decimal) -> str:
        return f"{small_text(play, 'mm') if unit == 'mm' else small_text(play / Decimal('25.4'), 'in')} {'play' if play >= 0 else 'interference'}"

    return f"{words(fit.least_play_mm)} to {words(fit.most_play_mm)}"


def _why(name: str, play: Decimal | None, fit: Fit, unit: LengthUnit) -> str:
    purpose = next((f"{p}: {example}" for p, hole, shaft, example in PURPOSES if name in {hole, shaft}), "")
    if play is None:
        return f"{purpose[0].upper()}{purpose[1:]}." if purpose else "Classes as you typed them."
    inside = fit.least_play_mm <= play <= fit.most_play_mm
    return f"{name} asks for {_play_span(fit, unit)}: {'inside' if inside else 'outside'}."


def _reamer_findings(reamers: tuple[ReamerMatch, ...], unit: LengthUnit) -> list[Finding]:
    if not reamers:
        return [
            Finding(
                "part",
                "note",
                "no-reamers",
                "The shop's reamers are not listed.",
                "List them on Shop, Reamers, with what each cuts.",
            )
        ]
    best = reamers[0]
    if best.off_mm:
        return [
            Finding(
                "part",
                "ask",
                "no-reamer-fits",
                f"No reamer owned makes this hole; the nearest, {best.name}, is {small_text(best.off_mm, 'mm')} out.",
                f"Bore it, buy one, or take a pin to suit {length_text(best.cuts_mm, unit)}.",
            )
        ]
    return []


def _real_findings(fit: Fit, hole: Decimal | None, shaft: Decimal | None, unit: LengthUnit) -> list[Finding]:
    found = []
    for word, value, limits in (("hole", hole, fit.hole_mm), ("shaft", shaft, fit.shaft_mm)):
        if value is not None and not limits[0] <= value <= limits[1]:
            off = max(limits[0] - value, value - limits[1])
            found.append(
                Finding(
                    "part",
                    "note",
                    f"{word}-out",
                    f"The {word} is {small_text(off, 'mm')} outside its class.",
                    f"Its limits are {_span(limits, unit)}; the pair may still do.",
                )
            )
    return found


def _reamer_grid(reamers: tuple[ReamerMatch, ...], unit: LengthUnit) -> Grid:
    rows = tuple(
        (
            r.name,
            length_text(r.cuts_mm, unit),
            "inside" if not r.off_mm else f"{small_text(r.off_mm, 'mm')} out",
        )
        for r in reamers[:5]
    )
    return Grid("Reamers owned, best first", ("Reamer", "Cuts", "Hole's limits"), rows)


def _common(nominal: Decimal, unit: LengthUnit) -> Grid:
    rows = []
    for purpose, hole, shaft, example in PURPOSES:
        try:
            rows.append(
                (purpose, hole, shaft, _play_span(fit_of_classes(nominal, *hole.split("/")), unit), example)
            )
        except BadEntry:
            continue
    return Grid(
        "Common fits", ("Purpose", "Basic hole", "Basic shaft", "Play, basic hole", "For"), tuple(rows)
    )


FIT = SheetKind(
    "fit",
    "part",
    "Fit",
    (
        Entry("nominal", "Nominal size"),
        Entry("purpose", "What it is for", kind="choose", choices=tuple(p for p, *_ in PURPOSES)),
        Entry("basis", "Basis", kind="choose", choices=("hole", "shaft")),
        Entry("classes", "Classes"),
        Entry("hole", "Hole as measured"),
        Entry("shaft", "Shaft as measured"),
    ),
    compute,
)
