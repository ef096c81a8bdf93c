"""The thread sheet: limits, tap drill from the drawer, strength and torque, depth, wires."""

from dataclasses import dataclass
from decimal import Decimal

from ditto_run.core.findings import Finding
from ditto_run.core.sheets import Answer, Entries, Entry, Fact, Grid, Known, Offer, SheetKind
from ditto_run.core.threads import (
    Band,
    BlindHole,
    OverWires,
    PipeThread,
    Tap,
    TapDrill,
    Thread,
    ThreadLimits,
    blind_hole,
    engagement_to_break_screw,
    over_wires,
    percent_of_hole,
    pipe_thread,
    read_thread,
    relative_torque,
    tap_drills,
    thread_limits,
)
from ditto_run.core.threads.tapping import CHAMFER_THREADS
from ditto_run.core.units import MM_PER_INCH, LengthUnit, length_text, number_text

SIXTY, SEVENTY_FIVE = Decimal(60), Decimal(75)
SHOWN = 6  # drills listed
SIXTY_DEGREES = 60  # the form the strength and torque are worked out for
WHITWORTH_DEGREES = 55
SOURCES = {  # what the limits are held to
    "unified": "ASME B1.1, limits as it rounds them; B1.2 for wires",
    "metric": "ISO 965-1 tables; its formulas and R 40 series beyond them",
    "custom": "ASME B1.1 or ISO 965-1 formulas",
    "bspp": "ISO 228-1",
    "trapezoidal": "ISO 2904 basic sizes, crests by ISO 965-1 grade 4",
    "whitworth": "55° form of BS 84, basic sizes",
}
TAPS: tuple[Tap, ...] = ("plug", "taper", "bottoming")
SHARES = (SIXTY, SEVENTY_FIVE)


@dataclass(frozen=True, slots=True)
class ThreadAnswer:
    """What the thread sheet works out; lengths in millimetres unless a value says its unit.

    Args:
        thread: the thread.
        limits: of the chosen side; None for a taper thread.
        pipe: of a taper thread; None for others.
        drills: of the drawer, nearest first.
        percent: share of thread of the first drill, or of the hole typed. [%]
        blind: depth of a blind hole; None for a through hole.
        wires: reading over three wires of an external thread.
        torque_75_over_60: how many times the torque at 75 % is that at 60 %.
        engagement_mm: engagement from which the screw breaks first, at 60 and 75 %. [mm]
    """

    thread: Thread
    limits: ThreadLimits | None = None
    pipe: PipeThread | None = None
    drills: tuple[TapDrill, ...] = ()
    percent: Decimal | None = None
    blind: BlindHole | None = None
    wires: OverWires | None = None
    torque_75_over_60: float | None = None
    engagement_mm: tuple[float, float] | None = None


