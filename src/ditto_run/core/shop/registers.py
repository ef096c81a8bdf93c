"""What the shop owns and who works there."""

from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

from ditto_run.core.shop.bed import Bed
from ditto_run.core.shop.dialect import PLAIN_DIALECT, Dialect
from ditto_run.core.units import LengthUnit

MachineKind = Literal["mill", "lathe", "manual mill", "manual lathe", "manual"]
MACHINE_KINDS: dict[MachineKind, str] = {
    "mill": "mill with a control",
    "lathe": "lathe with a control",
    "manual mill": "manual mill",
    "manual lathe": "manual lathe",
    "manual": "other manual machine",
}
Tapping = Literal["no", "floating", "rigid"]


@dataclass(frozen=True, slots=True)
class Wear:
    """How a control holds tool wear.

    Args:
        by: radius or diameter: what one unit of the entry changes.
        bigger_is: plus if adding a positive value makes an outside size bigger.
        increment: least step it takes. [unit]
        unit: unit it is typed in.
    """

    by: Literal["radius", "diameter"] = "diameter"
    bigger_is: Literal["plus", "minus"] = "plus"
    increment: Decimal = Decimal("0.001")
    unit: LengthUnit = "mm"


@dataclass(frozen=True, slots=True)
class Ability:
    """What a machine can do, by its own manual; None where nobody has looked it up.

    Args:
        power_kw: at the spindle. [kW]
        torque_nm: largest at the spindle. [N·m]
        max_rpm: spindle speed. [rev/min]
        travel_x_mm, travel_y_mm, travel_z_mm: travel of each axis; a lathe has X and Z. [mm]
        bar_mm: largest bar through the spindle. [mm]
        taps: whether it can tap: no, with a floating holder, or rigid.
        swing_mm: the largest work that turns over its bed. [mm]
        speeds_rpm: speeds of its belts or gears, the slowest first; empty where any speed can be set. [rev/min]
        rapid_m_min: how fast it moves in the air. [m/min]
        accel_m_s2: how fast its slides gather speed. [m/s²]
        change_s: changing a tool, chip to chip. [s]
        amps: its motor draws at full load, by its plate. [A]
        tool_mm: the longest a tool may stand out of its holder: past chuck, changer or turret's neighbours. [mm]
    """

    power_kw: Decimal | None = None
    torque_nm: Decimal | None = None
    max_rpm: Decimal | None = None
    travel_x_mm: Decimal | None = None
    travel_y_mm: Decimal | None = None
    travel_z_mm: Decimal | None = None
    bar_mm: Decimal | None = None
    taps: Tapping = "floating"
    swing_mm: Decimal | None = None
    speeds_rpm: tuple[Decimal, ...] = ()
    rapid_m_min: Decimal | None = None
    accel_m_s2: Decimal | None = None
    change_s: Decimal | None = None
    tool_mm: Decimal | None = None
    amps: Decimal | None = None

    @property
    def travel_mm(self) -> tuple[Decimal | None, Decimal | None, Decimal | None]:
        """Travel of X, Y and Z, [mm]."""
        return self.travel_x_mm, self.travel_y_mm, self.travel_z_mm


@dataclass(frozen=True, slots=True)
class Machine:
    """One machine.

    Args:
        id: its number in the register.
        name: as the shop calls it.
        kind: one with a control, or one that is worked by hand: dials, stops and perhaps a read-out.
        offset_codes: work offset codes it has; none for a machine with stops or a read-out.
        wear: how its control holds wear.
        ability: power, torque, speed, travel, bar and tapping.
        bed: its table; None while it is not measured.
        dialect: how its control reads G10.
    """

    id: int
    name: str
    kind: MachineKind = "mill"
    offset_codes: tuple[str, ...] = ()
    wear: Wear = Wear()
    ability: Ability = Ability()
    bed: Bed | None = None
    dialect: Dialect = PLAIN_DIALECT

    @property
    def is_manual(self) -> bool:
        """True for one without a control: no wear, and no offsets but a read-out's presets."""
        return self.kind.startswith("manual")

    @property
    def turns(self) -> bool:
        """True for a lathe of either kind: the piece turns, and there is no table to lay out."""
        return self.kind in {"lathe", "manual lathe"}

    @property
    def kind_words(self) -> str:
        """Its kind in words: manual lathe, mill with a control."""
        return MACHINE_KINDS[self.kind]

    @property
    def codes_word(self) -> str:
        """What its codes are: work offset, or preset of a read-out."""
        return "read-out preset" if self.is_manual else "work offset"

    @property
    def knob_word(self) -> str:
        """What is moved on it to bring a size back: offset, or dial or stop."""
        return "dial or stop" if self.is_manual else "offset"


@dataclass(frozen=True, slots=True)
class Gauge:
    """One gauge.

    Args:
        id: its number in the register.
        name: as the shop calls it.
        resolution: least step it shows. [unit]
        unit: unit it reads in.
        repeats: standard deviation of its readings of one piece, by a study; None while none was made. [unit]
    """

    id: int
    name: str
    resolution: Decimal
    unit: LengthUnit
    repeats: Decimal | None = None


@dataclass(frozen=True, slots=True)
class Person:
    """One person, by initials; a name is not needed."""

    initials: str
