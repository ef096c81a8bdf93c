"""A sheet as a form: its fields with labels, words below them and choices in words; which stand beside each other."""

import re
from collections.abc import Mapping
from dataclasses import dataclass, field
from decimal import Decimal

from ditto_run.core.entry.quantity import mark_of
from ditto_run.core.sheets import Entry
from ditto_run.core.units import MM_PER_INCH, LengthUnit

HINTED = re.compile(r"\{([\d.]+) mm\}")


@dataclass(frozen=True, slots=True)
class SheetWords:
    """What stands on the form of a sheet.

    Args:
        does: what it answers, in one sentence.
        hints: words below a field; `{0.01 mm} if empty` says the length in the job's unit.
        labels: what a field is called, where that is not its term.
        choices: a choice in words, where those are not its value: field to value to words.
        beside: fields that stand beside the next one.
    """

    does: str
    hints: Mapping[str, str] = field(default_factory=dict)
    labels: Mapping[str, str] = field(default_factory=dict)
    choices: Mapping[str, Mapping[str, str]] = field(default_factory=dict)
    beside: frozenset[str] = frozenset()


@dataclass(frozen=True, slots=True)
class FormEntry:
    """One field of a form.

    Args:
        entry: of the sheet.
        words: of the sheet.
    """

    entry: Entry
    words: SheetWords

    @property
    def name(self) -> str:
        """In addresses and documents."""
        return self.entry.name

    @property
    def kind(self) -> str:
        """What kind of field it is."""
        return self.entry.kind

    @property
    def pair(self) -> bool:
        """True if it stands beside the next one."""
        return self.name in self.words.beside

    @property
    def label(self) -> str:
        """What it is called."""
        return self.words.labels.get(self.name, self.entry.term)

    @property
    def choices(self) -> tuple[tuple[str, str], ...]:
        """Each choice with its words."""
        said = self.words.choices.get(self.name, {})
        return tuple((value, said.get(value, value)) for value in self.entry.choices)

    def label_in(self, unit: LengthUnit) -> str:
        """Return what it is called, with the unit of a number typed alone."""
        quantity = self.entry.quantity
        return f"{self.label}, {mark_of(quantity, unit)}" if quantity else self.label

    def hint_in(self, unit: LengthUnit) -> str:
        """Return the words below it, lengths in the job's unit: `{0.01 mm} if empty` is 0.0004 in in a job in inches."""
        return HINTED.sub(lambda found: _hinted(Decimal(found[1]), unit), self.words.hints.get(self.name, ""))


def _hinted(value_mm: Decimal, unit: LengthUnit) -> str:
    return f"{value_mm:f} mm" if unit == "mm" else f"{float(value_mm / MM_PER_INCH):.1g} in"