def compute(entries: Entries, known: Known) -> Answer:
    """Return the answer of the thread sheet.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    thread = read_thread(entries.text("thread"))
    if thread.taper:
        return _taper(thread, entries, known)
    side = entries.choice("side", ("internal", "external"))
    limits = thread_limits(
        thread, "internal" if side == "internal" else "external", entries.text("tolerance_class")
    )
    return (
        _outside(thread, limits, entries, known)
        if side == "external"
        else _inside(thread, limits, entries, known)
    )


def _band(band: Band, unit: LengthUnit) -> str:
    places = 4 if unit == "in" else 3
    low, high = (None if end is None else number_text(end, places) for end in (band.low, band.high))
    if not low and not high:
        return "not in our tables"
    if low and high:
        return f"{low} to {high} {unit}"
    return f"at least {low} {unit}" if low else f"at most {high} {unit}"


def _limit_facts(limits: ThreadLimits) -> tuple[Fact, ...]:
    tap, tool = "the tap makes the rest", "the tool's nose makes the rest"
    inside = limits.side == "internal"
    return (
        Fact("Major diameter", _band(limits.major, limits.unit), tap if inside else ""),
        Fact("Pitch diameter", _band(limits.pitch, limits.unit)),
        Fact("Minor diameter", _band(limits.minor, limits.unit), "" if inside else tool),
    )


def _by_formula(limits: ThreadLimits) -> tuple[Finding, ...]:
    if limits.basic:
        return (
            Finding(
                "part",
                "ask",
                "thread-basic",
                "These are basic sizes: no table of ours carries the limits of this thread's pitch diameter.",
                "Ask for the limits, or fit it to its mate.",
            ),
        )
    if not limits.by_formula:
        return ()
    return (
        Finding(
            "part",
            "note",
            "thread-by-formula",
            "No table of ours carries this size and pitch; the limits come from the standard's formulas and series.",
            "Ask for the limits if they matter.",
        ),
    )


def _outside(thread: Thread, limits: ThreadLimits, entries: Entries, known: Known) -> Answer:
    wire_mm = entries.maybe_mm("wire")
    wire = None if wire_mm is None else (wire_mm / MM_PER_INCH if thread.unit == "in" else wire_mm)
    wires = over_wires(thread, limits.pitch, wire)
    places = 4 if thread.unit == "in" else 3
    facts = (
        *_limit_facts(limits),
        Fact("Best wire", f"{number_text(wires.best, 5 if thread.unit == 'in' else 4)} {thread.unit}"),
        Fact(
            "Over three wires",
            _band(wires.reading, thread.unit),
            f"wires of {number_text(wires.wire, places + 1)} {thread.unit}",
        ),
    )
    major = limits.major
    middle = (
        (major.low + major.high) / 2 if major.low is not None and major.high is not None else thread.major
    )
    return Answer(
        f"Turn it to {length_text(thread.mm(middle), known.unit)}, then cut to the pitch diameter.",
        f"{thread.name} {limits.tolerance_class}: the middle of the major diameter's limits.",
        facts,
        findings=_by_formula(limits),
        offers=(
            Offer("thread", f"{_typed(thread)} {limits.tolerance_class}"),
            Offer("thread blank", _offer_band(major, thread.unit)),
        ),
        result=ThreadAnswer(thread, limits, wires=wires),
        source=SOURCES[thread.family],
    )


def _typed(thread: Thread) -> str:
    return thread.name.replace("×", "x") if thread.family == "metric" else thread.name


def _offer_band(band: Band, unit: LengthUnit) -> str:
    return f"{band.low} to {band.high} {unit}"


def _inside(thread: Thread, limits: ThreadLimits, entries: Entries, known: Known) -> Answer:
    shallow = (
        thread.form < WHITWORTH_DEGREES
    )  # trapezoidal ones are cut whole, from a hole of the minor diameter
    wanted = entries.percent("percent", 1, 100, 100 if shallow else 75)
    low, high = limits.minor.low or thread.major, limits.minor.high or thread.major
    minor_mm = thread.mm(low), thread.mm(high)
    drills = tap_drills(thread, known.drills, minor_mm, wanted)
    own = entries.maybe_mm("drill")
    best = drills[0] if drills else None
    hole_mm = own if own is not None else best.diameter_mm if best else thread.mm(low)
    hole = hole_mm / thread.mm(Decimal(1))
    percent = percent_of_hole(thread, hole)
    blind = None
    if (depth_mm := entries.maybe_mm("depth")) is not None:
        blind = blind_hole(
            thread, depth_mm / thread.mm(Decimal(1)), TAPS[TAPS.index(entries.choice("lead", TAPS))], hole
        )
    engaged = _engaged(thread)
    torque = relative_torque(thread, SEVENTY_FIVE, SIXTY) if thread.form == SIXTY_DEGREES else None
    name = f"{own_name(own, known)}" if own is not None else best.name if best else "the minor diameter"
    findings = [
        *_by_formula(limits),
        *_hole_findings(
            None if shallow else percent,
            (own is not None, minor_mm[0] <= hole_mm <= minor_mm[1]),
            bool(drills),
            known,
        ),
    ]
    say = f"Drill {name}: {number_text(percent, 0)} % of thread."
    facts = [*_limit_facts(limits), *_depth_facts(blind, thread, entries, known, findings)]
    compared = (_compare(thread, known, engaged, torque),) if torque is not None else ()
    grids = (*compared, *((_drawer(drills[:SHOWN], known.unit),) if drills else ()))
    return Answer(
        say,
        _why(wanted, best, own is None),
        tuple(facts),
        grids,
        tuple(findings),
        (
            Offer("thread", f"{_typed(thread)} {limits.tolerance_class}"),
            Offer("hole before tapping", _offer_band(limits.minor, thread.unit)),
        ),
        result=ThreadAnswer(
            thread,
            limits,
            drills=tuple(drills[:SHOWN]),
            percent=percent,
            blind=blind,
            torque_75_over_60=torque,
            engagement_mm=(engaged[0], engaged[1]) if engaged else None,
        ),
        source=f"{SOURCES[thread.family]}; tap drill formula of the handbooks; stripping after FED-STD-H28",
    )


def _engaged(thread: Thread) -> tuple[float, ...]:
    """Return from which engagement the screw breaks first, at 60 and 75 % of thread; nothing for other forms, [mm]."""
    if thread.form != SIXTY_DEGREES:
        return ()
    external = (
        thread_limits(thread, "external", "2A" if thread.unit == "in" else "6g").pitch.low or thread.major
    )
    scale = float(thread.mm(Decimal(1)))
    return tuple(
        engagement_to_break_screw(thread, thread.major - share / 100 * thread.full_depth, external) * scale
        for share in SHARES
    )


def own_name(diameter_mm: Decimal | None, known: Known) -> str:
    """Return what a hole is called: the drill of that size in the drawer, else its diameter, [mm]."""
    if diameter_mm is None:
        return ""
    return next(
        (name for name, mm in known.drills if mm == diameter_mm), length_text(diameter_mm, known.unit)
    )


def _why(wanted: Decimal, best: TapDrill | None, from_drawer: bool) -> str:  # noqa: FBT001
    if not from_drawer or best is None:
        return "For the hole you typed."
    where = "within" if best.within else "outside"
    return f"The drill nearest to {number_text(wanted, 0)} % in the drawer; its hole lies {where} the minor diameter's limits."


def _hole_findings(
    percent: Decimal | None,
    hole: tuple[bool, bool],
    found: bool,  # noqa: FBT001
    known: Known,
) -> list[Finding]:
    findings = []
    typed, within = hole
    if known.whole_drawer:
        findings.append(
            Finding(
                "part",
                "note",
                "no-drawer",
                "The shop's drawer is empty, so every standard drill stands in.",
                "Fill it on Shop, Drills.",
            )
        )
    if not found and not typed:
        findings.append(
            Finding(
                "part",
                "ask",
                "no-drill",
                "No drill of the drawer suits this thread.",
                "Bore the hole, or add the drill on Shop.",
            )
        )
    if percent is not None and percent > 85:  # noqa: PLR2004 - common practice
        findings.append(
            Finding(
                "part",
                "ask",
                "tight-tap",
                f"{number_text(percent, 0)} % of thread breaks taps.",
                "Take a larger drill; 60 to 75 % is usual.",
            )
        )
    elif percent is not None and percent < 50:  # noqa: PLR2004 - common practice
        findings.append(
            Finding(
                "part",
                "ask",
                "loose-thread",
                f"{number_text(percent, 0)} % of thread holds little.",
                "Take a smaller drill; 60 to 75 % is usual.",
            )
        )
    elif not within:
        findings.append(
            Finding(
                "part",
                "ask",
                "minor-out",
                "The hole lies outside the minor diameter's limits.",
                "A minor-diameter plug would refuse it: change the drill, or agree on it.",
            )
        )
    return findings


def _depth_facts(
    blind: BlindHole | None, thread: Thread, entries: Entries, known: Known, findings: list[Finding]
) -> list[Fact]:
    if blind is None:
        return []
    drilled, point = thread.mm(blind.drilled), thread.mm(blind.with_point)
    room = entries.maybe_mm("room")
    if room is not None and point > room:
        findings.append(
            Finding(
                "part",
                "stop",
                "too-deep",
                f"The drill's point reaches {length_text(point, known.unit, 2)}, there is {length_text(room, known.unit, 2)}.",
                "Take a bottoming tap, a shallower thread, or a flat-bottom drill.",
            )
        )
    return [
        Fact(
            "Drill to full diameter",
            length_text(drilled, known.unit, 2),
            f"thread, {length_text(thread.mm(blind.chamfer), known.unit, 2)} of tap lead, one pitch for chips",
        ),
        Fact("Point of the drill at", length_text(point, known.unit, 2), "118° point"),
    ]


def _compare(thread: Thread, known: Known, engaged: tuple[float, ...], torque: float) -> Grid:
    rows = []
    for share, length, times in zip(
        SHARES, engaged, ("1", number_text(Decimal(repr(torque)), 1)), strict=True
    ):
        hole = thread.mm(thread.major - share / 100 * thread.full_depth)
        rows.append(
            (f"{share} %", length_text(hole, known.unit), f"{times} ×", length_text(length, known.unit, 1))
        )
    return Grid(
        "60 and 75 % side by side",
        ("Thread", "Hole", "Torque on the tap", "Screw breaks first from"),
        tuple(rows),
    )


def _drawer(drills: list[TapDrill], unit: LengthUnit) -> Grid:
    rows = tuple(
        (
            drill.name,
            length_text(drill.diameter_mm, unit),
            f"{number_text(drill.percent, 0)} %",
            "within" if drill.within else "outside",
        )
        for drill in drills
    )
    return Grid("From the drawer, nearest first", ("Drill", "Diameter", "Thread", "Minor limits"), rows)


def _taper(thread: Thread, entries: Entries, known: Known) -> Answer:
    pipe = pipe_thread(thread)
    scale = thread.mm(Decimal(1))
    lead = TAPS[TAPS.index(entries.choice("lead", TAPS))]
    chamfer = CHAMFER_THREADS[lead] * thread.pitch
    depth, hole_mm = (pipe.engaged + chamfer) * scale, pipe.hole * scale
    above = [(name, mm) for name, mm in known.drills if mm >= hole_mm]
    best = min(above, key=lambda drill: drill[1], default=None)
    room = entries.maybe_mm("room")
    findings = []
    if room is not None and depth > room:
        findings.append(
            Finding(
                "part",
                "stop",
                "pipe-too-deep",
                f"L1, L3 and the tap's lead need {length_text(depth, known.unit, 2)}, there is {length_text(room, known.unit, 2)}.",
                "Take a tap with less lead, or a thicker wall; a shallow taper thread leaks.",
            )
        )
    drill = f"{best[0]}, {length_text(best[1], known.unit)}" if best else "none in the drawer is large enough"
    return Answer(
        f"Drill {best[0] if best else length_text(hole_mm, known.unit)}, tap {length_text(depth, known.unit, 1)} deep.",
        "A taper thread makes its size by its depth: L1 by hand, L3 by wrench, and the tap's lead must all find room.",
        (
            Fact("Pitch diameter at the face", length_text(pipe.pitch_at_face * scale, known.unit)),
            Fact("By hand, L1", length_text(pipe.hand_tight * scale, known.unit, 2)),
            Fact("By wrench, L3", length_text(pipe.make_up * scale, known.unit, 2)),
            Fact("Tap's lead", length_text(chamfer * scale, known.unit, 2), f"{lead} tap"),
            Fact("Least hole", length_text(hole_mm, known.unit), "minor diameter where the engagement ends"),
            Fact("Drill", drill),
            Fact("Taper", "1 in 16", "on the diameter, 1°47′ a side"),
        ),
        findings=tuple(findings),
        offers=(Offer("pipe thread", thread.name),),
        result=ThreadAnswer(thread, pipe=pipe),
        source="ASME B1.20.1; ISO 7-1",
    )


THREAD = SheetKind(
    "thread",
    "part",
    "Thread",
    (
        Entry("thread", "Thread"),
        Entry("side", "Side", kind="choose", choices=("internal", "external")),
        Entry("tolerance_class", "Class"),
        Entry("percent", "Thread wanted, %"),
        Entry("drill", "Drill at hand"),
        Entry("depth", "Blind: full thread deep"),
        Entry("room", "Room for the hole"),
        Entry("lead", "Tap’s lead", kind="choose", choices=("plug", "taper", "bottoming")),
        Entry("wire", "Wires at hand"),
    ),
    compute,
)
