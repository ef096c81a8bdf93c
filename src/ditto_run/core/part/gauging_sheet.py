"""The gauging sheet: every how many loads a size is gauged, by how fast it moves and how much room it has."""

from dataclasses import dataclass
from decimal import Decimal
from math import floor

from ditto_run.core.errors import BadEntry, standing_at
from ditto_run.core.findings import Finding
from ditto_run.core.sheets import Answer, Entries, Entry, Fact, Known, SheetKind
from ditto_run.core.sizes import read_size
from ditto_run.core.units import counted, length_text, to_base

SHARE = Decimal(
    "0.5"
)  # of the way from the middle to a limit a size may go unseen; common practice, no source
HUNDRED = 100
MOST_LOADS = 1000


@dataclass(frozen=True, slots=True)
class GaugingAnswer:
    """Every how many loads a size is gauged.

    Args:
        loads: None where it does not move, and nothing here says how often. [loads]
        unseen_mm: how far it goes between two checks at that. [mm]
        room_mm: from the middle to a limit. [mm]
    """

    loads: int | None
    unseen_mm: Decimal
    room_mm: Decimal


def every_loads(width_mm: Decimal, drift_mm: Decimal, pieces: int) -> GaugingAnswer:
    """Return every how many loads a size is gauged, so that it goes no more than half the way to a limit between two checks.

    loads = floor(width / 2 × 1/2 ÷ (drift of 100 pieces / 100 × pieces of a load at one station)), at least 1

    Args:
        width_mm: upper less lower limit, above 0. [mm]
        drift_mm: in 100 pieces of one station, 0 or more. [mm]
        pieces: of a load at one station, 1 or more. [pieces]

    Source:
        Own derivation; the share is common practice, no source.
    """
    room = width_mm / 2
    load_mm = drift_mm / HUNDRED * pieces
    if not load_mm:
        return GaugingAnswer(None, Decimal(0), room)
    loads = min(max(floor(room * SHARE / load_mm), 1), MOST_LOADS)
    return GaugingAnswer(loads, load_mm * loads, room)


def compute(entries: Entries, known: Known) -> Answer:
    """Return the answer of the gauging sheet.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    with standing_at("size"):
        size = read_size(entries.need("size", "12 ±0.05"), known.unit)
    if size.lower is None or size.upper is None or size.lower == size.upper:
        raise BadEntry("It has no two limits.", "Type it with both, such as 12 ±0.05.", "size")
    width = to_base(size.upper, size.unit) - to_base(size.lower, size.unit)
    drift = entries.mm("drift", "0.012 mm", above=False)
    found = every_loads(width, drift, entries.whole("pieces", 1, 400, 1))
    rate = f"{length_text(drift, known.unit, 4)} in 100 pieces"
    room = Fact("From the middle to a limit", length_text(found.room_mm, known.unit))
    if found.loads is None:
        return Answer(
            "It does not move: gauge it as the whole job.",
            "Its drift is nothing; first, last and after a change stay.",
            (room,),
            result=found,
            source="own derivation",
        )
    often = "every load" if found.loads == 1 else f"every {counted(found.loads, 'load')}"
    findings = []
    why = f"At {rate} it then goes half of the way to a limit at most before it is seen."
    if found.unseen_mm > found.room_mm * SHARE:
        why = f"At {rate} not even each load is soon enough."
        findings.append(
            Finding(
                "part",
                "ask",
                "drifts-in-a-load",
                f"In one load it goes {length_text(found.unseen_mm, known.unit)}, over half of the way to a limit.",
                "Gauge inside the load, dial before each, or take a tool that wears less.",
            )
        )
    return Answer(
        f"Gauge it {often}, besides first and last.",
        why,
        (room, Fact("Unseen between two checks", length_text(found.unseen_mm, known.unit))),
        findings=tuple(findings),
        result=found,
        source="own derivation; half of the way is common practice",
    )


GAUGING = SheetKind(
    "gauging",
    "part",
    "How often gauged",
    (
        Entry("size", "Size"),
        Entry("drift", "Drift in 100 pieces of a station"),
        Entry("pieces", "Pieces of a load at one station"),
    ),
    compute,
)
