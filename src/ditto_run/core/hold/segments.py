"""Long slender work turned in segments: cut a stretch near the collet, pull, repeat."""

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal

from ditto_run.core.errors import BadEntry
from ditto_run.core.findings import Finding
from ditto_run.core.part.profile import Segment
from ditto_run.core.units import steps_of

THIN = Decimal("0.1")  # a last pass thinner than this rubs, on the radius; common practice, no source
MOST_SEGMENTS = 60
MOST_PASSES = 200


@dataclass(frozen=True, slots=True)
class Stretch:
    """One segment that is cut before the bar is pulled.

    Args:
        start_mm: where it starts, from the free end. [mm]
        end_mm: where it ends. [mm]
        passes_mm: diameter after each pass, the last one finished. [mm]
        overlap_mm: how far its start lies before the end of the last one, to leave no step. [mm]
    """

    start_mm: Decimal
    end_mm: Decimal
    passes_mm: tuple[Decimal, ...]
    overlap_mm: Decimal


@dataclass(frozen=True, slots=True)
class Segmented:
    """A profile cut in segments, with what is wrong with it."""

    stretches: tuple[Stretch, ...]
    findings: tuple[Finding, ...]


def segment(
    profile: Sequence[Segment], bar_mm: Decimal, reach_mm: Decimal, depth_mm: Decimal, clear_mm: Decimal
) -> Segmented:
    """Return a profile parted into segments no longer than the reach, each with its passes.

    Each segment starts where the last one ended, a hair clear of it so that the tool does not rub.

    Args:
        profile: stretches from the free end, each of one diameter. [mm]
        bar_mm: diameter of the bar. [mm]
        reach_mm: longest unsupported segment. [mm]
        depth_mm: largest pass, on the radius. [mm]
        clear_mm: clearance at each join. [mm]

    Raises:
        BadEntry: if the bar is thinner than the profile, or the segments or passes are too many.

    Source:
        Rule of the Hold step: segment start = last end, diameters monotone, last pass not too thin.
    """
    stretches: list[Stretch] = []
    findings: list[Finding] = []
    widest = Decimal(0)
    for stretch in profile:
        if stretch.first_mm > bar_mm:
            raise BadEntry(f"Line {stretch.row} is thicker than the bar.", "Take a larger bar.", "bar_across")
        if stretch.first_mm < widest:
            findings.append(
                Finding(
                    "hold",
                    "ask",
                    "segments-dip",
                    f"Line {stretch.row} is thinner than what lies before it.",
                    "Turn it in another setup, or with a tool that reaches behind.",
                )
            )
        widest = max(widest, stretch.first_mm)
        count = steps_of(stretch.length_mm, reach_mm)
        if len(stretches) + count > MOST_SEGMENTS:
            raise BadEntry(
                f"Over {MOST_SEGMENTS} segments.", "Let the bar stick out further, or support it.", "reach"
            )
        passes = _passes(bar_mm, stretch.first_mm, depth_mm)
        if len(passes) > 1 and (passes[-2] - passes[-1]) / 2 < THIN:
            findings.append(
                Finding(
                    "hold",
                    "ask",
                    "last-pass-thin",
                    f"The last pass of line {stretch.row} takes {(passes[-2] - passes[-1]) / 2:.3f} mm a side: it rubs.",
                    "Fewer, deeper passes.",
                )
            )
        for i in range(count):
            start = stretch.start_mm + stretch.length_mm * i / count
            end = stretch.start_mm + stretch.length_mm * (i + 1) / count
            stretches.append(Stretch(start, end, passes, clear_mm if stretches else Decimal(0)))
    return Segmented(tuple(stretches), tuple(findings))


def _passes(bar_mm: Decimal, finished_mm: Decimal, depth_mm: Decimal) -> tuple[Decimal, ...]:
    whole = (bar_mm - finished_mm) / 2
    count = steps_of(whole, depth_mm) if whole > 0 else 0
    if count > MOST_PASSES:
        raise BadEntry(f"{count} passes are too many.", "Type a deeper pass.", "pass")
    return tuple(bar_mm - 2 * whole * i / count for i in range(1, count + 1)) or (finished_mm,)


def segments_text(found: Segmented, feed_mm: Decimal, *, stops: bool) -> str:
    """Return the segments as RS-274 text for a lathe in diameter and millimetres: Z from each segment's own start.

    It is a starting point to be read, air cut and single stepped; it has no tool change, speed or coolant.

    Args:
        found: the segments.
        feed_mm: feed a revolution. [mm]
        stops: True for an optional stop before each pull.

    Source:
        [ngc]: G0, G1, G18, G21, G7 (diameter), G95 (feed a revolution), M1, M2.
    """
    lines = ["( segments: prove it in the air first )", "G18 G21 G7 G90 G95", f"F{feed_mm:.3f}"]
    for number, stretch in enumerate(found.stretches, 1):
        long = stretch.end_mm - stretch.start_mm
        lines.append(f"( segment {number}: {stretch.start_mm:.3f} to {stretch.end_mm:.3f} )")
        for across in stretch.passes_mm:
            lines += [
                f"G0 Z{stretch.overlap_mm + 1:.3f}",
                f"G0 X{across:.3f}",
                f"G1 Z{-long:.3f}",
                f"G0 X{across + 1:.3f}",
            ]
        lines += [*(["M1"] if stops else []), f"( pull {long:.3f} )"]
    return "\n".join([*lines, "M2"]) + "\n"
