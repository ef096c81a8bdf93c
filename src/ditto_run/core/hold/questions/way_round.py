"""Can it go in the wrong way round: what proofs it once the piece has a side."""

from ditto_run.core.hold.questions.ground import SetupGround, said
from ditto_run.core.questions import Question, Sourced
from ditto_run.core.sheets import Answer, Entries, Entry, Known, SheetKind
from ditto_run.core.units import capital


def way_round(entries: Entries, _known: Known) -> Answer:
    """Return whether a piece can be loaded the wrong way round.

    Raises:
        BadEntry: if it has a side and nobody said what proofs it.
    """
    if entries.choice("has_side", ("no", "yes")) == "no":
        return Answer(
            "Both ways are right.",
            "It is the same turned round.",
            result=True,
            source="common practice, no source",
        )
    proof = entries.need("proof", "a pin, a corner, a flat")
    return Answer(
        "It cannot.",
        f"{capital(proof).rstrip('.')}.",
        result=False,
        source="common practice, no source",
    )


WAY_ROUND = SheetKind(
    "way_round",
    "hold",
    "Way round",
    (
        Entry("has_side", "Has a side by then", kind="choose", choices=("no", "yes")),
        Entry("proof", "Cannot, because"),
    ),
    way_round,
)


def _side(ground: SetupGround) -> Sourced:
    return Sourced("yes" if ground.one_sided else "no", "computed", "features")


def _proof(ground: SetupGround) -> Sourced | None:
    return said(ground.setup.proof)


WAY_ROUND_ASKED: Question[SetupGround] = Question(
    "way_round",
    "hold",
    lambda ground: not ground.is_first,
    {"has_side": (_side,), "proof": (_proof,)},
    WAY_ROUND,
    lambda _ground, _answer, entries: {"proof": entries.text("proof")} if entries.has("proof") else {},
)
