"""Breaks the code on purpose, one small change at a time, and counts how many the nearest tests catch.

make mutants: 400 changes with a fixed seed over four parts of the house, some 40 minutes; `--count 40` for a short look.
A change that hangs counts as caught; one that cannot be imported is left out. Each change is tried in a process that is
forked with the libraries loaded, quick tests first, and ends with the first test that fails.
"""

import argparse
import ast
import importlib
import os
import shutil
import signal
import sys
import tempfile
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from contextlib import suppress
from copy import deepcopy
from dataclasses import dataclass
from math import sqrt
from multiprocessing import get_context
from pathlib import Path
from queue import Queue
from random import Random

ROOT = Path(__file__).parents[1]
SOURCE = ROOT / "src/ditto_run"
NEAREST = {  # part of the house: the tests that hold it
    "core/run": ("tests/core/run", "tests/core/close", "tests/core/test_words.py"),
    "core/place": ("tests/core/place", "tests/published/test_place_geometry.py"),
    "core/sizes": (
        *("tests/core/sizes", "tests/test_entries_page.py", "tests/published/test_iso286.py"),
        "tests/core/part/test_checks.py",
    ),
    "desk": (),
}
OF_DESK = {  # each of its modules has its own
    "backups": ("tests/desk/test_nothing_lost.py", "tests/store", "tests/desk/test_backup.py"),
    "bundles": ("tests/formats/test_job_bundle.py", "tests/formats/test_strange_files.py"),
    "desk": ("tests/desk/test_nothing_lost.py", "tests/desk/test_gate.py", "tests/web/test_later.py"),
    "folder": ("tests/desk/test_nothing_lost.py", "tests/test_cli.py"),
    "gate": ("tests/desk/test_gate.py", "tests/desk/test_worker.py"),
    "kits": ("tests/web/test_part_and_method.py",),
    "layouts": ("tests/web/test_place.py", "tests/web/test_place_drawings.py"),
    "overview": ("tests/web/test_pages.py", "tests/web/test_part_and_method.py"),
    "plans": ("tests/desk/test_gate.py", "tests/web/test_part_and_method.py", "tests/web/test_pages.py"),
    "runs": (
        *("tests/desk/test_gate.py", "tests/desk/test_register_follows.py", "tests/web/test_later.py"),
        *("tests/desk/test_nothing_lost.py", "tests/web/test_api.py"),
    ),
    "shelf": ("tests/web/test_part_and_method.py", "tests/web/test_place.py"),
    "ways": ("tests/web/test_part_and_method.py",),
    "worked": ("tests/desk/test_gate.py", "tests/web/test_frozen_shop.py", "tests/desk/test_worker.py"),
    "worker": ("tests/desk/test_worker.py",),
}
SLOW = {
    "test_kills.py",
    "test_worker.py",
    "test_backup.py",
    "test_api.py",
    "test_machine.py",
    "test_grammar.py",
}
LONGEST_S = 120
BROKEN = 99  # exit code of a change that cannot be imported
FORKS = get_context("forkserver")
FORKS.set_forkserver_preload(
    [
        "pytest",
        "hypothesis",
        "schemathesis",
        "fastapi.testclient",
        "sqlalchemy",
        "jinja2",
        "ortools.sat.python.cp_model",
    ]
)
SWAPS: dict[type[ast.AST], type[ast.AST]] = {
    ast.Lt: ast.LtE,
    ast.LtE: ast.Lt,
    ast.Gt: ast.GtE,
    ast.GtE: ast.Gt,
    ast.Eq: ast.NotEq,
    ast.NotEq: ast.Eq,
    ast.In: ast.NotIn,
    ast.NotIn: ast.In,
    ast.Is: ast.IsNot,
    ast.IsNot: ast.Is,
    ast.Add: ast.Sub,
    ast.Sub: ast.Add,
    ast.Mult: ast.Div,
    ast.Div: ast.Mult,
    ast.And: ast.Or,
    ast.Or: ast.And,
}


@dataclass(frozen=True, slots=True)
class Change:
    """One change: the file, the place of the node in a walk through its tree, and what it does."""

    path: Path
    node: int
    line: int
    what: str


