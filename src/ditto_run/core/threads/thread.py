"""What a thread is: its family, sizes and class; and its limits."""

from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

from ditto_run.core.units import MM_PER_INCH, LengthUnit

Family = Literal["unified", "metric", "npt", "bspt", "custom"]
Side = Literal["internal", "external"]


@dataclass(frozen=True, slots=True)
class Thread:
    """One thread as it is designated.

    Args:
        name: canonical designation without its class, such as 1/4-20 UNC or M6×1.
        family: unified, metric, npt, bspt or custom.
        unit: unit its standard is written in.
        major: basic major diameter. [unit]
        pitch: distance from crest to crest. [unit]
        tolerance_class: such as 2B or 6H; empty if none was said.
        series: UNC, UNF, UNEF, UN or UNS; empty for others.
    """

    name: str
    family: Family
    unit: LengthUnit
    major: Decimal
    pitch: Decimal
    tolerance_class: str = ""
    series: str = ""

    @property
    def per_inch(self) -> Decimal:
        """Threads per inch."""
        return Decimal(1) / self.pitch if self.unit == "in" else MM_PER_INCH / self.pitch

    def mm(self, value: Decimal) -> Decimal:
        """Return a value of this thread's unit in millimetres; exact."""
        return value * MM_PER_INCH if self.unit == "in" else value


@dataclass(frozen=True, slots=True)
class Band:
    """A lower and an upper limit; None where the standard sets none, [unit of the thread]."""

    low: Decimal | None
    high: Decimal | None


@dataclass(frozen=True, slots=True)
class ThreadLimits:
    """The limits of one thread and class.

    Args:
        side: internal or external.
        tolerance_class: such as 2B.
        unit: unit of the limits.
        major: an internal thread has no upper limit here: the tap makes it.
        pitch: pitch diameter.
        minor: an external thread has no lower limit here: the tool's nose makes it.
        by_formula: True if no table of the standard carries this pitch and the formulas stand in.
    """

    side: Side
    tolerance_class: str
    unit: LengthUnit
    major: Band
    pitch: Band
    minor: Band
    by_formula: bool = False
