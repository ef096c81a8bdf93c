"""The day of the shop: when it begins and ends, its breaks, the days it works."""

import re
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime, timedelta
from itertools import pairwise
from typing import Literal

from ditto_run.core.errors import BadEntry

Days = Literal["5", "6", "7"]
DAYS_WORDS: dict[Days, str] = {"5": "Monday to Friday", "6": "Monday to Saturday", "7": "every day"}
CLOCK = r"([01]?\d|2[0-3])[:.h]([0-5]\d)"
HOURS = re.compile(rf"{CLOCK} *(?:to|until|-|–) *{CLOCK}")
BREAK = re.compile(rf"{CLOCK} *(?:for|,)? *(\d{{1,3}})(?: *(?:min|m|minutes))?")
MOST_BREAKS = 8
LONGEST_MIN = 180
WEEKS = 60  # that are looked ahead at most


@dataclass(frozen=True, slots=True)
class Pause:
    """A time in which nobody works: its beginning, how long, [s]."""

    start: datetime
    seconds: float


@dataclass(frozen=True, slots=True)
class ShopDay:
    """When the shop works; nothing while nobody said it.

    Args:
        begins, ends: minutes after midnight; both None while not known. [min]
        breaks: beginning of each after midnight, and how long. [min]
        days: 5, 6 or 7 a week, from Monday.
    """

    begins: int | None = None
    ends: int | None = None
    breaks: tuple[tuple[int, int], ...] = ()
    days: Days = "5"

    @property
    def hours_text(self) -> str:
        """The hours as they are typed: 7:00 to 16:00."""
        if self.begins is None or self.ends is None:
            return ""
        return f"{_clock(self.begins)} to {_clock(self.ends)}"

    @property
    def breaks_text(self) -> str:
        """The breaks as they are typed: 9:00 15, 12:00 45."""
        return ", ".join(f"{_clock(at)} {long}" for at, long in self.breaks)

    def works_on(self, at: datetime) -> bool:
        """True if the shop works on the day of a moment."""
        return at.weekday() < int(self.days)

    def end_of(self, at: datetime) -> datetime | None:
        """Return when the shop's day ends, of a moment's own day; None while not known, or where it does not work."""
        if self.ends is None or not self.works_on(at.astimezone()):
            return None
        return _at(at, self.ends)

    def pauses(self, since: datetime, until: datetime) -> Iterator[Pause]:
        """Give the breaks, nights and days off that begin or last between two moments, oldest first.

        Args:
            since: the earlier one, with its time zone.
            until: the later one.
        """
        day = since.astimezone() - timedelta(days=1)
        last = until.astimezone()
        for n in range(WEEKS * 7 + 2):
            one = day + timedelta(days=n)
            if one.date() > last.date():
                return
            for pause in self._of_day(one):
                if pause.start < until and pause.start + timedelta(seconds=pause.seconds) > since:
                    yield pause

    def _of_day(self, one: datetime) -> Iterator[Pause]:
        if not self.works_on(one):
            return  # it lies in the night before
        for at, long in self.breaks:
            yield Pause(_at(one, at), 60.0 * long)
        if self.begins is None or self.ends is None:
            return
        ends, then = _at(one, self.ends), one + timedelta(days=1)
        while not self.works_on(then):
            then += timedelta(days=1)
        begins = _at(then, self.begins)
        if begins > ends:
            yield Pause(ends, (begins - ends).total_seconds())

    def after(self, at: datetime, seconds: float) -> datetime:
        """Return when so much work is done that goes on from a moment, with the pauses between; beyond what is looked ahead without them.

        Args:
            at: when it goes on.
            seconds: of work. [s]
        """
        end = at + timedelta(seconds=seconds)
        for pause in self.pauses(at, at + timedelta(weeks=WEEKS)):
            if pause.start >= end:
                break
            left = (pause.start + timedelta(seconds=pause.seconds) - max(pause.start, at)).total_seconds()
            end += timedelta(seconds=left)
        return end

    def between(self, at: datetime, until: datetime) -> float:
        """Return how long is worked from one moment to another, pauses left out; 0 where the other is earlier, [s].

        Args:
            at: the one.
            until: the other.
        """
        if until <= at:
            return 0.0
        out = 0.0
        for pause in self.pauses(at, until):
            begins, ends = max(pause.start, at), min(pause.start + timedelta(seconds=pause.seconds), until)
            out += max((ends - begins).total_seconds(), 0.0)
        return max((until - at).total_seconds() - out, 0.0)


