"""On what the figures of a way rest, in one sentence."""

from collections.abc import Mapping

from ditto_run.core.method.guess import Guess
from ditto_run.core.method.way import Way
from ditto_run.core.units import counted

COUNTED = (
    *("load", "locate", "cut", "unload", "deburr", "gauge", "per_load", "second_cut"),
    *("trials", "scrap", "labour_cents", "machine_cents", "material_cents", "bought_cents"),
)
ORDER = ("computed", "learned", "register", "typed", "practice")
WORDS: Mapping[str, str] = {
    "computed": "from the plan",
    "learned": "from the shop's own batches",
    "register": "from the registers",
    "typed": "typed here",
    "practice": "usual ones",
}


def resting(way: Way) -> dict[str, int]:
    """Return how many figures of a way rest on what: computed, learned, register, typed, practice.

    Args:
        way: the way; figures that are nothing, and that nobody said, are not counted.
    """
    found = dict.fromkeys(ORDER, 0)
    for field in COUNTED:
        rest = way.rest_of(field)
        value = getattr(way, field)
        there = value.likely_s if isinstance(value, Guess) else value
        if rest is not None and (there or rest.origin == "learned"):
            found[rest.origin] += 1
        elif rest is None and there:
            found["typed"] += 1
    if way.ready:
        rest = way.rest_of("ready")
        found[rest.origin if rest is not None else "typed"] += len(way.ready)
    return found


def resting_text(way: Way) -> str:
    """Return on what a way rests: 4 figures from the plan, 3 usual ones; what is usual is said last."""
    found = [
        (counted(count, "figure") if not place else str(count), WORDS[what])
        for place, (what, count) in enumerate((w, c) for w, c in resting(way).items() if c)
    ]
    return ", ".join(f"{count} {words}" for count, words in found)
