"""Statistics against docs/sources.md: constants of ranges, charts, run rules, tolerance factors, gauge studies; and against scipy."""

from itertools import pairwise
from math import log, sqrt

import numpy as np
import pytest
from scipy import stats

from ditto_run.core.errors import BadEntry
from ditto_run.core.statistics.charts import from_nominal, individuals, spreads_alike
from ditto_run.core.statistics.cumulative import cumulative_sum
from ditto_run.core.statistics.gauge_study import study_by_ranges, study_by_variance
from ditto_run.core.statistics.gauges import Fitness, Proof, adequacy, at_20, guard_band, is_warm, proved
from ditto_run.core.statistics.indices import indices, short_term
from ditto_run.core.statistics.life import Used, life
from ditto_run.core.statistics.precontrol import PreControl, Zone, is_qualified, pre_control, zone
from ditto_run.core.statistics.ranges import c4, d2, d3, range_limits
from ditto_run.core.statistics.run_rules import RULES, run_rules
from ditto_run.core.statistics.sampling import Severity, sample, to_gauge
from ditto_run.core.statistics.tolerance import enough, one_sided, share_counted, share_within, two_sided

INDIVIDUALS = [49.6, 47.6, 49.9, 51.3, 47.8, 51.2, 52.6, 52.4, 53.6, 52.1]  # [nist] 6.3.2.2

# [grr] ten pieces, three persons, three repeats; from memory, the published results are reproduced
STUDY = [
    [
        [0.29, 0.41, 0.64],
        [-0.56, -0.68, -0.58],
        [1.34, 1.17, 1.27],
        [0.47, 0.50, 0.64],
        [-0.80, -0.92, -0.84],
        [0.02, -0.11, -0.21],
        [0.59, 0.75, 0.66],
        [-0.31, -0.20, -0.17],
        [2.26, 1.99, 2.01],
        [-1.36, -1.25, -1.31],
    ],
    [
        [0.08, 0.25, 0.07],
        [-0.47, -1.22, -0.68],
        [1.19, 0.94, 1.34],
        [0.01, 1.03, 0.20],
        [-0.56, -1.20, -1.28],
        [-0.20, 0.22, 0.06],
        [0.47, 0.55, 0.83],
        [-0.63, 0.08, -0.34],
        [1.80, 2.12, 2.19],
        [-1.68, -1.62, -1.50],
    ],
    [
        [0.04, -0.11, -0.15],
        [-1.38, -1.13, -0.96],
        [0.88, 1.09, 0.67],
        [0.14, 0.20, 0.11],
        [-1.46, -1.07, -1.45],
        [-0.29, -0.67, -0.49],
        [0.02, 0.01, 0.21],
        [-0.46, -0.56, -0.49],
        [1.77, 1.45, 1.87],
        [-1.49, -1.77, -2.16],
    ],
]


@pytest.mark.parametrize(
    ("count", "mean", "spread", "unbiased", "low", "high"),
    [
        (2, 1.12838, 0.85250, 0.79788, 0, 3.2665),
        (5, 2.32593, 0.86408, 0.93999, 0, 2.1145),
        (7, 2.70436, 0.83321, 0.95937, 0.0757, 1.9243),
        (25, 3.93063, 0.70844, 0.98964, 0.4593, 1.5407),
    ],
)
def test_constants_of_ranges(count, mean, spread, unbiased, low, high) -> None:
    """[constants]; the table's D4 of two is 3.2665, ours is worked out finer."""
    assert d2(count) == pytest.approx(mean, abs=6e-6)
    assert d3(count) == pytest.approx(spread, abs=2e-4)
    assert c4(count) == pytest.approx(unbiased, abs=6e-6)
    assert range_limits(count) == pytest.approx((low, high), abs=4e-4)


def test_individuals_of_the_handbook() -> None:
    found = individuals(INDIVIDUALS)
    assert found.moving == pytest.approx(1.8778, abs=5e-5)
    assert (found.low, found.high) == pytest.approx((45.8159, 55.8041), abs=2e-3)
    assert found.outside == found.jumped == ()
    assert individuals([*INDIVIDUALS, 60.0]).outside == (10,)
    assert individuals([1.0]) is None


