"""What a thread is: its family, sizes and class; and its limits."""

from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

from ditto_run.core.units import MM_PER_INCH, LengthUnit

Family = Literal["unified", "metric", "npt", "bspt", "bspp", "trapezoidal", "whitworth", "custom"]
FULL_DEPTH = {
    60: Decimal("1.299038106"),
    55: Decimal("1.280654"),
    30: Decimal(1),
    29: Decimal(1),
}  # over the pitch
Side = Literal["internal", "external"]


@dataclass(frozen=True, slots=True)
class Thread:
    """One thread as it is designated.

    Args:
        name: canonical designation without its class, such as 1/4-20 UNC or M6×1.
        family: unified, metric, taper pipe (npt, bspt), parallel pipe (bspp), trapezoidal, whitworth, or custom.
        unit: unit its standard is written in.
        major: basic major diameter. [unit]
        pitch: distance from crest to crest. [unit]
        tolerance_class: such as 2B or 6H; empty if none was said.
        series: UNC, UNF, UNEF, UN or UNS, BSW or BSF; empty for others.
        form: angle between the flanks. [°]
        left: True if it is left hand.
        deep: how deep or long, as typed; empty if nothing was said.
    """

    name: str
    family: Family
    unit: LengthUnit
    major: Decimal
    pitch: Decimal
    tolerance_class: str = ""
    series: str = ""
    form: int = 60
    left: bool = False
    deep: str = ""

    @property
    def full_depth(self) -> Decimal:
        """What 100 % of thread takes off the diameter, [unit]: 3/4 √3 P at 60°, 1.280654 P at 55°, P at 30° and 29°."""
        return FULL_DEPTH[self.form] * self.pitch

    @property
    def taper(self) -> bool:
        """True if its size is its depth: a taper pipe thread."""
        return self.family in {"npt", "bspt"}

    @property
    def called(self) -> str:
        """What it is called with its class and hand."""
        return " ".join(filter(None, (self.name, self.tolerance_class, "LH" if self.left else "")))

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
        by_formula: True if no table of ours carries this pitch and the formulas and series of the standard stand in.
        basic: True if some of them are basic sizes because no table of ours carries the limits.
    """

    side: Side
    tolerance_class: str
    unit: LengthUnit
    major: Band
    pitch: Band
    minor: Band
    by_formula: bool = False
    basic: bool = False
