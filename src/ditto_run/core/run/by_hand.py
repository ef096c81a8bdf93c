"""Steps done by hand between machining and packing: what each does to a size, what comes after it, and its caution."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Literal

HandName = Literal["harden", "anneal", "braze", "solder", "weld", "press", "bond", "shrink"]
TORCH = (
    "Torch and heat: eyes, hands and what burns nearby kept safe, air moving, fire out of reach; by the maker's sheets, local rules "
    "and whoever is licensed for it."
)


@dataclass(frozen=True, slots=True)
class HandStep:
    """A step by hand.

    Args:
        words: what is done.
        sizes: what it does to sizes, and what to leave for it.
        after: what comes after it.
        caution: of it.
        waits: what the pieces do meanwhile: cool, cure; empty for nothing.
    """

    words: str
    sizes: str
    after: str
    caution: str
    waits: str = ""


HAND_STEPS: Mapping[HandName, HandStep] = {  # sizes and what follows: common practice, no source
    "harden": HandStep(
        "hardened",
        "It grows, shrinks and warps a little: fits are ground after it, with stock left.",
        "Draw the temper at once, then gauge cold.",
        TORCH,
        "cool",
    ),
    "anneal": HandStep(
        "annealed",
        "Stress goes out: a thin piece may move; finish sizes come after.",
        "Scale off, gauge cold.",
        TORCH,
        "cool",
    ),
    "braze": HandStep(
        "brazed",
        "Heat moves thin walls; a joint wants its gap before.",
        "Flux off, then gauge cold.",
        TORCH,
        "cool",
    ),
    "solder": HandStep(
        "soldered",
        "Little; a thread or bore near it fills.",
        "Flux off with water or its solvent.",
        TORCH,
        "cool",
    ),
    "weld": HandStep(
        "welded",
        "It pulls: what has to be true is machined after it.",
        "Slag off, looked at, gauged cold.",
        TORCH,
        "cool",
    ),
    "press": HandStep(
        "pressed together",
        "The hole grows and the pin closes: a bore near it is reamed or gauged after.",
        "Gauge what is round near it.",
        "Press: guard down, piece square, hands and face out of line; what springs out flies far.",
    ),
    "bond": HandStep(
        "bonded",
        "It moves no size if the gap is its maker's; what squeezes out is wiped at once.",
        "No load before it is cured; heat for finishing may loosen it.",
        "Adhesive and its cleaner: gloves, air moving, no flame; by its maker's sheet.",
        "cure",
    ),
    "shrink": HandStep(
        "shrunk on",
        "Cold it holds by its interference; hot it must drop in at once.",
        "Leave it alone until cold, then look whether it sits.",
        f"Hot or very cold parts. {TORCH}",
        "cool",
    ),
}
