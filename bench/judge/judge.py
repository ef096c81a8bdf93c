"""Plays seeds x processes x policies and prints what came of it.

    python judge.py --seeds 100                          the habits on the open processes
    python judge.py --policy mypackage.mymodule:decide   and a policy, against them
    python judge.py --processes processes,mine           other modules of processes (each has ALL)
    python judge.py --policy … --pure --seeds 5          does a fresh one, given the same history, say the same?
    python judge.py --tune                               find the tuned controllers' settings (seeds 10000 and up)

A policy is a function `decide(history) -> advice`, or a class without arguments that has such a method (made anew for
every run). Same seed, same noise for every policy, so differences are paired.
"""

import argparse
import importlib
import json
import time
from pathlib import Path

import numpy as np

from bench.judge import habits, named
from bench.judge.view import (
    CheckGauge,
    Event,
    Gauge,
    History,
    Leave,
    MasterCheck,
    Reading,
    Stop,
    Stopped,
    Turn,
    Turned,
)

MOST = 40  # advices at one moment; more is counted as an overrun and taken as Leave
HERE = Path(__file__).parent
MARGIN, LEAST = 0.05, 0.05  # "no worse": at most this share, or these minutes a piece, dearer, with 95 %


def understood(a):
    """Advice as the values of `view`: they themselves, or anything (object or dict) with `kind` and the same fields."""
    if isinstance(a, (Leave, Gauge, Turn, CheckGauge, Stop)):
        return a
    get = a.get if isinstance(a, dict) else lambda name, default=None: getattr(a, name, default)
    kind = get("kind")
    try:
        if kind == "leave":
            return Leave(int(get("next_check")))
        if kind == "gauge":
            return Gauge(tuple((int(p), str(d)) for p, d in get("what")))
        if kind == "turn":
            return Turn(str(get("knob")), float(get("amount")))
        if kind == "check_gauge":
            return CheckGauge()
        if kind == "stop":
            return Stop(get("station"), tuple(get("suspects") or ()))
    except (TypeError, ValueError):
        pass
    return None


