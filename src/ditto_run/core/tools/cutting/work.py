"""What kind of cutting a tool step is, by the register's tool or by its words."""

import re
from typing import Literal, get_args

from ditto_run.core.part.features.kinds import BY_HAND
from ditto_run.core.shop.recipes import operation_of
from ditto_run.core.tools.order_rules import kinds_of

Work = Literal["turn", "bore", "part", "thread", "drill", "spot", "ream", "tap", "mill"]
WORKS: tuple[Work, ...] = get_args(Work)
IN_A_HOLE: frozenset[Work] = frozenset({"drill", "spot", "ream", "tap"})
ON_AN_EDGE: frozenset[Work] = frozenset({"turn", "bore", "part", "thread"})
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
}
OTHER_WORK = ("knurl", "measure", "gauge", "probe", "wait", "load", "unload", "wash", "blow", "pull", "push")
NO_CUTTING = re.compile(
    rf"\b(?:{'|'.join((*OTHER_WORK, *BY_HAND))}|turn (?:it )?(?:over|round))\w*", re.IGNORECASE
)
OF_WORDS: tuple[tuple[str, Work], ...] = (
    ("ream", "ream"),
    ("spot", "spot"),
    ("drill", "drill"),
    ("groove", "part"),
    ("thread", "thread"),
    ("bore", "bore"),
)


def work_of(does: str, kind: str, *, turns: bool) -> Work | None:
    """Return what kind of cutting a step is; None where a tool cuts nothing, or saws or knurls.

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
    if kind in {"knurl", "saw"} or NO_CUTTING.search(does):
        return None
    operation, said = operation_of(does, turns=turns), kinds_of(does)
    if operation == "saw":
        return None
    if operation == "tap":
        return "tap"
    if operation == "part off":
        return "part"
    found = next((work for word, work in OF_WORDS if word in said), None)
    return found or ("turn" if turns else "mill")
