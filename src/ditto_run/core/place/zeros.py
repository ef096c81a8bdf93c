"""Zeros of one load compared where they really lie: offset plus shift, in machine coordinates."""

from collections.abc import Mapping, Sequence
from decimal import Decimal

from ditto_run.core.findings import Finding
from ditto_run.core.place.offsets import Axis, Offset
from ditto_run.core.place.station import Station
from ditto_run.core.shop import Machine
from ditto_run.core.units import length_text

SAME_MM = Decimal("0.0005")  # under what any control shows
AXES: tuple[Axis, ...] = ("x", "y", "z")


def zero_findings(
    setup_name: str, stations: Sequence[Station], offsets: Mapping[str, Offset], machine: Machine
) -> list[Finding]:
    """Return stations of one load whose zeros are one place, and zeros the machine cannot reach.

    Args:
        setup_name: the setup, for the sentence.
        stations: its stations.
        offsets: the machine's register, by code.
        machine: the machine.
    """
    found = []
    known: list[tuple[str, tuple[Decimal, ...]]] = []
    far: set[str] = set()
    for station in stations:
        offset = offsets.get(station.offset or "")
        if offset is None:
            continue
        at = [offset.mm(axis) for axis in AXES]
        if station.offset not in far:
            out = _beyond(offset, machine)
            far |= {offset.code} if out else set()
            found += out
        if at[0] is None or at[1] is None:
            continue
        spot = tuple((part or Decimal(0)) + by for part, by in zip(at, station.shift_mm, strict=True))
        twin = next((label for label, other in known if _same(spot, other)), None)
        if twin is not None:
            found.append(
                Finding(
                    "place",
                    "stop",
                    "same-zero",
                    f"{setup_name}: {station.label} and {twin} have the same zero in the machine.",
                    "One of them was measured at the wrong station. Find it again, and write it to the register.",
                    f"stations {twin} {station.label}",
                )
            )
        known.append((station.label, spot))
    return found


def _same(one: Sequence[Decimal], other: Sequence[Decimal]) -> bool:
    return all(abs(a - b) <= SAME_MM for a, b in zip(one, other, strict=True))


def _beyond(offset: Offset, machine: Machine) -> list[Finding]:
    """Return the axes of an offset that lie farther out than the machine travels.

    Z is left out: with tools measured from the spindle's nose it may rightly read more than the travel. On a lathe
    X may be a diameter, so a lathe is left out.
    """
    if machine.turns:
        return []
    found = []
    for axis, most in zip(AXES[:2], machine.ability.travel_mm, strict=False):
        value = offset.mm(axis)
        if value is None or not most or abs(value) <= most:
            continue
        shown = length_text(abs(value), machine.wear.unit, 1)
        found.append(
            Finding(
                "place",
                "stop",
                "offset-beyond-travel",
                f"{axis.upper()} of {offset.code} is {shown} out; {machine.name} travels {length_text(most, machine.wear.unit, 0)}.",
                "Check the decimal point and the unit, or the machine's travel on Shop.",
                f"{offset.code} {axis}",
            )
        )
    return found
