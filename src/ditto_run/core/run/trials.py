"""Trial pieces: setting, result, next setting, before the first piece of a setup is accepted.

The line through the trials is the knob's own where little is known: its slope is what the knob should do to the size, give or
take a tenth, until the trials say otherwise; the scatter is a part of the limits until three trials show one.
"""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from math import sqrt
from statistics import fmean
from typing import Literal

from ditto_run.core.part import Characteristic
from ditto_run.core.run.judged import DimensionJudged, HistoryHere, Keeper, KnobHere, grows_by_cutting
from ditto_run.core.run.state import RunState
from ditto_run.core.shop import Gauge, Machine
from ditto_run.core.units import to_base

Verdict = Literal["set", "cut", "leave", "process", "effect"]
SLOPE_SHARE = 0.1  # how far a knob's effect may be off what it should be; own judgement
SCATTER_OF_ZONE = 12.0  # before trials show it the scatter is so fine a part of the limits; own judgement
PRIOR_TRIALS = 3.0  # that is worth so many trials
FEW = 3  # trials, from which on their scatter is judged
Z_80 = 1.2816  # 80 % of a normal spread lie within so many standard deviations; Abramowitz and Stegun 26.5, from memory
SURE = 2.6  # standard errors, beyond which an effect is not chance: 1 in 100
NEAR_SHARE = 0.125  # of the limits' distance, within which a trial is left as it is; own judgement


@dataclass(frozen=True, slots=True)
class Trial:
    """One trial.

    Args:
        number: from 1.
        piece: its number.
        setting_mm: what the knob was dialled by before it, all together. [mm]
        size_mm: mean of its readings. [mm]
        apart_mm: how far its readings are apart; 0 with one. [mm]
        times: how often it was gauged.
    """

    number: int
    piece: int
    setting_mm: float
    size_mm: float
    apart_mm: float
    times: int


@dataclass(frozen=True, slots=True)
class RoughCut:
    """A reading in mid-cut: measured, then cut again; never judged.

    Args:
        piece: its number.
        size_mm: what it read. [mm]
        left_mm: to be taken off yet, to the middle of the limits; below 0 it is past it. [mm]
    """

    piece: int
    size_mm: float
    left_mm: float


@dataclass(frozen=True, slots=True)
class Trials:
    """The trials of one dimension, and what follows.

    Args:
        dimension: its limits and target. [mm]
        of: it.
        knob: what moves it.
        trials: in order; setting counts from the first.
        rough: readings in mid-cut.
        verdict: set, cut the next piece, leave it, change the process, or look at the effect.
        now_mm: what the knob is dialled by now. [mm]
        amount_mm: what to add; 0 for nothing. [mm]
        expect_mm: what the next piece is likely to be. [mm]
        low_mm, high_mm: 80 % of such pieces lie within. [mm]
        slope: what the size moves a unit of the knob, as it is believed now. [-]
        scatter_mm: standard deviation of a piece about the line. [mm]
        seen: slope by the trials alone, against what it should be; 0 where it is not seen. [-]
        can_be_cut: True if the last trial can be cut again.
    """

    dimension: DimensionJudged
    of: Characteristic
    knob: KnobHere
    trials: tuple[Trial, ...]
    rough: tuple[RoughCut, ...]
    verdict: Verdict
    now_mm: float
    amount_mm: float
    expect_mm: float
    low_mm: float
    high_mm: float
    slope: float
    scatter_mm: float
    seen: float
    can_be_cut: bool

    @property
    def zone_mm(self) -> float:
        """How far the limits are apart. [mm]."""
        return self.dimension.upper - self.dimension.lower


def trials_of(
    state: RunState, setup: int, machine: Machine | None, gauges: Mapping[int, Gauge]
) -> tuple[Trials, ...]:
    """Return the trials of each dimension of a setup whose first piece is not accepted yet.

    Args:
        state: the run, looked at from the cycle of the setup.
        setup: its key.
        machine: it is cut on.
        gauges: of the register, by number.

    Source:
        Own derivation: least squares with what is believed beforehand, Gauss's normal equations.
    """
    if setup in state.here.masters:
        return ()
    history = Keeper(setup).history(state, machine, gauges)
    if history is None or not history.readings:
        rough = history is not None and any(one.rough for one in state.gaugings.values())
        if history is None or not rough:
            return ()
    return tuple(_all(state, setup, history))


def _all(state: RunState, setup: int, history: HistoryHere) -> Iterator[Trials]:
    for one in history.job.dimensions:
        knob = next((k for k in history.job.knobs if k.station is None and k.gains.get(one.name)), None)
        if knob is None:
            continue
        of = history.of[one.name]
        trials, turned = _tried(history, one.name, knob)
        rough = tuple(_rough(state, setup, of, one))
        if trials:
            yield _fitted(one, of, knob, (trials, turned), rough)
        elif rough:
            at = one.target
            yield Trials(
                one,
                of,
                knob,
                (),
                rough,
                "cut",
                turned,
                0,
                at,
                at,
                at,
                knob.gains[one.name],
                0,
                0,
                can_be_cut=True,
            )


