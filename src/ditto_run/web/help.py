"""What the documents say of a step, as the application shows it beside the step."""

import re
from functools import cache
from itertools import pairwise
from pathlib import Path

from markdown_it import MarkdownIt
from markupsafe import Markup

from ditto_run.core.errors import NotFound
from ditto_run.core.steps import BY_NAME

HOME = Path(__file__).resolve().parents[1]
PLACES = (HOME / "help", HOME.parents[1] / "docs" / "steps")  # in a wheel, in a checkout
OTHER_STEP = re.compile(r"([a-z]+)\.md(#.*)?")
NOT_IN_ADDRESSES = re.compile(r"[^a-z0-9]+")


@cache
def help_of(step: str) -> tuple[str, Markup]:
    """Return the title and the text of a step's document; links to other steps lead to theirs, all others are plain words.

    Args:
        step: its name, such as hold.

    Raises:
        NotFound: if there is no such step, or nothing is written about it.
    """
    path = next((place / f"{step}.md" for place in PLACES if (place / f"{step}.md").exists()), None)
    if step not in BY_NAME or path is None:
        raise NotFound("help", step[:20], "Choose one of the steps.")
    reader = MarkdownIt("commonmark", {"html": False}).enable("table")
    title, _, text = path.read_text("utf-8").partition("\n")
    tokens = reader.parse(text)
    for token, inside in pairwise(tokens):
        if token.type == "heading_open":
            token.attrSet("id", NOT_IN_ADDRESSES.sub("-", inside.content.lower()).strip("-"))
    for token in tokens:
        opened: list[bool] = []
        for child in token.children or []:
            if child.type == "link_open":
                found = OTHER_STEP.fullmatch(str(child.attrGet("href") or ""))
                opened.append(found is not None and found[1] in BY_NAME)
                if found is not None and opened[-1]:
                    child.attrSet("href", f"/help/{found[1]}{found[2] or ''}")
                else:
                    child.tag, child.attrs = "span", {}
            elif child.type == "link_close":
                child.tag = "a" if opened.pop() else "span"
    shown = reader.renderer.render(tokens, reader.options, {})
    return title.lstrip("# ").strip(), Markup(shown)  # noqa: S704 - our own text, its raw HTML is escaped