def changes_of(path: Path) -> Iterator[Change]:
    """Give every change that can be made in a file."""
    tree = ast.parse(path.read_text())
    decorators = [d for node in ast.walk(tree) for d in getattr(node, "decorator_list", ())]
    beside = {
        id(inner) for decorator in decorators for inner in ast.walk(decorator)
    }  # frozen or not changes nothing
    for place, node in enumerate(ast.walk(tree)):
        what = described(node)
        if what and id(node) not in beside:
            yield Change(path, place, getattr(node, "lineno", 0), what)


def described(node: ast.AST) -> str:
    """Return what would be changed at a node; empty for nothing."""
    if isinstance(node, ast.Compare) and len(node.ops) == 1:
        return f"{type(node.ops[0]).__name__} → {SWAPS[type(node.ops[0])].__name__}"
    if isinstance(node, ast.BinOp | ast.BoolOp) and type(node.op) in SWAPS:
        return f"{type(node.op).__name__} → {SWAPS[type(node.op)].__name__}"
    if isinstance(node, ast.Constant) and isinstance(node.value, bool):
        return f"{node.value} → {not node.value}"
    if isinstance(node, ast.Constant) and isinstance(node.value, int):
        return f"{node.value} → {node.value + 1}"
    if isinstance(node, ast.If):
        return "if → if not"
    return "call left out" if isinstance(node, ast.Expr) and isinstance(node.value, ast.Call) else ""


def changed(change: Change) -> str:
    """Return a file with one change made."""
    tree = deepcopy(ast.parse(change.path.read_text()))
    node = list(ast.walk(tree))[change.node]
    if isinstance(node, ast.Compare):
        node.ops = [SWAPS[type(node.ops[0])]()]  # type: ignore[list-item]
    elif isinstance(node, ast.BinOp | ast.BoolOp):
        node.op = SWAPS[type(node.op)]()  # type: ignore[assignment]
    elif isinstance(node, ast.Constant):
        node.value = not node.value if isinstance(node.value, bool) else node.value + 1  # type: ignore[operator]
    elif isinstance(node, ast.If):
        node.test = ast.UnaryOp(ast.Not(), node.test)
    elif isinstance(node, ast.Expr):
        node.value = ast.Constant(None)
    return ast.unparse(ast.fix_missing_locations(tree))


def tests_of(path: Path) -> list[str]:
    """Return the nearest tests of a file of the house, file by file, those that take long last."""
    area = next(area for area in NEAREST if path.is_relative_to(SOURCE / area))
    found: list[Path] = []
    for test in NEAREST[area] or OF_DESK.get(path.stem, ("tests/desk/test_gate.py",)):
        found += sorted((ROOT / test).rglob("test_*.py")) if (ROOT / test).is_dir() else [ROOT / test]
    return [str(path) for path in sorted(found, key=lambda path: path.name in SLOW)]


def run_tests(house: Path, module: str, tests: list[str]) -> None:
    """Run in a process of its own: import the changed module from the copy, then its tests; the exit code says what came."""
    out = os.open(os.devnull, os.O_RDWR)
    for stream in (0, 1, 2):
        os.dup2(out, stream)
    os.chdir(ROOT)
    os.setpgid(0, 0)  # what it starts itself ends with it
    os.environ |= {"PYTHONPATH": str(house), "PYTHONDONTWRITEBYTECODE": "1"}
    sys.dont_write_bytecode = True
    sys.path[:0] = [str(house), str(ROOT)]
    try:
        importlib.import_module(module)
    except BaseException:  # noqa: BLE001 - whatever a broken module does
        os._exit(BROKEN)
    import pytest  # noqa: PLC0415 - loaded already, in the process this one was forked from

    os._exit(
        int(
            pytest.main(
                [
                    "-x",
                    "-q",
                    "-p",
                    "no:cacheprovider",
                    "-W",
                    "ignore:Module already imported",
                    "-o",
                    f"pythonpath={house} .",
                    *tests,
                ]
            )
        )
    )


