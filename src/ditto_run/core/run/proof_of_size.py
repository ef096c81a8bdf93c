"""Whether a reading proves that a limit is kept, where a study says how well its gauge repeats."""

from collections.abc import Mapping
from decimal import Decimal

from ditto_run.core.part import Characteristic
from ditto_run.core.shop import Gauge
from ditto_run.core.statistics.gauges import Proof, guard_band, proved
from ditto_run.core.units import convert, small_text


def not_proved(characteristic: Characteristic, value: Decimal | None, gauges: Mapping[int, Gauge]) -> str:
    """Return that a reading proves neither that the limits are kept nor that they are not; empty where it proves one, or nothing is known.

    The verdict stays the drawing's: inside is inside. This says how sure it is.

    Args:
        characteristic: the dimension.
        value: its reading. [size's unit]
        gauges: of the register, by number.

    Source:
        [14253], at 5 %.
    """
    gauge = gauges.get(characteristic.gauge_id or 0)
    size = characteristic.size
    if value is None or gauge is None or gauge.repeats is None or size.unit == "arcsec":
        return ""
    uncertainty = convert(gauge.repeats, gauge.unit, size.unit)
    lower, upper = (None if side is None else float(side) for side in (size.lower, size.upper))
    if proved(float(value), lower, upper, float(uncertainty)) is not Proof.NEITHER:
        return ""
    guard = Decimal(repr(round(guard_band(float(uncertainty)), 6)))
    return f"Not proved either way: within {small_text(guard, size.unit)} of its limit, which is what {gauge.name} tells apart."
