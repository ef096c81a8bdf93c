"""Containment: one piece is out of limits; which of those before it are bad too, with the fewest rechecks?

    python contain.py --cases 400
    python contain.py --policy mypackage.mymodule:contain
    python contain.py --kinds contain,mine              other modules of kinds (each has CONTAIN)

A policy is a function `contain(case) -> Recheck(piece) | Done(hold)`; it is called again after each recheck, with the
reading in the case, until it says Done. Pieces found out of limits are scrapped, `hold` is scrapped without being
measured, everything else is shipped.
"""

import argparse
import importlib
import zlib
from dataclasses import dataclass, field

import numpy as np

from bench.judge import named

ESCAPE, SCRAP, RECHECK = (
    60.0,
    20.0,
    1.0,
)  # minutes: a bad piece shipped, a good piece thrown away, one recheck


@dataclass(frozen=True, slots=True)
class Seen:
    """One reading as deviation from the middle of the limits, in half tolerances: out when beyond ±1."""

    piece: int
    station: int
    load: int
    deviation: float


@dataclass(slots=True)
class Case:
    """What is known. Readings in the order in which they were taken; the last of `readings` is the failed piece."""

    pieces_done: int
    stations: int
    readings: list
    failed: int
    cause: str  # as tapped: "bumped" (one place moved at once), "loosened", "dull" (tool, all stations), "unknown"
    events: list  # (load before which it happened, kind): "insert", "bar", "break"
    rechecks: list = field(default_factory=list)

    def station_of(self, piece):
        return (piece - 1) % self.stations + 1

    def load_of(self, piece):
        return (piece - 1) // self.stations + 1


@dataclass(frozen=True, slots=True)
class Recheck:
    piece: int


@dataclass(frozen=True, slots=True)
class Done:
    hold: tuple = ()


class Kind:
    """How it fails. `damage` returns deviations by load and station (from the failure on), in half tolerances."""

    name = cause = ""

    def damage(self, rng, loads, S, at, station, sigma, dev, events):
        raise NotImplementedError


class Step(Kind):
    name, cause = "step", "bumped"

    def damage(self, rng, loads, S, at, station, sigma, dev, events):
        dev[at:, station] += rng.uniform(0.9, 1.7) * rng.choice((-1, 1))


class Creep(Kind):
    name, cause = "creep", "dull"

    def damage(self, rng, loads, S, at, station, sigma, dev, events):
        dev[at:] += (
            rng.choice((-1, 1))
            * rng.uniform(0.5, 2.0)
            * (np.arange(loads - at) / (loads / 6)) ** rng.uniform(1, 2)
        )[:, None]


class LooseStation(Kind):
    name, cause = "loose", "loosened"

    def damage(self, rng, loads, S, at, station, sigma, dev, events):
        m = loads - at
        dev[at:, station] += rng.uniform(-0.4, 0.4) + rng.standard_normal(m) * sigma * rng.uniform(2.0, 4.0)


CONTAIN = (Step, Creep, LooseStation)


