"""Circles, lines, rigid fits and repeat touches against numpy, scipy and shapely, and worked values.

Sources: [circle] bolt circle of 6 on Ø100: (50, 0), (25, 43.3013) …; [circle] 10 × 10 over one shifted by 5 shares 25;
least squares by scipy.optimize.least_squares and numpy.linalg.svd, installed packages.
"""

from math import cos, hypot, pi, radians, sin

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.optimize import least_squares
from scipy.spatial.transform import Rotation
from scipy.stats import median_abs_deviation, t

from ditto_run.core.errors import BadEntry
from ditto_run.core.place.clashes import push_out
from ditto_run.core.place.touch import about, fit_circle, fit_line, fit_rigid, meet, repeats
from ditto_run.core.sheets import Entries
from ditto_run.core.shop.body import read_nests
from tests.searches import searches

NUMBER = st.floats(-500, 500)
NOISE = st.floats(-0.05, 0.05)
FINE = 1e-9


@searches(60)
@given(NUMBER, NUMBER, st.floats(3, 200), st.lists(NOISE, min_size=4, max_size=12), st.floats(0, 6))
def test_circles_agree_with_scipy(x, y, r, noise, start) -> None:
    points = [
        (
            x + (r + e) * cos(start + 2 * pi * i / len(noise)),
            y + (r + e) * sin(start + 2 * pi * i / len(noise)),
        )
        for i, e in enumerate(noise)
    ]
    found = fit_circle(points)
    p = np.array(points)
    other = least_squares(
        lambda c: np.hypot(p[:, 0] - c[0], p[:, 1] - c[1]) - c[2],
        [x, y, r],
        xtol=1e-15,
        ftol=1e-15,
        gtol=1e-15,
    )
    cost = sum(off**2 for off in found.off) / 2
    assert cost <= other.cost + FINE
    assert (found.x, found.y, found.r) == pytest.approx(tuple(other.x), abs=1e-7)
    assert cost == pytest.approx(other.cost, abs=FINE)


def test_three_points_fit_exactly() -> None:
    """Worked by hand: the circle through (0, 0), (8, 0), (0, 6) has its middle at (4, 3) and radius 5."""
    found = fit_circle([(0, 0), (8, 0), (0, 6)])
    assert (found.x, found.y, found.r) == pytest.approx((4, 3, 5), abs=FINE)
    assert found.out_of_round == pytest.approx(0, abs=FINE)


def test_the_bolt_circle_is_found_and_made() -> None:
    printed = [(50, 0), (25, 43.3013), (-25, 43.3013), (-50, 0), (-25, -43.3013), (25, -43.3013)]
    found = fit_circle(printed)
    assert (found.x, found.y, found.r) == pytest.approx((0, 0, 50), abs=5e-5)
    nests = read_nests(Entries({"nests": "circle 6 on 100 at 0,0"}, "mm", {}))
    assert [(float(x), float(y)) for x, y in nests] == [pytest.approx(spot, abs=5e-5) for spot in printed]


@pytest.mark.parametrize(
    "points", [[(0, 0), (1, 1), (2, 2), (5, 5)], [(1, 1)] * 4, [(0, 0), (0, 0), (5, 5)], [(0, 0), (9, 9)]]
)
def test_touches_on_one_line_are_no_circle(points) -> None:
    with pytest.raises(BadEntry):
        fit_circle(points)


@searches(60)
@given(NUMBER, NUMBER, st.floats(-80, 80), st.lists(NOISE, min_size=3, max_size=9))
def test_lines_agree_with_numpys_svd(x, y, angle, noise) -> None:
    a = radians(angle)
    points = [
        (x + 20 * i * cos(a) - e * sin(a), y + 20 * i * sin(a) + e * cos(a)) for i, e in enumerate(noise)
    ]
    found = fit_line(points)
    p = np.array(points) - np.mean(points, axis=0)
    way = np.linalg.svd(p)[2][0]
    assert abs(cos(radians(found.angle)) * way[1] - sin(radians(found.angle)) * way[0]) < FINE


