"""Rows of figures, as they are typed or pasted a line each: touches, profiles, points, lengths wanted."""

import re
from decimal import Decimal

from ditto_run.core.entry.numbers import UNIT, number
from ditto_run.core.entry.signs import normalised
from ditto_run.core.errors import BadEntry, standing_at
from ditto_run.core.units import LengthUnit, to_base

# "0 1/2" is two figures, so a mixed number needs a whole part above zero; in a row "1 1/2" is asked about.
FIGURE = r"[+-]?(?:[1-9]\d*(?: |-(?=\d+/\d))\d+/\d+|\d+/\d+|\d+(?:\.\d*)?|\.\d+)"
CELL = re.compile(rf"({FIGURE}) ?({UNIT})?(?=[ ;,]|$)")
AS_IT_IS = re.compile(r"(?:[-+]?[\d./]{1,12}(?: |$))+")  # nothing in it that has two ways of writing
ONE_OR_TWO = re.compile(r"(?<![\d./-])[1-9]\d* \d+/\d+")
GAP = re.compile(r"[ ;,]+")
TIMES = re.compile(rf"({FIGURE}) ?({UNIT})?(?: ?[xX*] ?(\d{{1,6}})(?![\d.]))?(?:[ ;,]+(.*))?")
FARTHEST_MM = Decimal(100_000)


def lengths_of(text: str, unit: LengthUnit, field: str) -> list[Decimal]:
    """Return the lengths of one row, parted by spaces, semicolons or commas; they may be below zero, [mm].

    Args:
        text: such as `0 1 .410 .430`, `1/2 20 mm -3`, `12,5 30,25`.
        unit: unit of the drawing, for figures without one.
        field: named by a refusal.

    Raises:
        BadEntry: which word is no length, that one is over 100 m, or that a mixed number may be two figures.
        NeedsAnswer: if a comma may part thousands or decimals.

    Example:
        >>> [str(mm) for mm in lengths_of("0 1/2 20 mm", "in", "rows")]
        ['0.0', '12.70', '20']
    """
    line = " ".join(text.split())
    if not AS_IT_IS.fullmatch(line):
        line = " ".join(_clean(word, field) for word in line.split())
    if doubt := ONE_OR_TWO.search(line):
        raise BadEntry(
            f"“{doubt[0]}” can be one figure or two.",
            f"Type {doubt[0].replace(' ', '-')} for one, {doubt[0].replace(' ', '; ')} for two.",
            field,
        )
    found: list[Decimal] = []
    at = 0
    while at < len(line):
        match = CELL.match(line, at)
        if match is None:
            word = line[at:].split(" ")[0]
            raise BadEntry(f"“{word[:20]}” is not a length.", "Type figures parted by spaces.", field)
        found.append(length_mm(match[1], match[2], unit, field))
        gap = GAP.match(line, match.end())
        at = gap.end() if gap else match.end()
    return found


def length_times(text: str, unit: LengthUnit, field: str) -> tuple[Decimal, int | None, str] | None:
    """Return a length, how many, and a name, from one row: `20 in x 4 strut`, [mm]; None if it is no such row.

    Args:
        text: the row.
        unit: unit of the drawing.
        field: named by a refusal.

    Raises:
        BadEntry: if the length is over 100 m.
        NeedsAnswer: if a comma may part thousands or decimals.
    """
    words = text.split(maxsplit=1)
    if not words:
        return None
    match = TIMES.fullmatch(" ".join([_clean(words[0], field), *words[1:]]).replace("×", "x"))
    if match is None:
        return None
    if re.match(r"[xX*] ?[\d.]", match[4] or ""):  # so many, but not a whole number
        return None
    count = int(match[3]) if match[3] else None
    return length_mm(match[1], match[2], unit, field), count, (match[4] or "").strip()


def _clean(word: str, field: str) -> str:
    with standing_at(field):
        return normalised(word)


def length_mm(figure: str, mark: str | None, unit: LengthUnit, field: str) -> Decimal:
    """Return one figure with its sign and unit as a length, [mm].

    Args:
        figure: such as -3, .410 or 1-1/2.
        mark: the unit typed with it; None without one.
        unit: unit of the drawing.
        field: named by a refusal.

    Raises:
        BadEntry: if it is on no rule, or over 100 m.
    """
    with standing_at(field):
        value = number(figure.lstrip("+-"), mark)
    exact = to_base(value.value, value.own(unit)) * (-1 if figure.startswith("-") else 1)
    if abs(exact) > FARTHEST_MM:
        raise BadEntry(f"{figure} is over 100 m.", "Check the decimal point and the unit.", field)
    return exact
