"""Our own processes, of other kinds than the open ones: what the judgement was not tuned on is looked at with these.

python -m bench.judge.judge --processes bench.judge.others
"""

from dataclasses import replace

import numpy as np

from bench.judge.processes import Process
from bench.judge.view import Knob


class Wander(Process):
    """The size wanders slowly about, for no reason that anybody knows."""

    name = "own wander"
    sizes = (100, 240, 500)

    def build(self):
        """Build it."""
        self.begin(sigma=0.18)
        step = self.unit * self.rng.uniform(0.03, 0.07)
        self.add_common(np.cumsum(self.rng.standard_normal(self.K)) * step, known=False)
        self.qc[:] = step**2


class Steps(Process):
    """Several jumps, some small, some large; nobody writes them down."""

    name = "own steps"
    sizes = (150, 300, 800)

    def build(self):
        """Build it."""
        self.begin(sigma=0.2)
        path = np.zeros(self.K)
        for _ in range(int(self.rng.integers(2, 5))):
            at = int(self.K * self.rng.uniform(0.1, 0.95))
            path[at:] += self.unit * self.rng.uniform(0.3, 1.1) * self.sign()
            self.qc[at] = (0.7 * self.unit) ** 2
        self.add_common(path, known=False)


class Loose(Process):
    """The only place eases: it scatters more and sits elsewhere."""

    name = "own loose"
    sizes = (80, 160, 320)

    def build(self):
        """Build it."""
        self.begin(sigma=0.2)
        at = int(self.loads * self.rng.uniform(0.3, 0.7))
        shift = np.full((self.K, 1), self.unit * self.rng.uniform(-0.3, 0.3))
        self.loose = (1, at + 1, shift, 2.2)
        self.fault_load, self.fault_station = at + 1, 1


class GaugeTrouble(Process):
    """The gauge drifts, or jumps once; the process is sound."""

    name = "own gauge"
    sizes = (100, 200, 400)

    def build(self):
        """Build it."""
        self.begin(sigma=0.2)
        self.by_load = np.zeros(self.K + 1)
        if self.rng.random() < 0.5:
            self.by_load[int(self.K * self.rng.uniform(0.2, 0.7)) :] = (
                self.unit * self.rng.uniform(0.5, 1.0) * self.sign()
            )
        else:
            self.by_load += self.unit / 100 * self.rng.uniform(0.5, 1.5) * self.sign() * np.arange(self.K + 1)

    def gauge_error(self, k):
        """Error of the gauge when load k has been cut."""
        return float(self.by_load[min(k, self.K)])


class Strays(Process):
    """Wear, and one reading in thirty means nothing: a chip under the anvil."""

    name = "own strays"
    sizes = (100, 200, 400)

    def build(self):
        """Build it."""
        self.begin(sigma=0.2)
        self.add_common(self.unit / 80 * self.rng.uniform(0.5, 1.5) * self.sign() * np.arange(self.K))
        self.chip = np.random.default_rng(self.seed + 77).random((self.n + self.S, 8))

    def measure(self, piece, dimension):
        """What the gauge shows."""
        again = self.taken.get((piece, 0), 0)
        value = super().measure(piece, dimension)
        return round(value + 0.04, 3) if self.chip[piece, again % 8] < 1 / 30 else value


class Gains(Process):
    """Two tools: one makes two dimensions, one of them turned by the radius and backwards; the other tool makes a third."""

    name = "own gains"
    sizes = (96, 200, 400)

    def build(self):
        """Build it."""
        self.begin(
            S=2,
            half=(0.03, 0.05, 0.04),
            nominal=(20.0, 8.0, 30.0),
            sigma=0.2,
            bias_sd=0.1,
            tool=(2.0, -1.0, 0.0),
        )
        first = self.job.knobs[0]
        second = Knob("second tool", "tool", None, {"A": 0.0, "B": 0.0, "C": 1.0}, 0.001)
        self.job = replace(self.job, knobs=(first, second))
        self.gain = {k.name: np.array([k.gains[m] for m in "ABC"]) for k in self.job.knobs}
        self.sg = np.array((1.0, 0.0, 0.0))
        for tool, rate in ((np.array((1.0, -0.5, 0.0)), 1 / 50), (np.array((0.0, 0.0, 1.0)), 1 / 90)):
            path = self.unit * rate * self.rng.uniform(0.5, 1.5) * self.sign() * np.arange(self.K)
            self.mean += path[:, None, None] * tool
            self.known[1:] += np.diff(path)[:, None, None] * tool


class WrongTurns(Process):
    """Wear; one turn in ten goes the wrong way."""

    name = "own wrong turns"
    sizes = (96, 200, 400)

    def build(self):
        """Build it."""
        self.begin(sigma=0.2)
        self.missign = 0.1
        self.add_common(self.unit / 60 * self.rng.uniform(0.5, 1.5) * self.sign() * np.arange(self.K))


class Unlogged(Process):
    """Wear; inserts are changed and nobody writes it down. Four stations, two dimensions of one tool."""

    name = "own unlogged"
    sizes = (96, 240, 480)

    def build(self):
        """Build it."""
        self.begin(S=4, half=(0.03, 0.03), nominal=(10.0, 20.0), sigma=0.18, bias_sd=0.15, station=(1.0, 1.0))
        rate = self.unit / 25 * self.rng.uniform(0.6, 1.4) * self.sign()
        life, seat, since = int(self.rng.integers(15, 40)), 0.0, 0
        path = np.zeros(self.K)
        for k in range(self.K):
            since += 1
            if k and k % life == 0:
                seat, since = self.rng.standard_normal() * 0.15 * self.unit, 0
                self.qc[k] = (0.8 * self.unit) ** 2
            path[k] = seat + rate * since
        self.add_common(path, known=False)


ALL = (Wander, Steps, Loose, GaugeTrouble, Strays, Gains, WrongTurns, Unlogged)
