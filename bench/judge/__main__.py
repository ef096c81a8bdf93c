"""make judge: the tables of the judgement beside the usual habits, two processes at a time.

python -m bench.judge                the open processes, 240 seeds each, containment and finish; some 20 minutes
python -m bench.judge --short        12 seeds, two habits and the oracle beside it; two minutes
python -m bench.judge --processes bench.judge.others
"""

import argparse
import subprocess
import sys
from concurrent.futures import ProcessPoolExecutor

from bench.judge.judge import kinds, report, summary

OURS = "ditto_run.core.run.judge"
FEW = ["never", "precontrol"]


def one(modules, name, seeds, chosen):
    """Play one process by its name."""
    kind = next(kind for kind in kinds(modules) if kind.name == name)
    return name, *report(kind, seeds, [f"{OURS}:Decider"], chosen)


def main():
    """Print the tables."""
    a = argparse.ArgumentParser(description=__doc__)
    a.add_argument("--short", action="store_true")
    a.add_argument("--seeds", type=int, default=0)
    a.add_argument("--first-seed", type=int, default=0)
    a.add_argument("--processes", default="bench.judge.processes")
    asked = a.parse_args()
    count = asked.seeds or (12 if asked.short else 240)
    seeds, chosen = range(asked.first_seed, asked.first_seed + count), FEW if asked.short else None
    print(f"Seeds {seeds.start} to {seeds.stop - 1}.")
    saved, verdicts = {}, {}
    with ProcessPoolExecutor(2) as pool:
        waiting = [
            pool.submit(one, asked.processes, kind.name, seeds, chosen) for kind in kinds(asked.processes)
        ]
        for done in waiting:
            name, text, saved[name], verdicts[name] = done.result()
            print("\n".join(text), flush=True)
    print("\n".join(summary(saved, verdicts, chosen)))
    cases = 16 if asked.short else 160
    running = [
        (
            table,
            subprocess.Popen(
                [*command(table, cases), "--policy", f"{OURS}:{table}"], stdout=subprocess.PIPE, text=True
            ),
        )
        for table in ("contain", "finish")
    ]
    for table, process in running:
        print(f"\n== {table}\n{process.communicate()[0]}", flush=True)
        if process.returncode:
            sys.exit(process.returncode)

    print("\n== through the log", flush=True)
    played = subprocess.run(
        [sys.executable, "-m", "bench.judge.played", "--cases", str(4 if asked.short else 24)],
        check=False,
    )
    if played.returncode:
        sys.exit(played.returncode)


def command(table, cases):
    """Return the command that plays another table."""
    return [sys.executable, "-m", f"bench.judge.{table}", "--cases", str(cases)]


if __name__ == "__main__":
    main()
