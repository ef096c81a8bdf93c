"""Lists that are born in jobs: maintenance, checks of gauges, the condition of machines, fixtures on their shelves, people to ask."""

from dataclasses import dataclass
from datetime import date

from ditto_run.core.entry.days import read_day_of
from ditto_run.core.sheets.entries import Entries

CHECK_RESULTS = ("right", "set right", "wrong, put away")
DONE = ("to do", "done")


@dataclass(frozen=True, slots=True)
class Maintenance:
    """Something a machine wants: what, which machine, who saw it and when, whether it is done, when it comes again."""

    what: str
    machine: str = ""
    noticed: date | None = None
    state: str = "to do"
    again: date | None = None
    note: str = ""


@dataclass(frozen=True, slots=True)
class GaugeCheck:
    """A check of a gauge: which, when, against what, how it came out, when it is due again."""

    gauge: str
    on: date
    against: str = ""
    result: str = ""
    found: str = ""
    due: date | None = None


@dataclass(frozen=True, slots=True)
class Condition:
    """What was found of a machine: backlash, level by reversal, spindle; when, how much."""

    machine: str
    what: str
    found: str
    on: date | None = None
    note: str = ""


@dataclass(frozen=True, slots=True)
class FixtureKept:
    """A fixture or a set of jaws on its shelf: its mark, what it is for, where it lies, what to remember."""

    name: str
    job: str = ""
    shelf: str = ""
    note: str = ""


@dataclass(frozen=True, slots=True)
class ToAsk:
    """Somebody or something to ask: for what, how reached, what to remember of deliveries."""

    name: str
    what: str = ""
    reached: str = ""
    note: str = ""


@dataclass(frozen=True, slots=True)
class OnShelf:
    """Finished pieces kept on the shelf, [pieces].

    Args:
        part: what they are, as the job names it.
        there: how many lie there.
        least: under which the next batch is called for; 0 for no such level.
        batch: how many are usually made then; 0 if nobody said.
        shelf: where.
    """

    part: str
    there: int
    least: int = 0
    batch: int = 0
    shelf: str = ""

    @property
    def words(self) -> str:
        """That the next batch is called for, in a sentence; empty while enough lie there."""
        if self.there >= self.least:
            return ""
        many = f" of {self.batch}" if self.batch else ""
        return f"{self.part}: {self.there} on the shelf, {self.least} at least: the next batch{many} is called for."


def read_on_shelf(entries: Entries) -> OnShelf:
    """Return a row of the register of finished stock.

    Raises:
        BadEntry: at the column that cannot be read.
    """
    return OnShelf(
        entries.need("part", "Oarlock pin"),
        entries.whole("there", 0, 1_000_000),
        entries.whole("least", 0, 1_000_000, 0),
        entries.whole("batch", 0, 1_000_000, 0),
        entries.text("shelf"),
    )


def read_maintenance(entries: Entries) -> Maintenance:
    """Return a row of the register of maintenance.

    Raises:
        BadEntry: at the column that cannot be read.
    """
    return Maintenance(
        entries.need("what", "way oil low after each batch"),
        entries.text("machine"),
        read_day_of(entries.text("noticed"), "noticed"),
        entries.choice("state", DONE) if entries.has("state") else "to do",
        read_day_of(entries.text("again"), "again"),
        entries.text("note"),
    )


def read_gauge_check(entries: Entries) -> GaugeCheck:
    """Return a row of the register of checks.

    Raises:
        BadEntry: at the column that cannot be read, or where it is due before it was checked.
    """
    on = read_day_of(entries.need("on", "2026-11-28"), "on")
    due = read_day_of(entries.text("due"), "due", after=on)
    return GaugeCheck(
        entries.need("gauge", "Micrometer 0–25"),
        on or date.min,
        entries.text("against"),
        entries.choice("result", CHECK_RESULTS) if entries.has("result") else "",
        entries.text("found"),
        due,
    )


def read_condition(entries: Entries) -> Condition:
    """Return a row of the register of machines' condition.

    Raises:
        BadEntry: at the column that cannot be read.
    """
    return Condition(
        entries.need("machine", "Hand lathe"),
        entries.need("what", "backlash of the cross slide"),
        entries.need("found", "0.12 mm"),
        read_day_of(entries.text("on"), "on"),
        entries.text("note"),
    )


def read_fixture(entries: Entries) -> FixtureKept:
    """Return a row of the register of fixtures and jaws.

    Raises:
        BadEntry: at the column that cannot be read.
    """
    return FixtureKept(
        entries.need("name", "soft jaws 3"), entries.text("job"), entries.text("shelf"), entries.text("note")
    )


def read_to_ask(entries: Entries) -> ToAsk:
    """Return a row of the register of who and what to ask.

    Raises:
        BadEntry: at the column that cannot be read.
    """
    return ToAsk(
        entries.need("name", "the plater"),
        entries.text("what"),
        entries.text("reached"),
        entries.text("note"),
    )


def overdue(checks: tuple[GaugeCheck, ...], gauge: str, today: date) -> date | None:
    """Return since when the newest check of a gauge is out of date; None where it is not, or nobody said when it is due.

    Args:
        checks: of the register.
        gauge: its name.
        today: the day.
    """
    mine = [one for one in checks if one.gauge.lower() == gauge.lower()]
    newest = max(mine, key=lambda one: one.on, default=None)
    if newest is None or newest.due is None or newest.due >= today:
        return None
    return newest.due
