"""The passes sheet: a cut pass by pass, so that each can be dialled or read off."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Literal, get_args

from ditto_run.core.errors import BadEntry
from ditto_run.core.findings import Finding
from ditto_run.core.sheets import Answer, Entries, Entry, Fact, Grid, Known, SheetKind
from ditto_run.core.tools.cutting.passes import (
    Pass,
    layer_passes,
    on_the_compound_mm,
    peck_passes,
    thread_passes,
    turned_passes,
)
from ditto_run.core.units import LengthUnit, bare_length, counted, length_text

Cut = Literal["turn", "bore", "thread", "mill", "drill"]
CUTS: tuple[Cut, ...] = get_args(Cut)
MOST_PASSES = 2_000
SHOWN = 60  # passes that are listed
NOSE_SHARE = 2 / 3  # of the nose radius, that a last pass takes at least; common practice, no source


@dataclass(frozen=True, slots=True)
class PassPlan:
    """A cut pass by pass.

    Args:
        cut: what kind of cutting it is.
        passes: in order.
    """

    cut: Cut
    passes: tuple[Pass, ...]


def compute(entries: Entries, known: Known) -> Answer:
    """Return the answer of the passes sheet.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    unit = known.unit
    entries.need("cut", "turn")
    cut = CUTS[CUTS.index(entries.choice("cut", CUTS))]
    passes = OF_CUT[cut](entries)
    turned = float(entries.turn("compound", 0, 60)) if cut == "thread" and entries.has("compound") else None
    spring = sum(not one.takes_mm for one in passes)
    return Answer(
        f"{counted(len(passes), 'pass')}.",
        _why(cut, passes, spring, unit),
        (
            Fact("Deepest", length_text(max(one.takes_mm for one in passes), unit), "on the radius" if cut in {"turn", "bore"} else ""),
            *((Fact("Last", length_text(passes[-1].takes_mm, unit), "on the radius"),) if passes[-1].last and passes[-1].takes_mm else ()),
        ),
        (_grid(cut, passes, turned, unit),),
        findings=tuple(_findings(entries, passes, unit)),
        result=PassPlan(cut, passes),
        source="even passes and equal areas of chip, own derivation; first and last depths are common practice, no source",
    )  # fmt: skip


def _turned(entries: Entries) -> tuple[Pass, ...]:
    start, end = float(entries.mm("start", "50")), float(entries.mm("end", "40"))
    bores = entries.text("cut") == "bore"
    if (end <= start) if bores else (end >= start):
        word = "larger" if bores else "smaller"
        raise BadEntry(f"The diameter after is not {word} than before.", "Check which is which.", "end")
    last = float(entries.maybe_mm("last", above=False) or 0)
    return _bounded(abs(start - end) / 2, entries, lambda deepest: turned_passes(start, end, deepest, last))


def _milled(entries: Entries) -> tuple[Pass, ...]:
    deep = float(entries.mm("deep", "12"))
    return _bounded(deep, entries, lambda deepest: layer_passes(deep, deepest))


def _bounded(whole: float, entries: Entries, passes: Callable[[float], tuple[Pass, ...]]) -> tuple[Pass, ...]:
    deepest = float(entries.mm("deepest", "2"))
    if whole / deepest > MOST_PASSES:
        raise BadEntry(f"That makes more than {MOST_PASSES} passes.", "Take deeper ones.", "deepest")
    return passes(deepest)


def _threaded(entries: Entries) -> tuple[Pass, ...]:
    high, first = float(entries.mm("deep", "0.92")), float(entries.mm("first", "0.25"))
    if (high / first) ** 2 > MOST_PASSES:
        raise BadEntry(f"That makes more than {MOST_PASSES} passes.", "Take a deeper first one.", "first")
    least = float(entries.maybe_mm("least", above=False) or 0)
    return thread_passes(high, first, least, entries.whole("spring", 0, 20, 1))


def _pecked(entries: Entries) -> tuple[Pass, ...]:
    deep, first = float(entries.mm("deep", "40")), float(entries.mm("first", "15"))
    then = float(entries.mm("deepest", "5"))
    if deep / then > MOST_PASSES:
        raise BadEntry(f"That makes more than {MOST_PASSES} pecks.", "Take deeper ones.", "deepest")
    return peck_passes(deep, first, then)


OF_CUT: Mapping[Cut, Callable[[Entries], tuple[Pass, ...]]] = {
    "turn": _turned,
    "bore": _turned,
    "thread": _threaded,
    "mill": _milled,
    "drill": _pecked,
}


def _why(cut: Cut, passes: tuple[Pass, ...], spring: int, unit: LengthUnit) -> str:
    rough = [one for one in passes if not one.last]
    last = [one for one in passes if one.last and one.takes_mm]
    said = ""
    if rough and cut == "thread":
        said = f"From {length_text(rough[0].takes_mm, unit)} to {length_text(rough[-1].takes_mm, unit)}, each with the same area of chip."
    elif rough:
        said = f"{len(rough)} of {length_text(max(one.takes_mm for one in rough), unit)}."
    if last:
        said += f" The last takes {length_text(last[0].takes_mm, unit)}."
    return f"{said} {counted(spring, 'more')} at full depth." if spring else said.strip()


def _grid(cut: Cut, passes: tuple[Pass, ...], turned: float | None, unit: LengthUnit) -> Grid:
    round_one = cut in {"turn", "bore"}
    heads = ["Pass", "Leaves the diameter" if round_one else "Down to", "Takes"]
    heads += [f"On the compound at {turned:g}°"] if turned is not None else []
    rows = []
    for n, one in enumerate(passes[:SHOWN], 1):
        row = [str(n), bare_length(one.at_mm, unit, 3), bare_length(one.takes_mm, unit, 3)]
        rows.append(
            (
                *row,
                *(
                    [bare_length(on_the_compound_mm(one.at_mm, turned), unit, 3)]
                    if turned is not None
                    else []
                ),
            )
        )
    more = len(passes) - SHOWN
    name = "Pass by pass" if more <= 0 else f"The first {SHOWN}, and {more} more like them"
    return Grid(f"{name}, {unit}", tuple(heads), tuple(rows))


def _findings(entries: Entries, passes: tuple[Pass, ...], unit: LengthUnit) -> list[Finding]:
    if not entries.has("nose") or not passes[-1].last:
        return []
    nose = float(entries.mm("nose", "0.4"))
    least, last = NOSE_SHARE * nose, passes[-1].takes_mm
    if not last or last >= least * (1 - 1e-9):
        return []
    return [
        Finding(
            "tools",
            "ask",
            "last-pass-rubs",
            f"The last pass takes {length_text(last, unit)}; on less than {length_text(least, unit)} this nose rubs.",
            "Leave more for it, or take a smaller nose.",
            ground=f"{last:.4f} {nose:.4f}",
        )
    ]


PASSES = SheetKind(
    "passes",
    "tools",
    "Pass by pass",
    (
        Entry("cut", "It is", kind="choose", choices=CUTS),
        Entry("start", "Diameter before"),
        Entry("end", "Diameter after"),
        Entry("deep", "Depth in all"),
        Entry("first", "First pass at most"),
        Entry("deepest", "A pass at most"),
        Entry("least", "A pass at least"),
        Entry("last", "Last pass"),
        Entry("nose", "Radius of its nose"),
        Entry("spring", "Passes at full depth"),
        Entry("compound", "The compound is turned by"),
    ),
    compute,
)
