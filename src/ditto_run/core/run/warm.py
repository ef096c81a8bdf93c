"""What a reading of a warm piece would be at 20 °C."""

from decimal import Decimal

from ditto_run.core.part import Characteristic
from ditto_run.core.shop.groups import group_of
from ditto_run.core.statistics.gauges import at_20, is_warm
from ditto_run.core.units import value_text

STEEL = 11.5e-6  # reference 100; gauges are of steel
EXPANDS = {  # 1/K; aluminium and steel: reference 100, the others from memory
    "aluminium": 23e-6,
    "brass": 19e-6,
    "cast iron": 10.5e-6,
    "stainless": 16e-6,
    "alloy steel": STEEL,
    "mild steel": STEEL,
    "titanium": 8.6e-6,
}


def warm_words(
    characteristic: Characteristic,
    value: Decimal | None,
    material: str,
    warmth: tuple[float, float] | None,
    decimals: int,
) -> str:
    """Return what a reading would be at 20 °C, where warmth moves it by more than a tenth of its limits; empty elsewhere.

    The verdict stays that of the reading: let the piece cool, then gauge it.

    Args:
        characteristic: the dimension.
        value: its reading. [size's unit]
        material: of the job, as it is named.
        warmth: of piece and gauge; None while nobody said it. [°C]
        decimals: that are shown.

    Source:
        [iso1], linear expansion; a plastic's varies too much to say.
    """
    size, group = characteristic.size, group_of(material)
    if value is None or warmth is None or size.unit == "arcsec" or size.lower is None or size.upper is None:
        return ""
    expands = EXPANDS.get(group.name) if group is not None else None
    width = float(size.upper - size.lower)
    if expands is None or not width:
        return ""
    cold = at_20(float(value), warmth[0], warmth[1], expands, STEEL)
    if not is_warm(float(value), cold, width):
        return ""
    exact = Decimal(repr(round(cold, decimals)))
    inside = "inside" if size.lower <= Decimal(repr(cold)) <= size.upper else "outside"
    return f"Warm: at 20 °C it is {value_text(exact, size.unit, decimals)}, {inside}. Let it cool, then gauge it."
