"""A study of people, pieces and repeats (R&R), by means and ranges and by analysis of variance."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import sqrt
from statistics import fmean

from ditto_run.core.errors import BadEntry
from ditto_run.core.statistics.ranges import d2, d3

LEVEL = 0.25  # chance from which on an interaction is taken as scatter
DISTINCT = 1.41


@dataclass(frozen=True, slots=True)
class Study:
    """What a study of people, pieces and repeats found, as standard deviations in the unit of the readings.

    Args:
        repeatability: of the same person on the same piece.
        reproducibility: between persons.
        interaction: persons differ on some pieces more than on others; 0 where it is taken as scatter.
        pieces: between pieces.
        both: repeatability and what persons add.
        total: all of it.
    """

    repeatability: float
    reproducibility: float
    interaction: float
    pieces: float
    both: float
    total: float

    @property
    def share(self) -> float:
        """Gauge and persons over everything, [-]."""
        return self.both / self.total if self.total else 0.0

    @property
    def classes(self) -> int:
        """How many classes of pieces the gauge tells apart; five are wanted."""
        return int(DISTINCT * self.pieces / self.both) if self.both else 0


Readings = Sequence[Sequence[Sequence[float]]]


def study_by_ranges(readings: Readings) -> Study:
    """Return the study by means and ranges.

    Args:
        readings: by person, piece, repeat, shape (p, n, r), all full, two or more of each. [one unit]

    Raises:
        BadEntry: it is not full, or there are fewer than two of something.

    Source:
        Means and ranges; the constants are those of the range of one sample of that size (d2*), own derivation; held to [grr].
    """
    persons, pieces, repeats = _shape(readings)
    spread = fmean(max(r) - min(r) for one in readings for r in one) / d2(repeats)
    means = [fmean(fmean(r) for r in one) for one in readings]
    between = (max(means) - min(means)) / one_range(persons)
    person = sqrt(max(between**2 - spread**2 / (pieces * repeats), 0.0))
    averages = [fmean(fmean(one[i]) for one in readings) for i in range(pieces)]
    piece = (max(averages) - min(averages)) / one_range(pieces)
    both = sqrt(spread**2 + person**2)
    return Study(spread, person, 0.0, piece, both, sqrt(both**2 + piece**2))


def one_range(count: int) -> float:
    """Return d2* for one range of so many readings: the divisor that makes the square of the range fair, sqrt(d2² + d3²), [-]."""
    return sqrt(d2(count) ** 2 + d3(count) ** 2)


def study_by_variance(readings: Readings) -> Study:
    """Return the study by analysis of variance, two ways with repeats, persons and pieces drawn at random.

    Args:
        readings: by person, piece, repeat, shape (p, n, r), all full, two or more of each. [one unit]

    Raises:
        BadEntry: it is not full, or there are fewer than two of something.

    Source:
        Two-way random effects; an interaction that is not shown at 25 % goes into the scatter; held to [grr].
    """
    from scipy.special import fdtrc  # noqa: PLC0415 - heavy, and seldom wanted

    persons, pieces, repeats = _shape(readings)
    grand = fmean(v for one in readings for r in one for v in r)
    cells = [[fmean(r) for r in one] for one in readings]
    rows = [fmean(one) for one in cells]
    columns = [fmean(one[i] for one in cells) for i in range(pieces)]
    of_person = pieces * repeats * sum((m - grand) ** 2 for m in rows)
    of_piece = persons * repeats * sum((m - grand) ** 2 for m in columns)
    of_both = repeats * sum(
        (cells[p][i] - rows[p] - columns[i] + grand) ** 2 for p in range(persons) for i in range(pieces)
    )
    error = sum((v - cells[p][i]) ** 2 for p in range(persons) for i in range(pieces) for v in readings[p][i])
    free_both, free = (persons - 1) * (pieces - 1), persons * pieces * (repeats - 1)
    mean_both, scatter = of_both / free_both, error / free
    together = not scatter or fdtrc(free_both, free, mean_both / scatter) > LEVEL
    if together:
        scatter = (of_both + error) / (free_both + free)
        mean_both = scatter
    mean_person, mean_piece = of_person / (persons - 1), of_piece / (pieces - 1)
    interaction = 0.0 if together else max((mean_both - scatter) / repeats, 0.0)
    person = max((mean_person - mean_both) / (pieces * repeats), 0.0)
    piece = max((mean_piece - mean_both) / (persons * repeats), 0.0)
    both = scatter + person + interaction
    return Study(*(sqrt(x) for x in (scatter, person, interaction, piece, both, both + piece)))


def _shape(readings: Readings) -> tuple[int, int, int]:
    persons = len(readings)
    pieces = len(readings[0]) if readings else 0
    repeats = len(readings[0][0]) if pieces else 0
    if min(persons, pieces, repeats) < 2:  # noqa: PLR2004 - one of anything says nothing of it
        raise BadEntry(
            "The study needs two persons, two pieces and two repeats at least.",
            "Measure more of what is one.",
        )
    if any(len(one) != pieces or any(len(r) != repeats for r in one) for one in readings):
        raise BadEntry(
            "Not every person has measured every piece equally often.",
            "Fill the gaps, or leave the piece out.",
        )
    return persons, pieces, repeats
