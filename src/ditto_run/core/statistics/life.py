"""How long a tool or a tap lasts, from those that failed and those that were taken out or still cut."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import exp, log, sqrt
from statistics import fmean

USUAL_SHAPE = 2.0  # wear; common practice, no source
ENOUGH = 3  # failures from which on the shape is found too
TAIL_Z = 1.2815515655446004  # of an 80 % range
ROUNDS = 80


@dataclass(frozen=True, slots=True)
class Used:
    """One tool.

    Args:
        pieces: cut with it, over 0. [pieces or holes]
        failed: it broke or was dull; False: it was taken out while good, or still cuts.
    """

    pieces: float
    failed: bool


@dataclass(frozen=True, slots=True)
class Life:
    """A life.

    Args:
        likely, low, high: pieces by which the asked share has failed, and its 80 % range. [pieces or holes]
        shape: of the Weibull distribution: 1 chance, over 1 wear. [-]
        is_shape_usual: too few failed to find it; it is the usual one.
        failed, count: failures, and tools in all.
    """

    likely: float
    low: float
    high: float
    shape: float
    is_shape_usual: bool
    failed: int
    count: int


def life(used: Sequence[Used], share: float = 0.1) -> Life | None:
    """Return by how many pieces this share of the tools has failed; None while none has.

    Args:
        used: the tools. Those that have not failed count for what they have cut.
        share: of tools, over 0 and under 1. [0 to 1]

    Source:
        Greatest likelihood of the Weibull distribution with those still good as censored; own derivation, held to scipy's fit. With
        fewer than three failures the shape is not found but taken as 2.0, and the range follows from the chi-square distribution.
    """
    failed = [tool.pieces for tool in used if tool.failed]
    if not failed:
        return None
    every = [tool.pieces for tool in used]
    usual = len(failed) < ENOUGH or max(failed) == min(failed)
    shape = USUAL_SHAPE if usual else _shape(failed, every)
    scale = float((sum(t**shape for t in every) / len(failed)) ** (1 / shape))
    gone = -log(1 - share)
    likely = scale * gone ** (1 / shape)
    if usual:
        low, high = _chi_range(len(failed), shape)
    else:
        error = _log_error(failed, every, shape, scale, log(gone))
        low, high = exp(-TAIL_Z * error), exp(TAIL_Z * error)
    return Life(likely, likely * low, likely * high, shape, usual, len(failed), len(used))


def _shape(failed: Sequence[float], every: Sequence[float]) -> float:
    """The shape at which the likelihood is greatest."""
    mean = fmean(log(t) for t in failed)
    top = max(every)

    def slope(shape: float) -> float:
        weights = [float((t / top) ** shape) for t in every]
        mine = sum(w * log(t) for w, t in zip(weights, every, strict=True)) / sum(weights)
        return mine - 1 / shape - mean

    low, high = 0.05, 50.0
    for _ in range(ROUNDS):
        middle = sqrt(low * high)
        low, high = (middle, high) if slope(middle) < 0 else (low, middle)
    return sqrt(low * high)


def _chi_range(failures: int, shape: float) -> tuple[float, float]:
    """80 % range of a life whose shape is known, as shares of the likely one."""
    from scipy.special import chdtri  # noqa: PLC0415 - heavy, and seldom wanted

    longest, shortest = chdtri(2 * failures, 0.9), chdtri(2 * failures, 0.1)
    low, high = (float((2 * failures / x) ** (1 / shape)) for x in (shortest, longest))
    return low, high


def _log_error(
    failed: Sequence[float], every: Sequence[float], shape: float, scale: float, log_gone: float
) -> float:
    """Standard error of the log of a life, from the curvature of the likelihood in log scale and one over shape."""
    sigma, count = 1 / shape, len(failed)
    z = [(log(t) - log(scale)) / sigma for t in every]
    both = sum(x * exp(x) for x in z)
    a = count  # -d²l/dμ² σ²
    b = both + sum(exp(x) for x in z) - count  # -d²l/dμdσ σ², at the greatest likelihood Σ e^z = count
    c = (
        sum(x * x * exp(x) for x in z)
        + 2 * both
        - 2 * sum((log(t) - log(scale)) / sigma for t in failed)
        - count
    )
    cover = a * c - b * b
    var_mu, var_sigma, together = (x * sigma**2 / cover for x in (c, a, -b))
    return sqrt(max(var_mu + log_gone**2 * var_sigma + 2 * log_gone * together, 0.0))
