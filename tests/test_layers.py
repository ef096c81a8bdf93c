"""Each layer imports only what it may; see docs/architecture.md. The core stays pure."""

import ast
import subprocess
import sys
from pathlib import Path

import pytest

SOURCE = Path(__file__).parents[1] / "src/ditto_run"
OURS = {
    "core": set(),
    "formats": {"core"},
    "store": {"core", "formats"},
    "desk": {"core", "formats", "store", "settings"},
    "devices": {"core", "formats", "desk"},
    "web": {"core", "formats", "desk", "devices"},
    "demo": {"core", "desk"},
    "cli": {"core", "desk", "devices", "settings", "app", "demo"},
    "settings": set(),
}
NOT_IN_CORE = {
    "sqlalchemy",
    "fastapi",
    "starlette",
    "pydantic",
    "jinja2",
    "random",
    "time",
    "os",
    "pathlib",
    "sqlite3",
    "socket",
    "uuid",
}
NOT_IN_WEB = {"sqlalchemy"}
TABLES = "ditto_run.store.tables"


def imported(path: Path) -> set[str]:
    """Return every dotted name that a module imports."""
    names: set[str] = set()
    for node in ast.walk(ast.parse(path.read_text())):
        if isinstance(node, ast.Import):
            names |= {alias.name for alias in node.names}
        elif isinstance(node, ast.ImportFrom) and node.module:
            names |= {f"{node.module}.{alias.name}" for alias in node.names}
    return names


def modules(layer: str) -> list[Path]:
    one = SOURCE / f"{layer}.py"
    found = [one] if one.exists() else sorted((SOURCE / layer).rglob("*.py"))
    assert found, layer
    return found


@pytest.mark.parametrize("layer", OURS)
def test_a_layer_knows_only_the_ones_below_it(layer: str) -> None:
    wrong = [
        f"{path.relative_to(SOURCE)} imports {name}"
        for path in modules(layer)
        for name in imported(path)
        if name.startswith("ditto_run.") and name.split(".")[1] not in {layer, *OURS[layer], "__version__"}
    ]
    assert wrong == []


def test_every_package_has_a_rule() -> None:
    found = {path.stem if path.is_file() else path.name for path in SOURCE.iterdir()}
    free = {"__init__", "__main__", "__pycache__", "app"}  # the app knows everyone, and nobody knows it
    assert found - free == set(OURS)


def test_the_api_knows_no_page() -> None:
    wrong = [
        f"{path.relative_to(SOURCE)}: {name}"
        for path in modules("web/api")
        for name in imported(path)
        if name.startswith("ditto_run.web.pages")
    ]
    assert wrong == []


def test_the_core_has_no_clock_no_chance_no_files_and_no_web() -> None:
    wrong = [
        f"{path.relative_to(SOURCE)}: {name}"
        for path in modules("core")
        for name in imported(path)
        if name.split(".")[0] in NOT_IN_CORE
    ]
    assert wrong == []
    for path in modules("core"):
        assert ".now(" not in path.read_text(), path


def test_pages_do_not_know_the_tables() -> None:
    wrong = [
        f"{path.relative_to(SOURCE)}: {name}"
        for path in modules("web")
        for name in imported(path)
        if name.startswith(TABLES) or name.split(".")[0] in NOT_IN_WEB
    ]
    assert wrong == []


CORE = (  # each may import those before it
    *(
        "errors",
        "units",
        "findings",
        "statistics",
        "steps",
        "entry",
        "times",
        "money",
        "threads",
        "sizes",
        "sheets",
        "questions",
    ),
    *("program", "shop", "part", "method", "stock", "hold", "place", "tools", "sheet_kinds", "plan", "edits"),
    *("prove", "run", "rehearse", "progress", "close", "week", "propose"),
)


def test_the_core_is_built_in_one_order() -> None:
    """Nothing in the core knows what is built on it, and nothing is without a place in that order."""
    there = {path.stem for path in (SOURCE / "core").iterdir()} - {"__init__", "__pycache__"}
    assert there == set(CORE)
    wrong = [
        f"{path.relative_to(SOURCE)}: {name}"
        for path in modules("core")
        for name in imported(path)
        if name.startswith("ditto_run.core.")
        and CORE.index(name.split(".")[2])
        > CORE.index(path.relative_to(SOURCE / "core").parts[0].removesuffix(".py"))
    ]
    assert wrong == []


def test_heavy_libraries_are_imported_where_they_are_used() -> None:
    heavy = {"scipy", "openpyxl", "alembic", "numpy", "ortools"}
    for path in SOURCE.rglob("*.py"):
        if "migrations" in path.parts or path.parent.name in {
            "judge",
            "weave",
        }:  # those are themselves loaded when they are asked
            continue
        top = [
            node for node in ast.parse(path.read_text()).body if isinstance(node, ast.Import | ast.ImportFrom)
        ]
        names = {
            (node.module or "") if isinstance(node, ast.ImportFrom) else node.names[0].name for node in top
        }
        assert not {name.split(".")[0] for name in names} & heavy, path


def test_a_start_loads_no_judgement() -> None:
    """It needs numpy and scipy, and is loaded when it is first asked; so is the search for the order of visits."""
    late = ("ditto_run.core.run.judge", "ditto_run.core.tools.weave.solve", "numpy")
    code = f"import sys, ditto_run.app; print([name for name in sys.modules if name.startswith({late})])"
    out = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)
    assert out.stdout.strip() == "[]"


def test_no_two_classes_have_the_same_name() -> None:
    """A word means one thing, wherever it stands."""
    found: dict[str, list[str]] = {}
    for path in SOURCE.rglob("*.py"):
        for node in ast.walk(ast.parse(path.read_text())):
            if isinstance(node, ast.ClassDef):
                found.setdefault(node.name, []).append(str(path.relative_to(SOURCE)))
    assert {name: places for name, places in found.items() if len(places) > 1} == {}
