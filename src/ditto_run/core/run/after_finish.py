"""What a reading will be once the piece is finished."""

from collections.abc import Sequence
from decimal import Decimal

from ditto_run.core.part import Characteristic, Finish
from ditto_run.core.part.coated import finish_of
from ditto_run.core.part.finish import FACTOR
from ditto_run.core.sizes import limits_text
from ditto_run.core.units import MM_PER_INCH, value_text

PER_UM = {"mm": Decimal("0.001"), "in": Decimal("0.001") / MM_PER_INCH}


def after_finish_words(
    characteristic: Characteristic, value: Decimal | None, finishes: Sequence[Finish]
) -> str:
    """Return where a reading will lie once finished, and whether the drawing's limits are kept; empty without a finish that moves it.

    The verdict stays that of the machined limits: this says what the drawing will make of it.

    Args:
        characteristic: the dimension, machined to limits worked back through its finish.
        value: its reading before it. [size's unit]
        finishes: of the part.

    Source:
        finished = before + factor × build-up, own derivation; the factor 4 of 60° threads is [b1.1].
    """
    finish, drawn = finish_of(characteristic, finishes), characteristic.finished
    if value is None or finish is None or drawn is None or drawn.unit == "arcsec":
        return ""
    factor = FACTOR[characteristic.face]
    low, high = sorted(
        value + factor * build_up * PER_UM[drawn.unit] for build_up in finish.build_up_um(characteristic.face)
    )
    decimals = characteristic.size.decimals
    shown = " to ".join(dict.fromkeys(value_text(one, drawn.unit, decimals) for one in (low, high)))
    under = [drawn.lower is not None and one < drawn.lower for one in (low, high)]
    over = [drawn.upper is not None and one > drawn.upper for one in (low, high)]
    out = [a or b for a, b in zip(under, over, strict=True)]
    how = "outside" if all(under) or all(over) else "maybe outside" if any(out) else "inside"
    return f"After the {finish.name}: {shown}, {how} {limits_text(drawn)}."
