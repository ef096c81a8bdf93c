"""Fills a sheet of finding zero from the probe: the same texts a hand would type."""

from collections.abc import Callable, Sequence

from ditto_run.core.errors import BadEntry, NotNow
from ditto_run.core.place import Seat, Standing, ring
from ditto_run.core.place.placed import Spot
from ditto_run.core.shop import Machine
from ditto_run.core.units import MM_PER_INCH, LengthUnit
from ditto_run.devices.probe import Faults, SimulatedProbe, probe_edge, probe_round

PAD_MM = 50.0
PROBED = {"edge", "halves", "corner", "bore", "height"}  # sheets the probe can fill
ALONG = {"left": (1.0, 0.0), "right": (-1.0, 0.0), "front": (0.0, 1.0), "back": (0.0, -1.0)}


def probed_texts(
    kind: str, machine: Machine, standings: Sequence[Standing], label: str, faults: Faults
) -> dict[str, str]:
    """Return the entries of a sheet as the probe finds them at a station, in the control's unit.

    Args:
        kind: the sheet.
        machine: whose table it is.
        standings: what stands on it.
        label: station that is meant.
        faults: what goes wrong.

    Raises:
        BadEntry: if no such station is laid out.
        NotNow: if the station has nothing this sheet could touch.
    """
    if machine.bed is None or kind not in PROBED:
        raise NotNow("The probe cannot fill this sheet.", "Type what the read-out shows.")
    seats = [(standing, seat) for standing in standings for seat in standing.seats]
    meant = next((n for n, (_, seat) in enumerate(seats) if seat.label == label), None)
    if meant is None:
        raise BadEntry(f"No station {label} is laid out.", "Choose one of the layout.", "station")
    standing, seat = seats[(meant + 1) % len(seats)] if faults.wrong else seats[meant]
    probe = SimulatedProbe(
        standing, seat, machine.bed, faults, f"{machine.id} {standing.placed.key} {seat.label} {kind}"
    )
    return _FILL[kind](probe, standing, seat, machine.wear.unit)


def _text(value_mm: float, unit: LengthUnit) -> str:
    return f"{value_mm / float(MM_PER_INCH):.4f}" if unit == "in" else f"{value_mm:.3f}"


def _shared(probe: SimulatedProbe, unit: LengthUnit) -> dict[str, str]:
    return {"shown": unit, "probe": f"{probe.ball_mm:g} mm"}


def _lines(spots: Sequence[Spot], unit: LengthUnit) -> str:
    return "\n".join(f"{_text(x, unit)} {_text(y, unit)}" for x, y in spots)


def _box(probe: SimulatedProbe, seat: Seat) -> tuple[float, float, float, float]:
    points = [probe.machine(spot) for spot in ring(seat.piece)]
    if not points or not seat.jaw:
        raise NotNow(
            "This station has no edges to touch.",
            "Choose one in a vise, with the size of its piece; or use Bore or boss.",
        )
    return (
        min(x for x, _ in points),
        min(y for _, y in points),
        max(x for x, _ in points),
        max(y for _, y in points),
    )


def _edge(probe: SimulatedProbe, _standing: Standing, seat: Seat, unit: LengthUnit) -> dict[str, str]:
    x1, y1, x2, y2 = _box(probe, seat)
    side = "left" if "left" in seat.corner else "right"
    found = probe_edge(probe, (x1 if side == "left" else x2, y1 + (y2 - y1) / 3), ALONG[side], 4)
    return _shared(probe, unit) | {"side": side, "touches": " ".join(_text(x, unit) for x, _ in found)}


def _halves(probe: SimulatedProbe, _standing: Standing, seat: Seat, unit: LengthUnit) -> dict[str, str]:
    x1, y1, x2, y2 = _box(probe, seat)
    at = y1 + (y2 - y1) / 3
    one, other = probe_edge(probe, (x1, at), ALONG["left"], 4), probe_edge(probe, (x2, at), ALONG["right"], 4)
    return _shared(probe, unit) | {
        "axis": "X",
        "kind_of": "outside",
        "first": " ".join(_text(x, unit) for x, _ in one),
        "second": " ".join(_text(x, unit) for x, _ in other),
    }


def _corner(probe: SimulatedProbe, _standing: Standing, seat: Seat, unit: LengthUnit) -> dict[str, str]:
    x1, y1, x2, y2 = _box(probe, seat)
    jaw_side, stop_side = (
        ("back" if "back" in seat.corner else "front"),
        ("left" if "left" in seat.corner else "right"),
    )
    ends = sorted(probe.machine(spot)[0] for spot in ring(seat.jaw))
    towards = ALONG["front" if jaw_side == "back" else "back"]
    out = probe.ball_mm
    free = [
        x
        for x in (ends[0] + out, (ends[0] + x1 - out) / 2, (ends[1] + x2 + out) / 2, ends[1] - out)
        if not x1 - out < x < x2 + out
    ]
    if len(free) < 2:  # noqa: PLR2004 - a line has two ends
        raise NotNow("The piece covers the jaw.", "Take it out, or find its edges one by one.")
    middle = (y1 + y2) / 2
    along = [probe.touch((x, middle), towards) for x in free]
    edge = [
        probe.touch((x1 - 60 if stop_side == "left" else x2 + 60, y), ALONG[stop_side])
        for y in (y1 + (y2 - y1) / 4, middle)
    ]
    return _shared(probe, unit) | {
        "along": _lines(along, unit),
        "stop": _lines(edge, unit),
        "jaw_side": jaw_side,
        "stop_side": stop_side,
    }


def _bore(probe: SimulatedProbe, standing: Standing, seat: Seat, unit: LengthUnit) -> dict[str, str]:
    if seat.jaw:
        raise NotNow("This station has no bore to touch.", "Choose a pallet or a chuck; or use One edge.")
    found = probe_round(probe, probe.machine(probe.middle(standing, seat)), 6)
    return _shared(probe, unit) | {"kind_of": "bore", "points": _lines(found, unit)}


def _height(probe: SimulatedProbe, _standing: Standing, seat: Seat, unit: LengthUnit) -> dict[str, str]:
    at = float(seat.zero_mm[0]), float(seat.zero_mm[1])
    found = [probe.down(at) + PAD_MM for _ in range(4)]
    return {
        "shown": unit,
        "how": "pad",
        "between": f"{PAD_MM:g} mm",
        "touches": " ".join(_text(z, unit) for z in found),
    }


_FILL: dict[str, Callable[[SimulatedProbe, Standing, Seat, LengthUnit], dict[str, str]]] = {
    "edge": _edge,
    "halves": _halves,
    "corner": _corner,
    "bore": _bore,
    "height": _height,
}
