"""What a rehearsal is played on: a process that cuts pieces with known truth, whoever makes it up."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from decimal import Decimal
from typing import Literal, Protocol

from ditto_run.core.run.judged import KnobHere

Fault = Literal["none", "wear", "loose", "bump", "broken", "heat", "gauge"]
FAULTS: Mapping[Fault, str] = {
    "none": "nothing goes wrong",
    "wear": "a tool that wears fast",
    "loose": "a station comes loose",
    "bump": "a stop is bumped",
    "broken": "an insert chips",
    "heat": "a machine that starts cold",
    "gauge": "the gauge is knocked",
}


@dataclass(frozen=True, slots=True)
class Happening:
    """What really went wrong: the kind, before which load, at which station; empty for all, and by how much, [half tolerances]."""

    fault: Fault
    load: int
    station: str
    by: float

    @property
    def words(self) -> str:
        """It in a sentence."""
        where = f" at {self.station}" if self.station else ""
        when = f", before load {self.load}" if self.load > 1 else ""
        return f"{FAULTS[self.fault]}{where}{when}"


class Process(Protocol):
    """Cuts pieces, and shows what a gauge shows of them."""

    @property
    def happens(self) -> Happening:
        """What really goes wrong."""
        ...

    def size_mm(self, load: int, label: str, piece: int, number: int, dialled_mm: float) -> float:
        """Return a dimension as it was really cut, [mm].

        Args:
            load: from 1.
            label: of the station.
            piece: its number.
            number: of the dimension.
            dialled_mm: what all knobs turned so far do to it. [mm]
        """
        ...

    def read_mm(self, size_mm: float, load: int, piece: int, number: int, time: int) -> float:
        """Return what the gauge shows of a size, [mm].

        Args:
            size_mm: the size.
            load: when it is read.
            piece: its number.
            number: of the dimension.
            time: how often it was read before.
        """
        ...

    def set_right(self, number: int, load: int) -> float:
        """Set the gauge of a dimension right on its master after a load. Returns what it read too much, [mm]."""
        ...

    def look(self, load: int, label: str) -> bool:
        """Look at what holds before a load, at one station or all. Returns whether it was loose; it is tight then."""
        ...


def effect_mm(
    knobs: Sequence[KnobHere], name: str, turns: Sequence[tuple[str, str, float]], label: str
) -> float:
    """Return what all turns so far do to a dimension at a station, [mm].

    Args:
        knobs: that are known.
        name: of the dimension.
        turns: what, station (empty for every one), amount. [mm]
        label: of the station.
    """
    total = 0.0
    for what, station, amount in turns:
        for knob in knobs:
            if knob.what.lower() == what.lower() and knob.label == station and knob.label in {"", label}:
                total += knob.gains.get(name, 0.0) * amount
    return total


def size_text(value_mm: float, unit: str, decimals: int) -> str:
    """Return a size as a gauge shows it in a unit."""
    value = Decimal(repr(round(value_mm, 7))) / (Decimal("25.4") if unit == "in" else 1)
    return f"{value:.{decimals}f}"
