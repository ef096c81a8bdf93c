"""Sheets of stops: each a picture or table that prints, with how to set it and how to confirm it."""

from decimal import Decimal
from typing import Any

from ditto_run.core.errors import BadEntry
from ditto_run.core.findings import Finding, Weight
from ditto_run.core.hold.blocks import SETS, SetName, stack, stack_of_own
from ditto_run.core.hold.segments import segment, segments_text
from ditto_run.core.hold.stops import (
    Edge,
    depth_steps,
    dial_of,
    effect_share,
    off_centre_mm,
    part_off_ladder,
    rectangle_laps,
    screw_in_turns,
    tip_stop,
)
from ditto_run.core.part.profile import read_profile
from ditto_run.core.sheets import Answer, Entries, Entry, Fact, Grid, Known, SheetKind
from ditto_run.core.stock.bars import cut_bar, pull_of
from ditto_run.core.threads import read_thread
from ditto_run.core.units import MM_PER_INCH, LengthUnit, length_text, number_text

NOTHING = Decimal(0)
MOST_PIECES = 2000
SHOWN = 40
TIGHT = Decimal(
    "0.25"
)  # share of a tolerance from which a stop's repeat is worth a word; common practice, no source
EDGES: tuple[Edge, ...] = ("chuck side", "free end side")


def _own(value_mm: Decimal, unit: LengthUnit, more: int = 0) -> str:
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
    Entry("repeat", "The stop repeats within", "±, from ten touches.", pair=True),
    Entry("tolerance", "Tolerance it makes", "Whole width."),
)


def ladder(entries: Entries, known: Known) -> Answer:
    """Return the answer of the part-off ladder.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    cuts: Any = known.kept.get("cuts")
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
    pull = pull_of(length, kerf, entries.maybe_mm("across") or length, NOTHING)
    count = entries.whole("count", 1, MOST_PIECES, cuts.pull.pieces if cuts and cuts.pull else pull.pieces)
    zeroed = EDGES[EDGES.index(entries.choice("edge", EDGES))]
    places = part_off_ladder(count, length, kerf, zeroed)
    facts, findings = _repeat(entries, known)
    out = places[-1] + kerf
    return Answer(
        f"First cut at {length_text(places[0], known.unit)}, then every {length_text(length + kerf, known.unit)}.",
        f"With the {zeroed} edge of the blade zeroed on the face; the other edge would read {length_text(kerf, known.unit, 2)} {'less' if zeroed == 'chuck side' else 'more'}.",
        (Fact("Bar out of the collet at least", length_text(out, known.unit, 1)), *facts),
        (Grid(f"Stops from the face, {known.unit}", ("Piece", "Blade at"), tuple((str(n), _own(place, known.unit)) for n, place in enumerate(places[:SHOWN], 1))),),
        tuple(findings), picture=cut_bar(out + length, length, kerf, NOTHING, count), picture_says=f"Ladder of {count} cuts, to scale.",
        result=places, source="rule of the Hold step",
    )  # fmt: skip


LADDER = SheetKind(
    "ladder", "hold", "Part-off ladder", "Where the blade stands for each piece of one pull. Set: zero the edge on the face. Confirm: measure the first piece.",
    (
        Entry("edge", "Edge zeroed on the face", kind="choose", choices=(("chuck side", "chuck side of the blade"), ("free end side", "free-end side"))),
        Entry("length", "Piece", "From Bars and cuts if empty.", pair=True), Entry("kerf", "Blade", "From Bars and cuts if empty."),
        Entry("count", "Pieces a pull", pair=True), Entry("across", "Bar, Ø"), *REPEAT,
    ),
    ladder,
)  # fmt: skip


def stop(entries: Entries, known: Known) -> Answer:
    """Return the answer of the stop sheet: vise stop, tool-tip stop, screw-in depth.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    kind = entries.choice("kind_of_stop", ("vise", "tool tip", "screw in", "pin in a jaw"))
    facts, findings = _repeat(entries, known)
    if kind == "tool tip":
        return _tip(entries, known, facts, findings)
    if kind == "screw in":
        thread = read_thread(entries.text("thread"))
        turns = screw_in_turns(entries.mm("depth", "12"), thread.mm(thread.pitch))
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
            result=turns,
            source="depth over pitch",
        )
    return _vise(entries, known, kind, (facts, findings))


