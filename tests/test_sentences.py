"""The table of sentences that say a state: every row is in its source, and no sentence of completeness is without a row."""

import ast
import re
from pathlib import Path

import pytest

from tests.test_docs import ROOT

SOURCE = ROOT / "src/ditto_run"
ROWS = [
    [cell.strip() for cell in line.strip("|").split(" | ")]
    for line in (ROOT / "docs/sentences.md").read_text(encoding="utf-8").splitlines()
    if line.startswith("| ") and not line.startswith("| Sentence")
]
FIRST = re.compile(r"(Nothing|Every|All|Ready|No plan)\b.{4,}\.")
IN_PAGES = re.compile(r"[\"'>}] ?((?:Nothing|Every|All|Ready|No plan)\b[^\"'<{]{4,90}\.)")
ASKS = {  # what is said of an entry or a question, not of how something stands
    "Nothing is typed to hold against a rule.",
    "Nothing says what is ordered.",
    "Nothing is left to decide.",
    "Nothing is pasted.",
    "Nothing here is called ",
    "Every station is switched off.",
    "Nothing says what ",
    "All of it can be changed later on Shop.",
    "All rows come in, or none.",
    "Nothing is changed before you have seen how each row is read.",
}


def sentences(path: Path) -> list[str]:
    """Return the sentences of a source that begin with a word of completeness, without docstrings."""
    text = path.read_text(encoding="utf-8")
    if path.suffix == ".html":
        return IN_PAGES.findall(told(re.sub(r"\{#.*?#\}", "", text, flags=re.DOTALL)))
    tree = ast.parse(text)
    said = {
        id(node.body[0].value)
        for node in ast.walk(tree)
        if isinstance(node, (ast.Module, ast.ClassDef, ast.FunctionDef))
        and isinstance(node.body[0], ast.Expr)
    }
    found = []
    for node in ast.walk(tree):
        if isinstance(node, ast.JoinedStr):
            found.append("".join(v.value if isinstance(v, ast.Constant) else "…" for v in node.values))
        elif isinstance(node, ast.Constant) and isinstance(node.value, str) and id(node) not in said:
            found.append(node.value)
    return [sentence for sentence in found if FIRST.match(sentence)]


def told(text: str) -> str:
    """Return a source with every run of blanks as one."""
    return re.sub(r"\s+", " ", text)


@pytest.mark.parametrize("row", ROWS, ids=lambda row: row[0][:40])
def test_a_sentence_of_the_table_is_in_its_source(row: list[str]) -> None:
    sentence, condition, where = row
    source = told((SOURCE / where).read_text(encoding="utf-8"))
    for part in filter(None, (piece.strip() for piece in sentence.split("…"))):
        assert part in source, part
    assert condition


def test_no_sentence_of_completeness_is_without_a_row() -> None:
    known = [*(row[0].replace("…", "") for row in ROWS), *ASKS]
    bare = [
        f"{path.relative_to(SOURCE)}: {sentence}"
        for path in sorted(SOURCE.rglob("*"))
        if path.suffix in {".py", ".html"} and path.parts[-2] != "demo"
        for sentence in sentences(path)
        if not any(sentence.startswith(row[:20]) or row in sentence for row in known)
    ]
    assert bare == []


def test_a_sentence_without_a_row_would_be_found(tmp_path: Path) -> None:
    code, page = tmp_path / "a.py", tmp_path / "a.html"
    code.write_text(
        'def say():\n    """Every one is settled."""\n    return f"All {n} setups are settled."\n'
    )
    page.write_text("{# All is said. #}<p>Every setup is settled.</p>")
    assert sentences(code) == ["All … setups are settled."]
    assert sentences(page) == ["Every setup is settled."]
