"""Indices of a process: how well its spread from piece to piece would fit its limits, were it held still."""

from collections.abc import Sequence

from ditto_run.core.statistics.charts import individuals


def gaps_of(mean: float, lower: float | None, upper: float | None) -> list[float]:
    """Return how far the mean lies inside each limit there is, the lower first, [size's unit].

    Args:
        mean: of the process. [size's unit]
        lower: lower limit, None where there is none. [size's unit]
        upper: upper limit, likewise. [size's unit]
    """
    return [*([] if lower is None else [mean - lower]), *([] if upper is None else [upper - mean])]


def indices(
    mean: float, spread: float, lower: float | None, upper: float | None
) -> tuple[float | None, float | None]:
    """Return width of the limits over six spreads, and distance to the nearer limit over three, [-]; None without limits.

    Args:
        mean: of the process. [size's unit]
        spread: its standard deviation, over 0. [size's unit]
        lower: lower limit, None where there is none. [size's unit]
        upper: upper limit, likewise. [size's unit]

    Source:
        [nist] 6.1.6.
    """
    gaps = gaps_of(mean, lower, upper)
    width = None if lower is None or upper is None else (upper - lower) / (6 * spread)
    return width, min(gaps) / (3 * spread) if gaps else None


def short_term(
    values: Sequence[float], lower: float | None, upper: float | None
) -> tuple[float | None, float | None]:
    """Return Cp and Cpk from the moving range, [-]: what the process could do; Pp and Ppk say what it did.

    Args:
        values: readings in the order in which the pieces were made, adjustments taken out. [size's unit]
        lower: lower limit, None where there is none. [size's unit]
        upper: upper limit, likewise. [size's unit]

    Source:
        [nist] 6.1.6 with the spread of 6.3.2.2. None where there are fewer than two readings, or no step between them.
    """
    chart = individuals(values)
    return (
        (None, None) if chart is None or not chart.sigma else indices(chart.mean, chart.sigma, lower, upper)
    )