def _tip(entries: Entries, known: Known, facts: list[Fact], findings: list[Finding]) -> Answer:
    tip = tip_stop(
        entries.mm("overlap", "3"),
        entries.mm("slack", "0.4", above=False),
        entries.maybe_mm("pull_back", above=False) or NOTHING,
    )
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
        result=tip,
        source="rule of the Hold step",
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
    if kind == "pin in a jaw":
        pin = entries.mm("pin", "6")
        low, high = pin + Decimal("0.02"), pin + Decimal("0.03")
        facts.append(
            Fact(
                "Ream the jaw",
                f"{_own(low, known.unit)} to {_own(high, known.unit)} {known.unit}",
                "about 0.001 in over the pin; common practice",
            )
        )
    return Answer(
        f"Stop at the {push}, corner relieved.",
        "Set: against a clean blank of middle length. Confirm: paper between stop and piece tears, from one side, same light pressure.",
        tuple(facts), findings=tuple(findings), result=(side, push), source="rule of the Hold step",
    )  # fmt: skip


STOP = SheetKind(
    "stop", "hold", "Stop", "Vise stop, pin in a jaw, tool tip or screw-in depth: will it stop, and what does its error do?",
    (
        Entry("kind_of_stop", "Stop", kind="choose", choices=(("vise", "vise stop"), ("pin in a jaw", "pin in a jaw"), ("tool tip", "tool tip"), ("screw in", "screwed in to depth"))),
        Entry("side", "Stop at the", kind="choose", choices=(("left", "left"), ("right", "right")), pair=True),
        Entry("push", "Pushed to the", kind="choose", choices=(("left", "left"), ("right", "right"))),
        Entry("height", "Contact height", pair=True), Entry("shorter", "Blank shorter by", "Same stop."),
        Entry("pin", "Pin, Ø", "Pin in a jaw.", pair=True), Entry("overlap", "Tip reaches over", "Tool tip."),
        Entry("slack", "Bar's slack", "Tool tip: open collet.", pair=True), Entry("pull_back", "Collet pulls back"),
        Entry("thread", "Thread", "Screwed in: M10.", pair=True), Entry("depth", "To a depth of"), *REPEAT,
    ),
    stop,
)  # fmt: skip


