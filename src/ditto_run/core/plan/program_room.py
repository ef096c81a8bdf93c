"""What stands at each work offset of a program: the piece as it goes in, the jaws, the holders beside it."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Literal, TypeVar

from ditto_run.core.hold.heights import Contact
from ditto_run.core.place import Placed, Seat, Standing, Station
from ditto_run.core.plan.cycles import Press
from ditto_run.core.plan.held import contacts, standings
from ditto_run.core.plan.worked import Worked
from ditto_run.core.program.given import BoxBlank, RoundBlank
from ditto_run.core.program.hits import moved

T = TypeVar("T")
JAW_MM = 40.0  # of a jaw behind its face that is looked at where its holder is not placed; own judgement
SQUARE_DEG = 90


@dataclass(frozen=True, slots=True)
class ProgramZero:
    """Where the zero of a program stands on the piece.

    Args:
        across: left front, left back, right front, right back or middle; empty while nobody said it.
        top: finished or raw: which top, or end of turned work, is Z0.
    """

    across: str = ""
    top: Literal["finished", "raw"] = "finished"


ACROSS: dict[str, tuple[float, float]] = {  # share of the piece that lies left of it, and before it
    "left front": (0.0, 0.0),
    "left back": (0.0, 1.0),
    "right front": (1.0, 0.0),
    "right back": (1.0, 1.0),
    "middle": (0.5, 0.5),
}


def blank_of(contact: Contact, zero: ProgramZero, *, turned: bool = False) -> BoxBlank | RoundBlank | None:
    """Return the piece as it goes into a setup, in the coordinates of a program; None while nobody said where the zero stands.

    Args:
        contact: the setup as it is held.
        zero: of the program.
        turned: True where its holder stands a quarter turned.

    Source:
        Own derivation from the sizes of the piece and the heights of the setup.
    """
    heights = contact.heights
    if heights is None:
        before, after = contact.piece.before, contact.piece.after
        if not before.profile or contact.up != "free end":
            return None
        face = after.low[0] if zero.top == "finished" else before.low[0]
        radius = max(radius for _, radius in before.profile)
        return RoundBlank(2 * radius, (face - before.high[0], face - before.low[0]))
    if zero.across not in ACROSS:
        return None
    left, front = ACROSS[zero.across]
    along, across = contact.lying[:2] if not turned else contact.lying[1::-1]
    top = heights.finished if zero.top == "finished" else heights.raw
    return BoxBlank(
        (-left * along, -front * across, heights.seat - top),
        ((1 - left) * along, (1 - front) * across, heights.raw - top),
    )


def usual_zero(worked: Worked, cycle: Press) -> ProgramZero:
    """Return where Place has the zero on the piece: the same corner at every placed station; not said where it is not so.

    Args:
        worked: the plan worked out.
        cycle: that the program cuts.
    """
    corners = _at_offsets(worked, cycle, lambda _, station, stand: _corner_of(station, stand))
    every = set(corners.values())
    across = (
        every.pop() if len(every) == 1 and len(corners) == len({s.offset for s in cycle.stations}) else ""
    )
    return ProgramZero(across)


def _corner_of(station: Station, stand: list[Standing]) -> str:
    """The corner of the piece that is a station's zero, as it lies: left front."""
    mine = _own(station, stand)
    return "" if mine is None else " ".join(reversed(mine[1].corner.split()))


def blanks_at(worked: Worked, cycle: Press, zero: ProgramZero) -> dict[str, BoxBlank | RoundBlank]:
    """Return the piece at each offset, the first station's where several share one.

    Args:
        worked: the plan worked out.
        cycle: that the program cuts.
        zero: of the program.
    """

    def make(contact: Contact, station: Station, stand: list[Standing]) -> BoxBlank | RoundBlank | None:
        found = blank_of(contact, zero, turned=_across(station, stand))
        return moved(found, _shift(station)) if isinstance(found, BoxBlank) else found

    return _at_offsets(worked, cycle, make)


def guards_at(worked: Worked, cycle: Press, zero: ProgramZero) -> dict[str, tuple[BoxBlank, ...]]:
    """Return what no tool may touch at each offset: of holders on the table what lies round their pieces, else two jaws.

    Args:
        worked: the plan worked out.
        cycle: that the program cuts.
        zero: of the program.
    """

    def make(contact: Contact, station: Station, stand: list[Standing]) -> tuple[BoxBlank, ...]:
        mine = _own(station, stand)
        if mine is None or not mine[1].piece or contact.heights is None or zero.across not in ACROSS:
            found = () if _across(station, stand) else jaws_of(contact, zero)
        else:
            found = tuple(_round_it(contact, mine, stand, zero))
        return tuple(moved(one, _shift(station)) for one in found)

    return _at_offsets(worked, cycle, make)


