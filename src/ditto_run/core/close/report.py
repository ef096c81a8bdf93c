"""The report of a batch: every piece, every dimension, and what the figures mean."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime

from ditto_run.core.part import Characteristic
from ditto_run.core.run.heats import heat_of
from ditto_run.core.run.loads import finished
from ditto_run.core.run.outlook import PartCount, part_counts
from ditto_run.core.run.state import Gauging, Load, Piece, RunState
from ditto_run.core.run.words import answer
from ditto_run.core.statistics import Capability, capability
from ditto_run.core.units import MINUS, counted

FEW = 25  # under so many pieces an index says little; common practice, no source


@dataclass(frozen=True, slots=True)
class PieceRow:
    """One piece in the report.

    Args:
        piece: its number.
        made: where it was made, setup by setup.
        revision: revision it was made to, the latest one.
        at: when its last load ended.
        standing: how it stands.
        reason: why, if somebody decided.
        heat: heat of its material; empty where nobody said it.
        readings: dimension number to the reading that counts, and its verdict in words.
        part: key of the part it is.
    """

    piece: int
    made: tuple[tuple[int, int, str], ...]
    revision: int
    at: datetime | None
    standing: str
    reason: str
    heat: str
    readings: dict[int, tuple[Gauging, str]]
    part: int = 1


@dataclass(frozen=True, slots=True)
class DimensionRow:
    """One dimension in the report: figures, and what they mean in words."""

    characteristic: Characteristic
    figures: Capability | None
    decimals: int
    means: str
    refused: int


@dataclass(frozen=True, slots=True)
class Times:
    """Time of a cycle, planned against actual, [s]; its key is that of the setup where that is cut alone."""

    setup: int
    loads: int
    planned_cycle_s: float
    actual_cycle_s: float | None
    planned_piece_s: float
    actual_piece_s: float | None


@dataclass(frozen=True, slots=True)
class Report:
    """Everything the closing report says.

    Beside the obvious: `pieces` may be some of them only; `taken` are good ones that nobody gauged and no check covers; `heats` holds
    the pieces of each heat, those whose heat nobody said under an empty name.
    """

    wanted: int
    good: int
    counts: dict[str, int]
    started_pieces: int
    adds_up: bool
    pieces: tuple[PieceRow, ...]
    dimensions: tuple[DimensionRow, ...]
    times: tuple[Times, ...]
    adjustments: int
    notes: tuple[tuple[datetime, str, str, int | None], ...]
    mixed_before: str
    parts: tuple[PartCount, ...] = ()
    taken: int = 0
    heats: Mapping[str, tuple[int, ...]] = field(default_factory=dict)


def report(state: RunState, some: Sequence[int] | None = None) -> Report:
    """Return the report of a run, closed or not.

    Args:
        state: the run.
        some: pieces whose rows are wanted; every one if not said. The figures are those of all.

    Returns:
        The report; figures cover the pieces that were gauged and not scrapped for another reason.
    """
    wanted = state.pieces.values() if some is None else [state.pieces[n] for n in some]
    pieces = tuple(piece_row(state, piece) for piece in wanted)
    heats: dict[str, list[int]] = {}
    for piece in state.pieces.values():
        heats.setdefault(heat_of(state, piece), []).append(piece.number)
    counts = {
        name: state.counts[name]
        for name in (
            "good",
            "reworked",
            "not gauged",
            "held",
            "rework",
            "scrap",
            "trial",
            "spare",
            "lost",
            "cutting",
        )
        if state.counts[name]
    }
    adjustments = _adjustments(state)
    dimensions = tuple(_dimension_row(state, c, adjustments) for c in state.plan.all_characteristics)
    mixed = state.identity_lost_before
    return Report(
        state.plan.wanted,
        finished(state),
        counts,
        len(state.pieces),
        sum(counts.values()) == len(state.pieces),
        pieces,
        dimensions,
        tuple(_times(state, key) for key in state.cycles),
        adjustments,
        tuple(state.notes),
        state.plan.cycle(mixed).name if mixed is not None else "",
        part_counts(state) if state.plan.companions else (),
        sum(one.standing == "good" and one.outcome == "taken" for one in state.pieces.values()),
        {heat: tuple(numbers) for heat, numbers in heats.items()},
    )


def actual_piece_s(found: Report) -> float | None:
    """Return the time a piece really took, load to load over all setups run; None before that is known, [s]."""
    known = [times.actual_piece_s for times in found.times if times.actual_piece_s is not None]
    return sum(known) if known else None


def _adjustments(state: RunState) -> int:
    return sum(change.kind == "offset" for run in state.cycles.values() for change in run.changes)


STANDING_WORDS = {"as_is": "accepted as it is", "taken": "taken without gauging"}


def piece_row(state: RunState, piece: Piece) -> PieceRow:
    """Return one piece as the report has it.

    Args:
        state: the run.
        piece: of it.
    """
    readings = {
        number: (found, answer(state, found).words)
        for number in dict.fromkeys(number for _, number in piece.gaugings)
        if (found := piece.left_with(number)) is not None
    }
    made = tuple((state.plan.position(key), at.load, at.station) for key, at in piece.made.items())
    last = next(reversed(piece.made.values()))
    standing = STANDING_WORDS.get(piece.outcome, "good") if piece.standing == "good" else piece.standing
    ended = state.cycles[last.cycle].loads[last.load - 1].ended_at
    reason = piece.reason or piece.hold_reason
    return PieceRow(
        piece.number,
        made,
        last.revision,
        ended,
        standing,
        reason,
        heat_of(state, piece),
        readings,
        piece.part,
    )


def _dimension_row(state: RunState, characteristic: Characteristic, adjustments: int) -> DimensionRow:
    counting = (piece.left_with(characteristic.number) for piece in state.pieces.values())
    last = [gauging for gauging in counting if gauging is not None]
    values = [float(gauging.value) for gauging in last if gauging.value is not None]
    size = characteristic.size
    figures = capability(
        values,
        None if size.lower is None else float(size.lower),
        None if size.upper is None else float(size.upper),
    )
    decimals = max([size.decimals, *(gauging.decimals for gauging in last)], default=size.decimals)
    refused = sum(1 for gauging in last if not gauging.inside)
    return DimensionRow(
        characteristic, figures, decimals, meaning(figures, adjustments, len(last), refused), refused
    )


def meaning(figures: Capability | None, adjustments: int, gauged: int, refused: int) -> str:
    """Return what the figures of a dimension mean, in one or two plain sentences."""
    if figures is None:
        return f"{gauged} checked, {refused} NO-GO." if gauged else "Not gauged."
    if figures.spread is None:
        return "One piece shows no spread."
    if not figures.spread:
        return "Every reading is the same: the gauge may be too coarse to show the spread."
    if figures.ppk is None or figures.ppk_range is None:
        return "No limits, so no index."
    low = f"{figures.ppk_range[0]:.2f}".replace("-", MINUS)
    parts = []
    if figures.count < FEW:
        parts.append(
            f"Only {counted(figures.count, 'piece')}: Ppk may be as low as {low}, so promise nothing by it."
        )
    elif figures.ppk_range[0] >= 1:
        parts.append(f"Even the low end of Ppk, {low}, keeps all but a few in a thousand inside.")
    else:
        parts.append(f"Ppk may be as low as {low}: expect some outside if this goes on.")
    if adjustments:
        times = "once" if adjustments == 1 else f"{adjustments} times"
        parts.append(
            f"Adjusted {times} meanwhile, so this is the batch as made, not what the process holds by itself."
        )
    return " ".join(parts)


def _times(state: RunState, cycle: int) -> Times:
    run = state.cycles[cycle]
    cycles = [load.cycle_s for load in run.loads if load.cycle_s is not None]
    made = sum(len(load.pieces) for load in run.loads if not load.joined)
    spent = sum(run.gaps_s)
    counted = _pieces_behind(run.loads, len(run.gaps_s))
    planned = state.plan.times(cycle) if state.plan.cycle(cycle).stations else None
    return Times(
        cycle,
        len(run.loads),
        planned.cycle_s if planned else 0.0,
        sum(cycles) / len(cycles) if cycles else None,
        planned.per_piece_s if planned else 0.0,
        spent / counted if counted and made else None,
    )


def _pieces_behind(loads: Sequence[Load], gaps: int) -> int:
    """Return the pieces of the loads whose load-to-load time is known: all but the last one."""
    return sum(len(load.pieces) for load in loads[:gaps])
