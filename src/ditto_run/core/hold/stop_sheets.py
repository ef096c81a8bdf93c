"""Sheets of stops: each a picture or table that prints, with how to set it and how to confirm it."""

from decimal import Decimal

from ditto_run.core.entry.rows import lengths_of
from ditto_run.core.errors import BadEntry
from ditto_run.core.findings import Finding, Weight
from ditto_run.core.hold.blocks import SETS, SetName, Stacks, stack, stack_of_own
from ditto_run.core.hold.stops import (
    Dials,
    Edge,
    SideStop,
    TipGap,
    dial_of,
    effect_share,
    off_centre_mm,
    part_off_ladder,
    screw_in_turns,
    tip_stop,
)
from ditto_run.core.sheets import Answer, Entries, Entry, Fact, Grid, Known, SheetKind
from ditto_run.core.stock.bars import cut_bar, pull_of
from ditto_run.core.stock.blank import BLANK_FOUND
from ditto_run.core.stock.cuts_sheet import CUTS_FOUND, stick_out_finding
from ditto_run.core.threads import read_thread
from ditto_run.core.units import MM_PER_INCH, LengthUnit, convert, counted, length_text, number_text

NOTHING = Decimal(0)
MOST_PIECES = 2000
SHOWN = 40
MOST_DRAWN = 5  # stacks in the picture
TIGHT = Decimal(
    "0.25"
)  # share of a tolerance from which a stop's repeat is worth a word; common practice, no source
EDGES: tuple[Edge, ...] = ("chuck side", "free end side")


def own_text(value_mm: Decimal, unit: LengthUnit, more: int = 0) -> str:
    """Return a length in the drawing's unit only, for dense tables."""
    return number_text(
        value_mm if unit == "mm" else value_mm / MM_PER_INCH, (3 if unit == "mm" else 4) + more
    )


def _repeat(entries: Entries, known: Known) -> tuple[list[Fact], list[Finding]]:
    """Return what the stop's repeat does to the tolerance it makes."""
    repeat, tolerance = entries.maybe_mm("repeat"), entries.maybe_mm("tolerance")
    if repeat is None or tolerance is None:
        return [], []
    share = effect_share(repeat, tolerance)
    facts = [
        Fact(
            "The stop takes of the tolerance",
            f"{number_text(share * 100, 0)} %",
            f"repeats within {length_text(repeat, known.unit)}",
        )
    ]
    if share <= TIGHT:
        return facts, []
    weight: Weight = "stop" if share >= 1 else "ask"
    remedy = "Clean and relieve the stop, same light pressure from one side; or a finer stop, or gauge every piece."
    return facts, [
        Finding(
            "hold",
            weight,
            "stop-repeat",
            f"The stop's repeat takes {number_text(share * 100, 0)} % of the tolerance.",
            remedy,
        )
    ]


REPEAT = (
    Entry("repeat", "The stop repeats within"),
    Entry("tolerance", "Tolerance it makes"),
)


