"""Close and the week: the page of a thousand pieces, its papers, pins fitted to bores, the order of a week."""

import time
from collections.abc import Callable
from decimal import Decimal
from pathlib import Path
from random import Random
from statistics import quantiles
from tempfile import TemporaryDirectory

import httpx2

from bench.big_run import big_run
from ditto_run.core.close.fit import Measured, fit_pairs
from ditto_run.core.week.laid_out import WeekTask
from ditto_run.core.week.proposed import propose

Say = Callable[[str, float, float, str], None]
Served = Callable[[Path], object]
ROUNDS = 15


def _p95(work: Callable[[], object], rounds: int = ROUNDS) -> float:
    work()
    taken = []
    for _ in range(rounds):
        began = time.perf_counter()
        work()
        taken.append((time.perf_counter() - began) * 1000)
    return quantiles(taken, n=20)[-1]


def bench_close(say: Say, served: Callable[[Path], "object"]) -> None:
    """Say how long Close of a thousand pieces by six sizes takes, and what stands beside it.

    Args:
        say: prints a figure beside its limit.
        served: serves an application over a folder.
    """
    with TemporaryDirectory() as name:
        folder = Path(name)
        _, job, _ = big_run(folder, 1000)
        with served(folder) as (_, client):  # type: ignore[attr-defined]

            def get(what: str) -> httpx2.Response:
                answer: httpx2.Response = client.get(f"/jobs/{job}/close{what}", timeout=60)
                assert answer.status_code == 200, answer.text[:300]
                return answer

            empty = _p95(lambda: client.get("/empty"))
            print(f"       empty endpoint {empty:.1f} ms")
            say("closing page, 1,000 × 6, p95", _p95(lambda: get("")), 150, "ms")
            say("paper for the customer, 1,000 × 6, p95", _p95(lambda: get("/customer")), 150, "ms")
            say("workbook of 1,000 × 6", _p95(lambda: get("/readings.xlsx"), 3), 2000, "ms")
            say("search over the jobs, p95", _p95(lambda: client.get("/?q=bench")), 50, "ms")
    chance = Random(4)
    pins, bores = (
        [Measured(first + n, Decimal(20) + Decimal(chance.randint(-15, 15)) / 1000) for n in range(200)]
        for first in (1, 1001)
    )
    fit = _p95(lambda: fit_pairs(pins, bores, Decimal(0), Decimal("0.01")))
    say("200 pins fitted to 200 bores, p95", fit, 200, "ms")
    tasks = [
        WeekTask(f"t{n}", f"M{n % 5}", 30 + 17 * n % 200, 20 + 10 * (n % 6), due=200 + 40 * n)
        for n in range(40)
    ]
    say("order of a week of 40 jobs", _p95(lambda: propose(tasks, [t.key for t in tasks], 2), 3), 4000, "ms")
