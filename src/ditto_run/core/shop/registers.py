"""What the shop owns and who works there."""

from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

from ditto_run.core.units import LengthUnit

MachineKind = Literal["mill", "lathe", "manual"]


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
class Machine:
    """One machine.

    Args:
        id: its number in the register.
        name: as the shop calls it.
        kind: mill, lathe or manual.
        offset_codes: work offset codes it has; none for a machine with stops or a read-out.
        wear: how its control holds wear.
    """

    id: int
    name: str
    kind: MachineKind = "mill"
    offset_codes: tuple[str, ...] = ()
    wear: Wear = Wear()


@dataclass(frozen=True, slots=True)
class Gauge:
    """One gauge.

    Args:
        id: its number in the register.
        name: as the shop calls it.
        resolution: least step it shows. [unit]
        unit: unit it reads in.
    """

    id: int
    name: str
    resolution: Decimal
    unit: LengthUnit


@dataclass(frozen=True, slots=True)
class Person:
    """One person, by initials; a name is not needed."""

    initials: str
