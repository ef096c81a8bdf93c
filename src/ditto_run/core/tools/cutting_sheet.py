"""The sheet of a cut's time: its way at feed, its moves, what the machine was slower or quicker than that."""

from dataclasses import dataclass

from ditto_run.core.errors import BadEntry
from ditto_run.core.findings import Finding
from ditto_run.core.sheets import Answer, Entries, Entry, Fact, Known, SheetKind
from ditto_run.core.tools.cutting.motion import MM_PER_M, move_s
from ditto_run.core.units import LengthUnit, bare_length, clock_text, length_text

REVERSES_S = 0.5  # a spindle turning round in a tap's hole; common practice, no source
MOST_MOVES = 100_000
WHOLE_FROM_S = 10  # a shorter cut is told to a tenth of a second
WORTH = 0.005  # share in the air that is worth a word
FAR = 0.3  # of the time the step has, from which another one is worth a word; own judgement


@dataclass(frozen=True, slots=True)
class CutTime:
    """How long a tool cuts one piece.

    Args:
        feed_s: at feed. [s]
        air_s: moves between, and turning round. [s]
        pace: real over computed, as batches taught; 1 where they taught nothing. [-]
    """

    feed_s: float
    air_s: float
    pace: float

    @property
    def seconds(self) -> float:
        """All of it, [s]."""
        return (self.feed_s + self.air_s) * self.pace


def compute(entries: Entries, known: Known) -> Answer:
    """Return the answer of the sheet of a cut's time.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    unit = known.unit
    way, feed = float(entries.mm("way", "400")), float(entries.mm("feed", "600"))
    moves = entries.whole("moves", 0, MOST_MOVES, 0)
    move = float(entries.maybe_mm("move", above=False) or 0)
    rapid = float(entries.number("rapid", 0.01, 500)) * MM_PER_M if entries.has("rapid") else None
    accel = float(entries.number("accel", 0.01, 50)) if entries.has("accel") else None
    if moves and move and rapid is None:
        raise BadEntry("Rapid is missing.", "Type it in m/min; the machine’s manual has it.", "rapid")
    air = moves * move_s(move, rapid, accel) if rapid is not None else 0.0
    air += entries.whole("turns", 0, 10_000, 0) * REVERSES_S
    pace = float(entries.number("pace", 0.05, 20, 1))
    found = CutTime(way / feed * 60, air, pace)
    has = entries.seconds("has")
    return Answer(
        f"{_said(found.seconds)} a piece.",
        _why(found, way, feed, unit),
        (
            Fact("At feed", _said(found.feed_s), f"{length_text(way, unit, 0)} at {length_text(feed, unit, 0)} a minute"),
            Fact("In the air", _said(found.air_s), "and turning round" if entries.has("turns") else ""),
            *((Fact("Pace", f"{pace:.2f}", "real over computed, as batches taught"),) if pace != 1 else ()),
        ),
        findings=tuple(_findings(found.seconds, has)),
        result=found,
        source="l / v and v / a of each move, own derivation; the clock goes before it",
    )  # fmt: skip


def _said(seconds: float) -> str:
    return f"{seconds:.1f} s" if seconds < WHOLE_FROM_S else clock_text(round(seconds))


def _why(found: CutTime, way: float, feed: float, unit: LengthUnit) -> str:
    share = found.air_s / max(found.feed_s + found.air_s, 1e-9)
    air = f", {share:.0%} of it in the air" if share >= WORTH else ""
    paced = "" if found.pace != 1 else " Not clocked yet: the real one is often longer."
    return f"{bare_length(way, unit)} at {bare_length(feed, unit)} {unit} a minute{air}.{paced}"


def _findings(seconds: float, has: float) -> list[Finding]:
    if not has or abs(seconds - has) <= FAR * has:
        return []
    return [
        Finding(
            "tools",
            "note",
            "time-differs",
            f"The step says {_said(has)}, and {_said(seconds)} comes out.",
            "Take what comes out, or keep yours: the clock decides on Run.",
        )
    ]


CUTTING = SheetKind(
    "cutting",
    "tools",
    "Time of a cut",
    (
        Entry("way", "Way at feed"),
        Entry("feed", "Feed a minute"),
        Entry("moves", "Moves in the air"),
        Entry("move", "Length of one"),
        Entry("rapid", "Rapid, m/min"),
        Entry("accel", "Gathers speed, m/s²"),
        Entry("turns", "The spindle turns round so often"),
        Entry("pace", "Pace: real over computed"),
        Entry("has", "The step has it as"),
    ),
    compute,
)
