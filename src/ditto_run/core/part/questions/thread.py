"""What a thread wants: drill, depth and limits of an inside one, blank and wires of an outside one."""

import re
from collections.abc import Mapping

from ditto_run.core.part.features import Role
from ditto_run.core.part.questions.ground import SizeGround
from ditto_run.core.part.thread_sheet import THREAD
from ditto_run.core.questions import Question, Sourced, practice
from ditto_run.core.sheets import Answer, Entries

CLASS = re.compile(r"(?<=\s)(?:[1-3][AB]|\d[efgh]|\d[GH])$")  # 2A, 6g of a screw; 2B, 6H of a nut


def _thread(ground: SizeGround) -> Sourced:
    return Sourced(ground.size.drawing.name, "drawing", ground.size.name)


def _side(ground: SizeGround) -> Sourced | None:
    """As its feature says, else the class of the drawing: 6H and 2B are inside; of a size without either inside is a guess."""
    if ground.feature is None:
        said = CLASS.search(ground.size.drawing.name)
        if said is None:
            return Sourced("internal", "guess", "tapped hole")
        outside = said[0][-1] in "Aeghf"
        return Sourced("external" if outside else "internal", "drawing", ground.size.name)
    outside = ground.feature.kind == "outside thread"
    return Sourced("external" if outside else "internal", "drawing", "features")


def _depth(ground: SizeGround) -> Sourced | None:
    """Of a blind tapped hole; a through one has none."""
    feature = ground.feature
    if feature is None or feature.through or Role.DEPTH not in feature.sizes:
        return None
    depth = feature.sizes[Role.DEPTH]
    return Sourced(f"{depth.nominal:f} {depth.unit}", "drawing", "features")


def _gives(ground: SizeGround, answer: Answer, entries: Entries) -> Mapping[str, str]:
    """The tools an inside thread wants, as lines for its setup: drill, then tap; nothing while no setup makes it."""
    if not ground.is_cut or not answer.result.drills:
        return {}
    depth = f" {entries.text('depth')} deep" if entries.has("depth") else ""
    return {"tools": f"drill {answer.result.drills[0].name}{depth}\ntap {answer.result.thread.name}{depth}"}


THREAD_ASKED: Question[SizeGround] = Question(
    "thread",
    "part",
    lambda ground: ground.size.drawing.kind == "thread",
    {"thread": (_thread,), "side": (_side,), "percent": (practice("75"),), "depth": (_depth,)},
    THREAD,
    _gives,
)