def make(kind, seed):
    """A case with its truth: (case, deviations by piece, gauge noise). Seeds that never fail are passed over."""
    for attempt in range(1000):
        rng = np.random.default_rng([zlib.crc32(kind.name.encode()), seed, attempt])
        S = int(rng.choice((1, 2, 3, 4)))
        loads = int(rng.integers(40, 240)) // S + 20
        every = max(1, int(rng.choice((5, 10, 20, 40))) // S)
        sigma = rng.uniform(0.12, 0.25)
        dev = rng.standard_normal((loads, S)) * sigma + rng.standard_normal(S) * 0.1
        events = []
        if rng.random() < 0.5:
            events.append((int(rng.integers(5, loads)), str(rng.choice(("insert", "bar", "break")))))
        at, station = int(loads * rng.uniform(0.15, 0.9)), int(rng.integers(S))
        kind().damage(rng, loads, S, at, station, sigma, dev, events)
        noise = rng.standard_normal(loads * S) * 0.03
        flat = dev.ravel()
        readings = []
        for k in range(loads):
            if k % every and k != 0:
                continue
            for s in range(S):
                q = k * S + s + 1
                x = round(float(flat[q - 1] + noise[q - 1]), 2)
                readings.append(Seen(q, s + 1, k + 1, x))
                if abs(x) > 1:
                    if k <= at - 1:
                        break
                    cause = kind.cause if rng.random() < 0.75 else "unknown"
                    return (
                        Case(k * S + S, S, readings, q, cause, [e for e in events if e[0] <= k + 1]),
                        flat[: k * S + S],
                        noise,
                    )
            else:
                continue
            break
    raise RuntimeError(kind.name)


def play(kind, seed, policy):
    case, truth, noise = make(kind, seed)
    seen = {r.piece for r in case.readings}
    out = {r.piece for r in case.readings if abs(r.deviation) > 1}
    for _ in range(5000):
        a = policy(case)
        if isinstance(a, dict):
            a = Done(tuple(a.get("hold", ()))) if a["kind"] == "done" else Recheck(a["piece"])
        if not hasattr(a, "piece"):
            break
        q = a.piece
        if q in seen or not 1 <= q <= case.pieces_done:
            raise ValueError(f"recheck of piece {q}: measured already or not made")
        seen.add(q)
        x = round(float(truth[q - 1] + noise[q - 1]), 2)
        case.rechecks.append(Seen(q, case.station_of(q), case.load_of(q), x))
        if abs(x) > 1:
            out.add(q)
    hold = set(a.hold) - out
    bad = {i + 1 for i, x in enumerate(truth) if abs(x) > 1}
    shipped = bad - out - hold
    wasted = {q for q in hold if q not in bad}
    n = len(case.rechecks)
    return (
        len(bad - {case.failed}),
        len(shipped),
        n,
        len(wasted),
        ESCAPE * len(shipped) + SCRAP * len(wasted) + RECHECK * n,
    )


# what people do


def known(case):
    return {r.piece: r.deviation for r in (*case.readings, *case.rechecks)}


def suspects(case, stations=None, goods=1):
    """Pieces not measured at these stations (default: the failed one's) since the last (or last but …) good reading there, newest first."""
    have = {r.piece for r in case.readings}
    out = []
    for s in stations or (case.station_of(case.failed),):
        fine = sorted(
            (
                r.piece
                for r in case.readings
                if r.station == s and abs(r.deviation) <= 1 and r.piece < case.failed
            ),
            reverse=True,
        )
        good = fine[goods - 1] if len(fine) >= goods else 0
        out += [q for q in range(good + 1, case.pieces_done + 1) if case.station_of(q) == s and q not in have]
    return sorted(out, reverse=True)


def first_open(case, todo):
    have = known(case)
    return next((Recheck(q) for q in todo if q not in have), Done())


def nothing(case):
    """Scrap the failed piece and go on."""
    return Done()


def all_since_good(case):
    """Recheck every piece of that station since its last good one."""
    return first_open(case, suspects(case))


def all_stations(case):
    """The same at every station."""
    return first_open(case, suspects(case, range(1, case.stations + 1)))


def two_checks_back(case):
    """Every station since the last good one but one."""
    return first_open(case, suspects(case, range(1, case.stations + 1), 2))


def three_checks_back(case):
    """Every station since the last good one but two."""
    return first_open(case, suspects(case, range(1, case.stations + 1), 3))


def hold_all(case):
    """Scrap them all unmeasured."""
    return Done(tuple(suspects(case)))


def newest_back(case, goods=1):
    """From the newest back until `goods` good ones in a row."""
    have, run = known(case), 0
    for q in suspects(case):
        if q not in have:
            return Recheck(q)
        run = run + 1 if abs(have[q]) <= 1 else 0
        if run >= goods:
            break
    return Done()


def newest_back_3(case):
    """From the newest back until three good ones in a row."""
    return newest_back(case, 3)


def bisect(case, check=False):
    """Halve between the last good and the failed one; scrap (or recheck) all from the first bad one on."""
    todo = suspects(case)[::-1]
    have = known(case)
    before = [q for q in todo if q < case.failed]
    lo, hi = -1, len(before)
    while hi - lo > 1:
        mid = (lo + hi) // 2
        if before[mid] not in have:
            return Recheck(before[mid])
        if abs(have[before[mid]]) > 1:
            hi = mid
        else:
            lo = mid
    rest = before[hi:] + [q for q in todo if q > case.failed]
    if check:
        return first_open(case, rest)
    return Done(tuple(q for q in rest if q not in have))


def bisect_check(case):
    """Halve, then recheck all from the first bad one on."""
    return bisect(case, True)


def by_cause(case):
    """Bumped: halve and recheck; dull: recheck all stations; else recheck all since good at that station."""
    if case.cause == "bumped":
        return bisect_check(case)
    if case.cause == "dull":
        return all_stations(case)
    return all_since_good(case)


HABITS = (
    nothing,
    all_since_good,
    all_stations,
    two_checks_back,
    three_checks_back,
    hold_all,
    newest_back,
    newest_back_3,
    bisect,
    bisect_check,
    by_cause,
)


def main():
    a = argparse.ArgumentParser()
    a.add_argument("--cases", type=int, default=400)
    a.add_argument("--first-seed", type=int, default=0)
    a.add_argument("--kinds", default="bench.judge.contain")
    a.add_argument("--policy", action="append", default=[])
    o = a.parse_args()
    found = [k for m in o.kinds.split(",") for k in importlib.import_module(m).CONTAIN]
    players = [(f.__name__, f) for f in HABITS]
    players += [(path, named(path)) for path in o.policy]
    total = {}
    for kind in found:
        print(f"\n{kind.name}: {o.cases} cases")
        print("                   bad   shipped  rechecks  good scrapped  minutes ±95    (per case)")
        costs = {}
        for name, f in players:
            r = np.array([play(kind, o.first_seed + s, f) for s in range(o.cases)], float)
            m, half = r.mean(0), 1.96 * r.std(0) / np.sqrt(o.cases)
            costs[name] = r[:, 4]
            total.setdefault(name, []).append(m)
            print(
                f"  {name[-16:]:16s} {m[0]:6.2f} {m[1]:7.3f} {m[2]:9.2f} {m[3]:10.2f} {m[4]:12.1f} ±{half[4]:.1f}"
            )
        best = min((f.__name__ for f in HABITS), key=lambda n: costs[n].mean())
        print(f"  best habit: {best}; knowing all (recheck just the bad): {total[best][-1][0]:.1f}")
        for path in o.policy:
            d = costs[path] - costs[best]
            half = 1.96 * d.std() / np.sqrt(o.cases)
            word = (
                "better"
                if d.mean() + half < 0
                else "no worse"
                if d.mean() + half < 0.05 * costs[best].mean()
                else "WORSE"
                if d.mean() - half > 0
                else "not shown"
            )
            print(f"  {path}: minutes − {best} {d.mean():+.2f} ±{half:.2f} → {word}")
    print("\nOver all kinds (mean per case)")
    for name, rows in total.items():
        m = np.mean(rows, 0)
        print(
            f"  {name[-16:]:16s} shipped {m[1]:6.3f}  rechecks {m[2]:6.2f}  good scrapped {m[3]:6.2f}  minutes {m[4]:6.1f}"
        )


if __name__ == "__main__":
    main()
