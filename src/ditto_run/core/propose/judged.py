"""A proposed chain held to every check of Hold as if it were taken, on the parallels that leave least open."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from decimal import Decimal

from ditto_run.core.part.faces import OPPOSITE
from ditto_run.core.plan import Plan
from ditto_run.core.plan.open import holding_findings, open_things
from ditto_run.core.plan.worked import Worked
from ditto_run.core.propose.setups import ProposedChain, ProposedSetup
from ditto_run.core.propose.taking import take_setups
from ditto_run.core.units import MM_PER_INCH, LengthUnit

HEIGHTS_MM: dict[LengthUnit, tuple[Decimal, ...]] = {
    "mm": tuple(map(Decimal, (0, 6, 10, 16, 25, 32))),
    "in": tuple(Decimal(part) * MM_PER_INCH for part in ("0", "0.25", "0.375", "0.5", "0.75", "1", "1.25")),
}
"""Usual parallels, common practice, no source; what the shop has is said on the setup."""
SIDES = ("left", "right")  # where a stop of a vise stands


@dataclass(frozen=True, slots=True)
class JudgedChain:
    """A chain as the checks of Hold see it.

    Args:
        chain: it.
        parallels_mm: height of the parallels it stands on. [mm]
        stops: what stops it still, a sentence each.
        asks: what would be asked, a sentence each.
        stop_at: face that goes against the stop in each setup; empty where none is free of a cut.
        is_fewest: True if no chain of fewer setups keeps the rules of the chain, all orders of faces tried.
    """

    chain: ProposedChain
    parallels_mm: Decimal
    stops: tuple[str, ...]
    asks: tuple[str, ...]
    stop_at: tuple[str, ...] = ()
    is_fewest: bool = True


def judged(plan: Plan, chain: ProposedChain, work_out: Callable[[Plan], Worked]) -> JudgedChain:
    """Return a chain as the checks see it once it is taken, on the lowest parallels that leave least open.

    Args:
        plan: the job, without a setup.
        chain: proposed for it.
        work_out: works a plan out.
    """
    heights = HEIGHTS_MM[plan.heading.unit]
    heights = heights if plan.form == "block" else heights[:1]

    def wrong(height: Decimal, stop_at: Sequence[str] = ()) -> tuple[int, int]:
        found = holding_findings(work_out(take_setups(plan, chain, height, stop_at).plan))
        stop, ask = (len({f.problem for f in found if f.weight == weight}) for weight in ("stop", "ask"))
        return stop, ask

    heights = HEIGHTS_MM[plan.heading.unit]
    heights = heights if plan.form == "block" else heights[:1]
    tried: list[tuple[tuple[int, int], Decimal]] = []
    for height in heights:
        tried.append((wrong(height), height))
        if tried[-1][0] == (0, 0):
            break
    least, height = min(tried)
    stop_at = [""] * len(chain.setups)
    for place, setup in enumerate(chain.setups):
        for face in _free_sides(setup):
            stop_at[place] = face
            if wrong(height, stop_at) <= least:
                break
            stop_at[place] = ""
    was = {thing.finding.key for thing in open_things(work_out(plan))}
    new = [
        thing.finding
        for thing in open_things(work_out(take_setups(plan, chain, height, stop_at).plan))
        if thing.finding.step == "hold" and thing.finding.key not in was
    ]
    stops, asks = (
        tuple(dict.fromkeys(one.problem for one in new if one.weight == weight)) for weight in ("stop", "ask")
    )
    return JudgedChain(chain, height, stops, asks, tuple(stop_at))


def _free_sides(setup: ProposedSetup) -> tuple[str, ...]:
    """Sides that a stop may stand at: neither up nor down nor between the jaws; none where it sits on a pin."""
    if not setup.up or not set(setup.clamps_on) <= set(OPPOSITE):
        return ()
    return tuple(side for side in SIDES if side not in {setup.up, OPPOSITE[setup.up], *setup.clamps_on})
