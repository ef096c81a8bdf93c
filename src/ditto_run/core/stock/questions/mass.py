"""Mass, cost, chips: what the material weighs and costs."""

from ditto_run.core.questions import Question, Sourced, practice
from ditto_run.core.stock.mass_sheet import MASS
from ditto_run.core.stock.questions.ground import StockGround


def _material(ground: StockGround) -> Sourced | None:
    """The row of the register that bears the material's name, or the longest that its name begins with."""
    named = ground.material.strip().lower()
    if not named:
        return None
    rows = sorted((row for row in ground.materials if named.startswith(row.lower())), key=len, reverse=True)
    return Sourced(rows[0], "register", "Materials") if rows else None


MASS_ASKED: Question[StockGround] = Question(
    "mass",
    "stock",
    lambda ground: ground.part is not None,
    {"material": (_material,), "chips": (practice("short curls"),), "bin": (practice("60 l"),)},
    MASS,
    finds=frozenset({"finished"}),
)