def ladder(entries: Entries, known: Known) -> Answer:
    """Return the answer of the part-off ladder.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    cuts = known.of(CUTS_FOUND)
    length = entries.maybe_mm("length") or (cuts.full.piece_mm if cuts else None)
    kerf = entries.maybe_mm("kerf") or (cuts.full.kerf_mm if cuts else None)
    if length is None or kerf is None:
        raise BadEntry(
            "The piece or the blade has no size.",
            "Type them, or plan Bars and cuts on Stock.",
            "length" if length is None else "kerf",
        )
    if kerf > length:
        raise BadEntry("The kerf is longer than the piece.", "Check the two.", "kerf")
    blank = known.of(BLANK_FOUND)
    across = entries.maybe_mm("across") or (blank.across_mm if blank and blank.shape == "bar" else None)
    pull = pull_of(length, kerf, across or length, NOTHING)
    count = entries.whole("count", 1, MOST_PIECES, cuts.pull.pieces if cuts and cuts.pull else pull.pieces)
    zeroed = EDGES[EDGES.index(entries.choice("edge", EDGES))]
    places = part_off_ladder(count, length, kerf, zeroed)
    facts, findings = _repeat(entries, known)
    out = count * (length + kerf)
    if across:
        findings += stick_out_finding("hold", out, across, known.unit)
    return Answer(
        f"First cut at {length_text(places[0], known.unit)}, then every {length_text(length + kerf, known.unit)}.",
        f"With the {zeroed} edge of the blade zeroed on the face; the other edge would read {length_text(kerf, known.unit, 2)} {'less' if zeroed == 'chuck side' else 'more'}.",
        (Fact("Bar out of the collet at least", length_text(out, known.unit, 1)), *facts),
        (
            Grid(
                f"Stops from the face, {known.unit}",
                ("Piece", "Blade at"),
                tuple((str(n), own_text(place, known.unit)) for n, place in enumerate(places[:SHOWN], 1)),
            ),
        ),
        tuple(findings),
        picture=cut_bar(out + length, length, kerf, NOTHING, count),
        picture_says=f"Ladder of {counted(count, 'cut')}, to scale.",
        result=places,
        source="rule of the Hold step",
    )


LADDER = SheetKind(
    "ladder",
    "hold",
    "Part-off ladder",
    (
        Entry("edge", "Edge zeroed on the face", kind="choose", choices=("chuck side", "free end side")),
        Entry("length", "Piece"),
        Entry("kerf", "Blade"),
        Entry("count", "Pieces a pull"),
        Entry("across", "Bar, Ø"),
        *REPEAT,
    ),
    ladder,
)


def stop(entries: Entries, known: Known) -> Answer:
    """Return the answer of the stop sheet: vise stop, pin, collet stop, tool-tip stop, screw-in depth.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    kind = entries.choice("kind_of_stop", ("vise", "tool tip", "screw in", "pin in a jaw", "collet"))
    facts, findings = _repeat(entries, known)
    if kind == "tool tip":
        return _tip(entries, known, facts, findings)
    if kind == "collet":
        return _collet(entries, known, facts, findings)
    if kind == "screw in":
        thread = read_thread(entries.text("thread"))
        depth, pitch = entries.mm("depth", "12"), thread.mm(thread.pitch)
        turns = screw_in_turns(depth, pitch)
        back = (1 - turns % 1) % 1
        facts.append(
            Fact(
                "Turns",
                number_text(turns, 2),
                f"{number_text(back * 12, 1)} h on the clock before a whole turn",
            )
        )
        return Answer(
            f"Screw it in {number_text(turns, 2)} turns.",
            "Count from where the thread first catches, by hand pressure only.",
            tuple(facts),
            findings=tuple(findings),
            picture=Dials(((depth, dial_of(depth, pitch, 12)),)),
            picture_says=f"{number_text(turns, 2)} turns: whole ones in the middle, the rest on the clock.",
            result=turns,
            source="depth over pitch",
        )
    return _vise(entries, known, kind, (facts, findings))


def _tip(entries: Entries, known: Known, facts: list[Fact], findings: list[Finding]) -> Answer:
    overlap, slack = entries.mm("overlap", "3"), entries.mm("slack", "0.4", above=False)
    tip = tip_stop(overlap, slack, entries.maybe_mm("pull_back", above=False) or NOTHING)
    if not tip.holds:
        findings.append(
            Finding(
                "hold",
                "stop",
                "slips-past",
                "The bar can slip past the tip: the slack is as large as the overlap.",
                "Reach further over the face, or use a stop of its own.",
            )
        )
    findings.append(
        Finding(
            "hold",
            "note",
            "insert-moves-stop",
            "A tool-tip stop moves when its insert is changed.",
            "Touch off again and gauge the next piece.",
        )
    )
    facts += [
        Fact("Covers in the worst case", length_text(tip.covers_mm, known.unit)),
        Fact(
            "Gap after closing",
            length_text(tip.gap_mm, known.unit),
            "the collet pulls the bar back; check with a feeler",
        ),
    ]
    say = "The tip stops the bar." if tip.holds else "The bar slips past."
    return Answer(
        say,
        "Set: bar to the tip with the collet open, same light pressure. Confirm: feeler in the gap after closing.",
        tuple(facts),
        findings=tuple(findings),
        picture=TipGap(overlap, slack, tip.gap_mm),
        picture_says=f"The tip over the bar's edge, to scale: {length_text(tip.covers_mm, known.unit)} left once the bar hangs in its slack.",
        result=tip,
        source="rule of the Hold step",
    )