def test_deviations_from_nominal_are_the_chart_of_what_is_left() -> None:
    nominals = [10, 20, 10, 35, 35, 20, 10, 20, 35, 10]
    shifted = [v - 50 + n for v, n in zip(INDIVIDUALS, nominals, strict=True)]
    assert from_nominal(shifted, nominals).sigma == pytest.approx(individuals(INDIVIDUALS).sigma)


def test_unlike_spreads_are_seen_as_scipy_sees_them() -> None:
    groups = [[1.0, 2.0, 1.5, 1.7], [1.0, 4.0, 2.5], [0.2, 0.9, 1.4, 3.3, 2.2]]
    assert spreads_alike(groups) == pytest.approx(stats.bartlett(*groups).pvalue)
    assert spreads_alike([[1.0, 1.0], [1.0, 2.0]]) == 1.0
    assert spreads_alike([[1.0], [1.0, 2.0]]) == 1.0


SEQUENCES = {  # each just complete at its last reading
    "one beyond three sigma": [0.1, -0.1, 3.1],
    "nine in a row on one side": [0.2, 0.1] * 4 + [0.3],
    "six in a row up or down": [-0.5, -0.3, -0.1, 0.1, 0.3, 0.5],
    "fourteen up and down in turn": [0.1, -0.1] * 7,
    "two of three beyond two sigma": [0.1, 2.1, -0.5, 2.2],
    "four of five beyond one sigma": [1.1, 1.2, 0.5, 1.2, 1.3],
    "fifteen within one sigma": [0.1, -0.1, 0.2, 0.3, -0.2] * 3,
    "eight in a row beyond one sigma": [1.5, -1.5, 1.4, 1.3, -1.4, -1.3, 1.5, -1.2],
}
FIRST = [2, 8, 5, 13, 3, 4, 14, 7]  # [rules]


@pytest.mark.parametrize(("rule", "at"), list(zip(SEQUENCES, FIRST, strict=True)))
def test_a_rule_speaks_when_its_pattern_is_complete_and_not_before(rule, at) -> None:
    z = SEQUENCES[rule]
    assert len(z) == at + 1
    for sign in (1, -1):
        values = [20 + sign * 0.01 * x for x in z]
        assert [signal.at for signal in run_rules(values, 20, 0.01, [rule])] == [at]
        assert run_rules(values[:-1], 20, 0.01, [rule]) == []
    assert set(SEQUENCES) == set(RULES)


def test_a_coarse_gauge_that_reads_the_centre_does_not_hide_the_fifteen_within_one_sigma() -> None:
    assert [signal.at for signal in run_rules([0.0, 0.1, 0.0] * 5, 0, 1, ["fifteen within one sigma"])] == [
        14
    ]


def test_one_beyond_three_sigma_speaks_once_in_370() -> None:
    """2 (1 − Φ(3)) = 0.0027, by scipy's normal distribution and our own count."""
    z = np.random.default_rng(1).standard_normal(60_000)
    spoke = len(run_rules(list(z), 0, 1, ["one beyond three sigma"]))
    assert spoke == pytest.approx(60_000 * 2 * stats.norm.sf(3), rel=0.15)


def markov_run_length(slack: float, limit: float, shift: float, states: int = 200) -> float:
    """Mean run length of a one-sided sum as a chain of many states; own derivation, linear algebra by numpy."""
    width = 2 * limit / (2 * states - 1)
    at = np.arange(states) * width
    edge = at[None, :] - at[:, None] + slack - shift
    chance = stats.norm.cdf(edge + width / 2) - stats.norm.cdf(edge - width / 2)
    chance[:, 0] = stats.norm.cdf(-at + slack - shift + width / 2)
    return float(np.linalg.solve(np.eye(states) - chance, np.ones(states))[0])


def test_a_cumulative_sum_runs_as_long_as_the_chain_says() -> None:
    """[cusum]: slack ½, limit 4: 168 readings without a shift, 8.4 with one of 1 σ, two-sided; the chain gives the same."""
    assert markov_run_length(0.5, 4, 0) / 2 == pytest.approx(168, rel=0.01)
    both = 1 / (1 / markov_run_length(0.5, 4, 1) + 1 / markov_run_length(0.5, 4, -1))
    assert both == pytest.approx(8.38, rel=0.01)
    rng = np.random.default_rng(4)
    seen = [cumulative_sum(list(rng.standard_normal(200) + 1), 0, 1, 0.5, 4).signal + 1 for _ in range(600)]
    assert np.mean(seen) == pytest.approx(both, rel=0.06)


