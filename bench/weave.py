"""The order of visits: the named instances, three setups with random orders, a first good order, a hand move; in a warm process."""

import json
from collections.abc import Callable
from multiprocessing import get_context
from pathlib import Path
from random import Random
from statistics import median
from time import process_time
from typing import Any

from bench.alone import own_peak_mb, shown
from ditto_run.core.tools.weave.cost import cost_of
from ditto_run.core.tools.weave.problem import Weave
from ditto_run.core.tools.weave.reading import read_weave
from ditto_run.core.tools.weave.solve import weave_best

NAMED = Path(__file__).parents[1] / "tests" / "data" / "weave" / "dev"
LATE = {"d04", "d13"}  # proven, or within a hundredth of the bound
RANDOM = 24
FIRST_S = 0.15  # of work, for a first good order
Say = Callable[[str, float, float, str], None]


def three_setups(seed: int) -> Weave:
    """Return 3 + 3 + 2 stations: lists, tools, places and what waits for what drawn at random, as on a mill with three vises a side."""
    draw = Random(seed)
    said = json.loads((NAMED / "d08-three-setups.json").read_text("utf-8"))["weave"]
    stations: list[dict[str, Any]] = []
    for names, sizes in (("ABC", (5, 6, 6, 7)), ("DEF", (4, 5, 6)), ("GH", (3, 4, 5))):
        count, share = draw.choice(sizes), draw.choice((0.2, 0.35, 0.5))
        cuts = [(f"T{draw.randint(1, 9):02d}", draw.randint(5, 60)) for _ in range(count)]
        pairs = [(a, b) for a in range(count) for b in range(a + 1, count) if not a or draw.random() < share]
        stations += [
            {
                "id": name,
                "ops": [{"id": f"{name}{n}", "tool": tool, "cut": cut} for n, (tool, cut) in enumerate(cuts)],
                "order": [[f"{name}{a}", f"{name}{b}"] for a, b in pairs],
            }
            for name in names
        ]
    tools = [{"id": f"T{n:02d}", "place": draw.randint(1, 20)} for n in range(1, 10)]
    return read_weave(said | {"stations": stations, "tools": tools})


def bench_weave(say: Say) -> None:
    """Say how long each instance takes, how many random ones are proven in two seconds, and the rest of what is promised.

    Args:
        say: prints a figure beside its limit.
    """
    for path in sorted(NAMED.glob("*.json")):
        weave, name = read_weave(json.loads(path.read_text("utf-8"))["weave"]), path.stem.partition("-")[0]
        began = process_time()
        found = weave_best(weave)
        took = process_time() - began
        cycle = found.cost.cycle_ms if found.cost is not None else 0
        say(f"weave {name}, {len(weave.ops)} operations, {found.status}", took, 2, "s")
        say(
            f"weave {name}, above its bound",
            (cycle - found.bound_ms) / max(cycle, 1) * 100,
            name in LATE,
            "%",
        )
        first = weave_best(weave, FIRST_S)
        above = (first.cost.cycle_ms if first.cost is not None else 0) / max(cycle, 1) * 100 - 100
        say(f"weave {name}, first good order above the best", above, 0.2, "%")
    within = []
    for seed in range(RANDOM):
        weave = three_setups(seed)
        began = process_time()
        within.append(weave_best(weave).status == "proven" and process_time() - began <= 2)
    say("weaves of 3 + 3 + 2 stations not proven in 2 s", 100 - sum(within) / RANDOM * 100, 25, "%")
    weave = three_setups(0)
    order = tuple(range(len(weave.ops)))
    times = []
    for _ in range(50):
        began = process_time()
        cost_of(weave, order)
        times.append((process_time() - began) * 1000)
    say("a hand move costed again", median(times), 5, "ms")
    with get_context("spawn").Pool(1) as alone:
        say("memory of a process that weaves, at most", alone.apply(peak_mb), 150, "MB")


def peak_mb() -> float:
    """Return the most memory this process had, after three weaves that are not proven soon, [MB]."""
    for weave in (three_setups(14), three_setups(3), three_setups(13)):
        weave_best(weave, 8)
    return own_peak_mb()


if __name__ == "__main__":
    bench_weave(shown)
