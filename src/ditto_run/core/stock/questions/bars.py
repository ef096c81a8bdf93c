"""Bars and cuts: pieces of a bar, bars to buy, the cut list."""

from ditto_run.core.questions import Question, Sourced
from ditto_run.core.stock.cuts_sheet import CUTS
from ditto_run.core.stock.questions.ground import StockGround, usual

KERF = usual("3", "0.125")  # a parting tool or a saw; common practice, no source
KEPT = usual("60", "2.5")  # what a collet or chuck keeps of a bar; common practice, no source


def _bar(ground: StockGround) -> Sourced:
    """As ordered; else the length bars are commonly sold in, which is a guess until somebody says it."""
    if ground.order is not None and ground.order.length:
        return Sourced(ground.order.length, "said", "order")
    return Sourced("144 in" if ground.unit == "in" else "3000 mm", "guess", "bars as sold")


def _how(ground: StockGround) -> Sourced:
    return Sourced("part off" if ground.parts_off else "saw", "computed", "setups")


def _remnant(ground: StockGround) -> Sourced | None:
    return KEPT(ground) if ground.parts_off else Sourced("0 mm", "practice")


def _piece(ground: StockGround) -> Sourced | None:
    blank = ground.blank
    return Sourced(f"{blank.length_mm.normalize():f} mm", "computed", "blank") if blank is not None else None


def _across(ground: StockGround) -> Sourced | None:
    blank = ground.blank
    return Sourced(f"{blank.across_mm.normalize():f} mm", "computed", "blank") if blank is not None else None


def _pieces(ground: StockGround) -> Sourced | None:
    return Sourced(str(ground.start), "computed", "how many to start") if ground.start else None


CUTS_ASKED: Question[StockGround] = Question(
    "cuts",
    "stock",
    lambda ground: ground.part is not None,
    {
        "bar": (_bar,),
        "kerf": (KERF,),
        "how": (_how,),
        "remnant": (_remnant,),
        "piece": (_piece,),
        "across": (_across,),
        "pieces": (_pieces,),
    },
    CUTS,
    finds=frozenset({"piece", "across", "pieces"}),
)
