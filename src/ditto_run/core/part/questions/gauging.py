"""How often a size is gauged: by what batches before taught of its drift, given back to the size for Run."""

from collections.abc import Mapping

from ditto_run.core.part.gauging_sheet import GAUGING
from ditto_run.core.part.questions.ground import SizeGround
from ditto_run.core.questions import Question, Sourced
from ditto_run.core.sheets import Answer, Entries


def _size(ground: SizeGround) -> Sourced | None:
    size = ground.size.size  # what is gauged at the machine, worked back through a finish
    if size.lower is None or size.upper is None:
        return None
    text = f"{size.lower:f} {size.unit} to {size.upper:f} {size.unit}"
    return Sourced(text, "drawing", ground.size.name)


def _drift(ground: SizeGround) -> Sourced | None:
    if ground.drift is None:
        return None
    mm, rests_on = ground.drift
    return Sourced(f"{mm:.5f} mm", "learned", rests_on)


def _pieces(ground: SizeGround) -> Sourced | None:
    return Sourced(str(ground.pieces), "computed", "stations") if ground.pieces else None


def _gives(_ground: SizeGround, answer: Answer, _entries: Entries) -> Mapping[str, str]:
    loads = answer.result.loads
    return {} if loads is None else {"every": str(loads)}


def _applies(ground: SizeGround) -> bool:
    """True of a size that can move, once the shop has learnt how fast on that machine, of that material."""
    size = ground.size
    return (
        size.is_measured_length
        and size.grade != "free"
        and _size(ground) is not None
        and ground.drift is not None
    )


GAUGING_ASKED: Question[SizeGround] = Question(
    "gauging",
    "part",
    _applies,
    {"size": (_size,), "drift": (_drift,), "pieces": (_pieces,)},
    GAUGING,
    _gives,
)