def read_day(hours: str, breaks: str, days: str) -> ShopDay:
    """Return the day of the shop as typed.

    Args:
        hours: 7:00 to 16:00; empty while not known.
        breaks: 9:00 15, 12:00 45: when, and how many minutes; empty for none.
        days: 5, 6 or 7.

    Raises:
        BadEntry: at the field that cannot be read, or whose times do not follow each other.
    """
    begins = ends = None
    if hours.strip():
        found = HOURS.fullmatch(hours.strip().lower())
        if found is None:
            raise BadEntry(
                f"“{hours.strip()[:40]}” is not from when to when.", "Type it as 7:00 to 16:00.", "hours"
            )
        begins, ends = _minutes(found[1], found[2]), _minutes(found[3], found[4])
        if ends <= begins:
            raise BadEntry(
                "The day ends before it begins.",
                "Type it as 7:00 to 16:00; a shift over midnight is left empty.",
                "hours",
            )
    which: Days = "7" if days == "7" else "6" if days == "6" else "5"
    return ShopDay(begins, ends, _breaks(breaks, begins, ends), which)


def _breaks(text: str, begins: int | None, ends: int | None) -> tuple[tuple[int, int], ...]:
    found = []
    for part in filter(None, (one.strip() for one in re.split(r"[;,](?=\s*\d{1,2}[:.h])|\n", text.lower()))):
        match = BREAK.fullmatch(part)
        if match is None:
            raise BadEntry(
                f"“{part[:40]}” is not a break.",
                "Type when and how many minutes: 9:00 15, 12:00 45.",
                "breaks",
            )
        at, long = _minutes(match[1], match[2]), int(match[3])
        if not 0 < long <= LONGEST_MIN:
            raise BadEntry(
                f"A break of {long} min is not possible.", f"Type 1 to {LONGEST_MIN} minutes.", "breaks"
            )
        if (begins is not None and at < begins) or (ends is not None and at + long > ends):
            raise BadEntry(
                f"The break at {_clock(at)} is outside the day.", "Change it, or the hours.", "breaks"
            )
        found.append((at, long))
    found.sort()
    for (at, long), (then, _) in pairwise(found):
        if then < at + long:
            raise BadEntry(
                f"The breaks at {_clock(at)} and {_clock(then)} overlap.", "Make one of them.", "breaks"
            )
    if len(found) > MOST_BREAKS:
        raise BadEntry(f"Over {MOST_BREAKS} breaks are listed.", "Join those that touch.", "breaks")
    return tuple(found)


def _minutes(hour: str, minute: str) -> int:
    return 60 * int(hour) + int(minute)


def _clock(minutes: int) -> str:
    return f"{minutes // 60}:{minutes % 60:02}"


def _at(day: datetime, minutes: int) -> datetime:
    """A clock time of a moment's day, in the shop's own zone: what the wall clock says, summer time too."""
    wall = day.astimezone().replace(
        tzinfo=None, hour=minutes // 60, minute=minutes % 60, second=0, microsecond=0
    )
    return wall.astimezone()


def clock_time(text: str, now: datetime, field: str) -> datetime:
    """Return a clock time as typed, of today: 12:30, 12.30, 7 h.

    Args:
        text: as typed.
        now: a moment of today.
        field: it was typed in.

    Raises:
        BadEntry: if it is none.
    """
    found = re.fullmatch(r"([01]?\d|2[0-3]) *(?:[:.h] *([0-5]\d)?)?", text.strip().lower())
    if found is None:
        raise BadEntry(f"“{text.strip()[:40]}” is not a time of day.", "Type it as 12:30.", field)
    return _at(now, _minutes(found[1], found[2] or "0"))
