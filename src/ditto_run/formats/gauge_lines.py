"""Text lines as gauges send them over a cable: a number with or without its unit, its sign apart, a channel before it."""

import re
from dataclasses import dataclass

from ditto_run.core.errors import BadEntry
from ditto_run.core.units import LengthUnit

LINE = re.compile(
    r"(?:(?P<channel>[A-Z]{0,3}\d{1,2}[AN]?)[ ,:;=]*(?=[+\-−]))?"  # a channel stands before a sign, or not at all
    r"[ ]*(?P<sign>[+\-−]?)[ ]*(?P<number>\d{1,6}(?:[.,]\d{1,7})?)[ ]*(?P<unit>mm|MM|in|IN|inch|\")?",
    re.ASCII,
)
LONGEST = 60


@dataclass(frozen=True, slots=True)
class GaugeLine:
    """One line of a gauge: the number as text, its unit; None where it says none, and its channel, empty for none."""

    text: str
    unit: LengthUnit | None
    channel: str = ""


def read_line(line: str) -> GaugeLine:
    """Return what a gauge sent.

    Args:
        line: as it came, its end included.

    Raises:
        BadEntry: if it is no reading.
    """
    bare = line.strip("\r\n\t \x00")
    found = LINE.fullmatch(bare) if len(bare) <= LONGEST else None
    if found is None:
        raise BadEntry(
            f"“{bare[:30]}” is no reading of a gauge.", "It sends lines such as +020.0130 mm.", "text"
        )
    digits = found["number"].replace(",", ".").lstrip("0") or "0"
    digits = f"0{digits}" if digits.startswith(".") else digits
    sign = "-" if found["sign"] in {"-", "−"} else ""
    marks = found["unit"]
    unit: LengthUnit | None = None if marks is None else "mm" if marks.lower() == "mm" else "in"
    return GaugeLine(f"{sign}{digits}", unit, found["channel"] or "")
