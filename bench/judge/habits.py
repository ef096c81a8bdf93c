"""What people do today, two controllers from the books, and two that cheat.

Every habit gauges all dimensions of all pieces of the load that is due, then decides. `EVERY` pieces between checks;
after an event that was written down the next load is always gauged.
"""

from collections import defaultdict

import numpy as np

from bench.judge.view import Gauge, Leave, Stop, Turn

EVERY = 5


def spec(job):
    """Dimension names, targets and half tolerances (nearest limit from target) as arrays."""
    names = [d.name for d in job.dimensions]
    target = np.array([d.target for d in job.dimensions])
    half = np.array([min(d.upper - d.target, d.target - d.lower) for d in job.dimensions])
    return names, target, half


def allocate(job, dev, dead, half):
    """Which knobs to turn so that `dev` (station x dimension, NaN unknown) goes away; [(knob, amount)].

    The tool's knob takes what is common, from dimensions no station's knob acts on where there are any;
    a station's knob takes the rest. `dead`: in half tolerances, a smaller correction is not made.
    """
    names = [d.name for d in job.dimensions]
    rows = [list(map(float, r)) for r in dev]
    h = [float(x) for x in half]
    out = []
    station_knobs = [k for k in job.knobs if k.kind == "station"]
    free = (
        [i for i, m in enumerate(names) if not any(k.gains[m] for k in station_knobs)]
        if station_knobs
        else []
    )
    for knob in job.knobs:
        g = [knob.gains[m] for m in names]
        own = knob.station is not None
        top = low = most = 0.0
        for i in range(len(names)) if own or not free else free:
            seen = [x for x in ([rows[knob.station - 1][i]] if own else [r[i] for r in rows]) if x == x]
            if seen and g[i]:
                w = 1 / h[i] ** 2
                top -= w * g[i] * sum(seen) / len(seen)
                low += w * g[i] * g[i]
                most = max(most, abs(g[i]) / h[i])
        if not low:
            continue
        amount = round(top / low / knob.increment) * knob.increment
        if amount and abs(amount) * most > dead:
            out.append((knob.name, amount))
            for r in [rows[knob.station - 1]] if own else rows:
                for i, x in enumerate(g):
                    r[i] += amount * x
    return out


class Habit:
    """Gauge the load that is due, then `judge` the deviations once, then turn what it says."""

    def __init__(self, every=None):
        self.every = every or EVERY
        self.seen = 0
        self.queue = []
        self.events = 0

    def loads_between(self, job):
        return max(1, round(self.every / job.stations))

    def next_check(self, h):
        return h.pieces_done + self.loads_between(h.job) * h.job.stations

    def on_event(self, h, event):
        """Something known has happened, before the next load is cut."""

    def decide(self, h):
        job = h.job
        if self.queue:
            return self.queue.pop(0)
        new_event = len(h.events) > self.events
        if new_event:
            self.events = len(h.events)
            self.on_event(h, h.events[-1])
            self.queue.append(Leave(h.pieces_done + 1, "after a change the next load is gauged"))
            return self.queue.pop(0)
        first = (h.loads_done - 1) * job.stations + 1
        pieces = range(first, h.pieces_done + 1)
        here = self.of_load(h)
        have = {(r.piece, r.dimension) for r in here}
        want = tuple((p, d.name) for p in pieces for d in job.dimensions if (p, d.name) not in have)
        if want:
            return Gauge(want)
        if self.seen < h.loads_done:
            self.seen = h.loads_done
            names, target, half = self.spec = getattr(self, "spec", None) or spec(job)
            dev = np.full((job.stations, len(names)), np.nan)
            sums = defaultdict(list)
            for r in here:
                sums[r.station - 1, names.index(r.dimension)].append(r.value)
            for (s, d), v in sums.items():
                dev[s, d] = sum(v) / len(v) - target[d]
            self.queue = list(self.judge(h, dev, half) or ())
            if self.queue:
                return self.queue.pop(0)
        return Leave(self.next_check(h))

    @staticmethod
    def of_load(h):
        """Readings of the newest load."""
        out = []
        for r in reversed(h.readings):
            if r.load == h.loads_done:
                out.append(r)
            elif not r.recheck:
                break
        return out

    def turns(self, job, dev, dead, half):
        return [Turn(k, a) for k, a in allocate(job, dev, dead, half)]

    def judge(self, h, dev, half):
        raise NotImplementedError


class Never(Habit):
    """(a) Gauge, never turn."""

    def judge(self, h, dev, half):
        return ()


class Always(Habit):
    """(b) Take out the whole deviation after every check."""

    def judge(self, h, dev, half):
        return self.turns(h.job, dev, 0.0, half)


