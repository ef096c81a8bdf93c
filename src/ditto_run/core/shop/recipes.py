"""Which of the shop's recipes of coolant or compound a tool step wants."""

import re
from collections.abc import Iterable
from typing import Protocol, TypeVar

SPOTS = r"spot(?:s|ted|ting)?|centre(?: hole)?"
DRILLS = r"drill(?:s|ed|ing)?"
WORDS = (  # the first that fits; tapping before drilling, as in "drill and tap"
    ("tap", r"tap(?:s|ped|ping)?"),
    ("ream", r"ream(?:s|ed|ing|er)?"),
    ("part off", r"part(?:s|ing)?[ -]?off|cut(?:s|ting)?[ -]off"),
    ("drill", f"{DRILLS}|{SPOTS}"),
    ("saw", r"saw(?:s|ed|ing)?|slit(?:s|ting)?"),
    ("turn", r"turn(?:s|ed|ing)?|bore(?:s|d)?|boring|groove(?:s|d)?|knurl(?:s|ed|ing)?"),
    ("mill", r"mill(?:s|ed|ing)?|face(?:s|d)?|facing|pocket(?:s)?|slot(?:s)?|chamfer(?:s|ed|ing)?"),
)


class Recipe(Protocol):
    """What a recipe says: for which material and operation, and what is used."""

    @property
    def material(self) -> str:
        """It is for; empty for any."""

    @property
    def operation(self) -> str:
        """It is for, or any."""


R = TypeVar("R", bound=Recipe)


def operation_of(does: str, *, turns: bool) -> str:
    """Return what a tool step is, by its words; turning or milling where they do not tell.

    Args:
        does: as typed, such as drill and tap M6.
        turns: True on a lathe.

    Example:
        >>> operation_of("T5 drill 5.0", turns=False), operation_of("finish", turns=True)
        ('drill', 'turn')
    """
    found = next((name for name, word in WORDS if re.search(rf"\b(?:{word})\b", does, re.IGNORECASE)), "")
    if not found:
        return "turn" if turns else "mill"
    return "turn" if found == "mill" and turns else found


def recipe_for(recipes: Iterable[R], material: str, operation: str) -> R | None:
    """Return the recipe that fits best: of that material and operation, then of one of them; None where none fits.

    Args:
        recipes: of the register.
        material: as the job names it; a recipe fits whose material it begins with.
        operation: one of the words above.
    """
    name = material.strip().lower()
    fits = [
        one
        for one in recipes
        if one.operation in {"any", operation}
        and (not one.material.strip() or (name and name.startswith(one.material.strip().lower())))
    ]
    return max(fits, key=lambda one: (len(one.material), one.operation != "any"), default=None)
