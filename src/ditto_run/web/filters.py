"""How values look in templates. No arithmetic here beyond choosing words."""

import re
from collections.abc import Callable, Iterable, Mapping
from datetime import date, datetime
from decimal import Decimal
from typing import Any

from ditto_run.core.entry.quantity import in_system, mark_of
from ditto_run.core.hold import Setup
from ditto_run.core.method import amount_text
from ditto_run.core.method.resting import resting_text
from ditto_run.core.method.starting import Start
from ditto_run.core.method.way import Way
from ditto_run.core.money import money_text
from ditto_run.core.part import Characteristic, Finish
from ditto_run.core.place.offsets import axis_text
from ditto_run.core.place.worth import Cycle
from ditto_run.core.run import Body, RunState
from ditto_run.core.run.after_finish import after_finish_words
from ditto_run.core.run.events import sentence
from ditto_run.core.run.proof_of_size import not_proved
from ditto_run.core.run.state import Gauging
from ditto_run.core.run.warm import warm_words
from ditto_run.core.run.words import ranges_text
from ditto_run.core.sheets import StockSize
from ditto_run.core.shop import codes_text
from ditto_run.core.sizes import limits_text, size_text, understood
from ditto_run.core.units import (
    LengthUnit,
    Unit,
    bare_length,
    bare_text,
    capital,
    clock_text,
    convert,
    counted,
    day_text,
    length_text,
    number_text,
    rounded,
    span_text,
    tidy,
    with_article,
)
from ditto_run.desk.gate import Open
from ditto_run.desk.plans import JobRef
from ditto_run.web.drawings.layout import own
from ditto_run.web.questions.words import does_of, form_of

DAYS_IN_WEEK = 7


def clock(moment: datetime | None) -> str:
    """Return a moment as a clock time: 12:45."""
    return "" if moment is None else moment.astimezone().strftime("%H:%M")


def moment(at: datetime, now: datetime) -> str:
    """Return a moment to come as a clock time, with its day if that is another: 12:45; Thu 12:45; Thu 4 Dec 12:45."""
    here, today = at.astimezone(), now.astimezone().date()
    away = (here.date() - today).days
    if not away:
        return clock(at)
    return (
        f"{here:%a} {clock(at)}" if 0 < away < DAYS_IN_WEEK else f"{here:%a} {here.day} {here:%b} {clock(at)}"
    )


def between(ends: tuple[datetime, datetime], at: datetime, now: datetime) -> str:
    """Return two moments about another; their day is said only where it is not that of the one between them."""
    own = at.astimezone().date()
    return " to ".join(clock(end) if end.astimezone().date() == own else moment(end, now) for end in ends)


def open_words(found: Open) -> str:
    """Return how many things are open, in one sentence."""
    count = len(found.wanted)
    if count:
        return f"{count} open before Run."
    return "Nothing that was checked is open." if found.not_begun else "Nothing is open."


def yields_words(found: Open) -> str:
    """Return to what the open things yield: 1 never yields, 2 yield to a note with initials, 4 to a note.

    Where nobody has looked at a step yet, that is said as well: nothing was checked there.
    """
    said = []
    never, initials, note = (found.counted(yields) for yields in ("never", "initials", "note"))
    if never:
        said.append(f"{never} never {'yields' if never == 1 else 'yield'}")
    if initials:
        said.append(f"{initials} {'yields' if initials == 1 else 'yield'} to a note with initials")
    if note:
        said.append(
            f"{note} {'yields' if note == 1 else 'yield'} to a note" if not initials else f"{note} to a note"
        )
    if found.standing:
        said.append(f"{len(found.standing)} let stand")
    words = f"{', '.join(said)}." if said else ""
    if found.not_begun:
        steps = " and ".join(found.not_begun) if len(found.not_begun) < 3 else ", ".join(found.not_begun)  # noqa: PLR2004
        words = f"{words} Nobody has looked at {steps} yet."
    return words.strip() or "Every check of every step was asked."


def day(moment: datetime | date | None) -> str:
    """Return a day so that nobody can read it as another: 24 Nov 2026."""
    return "" if moment is None else day_text(moment)


def plain(value: Decimal | None) -> str:
    """Return a number as typed into a field: plain minus sign, nothing for None."""
    return "" if value is None else f"{value:f}"


def typed_mm(value: Decimal | None) -> str:
    """Return a length as typed into a field, its unit with it; nothing for None."""
    return "" if value is None else f"{value.normalize():f} mm"


def typed_cents(cents: int) -> str:
    """Return money as typed into a field; nothing for nothing."""
    return f"{cents // 100}.{cents % 100:02d}" if cents else ""


def typed_time(seconds: float) -> str:
    """Return a time as typed into a field; empty for none."""
    return clock_text(seconds) if seconds else ""


def zip_names(numbers: Iterable[int], register: Mapping[int, Any]) -> list[tuple[int, str]]:
    """Return number and name of each thing of a register, for a list to choose from."""
    return [(number, str(register[number].name)) for number in numbers]


def axis(value: Decimal, name: str, unit: LengthUnit) -> str:
    """Return an axis of an offset as the control shows it."""
    return axis_text(name, value, unit)


