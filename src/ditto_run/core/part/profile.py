"""A turned profile as a typed table: dips, joins, missing radii and unequal grooves are found before it is cut."""

import re
from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal
from itertools import pairwise
from math import pi

from ditto_run.core.entry.rows import lengths_of
from ditto_run.core.errors import BadEntry
from ditto_run.core.findings import Finding
from ditto_run.core.units import LengthUnit, bare_text

MM_PER_INCH = Decimal("25.4")
MOST_SEGMENTS = 400
NEARLY = Decimal(
    "0.1"
)  # grooves within a tenth of each other were meant to be equal; common practice, no source
FORM = "from, to, diameter; then a second diameter for a taper, R and a radius, and the word groove"


@dataclass(frozen=True, slots=True)
class Segment:
    """One stretch of a profile, from the free end towards the chuck.

    Args:
        row: line it was typed on, from 1.
        start_mm: distance of its start from the free end. [mm]
        end_mm: distance of its end. [mm]
        first_mm: diameter at its start. [mm]
        last_mm: diameter at its end. [mm]
        radius_mm: corner radius at its chuck-side end; None if none is given. [mm]
        groove: True if it is meant to dip.
    """

    row: int
    start_mm: Decimal
    end_mm: Decimal
    first_mm: Decimal
    last_mm: Decimal
    radius_mm: Decimal | None = None
    groove: bool = False

    @property
    def length_mm(self) -> Decimal:
        """Length along the axis, [mm]."""
        return self.end_mm - self.start_mm


def read_profile(lines: Sequence[str], unit: LengthUnit) -> tuple[Segment, ...]:
    """Return the segments of a typed table.

    Args:
        lines: one a segment: from, to, diameter, perhaps a second diameter, R and a radius, the word groove.
        unit: unit of the figures.

    Raises:
        BadEntry: at the first line that cannot be read; the line is named.
    """
    if not lines:
        raise BadEntry("No profile is typed.", f"Type a line for each stretch: {FORM}.", "rows")
    if len(lines) > MOST_SEGMENTS:
        raise BadEntry(
            f"{len(lines):,} lines are more than a profile has.", f"Type {MOST_SEGMENTS} at most.", "rows"
        )
    return tuple(_segment(row, line, unit) for row, line in enumerate(lines, 1))


def _segment(row: int, line: str, unit: LengthUnit) -> Segment:
    text = re.sub(r"[øØ⌀]|\bgroove\b", " ", line, flags=re.IGNORECASE)
    groove = "groove" in line.lower()
    bare, *radii = re.split(r"\br(?=[\s\d.])", text, flags=re.IGNORECASE)
    figures = lengths_of(bare, unit, "rows")
    radius = lengths_of(radii[0], unit, "rows") if radii else []
    if len(figures) not in {3, 4} or len(radii) > 1 or len(radius) != len(radii):
        raise BadEntry(f"Line {row}, “{line[:30]}”, cannot be read.", f"Type {FORM}.", "rows")
    start, end, first, *more = figures
    last = more[0] if more else first
    if end <= start:
        raise BadEntry(
            f"Line {row} ends at or before its start.",
            "Type positions from the free end, the smaller first.",
            "rows",
        )
    if first < 0 or last < 0 or (not first and not last) or start < 0:
        raise BadEntry(
            f"Line {row} has a size below zero.", "Diameters and positions are above zero.", "rows"
        )
    return Segment(row, start, end, first, last, radius[0] if radius else None, groove)


@dataclass(frozen=True, slots=True)
class Profile:
    """A read profile with what is wrong with it.

    Args:
        segments: from the free end towards the chuck.
        findings: dips, joins, missing radii, unequal grooves.
        length_mm: whole length. [mm]
        largest_mm: largest diameter. [mm]
        volume_mm3: of the finished profile. [mm³]
    """

    segments: tuple[Segment, ...]
    findings: tuple[Finding, ...]
    length_mm: Decimal
    largest_mm: Decimal
    volume_mm3: float


