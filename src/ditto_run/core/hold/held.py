"""How a piece is held, as far as it is measured: jaws, parallels, grip, which way it lies."""

from dataclasses import dataclass
from decimal import Decimal

from ditto_run.core.entry.rows import lengths_of
from ditto_run.core.errors import BadEntry
from ditto_run.core.part.faces import FACES, Form
from ditto_run.core.units import LengthUnit

ZERO = Decimal(0)


@dataclass(frozen=True, slots=True)
class Holding:
    """What is measured of the holding in one setup; what the register or the job know is not repeated here.

    Args:
        up: face that is up; empty where it follows from what the piece sits on.
        to_stop: face that goes against the stop; empty while not said.
        parallels_mm: height of parallels or riser under the piece. [mm]
        parallel_wide_mm: how thick each parallel is; None while not said. [mm]
        jaw_high_mm: jaws above what the parallels stand on; None where the register says it. [mm]
        jaw_wide_mm: width of the jaws; None where the register says it. [mm]
        grip_mm: how far a chuck or collet grips along the axis, or a step cut into the jaws is deep; None while not said. [mm]
        stick_out_mm: from the chuck to the free end of the piece as it goes in; None while not said. [mm]
        stop_high_mm: top of the stop above what the parallels stand on; None while not said. [mm]
        straps: how far clamps reach onto the face that is up, by the face they stand at: left, right, front, back. [mm]
    """

    up: str = ""
    to_stop: str = ""
    parallels_mm: Decimal = ZERO
    parallel_wide_mm: Decimal | None = None
    jaw_high_mm: Decimal | None = None
    jaw_wide_mm: Decimal | None = None
    grip_mm: Decimal | None = None
    stick_out_mm: Decimal | None = None
    stop_high_mm: Decimal | None = None
    straps: tuple[tuple[str, Decimal], ...] = ()


def read_straps(text: str, unit: LengthUnit) -> tuple[tuple[str, Decimal], ...]:
    """Return how far clamps reach onto the face that is up, as it is typed: `left 15; right 15`.

    Args:
        text: the face each stands at, and how far it reaches.
        unit: of figures typed alone.

    Raises:
        BadEntry: if one is not a face of a block and a length.
    """
    found = []
    for row in filter(None, (part.strip() for part in text.split(";"))):
        face, _, reach = row.partition(" ")
        if face.lower() not in FACES["block"]:
            raise BadEntry(
                f"“{row[:20]}” does not say at which face.", "Type it as left 15; right 15.", "straps"
            )
        lengths = lengths_of(reach, unit, "straps") if reach.strip() else []
        if len(lengths) != 1 or lengths[0] <= 0:
            raise BadEntry(
                f"“{row[:20]}” does not say how far it reaches.", "Type it as left 15; right 15.", "straps"
            )
        found.append((face.lower(), lengths[0]))
    return tuple(found)


def check_held(held: Holding, form: Form) -> Holding:
    """Return how a piece is held if it can be.

    Args:
        held: as said.
        form: block or turned.

    Raises:
        BadEntry: a face the part does not have, or a step deeper than its jaws.
    """
    for name, face in (("up", held.up), ("to_stop", held.to_stop)):
        if face and face not in FACES[form]:
            raise BadEntry(
                f"A {form} part has no face “{face[:20]}”.", f"Its faces are {', '.join(FACES[form])}.", name
            )
    if held.jaw_high_mm is not None and held.parallels_mm >= held.jaw_high_mm:
        raise BadEntry(
            "The parallels reach the top of the jaws: nothing is left to grip.",
            "Take lower parallels.",
            "parallels",
        )
    return held