def _collet(entries: Entries, known: Known, facts: list[Fact], findings: list[Finding]) -> Answer:
    """Return what a stop inside the collet does while the collet closes."""
    draws = entries.choice("draws", ("onto the stop", "away from it", "not at all"))
    moves = NOTHING if draws == "not at all" else entries.maybe_mm("pull_back", above=False) or NOTHING
    if draws == "away from it":
        findings.append(
            Finding(
                "hold",
                "ask",
                "collet-pulls-off",
                "Closing the collet draws the piece off its stop.",
                "Keep it pressed on while closing, allow for the gap, or take a collet that does not draw.",
            )
        )
        facts.append(Fact("Gap after closing", length_text(moves, known.unit), "check with a feeler"))
    elif moves:
        facts.append(
            Fact(
                "Pressed on by", length_text(moves, known.unit), "it slips in the collet, or pushes the stop"
            )
        )
    say = {
        "onto the stop": "Closing presses the piece onto the stop.",
        "away from it": f"Closing leaves {length_text(moves, known.unit)} of gap.",
        "not at all": "Closing leaves the piece where it is.",
    }[draws]
    return Answer(
        say,
        "Set: stop rod locked in the collet, a clean piece pressed on, collet closed as always. Confirm: gauge the length of three pieces.",
        tuple(facts),
        findings=tuple(findings),
        result=moves,
        source="common practice, no source",
    )


def _vise(entries: Entries, known: Known, kind: str, found: tuple[list[Fact], list[Finding]]) -> Answer:
    facts, findings = found
    side, push = entries.choice("side", ("left", "right")), entries.choice("push", ("left", "right"))
    if side != push:
        findings.append(
            Finding(
                "hold",
                "ask",
                "pulling-side",
                f"The stop is at the {side}, the hand and the jaw push to the {push}.",
                f"Put it at the {push}, where the piece is pushed anyway.",
            )
        )
    shorter, height = entries.maybe_mm("shorter"), entries.maybe_mm("height")
    if shorter is not None:
        facts.append(
            Fact(
                "Hole off centre by",
                length_text(off_centre_mm(shorter), known.unit),
                "half of what the blank is shorter",
            )
        )
    if height is not None:
        facts.append(
            Fact(
                "Touch at",
                length_text(height, known.unit, 1),
                "above the jaw's step, below the burr of the sawn edge",
            )
        )
    pin = entries.mm("pin", "6") if kind == "pin in a jaw" else None
    if pin is not None:
        low, high = pin + Decimal("0.02"), pin + Decimal("0.03")
        facts.append(
            Fact(
                "Ream the jaw",
                f"{own_text(low, known.unit)} to {own_text(high, known.unit)} {known.unit}",
                "about 0.001 in over the pin; common practice",
            )
        )
    return Answer(
        f"Stop at the {side}, corner relieved."
        if side == push
        else f"Put the stop at the {push}: there the piece is pushed.",
        "Set: against a clean blank of middle length. Confirm: paper between stop and piece tears, from one side, same light pressure.",
        tuple(facts),
        findings=tuple(findings),
        picture=_drawn(known, push, (height, shorter, pin)),
        picture_says=f"The blank against its stop at the {push}, to scale.",
        result=(side, push),
        source="rule of the Hold step",
    )


def _drawn(
    known: Known, side: str, sizes: tuple[Decimal | None, Decimal | None, Decimal | None]
) -> SideStop | None:
    """Return the blank against its stop; none while no blank says how large it is."""
    blank, (height, shorter, pin) = known.of(BLANK_FOUND), sizes
    if blank is None:
        return None
    length, tall = blank.length_mm, blank.blank_mm[0 if blank.shape == "bar" else 2]
    if height is not None and height >= tall:
        raise BadEntry(
            f"The stop would pass over the blank, {length_text(tall, known.unit)} high.",
            "Touch lower.",
            "height",
        )
    if shorter is not None and shorter >= length:
        raise BadEntry(
            f"The blank is {length_text(length, known.unit)} long.", "Type less than that.", "shorter"
        )
    return SideStop(length, tall, height or tall / 2, side, shorter or NOTHING, pin)


