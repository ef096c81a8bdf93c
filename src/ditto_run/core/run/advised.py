"""What the judgement says now, in the words of the run: gauge this, leave it, turn one knob, try the gauge, stop and look."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from decimal import Decimal
from math import ceil
from typing import Literal

from ditto_run.core.plan import Plan
from ditto_run.core.run.at_machine import often_words
from ditto_run.core.run.contained import Suspects, suspects_of
from ditto_run.core.run.judge.decide import Decider
from ditto_run.core.run.judge.history import Advice, GaugeThese, LeaveIt, StopAndLook, TryGauge, TurnKnob
from ditto_run.core.run.judge.reasons import sentence
from ditto_run.core.run.judged import HistoryHere, Keeper, KnobHere, judged_in, terms_of, to_mm
from ditto_run.core.run.state import RunState
from ditto_run.core.run.turn_seen import turn_seen
from ditto_run.core.run.when_due import GaugeWhen, when_due
from ditto_run.core.shop import Gauge, Machine
from ditto_run.core.shop.costs import NO_COSTS, ShopCosts
from ditto_run.core.units import LengthUnit, capital, convert, small_mm_text

Kind = Literal["hold", "recheck", "gauge", "turn", "leave", "check_gauge", "stop"]
MOST_NAMED = 4  # pieces in a sentence


@dataclass(frozen=True, slots=True)
class Advised:
    """One advice in words.

    Args:
        kind: what it is.
        say: the sentence.
        why: its reason.
        setup: key of the setup it is about.
        gauge: pieces and dimensions to gauge, by their numbers.
        what, amount, unit, station: of a turn, as it is written down; the amount in the unit of the control.
        characteristic: number of the dimension whose gauge is tried; 0 for none.
        next_load: up to which load it is left; 0 where it is not.
        failed: piece that is out, of a recheck or a hold; 0 for none.
        warns: what the last turn did otherwise than it should; empty for nothing.
    """

    kind: Kind
    say: str
    why: str
    setup: int
    gauge: tuple[tuple[int, int], ...] = ()
    what: str = ""
    amount: str = ""
    unit: LengthUnit = "mm"
    station: str = ""
    characteristic: int = 0
    next_load: int = 0
    failed: int = 0
    warns: str = ""


class Mind:
    """The judgement of a setup, remembering what it has worked out; a fresh one says the same.

    Args:
        setup: its key.
    """

    def __init__(self, setup: int) -> None:
        self.setup = setup
        self._keeper = Keeper(setup)
        self._of = -1  # which reading of the log the judgement has remembered
        self._last: tuple[tuple[int, ...], Advice] | None = None  # what was written down, what was said

    def advise(
        self,
        state: RunState,
        machine: Machine | None,
        gauges: Mapping[int, Gauge],
        shop: ShopCosts = NO_COSTS,
    ) -> Advised | None:
        """Return what to do now by all that was written down of the setup; None where nothing can be judged yet.

        It is asked once the first load was gauged and its piece accepted. A load that was not gauged since is judged by what
        was said after the last reading, as far as that reached.

        Args:
            state: the run, looked at from the cycle of the setup.
            machine: it is cut on; None while nobody said it.
            gauges: of the register, by number.
            shop: what things cost in it.

        Source:
            `judge.decide`; the log in its terms by own derivation.
        """
        setup = self.setup
        if state.closed_at is not None or setup not in state.here.masters or not judged_in(state, setup):
            return None
        history = self._keeper.history(state, machine, gauges, shop)
        if history is None or not history.readings or not history.pieces_done:
            return None
        found = self._said(state, history, machine)
        warns = turn_seen(history)
        return replace(found, warns=warns) if warns else found

    def gauging(
        self,
        state: RunState,
        machine: Machine | None,
        gauges: Mapping[int, Gauge],
        shop: ShopCosts = NO_COSTS,
    ) -> tuple[GaugeWhen, ...]:
        """Return when each dimension is worth a reading at each station; nothing before the first piece is accepted.

        Args:
            state: the run, looked at from the cycle of the setup.
            machine: it is cut on; None while nobody said it.
            gauges: of the register, by number.
            shop: what things cost in it.

        Source:
            `judge.decide`.
        """
        if state.closed_at is not None or self.setup not in state.here.masters:
            return ()
        history = self._keeper.history(state, machine, gauges, shop)
        if history is None or not history.readings or not history.pieces_done:
            return ()
        self._go_on()
        spoken = history.spoken
        past = history if spoken == history.pieces_done else history.until(spoken)
        return when_due(state, history, self._decider.intervals(past))

    def _said(self, state: RunState, history: HistoryHere, machine: Machine | None) -> Advised:
        self._go_on()
        setup = self.setup
        suspects = suspects_of(state, history, setup)
        if suspects is not None:
            return _suspected(suspects, history, setup)
        now, spoken, written = history.pieces_done, history.spoken, history.written
        if spoken < now:
            last = self._last
            known = last is not None and last[0] == (spoken, *written)
            before = last[1] if last is not None and known else self._asked(history.until(spoken), spoken)
            if isinstance(before, LeaveIt) and before.next_check > now:
                return _in_words(before, state, setup, history, machine, now)
        return _in_words(self._asked(history, now), state, setup, history, machine, now)

    def _go_on(self) -> None:
        """Forget what was worked out of a log that was read anew since."""
        if self._of != self._keeper.begun:
            self._decider, self._last, self._of = Decider(), None, self._keeper.begun

    def _asked(self, history: HistoryHere, now: int) -> Advice:
        found = self._decider.decide(history)
        self._last = ((now, *history.written), found)
        return found


def _in_words(
    advice: Advice, state: RunState, setup: int, history: HistoryHere, machine: Machine | None, now: int
) -> Advised:
    unit = state.plan.heading.unit

    def length(mm: float) -> str:
        return small_mm_text(Decimal(repr(round(abs(mm), 6))), unit)

    why = sentence(advice.reason, length)
    why = capital(why)
    if isinstance(advice, GaugeThese):
        what = tuple((history.numbers[piece - 1], history.of[name].number) for piece, name in advice.what)
        pieces = list(dict.fromkeys(piece for piece, _ in what))
        names = list(dict.fromkeys(history.of[name].name for _, name in advice.what))
        return Advised("gauge", f"Gauge {_listed(names)} on {_pieces(pieces)}.", why, setup, what)
    if isinstance(advice, TurnKnob):
        return _turn(advice, why, state, setup, history, machine)
    if isinstance(advice, TryGauge):
        c = history.of[advice.reason.dimension]
        return Advised(
            "check_gauge",
            f"Try the gauge of the {c.name} on its master.",
            why,
            setup,
            characteristic=c.number,
        )
    if isinstance(advice, StopAndLook):
        label = history.labels[advice.station - 1] if advice.station else ""
        pieces = [history.numbers[piece - 1] for piece in advice.suspects]
        what = tuple((piece, c.number) for piece in pieces for c in history.of.values())
        where = f"station {label}" if label else "every station"
        suspects = f" Then gauge {_pieces(pieces)}." if pieces else ""
        return Advised(
            "stop", f"Stop, and look at what holds at {where}.{suspects}", why, setup, what, station=label
        )
    return _leave(advice.next_check, why, state, setup, history, now)


def _leave(until: int, why: str, state: RunState, setup: int, history: HistoryHere, now: int) -> Advised:
    """Leave it until a load; what the plan asks stands beside it, as the other school."""
    ahead = max(ceil((until - now) / max(history.job.stations, 1)), 1)
    load = (state.here.loads[-1].number if state.here.loads else 0) + ahead
    say = "Leave it to the end." if until >= history.job.pieces else f"Leave it; gauge after load {load}."
    every = min(state.sampling(c.number) for c in history.of.values())
    return Advised("leave", say, f"{why} By the plan: {often_words(every)}.", setup, next_load=load)


def _suspected(suspects: Suspects, history: HistoryHere, setup: int) -> Advised:
    """What to do about the pieces behind one that is out."""
    name = next(c.name for c in history.of.values() if c.number == suspects.dimension)
    if suspects.recheck:
        say = f"Gauge the {name} on piece {suspects.recheck} next: piece {suspects.failed} is out."
        return Advised(
            "recheck",
            say,
            suspects.why,
            setup,
            ((suspects.recheck, suspects.dimension),),
            failed=suspects.failed,
        )
    pieces = list(suspects.hold)
    say = f"Hold {_pieces(pieces)}: cut like piece {suspects.failed}, which is out."
    what = tuple((piece, suspects.dimension) for piece in pieces)
    return Advised("hold", say, suspects.why, setup, what, failed=suspects.failed)


def _turn(
    turn: TurnKnob, why: str, state: RunState, setup: int, history: HistoryHere, machine: Machine | None
) -> Advised:
    knob = next(one for one in history.job.knobs if one.name == turn.knob)
    say, amount, unit = turn_words(
        knob, turn.amount, history.of[next(iter(knob.gains))].name, state.plan, machine
    )
    return Advised("turn", say, why, setup, what=knob.what, amount=amount, unit=unit, station=knob.label)


def turn_words(
    knob: KnobHere, amount_mm: float, name: str, plan: Plan, machine: Machine | None
) -> tuple[str, str, LengthUnit]:
    """Return a turn in the terms of the control, or of a dial: the sentence, the amount as it is written down, its unit.

    Args:
        knob: that is turned.
        amount_mm: to add. [mm]
        name: of a dimension that it moves.
        plan: the run's.
        machine: it is cut on; None while nobody said it.
    """
    unit, step = terms_of(plan, machine)
    shown = ((convert(to_mm(amount_mm), "mm", unit) / step).to_integral_value() * step).quantize(step)
    text = f"{'+' if shown > 0 else '−'}{abs(shown):f}"
    where = f" at station {knob.label}" if knob.label else ""
    if machine is not None and not machine.is_manual:
        return f"Add {text} {unit} to the {knob.what}{where}.", f"{shown:f}", unit
    # which way a dial counts is not known; which way the size has to go is
    gain = next(iter(knob.gains.values()))
    way = "larger" if (shown > 0) == (gain > 0) else "smaller"
    say = f"Make the {name} {abs(shown):f} {unit} {way}{where}, by its dial or stop."
    return say, f"{shown:f}", unit


def _pieces(pieces: list[int]) -> str:
    shown = ", ".join(map(str, pieces[:MOST_NAMED]))
    more = f" and {len(pieces) - MOST_NAMED} more" if len(pieces) > MOST_NAMED else ""
    return f"{'piece' if len(pieces) == 1 else 'pieces'} {shown}{more}"


def _listed(names: list[str]) -> str:
    return f"the {names[0]}" if len(names) == 1 else f"the {', '.join(names[:-1])} and {names[-1]}"
