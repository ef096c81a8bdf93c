"""The last look before the first cut: what the read-out shows with the spindle over a feature everybody can see."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from decimal import Decimal

from ditto_run.core.place.offsets import Offset
from ditto_run.core.place.placed import Seat, Standing

ZERO = Decimal(0)


@dataclass(frozen=True, slots=True)
class LastLook:
    """What to look at, and what the read-out should show there.

    Args:
        label: the station.
        code: its offset.
        over: the feature, in words.
        work_mm: X and Y in the station's own coordinates. [mm]
        machine_mm: X and Y of the machine. [mm]
        top_mm: Z of the machine at the station's zero; None while Z is not set. [mm]
    """

    label: str
    code: str
    over: str
    work_mm: tuple[Decimal, Decimal]
    machine_mm: tuple[Decimal, Decimal]
    top_mm: Decimal | None


def looks(standings: Sequence[Standing], offsets: Mapping[str, Offset]) -> tuple[LastLook, ...]:
    """Return two features of every station whose X and Y are set: its zero, and the far corner of its piece.

    Work coordinates are those of the nest or vise: from the station's own zero, its shift taken into account.

    Args:
        standings: what stands on the table.
        offsets: the register of the machine.

    Source:
        Own derivation: machine = offset + shift + distance on the drawing.
    """
    found = []
    for standing in standings:
        for seat in standing.seats:
            offset = offsets.get(seat.station.offset or "")
            x, y = (offset.mm("x"), offset.mm("y")) if offset else (None, None)
            if offset is None or x is None or y is None:
                continue
            shift = seat.station.shift_mm
            z = offset.mm("z")
            for over, (dx, dy) in _features(seat):
                at = (x + shift[0] + dx, y + shift[1] + dy)
                found.append(
                    LastLook(seat.label, offset.code, over, (dx, dy), at, None if z is None else z + shift[2])
                )
    return tuple(found)


def _features(seat: Seat) -> list[tuple[str, tuple[Decimal, Decimal]]]:
    found = [(f"the {seat.corner} corner, its zero" if seat.corner else "its zero", (ZERO, ZERO))]
    if seat.piece:
        x0, y0 = seat.zero_mm[:2]
        far = max(seat.piece, key=lambda p: ((p[0] - x0) ** 2 + (p[1] - y0) ** 2, p[0], p[1]))
        middle_x, middle_y = (sum(p[i] for p in seat.piece) / len(seat.piece) for i in (0, 1))
        name = f"{'back' if far[1] > middle_y else 'front'} {'left' if far[0] < middle_x else 'right'}"
        found.append((f"the {name} corner of the piece", (far[0] - x0, far[1] - y0)))
    return found