STOP = SheetKind(
    "stop",
    "hold",
    "Stop",
    (
        Entry(
            "kind_of_stop",
            "Stop",
            kind="choose",
            choices=("vise", "pin in a jaw", "collet", "tool tip", "screw in"),
        ),
        Entry("side", "Stop at the", kind="choose", choices=("left", "right")),
        Entry("push", "Pushed to the", kind="choose", choices=("left", "right")),
        Entry("height", "Contact height"),
        Entry("shorter", "Blank shorter by"),
        Entry("pin", "Pin, Ø"),
        Entry("overlap", "Tip reaches over"),
        Entry("slack", "Bar’s slack"),
        Entry("pull_back", "Collet pulls back"),
        Entry(
            "draws",
            "Collet stop: closing draws",
            kind="choose",
            choices=("onto the stop", "away from it", "not at all"),
        ),
        Entry("thread", "Thread"),
        Entry("depth", "To a depth of"),
        *REPEAT,
    ),
    stop,
)


def blocks(entries: Entries, known: Known) -> Answer:
    """Return the answer of the block sheet: shoulders from one stop by spacers.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    name = entries.choice("set", ("metric 88", "inch 81", "own"))
    unit: LengthUnit = known.unit if name == "own" else SETS[name].unit  # type: ignore[index]
    sizes = sizes_of(entries, "sizes", unit)
    wear = sizes_of(entries, "wear", unit)[0] if entries.has("wear") else None
    rows, result = [], []
    for size in sizes:
        chosen: SetName = "inch 81" if name == "inch 81" else "metric 88"
        try:
            found = (
                stack_of_own(size, sizes_of(entries, "own", unit))
                if name == "own"
                else stack(size, chosen, wear)
            )
        except BadEntry as refusal:
            raise BadEntry(
                refusal.problem, refusal.remedy, "own" if refusal.field == "own" else "sizes"
            ) from None
        result.append((size, found))
        rows.append(
            (
                f"{size.normalize():f} {unit}",
                " + ".join(f"{block.normalize():f}" for block in found),
                str(len(found)),
            )
        )
    facts, findings = _repeat(entries, known)
    return Answer(
        f"{counted(len(sizes), 'shoulder')}, at most {counted(max(len(f) for _, f in result), 'block')} each.",
        "Set: the stack between stop and carriage, wrung clean, same light pressure. Confirm: the longest shoulder with a depth micrometer.",
        tuple(facts),
        (Grid("Stacks, exact", ("Shoulder", "Blocks", "How many"), tuple(rows)),),
        tuple(findings),
        picture=Stacks(unit, tuple(result[:MOST_DRAWN])),
        picture_says="Stacks to scale, thinnest block first.",
        result=tuple(result),
        source=f"{name} set" if name != "own" else "own spacers",
    )


LARGEST_BLOCK = 10_000  # in the job's unit


def sizes_of(entries: Entries, name: str, unit: LengthUnit) -> list[Decimal]:
    """Return plain numbers parted by spaces, semicolons, or a comma and a space.

    Raises:
        BadEntry: at the first that is none, is out of range, or could be one or two.
    """
    found = [
        convert(length, "mm", unit) for length in lengths_of(entries.need(name, "12.345 20 31.5"), unit, name)
    ]
    for value in found[:400]:
        if not 0 < value < LARGEST_BLOCK:
            raise BadEntry(f"{value:f} is out of range.", "Type sizes above zero.", name)
    return found[:400]


BLOCKS = SheetKind(
    "blocks",
    "hold",
    "Spacers",
    (
        Entry("sizes", "Shoulders", kind="area"),
        Entry("set", "Set", kind="choose", choices=("metric 88", "inch 81", "own")),
        Entry("wear", "Wear blocks"),
        Entry("own", "Our own spacers", kind="area"),
        *REPEAT,
    ),
    blocks,
)
