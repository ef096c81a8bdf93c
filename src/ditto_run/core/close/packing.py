"""What goes with pieces that are sent out: how many, finish and thickness, what is kept free, sizes before."""

from dataclasses import dataclass
from decimal import Decimal
from statistics import fmean

from ditto_run.core.close.after_trip import sizes_to_send
from ditto_run.core.run.state import RunState, Trip
from ditto_run.core.sizes import limits_text
from ditto_run.core.units import Unit, number_text, value_text


@dataclass(frozen=True, slots=True)
class SizeBefore:
    """A size as it was before: its number and name, limits as machined, and what was gauged; empty where nothing was."""

    number: int
    name: str
    limits: str
    gauged: str


@dataclass(frozen=True, slots=True)
class PackingList:
    """What goes with a trip.

    Args:
        trip: it.
        finish: thickness that was agreed, in words; empty where the plan does not say it.
        mask: what is kept free of it: as typed, and threads and fits of the plan.
        sizes: before it, that the finish changes or a fit hangs on.
        heats: of the material.
    """

    trip: Trip
    finish: str
    mask: tuple[str, ...]
    sizes: tuple[SizeBefore, ...]
    heats: tuple[str, ...]


def packing_list(state: RunState, trip: Trip) -> PackingList:
    """Return what goes with a trip.

    Args:
        state: the run.
        trip: of it.

    Source:
        Common practice, no source; films as agreed on Part.
    """
    plan = state.plan
    finish = next((one for one in plan.finishes if one.name.lower() in trip.what.lower()), None)
    words = ""
    if finish is not None and finish.film_high_um:
        low, high = (number_text(film, 0) for film in (finish.film_low_um, finish.film_high_um))
        words = f"{finish.name}, {low} to {high} µm"
    mask = [trip.mask] if trip.mask else []
    mask += [
        f"{c.name}, {c.size.text}"
        for c in plan.all_characteristics
        if (c.size.kind in {"thread", "drill"} or c.mate) and c.finish is None
    ]
    sizes = [
        SizeBefore(c.number, c.name, limits_text(c.size), _gauged(state, c.number, c.size.unit))
        for c in sizes_to_send(plan)
    ]
    heats = tuple(dict.fromkeys(filter(None, (piece.heat for piece in state.pieces.values()))))
    return PackingList(trip, words, tuple(dict.fromkeys(mask)), tuple(sizes), heats)


def _gauged(state: RunState, number: int, unit: Unit) -> str:
    """Mean and ends of a dimension over the good pieces, in words; empty where none was gauged."""
    values = [
        found.value
        for piece in state.pieces.values()
        if piece.standing in {"good", "reworked"}
        and (found := piece.left_with(number)) is not None
        and found.value is not None
    ]
    if not values:
        return ""
    decimals = 4 if unit == "in" else 3
    mean = Decimal(repr(round(fmean(map(float, values)), decimals)))
    ends = f"{value_text(min(values), unit, decimals)} to {value_text(max(values), unit, decimals)}"
    return f"{ends}, mean {number_text(mean, decimals)}, {len(values)} gauged"