def near(value_mm: Decimal, unit: LengthUnit) -> str:
    """Return where an offset is expected, in the control's unit, one decimal less than it shows."""
    return bare_text(convert(value_mm, "mm", unit), unit, 3 if unit == "in" else 1)


def in_unit(value_mm: Decimal, unit: LengthUnit) -> str:
    """Return a length as a control shows it: four decimals in inches, three in millimetres."""
    return bare_text(convert(value_mm, "mm", unit), unit, 4 if unit == "in" else 3)


def setup_option(setup: Setup | Finish | Way | StockSize | Cycle) -> tuple[int, str]:
    """Return key and name of a setup, a finish, a way or a stock size, for a list to choose from."""
    return setup.key, setup.name


def size_option(c: Characteristic) -> tuple[int, str]:
    """Return number and name of a characteristic, for a list to choose from."""
    return c.number, c.name


def rests(way: Way, field: str) -> str:
    """Return what a figure of a way rests on, in a word or two; empty where it was typed."""
    rest = way.rest_of(field)
    if rest is None:
        return ""
    word = "usual" if rest.origin == "practice" else rest.origin
    return f"{word}: {rest.of}" if rest.of else word


def start_option(start: Start) -> tuple[str, str]:
    """Return kind and word of a starting point, for a list to choose from."""
    return start.kind, start.word


def slug(text: str) -> str:
    """Return a text as part of an element's id: letters, digits, dashes and underlines only."""
    return re.sub(r"[^a-z0-9_-]+", "-", text.lower())[:80]


def pairs(names: Iterable[str]) -> list[tuple[str, str]]:
    """Return each name as a choice that is called by itself."""
    return [(name, name) for name in names]


def line_words(body: Body, state: RunState, seq: int) -> str:
    """Return a line of the log in words."""
    return sentence(body, state, seq)


def figure(value: float | Decimal | None, unit: Unit, decimals: int) -> str:
    """Return a worked-out figure with so many decimals; a dash for none."""
    if value is None:
        return "–"
    return bare_text(value if isinstance(value, Decimal) else Decimal(repr(value)), unit, decimals)


def reading_text(gauging: Gauging, characteristic: Characteristic) -> str:
    """Return a reading in the drawing's unit with the decimals it was typed with."""
    if gauging.value is None:
        return gauging.text
    size = characteristic.size
    return bare_text(gauging.value, size.unit, max(size.decimals, gauging.decimals))


def film_text(value_um: Decimal, unit: LengthUnit) -> str:
    """Return a film as it is typed again, with its unit."""
    own = value_um if unit == "mm" else rounded(value_um / Decimal("25.4"), 4)
    return f"{plain(own.normalize())} {mark_of('film', unit)}"


def films(ends_um: tuple[Decimal, Decimal], unit: LengthUnit) -> tuple[str, str]:
    """Return a range of build-up in the job's unit, and in the other one: 8.0 to 12.0 µm, 0.31 to 0.47 thou."""
    other: LengthUnit = "in" if unit == "mm" else "mm"
    first, second = (
        f"{' to '.join(in_system('film', end, one) for end in ends_um)} {mark_of('film', one)}"
        for one in (unit, other)
    )
    return first, second


def typed_length(value_mm: Decimal | None, unit: LengthUnit) -> str:
    """Return a length as it is typed into a field, in the drawing's unit; nothing for None."""
    return "" if value_mm is None else plain(tidy(convert(value_mm, "mm", unit)).normalize())


def straps_typed(straps: Iterable[tuple[str, Decimal]], unit: LengthUnit) -> str:
    """Return how far clamps reach as it is typed."""
    return "; ".join(f"{face} {typed_length(reach, unit)}" for face, reach in straps)


def in_part(job: int, part: int) -> str:
    """Return how a job is named in an address that looks at one of its parts."""
    return str(JobRef(int(job), part))


FILTERS: dict[str, Callable[..., object]] = {
    "in_part": in_part,
    "axis": axis,
    "near": near,
    "in_unit": in_unit,
    "own": own,
    "clock": clock,
    "moment": moment,
    "between": between,
    "open_words": open_words,
    "yields_words": yields_words,
    "numbers": ranges_text,
    "day": day,
    "plain": plain,
    "typed_time": typed_time,
    "typed_mm": typed_mm,
    "typed_length": typed_length,
    "straps_typed": straps_typed,
    "bare_length": bare_length,
    "length_said": length_text,
    "typed_cents": typed_cents,
    "money": money_text,
    "amount": amount_text,
    "mss": clock_text,
    "span": span_text,
    "number": number_text,
    "capital": capital,
    "counted": counted,
    "film_text": film_text,
    "films": films,
    "mark_of": mark_of,
    "with_article": with_article,
    "size_text": size_text,
    "limits": limits_text,
    "understood": understood,
    "codes": codes_text,
    "zip_names": zip_names,
    "pairs": pairs,
    "slug": slug,
    "line_words": line_words,
    "figure": figure,
    "reading_text": reading_text,
    "setup_option": setup_option,
    "size_option": size_option,
    "start_option": start_option,
    "rests": rests,
    "form": form_of,
    "does": does_of,
    "resting": resting_text,
    "not_proved": not_proved,
    "warm_words": warm_words,
    "after_finish": after_finish_words,
}
