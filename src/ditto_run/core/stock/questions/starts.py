"""How many to start: good pieces, trials and what scrap takes, at the sureness wanted."""

from ditto_run.core.questions import Question, Source, Sourced, practice
from ditto_run.core.stock.questions.ground import StockGround
from ditto_run.core.stock.starts_sheet import STARTS


def _trials(ground: StockGround) -> Sourced | None:
    return Sourced(str(ground.trials), "computed", "chosen way") if ground.trials is not None else None


def _scrap(ground: StockGround) -> Sourced | None:
    return Sourced(f"{ground.scrap:g}", "computed", "chosen way") if ground.scrap is not None else None


def _history(which: int) -> Source[StockGround]:
    """A source that looks for what closed batches taught of scrap."""

    def find(ground: StockGround) -> Sourced | None:
        if ground.history is None:
            return None
        return Sourced(str(ground.history[which]), "learned", ground.history[2])

    return find


STARTS_ASKED: Question[StockGround] = Question(
    "starts",
    "stock",
    lambda _ground: True,
    {
        "confidence": (practice("90"),),
        "trials": (_trials,),
        "scrap": (_scrap,),
        "history_good": (_history(0),),
        "history_made": (_history(1),),
    },
    STARTS,
    finds=frozenset({"trials", "scrap"}),
)
