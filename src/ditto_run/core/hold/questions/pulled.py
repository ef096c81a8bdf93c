"""Where a slender bar is pulled out to, segment by segment, so that each is cut close to what holds it."""

from itertools import pairwise

from ditto_run.core.hold.path_sheets import SEGMENTS
from ditto_run.core.hold.questions.ground import SetupGround, mm
from ditto_run.core.hold.questions.overhang import SLENDER
from ditto_run.core.part.faces import BAR
from ditto_run.core.questions import Question, Sourced, practice


def _cut(ground: SetupGround) -> list[tuple[float, float, float, float]]:
    """The stretches that are cut under the bar's diameter, from the free end: from, to, and the diameter at each, [mm]."""
    if ground.contact is None:
        return []
    profile = ground.contact.piece.after.profile
    bar = max((r for _, r in profile), default=0.0)
    return [
        (a, b, 2 * r, 2 * s)
        for (a, r), (b, s) in pairwise(profile)
        if b - a > NEARLY and a >= -NEARLY and min(r, s) < bar - NEARLY
    ]


def _applies(ground: SetupGround) -> bool:
    """True for a bar that is cut farther than it is stiff, and held by nothing at its free end."""
    cut = _cut(ground)
    on_bar = BAR in (*ground.setup.clamps_on, *ground.setup.locates_on)
    if not cut or not on_bar or ground.setup.centres or not ground.in_chuck:
        return False
    return max(end for _, end, _, _ in cut) >= SLENDER * min(min(d, e) for _, _, d, e in cut)


def _rows(ground: SetupGround) -> Sourced | None:
    lines = [
        f"{a:.4f} mm {b:.4f} mm {d:.4f} mm" + (f" {e:.4f} mm" if abs(d - e) > NEARLY else "")
        for a, b, d, e in _cut(ground)
    ]
    return Sourced("\n".join(lines), "computed", "features") if lines else None


def _bar(ground: SetupGround) -> Sourced | None:
    blank = ground.stock.get("blank")
    return Sourced(mm(blank.blank_mm[0]), "computed", "Blank") if blank is not None else None


NEARLY = 1e-4  # stretches and steps shorter than this are none. [mm]
SEGMENTS_ASKED: Question[SetupGround] = Question(
    "segments",
    "hold",
    _applies,
    {"rows": (_rows,), "bar_across": (_bar,), "pass": (practice("0.5 mm"),)},
    SEGMENTS,
)
