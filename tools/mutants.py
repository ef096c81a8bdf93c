"""Breaks the code on purpose, one small change at a time, and counts how many the nearest tests catch.

make mutants: 400 changes with a fixed seed over six parts of the house; `--count 40` for a short look.
First the tests run once unbroken, and which of them goes through which line is written down. Each change is then tried with
those that go through its line, quick ones first, in a process that is forked with the libraries loaded, and ends with the
first test that fails. A change that hangs counts as caught; one that cannot be imported is left out; one whose line no test
goes through is not caught.
"""

from __future__ import annotations

import argparse
import ast
import compileall
import importlib
import json
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
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    import pytest

ROOT = Path(__file__).parents[1]
SOURCE = ROOT / "src/ditto_run"
NEAREST = {  # part of the house: the tests that hold it
    "core/run": ("tests/core/run", "tests/core/close", "tests/core/test_words.py"),
    "core/part/shape": ("tests/core/part", "tests/core/hold/test_contact.py"),
    "core/hold": ("tests/core/hold",),
    "core/place": ("tests/core/place", "tests/published/test_place_geometry.py"),
    "core/sizes": (
        *("tests/core/sizes", "tests/test_entries_page.py", "tests/core/test_reader.py"),
        *("tests/published/test_iso286.py", "tests/core/part/test_checks.py"),
    ),
    "desk": (
        *("tests/desk", "tests/formats/test_job_bundle.py", "tests/formats/test_strange_files.py"),
        *("tests/store", "tests/test_cli.py", "tests/web/test_frozen_shop.py", "tests/web/test_later.py"),
        *("tests/web/test_pages.py", "tests/web/test_part_and_method.py", "tests/web/test_place.py"),
        *("tests/web/test_place_drawings.py", "tests/web/test_said_once.py"),
    ),
}
LONGEST_S = 60
LONGEST_UNBROKEN_S = 900
BROKEN = 99  # exit code of a change that cannot be imported
FORKS = get_context("forkserver")
FORKS.set_forkserver_preload(
    [
        "pytest",
        "coverage",
        "hypothesis",
        "hypothesis.strategies",
        "schemathesis.graphql",
        "schemathesis.pytest",
        "anyio.pytest_plugin",
        "pytest_playwright.pytest_playwright",
        "xdist.plugin",
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
    """One change: the file, the place of the node in a walk through its tree, the lines of its statement, and what it does."""

    path: Path
    node: int
    line: int
    what: str
    lines: range


def changes_of(path: Path) -> Iterator[Change]:
    """Give every change that can be made in a file."""
    tree = ast.parse(path.read_text())
    decorators = [d for node in ast.walk(tree) for d in getattr(node, "decorator_list", ())]
    beside = {
        id(inner) for decorator in decorators for inner in ast.walk(decorator)
    }  # frozen or not changes nothing
    lines = lines_of(tree)
    for place, node in enumerate(ast.walk(tree)):
        what = described(node)
        if what and id(node) not in beside:
            yield Change(path, place, getattr(node, "lineno", 0), what, lines[id(node)])


def lines_of(tree: ast.AST) -> dict[int, range]:
    """Return for each node the lines of the statement it stands in, without those of its body."""
    found: dict[int, range] = {}

    def walk(node: ast.AST, mine: range) -> None:
        if isinstance(node, ast.stmt):
            body = getattr(node, "body", None)
            mine = range(node.lineno, body[0].lineno if body else (node.end_lineno or node.lineno) + 1)
            mine = mine or range(node.lineno, node.lineno + 1)
        found[id(node)] = mine
        for child in ast.iter_child_nodes(node):
            walk(child, mine)

    walk(tree, range(0))
    return found


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


def files_of(area: str) -> list[str]:
    """Return the test files of a part of the house."""
    found: list[Path] = []
    for test in NEAREST[area]:
        found += sorted((ROOT / test).rglob("test_*.py")) if (ROOT / test).is_dir() else [ROOT / test]
    return [str(path) for path in found]


class Through:
    """Writes down which test goes through which line, and how long each takes; a plugin of pytest."""

    def __init__(self, house: Path) -> None:
        from coverage import Coverage  # noqa: PLC0415 - only the first, unbroken run needs it

        self._house = house / "ditto_run"
        self._cover = Coverage(data_file=None, source=[str(self._house)], config_file=False)
        self.took: dict[str, float] = {}
        self._cover.start()

    def pytest_runtest_logstart(self, nodeid: str) -> None:
        """Name what is gone through from now on after the test."""
        self._cover.switch_context(nodeid)

    def pytest_runtest_logreport(self, report: pytest.TestReport) -> None:
        """Add how long its setup, call or end took."""
        self.took[report.nodeid] = self.took.get(report.nodeid, 0.0) + report.duration

    def found(self) -> dict[str, dict[str, list[str]]]:
        """Return file, line and the tests that go through it."""
        self._cover.stop()
        data = self._cover.get_data()
        return {
            str(Path(file).relative_to(self._house)): {
                str(line): [test for test in tests if test]
                for line, tests in data.contexts_by_lineno(file).items()
            }
            for file in data.measured_files()
        }


class Only:
    """Runs these tests and no others, in this order; a plugin of pytest."""

    def __init__(self, tests: list[str]) -> None:
        self._place = {test: place for place, test in enumerate(tests)}

    def pytest_collection_modifyitems(self, items: list[pytest.Item]) -> None:
        """Leave out the others."""
        items[:] = sorted(
            (item for item in items if item.nodeid in self._place), key=lambda item: self._place[item.nodeid]
        )


def run_tests(house: Path, module: str, tests: list[str], into: Path | None = None) -> None:
    """Run in a process of its own: import the changed module from the copy, then its tests; the exit code says what came.

    Args:
        house: the copy.
        module: the changed module.
        tests: files or tests.
        into: the unbroken run writes down there what it went through.
    """
    out = os.open(os.devnull, os.O_RDWR)
    for stream in (0, 1, 2):
        os.dup2(out, stream)
    os.chdir(ROOT)
    os.setpgid(0, 0)  # what it starts itself ends with it
    os.environ |= {"PYTHONPATH": str(house), "PYTHONDONTWRITEBYTECODE": "1"}
    sys.dont_write_bytecode = True
    sys.path[:0] = [str(house), str(ROOT)]
    through = Through(house) if into else None
    try:
        importlib.import_module(module)
    except BaseException:  # noqa: BLE001 - whatever a broken module does
        os._exit(BROKEN)
    import pytest  # noqa: PLC0415 - loaded already, in the process this one was forked from

    wanted = [
        "-q",
        "-p",
        "no:cacheprovider",
        "-W",
        "ignore:Module already imported",
        "-o",
        f"pythonpath={house} .",
    ]
    files = list(dict.fromkeys(test.partition("::")[0] for test in tests))
    if through:
        code = int(pytest.main([*wanted, *files], plugins=[through]))
    else:
        only = [Only(tests)] if any("::" in test for test in tests) else []
        code = int(pytest.main([*wanted, "-x", *files], plugins=only))
    if through and into:
        into.write_text(json.dumps({"lines": through.found(), "took": through.took}))
    os._exit(code)


@dataclass(frozen=True, slots=True)
class Gone:
    """Which tests go through which line of the house, and how long each takes, [s]."""

    lines: dict[str, dict[str, list[str]]]
    took: dict[str, float]

    def tests_of(self, change: Change) -> list[str]:
        """Return the tests that go through a change, quick ones first; all that go through its file for what an import runs."""
        mine = self.lines.get(str(change.path.relative_to(SOURCE)), {})
        found = {test for line in change.lines for test in mine.get(str(line), ())}
        imported = any(str(line) in mine for line in change.lines) and not found
        if imported:  # a default, a table: whoever goes through anything of the file
            found = {test for tests in mine.values() for test in tests}
        return sorted(found, key=lambda test: self.took.get(test, 0.0))


def gone_through(house: Path, areas: list[str], folder: Path) -> Gone:
    """Run the tests of some parts unbroken, two files at a time, and return what they went through."""
    lines: dict[str, dict[str, list[str]]] = {}
    took: dict[str, float] = {}

    def one(file: str) -> None:
        into = folder / f"{abs(hash(file))}.json"
        if outcome(house, "ditto_run.core.units", [file], into, LONGEST_UNBROKEN_S) != 0:
            sys.exit(f"{file} does not pass unbroken; nothing was measured.")
        found = json.loads(into.read_text())
        took.update(found["took"])
        for path, by_line in found["lines"].items():
            for line, tests in by_line.items():
                lines.setdefault(path, {}).setdefault(line, []).extend(tests)

    files = sorted({file for area in areas for file in files_of(area)})
    with ThreadPoolExecutor(2) as pool:
        list(pool.map(one, files))
    return Gone(lines, took)


def outcome(
    house: Path, module: str, tests: list[str], into: Path | None = None, longest_s: float = LONGEST_S
) -> int | None:
    """Return the exit code of the tests on a copy; None if they took too long."""
    process = FORKS.Process(target=run_tests, args=(house, module, tests, into))
    process.start()
    process.join(longest_s)
    if process.exitcode is None and process.pid:
        with suppress(ProcessLookupError):
            os.killpg(process.pid, signal.SIGKILL)
        process.join()
        return None
    return process.exitcode


def caught(change: Change, house: Path, gone: Gone) -> bool | None:
    """Return whether the nearest tests notice a change made in a copy of the house; None if it cannot be imported."""
    tests = gone.tests_of(change)
    if not tests:
        return False
    longest_s = 3 * sum(gone.took.get(test, 0.0) for test in tests) + LONGEST_S
    target = house / change.path.relative_to(SOURCE.parent)
    plain = target.read_text()
    target.write_text(changed(change))
    module = ".".join(change.path.relative_to(SOURCE.parent).with_suffix("").parts).removesuffix(".__init__")
    try:
        came = outcome(house, module, tests, longest_s=longest_s)
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


def try_all(drawn: list[tuple[str, Change]], areas: list[str]) -> list[bool | None]:
    """Return what became of each change, two at a time, each in a copy of the house."""
    with tempfile.TemporaryDirectory() as folder, ThreadPoolExecutor(2) as pool:
        houses: Queue[Path] = Queue()
        for number in range(2):
            house = Path(folder) / str(number)
            shutil.copytree(SOURCE, house / "ditto_run", ignore=shutil.ignore_patterns("__pycache__"))
            compileall.compile_dir(house, quiet=2)
            if not sees_its_copy(house):
                sys.exit("The tests do not run on the copy; nothing was measured.")
            houses.put(house)
        gone = gone_through(Path(folder) / "0", areas, Path(folder))
        print(f"{len(gone.took)} tests unbroken.", file=sys.stderr)

        def tried(one: tuple[str, Change]) -> bool | None:
            house = houses.get()
            try:
                hit = caught(one[1], house, gone)
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
    results = try_all(drawn, areas)
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