@searches(60)
@given(
    st.lists(st.tuples(NUMBER, NUMBER), min_size=3, max_size=8, unique=True),
    NUMBER,
    NUMBER,
    st.floats(-170, 170),
    NOISE,
)
def test_rigid_fits_agree_with_numpys_svd(drawn, dx, dy, angle, noise) -> None:
    spread = max(hypot(x - drawn[0][0], y - drawn[0][1]) for x, y in drawn)
    if spread < 5:
        return
    found = [about((0, 0), (x, y), angle) for x, y in drawn]
    found = [(x + dx + (noise if i == 0 else 0), y + dy) for i, (x, y) in enumerate(found)]
    fit = fit_rigid(drawn, found)
    n, m = np.array(drawn), np.array(found)
    nc, mc = n.mean(axis=0), m.mean(axis=0)
    u, _, vt = np.linalg.svd((n - nc).T @ (m - mc))
    turn = vt.T @ np.diag([1, np.sign(np.linalg.det(vt.T @ u.T))]) @ u.T
    assert [cos(radians(fit.angle)), sin(radians(fit.angle))] == pytest.approx(
        [turn[0, 0], turn[1, 0]], abs=FINE
    )
    assert (fit.x, fit.y) == pytest.approx(tuple(mc - turn @ nc), abs=1e-7)


def test_a_turn_agrees_with_scipys_rotation() -> None:
    drawn = [(0, 0), (100, 0), (100, 60), (0, 60)]
    found = [(12.31, -5.6), (112.30, -2.98), (110.75, 57.01), (10.77, 54.37)]
    n, m = np.array(drawn, float), np.array(found)
    flat = [np.column_stack([part - part.mean(axis=0), np.zeros(4)]) for part in (m, n)]
    rotation, _ = Rotation.align_vectors(*flat)
    assert radians(fit_rigid(drawn, found).angle) == pytest.approx(rotation.as_rotvec()[2], abs=FINE)


def test_a_rigid_fit_worked_by_hand() -> None:
    """(0,0) → (10,20) and (100,0) → (110,20.0) turned by 90° to the left: (0,0) → (5,5), (10,0) → (5,15)."""
    fit = fit_rigid([(0, 0), (10, 0)], [(5, 5), (5, 15)])
    assert (fit.x, fit.y, fit.angle) == pytest.approx((5, 5, 90))
    assert fit.worst == pytest.approx(0, abs=FINE)
    assert fit.moved((0, 2)) == pytest.approx((3, 5))
    for few in ([(0, 0)], [(1, 1), (1, 1)]):
        with pytest.raises(BadEntry):
            fit_rigid(few, few)


@given(st.lists(st.floats(-1, 1), min_size=1, max_size=11))
def test_repeat_touches_agree_with_scipy(values) -> None:
    found = repeats(values)
    kept = [v for i, v in enumerate(values) if i not in found.left_out]
    if len(values) >= 4:
        usual = max(median_abs_deviation(values) * 1.4826, 0.0005)
        assert found.left_out == tuple(
            i for i, v in enumerate(values) if abs(v - np.median(values)) > 3.5 * usual
        )
    assert found.mean == pytest.approx(np.mean(kept))
    if len(kept) > 1:
        assert found.half == pytest.approx(
            t.ppf(0.9, len(kept) - 1) * np.std(kept, ddof=1) / len(kept) ** 0.5, rel=1e-4, abs=1e-12
        )


def test_squares_that_share_a_quarter_are_parted_by_half() -> None:
    square = ((0.0, 0.0), (10.0, 0.0), (10.0, 10.0), (0.0, 10.0))
    from shapely import Polygon

    shifted = tuple((x + 5, y + 5) for x, y in square)
    assert Polygon(square).intersection(Polygon(shifted)).area == 25
    assert push_out(square, shifted)[0] == pytest.approx(5)


def test_lines_meet_where_algebra_says() -> None:
    """Y = 1 and x = 2 meet at (2, 1); two lines along X do not."""
    along, up = fit_line([(0, 1), (10, 1)]), fit_line([(2, 5), (2, 9)])
    assert meet(along, up) == pytest.approx((2, 1))
    with pytest.raises(BadEntry, match="same way"):
        meet(along, fit_line([(0, 3), (10, 3.01)]))