class Outside(Habit):
    """(c) Take out the whole deviation when a reading is out of limits: its station's knob, or the tool's."""

    def judge(self, h, dev, half):
        out = dev.copy()
        for i, d in enumerate(h.job.dimensions):
            out[(dev[:, i] >= d.lower - d.target) & (dev[:, i] <= d.upper - d.target), i] = np.nan
        return self.turns(h.job, out, 0.0, half) if not np.all(np.isnan(out)) else ()


class Chart(Habit):
    """(d) Individuals chart per station and dimension, zone run rules, recentred on a signal.

    Sigma from the moving ranges of all checks so far; before six of them, a sixth of the tolerance.
    """

    def __init__(self, every=None):
        super().__init__(every)
        self.points = defaultdict(list)  # since the last signal
        self.ranges = defaultdict(list)
        self.last = {}

    def judge(self, h, dev, half):
        hit = np.full(dev.shape, np.nan)
        for (s, d), x in np.ndenumerate(dev):
            if np.isnan(x):
                continue
            key = s, d
            if key in self.last:
                self.ranges[key].append(abs(x - self.last[key]))
            self.last[key] = x
            self.points[key].append(x)
            mr = self.ranges[key]
            sigma = np.mean(mr) / 1.128 if len(mr) >= 5 else half[d] / 3
            z = np.array(self.points[key][-8:]) / max(sigma, h.job.dimensions[d].resolution / 4)
            if self.signal(z):
                run = self.points[key]
                same = list(reversed(run))
                n = 1
                while n < len(same) and n < 8 and same[n] * same[0] > 0:
                    n += 1
                hit[key] = np.mean(same[:n]) if abs(z[-1]) <= 3 else x
        if np.all(np.isnan(hit)):
            return ()
        turns = allocate(h.job, hit, 0.0, half)
        if turns:
            for key in np.ndindex(dev.shape):
                if not np.isnan(hit[key]):
                    self.points[key].clear()
                    self.last.pop(key, None)
        return [Turn(k, a) for k, a in turns]

    @staticmethod
    def signal(z):
        for sign in (1, -1):
            y = sign * z
            if y[-1] > 3:
                return True
            if len(y) >= 3 and y[-1] > 2 and (y[-3:] > 2).sum() >= 2:
                return True
            if len(y) >= 5 and y[-1] > 1 and (y[-5:] > 1).sum() >= 4:
                return True
            if len(y) >= 8 and (y[-8:] > 0).all():
                return True
        return False


class PreControl(Habit):
    """(e) Green is the middle half. Yellow: gauge the next load too; two yellows on one side: turn by their mean; red: turn.

    Two yellows on opposite sides: stop and look at what holds.
    """

    def __init__(self, every=None):
        super().__init__(every)
        self.yellow = {}
        self.again = False

    def next_check(self, h):
        return h.pieces_done + 1 if self.again else super().next_check(h)

    def judge(self, h, dev, half):
        hit = np.full(dev.shape, np.nan)
        kept, stop = {}, []
        for (s, d), x in np.ndenumerate(dev):
            if np.isnan(x):
                continue
            if abs(x) > half[d]:
                hit[s, d] = x
            elif abs(x) > half[d] / 2:
                before = self.yellow.get((s, d))
                if before is not None and before * x > 0:
                    hit[s, d] = (before + x) / 2
                elif before is None:
                    kept[s, d] = x
                elif not stop:
                    stop = [Stop(s + 1)]
        self.yellow = kept
        self.again = bool(kept)
        return stop + (self.turns(h.job, hit, 0.0, half) if not np.all(np.isnan(hit)) else [])


class Taguchi(Habit):
    """(f) Interval and limit by Taguchi's on-line control, from the costs and how often it had to be turned so far.

    n = sqrt(2 u B / A) x half / D0; D = (3 C D0^2 half^2 / (A u))^(1/4); u at D0 = a third of the tolerance's half
    begins as a quarter of the batch.
    """

    def __init__(self, every=None):
        super().__init__(every)
        self.limit = None
        self.count = 0
        self.n = None

    def plan(self, h):
        c, job = h.job.costs, h.job
        u0, d0 = job.pieces / 4, 1 / 3
        if self.count:
            u0, d0 = h.pieces_done / self.count, self.limit
        b = c.gauge * job.stations * len(job.dimensions)
        self.limit = float(np.clip((3 * c.turn * d0**2 / (c.scrap * u0)) ** 0.25, 0.1, 0.9))
        u = u0 * (self.limit / d0) ** 2
        self.n = int(np.clip(round(np.sqrt(2 * u * b / c.scrap) / self.limit), 1, job.pieces / 4))

    def loads_between(self, job):
        return max(1, round(self.n / job.stations))

    def judge(self, h, dev, half):
        if self.limit is None:
            self.plan(h)
        turns = self.turns(h.job, dev, self.limit, half)
        if turns:
            self.count += 1
            self.plan(h)
        return turns


