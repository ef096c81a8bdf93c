"""What kind of cutting a tool step is, by the register's tool or by its words."""

import re
from typing import Literal, get_args

from ditto_run.core.part.features.kinds import BY_HAND
from ditto_run.core.tools.order_rules import KINDS
from ditto_run.core.tools.order_rules import WORK as RECIPES

Work = Literal["turn", "bore", "part", "thread", "drill", "spot", "ream", "tap", "mill", "knurl"]
WORKS: tuple[Work, ...] = get_args(Work)
IN_A_HOLE: frozenset[Work] = frozenset({"drill", "spot", "ream", "tap"})
ON_AN_EDGE: frozenset[Work] = frozenset({"turn", "bore", "part", "thread", "knurl"})
"""Work of one edge at a turning piece, or of a bar in it."""
OF_KIND: dict[str, Work] = {
    "face mill": "mill",
    "end mill": "mill",
    "ball mill": "mill",
    "spot drill": "spot",
    "drill": "drill",
    "reamer": "ream",
    "tap": "tap",
    "turning": "turn",
    "boring bar": "bore",
    "grooving": "part",
    "parting": "part",
    "threading": "thread",
    "knurl": "knurl",
}
OTHER_WORK = ("measure", "gauge", "probe", "wait", "load", "unload", "wash", "blow", "pull", "push")
NO_CUTTING = re.compile(
    rf"\b(?:{'|'.join((*OTHER_WORK, *BY_HAND))}|turn (?:it )?(?:over|round))\w*", re.IGNORECASE
)
OF_WORDS: tuple[tuple[str, Work | None], ...] = (  # kind of the order rules, or operation of a recipe
    ("knurl", "knurl"),
    ("spot", "spot"),
    ("ream", "ream"),
    ("drill", "drill"),
    ("tap", "tap"),
    ("groove", "part"),
    ("part off", "part"),
    ("thread", "thread"),
    ("bore", "bore"),
    ("saw", None),
    ("turn", "turn"),
    ("mill", "mill"),
)
KNURLS = {"knurl": r"knurl(?:s|ed|ing)?"}
SAID = {
    word: re.compile(rf"\b(?:{(KINDS | KNURLS).get(word) or RECIPES[word]})\b", re.IGNORECASE)
    for word, _ in OF_WORDS
}


def work_of(does: str, kind: str, *, turns: bool) -> Work | None:
    """Return what kind of cutting a step is, by the first of its words that says one; None where it cuts nothing, or saws.

    Args:
        does: as typed, such as finish slot.
        kind: of the tool, by the register; empty where it is not in it.
        turns: True on a lathe.

    Example:
        >>> work_of("drill 5.0", "", turns=False), work_of("finish", "", turns=True), work_of("deburr", "", turns=True)
        ('drill', 'turn', None)
    """
    if kind in OF_KIND:
        return OF_KIND[kind]
    if kind == "saw" or NO_CUTTING.search(does):
        return None
    at = {word: found.start() for word, said in SAID.items() if (found := said.search(does)) is not None}
    first = min(at, key=lambda word: at[word], default="turn" if turns else "mill")
    work = dict(OF_WORDS)[first]
    return "turn" if work == "mill" and turns else work
