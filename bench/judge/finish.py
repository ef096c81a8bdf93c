"""Finish time: an 80 % range on simulated runs, scored for calibration and width.

    python finish.py --cases 300
    python finish.py --policy mypackage.mymodule:finish
    python finish.py --kinds finish,mine                other modules of kinds (each has FINISH)

A policy is a function `finish(case) -> (low, likely, high)`: seconds from `case.now` to the end of the last load.
"""

import argparse
import importlib
import zlib
from dataclasses import dataclass

import numpy as np

from bench.judge import named

STAGES = (0.1, 0.25, 0.5, 0.75, 0.9)


@dataclass(frozen=True, slots=True)
class Done:
    """One load: start and end of its cycle, seconds since the run began, and pieces."""

    start: float
    end: float
    pieces: int
    gauged: bool  # readings were taken after it


@dataclass(frozen=True, slots=True)
class Case:
    now: float  # end of the last cycle
    loads: tuple  # those done
    loads_left: int
    pieces_per_load: int
    planned_cycle: float  # plan: cycle, and from start to start
    planned_load_to_load: float
    gauge_every: int  # loads
    calendar: tuple  # (start, length) of the breaks of the day, past and to come, seconds since the run began
    written: tuple  # (after load, kind): "break", "insert", what was written down so far


@dataclass(slots=True)
class World:
    """True parameters; `times` draws a run from load `done` on."""

    cycle: float
    hand: float
    hand_cv: float
    learn: float  # exponent; 0.152 is a 90 % curve
    floor: float
    gauge: float
    gauge_every: int
    p_stop: float
    stop_mean: float
    insert_every: int
    insert: float
    drift: float
    change_at: int
    change: float
    calendar: tuple
    obey: float  # chance that a break of the calendar is taken


def run(w, rng, first, loads, now, since=-1.0):
    """Draw loads first..loads−1 (from 0) from the end of the cycle before, which began at `since`.

    Returns a list of (start, end, gauged, insert). A break that falls due in a cycle is taken after it.
    """
    out = []
    t = now
    due = [c for c in w.calendar if c[0] > since]
    for k in range(first, loads):
        hand = w.floor + (w.hand - w.floor) * (k + 1) ** -w.learn
        hand *= np.exp(rng.standard_normal() * w.hand_cv) * (1 + w.drift * k / loads)
        if w.change_at and k >= w.change_at:
            hand *= w.change
        if k:
            t += hand
            if (k - 1) % w.gauge_every == 0:
                t += w.gauge * np.exp(rng.standard_normal() * 0.3)
            if w.insert_every and k % w.insert_every == 0:
                t += w.insert * np.exp(rng.standard_normal() * 0.3)
            if rng.random() < w.p_stop:
                t += rng.exponential(w.stop_mean)
            while due and t >= due[0][0]:
                if rng.random() < w.obey:
                    t += due[0][1] * np.exp(rng.standard_normal() * 0.12)
                due.pop(0)
        s = t
        t += w.cycle * (1 + 0.004 * rng.standard_normal())
        out.append((s, t, k % w.gauge_every == 0, bool(w.insert_every and k and k % w.insert_every == 0)))
    return out


class Kind:
    """Base: draws a world."""

    name = ""
    overnight = False

    def world(self, rng):
        cycle = float(np.exp(rng.uniform(np.log(60), np.log(900))))
        hand = float(rng.uniform(30, 150))
        calendar, t = [], rng.uniform(1800, 7200)
        for i in range(60):
            calendar.append((t, (900.0, 2700.0, 900.0)[i % 3]))
            if self.overnight and i % 3 == 2:
                t += rng.uniform(6000, 8400)
                calendar.append((t, 57600.0))
                t += 57600.0
            t += rng.uniform(6000, 8400)
        calendar = tuple(calendar)
        return World(
            cycle,
            hand,
            rng.uniform(0.1, 0.35),
            0.0,
            0.0,
            float(rng.uniform(20, 90)),
            int(rng.choice((2, 5, 10))),
            0.0,
            0.0,
            0,
            0.0,
            0.0,
            0,
            1.0,
            calendar,
            1.0,
        )


class Steady(Kind):
    """Hand times vary, gauging now and then, breaks by the calendar."""

    name = "steady"


class Interrupted(Kind):
    """And interruptions that nobody writes down."""

    name = "interrupted"

    def world(self, rng):
        w = super().world(rng)
        w.p_stop, w.stop_mean = rng.uniform(0.01, 0.06), rng.uniform(240, 1500)
        return w


class Learning(Kind):
    """The hand gets quicker; inserts are changed; some interruptions; a break may be skipped."""

    name = "learning"

    def world(self, rng):
        w = super().world(rng)
        w.hand *= 2.5
        w.learn, w.floor = rng.uniform(0.1, 0.4), 15.0
        w.p_stop, w.stop_mean = 0.015, 400.0
        w.insert_every, w.insert = int(rng.integers(15, 60)), 240.0
        w.obey = 0.93
        return w


FINISH = (Steady, Interrupted, Learning)