def test_a_cumulative_sum_says_since_when_and_how_far() -> None:
    values = [20.0, 20.01, 19.99] * 4 + [20.012] * 12
    found = cumulative_sum(values, 20, 0.01)
    assert found.signal is not None
    assert 10 <= found.since <= 13
    assert found.shift == pytest.approx(1.2, abs=0.4)
    assert cumulative_sum(values[:12], 20, 0.01).signal is None
    down = cumulative_sum([40 - v for v in values], 20, 0.01)
    assert (down.signal, down.since, down.shift) == (found.signal, found.since, pytest.approx(-found.shift))


def test_pre_control_zones_of_a_process_that_just_fits() -> None:
    """[precontrol]: Cp 1, centred: green 86.64 %, each yellow 6.546 %, red 0.27 %, five greens 48.8 %."""
    z = np.linspace(-6, 6, 120_001)
    weight = stats.norm.pdf(z) * (z[1] - z[0])
    zones = np.array([zone(x, -3, 3) for x in z])
    share = {one: float(weight[zones == one].sum()) for one in Zone}
    assert share[Zone.GREEN] == pytest.approx(0.8664, abs=2e-4)
    assert share[Zone.YELLOW] == pytest.approx(2 * 0.06546, abs=2e-4)
    assert share[Zone.RED] == pytest.approx(0.0027, abs=2e-4)
    assert share[Zone.GREEN] ** 5 == pytest.approx(0.488, abs=1e-3)


@pytest.mark.parametrize(
    ("values", "said"),
    [
        ([], PreControl.ONE_MORE),
        ([20.005], PreControl.GO_ON),
        ([20.006], PreControl.ONE_MORE),
        ([20.006, 20.0], PreControl.GO_ON),
        ([20.006, 20.008], PreControl.SET),
        ([20.006, 19.993], PreControl.STOP),
        ([20.0, 20.011], PreControl.STOP),
        ([20.010], PreControl.ONE_MORE),
    ],
)
def test_pre_control(values, said) -> None:
    assert pre_control(values, 19.99, 20.01) is said


def test_a_setting_is_qualified_by_five_in_a_row() -> None:
    assert is_qualified([20.02, *[20.0] * 5], 19.99, 20.01)
    assert not is_qualified([20.0] * 4, 19.99, 20.01)
    assert not is_qualified([*[20.0] * 4, 20.006], 19.99, 20.01)


def test_indices_of_the_handbook_and_of_the_moving_range() -> None:
    """[nist] Cp 1.0, Cpk 0.667; the moving range by numpy."""
    assert indices(16, 2, 8, 20) == pytest.approx((1.0, 2 / 3))
    assert indices(0.1, 0.1, 0.0, None) == (None, pytest.approx(1 / 3))
    sigma = np.abs(np.diff(INDIVIDUALS)).mean() / 1.12838
    assert short_term(INDIVIDUALS, 45, 55)[0] == pytest.approx(10 / (6 * sigma), rel=1e-5)
    assert short_term([5.0, 5.0], 4, 6) == (None, None)


@pytest.mark.parametrize(("count", "k"), [(5, 4.2027), (10, 2.9110), (30, 2.2198), (100, 1.9265)])
def test_one_sided_factors(count, k) -> None:
    assert one_sided(count, 0.95, 0.95) == pytest.approx(k, abs=6e-5)


@pytest.mark.parametrize(
    ("count", "share", "confidence", "k"),
    [(5, 0.95, 0.95, 5.0769), (10, 0.95, 0.95, 3.3934), (43, 0.90, 0.99, 2.2228), (30, 0.9973, 0.95, 3.9044)],
)
def test_two_sided_factors(count, share, confidence, k) -> None:
    """[tolerance], printed by the package named there."""
    assert two_sided(count, share, confidence) == pytest.approx(k, abs=6e-5)


def test_readings_that_are_enough() -> None:
    assert [enough(*x) for x in ((0.95, 0.95), (0.9, 0.9), (0.9, 0.95), (0.99, 0.95))] == [59, 22, 29, 299]
    assert enough(0.95, 0.95, both_ends=True) == 93


