"""A short study of a gauge: who measured which piece how often, read from lines, and what it says of the gauge."""

from dataclasses import dataclass
from statistics import stdev

from ditto_run.core.errors import BadEntry
from ditto_run.core.sheets.reader import read_as
from ditto_run.core.statistics.gauge_study import Study, study_by_ranges, study_by_variance
from ditto_run.core.statistics.gauges import Adequacy, adequacy, guard_band
from ditto_run.core.units import LengthUnit, convert

MOST_LINES = 120
PLAIN = 5  # readings of one piece by one person that are enough for its scatter; common practice, no source


@dataclass(frozen=True, slots=True)
class GaugeStudied:
    """What a study found, in the gauge's unit.

    Args:
        persons, pieces, repeats: how many.
        repeats_to: standard deviation of one person's readings of one piece. [unit]
        by_ranges, by_variance: of several persons and pieces; None with one of either.
        guard: how far inside a limit a reading has to lie to prove it, at 5 %. [unit]
        fits: against limits so far apart; None where none were said.
    """

    persons: int
    pieces: int
    repeats: int
    repeats_to: float
    by_ranges: Study | None
    by_variance: Study | None
    guard: float
    fits: Adequacy | None


def study_of(text: str, unit: LengthUnit, resolution: float, width: float | None = None) -> GaugeStudied:
    """Return what a study says.

    Args:
        text: a line for each person and piece: RK 1: 20.001 20.002 20.001. One person and one piece, five readings or more, is enough
            for the scatter.
        unit: the gauge reads in.
        resolution: step of its scale. [unit]
        width: how far the limits are apart that it is to judge; None where nobody said. [unit]

    Raises:
        BadEntry: at the line that cannot be read, or where somebody's piece is missing.

    Source:
        [grr], [14253]; one person and one piece: their standard deviation.
    """
    read = _lines(text, unit)
    persons, pieces = (list(dict.fromkeys(key[n] for key in read)) for n in (0, 1))
    counts = {len(values) for values in read.values()}
    if len(counts) != 1 or len(read) != len(persons) * len(pieces):
        raise BadEntry(
            "The study is not full.",
            "Everybody measures every piece equally often, a line for each.",
            "readings",
        )
    repeats = counts.pop()
    ranges = variance = None
    if len(persons) > 1 and len(pieces) > 1 and repeats > 1:
        table = [[read[person, piece] for piece in pieces] for person in persons]
        ranges, variance = study_by_ranges(table), study_by_variance(table)
        to = variance.both
    else:
        groups = [values for values in read.values() if len(values) > 1]
        if sum(map(len, groups)) < PLAIN:
            raise BadEntry(
                "That is too little to say.", f"Measure one piece {PLAIN} times or more.", "readings"
            )
        free = sum(len(values) - 1 for values in groups)
        to = (sum(stdev(values) ** 2 * (len(values) - 1) for values in groups) / free) ** 0.5
    to = max(to, resolution / 12**0.5)  # what is less than the scale's own rounding cannot be seen
    fits = adequacy(resolution, to, width) if width else None
    return GaugeStudied(len(persons), len(pieces), repeats, to, ranges, variance, guard_band(to), fits)


def _lines(text: str, unit: LengthUnit) -> dict[tuple[str, str], list[float]]:
    found: dict[tuple[str, str], list[float]] = {}
    lines = [line.strip() for line in text.splitlines() if line.strip()]
    if not lines:
        raise BadEntry(
            "No reading is there.", "Type a line for each person and piece: RK 1: 20.001 20.002.", "readings"
        )
    if len(lines) > MOST_LINES:
        raise BadEntry(f"Over {MOST_LINES} lines are too many.", "A short study has thirty.", "readings")
    for line in lines:
        head, colon, rest = line.partition(":")
        names = head.split() if colon else []
        if colon and len(names) != 2:  # noqa: PLR2004 - who, and which piece
            raise BadEntry(
                f"“{line[:30]}” does not say who and which piece.",
                "Type it as RK 1: 20.001 20.002.",
                "readings",
            )
        who, piece = names or ("one", "1")
        values = (rest if colon else line).replace(";", " ").split()
        for value in values:
            number = read_as("length", value, unit, "readings")
            found.setdefault((who.upper(), piece), []).append(float(convert(number, "mm", unit)))
    return found