def cases(kind, seed):
    """Cases of one run with their truth: (stage, case, seconds left, world, loads done, loads)."""
    rng = np.random.default_rng([zlib.crc32(kind.name.encode()), seed])
    w = kind().world(rng)
    loads = int(np.exp(rng.uniform(np.log(12), np.log(250))))
    if w.change_at:
        w.change_at = int(loads * rng.uniform(0.3, 0.7))
    rows = run(w, rng, 0, loads, 0.0)
    plan = rng.uniform(0.8, 1.25)
    pieces = int(rng.integers(1, 5))
    for stage in STAGES:
        done = max(3, round(stage * loads))
        if done >= loads:
            continue
        now = rows[done - 1][1]
        yield (
            stage,
            Case(
                now,
                tuple(Done(s, e, pieces, g) for s, e, g, _ in rows[:done]),
                loads - done,
                pieces,
                w.cycle * (0.9 + 0.1 * plan),
                w.cycle * (0.9 + 0.1 * plan) + w.hand * plan,
                w.gauge_every,
                w.calendar,
                tuple((k, "insert") for k, r in enumerate(rows[:done]) if r[3]),
            ),
            rows[-1][1] - now,
            w,
            done,
            loads,
        )


# what people do


def plan(case):
    """Plan, ± 15 %."""
    t = case.loads_left * case.planned_load_to_load
    return 0.85 * t, t, 1.15 * t


def gaps(case):
    return np.diff([x.end for x in case.loads])


def average(case):
    """Mean and spread of all load-to-load times so far, normal."""
    g, m = gaps(case), case.loads_left
    if len(g) < 2:
        return plan(case)
    t = m * g.mean()
    r = 1.2816 * g.std(ddof=1) * np.sqrt(m + m**2 / len(g))
    return max(0.0, t - r), t, t + r


def with_calendar(case, each):
    """Work time to clock time: add the breaks that will be met."""
    out = []
    for t in each:
        end = case.now + t
        for start, length in case.calendar:
            if start > case.loads[-1].start and start < end:
                end += length
        out.append(end - case.now)
    return tuple(out)


def steady(case):
    """The last dozen without gaps over 2.5 medians, normal, breaks not counted."""
    g, m = gaps(case)[-12:], case.loads_left
    g = g[g <= 2.5 * np.median(g)] if len(g) else g
    if len(g) < 3:
        return plan(case)
    t = m * g.mean()
    r = 1.38 * g.std(ddof=1) * np.sqrt(m + m**2 / len(g))
    return max(0.0, t - r), t, t + r


def steady_calendar(case):
    """The same, with the breaks of the calendar added."""
    return with_calendar(case, steady(case))


def resample(case):
    """Gaps so far without the calendar's breaks, drawn again; breaks of the calendar added."""
    g = []
    for a, b in zip(case.loads, case.loads[1:]):
        met = sum(c[1] for c in case.calendar if a.start < c[0] <= b.start)
        gap = b.end - a.end
        g.append(gap - met if gap - met > 0.8 * case.planned_cycle else gap)
    if len(g) < 3:
        return plan(case)
    rng = np.random.default_rng(len(g))
    g = np.array(g)
    sums = np.array([rng.choice(rng.choice(g, len(g)), case.loads_left).sum() for _ in range(100)])
    lo, mid, hi = np.quantile(sums, (0.1, 0.5, 0.9))
    return with_calendar(case, (lo, mid, hi))


HABITS = (plan, average, steady, steady_calendar, resample)


def oracle(w, done, loads, case, seed):
    """Quantiles of the true world from here on."""
    rng = np.random.default_rng([seed, 5])
    ends = [run(w, rng, done, loads, case.now, case.loads[-1].start)[-1][1] - case.now for _ in range(100)]
    return tuple(np.quantile(ends, (0.1, 0.5, 0.9)))


def score(answers, truth):
    """Coverage, mean width, interval score (both over the time left), median error of the likely one."""
    lo, mid, hi = np.array(answers).T
    x = np.array(truth)
    inside = (x >= lo) & (x <= hi)
    winkler = (hi - lo) + 10 * np.maximum(lo - x, 0) + 10 * np.maximum(x - hi, 0)
    return inside.mean(), ((hi - lo) / x).mean(), (winkler / x).mean(), np.median(np.abs(mid - x) / x), inside


def main():
    a = argparse.ArgumentParser()
    a.add_argument("--cases", type=int, default=200, help="runs per kind; each is asked at several stages")
    a.add_argument("--first-seed", type=int, default=0)
    a.add_argument("--kinds", default="bench.judge.finish")
    a.add_argument("--policy", action="append", default=[])
    o = a.parse_args()
    found = [k for m in o.kinds.split(",") for k in importlib.import_module(m).FINISH]
    players = [(f.__name__, f) for f in HABITS]
    players += [(path, named(path)) for path in o.policy]
    whole = {}
    for kind in found:
        rows = [x for s in range(o.cases) for x in cases(kind, o.first_seed + s)]
        truth = [r[2] for r in rows]
        stages = np.array([r[0] for r in rows])
        print(f"\n{kind.name}: {o.cases} runs, {len(rows)} questions")
        print(
            "                    holds   by stage "
            + " ".join(f"{s:4.0%}" for s in STAGES)
            + "    width  score  error   (of the time left)"
        )
        for name, f in [*players, ("oracle", None)]:
            if f is None:
                ans = [oracle(w, d, n, c, i) for i, (_, c, _, w, d, n) in enumerate(rows)]
            else:
                ans = [f(r[1]) for r in rows]
            cover, width, wink, err, inside = score(ans, truth)
            per = " ".join(f"{inside[stages == s].mean():4.0%}" for s in STAGES)
            print(f"  {name[-16:]:16s} {cover:6.1%}            {per}   {width:6.3f} {wink:6.3f} {err:6.3f}")
            whole.setdefault(name, []).append((cover, width, wink, err))
    print("\nOver all kinds")
    for name, v in whole.items():
        m = np.mean(v, 0)
        print(
            f"  {name[-16:]:16s} holds {m[0]:6.1%}  width {m[1]:6.3f}  score {m[2]:6.3f}  error {m[3]:6.3f}"
        )


if __name__ == "__main__":
    main()