@pytest.mark.parametrize(("good", "count"), [(0, 5), (29, 30), (30, 30), (12, 40)])
def test_counted_share_as_scipy_has_it(good, count) -> None:
    exact = stats.binomtest(good, count).proportion_ci(0.95, "exact")
    assert share_counted(good, count) == pytest.approx((exact.low, exact.high))


def test_share_within_one_limit_turns_the_one_sided_factor_round() -> None:
    """At mean + 2.9110 s, ten readings show 95 % below it with 95 %: the lower end of a 90 % interval."""
    values = np.random.default_rng(2).standard_normal(10)
    upper = values.mean() + one_sided(10, 0.95, 0.95) * values.std(ddof=1)
    likely, low, high = share_within(list(values), None, upper, 0.90)
    assert low == pytest.approx(0.95, abs=1e-6)
    assert low < likely < high
    assert share_within([1.0, 1.0], 0, 2) is None


def test_share_within_two_limits_holds_the_truth_at_least_as_often_as_it_says() -> None:
    rng, held, truth = np.random.default_rng(3), 0, stats.norm.cdf(2.5) - stats.norm.cdf(-1.8)
    for _ in range(150):
        _, low, high = share_within(list(rng.standard_normal(12)), -1.8, 2.5, 0.9)
        held += low <= truth <= high
    assert 0.86 <= held / 150 <= 1.0


def test_a_study_by_means_and_ranges() -> None:
    """[grr]: repeatability .20188, reproducibility .22963, both .30575, pieces 1.10456, all 1.14610, 26.68 %, 5 classes."""
    found = study_by_ranges(STUDY)
    figures = (found.repeatability, found.reproducibility, found.both, found.pieces, found.total)
    assert figures == pytest.approx((0.20188, 0.22963, 0.30575, 1.10456, 1.14610), abs=2e-4)
    assert (round(100 * found.share, 2), found.classes) == (26.68, 5)


def test_a_study_by_variance() -> None:
    """[grr]: .199933, .226838, no interaction, .302373, 1.042327; the sums of squares again by numpy's least squares."""
    found = study_by_variance(STUDY)
    figures = (found.repeatability, found.reproducibility, found.interaction, found.both, found.pieces)
    assert figures == pytest.approx((0.199933, 0.226838, 0, 0.302373, 1.042327), abs=2e-6)
    data = np.array(STUDY)
    grid = [(p, i) for p in range(3) for i in range(10) for _ in range(3)]
    design = np.array([[1.0, *(p == j for j in (1, 2)), *(i == j for j in range(1, 10))] for p, i in grid])
    rest = np.linalg.lstsq(design, data.ravel(), rcond=None)[1]
    assert found.repeatability == pytest.approx(sqrt(float(rest[0]) / (90 - 12)))


def test_persons_who_differ_on_some_pieces_show_as_an_interaction() -> None:
    twisted = [
        [[v + 0.4 * (p - 1) * (i - 4.5) for v in r] for i, r in enumerate(one)] for p, one in enumerate(STUDY)
    ]
    assert study_by_variance(twisted).interaction > 0.5


@pytest.mark.parametrize("readings", [[], [[[1.0, 2.0]]], [[[1.0, 2.0], [1.0, 2.0]], [[1.0, 2.0], [1.0]]]])
def test_a_study_with_gaps_is_refused(readings) -> None:
    with pytest.raises(BadEntry, match=r"study needs|equally often"):
        study_by_variance(readings)


@pytest.mark.parametrize(
    ("resolution", "repeatability", "fitness"),
    [
        (0.001, 0.0003, Fitness.GOOD),
        (0.002, 0.0003, Fitness.GOOD),
        (0.0021, 0.0003, Fitness.POOR),
        (0.001, 0.0005, Fitness.FAIR),
        (0.001, 0.0011, Fitness.POOR),
    ],
)
def test_a_gauge_against_limits_0_020_apart(resolution, repeatability, fitness) -> None:
    assert adequacy(resolution, repeatability, 0.02).fitness is fitness


def test_a_guard_band_leaves_the_chance_it_says_at_the_limit() -> None:
    """[14253] 1.645 standard uncertainties at 5 %; a piece just at the limit is accepted that often, by scipy."""
    assert guard_band(0.002) == pytest.approx(1.645 * 0.002, rel=2e-4)
    assert stats.norm.sf(guard_band(0.002), scale=0.002) == pytest.approx(0.05)


