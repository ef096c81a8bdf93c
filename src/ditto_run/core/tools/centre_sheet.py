"""The centre sheet: what an edge above or below the centre of turning work does to its diameter, its pip and its angles."""

from dataclasses import dataclass
from math import asin, degrees, sqrt

from ditto_run.core.errors import BadEntry
from ditto_run.core.findings import Finding
from ditto_run.core.sheets import Answer, Entries, Entry, Fact, Known, SheetKind
from ditto_run.core.units import bare_length, length_text

SIDES = ("below", "above")
WORTH_MM = 0.005  # on the diameter, from which it is worth a shim; own judgement


@dataclass(frozen=True, slots=True)
class OffCentre:
    """What an edge beside the centre does.

    Args:
        larger_mm: the diameter comes out larger by, once the dial was set at centre height. [mm]
        pip_mm: left at the centre of a face. [mm]
        turns_deg: rake and clearance turn by so much. [°]
    """

    larger_mm: float
    pip_mm: float
    turns_deg: float


def off_centre(across_mm: float, off_mm: float) -> OffCentre:
    """Return what an edge beside the centre does.

    Args:
        across_mm: diameter that is turned. [mm]
        off_mm: above or below, less than the radius. [mm]

    Source:
        The edge stands at √(r² + h²) from the axis where its slide says r; own derivation.

    Example:
        >>> round(off_centre(10, 0.5).larger_mm, 4), off_centre(10, 0.5).pip_mm
        (0.0499, 1.0)
    """
    radius = across_mm / 2
    return OffCentre(2 * (sqrt(radius**2 + off_mm**2) - radius), 2 * off_mm, degrees(asin(off_mm / radius)))


def compute(entries: Entries, known: Known) -> Answer:
    """Return the answer of the centre sheet.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    unit = known.unit
    across, off = float(entries.mm("across", "20")), float(entries.mm("off", "0.3"))
    if off >= across / 2:
        raise BadEntry("The edge does not touch the work at all there.", "Check the height.", "off")
    below = entries.choice("side", SIDES) == "below"
    found = off_centre(across, off)
    less = "rake" if below else "clearance"
    return Answer(
        f"{length_text(found.larger_mm, unit)} larger.",
        f"Put {bare_length(off, unit, 2)} {unit} {'under' if below else 'less under'} it, face, and look for the pip again.",
        (
            Fact(
                "Pip on a face",
                length_text(found.pip_mm, unit, 2),
                "it is cut off, not sheared" if below else "it rubs and breaks",
            ),
            Fact(f"Less {less}", f"{found.turns_deg:.1f}°"),
        ),
        findings=tuple(_findings(found, below=below)),
        result=found,
        source="own derivation; check it after each change of holder or insert, and whenever the slide was turned",
    )


def _findings(found: OffCentre, *, below: bool) -> list[Finding]:
    told = []
    if found.larger_mm > WORTH_MM:
        told.append(
            Finding(
                "tools",
                "ask",
                "off-centre",
                "The diameter comes out wrong, and by another amount at each diameter.",
                "Shim it to the centre; a new offset only hides it.",
                ground=f"{found.larger_mm:.4f}",
            )
        )
    if found.turns_deg > 5:  # noqa: PLR2004 - about the clearance of a usual insert
        what = "digs in and may lift the work" if below else "rubs on its flank"
        told.append(
            Finding(
                "tools", "ask", "off-centre-angle", f"So far off it {what}.", "Shim it before the next cut."
            )
        )
    return told


CENTRE = SheetKind(
    "centre",
    "tools",
    "Centre height of an edge",
    (
        Entry("across", "Diameter it turns"),
        Entry("off", "Off the centre by"),
        Entry("side", "It stands", kind="choose", choices=SIDES),
    ),
    compute,
)