def _tried(history: HistoryHere, name: str, knob: KnobHere) -> tuple[tuple[Trial, ...], float]:
    """The trials in the order of cutting, and what the knob was dialled by in all."""
    read: dict[int, list[float]] = {}
    for one in history.readings:
        if one.dimension == name:
            read.setdefault(one.piece, []).append(one.value)
    turns = [(turn.after_piece, turn.amount) for turn in history.turns if turn.knob == knob.name]
    found = [
        Trial(
            n,
            history.numbers[piece - 1],
            sum(amount for after, amount in turns if after < piece),
            fmean(sizes),
            max(sizes) - min(sizes),
            len(sizes),
        )
        for n, (piece, sizes) in enumerate(sorted(read.items()), 1)
    ]
    return tuple(found), sum(amount for _, amount in turns)


def _rough(state: RunState, setup: int, of: Characteristic, one: DimensionJudged) -> Iterator[RoughCut]:
    grows = 1 if grows_by_cutting(of) else -1
    for gauging in state.gaugings.values():
        if gauging.rough and gauging.setup == setup and gauging.characteristic == of.number and gauging.value:
            size = float(to_base(gauging.value, of.size.unit))
            yield RoughCut(gauging.piece, size, (one.target - size) * grows)


def _fitted(
    one: DimensionJudged,
    of: Characteristic,
    knob: KnobHere,
    tried: tuple[tuple[Trial, ...], float],
    rough: tuple[RoughCut, ...],
) -> Trials:
    trials, now = tried
    should = knob.gains[one.name]
    xs = [trial.setting_mm - now for trial in trials]
    ys = [trial.size_mm - one.target for trial in trials]
    zone = one.upper - one.lower
    least = max(one.repeatability, one.resolution / sqrt(12))
    scatter = max(zone / SCATTER_OF_ZONE, least)
    prior = scatter**2
    for _ in range(3 if len(trials) >= FEW else 1):
        at, slope, cover = _line(xs, ys, should, scatter)
        if len(trials) >= FEW:
            rest = sum((y - at - slope * x) ** 2 for x, y in zip(xs, ys, strict=True))
            scatter = max(sqrt((PRIOR_TRIALS * prior + rest) / (PRIOR_TRIALS + len(trials) - 2)), least)
    seen, sure = _seen(xs, ys, scatter, should)
    amount = round(-at / slope / knob.increment) * knob.increment if slope else 0.0
    moved = abs(trials[-1].setting_mm - now) > knob.increment / 2
    scatters = len(trials) >= FEW and 2 * Z_80 * scatter > zone
    near = abs(at) <= NEAR_SHARE * zone or not amount
    verdict: Verdict = (
        "effect" if sure else "process" if scatters else "cut" if moved else "leave" if near else "set"
    )
    if verdict != "set":
        amount = 0.0
    expect = at + slope * amount
    reach = Z_80 * sqrt(cover[0] + 2 * amount * cover[1] + amount**2 * cover[2] + scatter**2)
    over = (one.target - trials[-1].size_mm) * (1 if grows_by_cutting(of) else -1)
    ends = (one.target + expect - reach, one.target + expect + reach)
    said = (verdict, now, amount, one.target + expect, *ends)
    return Trials(one, of, knob, trials, rough, *said, slope, scatter, seen, can_be_cut=over > zone / 2)


def _line(
    xs: list[float], ys: list[float], should: float, scatter: float
) -> tuple[float, float, tuple[float, float, float]]:
    """The line through the trials: size at the present setting, slope, and their variances with the covariance between."""
    w, belief = 1 / scatter**2, 1 / (SLOPE_SHARE * should) ** 2
    n, sx = w * len(xs), w * sum(xs)
    sxx = w * sum(x * x for x in xs) + belief
    sy, sxy = w * sum(ys), w * sum(x * y for x, y in zip(xs, ys, strict=True)) + should * belief
    whole = n * sxx - sx * sx
    at, slope = (sy * sxx - sx * sxy) / whole, (n * sxy - sx * sy) / whole
    return at, slope, (sxx / whole, -sx / whole, n / whole)


def _seen(xs: list[float], ys: list[float], scatter: float, should: float) -> tuple[float, bool]:
    """The slope by the trials alone against what it should be, and whether it is surely another one: sign, half or double."""
    middle = fmean(xs)
    spread = sum((x - middle) ** 2 for x in xs)
    if not spread:
        return 0.0, False
    slope = sum((x - middle) * y for x, y in zip(xs, ys, strict=True)) / spread
    share, error = slope / should, scatter / sqrt(spread) / abs(should)
    wrong = share < 0 or 0.35 < share < 0.65 or 1.6 < share < 2.4  # noqa: PLR2004 - sign, radius, diameter
    return share, wrong and abs(share - 1) > SURE * error
