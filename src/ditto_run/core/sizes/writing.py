"""Writes a size back: what is printed reads back the same."""

from decimal import Decimal

from ditto_run.core.sizes.geometry import SAID
from ditto_run.core.sizes.size import Size
from ditto_run.core.units import UNIT_MARKS, angle_text, bare_text, decimals_of, value_text

MOST_SHOWN = 5
GEOMETRY = set(SAID.values())
PREFIX = {"diameter": "Ø", "radius": "R"}

SIXTY_FOURTH = 6  # decimals of 1/64 of an inch


def size_text(size: Size) -> str:
    """Return the size in one canonical form that reads back to the same limits.

    Example:
        >>> from ditto_run.core.sizes.reading import read_size
        >>> size_text(read_size("31.5 +.1 -0", "mm"))
        '31.5 +0.1/0 mm'
    """
    if size.kind in {"thread", "drill"} or (size.kind == "angle" and size.name):
        return size.name
    prefix = PREFIX.get(size.kind, "")
    mark = "" if size.unit == "arcsec" else f" {UNIT_MARKS[size.unit]}"
    if size.name in GEOMETRY:
        return f"{size.name} {_exact(size.upper, size)}{mark}"
    return prefix + _figures(size, mark)


def _figures(size: Size, mark: str) -> str:
    """Return nominal and limits with the unit."""
    nominal = _exact(size.nominal, size)
    if size.name:
        return f"{nominal} {size.name}{mark}"
    if size.lower is None or size.upper is None:
        if not size.has_limits:
            return f"{nominal}{mark}"
        return (
            f"{_exact(size.upper, size)}{mark} max"
            if size.lower is None
            else f"{_exact(size.lower, size)}{mark} min"
        )
    if size.as_limits:
        return f"{_exact(size.lower, size)} to {_exact(size.upper, size)}{mark}"
    below, above = size.lower - size.nominal, size.upper - size.nominal
    if below == -above:
        return f"{nominal} ±{_exact(above, size)}{mark}"
    return f"{nominal} {_signed(above, size)}/{_signed(below, size)}{mark}"


def _exact(value: Decimal | None, size: Size) -> str:
    """Return all digits of the value, at least as many decimals as were typed."""
    value = value or Decimal(0)
    if size.unit == "arcsec":
        return angle_text(value)
    places = max(size.decimals, decimals_of(value.normalize()))
    return f"{value:.{places}f}"


def _signed(value: Decimal, size: Size) -> str:
    if not value:
        return "0"
    text = _exact(abs(value), size)
    return f"{'+' if value > 0 else '-'}{text}"


def limits_text(size: Size) -> str:
    """Return the limits as a person reads them, or an empty text if there are none."""
    lower, upper = (
        None if limit is None else bare_text(limit, size.unit, max(size.decimals, _exact_decimals(limit)))
        for limit in (size.lower, size.upper)
    )
    mark = "" if size.unit == "arcsec" else f" {UNIT_MARKS[size.unit]}"
    if lower is not None and upper is not None:
        return f"{lower} to {upper}{mark}"
    if upper is not None:
        return f"at most {upper}{mark}"
    return f"at least {lower}{mark}" if lower is not None else ""


def _exact_decimals(limit: Decimal) -> int:
    """Return the decimals that show a limit as it is, 1/64 inch too; four of one that would take more than six, [any unit]."""
    wanted = decimals_of(limit.normalize())
    return wanted if wanted <= SIXTY_FOURTH else min(wanted, 4)


def understood(size: Size) -> str:
    """Return how a typed size was understood, in one plain line."""
    kinds = {
        "diameter": "diameter ",
        "radius": "radius ",
        "angle": "angle ",
        "length": "",
        "thread": "thread ",
        "drill": "",
    }
    shown = min(max(size.decimals, decimals_of(size.nominal.normalize())), MOST_SHOWN)
    nominal = value_text(size.nominal, size.unit, shown)
    note = f"; {size.note}" if size.note else ""
    named = f"{size.name}, " if size.name else ""
    limits = limits_text(size)
    if size.kind == "thread":
        return f"thread {size.name}, major diameter {nominal}{note}; checked GO and NO-GO"
    if size.name in GEOMETRY:
        return f"{size.name} within {limits.removeprefix('at most ')}{f' {size.note}' if size.note else ''}"
    return f"{kinds[size.kind]}{named}{nominal}, " + (f"limits {limits}" if limits else "no limits") + note
