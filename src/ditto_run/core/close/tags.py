"""Which pieces of a batch get a tag."""

from collections.abc import Mapping

from ditto_run.core.run.state import RunState

TAGGED: Mapping[str, str] = {
    "held": "Held and to be reworked",
    "scrap": "Scrapped",
    "spare": "Spares",
    "good": "Good ones",
    "all": "Every piece",
}
STANDS = {"held": {"held", "rework"}, "scrap": {"scrap"}, "spare": {"spare"}, "good": {"good", "reworked"}}


def tagged(state: RunState, of: str) -> tuple[int, ...]:
    """Return the pieces that get a tag, in order.

    Args:
        state: the run.
        of: held, scrap, spare, good or all; anything else is all.
    """
    wanted = STANDS.get(of)
    return tuple(sorted(p.number for p in state.pieces.values() if wanted is None or p.standing in wanted))
