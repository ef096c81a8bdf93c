"""Codes of indexable inserts: shape, clearance, tolerance, kind, size, thickness, corner."""

import re
from dataclasses import dataclass
from decimal import Decimal

from ditto_run.core.errors import BadEntry

# Source: ISO 1832, from memory.
SHAPES = {
    "A": "parallelogram, 85°",
    "B": "parallelogram, 82°",
    "C": "rhombic, 80°",
    "D": "rhombic, 55°",
    "E": "rhombic, 75°",
    "H": "hexagonal",
    "K": "parallelogram, 55°",
    "L": "rectangular",
    "M": "rhombic, 86°",
    "O": "octagonal",
    "P": "pentagonal",
    "R": "round",
    "S": "square",
    "T": "triangular",
    "V": "rhombic, 35°",
    "W": "trigon, 80°",
}
CLEARANCES = {"A": 3, "B": 5, "C": 7, "D": 15, "E": 20, "F": 25, "G": 30, "N": 0, "P": 11}
TOLERANCES = frozenset("AFCHEGJKLMNU")
KINDS = {
    "N": "no hole, no chip breaker",
    "R": "no hole, chip breaker on one side",
    "F": "no hole, chip breaker on both sides",
    "A": "hole, no chip breaker",
    "M": "hole, chip breaker on one side",
    "G": "hole, chip breaker on both sides",
    "W": "countersunk hole on one side, no chip breaker",
    "T": "countersunk hole and chip breaker on one side",
    "Q": "countersunk hole on both sides, no chip breaker",
    "U": "countersunk hole and chip breaker on both sides",
    "X": "as the maker says",
}
THICK = {
    "01": "1.59", "T1": "1.98", "02": "2.38", "T2": "2.78", "03": "3.18", "T3": "3.97", "04": "4.76",
    "05": "5.56", "06": "6.35", "07": "7.94", "09": "9.52",
}  # fmt: skip
CODE = re.compile(r"([A-Z])([A-Z])([A-Z])([A-Z]) ?(\d\d)(T\d|\d\d)(\d\d|M0|00)(?:[ -]?[A-Z0-9/-]{1,12})?")


@dataclass(frozen=True, slots=True)
class Insert:
    """An insert as its code says it.

    Args:
        code: its first seven signs, as they are written.
        shape, kind: in words.
        clearance_deg: of the flank; None for a special one. [°]
        edge_mm: length of the cutting edge, whole millimetres as the code gives it; the diameter of a round one. [mm]
        thick_mm: thickness. [mm]
        radius_mm: of the corner; 0 for a sharp one; None for a round insert. [mm]
    """

    code: str
    shape: str
    kind: str
    clearance_deg: int | None
    edge_mm: int
    thick_mm: Decimal
    radius_mm: Decimal | None

    @property
    def words(self) -> str:
        """What it is, in a line."""
        flank = "clearance special" if self.clearance_deg is None else f"{self.clearance_deg}° clearance"
        corner = (
            "" if self.radius_mm is None else f", corner {self.radius_mm} mm" if self.radius_mm else ", sharp"
        )
        return f"{self.shape}, {flank}, {self.kind}, edge {self.edge_mm} mm, {self.thick_mm} mm thick{corner}"


def read_insert(text: str, field: str = "insert") -> Insert:
    """Return what the code of an insert says.

    Args:
        text: such as CNMG 120408 or DCMT 11T304; what the maker adds behind it is left alone.
        field: named by a refusal.

    Raises:
        BadEntry: if it is no such code, naming the sign that is not.

    Source:
        ISO 1832, from memory.

    Example:
        >>> read_insert("CNMG 120408").words
        'rhombic, 80°, 0° clearance, hole, chip breaker on both sides, edge 12 mm, 4.76 mm thick, corner 0.8 mm'
    """
    said = " ".join(text.upper().split())
    match = CODE.fullmatch(said)
    if match is None:
        raise BadEntry(
            f"“{text[:20]}” is no code of an insert.",
            "Type four letters and six signs, such as CNMG 120408 or DCMT 11T304.",
            field,
        )
    shape, flank, tolerance, kind, edge, thick, radius = match.groups()
    for sign, known, what in (
        (shape, SHAPES, "shape"),
        (flank, {*CLEARANCES, "O"}, "clearance"),
        (tolerance, TOLERANCES, "tolerance class"),
        (kind, KINDS, "kind"),
        (thick, THICK, "thickness"),
    ):
        if sign not in known:
            raise BadEntry(f"{sign} is no {what} of an insert.", "Read the code on its box again.", field)
    corner = None if shape == "R" or radius == "M0" else Decimal(radius) / 10
    return Insert(
        f"{shape}{flank}{tolerance}{kind} {edge}{thick}{radius}",
        SHAPES[shape],
        KINDS[kind],
        CLEARANCES.get(flank),
        int(edge),
        Decimal(THICK[thick]),
        corner,
    )