class Ewma(Habit):
    """(g) Bounded adjustment: an EWMA of what is common and of each station's rest; turn when it passes the dead band."""

    def __init__(self, every=None, weight=0.3, dead=0.3):
        super().__init__(every)
        self.weight, self.dead = weight, dead
        self.common = self.rest = None
        self.t = 0

    def on_event(self, h, event):
        self.t = min(self.t, 1)

    def judge(self, h, dev, half):
        if self.common is None:
            self.common = np.zeros(dev.shape[1])
            self.rest = np.zeros(dev.shape)
        self.t += 1
        w = max(self.weight, 1 / (self.t + 1))
        err = dev - self.common - self.rest
        if len(dev) > 1:
            some = ~np.isnan(err)
            c = np.where(some.any(0), np.nan_to_num(err).sum(0) / np.maximum(some.sum(0), 1), 0.0)
            self.common = self.common + w * c
            if any(k.kind == "station" for k in h.job.knobs):
                self.rest = self.rest + w * np.nan_to_num(err - c)
        else:
            self.common = self.common + w * np.nan_to_num(err[0])
        turns = allocate(h.job, self.common + self.rest, self.dead, half)
        names = [d.name for d in h.job.dimensions]
        for name, amount in turns:
            knob = next(k for k in h.job.knobs if k.name == name)
            g = np.array([knob.gains[m] for m in names])
            if knob.station is None:
                self.common = self.common + amount * g
            else:
                self.rest[knob.station - 1] += amount * g
        return [Turn(k, a) for k, a in turns]


class Ewma8(Ewma):
    """(g) The same with the one setting that is cheapest over many kinds of process: every 8 pieces, weight 0.5."""

    def __init__(self):
        super().__init__(8, 0.5, 0.3)


