"""What hands and machine do during one load, second by second."""

from dataclasses import dataclass
from typing import Literal

from ditto_run.core.method.way import Attended

Doing = Literal["hands", "machine"]


@dataclass(frozen=True, slots=True)
class Span:
    """One stretch of one load. Times count from the start of the load, [s]."""

    doing: Doing
    what: str
    start_s: float
    end_s: float


@dataclass(frozen=True, slots=True)
class Overlap:
    """One load in the steady run.

    Args:
        spans: what is done when, hands and machine.
        period_s: from load to load. [s]
        hands_free_s: how long the hands may do something else while it cuts, in one piece. [s]
        machine_waits_s: how long the machine stands still. [s]
        pieces: of the load.
    """

    spans: tuple[Span, ...]
    period_s: float
    hands_free_s: float
    machine_waits_s: float
    pieces: int


def overlap(
    *,
    handling_s: float,
    cut_s: float,
    per_load_s: float,
    beside_s: float,
    pieces: int,
    attended: Attended,
) -> Overlap:
    """Return what hands and machine do during one load of the steady run.

    Pieces are changed while the machine stands. While it cuts, hands that need not stay with it deburr and gauge the
    pieces of the load before; what is left of that time is free. Hands that stay do it while the machine waits.

    Args:
        handling_s: load, locate and unload one piece. [s]
        cut_s: cut one piece. [s]
        per_load_s: tool changes, moves and door, a load. [s]
        beside_s: deburr and gauge one piece. [s]
        pieces: of the load, 1 or more.
        attended: what the hands do while it cuts.

    Source:
        Own derivation; its period is that of `piece_times`, which a test holds.
    """
    handling, cut, beside = handling_s * pieces, cut_s * pieces, beside_s * pieces
    cutting = cut + per_load_s
    spans = [
        Span("hands", "change pieces", 0.0, handling),
        Span("machine", "cut", handling, handling + cutting),
    ]
    if attended == "all the time":
        period = handling + cutting + beside
        spans += [
            Span("hands", "stay with it", handling, handling + cutting),
            Span("hands", "deburr and gauge", handling + cutting, period),
        ]
        return Overlap(_real(spans), period, 0.0, handling + beside, pieces)
    period = handling + per_load_s + max(cut, beside)
    done = handling + beside
    spans += [
        Span("hands", "deburr and gauge", handling, done),
        Span("hands", "free", done, max(done, handling + cut)),
        Span("hands", "tool changes and door", period - per_load_s, period),
    ]
    free = max(0.0, cut - beside)
    waits = period - cutting
    return Overlap(_real(spans), period, free, waits, pieces)


def _real(spans: list[Span]) -> tuple[Span, ...]:
    return tuple(span for span in spans if span.end_s > span.start_s)
