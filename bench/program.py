"""Programs read: a long one, the same written out, one over 24 stations; beside a bare word pattern of the same run."""

import re
from collections.abc import Callable, Iterator
from multiprocessing import get_context
from random import Random
from time import process_time

from bench.alone import own_peak_mb, shown
from ditto_run.core.program.dialect import DIALECTS
from ditto_run.core.program.given import BoxBlank, Given, Slides
from ditto_run.core.program.reader import read_program

LINES, STATIONS = 200_000, 24
BARE = re.compile(r"([A-Z])\s*([-+]?[0-9]*\.?[0-9]+)")
SLIDES = Slides((12_000.0, 12_000.0, 9_000.0), 1500.0, 8.0)
Say = Callable[[str, float, float, str], None]


def pocket(lines: int = LINES, *, written_out: bool = False) -> tuple[str, Given]:
    """Return a program of short straight cuts and arcs, layer by layer, and what is told beside it.

    Args:
        lines: about so many.
        written_out: every word on every line.
    """
    draw = Random(17)
    told = Given(
        DIALECTS["mill-ngc"],
        SLIDES,
        {"G54": (-600.0, -250.0, -300.0)},
        {"G54": BoxBlank((0, 0, -900), (200, 200, 0))},
    )
    body = ["%", "G21 G17 G40 G49 G80 G90 G94", "T1 M6", "S3000 M3", "G54 G0 X100. Y100.", "G43 H1 Z2. M8"]
    x, y, z = 100.0, 100.0, 0.0
    while len(body) < lines - 4:
        z -= 0.005
        body.append(f"G1 X{x:.3f} Y{y:.3f} Z{z:.3f} F300." if written_out else f"G1 Z{z:.3f} F300.")
        for n in range(24):
            x, y = min(max(x + draw.uniform(-2, 2), 20), 180), min(max(y + draw.uniform(-2, 2), 20), 180)
            feed = " F1200." if not n else ""
            body.append(f"G1 X{x:.3f} Y{y:.3f} Z{z:.3f}{feed}" if written_out else f"X{x:.3f} Y{y:.3f}{feed}")
        body.append(f"G2 X{x + 5:.3f} Y{y + 5:.3f}{f' Z{z:.3f}' if written_out else ''} I5. J0.")
        x, y = x + 5, y + 5
    return "\n".join([*body, "G0 Z50.", "M9", "M5", "M30", "%"]) + "\n", told


def stations(lines: int = LINES, many: int = STATIONS) -> tuple[str, Given]:
    """Return a program that drills at many stations, four lines a hole, and what is told beside it."""
    codes = [f"G54.1 P{n + 1}" for n in range(many)]
    offsets = {
        code: (-1000.0 + 60 * (n % 12), -500.0 + 60 * (n // 12), -300.0) for n, code in enumerate(codes)
    }
    blanks = dict.fromkeys(codes, BoxBlank((0, 0, -10), (40, 40, 0)))

    def body() -> Iterator[str]:
        yield from ("%", "G21 G17 G40 G90 G94", "T1 M6", "S3000 M3", "G54.1 P1", "G43 H1 G0 Z25.")
        for n in range(lines // 17):
            yield codes[n % many]
            for x, y in ((10, 10), (30, 10), (10, 30), (30, 30)):
                yield from (f"G0 X{x}. Y{y}.", "G0 Z2.", "G1 Z-3. F300.", "G0 Z25.")
        yield from ("M5", "M30", "%")

    return "\n".join(body()) + "\n", Given(DIALECTS["mill-ngc"], SLIDES, offsets, blanks)


def changes(many: int = 100_000) -> tuple[str, Given]:
    """Return a program of nothing but tool changes with one cut each, and what is told beside it."""
    body = "".join(f"T{n} M6\nG1 X{n % 50}. F100.\n" for n in range(1, many + 1))
    return body, Given(DIALECTS["mill-ngc"], SLIDES)


def offsets(many: int = 100_000) -> tuple[str, Given]:
    """Return a program of nothing but offsets, of which all but 300 are none, and what is told beside it."""
    body = "".join(f"G54.1 P{n}\nG0 X1. Y1.\n" for n in range(many))
    return body, Given(DIALECTS["mill-ngc"], SLIDES)


def bare_s(text: str) -> float:
    """Return how long a bare word pattern takes over a text, [s]."""
    began = process_time()
    for line in text.splitlines():
        for _ in BARE.finditer(line):
            pass
    return process_time() - began


def read_s(text: str, told: Given) -> float:
    """Return how long reading a program takes, [s]."""
    began = process_time()
    read_program(text, told)
    return process_time() - began


def bench_program(say: Say) -> None:
    """Say how long each program takes against the floor of the same run, and what the reader's process takes of memory.

    Args:
        say: prints a figure beside its limit.
    """
    for name, (text, told), most in (
        (f"{LINES:,} lines", pocket(), 10.0),
        (f"{LINES:,} lines with every word written out", pocket(written_out=True), 16.0),
        (f"{LINES:,} lines over {STATIONS} stations", stations(), 20.0),
    ):
        floor, took = bare_s(text), read_s(text, told)
        print(f"       {len(text) / 1e6:.1f} MB in {took:.1f} s, bare word pattern {floor:.2f} s")
        say(f"a program of {name}, in floors", took / floor, most, "×")
    for name, (text, told), most in (("tool changes", changes(), 6.0), ("offsets", offsets(), 4.0)):
        say(f"a program of 100,000 {name}", read_s(text, told), most, "s")
    with get_context("spawn").Pool(1) as alone:
        say("memory of a process that reads one, at most", alone.apply(peak_mb), 80, "MB")


def peak_mb() -> float:
    """Return the most memory this process had, after a long program, [MB]."""
    read_program(*pocket())
    return own_peak_mb()


if __name__ == "__main__":
    bench_program(shown)