def outcome(house: Path, module: str, tests: list[str]) -> int | None:
    """Return the exit code of the tests on a copy; None if they took too long."""
    process = FORKS.Process(target=run_tests, args=(house, module, tests))
    process.start()
    process.join(LONGEST_S)
    if process.exitcode is None and process.pid:
        with suppress(ProcessLookupError):
            os.killpg(process.pid, signal.SIGKILL)
        process.join()
        return None
    return process.exitcode


def caught(change: Change, house: Path) -> bool | None:
    """Return whether the nearest tests notice a change made in a copy of the house; None if it cannot be imported."""
    target = house / change.path.relative_to(SOURCE.parent)
    plain = target.read_text()
    target.write_text(changed(change))
    module = ".".join(change.path.relative_to(SOURCE.parent).with_suffix("").parts).removesuffix(".__init__")
    try:
        came = outcome(house, module, tests_of(change.path))
    finally:
        target.write_text(plain)
    return None if came == BROKEN else came != 0


def sees_its_copy(house: Path) -> bool:
    """Return whether the tests run on the copy at all: unbroken they pass there, and a broken module stops them."""
    target = house / "ditto_run/core/sizes/size.py"
    plain = target.read_text()
    tests = [str(ROOT / "tests/core/sizes/test_reading.py")]
    whole = outcome(house, "ditto_run.core.units", tests)
    target.write_text("raise RuntimeError('broken on purpose')\n")
    broken = outcome(house, "ditto_run.core.units", tests)
    target.write_text(plain)
    return whole == 0 and broken not in {0, None}


def interval(hits: int, of: int) -> tuple[float, float]:
    """Return the 95 % interval of a share, by Wilson."""
    if not of:
        return 0.0, 1.0
    z, share = 1.959964, hits / of
    middle = (share + z * z / (2 * of)) / (1 + z * z / of)
    half = z / (1 + z * z / of) * sqrt(share * (1 - share) / of + z * z / (4 * of * of))
    return middle - half, middle + half


def draw(count: int, seed: int, areas: list[str]) -> list[tuple[str, Change]]:
    """Return so many changes, as many from each part of the house."""
    drawn = []
    for area in areas:
        found = [change for path in sorted((SOURCE / area).rglob("*.py")) for change in changes_of(path)]
        random = Random(f"{seed} {area}")  # noqa: S311 - a draw that can be made again
        drawn += [(area, change) for change in random.sample(found, count // len(areas))]
    return drawn


def try_all(drawn: list[tuple[str, Change]]) -> list[bool | None]:
    """Return what became of each change, two at a time, each in a copy of the house."""
    with tempfile.TemporaryDirectory() as folder, ThreadPoolExecutor(2) as pool:
        houses: Queue[Path] = Queue()
        for number in range(2):
            house = Path(folder) / str(number)
            shutil.copytree(SOURCE, house / "ditto_run", ignore=shutil.ignore_patterns("__pycache__"))
            if not sees_its_copy(house):
                sys.exit("The tests do not run on the copy; nothing was measured.")
            houses.put(house)

        def tried(one: tuple[str, Change]) -> bool | None:
            house = houses.get()
            try:
                hit = caught(one[1], house)
            finally:
                houses.put(house)
            print(".?"[hit is None] if hit is not False else "-", end="", flush=True, file=sys.stderr)
            return hit

        return list(pool.map(tried, drawn))


def main() -> None:
    """Print how many changes were caught in each part, and those that were not."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--count", type=int, default=400)
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--part", choices=NEAREST, action="append", help="only this one")
    asked = parser.parse_args()
    areas = asked.part or list(NEAREST)
    drawn = draw(asked.count, asked.seed, areas)
    results = try_all(drawn)
    for area in areas:
        mine = [hit for (of, _), hit in zip(drawn, results, strict=True) if of == area and hit is not None]
        low, high = interval(sum(mine), len(mine))
        share = sum(mine) / max(len(mine), 1)
        print(f"{area:12} {sum(mine):3} of {len(mine):3} caught, {share:.0%} ({low:.0%} to {high:.0%})")
    print("Not caught:")
    for (_, change), hit in zip(drawn, results, strict=True):
        if hit is False:
            print(f"  {change.path.relative_to(ROOT)}:{change.line} {change.what}")


if __name__ == "__main__":
    main()
