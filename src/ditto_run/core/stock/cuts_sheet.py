"""The sheet of bars and cuts."""

from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

from ditto_run.core.errors import BadEntry
from ditto_run.core.findings import Finding, Weight
from ditto_run.core.sheets import Answer, Entries, Entry, Fact, Grid, Known, Knows, SheetKind
from ditto_run.core.stock.bars import (
    STICK_OUT_RATIO,
    BarCut,
    Pull,
    bars_for,
    cut_bar,
    pieces_per_bar,
    pull_of,
    whip_rpm,
)
from ditto_run.core.stock.blank import BLANK_FOUND, Blank
from ditto_run.core.units import LengthUnit, counted, length_text

NOTHING = Decimal(0)
SHOWN = 8  # cuts listed


@dataclass(frozen=True, slots=True)
class Cuts:
    """The bars of a job and how they are cut.

    Args:
        start: pieces to cut. [pieces]
        per_bar: pieces of a whole bar. [pieces]
        bars: bars to buy.
        full: cut of a whole bar.
        last: cut of the last bar.
        pull: how it is fed; None for sawn blanks.
        remnant_mm: what the holder keeps. [mm]
    """

    start: int
    per_bar: int
    bars: int
    full: BarCut
    last: BarCut
    pull: Pull | None
    remnant_mm: Decimal = NOTHING


NO_CUTS: Cuts | None = None
CUTS_FOUND = Knows("cuts", NO_CUTS)
"""As Stock has them; None without any."""


def compute(entries: Entries, known: Known) -> Answer:
    """Return the answer of the sheet.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    blank: Blank | None = known.of(BLANK_FOUND)
    piece = entries.maybe_mm("piece") or (blank.length_mm if blank else None)
    if piece is None:
        raise BadEntry(
            "The piece has no length.", "Describe the blank first, or type the length to cut off.", "piece"
        )
    across = entries.maybe_mm("across") or (blank.across_mm if blank else None)
    bar, kerf = entries.mm("bar", "3000"), entries.mm("kerf", "3", above=False)
    remnant, facing = (entries.maybe_mm(name, above=False) or NOTHING for name in ("remnant", "facing"))
    start = entries.whole("pieces", 1, 100_000, known.start)
    per_bar = pieces_per_bar(bar, piece, kerf, remnant, facing, known.unit)
    bars = bars_for(start, per_bar)
    full = cut_bar(bar, piece, kerf, facing, per_bar)
    last = cut_bar(bar, piece, kerf, facing, start - (bars - 1) * per_bar)
    parting = entries.choice("how", ("part off", "saw")) == "part off"
    pull = (
        pull_of(piece, kerf, across, entries.maybe_mm("clear", above=False) or NOTHING)
        if parting and across
        else None
    )
    result = Cuts(start, per_bar, bars, full, last, pull, remnant)
    return Answer(
        f"{counted(bars, 'bar')} for {counted(start, 'piece')}: {per_bar} a bar.",
        f"Each piece costs {length_text(piece, known.unit, 2)} and one kerf of {length_text(kerf, known.unit, 2)}; the holder keeps {length_text(remnant, known.unit, 1)}.",
        tuple(_facts(result, known)),
        (_list(result, known),),
        tuple(_findings(result, entries, across, known)),
        picture=full,
        picture_says=f"One bar to scale: {counted(per_bar, 'piece')}, and {length_text(full.left_mm, known.unit, 1)} left in the holder.",
        result=result,
        source="rule of the Stock step",
    )


def _facts(result: Cuts, known: Known) -> list[Fact]:
    facts = [
        Fact(
            "Left of a whole bar",
            length_text(result.full.left_mm, known.unit, 1),
            "name it and shelve it on Shop, Offcuts",
        ),
        Fact(
            "Left of the last bar",
            length_text(result.last.left_mm, known.unit, 1),
            f"{counted(len(result.last.starts_mm), 'piece')} from it",
        ),
    ]
    if result.pull is not None:
        facts.append(
            Fact(
                "One pull",
                f"{result.pull.pieces} {'piece' if result.pull.pieces == 1 else 'pieces'}",
                f"{length_text(result.pull.stick_out_mm, known.unit, 1)} out, {result.pull.ratio:.1f} × diameter",
            )
        )
    return facts


def _list(result: Cuts, known: Known) -> Grid:
    shown = result.full.starts_mm[:SHOWN]
    rows = [
        (str(n), length_text(at, known.unit, 2), length_text(at + result.full.piece_mm, known.unit, 2))
        for n, at in enumerate(shown, 1)
    ]
    if len(result.full.starts_mm) > SHOWN:
        at = result.full.starts_mm[-1]
        rows.append(
            (
                str(result.per_bar),
                length_text(at, known.unit, 2),
                length_text(at + result.full.piece_mm, known.unit, 2),
            )
        )
    return Grid("Cuts of a whole bar, from the free end", ("Piece", "Starts", "Cut at"), tuple(rows))


def stick_out_finding(
    step: Literal["stock", "hold"], out_mm: Decimal, across_mm: Decimal, unit: LengthUnit
) -> list[Finding]:
    """Return the question about a bar that sticks out unsupported further than is usual.

    Args:
        step: step that asks.
        out_mm: stick-out. [mm]
        across_mm: its diameter. [mm]
        unit: unit of the job.
    """
    ratio = out_mm / across_mm
    if ratio <= STICK_OUT_RATIO:
        return []
    return [
        Finding(
            step,
            "ask",
            "stick-out",
            f"The bar sticks out {length_text(out_mm, unit, 1)}, {ratio:.1f} × its diameter.",
            "Support it with a centre or a steady, or turn it in segments; about 3 × is usual.",
        )
    ]


def _findings(result: Cuts, entries: Entries, across: Decimal | None, known: Known) -> list[Finding]:
    found: list[Finding] = []
    if result.pull is not None and across is not None:
        found += stick_out_finding("stock", result.pull.stick_out_mm, across, known.unit)
    rear, rpm = entries.maybe_mm("rear", above=False), entries.number("rpm", 0, 100_000, 0)
    if rear and across:
        limit = whip_rpm(float(across), float(rear))
        fast = float(rpm) > limit / 2
        weight: Weight = "stop" if fast else "note"
        code = "bar-whip" if fast else "bar-behind"
        found.append(
            Finding(
                "stock",
                weight,
                code,
                f"{length_text(rear, known.unit, 0)} of bar hangs out behind; unguided it whips from about {limit:.0f} rev/min.",
                "Guide it in a tube or cut it shorter, and stay far below; keep everybody away from the rear end.",
            )
        )
    return found


CUTS = SheetKind(
    "cuts",
    "stock",
    "Bars and cuts",
    (
        Entry("bar", "Bar as bought"),
        Entry("kerf", "Kerf"),
        Entry("how", "Cut by", kind="choose", choices=("part off", "saw")),
        Entry("remnant", "The holder keeps"),
        Entry("facing", "First facing"),
        Entry("clear", "Collet to last cut"),
        Entry("piece", "Piece"),
        Entry("across", "Across"),
        Entry("pieces", "Pieces to cut"),
        Entry("rear", "Hangs out behind"),
        Entry("rpm", "Spindle speed, rev/min"),
    ),
    compute,
    single=True,
)
