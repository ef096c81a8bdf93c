"""The documents: links lead somewhere, sources are listed, commands and pictures are those there are."""

import ast
import re
from pathlib import Path
from typing import get_args, get_type_hints

import pytest

from ditto_run.core.run import Body

ROOT = Path(__file__).parents[1]
DOCUMENTS = [*ROOT.glob("*.md"), *(ROOT / "docs").rglob("*.md")]
CORE = sorted((ROOT / "src/ditto_run/core").rglob("*.py"))


@pytest.mark.parametrize("path", DOCUMENTS, ids=lambda path: str(path.relative_to(ROOT)))
def test_links_lead_somewhere(path: Path) -> None:
    for target in re.findall(r"\]\(([^)#]+)(?:#[^)]*)?\)", path.read_text()):
        assert (path.parent / target).exists(), f"{path.name}: {target}"


def test_every_source_key_is_listed() -> None:
    listed = set(re.findall(r"^- \[([a-z0-9.-]+)\]", (ROOT / "docs/sources.md").read_text(), re.MULTILINE))
    for path in [*CORE, *(ROOT / "tests/published").glob("*.py")]:
        for block in re.findall(r"Sources?: (.*?)(?:\n\n|\"\"\")", path.read_text(), re.DOTALL):
            for key in re.findall(r"\[([a-z][a-z0-9.-]+)\]", block):
                assert key in listed, f"{path.name}: [{key}]"


def test_every_make_target_is_explained_and_promised() -> None:
    targets = set(re.findall(r"^([a-z-]+):", (ROOT / "Makefile").read_text(), re.MULTILINE))
    readme = (ROOT / "README.md").read_text()
    assert targets == {
        "demo",
        "run",
        "test",
        "test-quick",
        "test-long",
        "check",
        "bench",
        "judge",
        "mutants",
        "shots",
    }
    assert all(f"make {target}" in readme for target in targets)


def test_pictures_are_linked() -> None:
    pictures = sorted((ROOT / "docs/screenshots").glob("*.png"))
    readme = (ROOT / "README.md").read_text()
    assert 0 < len(pictures) < 20
    assert [p.name for p in pictures if p.name not in readme] == []


UNIT_IN_NAME = re.compile(
    r"(_(mm|mm2|mm3|um|in|s|h|deg|rad|kw|nm|n|kg|rpm|m_min|share|ratio|cents|per_\w+)|^(cents|seconds|degrees|arcsec|share))$"
)


def _unsaid(node: ast.FunctionDef) -> list[str]:
    """Return the decimals and floats a function takes whose unit neither their name nor a unit beside them says."""
    given = [
        (a.arg, ast.unparse(a.annotation) if a.annotation else "")
        for a in node.args.args + node.args.kwonlyargs
    ]
    if any(name == "unit" or "Unit" in kind for name, kind in given):
        return []
    return [
        name
        for name, kind in given
        if re.search(r"\b(Decimal|float)\b", kind) and not UNIT_IN_NAME.search(name)
    ]


@pytest.mark.parametrize("path", CORE, ids=lambda path: str(path.relative_to(ROOT / "src/ditto_run/core")))
def test_public_functions_of_the_core_say_what_they_do(path: Path) -> None:
    """Every one has a docstring; one that takes a length, time or decimal says its unit in brackets or by name."""
    for node in ast.parse(path.read_text()).body:
        if isinstance(node, ast.FunctionDef) and not node.name.startswith("_"):
            text = ast.get_docstring(node) or ""
            assert text, f"{path.name}: {node.name}"
            raised = {
                n.exc.func.id
                for n in ast.walk(node)
                if isinstance(n, ast.Raise)
                and isinstance(n.exc, ast.Call)
                and isinstance(n.exc.func, ast.Name)
            }
            if _unsaid(node):
                assert "[" in text, (
                    f"{path.name}: {node.name} does not say the unit of {', '.join(_unsaid(node))}"
                )
            for name in raised - {"TypeError"}:
                assert name in text or "Raise" in text, f"{path.name}: {node.name} raises {name}"


def test_every_kind_of_line_is_in_the_formats() -> None:
    written = (ROOT / "docs/formats.md").read_text()
    kinds = [get_args(get_type_hints(body)["kind"])[0] for body in get_args(Body)]
    assert len(kinds) > 20
    assert [kind for kind in kinds if f"`{kind}`" not in written] == []


def test_requirements_name_no_host() -> None:
    for path in ROOT.glob("requirements*.txt"):
        assert "://" not in path.read_text()
        assert "--hash=sha256:" in path.read_text()
