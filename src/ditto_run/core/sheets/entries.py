"""Reads what was typed into a sheet; each refusal names its field."""

from collections.abc import Mapping
from decimal import Decimal
from types import MappingProxyType

from ditto_run.core.entry.quantity import QUANTITIES, Kind, in_system
from ditto_run.core.errors import BadEntry, standing_at
from ditto_run.core.sheets.reader import Measure, mark_for, read_as, said_back
from ditto_run.core.sizes import read_size
from ditto_run.core.units import LengthUnit, capital, counted

MOST_LINES = 2_000
LONGEST_TEXT = 100_000


class Entries:
    """The entries of one sheet.

    Args:
        texts: what was typed, by field name.
        unit: unit of the drawing, for lengths typed without one.
        labels: what each field is called on the page, for the refusals.
        quantities: which fields are forces, torques and the like.
    """

    def __init__(
        self,
        texts: Mapping[str, str],
        unit: LengthUnit,
        labels: Mapping[str, str],
        quantities: Mapping[str, Kind] = MappingProxyType({}),
    ) -> None:
        self._texts, self.unit, self._labels, self._quantities = texts, unit, labels, quantities

    def text(self, name: str, default: str = "") -> str:
        """Return the text of a field, cut to a sensible length."""
        return self._texts.get(name, "").strip()[:LONGEST_TEXT] or default

    def has(self, name: str) -> bool:
        """Return whether something is typed there."""
        return bool(self.text(name))

    def label(self, name: str) -> str:
        """Return what a field is called, in lower case unless it starts with a sign."""
        label = self._labels.get(name, name.replace("_", " "))
        other = label.removeprefix("Or the ")
        return label if other == label else capital(other)

    def need(self, name: str, example: str) -> str:
        """Return the text of a field that may not be empty.

        Raises:
            BadEntry: if it is.
        """
        text = self.text(name)
        if not text:
            raise BadEntry(f"{self.label(name)} is missing.", f"Type it, such as {example}.", name)
        return text

    def mm(
        self, name: str, example: str = "12.5", *, least: Decimal = Decimal(0), above: bool = True
    ) -> Decimal:
        """Return a length; exact, [mm].

        Args:
            name: field.
            example: what is offered if it is missing.
            least: smallest value.
            above: True if the smallest value itself is refused.

        Raises:
            BadEntry: if it is missing, no length, or out of range.
            NeedsAnswer: if a comma can be read in two ways.
        """
        return self._length(name, self.need(name, example), least, above=above)

    def maybe_mm(self, name: str, *, least: Decimal = Decimal(0), above: bool = True) -> Decimal | None:
        """Return a length, or None if nothing is typed, [mm]."""
        text = self.text(name)
        return self._length(name, text, least, above=above) if text else None

    def size_mm(self, name: str, example: str = "12 H7") -> Decimal:
        """Return the nominal of a size written in any way a drawing does, [mm]."""
        with standing_at(name):
            return read_size(self.need(name, example), self.unit).nominal_base

    def _length(self, name: str, text: str, least: Decimal, *, above: bool) -> Decimal:
        exact: Decimal = read_as("length", text, self.unit, name)
        if exact < least or (above and exact == least):
            word = "above" if above else "at least"
            shown = "zero" if least == 0 else said_back("length", least, self.unit)
            raise BadEntry(f"{self.label(name)} is {word} {shown}.", "Check the sign and the unit.", name)
        return exact

    def number(self, name: str, low: float, high: float, default: float | None = None) -> Decimal:
        """Return a plain number between two ends, both accepted.

        Raises:
            BadEntry: if it is missing without a default, no number, or out of range.
            NeedsAnswer: if a comma can be read in two ways.
        """
        return self._between("number", name, low, high, default)

    def share(self, name: str, low: float, high: float, default: float | None = None) -> Decimal:
        """Return a share of a whole between two ends, both accepted: 0.7, 70 %, 7/10.

        Raises:
            BadEntry: if it is missing without a default, no share, or out of range.
        """
        return self._between("share", name, low, high, default)

    def percent(self, name: str, low: float, high: float, default: float | None = None) -> Decimal:
        """Return a percentage between two ends, both accepted: 5, 5 %, 1 in 20, [%].

        Raises:
            BadEntry: if it is missing without a default, none, or out of range.
        """
        return self._between("percent", name, low, high, default)

    def turn(self, name: str, low: float, high: float, default: float | None = None) -> Decimal:
        """Return an angle between two ends, both accepted: 44.5, 44°30', -90 deg, [°].

        Raises:
            BadEntry: if it is missing without a default, none, or out of range.
        """
        return self._between("angle", name, low, high, default)

    def _between(
        self, measure: Measure, name: str, low: float, high: float, default: float | None
    ) -> Decimal:
        text = self.text(name)
        if not text and default is not None:
            return Decimal(repr(default))
        if not text:
            span = _span(measure, low, high, self.unit)
            raise BadEntry(f"{self.label(name)} is missing.", f"Type a number from {span}.", name)
        value: Decimal = read_as(measure, text, self.unit, name)
        if not Decimal(repr(low)) <= value <= Decimal(repr(high)):
            span = _span(measure, low, high, self.unit)
            raise BadEntry(f"{self.label(name)} is {text[:20]}, outside {span}.", "Check the number.", name)
        return value

    def quantity(self, name: str, low: float, high: float, default: float | None = None) -> Decimal:
        """Return a force, torque or the like between two ends, both accepted, [the metric unit of its kind].

        Raises:
            BadEntry: if it is missing without a default, has a unit of something else, or is out of range.
        """
        return self._between(self._quantities[name], name, low, high, default)

    def whole(self, name: str, low: int, high: int, default: int | None = None) -> int:
        """Return how many, between two ends, both accepted: 24, 1,000, two dozen.

        Raises:
            BadEntry: if it is no whole number, or out of range.
        """
        return int(self._between("count", name, low, high, default))

    def degrees(self, name: str, low: float, high: float) -> float | None:
        """Return an angle between two ends, neither accepted; None if nothing is typed: 44.5 and 44°30' are both read, [°].

        Raises:
            BadEntry: if it is no angle, or not between the ends.
        """
        text = self.text(name)
        if not text:
            return None
        value = float(read_as("angle", text, self.unit, name))
        if not low < value < high:
            raise BadEntry(f"{self.label(name)} is between {low:g}° and {high:g}°.", "Check the angle.", name)
        return value

    def seconds(self, name: str) -> float:
        """Return a time; 0 if nothing is typed, [s]."""
        return float(read_as("time", self.text(name), self.unit, name))

    def choice(self, name: str, allowed: tuple[str, ...]) -> str:
        """Return one of the allowed words; the first if nothing is typed.

        Raises:
            BadEntry: if it is none of them.
        """
        text = self.text(name, allowed[0])
        if text not in allowed:
            raise BadEntry(f"“{text[:30]}” cannot be chosen here.", f"Choose {', '.join(allowed)}.", name)
        return text

    def lines(self, name: str) -> list[str]:
        """Return the lines of a pasted table that hold anything.

        Raises:
            BadEntry: if there are more than 2,000.
        """
        found = [line.strip() for line in self.text(name).replace("\t", " ").splitlines() if line.strip()]
        if len(found) > MOST_LINES:
            raise BadEntry(
                f"{counted(len(found), 'line')} are pasted; {MOST_LINES:,} are the most.",
                "Paste only those of this part.",
                name,
            )
        return found


def _span(measure: Measure, low: float, high: float, unit: LengthUnit) -> str:
    """From where to where an entry may be, in words."""
    mark = mark_for(measure, unit)
    shown = " to ".join(_end(measure, end, unit) for end in (low, high))
    return f"{shown} {mark}" if mark else shown


def _end(measure: Measure, end: float, unit: LengthUnit) -> str:
    return in_system(measure, end, unit, fine=True) if measure in QUANTITIES else f"{end:g}"