@pytest.mark.parametrize(
    ("value", "said"),
    [
        (20.0, Proof.INSIDE),
        (20.01 - 0.0017, Proof.INSIDE),
        (20.01 - 0.0016, Proof.NEITHER),
        (20.01 + 0.0016, Proof.NEITHER),
        (20.01 + 0.0017, Proof.OUTSIDE),
        (19.99 - 0.0017, Proof.OUTSIDE),
    ],
)
def test_what_a_reading_proves(value, said) -> None:
    assert proved(value, 19.99, 20.01, 0.001) is said
    assert proved(value + 5, 24.99, None, 0.001) is (said if value < 20 else Proof.INSIDE)


def test_a_warm_aluminium_piece_measured_with_a_steel_gauge_at_20() -> None:
    """About 0.023 mm in a metre and a degree: [iso1], common practice."""
    assert at_20(1000.023, 21, 20, 23e-6, 11.5e-6) == pytest.approx(1000, abs=1e-6)
    assert at_20(500, 30, 30, 11.5e-6, 11.5e-6) == 500
    assert at_20(100, 30, 20, 23e-6, 11.5e-6) == pytest.approx(100 - 0.023, abs=1e-5)
    assert is_warm(100, 99.977, 0.22)
    assert not is_warm(100, 99.977, 0.24)


def test_samples() -> None:
    """A lot without end as [tolerance] has it; a small one by counting all draws with scipy's hypergeometric distribution."""
    assert sample(10**7, 0.10, 0.95) == 29
    assert sample(10**7, 0.01, 0.95) in {298, 299}
    for lot, share in ((20, 0.10), (50, 0.05), (120, 0.02)):
        n, bad = sample(lot, share, 0.95), int(share * lot) + 1
        assert stats.hypergeom.pmf(0, lot, bad, n) <= 0.05 < stats.hypergeom.pmf(0, lot, bad, n - 1)
    assert to_gauge(40, Severity.HURTS) == 40
    assert to_gauge(1000, Severity.SHOWS) < to_gauge(1000, Severity.STOPS) < 1000
    assert to_gauge(1, Severity.SHOWS) == 1


def test_life_of_tools_as_scipy_fits_it() -> None:
    """Seven failed, four still good; greatest likelihood with censored data by scipy."""
    failed, good = [310, 420, 450, 510, 530, 610, 700], [400, 400, 650, 800]
    found = life([Used(t, failed=True) for t in failed] + [Used(t, failed=False) for t in good])
    shape, _, scale = stats.weibull_min.fit(stats.CensoredData(uncensored=failed, right=good), floc=0)
    assert found.shape == pytest.approx(shape, rel=1e-3)
    assert found.likely == pytest.approx(scale * (-log(0.9)) ** (1 / shape), rel=1e-3)
    assert found.low < found.likely < found.high
    assert (found.failed, found.count, found.is_shape_usual) == (7, 11, False)


def test_the_range_of_a_life_holds_the_truth_about_as_often_as_it_says() -> None:
    rng, held, truth = np.random.default_rng(5), 0, 500 * (-log(0.9)) ** (1 / 2.5)
    for _ in range(300):
        lives, ends = 500 * rng.weibull(2.5, 14), rng.uniform(200, 800, 14)
        found = life([Used(min(t, e), failed=bool(t <= e)) for t, e in zip(lives, ends, strict=True)])
        held += found.low <= truth <= found.high
    assert 0.70 <= held / 300 <= 0.88


def test_one_failure_takes_the_usual_shape_and_is_unsure() -> None:
    """Two squared pieces over chi-square of two degrees: own derivation, by scipy's distribution."""
    found = life([Used(400, failed=True), Used(300, failed=False)])
    assert found.is_shape_usual
    assert found.likely == pytest.approx(500 * sqrt(-log(0.9)))
    ratio = sqrt(stats.chi2.ppf(0.9, 2) / stats.chi2.ppf(0.1, 2))
    assert found.high / found.low == pytest.approx(ratio)
    assert life([Used(400, failed=False)]) is None


def test_longer_use_without_failure_never_shortens_a_life_of_the_usual_shape() -> None:
    base = [Used(t, failed=True) for t in (300, 520)]
    lives = [life([*base, Used(t, failed=False)]).likely for t in (100, 400, 900, 2000)]
    assert all(a <= b for a, b in pairwise(lives))