def check_profile(
    segments: Sequence[Segment], join_mm: Decimal, unit: LengthUnit, *, radii: bool = True
) -> Profile:
    """Return a profile with everything that would stop it being turned as typed.

    Args:
        segments: from the free end towards the chuck.
        join_mm: gap from which two segments do not join. [mm]
        unit: unit the findings speak in.
        radii: False if inside corners may stay without a radius.

    Source:
        Rules of the Part step: diameters monotone, segment start = last end within a settable gap. Volume:
        own derivation, frustums.
    """
    findings = [
        *_joins(segments, join_mm, unit),
        *_dips(segments, unit),
        *(_radii(segments, unit) if radii else ()),
        *_grooves(segments, unit),
    ]
    volume = sum(
        pi / 12 * float(s.length_mm) * float(s.first_mm**2 + s.first_mm * s.last_mm + s.last_mm**2)
        for s in segments
    )
    largest = max(max(s.first_mm, s.last_mm) for s in segments)
    return Profile(
        tuple(segments), tuple(findings), segments[-1].end_mm - segments[0].start_mm, largest, volume
    )


def _shown(value_mm: Decimal, unit: LengthUnit) -> str:
    value = value_mm / MM_PER_INCH if unit == "in" else value_mm
    return f"{bare_text(value, unit, 4 if unit == 'in' else 3).rstrip('0').rstrip('.')} {unit}"


def _joins(segments: Sequence[Segment], join_mm: Decimal, unit: LengthUnit) -> list[Finding]:
    found = []
    for before, after in pairwise(segments):
        gap = after.start_mm - before.end_mm
        if abs(gap) > join_mm:
            word = "starts after" if gap > 0 else "starts before"
            found.append(
                Finding(
                    "part",
                    "ask",
                    "does-not-join",
                    f"Line {after.row} {word} line {before.row} ends, by {_shown(abs(gap), unit)}.",
                    f"Start it at {_shown(before.end_mm, unit)}, or end line {before.row} at {_shown(after.start_mm, unit)}.",
                )
            )
    return found


def _dips(segments: Sequence[Segment], unit: LengthUnit) -> list[Finding]:
    """Away from the free end the diameter may only grow, but for a groove."""
    found, widest = [], Decimal(0)
    for segment in segments:
        if segment.groove:
            continue
        if segment.first_mm < widest or segment.last_mm < segment.first_mm:
            low = min(segment.first_mm, segment.last_mm)
            found.append(
                Finding(
                    "part",
                    "ask",
                    "profile-dips",
                    f"Line {segment.row} dips to {_shown(low, unit)} behind {_shown(max(widest, segment.first_mm), unit)}.",
                    "Check the diameter; write groove on the line if it is meant, or turn the part round for it.",
                )
            )
        widest = max(widest, segment.first_mm, segment.last_mm)
    return found


def _radii(segments: Sequence[Segment], unit: LengthUnit) -> list[Finding]:
    """An inside corner, where the diameter steps up towards the chuck, takes the tool's nose radius at least."""
    bare = [
        before
        for before, after in pairwise(segments)
        if after.first_mm > before.last_mm and before.radius_mm is None and not before.groove
    ]
    if not bare:
        return []
    known = [s.radius_mm for s in segments if s.radius_mm]
    like = f"R {_shown(min(known), unit)} as on the others" if known else "the tool's nose radius"
    lines = ", ".join(str(s.row) for s in bare)
    return [
        Finding(
            "part",
            "ask",
            "radius-missing",
            f"The inside corner at the end of line {lines} has no radius.",
            f"Add R and the radius: {like}; the mating part must clear it.",
        )
    ]


def _grooves(segments: Sequence[Segment], unit: LengthUnit) -> list[Finding]:
    grooves = [s for s in segments if s.groove]
    found = []
    for i, one in enumerate(grooves):
        for other in grooves[i + 1 :]:
            for what, a, b in (
                ("wide", one.length_mm, other.length_mm),
                ("across", one.first_mm, other.first_mm),
            ):
                if a != b and abs(a - b) <= NEARLY * max(a, b):
                    found.append(
                        Finding(
                            "part",
                            "ask",
                            "grooves-unequal",
                            f"The grooves of lines {one.row} and {other.row} are {_shown(a, unit)} and {_shown(b, unit)} {what}.",
                            "Make them equal for one tool, or keep them if the drawing says so.",
                        )
                    )
    return found[:6]
