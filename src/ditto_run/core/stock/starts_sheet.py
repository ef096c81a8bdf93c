"""The sheet that says how many to start."""

from dataclasses import dataclass

from ditto_run.core.errors import BadEntry
from ditto_run.core.findings import Finding
from ditto_run.core.sheets import Answer, Entries, Entry, Fact, Grid, Known, SheetKind
from ditto_run.core.stock.starts import History, starts_for, starts_from_history

CONFIDENCES = (50, 80, 90, 95, 99)


@dataclass(frozen=True, slots=True)
class Starts:
    """How many to start.

    Args:
        good: good pieces with spares. [pieces]
        trials: trial pieces. [pieces]
        scrap_extra: more for scrap. [pieces]
        start: all of them. [pieces]
        confidence: in percent.
    """

    good: int
    trials: int
    scrap_extra: int
    start: int
    confidence: float


def compute(entries: Entries, known: Known) -> Answer:
    """Return the answer of the sheet.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    good = known.quantity + known.spares
    trials = entries.whole("trials", 0, 10_000, known.trials)
    confidence = float(entries.percent("confidence", 50, 99.9, 90))
    if entries.has("history_made"):
        history = History(
            entries.whole("history_good", 0, 1_000_000), entries.whole("history_made", 1, 1_000_000)
        )
        reason = f"{history.good} of {history.made} were good before"

        def started(at: float) -> int:
            return starts_from_history(good, history, at / 100)
    else:
        scrap = float(entries.percent("scrap", 0, 99, known.scrap)) / 100
        reason = f"{scrap:.0%} scrap is expected" if scrap else "no scrap is expected"

        def started(at: float) -> int:
            return starts_for(good, scrap, at / 100)

    needed = started(confidence)
    result = Starts(good, trials, needed - good, needed + trials, confidence)
    spares = f" and {known.spares} spares" if known.spares else ""
    return Answer(
        f"Start {result.start} to be {confidence:g} % sure of {good} good.",
        f"{known.quantity} wanted{spares}, {trials} to set up with, {result.scrap_extra} more because {reason}.",
        (
            Fact("Good pieces", str(good), "wanted with spares"),
            Fact("Trial pieces", str(trials)),
            Fact("For scrap", str(result.scrap_extra), reason),
        ),
        (
            Grid(
                "What sureness costs",
                ("Sure of it", "Start"),
                tuple((f"{at} %", str(started(at) + trials)) for at in CONFIDENCES),
            ),
        ),
        _findings(entries, result),
        result=result,
        source="negative binomial; with few pieces known, beta-negative-binomial",
    )


def _findings(entries: Entries, result: Starts) -> tuple[Finding, ...]:
    if not entries.has("own"):
        return ()
    own = entries.whole("own", 1, 100_000)
    if own < result.good:
        raise BadEntry(f"{own} cannot give {result.good} good.", f"Start {result.start}.", "own")
    if own < result.start:
        return (
            Finding(
                "stock",
                "ask",
                "too-few-started",
                f"{own} are too few to be {result.confidence:g} % sure of {result.good} good.",
                f"Start {result.start}, or lower the scrap first.",
            ),
        )
    return ()


STARTS = SheetKind(
    "starts",
    "stock",
    "How many to start",
    (
        Entry("confidence", "Sure of it, %"),
        Entry("trials", "Trial pieces"),
        Entry("scrap", "Expected scrap, %"),
        Entry("history_good", "Good before"),
        Entry("history_made", "of so many made"),
        Entry("own", "What you mean to start"),
    ),
    compute,
    single=True,
)
