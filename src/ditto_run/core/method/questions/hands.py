"""Hands and machine: who waits for whom in a load of the way that is chosen, else of the one that wins."""

from collections.abc import Callable

from ditto_run.core.method.overlap_sheet import OVERLAP
from ditto_run.core.method.questions.ground import MethodGround
from ditto_run.core.method.way import Way
from ditto_run.core.questions import Question, Source, Sourced


def _of_way(text: Callable[[Way], str]) -> Source[MethodGround]:
    def find(ground: MethodGround) -> Sourced | None:
        if ground.way is None:
            return None
        return Sourced(text(ground.way), "computed", "chosen way" if ground.is_chosen else "best way")

    return find


def _seconds(*fields: str) -> Source[MethodGround]:
    """A source that adds times of the way."""
    return _of_way(lambda way: f"{sum(getattr(way, field).likely_s for field in fields):.6g} s")


def _cut(way: Way) -> str:
    first, second = way.cut.likely_s, way.second_cut.likely_s
    return f"{max(first, second) if way.second_runs == 'at the same time' else first + second:.6g} s"


OVERLAP_ASKED: Question[MethodGround] = Question(
    "overlap",
    "method",
    lambda ground: ground.way is not None and not ground.way.is_bought and not ground.way.lacks,
    {
        "handling": (_seconds("load", "locate", "unload"),),
        "cut": (_of_way(_cut),),
        "per_load": (_seconds("per_load"),),
        "beside": (_seconds("deburr", "gauge"),),
        "pieces": (_of_way(lambda way: str(way.pieces_per_load)),),
        "attended": (_of_way(lambda way: way.attended),),
    },
    OVERLAP,
)