class Play:
    """One run of one process under one policy."""

    def __init__(self, process, policy):
        self.p, self.policy = process, policy
        self.job = process.job
        self.h = History(self.job)
        self.values = {}  # (piece, dimension) -> readings
        self.gauged = [[] for _ in range(self.job.stations)]  # pieces, in order of piece number
        self.good_seen, self.out_seen = set(), set()
        self.c = dict.fromkeys(
            "turns gaugings checks stops false_stops harmful overruns off_grid bad_advice".split(), 0
        )
        self.recovered = None
        self.dims = {d.name: d for d in self.job.dimensions}

    def run(self):
        p, h = self.p, self.h
        due = 1
        for k in range(1, p.loads + 1):
            known = p.event(k) if k > 1 else ()
            for kind in known:
                h.events.append(Event(h.pieces_done, kind))
            if known:
                self.moment()
            p.load(k)
            h.loads_done, h.pieces_done = k, min(k * p.S, p.n)
            if k == 1:
                self.take([(q, d) for q in range(1, h.pieces_done + 1) for d in self.dims])
            if k == 1 or known or h.pieces_done >= due or k == p.loads:
                due = self.moment()
            self.watch(k)
        return self.result()

    def watch(self, k):
        """Has the unknown fault been dealt with?"""
        p = self.p
        if p.fault_load is not None and self.recovered is None and k >= p.fault_load and k < p.loads:
            m = np.abs(p.mean_now()) / p.half
            if p.fault_station is not None:
                if p.loose is None or (m[p.fault_station - 1].max() < 0.35 and p.loose is None):
                    self.recovered = k
            elif m.max() < 0.35:
                self.recovered = k

    def moment(self):
        h = self.h
        for _ in range(MOST):
            a = understood(self.policy.decide(h))
            if isinstance(a, Leave):
                return max(int(a.next_check), h.pieces_done + 1)
            if isinstance(a, Gauge):
                if not a.what or any(q not in self.p.truth or d not in self.dims for q, d in a.what):
                    self.c["bad_advice"] += 1
                    break
                self.take(a.what)
            elif isinstance(a, Turn):
                self.turn(a)
            elif isinstance(a, CheckGauge):
                self.c["checks"] += 1
                for d, e in zip(self.dims, self.p.check_gauge()):
                    h.master_checks.append(MasterCheck(h.pieces_done, d, float(e)))
            elif isinstance(a, Stop):
                found = self.p.stop(a.station)
                self.c["stops"] += 1
                self.c["false_stops"] += not found
                h.stops.append(Stopped(h.pieces_done, a.station, found))
                self.take([(q, d) for q in a.suspects if q in self.p.truth for d in self.dims], recheck=True)
            else:
                self.c["bad_advice"] += 1
                break
        self.c["overruns"] += 1
        return h.pieces_done + 1

    def turn(self, a):
        knob = next((k for k in self.job.knobs if k.name == a.knob), None)
        if knob is None or not np.isfinite(a.amount):
            self.c["bad_advice"] += 1
            return
        steps = round(a.amount / knob.increment)
        if steps == 0 or abs(a.amount / knob.increment - steps) > 1e-6:
            self.c["off_grid"] += 1
            if steps == 0:
                return
        amount = steps * knob.increment
        before = self.p.ahead()
        after = before.copy()
        after[:, slice(None) if knob.station is None else knob.station - 1] += self.p.gain[knob.name] * amount
        self.c["turns"] += 1
        self.c["harmful"] += bool(((after / self.p.half) ** 2).sum() > ((before / self.p.half) ** 2).sum())
        self.p.turn(knob.name, amount)
        self.h.turns.append(Turned(self.h.pieces_done, knob.name, amount))

    def read(self, piece, d, recheck):
        v = self.p.measure(piece, d)
        self.c["gaugings"] += 1
        self.h.readings.append(
            Reading(
                piece, self.job.load_of(piece), self.job.station_of(piece), d, v, self.h.pieces_done, recheck
            )
        )
        seen = self.values.setdefault((piece, d), [])
        seen.append(v)
        dim, mean = self.dims[d], sum(seen) / len(seen)
        return dim.lower - 1e-9 <= mean <= dim.upper + 1e-9

    def take(self, what, recheck=False):
        """Readings. One out of limits is repeated; if it stays out, the station's pieces back to the last good one are gauged."""
        for piece, d in what:
            if recheck and (piece, d) in self.values:
                continue
            if self.read(piece, d, recheck) or self.read(piece, d, True):
                self.good_seen.add((piece, d))
            else:
                self.good_seen.discard((piece, d))
                if (piece, d) not in self.out_seen:
                    self.out_seen.add((piece, d))
                    back = piece - self.job.stations
                    while back >= 1 and (back, d) not in self.good_seen:
                        if (back, d) not in self.values:
                            if self.read(back, d, True) or self.read(back, d, True):
                                self.good_seen.add((back, d))
                            else:
                                self.out_seen.add((back, d))
                        back -= self.job.stations

    def result(self):
        p, c, cost = self.p, self.c, self.job.costs
        bad = {q for q, s in p.truth.items() if (s < p.lower).any() or (s > p.upper).any()}
        scrapped = {
            q
            for q, d in self.out_seen
            if not self.dims[d].lower - 1e-9 <= np.mean(self.values[q, d]) <= self.dims[d].upper + 1e-9
        }
        escaped = bad - scrapped
        minutes = (
            cost.scrap * len(scrapped)
            + cost.escape * len(escaped)
            + cost.turn * c["turns"]
            + cost.gauge * c["gaugings"]
            + cost.check_gauge * c["checks"]
            + cost.stop * c["stops"]
        )
        delay = np.nan
        if p.fault_load is not None and p.fault_load < p.loads:
            end = p.loads if self.recovered is None else self.recovered
            delay = (end - p.fault_load + 1) * p.S
        sizes = np.array([p.truth[q] for q in range(1, p.n + 1)])
        square = (((sizes - p.target) / p.half) ** 2).mean(1).sum()
        return {
            **c,
            "n": p.n,
            "square": square,
            "bad": len(bad),
            "escaped": len(escaped),
            "scrapped": len(scrapped),
            "minutes": minutes,
            "delay": delay,
        }


