"""Simulated processes with known truth. Deterministic per seed; what a policy does never changes the noise.

`load(k)` cuts load k (from 1) with the knobs as they stand and returns the true sizes; `measure` gives what
the gauge shows; `turn` moves a knob; `check_gauge` and `stop` are what their names say. `mean_now()` is the
truth without noise, for judging only.
"""

import zlib

import numpy as np

from bench.judge.view import Costs, Dimension, Job, Knob

COSTS = Costs(scrap=20.0, escape=60.0, turn=2.0, gauge=0.5, check_gauge=2.0, stop=10.0)


class Process:
    """Base: fill `mean` (without knobs), `noise`, and the oracle's model in `build`."""

    name = ""
    sizes = (100, 200, 400)  # batch sizes, by seed in turn

    def __init__(self, seed):
        self.seed = seed
        self.rng = np.random.default_rng([zlib.crc32(self.name.encode()), seed])
        self.n = self.sizes[seed % len(self.sizes)]
        self.events = {}  # load (from 1) -> Event kinds known before it is cut
        self.fault_load = None  # load at which something goes wrong that nobody writes down
        self.fault_station = None
        self.loose = None  # (station, first load, extra mean by load, factor on noise)
        self.play = 0.2  # error of the hand, in increments
        self.missign = 0.0
        self.truth = {}
        self.build()
        self.loads = -(-self.n // self.S)
        self.pos = {k.name: 0.0 for k in self.job.knobs}
        shape = (self.n + self.S, self.D, 4)
        self.gnoise = self.rng.standard_normal(shape)
        self.hand = self.rng.standard_normal(2000)
        self.slip = self.rng.random(2000)
        self.turned = 0
        self.taken = {}
        self.gauge_zero = np.zeros(self.D)
        self.now = 0

    # what build uses

    def begin(
        self,
        S=1,
        half=(0.025,),
        sigma=0.22,
        resolution=0.001,
        repeatability=0.001,
        nominal=(20.0,),
        costs=COSTS,
        tool=None,
        station=None,
        increment=0.001,
        names=None,
        off_centre=0.0,
        bias_sd=0.0,
        setup_sd=0.15,
    ):
        """Set up job and arrays. `sigma`, `bias_sd`, `setup_sd` in half tolerances; gains by dimension."""
        rng = self.rng
        self.S, self.D = S, len(half)
        self.loads = -(-self.n // S)
        self.half = np.array(half)
        names = names or tuple("ABCD"[: self.D])
        dims = tuple(
            Dimension(m, c - h, c + h, c + off_centre * h, resolution, repeatability)
            for m, c, h in zip(names, nominal, half)
        )
        self.target = np.array([d.target for d in dims])
        self.lower = np.array([d.lower for d in dims])
        self.upper = np.array([d.upper for d in dims])
        tool = (1.0,) * self.D if tool is None else tool
        knobs = [Knob("tool", "tool", None, dict(zip(names, tool)), increment)]
        if station is not None:
            for s in range(S):
                knobs.append(Knob(f"station {s + 1}", "station", s + 1, dict(zip(names, station)), increment))
        self.job = Job(self.n, S, dims, tuple(knobs), costs)
        self.gain = {k.name: np.array([k.gains[m] for m in names]) for k in knobs}
        K = self.loads + 1
        self.unit = self.half[0]  # what the scale of drifts is measured in
        self.cg = np.array(tool) / tool[0]  # common disturbance by dimension
        self.sg = np.array(station if station is not None else (1.0,) + (0.0,) * (self.D - 1))
        self.sigma = sigma * rng.uniform(0.85, 1.15) * self.half
        self.noise = rng.standard_normal((K, S, self.D)) * self.sigma
        self.mean = np.zeros((K, S, self.D))
        self.P0 = ((setup_sd * self.unit) ** 2, (bias_sd * self.unit) ** 2)
        self.known = np.zeros((K, S, self.D))  # expected change from the load before, for the oracle
        self.qc = np.zeros(K)
        self.qs = np.zeros(K)
        self.ar = None
        self.add_common(np.full(K, rng.standard_normal() * setup_sd * self.unit), known=False)
        if bias_sd and S > 1:
            b = rng.standard_normal(S) * bias_sd * self.unit
            self.mean += (b - b.mean())[None, :, None] * self.sg
        self.K = K

    def add_common(self, path, known=True):
        """Add a common disturbance by load, in mm of the first dimension; `known`: the oracle expects it."""
        self.mean += path[:, None, None] * self.cg
        if known:
            self.known[1:] += np.diff(path)[:, None, None] * self.cg

    def sign(self):
        return 1.0 if self.rng.random() < 0.5 else -1.0

    def build(self):
        raise NotImplementedError

    # at the machine

    def effect(self):
        """Change of size by the knobs as they stand, by station and dimension."""
        out = np.zeros((self.S, self.D))
        for knob in self.job.knobs:
            if self.pos[knob.name]:
                move = self.gain[knob.name] * self.pos[knob.name]
                if knob.station is None:
                    out += move
                else:
                    out[knob.station - 1] += move
        return out

    def mean_now(self, k=None):
        """Truth without noise as deviation from target, for load k (default: the next one)."""
        k = min(self.now + 1 if k is None else k, self.loads)
        m = self.mean[k - 1] + self.effect()
        if self.loose is not None and k >= self.loose[1]:
            m = m.copy()
            m[self.loose[0] - 1] += self.loose[2][k - 1]
        return m

    def ahead(self, pieces=10):
        """Truth without noise over the coming loads (about so many pieces, up to the next event), knobs as they are."""
        first = min(self.now + 1, self.loads)
        last = min(first + max(1, round(pieces / self.S)), self.loads + 1)
        last = next((k for k in range(first + 1, last) if k in self.events), last)
        return np.array([self.mean_now(k) for k in range(first, last)])

    def load(self, k):
        """Cut load k; return true sizes by station and dimension (a short last load has fewer stations)."""
        self.now = k
        noise = self.noise[k - 1]
        if self.loose is not None and k >= self.loose[1]:
            noise = noise.copy()
            noise[self.loose[0] - 1] *= self.loose[3]
        sizes = self.target + self.mean_now(k) + noise
        first = (k - 1) * self.S
        here = min(self.S, self.n - first)
        for s in range(here):
            self.truth[first + s + 1] = sizes[s]
        return sizes[:here]

    def gauge_error(self, k):
        """Error of the gauges beside their repeatability, when load k has been cut."""
        return 0.0

    def measure(self, piece, dimension):
        """What the gauge shows."""
        d = self.names.index(dimension)
        r = self.taken.get((piece, d), 0)
        self.taken[piece, d] = r + 1
        dim = self.job.dimensions[d]
        error = self.gauge_error(self.now) - self.gauge_zero[d]
        value = self.truth[piece][d] + error + dim.repeatability * self.gnoise[piece, d, r % 4]
        return float(round(value / dim.resolution) * dim.resolution)

    @property
    def names(self):
        return [d.name for d in self.job.dimensions]

    def turn(self, knob, amount):
        """Turn a knob; the hand adds its play, and may take the wrong sign."""
        k = next(x for x in self.job.knobs if x.name == knob)
        i = self.turned = self.turned + 1
        wrong = self.missign and self.slip[i % 2000] < self.missign
        real = (-amount if wrong else amount) + self.play * k.increment * self.hand[i % 2000]
        self.pos[knob] += real
        if wrong and self.fault_load is None:
            self.fault_load = self.now + 1
        return real

    def check_gauge(self):
        """Return the gauges' errors by dimension (within resolution) and set them right."""
        errors = self.gauge_error(self.now) - self.gauge_zero
        res = np.array([d.resolution for d in self.job.dimensions])
        seen = np.round(errors / res) * res
        self.gauge_zero = self.gauge_zero + seen
        return seen

    def stop(self, station):
        """Look at what holds; tighten what is loose. True if something was."""
        if self.loose is None or self.now + 1 < self.loose[1]:
            return False
        if station is None or station == self.loose[0]:
            self.loose = None
            return True
        return False

    def event(self, load):
        """Kinds of what is written down before this load is cut."""
        return self.events.get(load, ())


class Noise(Process):
    """1 Nothing but noise: every adjustment is one too many."""

    name = "noise"
    sizes = (100, 200, 1000)

    def build(self):
        self.begin(sigma=0.30, setup_sd=0.0)


class Wear(Process):
    """2 Linear tool wear and noise."""

    name = "wear"
    sizes = (96, 200, 400)

    def build(self):
        self.begin(sigma=0.22, off_centre=0.0)
        rate = self.unit / 60 * self.rng.uniform(0.5, 1.5) * self.sign()
        self.add_common(rate * np.arange(self.K))


class Inserts(Process):
    """3 Wear; the insert is changed now and then, which is written down, and the size steps back."""

    name = "inserts"
    sizes = (150, 300, 600)

    def build(self):
        self.begin(sigma=0.20)
        rng = self.rng
        rate = self.unit / 50 * rng.uniform(0.6, 1.4) * self.sign()
        life = int(rng.integers(50, 90))
        seat_sd = 0.15 * self.unit
        path, known = np.zeros(self.K), np.zeros(self.K)
        seat, since = 0.0, 0
        for k in range(self.K):
            if k and k % life == 0:
                self.events[k + 1] = ("insert",)
                new = rng.standard_normal() * seat_sd
                known[k] = -rate * since
                self.qc[k] = 2 * seat_sd**2
                seat, since = new, 0
            elif k:
                since += 1
                known[k] = rate
            path[k] = seat + rate * since
        self.mean += path[:, None, None] * self.cg
        self.known += known[:, None, None] * self.cg


class Stations(Process):
    """4 Three stations, each with its own place, and wear common to all; two dimensions, one free of the station."""

    name = "stations"
    sizes = (48, 144, 360)

    def build(self):
        self.begin(
            S=3,
            half=(0.05, 0.04),
            nominal=(12.0, 6.0),
            sigma=0.22,
            bias_sd=0.40,
            resolution=0.002,
            repeatability=0.002,
            increment=0.002,
            tool=(1.0, 1.0),
            station=(1.0, 0.0),
        )
        self.add_common(self.unit / 40 * self.rng.uniform(0.5, 1.5) * self.sign() * np.arange(self.K))


class Warmup(Process):
    """5 The machine warms up, cools in a break (written down), and warms up again."""

    name = "warmup"
    sizes = (96, 160, 240)

    def build(self):
        self.begin(S=2, sigma=0.20, bias_sd=0.12, station=(1.0,))
        rng = self.rng
        amp, tau = 1.2 * self.unit * rng.uniform(0.7, 1.3) * self.sign(), rng.uniform(12, 30)
        pause = int(self.loads * rng.uniform(0.4, 0.7))
        self.events[pause + 1] = ("break",)
        heat, path = 0.0, np.zeros(self.K)
        for k in range(self.K):
            if k == pause:
                heat *= 0.45
            path[k] = amp * heat
            heat += (1 - heat) / tau
        self.add_common(path)


class Jump(Process):
    """6 The size jumps once and stays; nobody sees it. Coarse gauge."""

    name = "jump"
    sizes = (100, 250, 1000)

    def build(self):
        self.begin(sigma=0.22, resolution=0.005, repeatability=0.002, increment=0.002)
        rng = self.rng
        at = int(self.loads * rng.uniform(0.2, 0.8))
        path = np.zeros(self.K)
        path[at:] = self.unit * rng.uniform(0.6, 1.2) * self.sign()
        self.add_common(path, known=False)
        self.qc[at] = (0.9 * self.unit) ** 2
        self.fault_load = at + 1


class Eased(Process):
    """7 One of two stations eases during the run: it scatters more and its place creeps a little, until somebody looks."""

    name = "eased"

    def build(self):
        self.begin(S=2, sigma=0.2, bias_sd=0.1, station=(1.0,))
        rng = self.rng
        self.add_common(self.unit / 150 * rng.uniform(0.5, 1.5) * self.sign() * np.arange(self.K))
        at = int(self.loads * rng.uniform(0.3, 0.7))
        creep = (
            np.clip((np.arange(self.K) - at) / 12.0, 0, 1) * self.unit * rng.uniform(0.3, 0.7) * self.sign()
        )
        self.loose = (int(rng.integers(1, 3)), at + 1, creep[:, None], 1.8)
        self.fault_load, self.fault_station = at + 1, self.loose[0]


ALL = (Noise, Wear, Inserts, Stations, Warmup, Jump, Eased)
