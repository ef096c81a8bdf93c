"""What a way takes: a fixed part and a part for each piece, in time, money and days."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, Literal

from ditto_run.core.method.guess import Guess
from ditto_run.core.method.way import Way

Measure = Literal["time", "cost", "days"]
HOUR_S = 3600.0
WORKDAY_S = 8 * HOUR_S
Number = Any  # a float, or an array of draws: the same arithmetic serves both
Sample = Callable[[Guess], Number]


@dataclass(frozen=True, slots=True)
class CostLine:
    """Total = fixed + each × good pieces; `lasting` is the share of fixed that the next batch is spared."""

    fixed: Number
    each: Number
    lasting: Number = 0.0

    def at(self, quantity: float) -> Number:
        """Return the total at a quantity of good pieces."""
        return self.fixed + self.each * quantity


@dataclass(frozen=True, slots=True)
class PieceCost:
    """Times of one started piece, [s].

    Args:
        elapsed_s: load to load, shared by the pieces of a load.
        hands_s: of a pair of hands.
        machine_s: of the machine.
        handling_s: load, locate and unload.
    """

    elapsed_s: Number
    hands_s: Number
    machine_s: Number
    handling_s: Number


def likely(guess: Guess) -> float:
    """Return the likely time, [s]."""
    return guess.likely_s


def piece_times(way: Way, sample: Sample = likely) -> PieceCost:
    """Return the times of one started piece.

    While an unattended cut runs, deburring and gauging are done beside it. Two spindles or machines at the same
    time go at the pace of the longer.

    Args:
        way: the way.
        sample: gives the time of a guess: its likely value, or an array of draws. [s]

    Source:
        Own derivation.
    """
    first, second = sample(way.cut), sample(way.second_cut)
    together = way.second_runs == "at the same time"
    cut = _larger(first, second) if together else first + second
    handling = sample(way.load) + sample(way.locate) + sample(way.unload)
    on_machine = handling + sample(way.per_load) / way.pieces_per_load + cut
    beside = sample(way.deburr) + sample(way.gauge)
    if way.attended == "all the time":
        return PieceCost(on_machine + beside, on_machine + beside, on_machine, handling)
    elapsed = on_machine + _larger(beside - cut, 0.0)
    if way.attended == "start and stop":
        return PieceCost(elapsed, elapsed, on_machine, handling)
    return PieceCost(elapsed, on_machine - cut + beside, on_machine, handling)


def _larger(a: Number, b: Number) -> Number:
    """Return the larger of two numbers or arrays, element by element."""
    return (a + b + abs(a - b)) / 2


def line_of(way: Way, measure: Measure, sample: Sample = likely) -> CostLine:
    """Return a way as a line over the quantity of good pieces.

    Args:
        way: the way.
        measure: time [s], cost [cents] or days until all are there [days].
        sample: gives the time of a guess: its likely value, or an array of draws. [s]

    Returns:
        Fixed part, with trial pieces; part for each good piece, scrap counted in.

    Source:
        Own derivation.
    """
    if way.is_bought:
        ready = sum((sample(line.time) for line in way.ready), 0.0)
        if measure == "cost":
            return CostLine(way.order_cents + ready / HOUR_S * way.labour_cents, way.bought_cents + 0.0)
        return (
            CostLine(ready, 0.0)
            if measure == "time"
            else CostLine(float(way.wait_days) + ready / WORKDAY_S, 0.0)
        )
    piece = piece_times(way, sample)
    if measure == "cost":
        return _cost(way, piece, sample)
    fixed, lasting = 0.0, 0.0
    for line in way.ready:
        time = sample(line.time)
        fixed, lasting = fixed + time, lasting + (time if line.lasting else 0.0)
    fixed = fixed + way.trials * piece.elapsed_s
    each = piece.elapsed_s / way.yield_share
    if measure == "days":
        return CostLine(float(way.wait_days) + fixed / WORKDAY_S, each / WORKDAY_S, lasting / WORKDAY_S)
    return CostLine(fixed, each, lasting)


def _cost(way: Way, piece: PieceCost, sample: Sample) -> CostLine:
    fixed, lasting = 0.0 + way.order_cents, 0.0
    for line in way.ready:
        # the machine stands still only while it is being set up
        rate = way.labour_cents + (way.machine_cents if line.is_setting_up else 0)
        cost = sample(line.time) / HOUR_S * rate + line.cents
        fixed, lasting = fixed + cost, lasting + (cost if line.lasting else 0.0)
    second = sample(way.second_cut) if way.second_cents else 0.0
    first = piece.machine_s - (second if way.second_runs == "after" else 0.0)
    one = (
        piece.hands_s / HOUR_S * way.labour_cents
        + first / HOUR_S * way.machine_cents
        + second / HOUR_S * way.second_cents
        + way.material_cents
    )
    return CostLine(fixed + way.trials * one, one / way.yield_share, lasting)


def ready_seconds(way: Way) -> float:
    """Return the likely time to get ready, without trial pieces, [s]."""
    return sum(line.time.likely_s for line in way.ready)
