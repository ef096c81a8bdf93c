"""How well the pieces keep to their limits, over the whole batch, and how sure that is."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import sqrt
from statistics import NormalDist, fmean, stdev

from ditto_run.core.statistics.indices import indices

FEWEST = 2
CONFIDENCE = 0.95


@dataclass(frozen=True, slots=True)
class Capability:
    """Mean, spread and overall indices of one dimension.

    Args:
        count: pieces gauged. [pieces]
        mean: their mean. [size's unit]
        spread: sample standard deviation over all of them; None for fewer than two. [size's unit]
        smallest: smallest reading. [size's unit]
        largest: largest reading. [size's unit]
        pp: width of the limits over six spreads; None without two limits or without spread. [-]
        pp_range: its 95 % interval. [-]
        ppk: distance to the nearer limit over three spreads; None without limits or without spread. [-]
        ppk_range: its 95 % interval, approximate. [-]
    """

    count: int
    mean: float
    spread: float | None
    smallest: float
    largest: float
    pp: float | None = None
    pp_range: tuple[float, float] | None = None
    ppk: float | None = None
    ppk_range: tuple[float, float] | None = None


def capability(values: Sequence[float], lower: float | None, upper: float | None) -> Capability | None:
    """Return mean, spread and the overall indices Pp and Ppk with their 95 % intervals.

    Pp = (U − L) / 6 s, interval Pp × sqrt(χ²(α/2 or 1 − α/2; n − 1) / (n − 1));
    Ppk = min(U − m, m − L) / 3 s, interval Ppk ± z × sqrt(1 / 9n + Ppk² / 2(n − 1)).

    Args:
        values: readings that count, one a piece: shape (n,). [size's unit]
        lower: lower limit, or None. [size's unit]
        upper: upper limit, or None. [size's unit]

    Returns:
        The figures; None without readings. Indices are None where there is no spread to divide by. They
        describe these pieces, in whatever order and however often the process was adjusted between them.

    Source:
        [nist] 7.1.3 and 6.1.6 for the indices and the interval of Pp; [bissell] for that of Ppk; values held
        by tests/published/test_capability.py.
    """
    if not values:
        return None
    count, mean = len(values), fmean(values)
    spread = stdev(values) if count >= FEWEST else None
    plain = Capability(count, mean, spread, min(values), max(values))
    if not spread or (lower is None and upper is None):
        return plain
    pp, ppk = indices(mean, spread, lower, upper)
    return Capability(
        count,
        mean,
        spread,
        plain.smallest,
        plain.largest,
        pp,
        None if pp is None else pp_interval(pp, count),
        ppk,
        None if ppk is None else ppk_interval(ppk, count),
    )


def pp_interval(pp: float, count: int) -> tuple[float, float]:
    """Return the 95 % interval of Pp from a sample of so many, readings taken as normally spread, [-]."""
    from scipy.special import chdtri  # noqa: PLC0415 - heavy, and wanted by the report only

    freedom = count - 1
    tail = (1 - CONFIDENCE) / 2
    low, high = (float(chdtri(freedom, share)) for share in (1 - tail, tail))
    return pp * sqrt(low / freedom), pp * sqrt(high / freedom)


def ppk_interval(ppk: float, count: int) -> tuple[float, float]:
    """Return the approximate 95 % interval of Ppk from a sample of so many, [-]."""
    z = NormalDist().inv_cdf(1 - (1 - CONFIDENCE) / 2)
    reach = z * sqrt(1 / (9 * count) + ppk**2 / (2 * (count - 1)))
    return ppk - reach, ppk + reach
