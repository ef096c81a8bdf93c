"""The sheet of hands and machine: who waits for whom in a load, and what fits into the time the hands have."""

from ditto_run.core.findings import Finding
from ditto_run.core.method.overlap import overlap
from ditto_run.core.method.way import Attended
from ditto_run.core.sheets import Answer, Entries, Entry, Fact, Known, SheetKind
from ditto_run.core.units import capital, clock_text, counted

ATTENDED: tuple[Attended, ...] = ("all the time", "start and stop", "runs alone")


def compute(entries: Entries, known: Known) -> Answer:
    """Return the answer of the sheet of hands and machine.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    entries.need("cut", "2:50")
    attended = ATTENDED[ATTENDED.index(entries.choice("attended", ATTENDED))]
    found = overlap(
        handling_s=entries.seconds("handling"),
        cut_s=entries.seconds("cut"),
        per_load_s=entries.seconds("per_load"),
        beside_s=entries.seconds("beside"),
        pieces=entries.whole("pieces", 1, 1000, 1),
        attended=attended,
    )
    each = counted(found.pieces, "piece")
    if found.hands_free_s > 0:
        say = f"The hands are free for {clock_text(found.hands_free_s)} of each {clock_text(found.period_s)}."
    elif attended == "all the time":
        say = f"The hands stay with it; {clock_text(found.period_s)} a load."
    else:
        say = f"The hands set the pace: {clock_text(found.period_s)} a load."
    work = [
        (name, seconds) for name, seconds in known.hand_work if seconds * found.pieces <= found.hands_free_s
    ]
    over = max(0.0, found.machine_waits_s - entries.seconds("handling") * found.pieces)
    findings: tuple[Finding, ...] = ()
    if attended != "all the time" and over > 0:
        findings = (
            Finding(
                "method",
                "note",
                "hands-set-pace",
                f"Deburring and gauging take {clock_text(over)} a load longer than the cut: the machine waits for it.",
                "Gauge fewer pieces, deburr in the cycle, or let somebody else do it.",
            ),
        )
    return Answer(
        say,
        _why(work, found.pieces)
        if found.hands_free_s
        else f"The machine waits {clock_text(found.machine_waits_s)} of it.",
        (
            Fact("Load to load", clock_text(found.period_s), each),
            Fact("Machine waits", clock_text(found.machine_waits_s)),
            Fact("Hands free, in one piece", clock_text(found.hands_free_s)),
        ),
        findings=findings,
        picture=found,
        picture_says=f"One load of {each}: hands above, machine below.",
        result=found,
        source="own derivation",
    )


def _why(work: list[tuple[str, float]], pieces: int) -> str:
    """What fits into the free time: hand work of this job."""
    if not work:
        return "No hand work of this job with a time fits in there; the next job's saw cuts may."
    name, seconds = max(work, key=lambda one: one[1])
    return f"{capital(name)} fits in there: {clock_text(seconds * pieces)} a load."


OVERLAP = SheetKind(
    "overlap",
    "method",
    "Hands and machine",
    (
        Entry("handling", "Load, locate, unload a piece"),
        Entry("cut", "Cut a piece"),
        Entry("per_load", "Changes, door, a load"),
        Entry("beside", "Deburr and gauge a piece"),
        Entry("pieces", "Pieces to a load"),
        Entry(
            "attended",
            "While it cuts, the hands",
            kind="choose",
            choices=("all the time", "start and stop", "runs alone"),
        ),
    ),
    compute,
)
