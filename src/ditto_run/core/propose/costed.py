"""What a proposal comes to once it is taken: times as far as they come out, and what it leaves open."""

from dataclasses import dataclass

from ditto_run.core.plan.at_work import times_wanted
from ditto_run.core.plan.open import open_things
from ditto_run.core.plan.worked import Worked


@dataclass(frozen=True, slots=True)
class Costed:
    """What a proposal comes to.

    Args:
        cut_s: cutting a piece, of the steps whose time comes out. [s]
        change_s: changes a load, of those. [s]
        timed: steps whose cutting time comes out.
        opens: what it would leave open on Tools beside what is open now and times, a sentence each.
    """

    cut_s: float
    change_s: float
    timed: int
    opens: tuple[str, ...]


def costed(before: Worked, after: Worked, setup_key: int) -> Costed:
    """Return what the steps that are new in a plan come to.

    Args:
        before: the plan as it is, worked out.
        after: with a proposal taken, worked out.
        setup_key: of the setup.
    """
    old = {step.key for step in before.plan.tool_steps}
    times = [one for one in times_wanted(after, setup_key) if one[0] not in old]
    cuts = [seconds for _, what, seconds in times if what == "cut"]
    changes = [seconds for _, what, seconds in times if what == "change"]
    was = {thing.finding.key for thing in open_things(before)}
    opens = dict.fromkeys(
        thing.finding.problem
        for thing in open_things(after)
        if thing.finding.step == "tools" and thing.finding.code != "no-time" and thing.finding.key not in was
    )
    return Costed(sum(cuts), sum(changes), len(cuts), tuple(opens))
