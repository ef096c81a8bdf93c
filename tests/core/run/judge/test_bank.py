"""The models' filter against the same Gaussian worked out at once, without a filter.

Source: own derivation; conditioning a joint normal distribution with numpy's linear algebra.
"""

import numpy as np
import pytest

from ditto_run.core.run.judge import bank as judged
from ditto_run.core.run.judge.bank import WAYS, Bank, Look

TIMES, VALUES, STATIONS = (1, 4, 9, 15, 16), (0.2, -0.1, 0.35, 0.3, 0.5), (0, 1, 0, 1, 0)


@pytest.mark.parametrize("stations", [1, 2])
@pytest.mark.parametrize("way", range(len(WAYS)))
def test_level_and_slope_are_those_of_the_joint_distribution(
    monkeypatch: pytest.MonkeyPatch, stations: int, way: int
) -> None:
    monkeypatch.setattr(judged, "STRAY", 1e-300)
    bank = Bank.fresh(1, stations, np.array([0.01]))
    model = 3 * len(WAYS) + way
    size = bank.x.shape[1]
    state = [bank.p[0, :, :, model].copy()]
    step, _, bend = WAYS[way]

    # covariance of all states: state at t = F(t - s) state at s + what came between
    def move(dt: float) -> tuple[np.ndarray, np.ndarray]:
        f, q = np.eye(size), np.zeros((size, size))
        f[0, 1] = dt
        q[0, 0], q[1, 1] = step**2 * dt + bend**2 * dt**3 / 3, bend**2 * dt
        q[0, 1] = q[1, 0] = bend**2 * dt**2 / 2
        for one in range(2, size):
            q[one, one] = judged.PLACE_STEP**2 * dt
        return f, q

    moves = [move(dt) for dt in np.diff((0, *TIMES))]
    for f, q in moves:
        state.append(f @ state[-1] @ f.T + q)
    count = len(TIMES)
    h = np.zeros((count, size))
    for i, station in enumerate(STATIONS):
        h[i, 0] = 1
        if stations > 1:
            h[i, 2 + station] = 1
    cross = np.zeros((count, count))  # of the readings
    last = np.zeros((size, count))  # of the last state with the readings
    for i in range(count):
        carried = state[i + 1]
        for j in range(i, count):
            if j > i:
                carried = moves[j][0] @ carried
            cross[i, j] = cross[j, i] = h[j] @ carried @ h[i]
        last[:, i] = carried @ h[i]
    noise = np.eye(count) * bank.scatter[0, model] ** 2
    gain = last @ np.linalg.inv(cross + noise)
    for at, value, station in zip(TIMES, VALUES, STATIONS, strict=True):
        bank.forward(at - bank.at)
        bank.take([Look(at, station if stations > 1 else 0, 0.0, np.array([value]))])
    assert bank.x[0, :, model] == pytest.approx(gain @ np.array(VALUES), abs=1e-9)
    assert bank.p[0, :, :, model] == pytest.approx(state[-1] - gain @ last.T, abs=1e-9)


def test_the_model_that_foretells_best_has_the_weight() -> None:
    """Readings of scatter 0.1 about nothing: the scatters far from it have lost."""
    rng = np.random.default_rng(3)
    bank = Bank.fresh(1, 1, np.array([0.01]))
    for piece in range(1, 61):
        bank.forward(1)
        bank.look([Look(piece, 0, 0.0, np.array([0.1 * rng.standard_normal()]))], [])
    by_scatter = bank.weight[0].reshape(len(judged.SCATTERS), -1).sum(1)
    assert judged.SCATTERS[by_scatter.argmax()] == pytest.approx(0.10)
    assert by_scatter[-2:].sum() < 1e-6
