"""What play a hole and its pin have: both parts of this job, or one of them said by who asks."""

import re
from collections.abc import Mapping

from ditto_run.core.part.characteristic import Characteristic
from ditto_run.core.part.fit_sheet import FIT
from ditto_run.core.part.questions.ground import SizeGround
from ditto_run.core.questions import Question, Sourced
from ditto_run.core.sheets import Answer, Entries

CLASS = re.compile(r"[A-Za-z]{1,2}\d{1,2}")


def is_hole_class(size: Characteristic) -> bool:
    """Return True for a hole by its class, such as H7; False for a shaft, and for a size without a class."""
    return size.drawing.name[:1].isupper()


def fits_into(one: Characteristic, other: Characteristic) -> bool:
    """Return True if one is a hole and the other a shaft of the same nominal, both by their class."""
    classes = one.drawing.name, other.drawing.name
    return (
        all(name[:1].isalpha() and name[-1:].isdigit() for name in classes)
        and is_hole_class(one) != is_hole_class(other)
        and one.drawing.kind == other.drawing.kind == "diameter"
        and one.drawing.nominal_base == other.drawing.nominal_base
    )


def _nominal(ground: SizeGround) -> Sourced:
    return Sourced(f"{ground.size.drawing.nominal:f} {ground.size.drawing.unit}", "drawing", ground.size.name)


def _classes(ground: SizeGround) -> Sourced | None:
    if ground.partner is None:
        return None
    pair = (ground.size, ground.partner)
    hole, shaft = pair if is_hole_class(ground.size) else pair[::-1]
    return Sourced(f"{hole.drawing.name}/{shaft.drawing.name}", "drawing", ground.partner_of)


def _gives(ground: SizeGround, answer: Answer, _entries: Entries) -> Mapping[str, str]:
    """What goes with it, as why it matters: read beside the size at the machine. Nothing where somebody said why already."""
    why = f"goes with {ground.partner_of or 'its mate'}: {answer.say.rstrip('.')}"
    return {"why": why} if not ground.size.why or ground.size.why.startswith("goes with ") else {}


def _has_class(size: Characteristic) -> bool:
    """Return True for a size with a class of a hole or shaft, such as H7 or g6."""
    return size.drawing.kind == "diameter" and CLASS.fullmatch(size.drawing.name) is not None


FIT_ASKED: Question[SizeGround] = Question(
    "fit",
    "part",
    lambda ground: is_hole_class(ground.size) if ground.partner is not None else _has_class(ground.size),
    {"nominal": (_nominal,), "classes": (_classes,)},
    FIT,
    _gives,
    needs=("classes",),
)