def lying_across(worked: Worked, cycle: Press) -> frozenset[str]:
    """Return the offsets at which the holder stands a quarter turned, so that the piece lies along Y.

    Args:
        worked: the plan worked out.
        cycle: that the program cuts.
    """
    return frozenset(_at_offsets(worked, cycle, lambda _, station, stand: _across(station, stand)))


def _at_offsets(
    worked: Worked, cycle: Press, make: Callable[[Contact, Station, list[Standing]], T | None]
) -> dict[str, T]:
    """What stands at each station's offset: the first one's where several share one."""
    held = {one.setup.key: one for one in contacts(worked)}
    machine = worked.machines.get(cycle.machine_id or 0)
    bed = machine.bed if machine is not None else None
    stand = [*standings(worked.plan, cycle.setups[0], bed, cycle.key)] if bed is not None else []
    found: dict[str, T] = {}
    for station in cycle.stations:
        there = make(held[station.setup], station, stand) if station.setup in held else None
        if there and station.offset:
            found.setdefault(station.offset, there)
    return found


def _shift(station: Station) -> tuple[float, float, float]:
    """How far a station's zero is from its work offset, [mm]."""
    x, y, z = map(float, station.shift_mm)
    return x, y, z


def _own(station: Station, stand: list[Standing]) -> tuple[Standing, Seat] | None:
    """The holder a station is in and its seat there; None where it is not placed."""
    return next(
        (
            (one, seat)
            for one in stand
            for seat in one.seats
            if seat.label == station.label and seat.station.setup == station.setup
        ),
        None,
    )


def _across(station: Station, stand: list[Standing]) -> bool:
    """True where the holder of a station stands a quarter turned: its piece lies along Y."""
    mine = _own(station, stand)
    return mine is not None and mine[0].placed.turn % (2 * SQUARE_DEG) == SQUARE_DEG


def jaws_of(contact: Contact, zero: ProgramZero) -> tuple[BoxBlank, ...]:
    """Return the two jaws of a vise in the coordinates of a program; nothing where their height is not known.

    Args:
        contact: the setup as it is held.
        zero: of the program.

    Source:
        Own derivation from the heights of the setup; how thick a jaw is, is own judgement.
    """
    heights = contact.heights
    if heights is None or heights.jaw is None or zero.across not in ACROSS or heights.jaw <= heights.seat:
        return ()
    left, front = ACROSS[zero.across]
    along, across, _ = contact.lying
    top = heights.finished if zero.top == "finished" else heights.raw
    low, high = heights.seat - top, heights.jaw - top
    begin, end = -front * across, (1 - front) * across
    return (
        BoxBlank((-left * along, begin - JAW_MM, low), ((1 - left) * along, begin, high)),
        BoxBlank((-left * along, end, low), ((1 - left) * along, end + JAW_MM, high)),
    )


def _round_it(
    contact: Contact, mine: tuple[Standing, Seat], stand: list[Standing], zero: ProgramZero
) -> Iterator[BoxBlank]:
    """Boxes round the pieces of each holder on the table, in the coordinates of a program of one of the stations.

    Source:
        Own derivation from footprints and heights as they were measured; what lies under a piece is its own holder's.
    """
    standing, seat = mine
    heights = contact.heights
    if heights is None:
        return
    low, high = _box(seat.piece)
    left, front = ACROSS[zero.across]
    x0, y0 = low[0] + left * (high[0] - low[0]), low[1] + front * (high[1] - low[1])
    top = heights.finished if zero.top == "finished" else heights.raw
    z0 = float(standing.placed.body.seat_mm) + top
    for one in stand:
        tall = float(one.placed.body.tall_mm)
        for (a, b), (c, d) in _beside(one.placed, [_box(at.piece) for at in one.seats if at.piece]):
            yield BoxBlank((a - x0, b - y0, -z0), (c - x0, d - y0, tall - z0))


Rect = tuple[tuple[float, float], tuple[float, float]]


def _box(points: tuple[tuple[object, object], ...]) -> Rect:
    xs, ys = [float(x) for x, _ in points], [float(y) for _, y in points]  # type: ignore[arg-type] # lengths
    return (min(xs), min(ys)), (max(xs), max(ys))


def _beside(placed: Placed, pieces: list[Rect]) -> Iterator[Rect]:
    """What of a footprint lies beside its pieces: between jaws before and behind them alone, else all round."""
    (a, b), (c, d) = _box(placed.corners)
    if not pieces:
        yield (a, b), (c, d)
        return
    low = min(one[0][0] for one in pieces), min(one[0][1] for one in pieces)
    high = max(one[1][0] for one in pieces), max(one[1][1] for one in pieces)
    turned = placed.turn % (2 * SQUARE_DEG) == SQUARE_DEG
    jaws = placed.body.jaw_mm is not None
    if not jaws or not turned:
        yield (a, b), (c, low[1])
        yield (a, high[1]), (c, d)
    if not jaws or turned:
        yield (a, b), (low[0], d)
        yield (high[0], b), (c, d)
