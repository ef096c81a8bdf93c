"""May the jaws mark: what the holder leaves on the faces it presses, and whether those stay so."""

from ditto_run.core.findings import Finding
from ditto_run.core.hold.questions.ground import SetupGround, of_register
from ditto_run.core.questions import Question, Sourced
from ditto_run.core.sheets import Answer, Entries, Entry, Known, SheetKind

LEAVES = ("none", "light", "deep")
FACE = ("raw", "finished", "cut later")
STAYS = {"raw": "stays as it comes", "finished": "is finished already", "cut later": "is cut later"}


def marks(entries: Entries, _known: Known) -> Answer:
    """Return whether what the holder leaves on the pressed faces may stay there.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    leaves, face = entries.choice("leaves", LEAVES), entries.choice("face", FACE)
    if leaves == "none" or face == "cut later":
        say = "They leave none." if leaves == "none" else "They may: it is cut later."
        return Answer(
            say, f"What they press {STAYS[face]}.", result=True, source="common practice, no source"
        )
    found = Finding(
        "hold",
        "ask" if leaves == "deep" or face == "finished" else "note",
        "marks-stay",
        f"{leaves.capitalize()} marks of the jaws stay on a face that {STAYS[face]}.",
        "Put soft metal or card between, take soft jaws, press other faces, or cut that face later.",
    )
    return Answer(
        f"{leaves.capitalize()} marks stay.",
        f"What they press {STAYS[face]}.",
        findings=(found,),
        result=False,
        source="common practice, no source",
    )


MARKS = SheetKind(
    "marks",
    "hold",
    "Marks of the jaws",
    (
        Entry("leaves", "Leaves", kind="choose", choices=LEAVES),
        Entry("face", "The face pressed", kind="choose", choices=tuple(STAYS)),
    ),
    marks,
)


def _leaves(ground: SetupGround) -> Sourced | None:
    return of_register(ground, ground.holder.marks) if ground.holder is not None else None


def _face(ground: SetupGround) -> Sourced | None:
    """The worst of the faces pressed: finished, else raw, else all of them cut later."""
    faces = set(ground.setup.clamps_on)
    if not faces:
        return None
    stay = faces - ground.cut_later
    if not stay:
        return Sourced("cut later", "computed", "setups")
    return Sourced("finished" if stay & ground.machined else "raw", "computed", "setups")


MARKS_ASKED: Question[SetupGround] = Question(
    "marks",
    "hold",
    lambda ground: (
        ground.holder is not None and bool(ground.setup.clamps_on) and ground.holder.marks != "none"
    ),
    {"leaves": (_leaves,), "face": (_face,)},
    MARKS,
    needs=("leaves", "face"),
)
