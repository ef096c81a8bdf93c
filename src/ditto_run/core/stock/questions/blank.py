"""The blank: what a piece is cut from."""

from ditto_run.core.questions import Question, Sourced
from ditto_run.core.stock.blank_sheet import BLANK
from ditto_run.core.stock.questions.ground import StockGround, size_of, usual

ALLOWANCE = usual("1.5", "0.06")  # a face of a block, an end of a bar; common practice, no source


def _shape(ground: StockGround) -> Sourced:
    return Sourced("bar" if ground.form == "turned" else "block", "drawing", "features")


def _skin(ground: StockGround) -> Sourced | None:
    """On the diameter, or on each face: nothing where no setup cuts it, what the bar leaves, else what is usual."""
    if ground.form == "turned" and ground.bar_mm is not None and ground.part is not None:
        left = float(ground.bar_mm) - ground.part.size[1]
        return Sourced(f"{max(left, 0.0):.4g} mm", "measured", "bar")
    if ground.has_setups and not ground.whole_is_cut:
        return Sourced("0 mm", "computed", "no setup cuts it")
    return ALLOWANCE(ground)


def _facing(ground: StockGround) -> Sourced | None:
    if ground.form == "block" and ground.has_setups and not ground.whole_is_cut:
        return Sourced("0 mm", "computed", "no setup cuts it")
    return ALLOWANCE(ground)


BLANK_ASKED: Question[StockGround] = Question(
    "blank",
    "stock",
    lambda ground: ground.part is not None,
    {
        "shape": (_shape,),
        "length": (size_of(0, "turned"), size_of(0, "block")),
        "across": (size_of(1, "turned"),),
        "width": (size_of(1, "block"),),
        "height": (size_of(2, "block"),),
        "facing": (_facing,),
        "skin": (_skin,),
    },
    BLANK,
    finds=frozenset({"length", "across", "width", "height"}),
)
