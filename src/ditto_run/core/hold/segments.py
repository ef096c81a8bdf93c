"""Long slender work turned in segments: cut a stretch near the collet, pull, repeat."""

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal

from ditto_run.core.errors import BadEntry
from ditto_run.core.findings import Finding
from ditto_run.core.part.profile import Segment
from ditto_run.core.units import LengthUnit, small_mm_text, steps_of

THIN = Decimal("0.1")  # a last pass thinner than this rubs, on the radius; common practice, no source
MOST_SEGMENTS = 60
MOST_PASSES = 200


@dataclass(frozen=True, slots=True)
class Stretch:
    """One segment that is cut before the bar is pulled.

    Args:
        start_mm: where it starts, from the free end. [mm]
        end_mm: where it ends. [mm]
        passes_mm: diameter after each pass; the last one finished, of a taper its larger end. [mm]
        ends_mm: finished diameter at its start and at its end. [mm]
        overlap_mm: how far its start lies before the end of the last one, to leave no step. [mm]
    """

    start_mm: Decimal
    end_mm: Decimal
    passes_mm: tuple[Decimal, ...]
    ends_mm: tuple[Decimal, Decimal]
    overlap_mm: Decimal


@dataclass(frozen=True, slots=True)
class Segmented:
    """A profile cut in segments, with what is wrong with it."""

    stretches: tuple[Stretch, ...]
    findings: tuple[Finding, ...]


def segment(
    profile: Sequence[Segment],
    bar_mm: Decimal,
    reach_mm: Decimal,
    depth_mm: Decimal,
    clear_mm: Decimal,
    unit: LengthUnit = "mm",
) -> Segmented:
    """Return a profile parted into segments no longer than the reach, each with its passes.

    Each segment starts where the last one ended, a hair clear of it so that the tool does not rub.

    Args:
        profile: stretches from the free end, straight or tapered. [mm]
        bar_mm: diameter of the bar. [mm]
        reach_mm: longest unsupported segment. [mm]
        depth_mm: largest pass, on the radius. [mm]
        clear_mm: clearance at each join. [mm]
        unit: unit that a finding is said in.

    Raises:
        BadEntry: if the bar is thinner than the profile, or the segments or passes are too many.

    Source:
        Rule of the Hold step: segment start = last end, diameters monotone, last pass not too thin.
    """
    stretches: list[Stretch] = []
    findings: list[Finding] = []
    widest = Decimal(0)
    for stretch in profile:
        if max(stretch.first_mm, stretch.last_mm) > bar_mm:
            raise BadEntry(f"Line {stretch.row} is thicker than the bar.", "Take a larger bar.", "bar_across")
        if min(stretch.first_mm, stretch.last_mm) < widest:
            findings.append(
                Finding(
                    "hold",
                    "ask",
                    "segments-dip",
                    f"Line {stretch.row} is thinner than what lies before it.",
                    "Turn it in another setup, or with a tool that reaches behind.",
                )
            )
        widest = max(widest, stretch.first_mm, stretch.last_mm)
        count = steps_of(stretch.length_mm, reach_mm)
        if len(stretches) + count > MOST_SEGMENTS:
            raise BadEntry(
                f"Over {MOST_SEGMENTS} segments.", "Let the bar stick out further, or support it.", "reach"
            )
        for i in range(count):
            ends = tuple(
                stretch.first_mm + (stretch.last_mm - stretch.first_mm) * at / count for at in (i, i + 1)
            )
            passes = _passes(bar_mm, max(ends), depth_mm)
            if not i and len(passes) > 1 and (passes[-2] - passes[-1]) / 2 < THIN:
                findings.append(_thin_pass(stretch.row, passes, unit))
            start, end = (stretch.start_mm + stretch.length_mm * at / count for at in (i, i + 1))
            overlap = clear_mm if stretches else Decimal(0)
            stretches.append(Stretch(start, end, passes, (ends[0], ends[1]), overlap))
    return Segmented(tuple(stretches), tuple(findings))


def _thin_pass(row: int, passes: tuple[Decimal, ...], unit: LengthUnit) -> Finding:
    return Finding(
        "hold",
        "ask",
        "last-pass-thin",
        f"The last pass of line {row} takes {small_mm_text((passes[-2] - passes[-1]) / 2, unit)} a side: it rubs.",
        "Fewer, deeper passes.",
    )


def _passes(bar_mm: Decimal, finished_mm: Decimal, depth_mm: Decimal) -> tuple[Decimal, ...]:
    whole = (bar_mm - finished_mm) / 2
    count = steps_of(whole, depth_mm) if whole > 0 else 0
    if count > MOST_PASSES:
        raise BadEntry(f"{count} passes are too many.", "Type a deeper pass.", "pass")
    return tuple(bar_mm - 2 * whole * i / count for i in range(1, count + 1)) or (finished_mm,)
