"""Spacers: the shoulders of a turned part from one carriage stop, by fewest blocks."""

from ditto_run.core.hold.questions.ground import SetupGround, tolerance
from ditto_run.core.hold.stop_sheets import BLOCKS
from ditto_run.core.part.features import Role
from ditto_run.core.questions import Question, Sourced

SEVERAL = 2


def _lengths(ground: SetupGround) -> list[str]:
    """Lengths of the shoulders this setup makes, as the drawing says them, shortest first."""
    found = {
        one.sizes[Role.LENGTH].nominal_base: one.sizes[Role.LENGTH]
        for one in ground.described
        if one.kind in {"shoulder", "taper"} and Role.LENGTH in one.sizes
    }
    return [f"{size.nominal:f} {size.unit}" for _, size in sorted(found.items())]


def _sizes(ground: SetupGround) -> Sourced | None:
    lengths = _lengths(ground)
    return Sourced("; ".join(lengths), "drawing", "features") if lengths else None


def _set(ground: SetupGround) -> Sourced:
    inch = any(length.endswith("in") for length in _lengths(ground))
    return Sourced("inch 81" if inch else "metric 88", "guess", "set of the drawing's unit")


SPACERS_ASKED: Question[SetupGround] = Question(
    "blocks",
    "hold",
    lambda ground: (
        ground.machine is not None
        and ground.machine.kind == "manual lathe"
        and len(_lengths(ground)) >= SEVERAL
    ),
    {"sizes": (_sizes,), "set": (_set,), "tolerance": (tolerance(across=False),)},
    BLOCKS,
)
