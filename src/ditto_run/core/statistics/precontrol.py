"""Pre-control: zones of the limits, no statistics kept."""

from collections.abc import Sequence
from enum import StrEnum


class Zone(StrEnum):
    """Where a reading lies: middle half of the limits, outer quarters, outside."""

    GREEN = "middle half"
    YELLOW = "outer quarter"
    RED = "outside"


class PreControl(StrEnum):
    """What pre-control says."""

    GO_ON = "go on"
    ONE_MORE = "gauge the next too"
    SET = "set it"
    STOP = "stop and look"


QUALIFIED = 5


def zone(value: float, lower: float, upper: float) -> Zone:
    """Return the zone of a reading; one at the edge lies in the better one.

    Args:
        value: the reading. [one unit]
        lower: lower limit. [one unit]
        upper: upper limit. [one unit]
    """
    if not lower <= value <= upper:
        return Zone.RED
    quarter = (upper - lower) / 4
    return Zone.GREEN if lower + quarter <= value <= upper - quarter else Zone.YELLOW


def pre_control(values: Sequence[float], lower: float, upper: float) -> PreControl:
    """Return what pre-control says of the newest readings.

    Args:
        values: readings in order since it was last set. [one unit with the limits]
        lower: lower limit. [one unit]
        upper: upper limit. [one unit]

    Source:
        Rules and zones: [precontrol]. A set-up is good after five in a row in the middle half (`is_qualified`).
    """
    if not values:
        return PreControl.ONE_MORE
    zones = [zone(value, lower, upper) for value in values]
    last = zones[-1]
    if last is Zone.RED:
        return PreControl.STOP
    if last is Zone.GREEN:
        return PreControl.GO_ON
    if len(zones) == 1 or zones[-2] is not Zone.YELLOW:
        return PreControl.ONE_MORE
    middle = (lower + upper) / 2
    same = (values[-1] > middle) == (values[-2] > middle)
    return PreControl.SET if same else PreControl.STOP


def is_qualified(values: Sequence[float], lower: float, upper: float) -> bool:
    """Return whether the last five readings in a row lie in the middle half.

    Args:
        values: readings in order since it was last set. [one unit with the limits]
        lower: lower limit. [one unit]
        upper: upper limit. [one unit]
    """
    last = values[-QUALIFIED:]
    return len(last) == QUALIFIED and all(zone(value, lower, upper) is Zone.GREEN for value in last)