def blocks(entries: Entries, known: Known) -> Answer:
    """Return the answer of the block sheet: shoulders from one stop by spacers.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    name = entries.choice("set", ("metric 88", "inch 81", "own"))
    unit: LengthUnit = known.unit if name == "own" else SETS[name].unit  # type: ignore[index]
    sizes = _sizes(entries, "sizes", unit)
    wear = _sizes(entries, "wear", unit)[0] if entries.has("wear") else None
    rows, result = [], []
    for size in sizes:
        chosen: SetName = "inch 81" if name == "inch 81" else "metric 88"
        found = (
            stack_of_own(size, _sizes(entries, "own", unit)) if name == "own" else stack(size, chosen, wear)
        )
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
        f"{len(sizes)} {'shoulder' if len(sizes) == 1 else 'shoulders'}, at most {max(len(f) for _, f in result)} blocks each.",
        "Set: the stack between stop and carriage, wrung clean, same light pressure. Confirm: the longest shoulder with a depth micrometer.",
        tuple(facts), (Grid("Stacks, exact", ("Shoulder", "Blocks", "How many"), tuple(rows)),), tuple(findings), result=tuple(result),
        source=f"{name} set" if name != "own" else "own spacers",
    )  # fmt: skip


def _sizes(entries: Entries, name: str, unit: LengthUnit) -> list[Decimal]:
    parts = entries.need(name, "12.345 20 31.5").replace(",", " ").replace(";", " ").split()
    found = []
    for part in parts[:400]:
        try:
            value = Decimal(part)
        except ArithmeticError:
            raise BadEntry(
                f"“{part[:20]}” is not a size in {unit}.", "Type plain numbers, parted by spaces.", name
            ) from None
        if not 0 < value < 10_000:  # noqa: PLR2004
            raise BadEntry(f"{part[:20]} is out of range.", "Type sizes above zero.", name)
        found.append(value)
    return found


BLOCKS = SheetKind(
    "blocks", "hold", "Spacers", "Shoulders from one carriage or cross-slide stop: fewest blocks from the set owned, exact.",
    (
        Entry("sizes", "Shoulders", "In the set's unit, parted by spaces: 12.345 20 31.5", kind="area"),
        Entry("set", "Set", kind="choose", choices=(("metric 88", "metric, 88 blocks"), ("inch 81", "inch, 81 blocks"), ("own", "our own spacers")), pair=True),
        Entry("wear", "Wear blocks", "Thickness of each of the two."),
        Entry("own", "Our own spacers", "Parted by spaces.", kind="area"), *REPEAT,
    ),
    blocks,
)  # fmt: skip


def dial(entries: Entries, known: Known) -> Answer:
    """Return the answer of the dial and read-out sheet.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    per_turn, divisions = entries.mm("per_turn", "2"), entries.whole("divisions", 1, 2000, 100)
    r = (entries.maybe_mm("cutter") or NOTHING) / 2
    rows, result = [], []
    for value in _sizes(entries, "places", known.unit):
        place = value if known.unit == "mm" else value * MM_PER_INCH
        found = dial_of(place, per_turn, divisions)
        result.append((place, found))
        rows.append(
            (
                _own(place, known.unit),
                _own(place - r, known.unit),
                _own(place + r, known.unit),
                str(found.turns),
                f"{found.divisions} + {number_text(found.rest, 1)}",
                f"{number_text(found.clock_h, 1)} h",
            )
        )
    grids = [
        Grid(
            f"From zero, {known.unit}; always wound in from the same side",
            ("Place", "Less radius", "Plus radius", "Turns", "Divisions", "Clock"),
            tuple(rows),
        )
    ]
    if entries.has("width") and entries.has("height"):
        grids += _laps(entries, known, 2 * r)
    touched = (
        entries.maybe_mm("touch_a", least=Decimal(-100_000)),
        entries.maybe_mm("touch_b", least=Decimal(-100_000)),
    )
    facts = []
    if touched[0] is not None and touched[1] is not None:
        facts.append(
            Fact(
                "Centre by halves",
                length_text((touched[0] + touched[1]) / 2, known.unit),
                "touch both sides with the same finder",
            )
        )
    return Answer(
        f"{len(rows)} places, {rows[0][3]} turns and {rows[0][4]} divisions to the first.",
        "Wind in from the same side, past and back when over; lock the slide, then cut.", tuple(facts), tuple(grids), result=tuple(result), source="own derivation",
    )  # fmt: skip


def _laps(entries: Entries, known: Known, cutter: Decimal) -> list[Grid]:
    width, height = entries.mm("width"), entries.mm("height")
    laps = rectangle_laps(
        width, height, cutter, climb=entries.choice("milling", ("conventional", "climb")) == "climb"
    )
    grids = [
        Grid(
            f"One lap round the outline, centre of the cutter, {known.unit}",
            ("Corner", "X", "Y"),
            tuple((str(n), _own(x, known.unit), _own(y, known.unit)) for n, (x, y) in enumerate(laps, 1)),
        )
    ]
    if entries.has("deep"):
        steps = depth_steps(
            entries.mm("deep"),
            entries.maybe_mm("step") or entries.mm("deep"),
            entries.maybe_mm("finish", above=False) or NOTHING,
        )
        grids.append(
            Grid(
                f"Depth of each lap, {known.unit}",
                ("Lap", "Z"),
                tuple((str(n), _own(-z, known.unit)) for n, z in enumerate(steps, 1)),
            )
        )
    return grids


DIAL = SheetKind(
    "dial", "hold", "Dial and read-out", "Turns, divisions and clock positions; presets with the cutter's radius; laps round an outline.",
    (
        Entry("places", "Places from zero", "Parted by spaces: 12.5 31.5", kind="area"),
        Entry("per_turn", "One turn", "Travel of the hand-wheel.", pair=True), Entry("divisions", "Divisions", "100 if empty."),
        Entry("cutter", "Cutter, Ø", pair=True), Entry("milling", "Milling", kind="choose", choices=(("conventional", "conventional"), ("climb", "climb"))),
        Entry("width", "Outline along X", pair=True), Entry("height", "Along Y"),
        Entry("deep", "Depth", pair=True), Entry("step", "Deepest lap"), Entry("finish", "Last lap", "Thin; 0 for none."),
        Entry("touch_a", "Touched one side at", pair=True), Entry("touch_b", "Other side at"),
    ),
    dial,
)  # fmt: skip


