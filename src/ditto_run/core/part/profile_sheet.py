"""The profile sheet: a typed table of a turned part, drawn to scale and checked."""

from collections.abc import Sequence
from decimal import Decimal
from itertools import pairwise

from ditto_run.core.findings import Finding
from ditto_run.core.part.profile import Profile, check_profile, read_profile
from ditto_run.core.part.shape.measures import MEASURES
from ditto_run.core.sheets import Answer, Entries, Entry, Fact, Grid, Known, Offer, SheetKind
from ditto_run.core.units import MM_PER_INCH, counted, length_text, number_text, volume_text

SLENDER = 3  # length over diameter from which a turned stem wants support; common practice, no source


def compute(entries: Entries, known: Known) -> Answer:
    """Return the answer of the profile sheet.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    join = entries.maybe_mm("join", above=False)
    segments = read_profile(entries.lines("rows"), known.unit)
    profile = check_profile(
        segments,
        Decimal("0.01") if join is None else join,
        known.unit,
        radii=entries.choice("radii", ("ask", "free")) == "ask",
    )
    findings = [*profile.findings, *_bar_findings(profile, entries, known)]
    thin = min(segments, key=lambda s: min(s.first_mm, s.last_mm))
    ratio = profile.length_mm / max(profile.largest_mm, Decimal("0.001"))
    open_count = sum(1 for finding in findings if finding.weight != "note")
    say = (
        f"{counted(len(segments), 'stretch')}, {open_count} to look at."
        if open_count
        else f"{counted(len(segments), 'stretch')} {'joins' if len(segments) == 1 else 'join'}, and none dips."
    )
    return Answer(
        say,
        f"{length_text(profile.length_mm, known.unit, 2)} long, Ø{length_text(profile.largest_mm, known.unit, 2)} at most, read from the free end.",
        (
            Fact("Length", length_text(profile.length_mm, known.unit, 2)),
            Fact("Largest diameter", length_text(profile.largest_mm, known.unit, 2)),
            Fact(
                "Thinnest", length_text(min(thin.first_mm, thin.last_mm), known.unit, 2), f"line {thin.row}"
            ),
            Fact(
                "Length over diameter",
                f"{number_text(ratio, 1)}",
                "over 3 it wants a centre or a steady; common practice" if ratio > SLENDER else "",
            ),
            Fact("Volume", volume_text(profile.volume_mm3 / 1000, known.unit, 2)),
        ),
        (_grid(profile, known),),
        tuple(findings),
        tuple(
            Offer(f"Ø line {s.row}", f"Ø{_typed(s.first_mm, known)}")
            for s in segments
            if s.first_mm == s.last_mm
        )[:12],
        picture=profile,
        picture_says=f"Turned profile of {counted(len(segments), 'stretch')}, drawn to scale, free end at the left.",
        result=profile,
        source="rules of the trade; volume by frustums",
    )


def _typed(value_mm: Decimal, known: Known) -> str:
    value = value_mm if known.unit == "mm" else value_mm / Decimal("25.4")
    return f"{value.normalize():f} {known.unit}"


def _bar_findings(profile: Profile, entries: Entries, known: Known) -> list[Finding]:
    """Compare the profile with the bar it is turned from, by its measured size if there is one."""
    key = entries.text("bar")
    if not key.isdigit() or int(key) not in known.stock:
        return []
    bar = known.stock[int(key)]
    used = bar.used_mm(known.unit)
    if profile.largest_mm > used:
        return [
            Finding(
                "part",
                "ask",
                "bar-too-thin",
                f"{bar.name} is {length_text(used, known.unit)}, the profile wants {length_text(profile.largest_mm, known.unit)}.",
                "Take a larger bar, or check the diameters.",
            )
        ]
    return []


def _grid(profile: Profile, known: Known) -> Grid:
    rows = []
    for s in profile.segments:
        across = (
            length_text(s.first_mm, known.unit, 2)
            if s.first_mm == s.last_mm
            else f"{_typed(s.first_mm, known)} to {_typed(s.last_mm, known)}"
        )
        radius = "" if s.radius_mm is None else f"R {_typed(s.radius_mm, known)}"
        rows.append(
            (
                str(s.row),
                _typed(s.start_mm, known),
                _typed(s.end_mm, known),
                across,
                f"{radius} {'groove' if s.groove else ''}".strip(),
            )
        )
    return Grid("As it was read, from the free end", ("Line", "From", "To", "Diameter", ""), tuple(rows))


def _begins(known: Known) -> dict[str, str]:
    """The outside of the part as it is drawn; nothing of a block."""
    part = known.of(MEASURES)
    if part is None or not part.outline:
        return {}
    lines = stretches(part.outline)
    wide = [max(first, last) for _, _, first, last in lines]
    rows = []
    for at, line in enumerate(lines):
        dips = 0 < at < len(lines) - 1 and wide[at] < min(wide[at - 1], wide[at + 1])
        figures = line[:3] if line[2] == line[3] else line
        said = (round(Decimal(repr(x)) / (MM_PER_INCH if known.unit == "in" else 1), 5) for x in figures)
        rows.append(" ".join(f"{x.normalize():f}" for x in said) + (" groove" if dips else ""))
    return {"rows": "\n".join(rows), "radii": "free"}


def stretches(outline: Sequence[tuple[float, float]]) -> list[tuple[float, float, float, float]]:
    """Return an outside as stretches from the free end: from, to, diameter at either end, [mm].

    Args:
        outline: place and radius of each corner; two at one place are a shoulder. [mm]
    """
    return [(a, b, 2 * r, 2 * s) for (a, r), (b, s) in pairwise(outline) if b > a]


PROFILE = SheetKind(
    "profile",
    "part",
    "Profile",
    (
        Entry("rows", "One line a stretch, from the free end", kind="area"),
        Entry("join", "Gap from which two do not join"),
        Entry("radii", "Inside corners", kind="choose", choices=("ask", "free")),
        Entry("bar", "Turned from", kind="stock"),
    ),
    compute,
    begins=_begins,
)
