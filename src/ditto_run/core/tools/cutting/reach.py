"""How far a tool has to stand out of its holder, against how far it does, and what it bends."""

from dataclasses import dataclass

from ditto_run.core.hold.strength import deflection_mm

MODULUS = {"HSS": 210_000.0, "carbide": 620_000.0}  # of elasticity, those of [beams]. [N/mm²]
CORE = 0.8  # of a fluted tool's diameter, that bends like a plain bar; common practice, no source
SLENDER = {
    "HSS": 4.0,
    "carbide": 6.0,
}  # stick-out over diameter from which a bar chatters; common practice
EARLY = 0.2  # farther out than needed by this share is worth a word; own judgement


@dataclass(frozen=True, slots=True)
class ToolReach:
    """What a tool reaches.

    Args:
        needed_mm: it has to stand out. [mm]
        there_mm: it stands out; None while nobody said it. [mm]
        top_mm: its holder clears what is highest there; None while it is not known how far the tool stands out. [mm]
        flute_mm: the flutes are longer than the cut; negative for shorter, None while not known. [mm]
        bends_mm: at its tip, as far out as needed and as it is; None while the force is not known. [mm]
        slender: stick-out over diameter, as it is, else as needed; None while the diameter is not known. [-]
    """

    needed_mm: float
    there_mm: float | None
    top_mm: float | None
    flute_mm: float | None
    bends_mm: tuple[float, float] | None
    slender: float | None

    @property
    def spare_mm(self) -> float | None:
        """What is left over; negative where it is too short, [mm]; None while not known."""
        return None if self.there_mm is None else self.there_mm - self.needed_mm


@dataclass(frozen=True, slots=True)
class Stands:
    """A tool over its cut.

    Args:
        tip_mm: from what is highest beside the cut down to the tool's tip, its point or lead counted. [mm]
        clear_mm: between the holder and what is highest. [mm]
        there_mm: it stands out. [mm]
        flute_mm: length of its flutes. [mm]
        cut_mm: how deep it cuts, to its tip; None where nothing says. [mm]
        across_mm: its diameter. [mm]
        force_n: that bends it; None where it is not pushed sideways or nobody knows. [N]
        edge: HSS or carbide, which it is made of; a bar's shank is taken as steel where it says HSS.
        fluted: True for a tool that is weakened by flutes.
    """

    tip_mm: float
    clear_mm: float
    there_mm: float | None = None
    flute_mm: float | None = None
    cut_mm: float | None = None
    across_mm: float | None = None
    force_n: float | None = None
    edge: str = "HSS"
    fluted: bool = True


def reach_of(tool: Stands) -> ToolReach:
    """Return what a tool reaches.

    Args:
        tool: over its cut.

    Source:
        needed = depth + point + clearance, own derivation.
    """
    needed = tool.tip_mm + tool.clear_mm
    bends = None
    if tool.force_n is not None and tool.across_mm is not None:
        core = tool.across_mm * (CORE if tool.fluted else 1.0)
        bends = tuple(
            deflection_mm(tool.force_n, out, core, MODULUS[tool.edge])
            for out in (needed, tool.there_mm or needed)
        )
    return ToolReach(
        needed,
        tool.there_mm,
        None if tool.there_mm is None else tool.there_mm - tool.tip_mm,
        None if tool.flute_mm is None or tool.cut_mm is None else tool.flute_mm - tool.cut_mm,
        (bends[0], bends[1]) if bends is not None else None,
        None if not tool.across_mm else (tool.there_mm or needed) / tool.across_mm,
    )