def segments(entries: Entries, known: Known) -> Answer:
    """Return the answer of the segment sheet.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    profile = read_profile(entries.lines("rows"), known.unit)
    bar = entries.mm("bar_across", "12")
    reach = entries.maybe_mm("reach") or 3 * bar
    clear = entries.maybe_mm("clear", above=False)
    found = segment(
        profile, bar, reach, entries.mm("pass", "0.5"), Decimal("0.01") if clear is None else clear
    )
    feed = entries.maybe_mm("feed") or Decimal("0.05")
    text = segments_text(found, feed, stops=entries.choice("optional_stops", ("yes", "no")) == "yes")
    rows = tuple(
        (
            str(n),
            _own(s.start_mm, known.unit),
            _own(s.end_mm, known.unit),
            " ".join(_own(p, known.unit) for p in s.passes_mm),
            _own(s.overlap_mm, known.unit),
        )
        for n, s in enumerate(found.stretches, 1)
    )
    listing = tuple((line,) for line in text.splitlines())
    return Answer(
        f"{len(found.stretches)} segments, {sum(len(s.passes_mm) for s in found.stretches)} passes.",
        f"Each no longer than {length_text(reach, known.unit, 1)}; every join {length_text(Decimal('0.01') if clear is None else clear, known.unit)} clear. Read the program, cut air, then single step.",
        grids=(Grid(f"Segments, {known.unit}", ("Segment", "From", "To", "Diameters", "Clear"), rows), Grid("RS-274 text to copy", ("Line",), listing)),
        findings=found.findings, result={"segments": found.stretches, "text": text}, source="rule of the Hold step; RS-274/NGC",
    )  # fmt: skip


SEGMENTS = SheetKind(
    "segments", "hold", "Segments", "Long slender work: cut a stretch near the collet, pull, repeat; as a table and as RS-274 text.",
    (
        Entry("rows", "Profile from the free end", "From, to, diameter, one stretch a line: 0 60 8", kind="area"),
        Entry("bar_across", "Bar, Ø", pair=True), Entry("reach", "Longest segment", "3 × bar if empty."),
        Entry("pass", "Deepest pass, a side", pair=True), Entry("clear", "Clear at joins", "0.01 mm if empty."),
        Entry("feed", "Feed a turn", "0.05 mm if empty.", pair=True),
        Entry("optional_stops", "Stop before each pull", kind="choose", choices=(("yes", "optional stop"), ("no", "none"))),
    ),
    segments,
)  # fmt: skip


def strip(entries: Entries, known: Known) -> Answer:
    """Return the answer of the gang strip.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    length, kerf = entries.mm("length", "20"), entries.mm("kerf", "2")
    bar, ends = entries.mm("strip", "300"), entries.maybe_mm("ends", above=False) or NOTHING
    room = bar - 2 * ends + kerf
    count = int(room // (length + kerf))
    if count < 1:
        raise BadEntry("The strip gives no piece.", "Take a longer strip, or a thinner saw.", "strip")
    saws = tuple(ends + i * (length + kerf) + length for i in range(count - 1))
    strips = -(-known.start // count)
    return Answer(
        f"{count} pieces a strip, {strips} strips for {known.start}.",
        "Mill the strip in one clamping, turn it over on the same stop, then slit it; pieces cut together are equal.",
        (Fact("Left at each end", length_text((bar - count * length - (count - 1) * kerf) / 2, known.unit, 2)),),
        (Grid(f"Slitting positions, near side of the saw, {known.unit}", ("Cut", "At"), tuple((str(n), _own(at, known.unit)) for n, at in enumerate(saws[:SHOWN], 1))),),
        (Finding("hold", "note", "slitting", "A slitting saw throws a loose piece.", "Clamp every piece on its own before slitting; guard on, hands away."),),
        picture=cut_bar(bar, length, kerf, ends, count), picture_says=f"Strip of {count} pieces to scale.", result={"pieces": count, "saws_mm": saws}, source="own derivation",
    )  # fmt: skip


STRIP = SheetKind(
    "strip", "hold", "Gang strip", "Several pieces milled in one strip, then slit apart.",
    (Entry("length", "Piece along the strip", pair=True), Entry("kerf", "Slitting saw"), Entry("strip", "Strip", pair=True), Entry("ends", "Kept at each end")),
    strip,
)  # fmt: skip
