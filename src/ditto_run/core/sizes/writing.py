"""Writes a size back: what is printed reads back the same."""

from decimal import Decimal

from ditto_run.core.sizes.size import Size, decimals_of
from ditto_run.core.units import UNIT_MARKS, angle_text, bare_text, value_text

PREFIX = {"diameter": "Ø", "radius": "R"}


def size_text(size: Size) -> str:
    """Return the size in one canonical form that reads back to the same limits.

    Example:
        >>> from ditto_run.core.sizes.reading import read_size
        >>> size_text(read_size("31.5 +.1 -0", "mm"))
        '31.5 +0.1/0 mm'
    """
    if size.kind in {"thread", "drill"}:
        return size.name
    prefix = PREFIX.get(size.kind, "")
    mark = "" if size.unit == "arcsec" else f" {UNIT_MARKS[size.unit]}"
    if size.name:
        return f"{prefix}{_exact(size.nominal, size)} {size.name}{mark}"
    if size.lower is None and size.upper is None:
        return f"{prefix}{_exact(size.nominal, size)}{mark}"
    if size.lower is None or size.upper is None:
        limit, word = (size.upper, "max") if size.lower is None else (size.lower, "min")
        return f"{prefix}{_exact(limit or Decimal(0), size)}{mark} {word}"
    below, above = size.lower - size.nominal, size.upper - size.nominal
    if below == -above:
        return f"{prefix}{_exact(size.nominal, size)} ±{_exact(above, size)}{mark}"
    return f"{prefix}{_exact(size.nominal, size)} {_signed(above, size)}/{_signed(below, size)}{mark}"


def _exact(value: Decimal, size: Size) -> str:
    """Return all digits of the value, at least as many decimals as were typed."""
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
        None
        if limit is None
        else bare_text(limit, size.unit, max(size.decimals, min(decimals_of(limit.normalize()), 4)))
        for limit in (size.lower, size.upper)
    )
    mark = "" if size.unit == "arcsec" else f" {UNIT_MARKS[size.unit]}"
    if lower is not None and upper is not None:
        return f"{lower} to {upper}{mark}"
    if upper is not None:
        return f"at most {upper}{mark}"
    return f"at least {lower}{mark}" if lower is not None else ""


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
    nominal = value_text(size.nominal, size.unit, max(size.decimals, 0))
    named = f"{size.name}, " if size.name else ""
    limits = limits_text(size)
    if size.kind == "thread":
        return f"thread {size.name}, major diameter {nominal}; checked GO and NO-GO"
    return f"{kinds[size.kind]}{named}{nominal}, " + (f"limits {limits}" if limits else "no limits")
