"""A pallet on its base: every nest as offset and shift, from one master origin and one Z pad."""

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal

from ditto_run.core.place.offsets import Offset
from ditto_run.core.place.placed import FINEST, Placed
from ditto_run.core.shop import Body
from ditto_run.core.shop.drawers import Pallet

ZERO = Decimal(0)


@dataclass(frozen=True, slots=True)
class NestZero:
    """One nest of a pallet on a base.

    Args:
        number: of the nest, from 1.
        shift_mm: from the base's offset. [mm]
        zero_mm: X and Y in machine coordinates; None while the base is not set. [mm]
        z_mm: the pad's Z and the nest's height over it; None while the base's Z is not set. [mm]
    """

    number: int
    shift_mm: tuple[Decimal, Decimal]
    zero_mm: tuple[Decimal, Decimal] | None
    z_mm: Decimal | None


def nests_on_base(
    body: Body, base: Offset | None, turn: Decimal = ZERO, over_pad_mm: Decimal = ZERO
) -> tuple[NestZero, ...]:
    """Return every nest of a pallet that sits on a base: shift, and where its zero comes to lie.

    The pallet's origin (bushing or pin) is on the base's; it is turned about it.

    Args:
        body: the pallet.
        base: offset of the base's master origin; None while it is not known.
        turn: as the pallet sits on the base. [°]
        over_pad_mm: the nests' Z zero over the base's Z pad. [mm]

    Source:
        Own derivation: zero = base + turned (nest − origin).
    """
    placed = Placed(0, 0, "", body, ZERO, ZERO, turn % 360)
    x, y, z = (base.mm("x"), base.mm("y"), base.mm("z")) if base else (None, None, None)
    found = []
    for n in range(len(body.nests)):
        dx, dy = placed.shift_mm(n)
        at = (x + dx, y + dy) if x is not None and y is not None else None
        found.append(NestZero(n + 1, (dx, dy), at, None if z is None else (z + over_pad_mm).quantize(FINEST)))
    return tuple(found)


ON_MACHINE = "on the machine"


def pallet_there(pallets: Sequence[Pallet], base: str, but: str) -> Pallet | None:
    """Return the pallet that sits on a base already; None if it is free, or no base is named.

    Args:
        pallets: of the shop.
        base: where the next one is to sit.
        but: name of the one that is to sit there.
    """
    wanted = base.strip().lower()
    return next(
        (
            p
            for p in pallets
            if wanted and p.state == ON_MACHINE and p.base.strip().lower() == wanted and p.name != but
        ),
        None,
    )
