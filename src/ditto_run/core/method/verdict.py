"""Which way wins at the wanted quantity, how sure that is, and why; in one sentence."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import ceil, floor, inf, isfinite

from ditto_run.core.method.chance import Chances, crossing_range, draw, words_of
from ditto_run.core.method.crossings import RUNGS, Rung, best_at, break_even, ladder, payback_batches
from ditto_run.core.method.starting import ONE_OFF
from ditto_run.core.method.totals import WORKDAY_S, CostLine, Measure, line_of, ready_seconds
from ditto_run.core.method.way import Way
from ditto_run.core.money import money_text
from ditto_run.core.part.heading import Purpose
from ditto_run.core.units import capital, counted, span_text

LESSON = 1.5  # a lesson may cost this many times the cheapest way; common practice, no source
CLEAR = 0.8  # share of the draws from which a winner is sure enough to be said plainly


@dataclass(frozen=True, slots=True)
class MethodWanted:
    """What the comparison is for.

    Args:
        quantity: good pieces wanted. [pieces]
        batches: how often it is likely to be made in all. [batches]
        purpose: earn, learn or hurry.
        money: mark before a sum of money.
    """

    quantity: int
    batches: int = 1
    purpose: Purpose = "earn"
    money: str = ""


@dataclass(frozen=True, slots=True)
class Crossing:
    """Where the winner overtakes another way.

    Args:
        other: place of the other way in the list.
        at: quantity of the likely times; where that lies outside the range, the one half of the draws lie below. [pieces]
        low, high: its 80 % range over the same draws; None where one draw in ten never crosses. [pieces]
        pays_from: True if the winner is the better one above it.
    """

    other: int
    at: float
    low: float | None
    high: float | None
    pays_from: bool

    @property
    def pieces(self) -> int:
        """The first whole quantity from which the winner costs no more, or the last up to which, [pieces]."""
        return ceil(self.at - 1e-9) if self.pays_from else floor(self.at + 1e-9)


@dataclass(frozen=True, slots=True)
class RungLine:
    """What is best at one quantity of the ladder.

    Args:
        quantity: pieces.
        way: place of the way in the list.
        total: in words.
        each: for one piece, in words.
    """

    quantity: int
    way: int
    total: str
    each: str


@dataclass(frozen=True, slots=True)
class Payback:
    """When a lasting fixture has paid for itself.

    Args:
        way: place of the way in the list.
        against: place of the way it is compared with.
        batches: batches of the wanted quantity; None if it never does.
        words: in one sentence.
    """

    way: int
    against: int
    batches: float | None
    words: str


@dataclass(frozen=True, slots=True)
class MethodVerdict:
    """The comparison.

    Args:
        measure: what was compared: time, cost or days.
        winner: place of the winning way in the list.
        say: the answer in one sentence.
        why: its reason.
        not_worth_it: True if improving on the plain way does not pay.
        lines: likely line of each way.
        wins: share of the draws each way wins. [-]
        totals: 80 % range of each way's total.
        crossings: where the winner overtakes the others, nearest first.
        rungs: best way over the whole ladder.
        at: best way at 10, 30, 100, 300 and 1,000.
        paybacks: of ways with something lasting.
    """

    measure: Measure
    winner: int
    say: str
    why: str
    not_worth_it: bool
    lines: tuple[CostLine, ...]
    wins: tuple[float, ...]
    totals: tuple[tuple[float, float], ...]
    crossings: tuple[Crossing, ...]
    rungs: tuple[Rung, ...]
    at: tuple[RungLine, ...]
    paybacks: tuple[Payback, ...]


def amount_text(value: float, measure: Measure, mark: str = "") -> str:
    """Return an amount of a measure, [the measure's unit], in words: 5 h 58, 1,234.50, 3.5 working days."""
    if measure == "cost":
        return money_text(value, mark)
    if measure == "time":
        return span_text(value)
    return f"{value:.1f} working days" if value >= 1 else f"{span_text(value * WORKDAY_S)} of work"


def measure_of(ways: Sequence[Way], purpose: Purpose) -> Measure:
    """Return what a purpose is measured by: days to hurry; money to earn or learn, time while a rate is missing."""
    if purpose == "hurry":
        return "days"
    return "cost" if all(way.has_money for way in ways) else "time"


def judge(
    ways: Sequence[Way], wanted: MethodWanted, measure: Measure | None = None, seed: int = 1
) -> MethodVerdict:
    """Return which way wins and why.

    Args:
        ways: one or more.
        wanted: quantity, batches and purpose.
        measure: what to compare by; what the purpose says if None.
        seed: of the draws.

    Source:
        Break-even in closed form; how sure it is by Monte Carlo, see `draw`.
    """
    by = measure or measure_of(ways, wanted.purpose)
    lines = tuple(line_of(way, by) for way in ways)
    chances = draw(ways, by, wanted.quantity, seed)
    cheapest = best_at(lines, wanted.quantity)
    winner = _lesson(ways, lines, wanted, cheapest) if wanted.purpose == "learn" else cheapest
    crossings = _crossings(lines, chances, winner)
    plain = _not_worth_it(ways, lines, winner, wanted)
    return MethodVerdict(
        by,
        winner,
        _say(ways, lines, by, (winner, cheapest), wanted),
        _why(ways, lines, chances, crossings, (winner, cheapest), wanted, by),
        plain,
        lines,
        chances.wins,
        chances.totals,
        crossings,
        ladder(lines),
        _at(lines, by, wanted),
        _paybacks(ways, lines, by, wanted),
    )


def _lesson(ways: Sequence[Way], lines: Sequence[CostLine], wanted: MethodWanted, cheapest: int) -> int:
    """Return the best way that teaches something for the next batch, if it is not too dear."""
    limit = lines[cheapest].at(wanted.quantity) * LESSON
    teaching = [
        i
        for i, way in enumerate(ways)
        if way.kind not in ONE_OFF and not way.is_bought and lines[i].at(wanted.quantity) <= limit
    ]
    return min(teaching, key=lambda i: lines[i].at(wanted.quantity)) if teaching else cheapest


def _crossings(lines: Sequence[CostLine], chances: Chances, winner: int) -> tuple[Crossing, ...]:
    found = []
    for i, line in enumerate(lines):
        at = break_even(lines[winner], line) if i != winner else None
        if at is None:
            continue
        pays_from = lines[winner].each < line.each
        drawn = crossing_range(chances.lines[winner], chances.lines[i], pays_from=pays_from)
        low, high = (end if isfinite(end) else None for end in (drawn.low, drawn.high))
        outside = not drawn.low <= at <= drawn.high and 0 < drawn.at < inf
        found.append(Crossing(i, drawn.at if outside else at, low, high, pays_from))
    return tuple(sorted(found, key=lambda crossing: crossing.at))


def _not_worth_it(ways: Sequence[Way], lines: Sequence[CostLine], winner: int, wanted: MethodWanted) -> bool:
    """Return whether the plain way is done before another would be ready, over all likely batches."""
    if ways[winner].kind not in ONE_OFF or len(ways) == 1:
        return False
    whole = lines[winner].at(wanted.quantity * wanted.batches)
    return all(
        i == winner or line.at(wanted.quantity * wanted.batches) >= whole for i, line in enumerate(lines)
    )


def _second(lines: Sequence[CostLine], winner: int, quantity: int) -> int | None:
    others = [i for i in range(len(lines)) if i != winner]
    return min(others, key=lambda i: lines[i].at(quantity), default=None)


def _say(
    ways: Sequence[Way], lines: Sequence[CostLine], by: Measure, places: tuple[int, int], wanted: MethodWanted
) -> str:
    winner, cheapest = places
    second = _second(lines, winner, wanted.quantity)
    name = capital(ways[winner].name)
    if second is None:
        return f"{name}: {amount_text(lines[winner].at(wanted.quantity), by, wanted.money)} in all."
    if winner != cheapest:
        more = lines[winner].at(wanted.quantity) - lines[cheapest].at(wanted.quantity)
        return f"{name}: the lesson costs {amount_text(more, by, wanted.money)}."
    less = lines[second].at(wanted.quantity) - lines[winner].at(wanted.quantity)
    word = {"time": "less", "cost": "less", "days": "sooner"}[by]
    return f"{name}: {amount_text(less, by, wanted.money)} {word}."


def _why(  # noqa: PLR0913, PLR0917 - one sentence that needs all of it
    ways: Sequence[Way],
    lines: Sequence[CostLine],
    chances: Chances,
    crossings: tuple[Crossing, ...],
    places: tuple[int, int],
    wanted: MethodWanted,
    by: Measure,
) -> str:
    winner, cheapest = places
    second = _second(lines, winner, wanted.quantity)
    if second is None:
        return "There is nothing to compare it with yet."
    if winner != cheapest:
        return f"You asked to learn: {ways[cheapest].name} would be the cheapest now, {ways[winner].name} serves the next batch too."
    sure = f"It wins {words_of(chances.wins[winner])}."
    if _not_worth_it(ways, lines, winner, wanted):
        return f"{_over_before(ways, lines, winner, wanted, by)} {sure}"
    nearest = next((c for c in crossings if c.other == second), None)
    if nearest is None:
        return f"It is the better one at every quantity. {sure}"
    return f"{_pays(nearest, wanted)} {sure}"


def _over_before(
    ways: Sequence[Way], lines: Sequence[CostLine], winner: int, wanted: MethodWanted, by: Measure
) -> str:
    """Return why improving is not worth it: the job is over first, or there are too few pieces."""
    slow = max(range(len(ways)), key=lambda i: ready_seconds(ways[i]))
    whole_s = lines[winner].at(wanted.quantity) * (WORKDAY_S if by == "days" else 1)
    if by != "cost" and ready_seconds(ways[slow]) > whole_s:
        return f"Improving is not worth it: the job is over before the {ways[slow].name} is ready."
    return f"Improving is not worth it at {counted(wanted.quantity * wanted.batches, 'piece')}."


def _pays(crossing: Crossing, wanted: MethodWanted) -> str:
    word = "It pays from" if crossing.pays_from else "It pays up to"
    if crossing.low is None:
        return f"{word} {counted(crossing.pieces, 'piece')} if the likely times hold; how sure that is cannot be said."
    if crossing.high is None:
        unsure = "never" if crossing.pays_from else "always"
        return f"{word} about {counted(crossing.pieces, 'piece')}, in 1 of 10 cases from {crossing.low:.0f}, in more than 1 of 10 {unsure}."
    clear = not crossing.low <= wanted.quantity <= crossing.high
    where = "clear of it" if clear else "too near to be sure"
    return f"{word} {counted(crossing.pieces, 'piece')}, in 8 of 10 cases {crossing.low:.0f} to {crossing.high:.0f}: {wanted.quantity} is {where}."


def _at(lines: Sequence[CostLine], by: Measure, wanted: MethodWanted) -> tuple[RungLine, ...]:
    found = []
    for quantity in RUNGS:
        best = best_at(lines, quantity)
        total = lines[best].at(quantity)
        each = (
            amount_text(total / quantity, by, wanted.money)
            if by == "cost"
            else f"{total / quantity / 60:.1f} min"
            if by == "time"
            else ""
        )
        found.append(RungLine(quantity, best, amount_text(total, by, wanted.money), each))
    return tuple(found)


def _paybacks(
    ways: Sequence[Way], lines: Sequence[CostLine], by: Measure, wanted: MethodWanted
) -> tuple[Payback, ...]:
    """Compare each way that makes something lasting with the one that makes least that lasts."""
    own = [i for i in range(len(ways)) if not ways[i].is_bought]
    if by == "days" or not own:
        return ()
    against = min(own, key=lambda i: (lines[i].lasting, lines[i].at(wanted.quantity)))
    found = []
    for i in own:
        extra = lines[i].lasting - lines[against].lasting
        if extra <= 0:
            continue
        saving = (lines[against].at(wanted.quantity) - lines[against].lasting) - (
            lines[i].at(wanted.quantity) - lines[i].lasting
        )
        batches = payback_batches(extra, saving)
        made = f"{amount_text(extra, by, wanted.money)} more of lasting work"
        if batches is None:
            words = f"{capital(ways[i].name)}: {made} never comes back at {wanted.quantity} a batch."
        else:
            likely = "likely" if batches <= wanted.batches else f"more than the {wanted.batches} expected"
            words = f"{capital(ways[i].name)}: {made} has paid after {batches:.1f} batches of {wanted.quantity}, {likely}."
        found.append(Payback(i, against, batches, words))
    return tuple(found)
