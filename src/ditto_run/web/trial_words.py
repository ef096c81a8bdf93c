"""The trials of a dimension in words: what to set next, what comes of it, and why."""

from dataclasses import dataclass
from decimal import Decimal

from ditto_run.core.plan import Plan
from ditto_run.core.run import RunState
from ditto_run.core.run.advised import turn_words
from ditto_run.core.run.judged import terms_of
from ditto_run.core.run.trials import Z_80, Trials, trials_of
from ditto_run.core.shop import Machine
from ditto_run.core.units import LengthUnit, convert, length_text, number_text, small_mm_text
from ditto_run.desk import Desk

TWICE = 2
ORDER = ("effect", "process", "set", "cut", "leave")


@dataclass(frozen=True, slots=True)
class TrialWords:
    """The trials of a dimension in words.

    Args:
        found: them.
        say: what to do now, in a sentence.
        quiet: what comes of it.
        amount, unit: of a turn, as it is written down; empty for none.
        why: sentences.
    """

    found: Trials
    say: str
    quiet: str
    amount: str
    unit: LengthUnit
    why: tuple[str, ...]

    def dialled(self, mm: float) -> str:
        """Return an amount as the knob shows it."""
        value = convert(Decimal(repr(round(mm, 6))), "mm", self.unit)
        return (
            f"{'+' if value > 0 else '−' if value < 0 else ''}{abs(value):.{4 if self.unit == 'in' else 3}f}"
        )

    def size(self, mm: float) -> str:
        """Return a size as the drawing's unit writes it, without it."""
        unit = self.found.of.size.unit
        value = convert(Decimal(repr(round(mm, 6))), "mm", "in" if unit == "in" else "mm")
        return number_text(value, 4 if unit == "in" else 3)

    def off(self, mm: float) -> str:
        """Return how far a size is from the middle of its limits."""
        off = mm - self.found.dimension.target
        unit: LengthUnit = "in" if self.found.of.size.unit == "in" else "mm"
        return (
            f"{'+' if off > 0 else '−'}{small_mm_text(abs(off), unit).split(' (')[0]}"
            if round(off, 6)
            else "0"
        )


def all_trials(desk: Desk, state: RunState) -> list[TrialWords]:
    """Return the trials of the cycle that is looked at in words, those that want something first."""
    shop = desk.shop.load()
    machine = shop.machines.get(state.plan.cycle(state.cycle).machine_id or 0)
    found = [
        _worded(one, state.plan, machine)
        for setup in state.here.setups
        for one in trials_of(state, setup, machine, shop.gauges)
    ]
    return sorted(found, key=lambda one: ORDER.index(one.found.verdict))


def _worded(one: Trials, plan: Plan, machine: Machine | None) -> TrialWords:
    name, unit = one.of.name, plan.heading.unit
    terms, _ = terms_of(plan, machine)
    low, high, expect = (
        length_text(mm, unit).split(" (")[0] for mm in (one.low_mm, one.high_mm, one.expect_mm)
    )
    next_one = f"4 of 5 come out {low} to {high}."
    say, amount = "", ""
    quiet = next_one
    if one.verdict == "set":
        say, amount, terms = turn_words(one.knob, one.amount_mm, name, plan, machine)
        quiet = f"Then cut the next piece; expect {expect}."
    elif one.verdict == "cut" and not one.trials:
        say, quiet = f"Cut the {name} again, and measure it.", "A reading in mid-cut judges nothing."
    elif one.verdict == "cut":
        say, quiet = f"Cut the next piece; the {one.knob.what} was moved.", f"Expect {expect}."
    elif one.verdict == "leave":
        off = small_mm_text(abs(one.expect_mm - one.dimension.target), unit)
        say = (
            f"Leave it: the {name} is {off} from the middle."
            if round(one.expect_mm - one.dimension.target, 6)
            else f"Leave it: the {name} is in the middle."
        )
    elif one.verdict == "process":
        say = "Change the process, not the setting."
        scatter, zone = (small_mm_text(mm, unit) for mm in (2 * Z_80 * one.scatter_mm, one.zone_mm))
        quiet = f"The trials of the {name} scatter by {scatter}, and its limits are {zone} apart."
    else:
        say, quiet = _effect(one)
    return TrialWords(one, say, quiet, amount, terms, _why(one, plan, next_one))


def _effect(one: Trials) -> tuple[str, str]:
    if one.seen < 0:
        return (
            f"Look at the sign: the {one.of.name} went the other way.",
            f"The {one.knob.what} was dialled one way, and it moved the other by the trials alone.",
        )
    share = "twice" if one.seen > 1 else "half"
    return (
        f"Look at the {one.knob.what}: the {one.of.name} moved {share} of what was dialled.",
        "Radius for diameter, or Shop has the machine’s wear the wrong way.",
    )


def _why(one: Trials, plan: Plan, next_one: str) -> tuple[str, ...]:
    unit = plan.heading.unit
    found = [next_one] if one.verdict == "set" else []
    if len(one.trials) > 1 and one.seen:
        found.append(
            f"By the trials alone the {one.of.name} moved {one.seen:.2f} of what the knob should do."
        )
    again = next((trial for trial in reversed(one.trials) if trial.times > 1), None)
    if again is not None:
        often = f"{again.times} times" if again.times > TWICE else "twice"
        apart, zone = (small_mm_text(mm, unit) for mm in (again.apart_mm, one.zone_mm))
        found.append(f"Trial {again.number} was gauged {often}: {apart} apart; the limits are {zone}.")
    if one.trials:
        last = one.trials[-1]
        out = not one.dimension.lower <= last.size_mm <= one.dimension.upper
        if out:
            found.append(
                f"Piece {last.piece} can be cut again: {small_mm_text(abs(last.size_mm - one.dimension.target), unit)} are left on it."
                if one.can_be_cut
                else f"Piece {last.piece} is past it and cannot be cut again."
            )
    return tuple(found)
