"""Mass, cost and chips."""

from dataclasses import dataclass
from decimal import Decimal

from ditto_run.core.errors import BadEntry
from ditto_run.core.sheets import Knows

# Volume of the chips over that of the metal; common practice, no source
BULK = {"broken": 8, "short curls": 25, "long strings": 60, "fine dust": 4}


@dataclass(frozen=True, slots=True)
class MaterialMass:
    """What the blanks weigh and cost, and what becomes of the rest.

    Args:
        blank_kg: one blank. [kg]
        finished_kg: one finished piece, as its envelope or as typed. [kg]
        all_kg: all blanks with their kerfs. [kg]
        cents: material of all of them. [cents]
        cents_each: of one good piece. [cents]
        chips_litres: chips of all of them, loose. [l]
        bins: bins they fill.
    """

    blank_kg: float
    finished_kg: float
    all_kg: float
    cents: int
    cents_each: int
    chips_litres: float
    bins: float


def material_of(  # noqa: PLR0913, PLR0917 - mass, money and chips hang on all of it
    blank_mm3: float,
    finished_mm3: float,
    started: int,
    good: int,
    density: Decimal,
    cents_per_kg: Decimal | int,
    chip_form: str,
    bin_litres: float,
    bought_mm3: float,
    kerfs_mm3: float = 0.0,
) -> MaterialMass:
    """Return mass, cost and chips of a batch.

    Args:
        blank_mm3: volume of one blank. [mm³]
        finished_mm3: volume of one finished piece. [mm³]
        started: blanks. [pieces]
        good: good pieces wanted. [pieces]
        density: of the material. [g/cm³]
        cents_per_kg: price. [cents/kg]
        chip_form: broken, short curls, long strings or fine dust.
        bin_litres: what one bin holds. [l]
        kerfs_mm3: volume that the cuts of all blanks turn to chips; 0 where nobody has said how they are cut. [mm³]
        bought_mm3: volume bought for all: bars with their kerfs and remnants, or the blanks. [mm³]

    Raises:
        BadEntry: if the finished piece is larger than its blank, or the chip form is unknown.

    Source:
        Density times volume; bulk of chips: common practice, no source.
    """
    if finished_mm3 > blank_mm3:
        raise BadEntry(
            "The finished piece is larger than its blank.",
            "Check the sizes and the finished volume.",
            "finished",
        )
    if chip_form not in BULK:
        raise BadEntry(f"“{chip_form}” is no form of chips.", f"Choose {', '.join(BULK)}.", "chips")
    per_mm3 = float(density) / 1e6
    whole_kg = bought_mm3 * per_mm3
    cents = round(whole_kg * float(cents_per_kg))
    litres = ((blank_mm3 - finished_mm3) * started + kerfs_mm3) * BULK[chip_form] / 1e6
    return MaterialMass(
        blank_mm3 * per_mm3,
        finished_mm3 * per_mm3,
        whole_kg,
        cents,
        round(cents / max(good, 1)),
        litres,
        litres / bin_litres,
    )


NO_MASS: MaterialMass | None = None
MASS_FOUND = Knows("mass", NO_MASS)
"""As Stock has it; None without one."""