class Oracle(Habit):
    """(h) Kalman filter with the process's true parameters: spread, drift of this very run, when (not how far) it jumps.

    Sees the knobs as they really stand and the gauge's error; stops at the first check after something came loose.
    Interval and dead band tuned.
    """

    cheats = True
    learns = False  # True: see Learner

    def __init__(self, every=None, dead=0.25):
        super().__init__(every)
        self.dead = dead
        self.x = None
        self.turned = 0

    def watch(self, process):
        self.process = process

    def start(self):
        """State: deviation by station and dimension, then AR1 part, then the share of the expected drift."""
        p = self.process
        n = self.n = p.S * p.D
        cg, sg = np.tile(p.cg, p.S), np.kron(np.eye(p.S), np.outer(p.sg, p.sg))
        self.common, self.own = np.outer(cg, cg), sg
        self.ar = n if p.ar else None
        self.share = n + bool(p.ar) if self.learns else None
        m = n + bool(p.ar) + self.learns
        self.x, self.P = np.zeros(m), np.zeros((m, m))
        self.P[:n, :n] = p.P0[0] * self.common + p.P0[1] * self.own
        if self.ar is not None:
            self.P[n, n] = p.ar[1]
        if self.learns:
            self.P[m - 1, m - 1] = 1.0
        reading = [d.repeatability**2 + d.resolution**2 / 12 for d in p.job.dimensions]
        self.R = np.diag(np.tile(p.sigma**2, p.S)) + np.diag(np.tile(reading, p.S))
        self.k = 1
        self.effect = np.zeros((p.S, p.D))
        self.qc = p.qc.copy()
        self.jump = 0.0
        if self.learns and p.fault_load and np.count_nonzero(self.qc) == 1:
            self.jump = self.qc.max()
            self.qc[:] = 0

    def forward(self, k):
        """Predict to load k."""
        p, n = self.process, self.n
        while self.k < k:
            self.k += 1
            i = min(self.k - 1, p.K - 1)
            F = np.eye(len(self.x))
            if self.learns:
                F[:n, self.share] = p.known[i].ravel()
            else:
                self.x[:n] += p.known[i].ravel()
            if self.ar is not None:
                F[self.ar, self.ar] = p.ar[0]
            self.x = F @ self.x
            self.P = F @ self.P @ F.T
            if self.ar is not None:
                self.P[self.ar, self.ar] += p.ar[1] * (1 - p.ar[0] ** 2)
            self.P[:n, :n] += self.qc[i] * self.common + p.qs[i] * self.own

    def hands(self, h):
        """Take in what has been turned."""
        p = self.process
        if not self.learns:
            now = p.effect()
            self.x[: self.n] += (now - self.effect).ravel()
            self.effect = now
            return
        for t in h.turns[self.turned :]:
            knob = next(k for k in p.job.knobs if k.name == t.knob)
            move = np.zeros((p.S, p.D))
            move[slice(None) if knob.station is None else knob.station - 1] = p.gain[t.knob] * t.amount
            self.x[: self.n] += move.ravel()
            unit = move.ravel() / abs(t.amount)
            self.P[: self.n, : self.n] += (p.play * knob.increment) ** 2 * np.outer(unit, unit)
        self.turned = len(h.turns)

    def ahead(self, h, first, horizon):
        """Mean expected deviation over the loads from `first` on, up to the next event that will be written down."""
        p = self.process
        dev = self.x[: self.n].reshape(p.S, p.D).copy()
        steps = [p.known[i] for i in range(first - 1, min(first - 1 + horizon, p.loads))]
        for j in range(1, len(steps)):
            if first + j in p.events:
                steps = steps[:j]
                break
        acc, total = np.zeros_like(dev), np.zeros_like(dev)
        for s in steps:
            acc = acc + s
            total += acc
        share = self.x[self.share] if self.learns else 1.0
        return dev + share * (total / len(steps) if steps else 0)

    def on_event(self, h, event):
        if self.x is None:
            self.start()
        self.hands(h)
        self.forward(h.loads_done)
        dev = self.ahead(h, h.loads_done + 1, self.loads_between(h.job))
        self.queue = self.turns(h.job, dev, self.dead, spec(h.job)[2])

    def judge(self, h, dev, half):
        p = self.process
        if self.x is None:
            self.start()
        self.hands(h)
        self.forward(h.loads_done)
        error = p.gauge_error(h.loads_done) - p.gauge_zero
        z = (dev - error).ravel()
        loose = p.loose is not None and h.loads_done >= p.loose[1]
        if loose:
            z[(p.loose[0] - 1) * p.D : p.loose[0] * p.D] = np.nan
        seen = np.flatnonzero(~np.isnan(z))
        H = np.zeros((len(seen), len(self.x)))
        H[np.arange(len(seen)), seen] = 1
        if self.ar is not None:
            H[:, self.ar] = 1
        e = z[seen] - H @ self.x
        S = H @ self.P @ H.T + self.R[np.ix_(seen, seen)]
        if self.learns and e @ np.linalg.solve(S, e) > 8 + 2 * len(e) and (self.jump or p.missign):
            self.P[: self.n, : self.n] += (self.jump or (0.4 * p.unit) ** 2) * self.common
            S = H @ self.P @ H.T + self.R[np.ix_(seen, seen)]
        G = np.linalg.solve(S, H @ self.P).T
        self.x = self.x + G @ e
        self.P = self.P - G @ H @ self.P
        out = []
        if loose:
            s, lo = p.loose[0], (p.loose[1] - 1) * p.S
            out.append(Stop(s, tuple(range(lo + s, h.pieces_done + 1, p.S))))
        return out + self.turns(
            h.job, self.ahead(h, h.loads_done + 1, self.loads_between(h.job)), self.dead, half
        )


class Learner(Oracle):
    """The same, but this run's rate of drift must be learnt (its shape and usual size are known) and jumps be noticed.

    What a perfect judge of the readings could do: the mark to be measured against.
    """

    learns = True


class Clairvoyant:
    """Sees the true mean without gauging; turns when it is past the dead band. Nothing real can be as good."""

    cheats = True

    def __init__(self, dead=0.15):
        self.dead = dead

    def watch(self, process):
        self.process = process

    def decide(self, h):
        p = self.process
        if p.loose is not None and h.loads_done + 1 >= p.loose[1]:
            return Stop(p.loose[0])
        ahead = range(h.loads_done + 1, min(h.loads_done + 9, p.loads + 1))
        ahead = list(ahead)[: next((j for j in range(1, len(ahead)) if ahead[j] in p.events), 8)]
        if not ahead:
            return Leave(h.pieces_done + 1)
        now = p.mean_now()
        dev = now + np.mean([p.mean[k - 1] - p.mean[ahead[0] - 1] for k in ahead], axis=0)
        for knob, amount in allocate(p.job, dev, self.dead, spec(p.job)[2]):
            return Turn(knob, amount)
        return Leave(h.pieces_done + 1)


HABITS = {
    "never": Never,
    "always": Always,
    "outside": Outside,
    "chart": Chart,
    "precontrol": PreControl,
    "taguchi": Taguchi,
}
BOOKS = {"ewma": Ewma, "ewma 8": Ewma8}
CHEATS = {"learner": Learner, "oracle": Oracle, "clairvoyant": Clairvoyant}
