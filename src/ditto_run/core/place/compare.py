"""Three ways of one offset beside each other before anything is taken in: the register, the file, the layout."""

from collections.abc import Mapping
from dataclasses import dataclass
from decimal import Decimal

from ditto_run.core.place.offsets import AXES, Axis, Offset, as_shown
from ditto_run.core.place.predict import Expected
from ditto_run.core.units import LengthUnit, convert, to_base


@dataclass(frozen=True, slots=True)
class Beside:
    """One axis of one offset, three ways, in the control's unit; None where it is not known.

    Args:
        code: the offset.
        axis: which axis.
        register: as it stands.
        file: as read.
        layout: as expected from the drawing.
        far: True if the file is farther from the drawing than a holder is placed.
    """

    code: str
    axis: Axis
    register: Decimal | None
    file: Decimal | None
    layout: Decimal | None
    far: bool

    @property
    def differs(self) -> bool:
        """True if taking the file would change the register."""
        return self.file is not None and self.file != self.register


def beside(
    read: Mapping[str, Mapping[Axis, Decimal]],
    register: Mapping[str, Offset],
    expected: Mapping[str, Expected],
    unit: LengthUnit,
) -> tuple[Beside, ...]:
    """Return every axis that the file names, beside the register and the layout.

    Args:
        read: from the file, in `unit`.
        register: the machine's offsets.
        expected: what the layout expects, by code.
        unit: the control's unit.
    """
    found = []
    for code, axes in read.items():
        for axis in AXES:
            if axis not in axes:
                continue
            here = register.get(code)
            drawn, far = None, False
            if code in expected and axis in AXES[:3]:
                at = expected[code].expected_mm[AXES.index(axis)]
                drawn = as_shown(axis, convert(at, "mm", unit), unit)
                far = abs(to_base(axes[axis], unit) - at) > expected[code].placing_mm
            found.append(Beside(code, axis, here.axes.get(axis) if here else None, axes[axis], drawn, far))
    return tuple(found)