class Wrapped:
    """A bare function as a policy."""

    def __init__(self, function):
        self.decide = function


class Twice:
    """A policy beside a fresh one at every question; counts where they differ."""

    differs = 0

    def __init__(self, factory):
        self.factory, self.one = factory, factory()

    def decide(self, h):
        a, b = understood(self.one.decide(h)), understood(self.factory().decide(h))
        same = type(a) is type(b) and all(
            getattr(a, f, None) == getattr(b, f, None)
            for f in ("knob", "amount", "what", "next_check", "station", "suspects")
        )
        Twice.differs += not same
        return a


def load(path):
    """Policy factory from `package.module:name` or `package.module.name`."""
    thing = named(path)
    return thing if isinstance(thing, type) else lambda: Wrapped(thing)


def play(kind, seed, factory):
    process = kind(seed)
    policy = factory()
    if getattr(policy, "cheats", False):
        policy.watch(process)
    return Play(process, policy).run()


def runs(kind, seeds, factory):
    rows = [play(kind, s, factory) for s in seeds]
    return {key: np.array([r[key] for r in rows], float) for key in rows[0]}


def share(r, what="bad"):
    """Ratio over all pieces with half its 95 % interval, runs as clusters."""
    n, x = r["n"], r[what]
    ratio = x.sum() / n.sum()
    e = x - ratio * n
    half = 1.96 * np.sqrt(len(n) / max(len(n) - 1, 1) * (e**2).sum()) / n.sum()
    return ratio, half


def difference(a, b, what="minutes"):
    """Paired difference per piece a − b, with half its 95 % interval."""
    n = a["n"]
    x = a[what] - b[what]
    ratio = x.sum() / n.sum()
    e = x - ratio * n
    return ratio, 1.96 * np.sqrt(len(n) / max(len(n) - 1, 1) * (e**2).sum()) / n.sum()


def kinds(modules):
    return [k for m in modules.split(",") for k in importlib.import_module(m).ALL]


def tuned():
    out = {}
    for f in sorted(HERE.glob("tuned*.json")):
        out.update(json.loads(f.read_text()))
    return out


def tune(modules, seeds, into, only=""):
    """Grid for the controllers that may know the process: EWMA (weight, dead band, interval) and the two that cheat."""
    found = json.loads((HERE / into).read_text()) if only else {}
    for kind in kinds(modules):
        if only and kind.name not in only.split(","):
            continue
        S = kind(0).S
        every = sorted({max(e, S) for e in (2, 4, 8, 16)})
        grid = {
            "ewma tuned": [
                dict(every=e, weight=w, dead=d)
                for e in every
                for w, d in ((0.15, 0.45), (0.3, 0.3), (0.5, 0.3), (0.3, 0.15), (0.8, 0.3))
            ]
            + [dict(every=40, weight=0.15, dead=0.6)],
            "learner": [dict(every=e, dead=d) for e in every for d in (0.12, 0.25, 0.4)]
            + [dict(every=40, dead=0.5)],
            "oracle": [dict(every=e, dead=d) for e in every for d in (0.12, 0.25, 0.4)]
            + [dict(every=40, dead=0.5)],
            "clairvoyant": [dict(dead=d) for d in (0.1, 0.2, 0.35)],
        }
        make = {
            "ewma tuned": habits.Ewma,
            "learner": habits.Learner,
            "oracle": habits.Oracle,
            "clairvoyant": habits.Clairvoyant,
        }
        found[kind.name] = {}
        for name, options in grid.items():
            scores = []
            for o in options:
                r = runs(kind, seeds, lambda: make[name](**o))
                scores.append(r["minutes"].sum() / r["n"].sum())
            found[kind.name][name] = options[int(np.argmin(scores))]
        print(kind.name, found[kind.name], flush=True)
    Path(HERE / into).write_text(json.dumps(found, indent=1))


