"""Starting points for a way, to be changed: usual times for a small part. Common practice, no source."""

from dataclasses import replace
from typing import NamedTuple

from ditto_run.core.method.guess import read_guess
from ditto_run.core.method.way import Attended, Ready, Way


class Start(NamedTuple):
    """A starting point: what it is called, what is got ready, times of a piece, and what the hands do."""

    kind: str
    word: str
    ready: tuple[tuple[str, str, bool], ...]
    times: str  # load locate cut unload deburr gauge per_load
    per_load: int
    trials: int
    attended: Attended


FIELDS = ("load", "locate", "cut", "unload", "deburr", "gauge", "per_load")
STARTS: tuple[Start, ...] = (
    Start(
        "dial-in",
        "dial in each piece",
        (("setting up", "20/30/45 min", False),),
        "0:30 2/3/5min 4min 0:20 0:40 0:30 0",
        1,
        0,
        "all the time",
    ),
    Start(
        "four-jaw",
        "four-jaw, each piece trued",
        (("setting up", "15/25/40 min", False),),
        "0:30 2/4/7min 4min 0:20 0:40 0:30 0",
        1,
        0,
        "all the time",
    ),
    Start(
        "face-plate",
        "face plate with a locating centre",
        (("fixture", "40/60/120 min", True), ("setting up", "30/45/70 min", False)),
        "0:40 0:30 4min 0:30 0:40 0:30 0",
        1,
        1,
        "all the time",
    ),
    Start(
        "fixture",
        "fixture",
        (("fixture", "2/3/5 h", True), ("setting up", "30/45/70 min", False)),
        "0:25 0:05 4min 0:20 0:40 0:20 0",
        1,
        1,
        "all the time",
    ),
    Start(
        "soft-jaws",
        "soft jaws",
        (("jaws", "30/45/75 min", True), ("setting up", "20/30/45 min", False)),
        "0:20 0:05 4min 0:15 0:40 0:20 0",
        1,
        1,
        "all the time",
    ),
    Start(
        "cnc",
        "program and one vise",
        (
            ("programming", "40/60/100 min", True),
            ("tooling", "15/25/40 min", False),
            ("setting up", "30/45/70 min", False),
        ),
        "0:25 0:05 3min 0:20 0:30 0:20 0:40",
        1,
        2,
        "start and stop",
    ),
    Start(
        "several-up",
        "several up",
        (
            ("programming", "50/75/120 min", True),
            ("fixture", "30/60/120 min", True),
            ("tooling", "15/25/40 min", False),
            ("setting up", "40/60/100 min", False),
        ),
        "0:25 0:05 3min 0:20 0:30 0:20 2min",
        3,
        2,
        "start and stop",
    ),
    Start(
        "strip",
        "gang-mill a strip and slit it",
        (("fixture", "30/50/90 min", True), ("setting up", "30/45/70 min", False)),
        "0:08 0:02 1/1.5/2.5min 0:06 0:40 0:15 1min",
        6,
        1,
        "all the time",
    ),
    Start(
        "gang-tools",
        "gang tools on the lathe",
        (("tooling", "40/60/100 min", True), ("setting up", "40/60/90 min", False)),
        "0:15 0 1.5min 0:08 0:15 0:15 0",
        1,
        3,
        "start and stop",
    ),
    Start(
        "sub-spindle",
        "sub-spindle, piece complete",
        (
            ("programming", "60/90/150 min", True),
            ("tooling", "30/45/70 min", True),
            ("setting up", "45/70/110 min", False),
        ),
        "0:04 0 1.5min 0:04 0:10 0:15 0",
        1,
        3,
        "runs alone",
    ),
    Start("buy", "buy it", (("ordering", "15/30/60 min", False),), "0 0 0 0 0 0 0", 1, 0, "all the time"),
    Start(
        "own",
        "another way",
        (("setting up", "30 min", False),),
        "0:20 0 3min 0:20 0:30 0:20 0",
        1,
        0,
        "all the time",
    ),
)
BY_KIND = {start.kind: start for start in STARTS}
SUITS: dict[str, frozenset[str]] = {
    "block": frozenset({"dial-in", "fixture", "soft-jaws", "cnc", "several-up", "strip", "buy", "own"}),
    "turned": frozenset({"four-jaw", "face-plate", "soft-jaws", "gang-tools", "sub-spindle", "buy", "own"}),
}
"""Starting points that suit a form at first sight; the others stay to be chosen. Common practice, no source."""
ONE_OFF = {"dial-in", "four-jaw", "own"}  # ways that make nothing lasting: no lesson for a batch in them


def starting_way(kind: str, key: int, rates: tuple[int, int] = (0, 0), cut: str = "") -> Way:
    """Return a way filled with usual times, to be changed.

    Args:
        kind: one of STARTS; another way if unknown.
        key: number it gets in the job.
        rates: an hour of hands and of the machine. [cents/h]
        cut: time of the cut where it is known already, as typed.

    Source:
        Common practice, no source.
    """
    start = BY_KIND.get(kind, BY_KIND["own"])
    guesses = {name: read_guess(text, name) for name, text in zip(FIELDS, start.times.split(), strict=True)}
    if cut and start.kind != "buy":
        guesses["cut"] = read_guess(cut, "cut")
    ready = tuple(Ready(what, read_guess(time, "ready"), 0, lasting) for what, time, lasting in start.ready)
    way = Way(
        key,
        start.word,
        start.kind,
        ready,
        start.trials,
        pieces_per_load=start.per_load,
        attended=start.attended,
        labour_cents=rates[0],
        machine_cents=rates[1],
    )
    return replace(way, **guesses)  # type: ignore[arg-type]
