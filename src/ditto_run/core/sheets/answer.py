"""What a sheet is, what it may know, and what it answers."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace
from decimal import Decimal
from typing import Any, Generic, Literal, TypeVar, cast

from ditto_run.core.entry.quantity import Kind as Quantity
from ditto_run.core.findings import Finding
from ditto_run.core.sheets.entries import Entries
from ditto_run.core.sizes import read_value
from ditto_run.core.units import LengthUnit, to_base

DIFFERS = Decimal("0.02")  # share of the nominal from which a measured size is worth a word; docs/sources.md


@dataclass(frozen=True, slots=True)
class KeptSheet:
    """A sheet kept with the job: what was typed.

    Args:
        key: its lasting number in the job.
        kind: which sheet, such as taper.
        name: what the shop calls it.
        texts: the entries as typed.
        setup: key of the setup it is about; None where nobody said it.
        taken: entries that were taken over from the job as they stood, with what kind of source they had: computed,
            practice, guess. When the job says something else now, that is asked about; a guess stays one.
    """

    key: int
    kind: str
    name: str
    texts: dict[str, str]
    setup: int | None = None
    taken: dict[str, str] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class StockSize:
    """A size of something bought: what it is sold as, and what it measures.

    Args:
        key: its lasting number in the job.
        name: such as plate thickness or bar.
        nominal: as sold, as typed.
        measured: as measured, as typed; empty until it is.
    """

    key: int
    name: str
    nominal: str
    measured: str = ""

    def nominal_mm(self, unit: LengthUnit) -> Decimal:
        """Return what it is sold as, [mm]."""
        value, _, typed = read_value(self.nominal, unit)
        return to_base(value, typed)

    def used_mm(self, unit: LengthUnit) -> Decimal:
        """Return the measured size if there is one, else the nominal, [mm]."""
        if not self.measured:
            return self.nominal_mm(unit)
        value, _, typed = read_value(self.measured, unit)
        return to_base(value, typed)

    def differs(self, unit: LengthUnit) -> bool:
        """Return whether the measured size is over 2 % from the nominal."""
        nominal = self.nominal_mm(unit)
        return abs(self.used_mm(unit) - nominal) > DIFFERS * nominal


R = TypeVar("R")


Solve = Callable[..., Any]
"""Has long work done: takes a function and what it is given, returns what it gives, or raises BeingWorkedOut."""


def directly(work: Callable[..., R], *values: Any) -> R:  # noqa: ANN401 - whatever the work is given
    """Return what long work gives, done here and now."""
    return work(*values)


T = TypeVar("T")
T_co = TypeVar("T_co", covariant=True)


@dataclass(frozen=True, slots=True)
class Knows(Generic[T_co]):
    """One thing a sheet may look up: what it is called, and what stands for it where nobody knows it.

    Each layer declares its own, such as the materials of the shop or the blank of Stock; so the sheets know no layer above
    them, and what is looked up has its type.

    Args:
        name: of the thing; of a sheet that a job has one of, its kind.
        nothing: what it is while it is not known.
    """

    name: str
    nothing: T_co


@dataclass(frozen=True, slots=True)
class Known:
    """What the job and the shop know when a sheet is worked out.

    Args:
        unit: unit of the drawing.
        quantity: good pieces wanted.
        stock: sizes of what was bought, by key.
        drills: name and diameter of each drill of the drawer. [mm]
        reamers: name and the diameter each cuts. [mm]
        taps: designation and kind of each tap.
        spares: spares agreed. [pieces]
        trials: trial pieces of the chosen way. [pieces]
        scrap: scrap the chosen way expects. [%]
        start: pieces to start: as worked out, else wanted, spares and trials. [pieces]
        money: mark before a sum of money.
        part_form: block or turned.
        ways: ways that can be compared: name, getting ready, time of a good piece. [s, s]
        hand_work: work by hand of the job, with its time a piece. [s]
        whole_drawer: True if the shop has no drawer yet and every standard drill stands in.
        told: everything else, by the name of what it is; looked up by `of`.
        solve: has long work done: a function and what it is given. It may raise BeingWorkedOut.
    """

    unit: LengthUnit = "mm"
    quantity: int = 1
    stock: Mapping[int, StockSize] = field(default_factory=dict)
    drills: tuple[tuple[str, Decimal], ...] = ()
    reamers: tuple[tuple[str, Decimal], ...] = ()
    taps: tuple[tuple[str, str], ...] = ()
    spares: int = 0
    trials: int = 0
    scrap: float = 0.0
    start: int = 1
    money: str = ""
    part_form: str = "block"
    whole_drawer: bool = False
    ways: tuple[tuple[str, float, float], ...] = ()
    hand_work: tuple[tuple[str, float], ...] = ()
    told: Mapping[str, object] = field(default_factory=dict)
    solve: Solve = field(default=directly, compare=False)

    def of(self, what: Knows[T]) -> T:
        """Return what is known of a thing; what stands for nothing where nobody knows it."""
        return cast("T", self.told.get(what.name, what.nothing))

    def has(self, name: str) -> bool:
        """Return whether a thing of that name is known."""
        return name in self.told

    def knowing(self, what: Knows[T], value: T) -> "Known":
        """Return it with one thing more."""
        return self.with_result(what.name, value)

    def with_result(self, name: str, value: object) -> "Known":
        """Return it with the result of a sheet, by its kind."""
        return replace(self, told={**self.told, name: value})


@dataclass(frozen=True, slots=True)
class Fact:
    """One figure of an answer: what, how much, and a word about it."""

    label: str
    value: str
    note: str = ""


@dataclass(frozen=True, slots=True)
class Grid:
    """A small table of an answer."""

    caption: str
    head: tuple[str, ...]
    rows: tuple[tuple[str, ...], ...]


@dataclass(frozen=True, slots=True)
class Offer:
    """A size the sheet can add to the part."""

    name: str
    size: str


@dataclass(frozen=True, slots=True)
class Zero:
    """One axis of a zero that a sheet has found.

    Args:
        axis: x, y, z, a, b or c.
        value: in machine coordinates. [mm, or ° for a, b, c]
        half: half width of its 80 % range; None while not known. [mm or °]
    """

    axis: Literal["x", "y", "z", "a", "b", "c"]
    value: Decimal
    half: float | None = None


@dataclass(frozen=True, slots=True)
class Answer:
    """What a sheet answers.

    Args:
        say: the answer in one sentence.
        why: its reason, in one sentence.
        facts: the figures.
        grids: tables.
        findings: what is wrong or worth knowing.
        offers: sizes it can add to the part.
        how: how a zero was found, in a few words.
        zeros: axes of a work offset it has found, to be written to the register.
        picture: a value that a drawing is made of; None without one.
        picture_says: what the picture shows, in one sentence.
        result: the typed result, for programs.
        source: where the arithmetic comes from.
    """

    say: str
    why: str = ""
    facts: tuple[Fact, ...] = ()
    grids: tuple[Grid, ...] = ()
    findings: tuple[Finding, ...] = ()
    offers: tuple[Offer, ...] = ()
    zeros: tuple[Zero, ...] = ()
    how: str = ""
    picture: Any = None
    picture_says: str = ""
    result: Any = None
    source: str = ""


@dataclass(frozen=True, slots=True)
class Entry:
    """One field of a sheet.

    Args:
        name: field name.
        term: what the trade calls it, for a refusal and for what is asked about it.
        kind: line, area, choose, or something to choose of the job or shop: stock, machine, material, setup, holder.
        choices: for choose: what may be chosen.
        length: True for a length that is compared with the part's other sizes when the sheet is kept.
        quantity: force, torque and the like, whose unit is the job's; empty for others.
    """

    name: str
    term: str
    kind: Literal["line", "area", "choose", "stock", "machine", "material", "setup", "holder"] = "line"
    choices: tuple[str, ...] = ()
    length: bool = False
    quantity: Quantity | None = None


@dataclass(frozen=True, slots=True)
class SheetKind:
    """One kind of sheet.

    Args:
        kind: its name in addresses and documents.
        step: step it belongs to.
        word: its name, also of one that is kept.
        entries: its fields, in order.
        compute: works it out; raises BadEntry at a field.
        single: True if a job has one of it, whose result other sheets use.
        begins: what a new one starts from, where the job says something of it; None where it starts empty.
    """

    kind: str
    step: str
    word: str
    entries: tuple[Entry, ...]
    compute: Callable[[Entries, Known], Answer]
    single: bool = False
    begins: Callable[[Known], dict[str, str]] | None = None

    def answer(self, texts: Mapping[str, str], known: Known) -> Answer:
        """Return the answer to what was typed.

        Raises:
            BadEntry: at the field that cannot be used.
        """
        return self.compute(self.entries_of(texts, known), known)

    def entries_of(self, texts: Mapping[str, str], known: Known) -> Entries:
        """Return what was typed, to be read field by field."""
        terms = {entry.name: entry.term for entry in self.entries}
        quantities = {entry.name: entry.quantity for entry in self.entries if entry.quantity}
        return Entries(texts, known.unit, terms, quantities)