def line(name, r, oracle):
    bad, half = share(r)
    per = 100 / r["n"].sum()
    cost = r["minutes"].sum() / r["n"].sum()
    base = oracle["minutes"].sum() / oracle["n"].sum() if oracle else np.nan
    delay = f"{np.nanmedian(r['delay']):5.0f}" if np.isfinite(r["delay"]).any() else "    -"
    odd = int(r["overruns"].sum() + r["bad_advice"].sum() + r["off_grid"].sum())
    rms = np.sqrt(r["square"].sum() / r["n"].sum())
    return (
        f"  {name:14s} {100 * bad:6.2f} ±{100 * half:4.2f} {100 * share(r, 'escaped')[0]:6.2f}  {rms:5.3f} {r['turns'].sum() * per:7.2f} {r['harmful'].sum() * per:6.2f}"
        f" {r['gaugings'].sum() * per:6.0f} {r['checks'].sum() * per:5.1f} {r['stops'].sum() * per:5.2f}/{r['false_stops'].sum() * per:4.2f} {delay} {cost:7.3f} {cost / base:6.2f}"
        + (f"  ODD {odd}" if odd else "")
    )


HEAD = "                 out %  ±95   escaped  rms/T  turns  harmf  gauged mast  stops/f  delay  cost/pc  /oracle   (per 100 pieces)"


def players_of(kind, chosen):
    """Return name and factory of everybody who plays a process; `chosen` names some of them, the oracle always plays."""
    mine = tuned().get(kind.name, {})
    players = {**habits.HABITS, **habits.BOOKS}
    if "ewma tuned" in mine:
        players["ewma tuned"] = lambda: habits.Ewma(**mine["ewma tuned"])
    players["learner"] = lambda: habits.Learner(**mine.get("learner", {}))
    players["oracle"] = lambda: habits.Oracle(**mine.get("oracle", {}))
    players["clairvoyant"] = lambda: habits.Clairvoyant(**mine.get("clairvoyant", {}))
    return {m: f for m, f in players.items() if chosen is None or m in chosen or m == "oracle"}


def report(kind, seeds, policies=(), chosen=None):
    """Play one process; return what to print, the figures of each player, and how each policy fares beside the best habit."""
    plain = [m for m in habits.HABITS if chosen is None or m in chosen]
    players = players_of(kind, chosen) | {path: load(path) for path in policies}
    got = {}
    began = time.perf_counter()
    for name, factory in players.items():
        t = time.perf_counter()
        got[name] = runs(kind, seeds, factory)
        got[name]["seconds"] = time.perf_counter() - t
    spent = time.perf_counter() - began
    first = kind.__doc__.splitlines()[0]
    text = [f"\n{kind.name}: {first}  sizes {kind.sizes}, {len(seeds)} seeds, {spent:.0f} s", HEAD]
    text += [line(name[-14:], r, got["oracle"]) for name, r in got.items()]
    cost = {m: r["minutes"].sum() / r["n"].sum() for m, r in got.items()}
    badness = {m: share(r)[0] for m, r in got.items()}
    best, fewest = min(plain, key=cost.get), min(plain, key=badness.get)
    text.append(f"  best habit: {best} {cost[best]:.3f} (fewest out: {fewest} {100 * badness[fewest]:.2f} %)")
    saved = {m: figures(r, cost[m], badness[m]) for m, r in got.items()}
    verdicts = {}
    for path in policies:
        d, half = difference(got[path], got[best])
        limit = max(MARGIN * cost[best], LEAST)
        word = (
            "better"
            if d + half < 0
            else "no worse"
            if d + half <= limit
            else "WORSE"
            if d - half > 0
            else "not shown"
        )
        do, ho = difference(got[path], got[best], "bad")
        text.append(
            f"  {path}: cost − {best} {d:+.3f} ±{half:.3f} → {word}; out {100 * do:+.2f} ±{100 * ho:.2f} %;"
            f" {1000 * got[path]['seconds'] / len(seeds):.0f} ms a run"
        )
        verdicts[path] = word
    return text, saved | {"best": best}, verdicts


