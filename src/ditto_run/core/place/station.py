"""One station, and the two refusals that never yield: the same zero twice, a code the machine lacks."""

import re
from collections.abc import Collection, Mapping, Sequence
from dataclasses import dataclass
from decimal import Decimal

from ditto_run.core.errors import BadEntry
from ditto_run.core.findings import Finding
from ditto_run.core.shop import Machine, codes_text
from ditto_run.core.units import LengthUnit, to_base

MOST_PIECES = 50
ZeroKey = tuple[str | Decimal, ...]  # offset and shift: equal numbers are equal, however they were typed
LABEL = re.compile(r"[A-Z0-9]{1,4}")


@dataclass(frozen=True, slots=True)
class Station:
    """Where one piece sits, or several alike.

    Args:
        setup: key of the setup it belongs to.
        label: what is stamped on it: one to four letters or digits.
        holds: the holder, such as vise 2.
        offset: work offset code; None for stops or a read-out.
        shift: shift from that offset in X, Y, Z. [unit]
        zero: what the offset is expected to read where no drawing of the table says it; None while not known. [unit]
        unit: unit of shift and zero.
        pieces: how many pieces it takes. [pieces]
        placed: key of the placed holder it is in; 0 without one.
        nest: which nest of that holder, from 0.
        stop: side of its stop, left or right; empty for the house's.
        cycle: key of the cycle it is cut in; 0 for that of its own setup alone.
    """

    setup: int
    label: str
    holds: str = ""
    offset: str | None = None
    shift: tuple[Decimal, Decimal, Decimal] = (Decimal(0), Decimal(0), Decimal(0))
    zero: tuple[Decimal | None, Decimal | None, Decimal | None] = (None, None, None)
    unit: LengthUnit = "mm"
    pieces: int = 1
    placed: int = 0
    nest: int = 0
    stop: str = ""
    cycle: int = 0

    def __hash__(self) -> int:
        """Few of its values are enough to tell it from others; a layout of hundreds is looked up often."""
        return hash((self.setup, self.label, self.offset))

    @property
    def shift_mm(self) -> tuple[Decimal, Decimal, Decimal]:
        """Its shift, exact, [mm]."""
        x, y, z = (to_base(part, self.unit) for part in self.shift)
        return x, y, z

    @property
    def zero_key(self) -> ZeroKey | None:
        """What makes its zero: offset and shift in mm; None without an offset."""
        if self.offset is None:
            return None
        return (self.offset, *self.shift_mm)


def check_station(station: Station, others: Sequence[Station], machine: Machine | None) -> Station:
    """Return the station if it can stand beside the others of its setup.

    Raises:
        BadEntry: if the label is unusable or taken, the machine lacks the code, or another
            station of the same load has the same zero.
    """
    labels = {other.label for other in others}
    zeros = {other.zero_key: other.label for other in others if other.zero_key is not None}
    _check(station, labels, zeros, machine)
    return station


def _check(
    station: Station, labels: Collection[str], zeros: Mapping[ZeroKey, str], machine: Machine | None
) -> None:
    if not LABEL.fullmatch(station.label):
        raise BadEntry(
            f"“{station.label[:20]}” is not a label." if station.label else "No label is typed.",
            "Use one to four letters or digits, such as A.",
            "label",
        )
    if station.label in labels:
        raise BadEntry(f"There is a station {station.label} already.", "Choose another letter.", "label")
    if not 1 <= station.pieces <= MOST_PIECES:
        raise BadEntry("A station takes 1 to 50 pieces.", "Type how many sit in it.", "pieces")
    if station.offset is not None and machine is not None and station.offset not in machine.offset_codes:
        has = (
            f"Choose one of {codes_text(machine.offset_codes)}."
            if machine.offset_codes
            else "Leave it empty: stops or a read-out."
        )
        raise BadEntry(f"{machine.name} has no {station.offset}.", has, "offset")
    key = station.zero_key
    if key is not None and key in zeros:
        raise BadEntry(
            f"{station.label} and {zeros[key]} have the same zero: {station.offset} with the same shift.",
            "Both would be cut in one place. Choose another code, or type the shift between them.",
            "offset",
        )


def place_findings(
    setup_key: int,
    setup_name: str,
    stations: Sequence[Station],
    machine: Machine | None,
    *,
    starts: bool = False,
) -> list[Finding]:
    """Return what Place still wants in one setup: a station, and a code where the machine has offsets.

    The setup a run starts in cannot do without a station; one that comes later can be placed later.
    """
    mine = [station for station in stations if station.setup == setup_key]
    if not mine:
        return [
            Finding(
                "place",
                "ask",
                "nowhere-to-start" if starts else "no-station",
                f"{setup_name} has no station.",
                "Add where the piece sits.",
            )
        ]
    found = []
    labels: set[str] = set()
    zeros: dict[ZeroKey, str] = {}
    for station in mine:
        try:
            _check(station, labels, zeros, machine)
        except BadEntry as refusal:
            found.append(Finding("place", "stop", "zero", refusal.problem, refusal.remedy))
        else:
            found += _wants_offset(station, machine)
        labels.add(station.label)
        key = station.zero_key
        if key is not None:
            zeros.setdefault(key, station.label)
    return found


def together_findings(name: str, stations: Sequence[Station]) -> list[Finding]:
    """Return stations of one cycle that cannot be told apart: the same label, or the same zero, in two of its setups.

    Args:
        name: of the cycle.
        stations: all of its stations.
    """
    found = []
    labels: dict[str, int] = {}
    zeros: dict[ZeroKey, Station] = {}
    for station in stations:
        if labels.setdefault(station.label, station.setup) != station.setup:
            found.append(
                Finding(
                    "place",
                    "stop",
                    "zero",
                    f"{name}: two stations are called {station.label}.",
                    "Give one of them another letter.",
                )
            )
        twin = zeros.setdefault(station.zero_key, station) if station.zero_key is not None else station
        if twin.setup != station.setup:
            found.append(
                Finding(
                    "place",
                    "stop",
                    "zero",
                    f"{name}: {station.label} and {twin.label} have the same zero: {station.offset} with the same shift.",
                    "Both would be cut in one place. Choose another code, or type the shift between them.",
                )
            )
    return found


def _wants_offset(station: Station, machine: Machine | None) -> list[Finding]:
    if machine is None or not machine.offset_codes or station.offset is not None:
        return []
    return [
        Finding(
            "place",
            "ask",
            "no-offset",
            f"Station {station.label} has no {machine.codes_word}.",
            f"Choose one of {codes_text(machine.offset_codes)}.",
        )
    ]
