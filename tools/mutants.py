"""Breaks the code on purpose, one small change at a time, and counts how many the nearest tests catch.

make mutants: 400 changes with a fixed seed over four parts of the house, more than an hour; `--count 40` for a short look.
A change that hangs counts as caught; one that cannot be imported is drawn again.
"""

import argparse
import ast
import os
import shutil
import subprocess
import sys
import tempfile
from collections.abc import Iterator
from concurrent.futures import ThreadPoolExecutor
from copy import deepcopy
from dataclasses import dataclass
from math import sqrt
from pathlib import Path
from queue import Queue
from random import Random

ROOT = Path(__file__).parents[1]
SOURCE = ROOT / "src/ditto_run"
NEAREST = {  # part of the house: the tests that hold it
    "core/run": ("tests/core/run", "tests/core/close"),
    "core/place": ("tests/core/place", "tests/published/test_place_geometry.py"),
    "core/sizes": (
        *("tests/core/sizes", "tests/test_entries_page.py", "tests/published/test_iso286.py"),
        "tests/core/part/test_checks.py",
    ),
    "desk": ("tests/desk", "tests/store", "tests/web/test_api.py", "tests/web/test_later.py"),
}
LONGEST_S = 120
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


def caught(change: Change, tests: tuple[str, ...], house: Path) -> bool | None:
    """Return whether the nearest tests notice a change made in a copy of the house; None if it cannot be imported."""
    target = house / change.path.relative_to(SOURCE.parent)
    plain = target.read_text()
    target.write_text(changed(change))
    module = ".".join(change.path.relative_to(SOURCE.parent).with_suffix("").parts).removesuffix(".__init__")
    env = os.environ | {"PYTHONPATH": str(house), "PYTHONDONTWRITEBYTECODE": "1"}
    try:
        if subprocess.run(
            [sys.executable, "-c", f"import {module}"], env=env, capture_output=True, check=False
        ).returncode:
            return None
        command = [
            sys.executable,
            "-m",
            "pytest",
            "-x",
            "-q",
            "-p",
            "no:cacheprovider",
            "-o",
            f"pythonpath={house} .",
            *tests,
        ]
        return (
            subprocess.run(
                command, env=env, cwd=ROOT, capture_output=True, timeout=LONGEST_S, check=False
            ).returncode
            != 0
        )
    except subprocess.TimeoutExpired:
        return True
    finally:
        target.write_text(plain)


def sees_its_copy(house: Path) -> bool:
    """Return whether the tests run on the copy at all: a module that cannot be imported there has to stop them."""
    target = house / "ditto_run/core/sizes/size.py"
    plain = target.read_text()
    target.write_text("raise RuntimeError('broken on purpose')\n")
    command = [sys.executable, "-m", "pytest", "-q", "-p", "no:cacheprovider", "-o", f"pythonpath={house} ."]
    env = os.environ | {"PYTHONPATH": str(house), "PYTHONDONTWRITEBYTECODE": "1"}
    done = subprocess.run(
        [*command, "tests/core/sizes/test_reading.py"], env=env, cwd=ROOT, capture_output=True, check=False
    )
    target.write_text(plain)
    return done.returncode != 0


def interval(hits: int, of: int) -> tuple[float, float]:
    """Return the 95 % interval of a share, by Wilson."""
    if not of:
        return 0.0, 1.0
    z, share = 1.959964, hits / of
    middle = (share + z * z / (2 * of)) / (1 + z * z / of)
    half = z / (1 + z * z / of) * sqrt(share * (1 - share) / of + z * z / (4 * of * of))
    return middle - half, middle + half


def draw(count: int, seed: int) -> list[tuple[str, Change]]:
    """Return so many changes, as many from each part of the house."""
    drawn = []
    for area in NEAREST:
        found = [change for path in sorted((SOURCE / area).rglob("*.py")) for change in changes_of(path)]
        random = Random(f"{seed} {area}")  # noqa: S311 - a draw that can be made again
        drawn += [(area, change) for change in random.sample(found, count // len(NEAREST))]
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
                hit = caught(one[1], NEAREST[one[0]], house)
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
    asked = parser.parse_args()
    drawn = draw(asked.count, asked.seed)
    results = try_all(drawn)
    for area in NEAREST:
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