def figures(r, cost, out):
    """Return what is kept of a player on a process."""
    n = r["n"].sum()
    return {
        "cost": cost,
        "rms": float(np.sqrt(r["square"].sum() / n)),
        "out": out,
        "half": share(r)[1],
        "turns": r["turns"].sum() / n,
        "harmful": r["harmful"].sum() / n,
        "stops": r["stops"].sum() / n,
        "false_stops": r["false_stops"].sum() / n,
        "delay": float(np.nanmedian(r["delay"])) if np.isfinite(r["delay"]).any() else None,
    }


def summary(saved, verdicts, chosen=None):
    """Return the lines over all processes."""
    plain = [m for m in habits.HABITS if chosen is None or m in chosen]
    text = ["\nGeometric mean over the processes of cost against the oracle, and of share out (+0.1 %):"]
    everywhere = [m for m in next(iter(saved.values())) if all(m in v for v in saved.values())]
    for m in [m for m in everywhere if m != "best"]:
        g = np.exp(np.mean([np.log(v[m]["cost"] / v["oracle"]["cost"]) for v in saved.values()]))
        w = max(v[m]["cost"] / v[v["best"]]["cost"] for v in saved.values())
        b = np.exp(np.mean([np.log(v[m]["out"] + 0.001) for v in saved.values()])) - 0.001
        text.append(
            f"  {m[-14:]:14s} {g:5.2f}   out {100 * b:5.2f} %   worst against the best habit of a process {w:5.2f}"
        )
    for path in next(iter(verdicts.values()), {}):
        bad = [f"{n} ({v[path]})" for n, v in verdicts.items() if v[path] not in {"better", "no worse"}]
        over = {
            m: np.exp(np.mean([np.log(v[path]["cost"] / v[m]["cost"]) for v in saved.values()]))
            for m in everywhere
            if m not in {"clairvoyant", path, "best"}
        }
        text.append(
            f"\n{path}: no worse than the best habit on each: {'yes' if not bad else 'NO: ' + ', '.join(bad)}"
        )
        text.append(
            f"  better over all than every habit: {'yes' if max(over[m] for m in plain) < 1 else 'NO'}; "
            + ", ".join(f"{m} {v:.2f}" for m, v in over.items())
        )
    return text


def main():
    """Play what the command line asks for."""
    a = argparse.ArgumentParser()
    a.add_argument("--processes", default="bench.judge.processes")
    a.add_argument("--only", default="")
    a.add_argument("--seeds", type=int, default=60)
    a.add_argument("--first-seed", type=int, default=0)
    a.add_argument("--policy", action="append", default=[])
    a.add_argument("--every", type=int, default=0, help="pieces between the habits' checks")
    a.add_argument("--tune", action="store_true")
    a.add_argument("--into", default="tuned.json")
    a.add_argument("--save", default="")
    a.add_argument("--pure", action="store_true")
    a.add_argument("--players", default="", help="only these habits and controllers (the oracle always)")
    o = a.parse_args()
    seeds = range(o.first_seed, o.first_seed + o.seeds)
    asked = [k for k in kinds(o.processes) if not o.only or k.name in o.only.split(",")]
    if o.pure:
        for path in o.policy:
            for kind in asked:
                Twice.differs = 0
                runs(kind, seeds, lambda path=path: Twice(load(path)))
                print(f"{path} {kind.name}: {Twice.differs} answers differ from a fresh one's")
        return
    if o.every:
        habits.EVERY = o.every
    if o.tune:
        tune(o.processes, range(10000, 10000 + o.seeds), o.into, o.only)
        return
    chosen = o.players.split(",") if o.players else None
    saved, verdicts = {}, {}
    for kind in asked:
        text, saved[kind.name], verdicts[kind.name] = report(kind, seeds, o.policy, chosen)
        print("\n".join(text), flush=True)
    print("\n".join(summary(saved, verdicts, chosen)))
    if o.save:
        Path(o.save).write_text(json.dumps(saved, indent=1))


if __name__ == "__main__":
    main()
