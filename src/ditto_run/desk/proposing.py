"""What is proposed for a job: setups for its features, tools for what a setup cuts."""

from collections import OrderedDict
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from threading import Lock
from typing import Literal

from ditto_run.core.errors import NotFound
from ditto_run.core.method import Measure
from ditto_run.core.plan import Worked
from ditto_run.core.propose.costed import Costed, costed
from ditto_run.core.propose.drafts import OWN, Picks, WholeGround, WorkOut, chains_for, whole_ground
from ditto_run.core.propose.judged import JudgedChain
from ditto_run.core.propose.proposal import Proposal
from ditto_run.core.propose.setup_tools import Owned, tools_for
from ditto_run.core.propose.shown import ShownGrade, shown_by
from ditto_run.core.propose.taking import take_steps
from ditto_run.core.propose.whole import WholePlan, figured, searched, two_of, with_bought, without_rate
from ditto_run.desk.desk import Desk
from ditto_run.desk.values import Job

MOST_GROUNDS = 12  # jobs whose whole plans are kept
MOST_BATCHES = 60  # that are looked at for what they showed


@dataclass(frozen=True, slots=True)
class ProposedFor:
    """What is proposed for a setup: the proposals, features that nothing describes, and whether usual tools stand in.

    `all_drills` says that every standard drill stands in, `costs` what each comes to once it is taken, by its name.
    """

    proposals: tuple[Proposal, ...]
    bare: tuple[str, ...]
    usual: bool
    all_drills: bool = False
    costs: Mapping[str, Costed] = field(default_factory=dict)


def tools_proposed(desk: Desk, job: Job, setup_key: int, only: int = 0) -> ProposedFor:
    """Return what is proposed for a setup, from the tools of the shop.

    Args:
        desk: the desk.
        job: which, as it is looked at.
        setup_key: of the setup.
        only: key of the one feature that is looked at; 0 for all that no step makes.
    """
    plan, worked = job.plan, desk.worked_out(job)
    found = tools_for(plan, worked.shop, setup_key, owned_by(desk), only)
    costs: dict[str, Costed] = {}
    for one in found.proposals:
        if one.steps:
            taken_plan = take_steps(plan, setup_key, one.steps).plan
            costs[one.name] = costed(worked, desk.worked.tried(taken_plan), setup_key)
    return ProposedFor(found.proposals, found.bare, found.usual, worked.shop.whole_drawer, costs)


def owned_by(desk: Desk) -> Owned:
    """Return what a proposal rests on: the tools of the shop, and what its batches showed."""
    return Owned(tuple(row.value for row in desk.drawers.rows("tools")), tuple(_shown(desk)))


def _shown(desk: Desk) -> list[ShownGrade]:
    """What the newest batches of the shop have shown of the ways their features were made, one of each job."""
    found: list[ShownGrade] = []
    for run_id in sorted(desk.runs.of_jobs().values())[-MOST_BATCHES:]:
        with desk.runs.folded(run_id) as state:
            found += shown_by(state)
    return found


WholeName = Literal["quick", "thorough", "bought", "yours"]


@dataclass(frozen=True, slots=True)
class Bought:
    """What could be bought, in words, what plans are drafted from then, and the best of them."""

    names: tuple[str, ...]
    ground: WholeGround
    plan: WholePlan


def setups_proposed(desk: Desk, job: Job) -> tuple[JudgedChain, ...]:
    """Return the chains that are proposed for a job, held to all checks of Hold as if it had no setup yet.

    Args:
        desk: the desk.
        job: which, as it is looked at.
    """
    return chains_for(desk.worked_out(job), desk.worked.tried)


@dataclass(frozen=True, slots=True)
class WholeProposed:
    """The whole plans that are proposed for a job.

    Args:
        ground: what they are drafted from.
        measure: what they were sought by.
        plans: by name: quick and thorough, in that order; nothing while no chain keeps every rule.
        unrated: machines without a rate, for which money was not sought by.
        own: the plan as it is, completed as proposed; None without setups.
        bought: the best with what could be bought, what that is, and what it is drafted from; None where nothing lacks.
    """

    ground: WholeGround
    measure: Measure
    plans: Mapping[WholeName, WholePlan]
    unrated: tuple[str, ...]
    own: WholePlan | None
    bought: Bought | None

    @property
    def names(self) -> tuple[WholeName, ...]:
        """The names of all that can be looked at."""
        bought: tuple[WholeName, ...] = ("bought",) if self.bought is not None else ()
        own: tuple[WholeName, ...] = ("yours",) if self.own is not None else ()
        return (*self.plans, *bought, *own)

    def ground_of(self, name: WholeName) -> WholeGround:
        """Return what a plan of a name is drafted from."""
        return self.bought.ground if name == "bought" and self.bought is not None else self.ground

    def named(self, name: WholeName) -> WholePlan:
        """Return a plan by its name.

        Raises:
            NotFound: if none is proposed.
        """
        there = {**self.plans}
        if self.own is not None:
            there["yours"] = self.own
        if self.bought is not None:
            there["bought"] = self.bought.plan
        if name in there:
            return there[name]
        raise NotFound("proposal", name, "Look at what is proposed now.")


class Proposing:
    """Whole plans that are proposed, kept while their job and the shop stay as they are."""

    def __init__(self) -> None:
        self._kept: OrderedDict[int, tuple[Worked, Owned, WholeProposed]] = OrderedDict()
        self._lock = Lock()

    def of(self, desk: Desk, job: Job) -> WholeProposed:
        """Return what is proposed for a job, searched once.

        Args:
            desk: the desk.
            job: which, as it is looked at.
        """
        worked, owned = desk.worked_out(job), owned_by(desk)
        with self._lock:
            kept = self._kept.get(id(worked))
        if kept is not None and kept[1] == owned:
            return kept[2]
        found = _searched(worked, owned, desk.worked.tried)
        with self._lock:
            self._kept[id(worked)] = worked, owned, found  # the plan is held, so its identity stays its own
            while len(self._kept) > MOST_GROUNDS:
                self._kept.popitem(last=False)
        return found


def _searched(worked: Worked, owned: Owned, work_out: WorkOut) -> WholeProposed:
    ground = whole_ground(worked, owned, work_out)
    quantity = max(worked.plan.heading.quantity, 1)
    timed = searched(ground, "time")
    unrated = without_rate(ground, timed)
    rated = bool(timed) and not unrated and all(one.cost is not None for one in timed)
    measure: Measure = "cost" if rated and worked.plan.heading.purpose != "hurry" else "time"
    found = searched(ground, measure) if measure == "cost" else timed
    pair = two_of(found, quantity, measure)
    names: tuple[WholeName, ...] = ("quick", "thorough")
    return WholeProposed(
        ground,
        measure,
        dict(zip(names[2 - len(pair) :], pair, strict=True)),
        unrated,
        figured(ground, Picks(OWN)) if ground.own is not None else None,
        _bought(ground, pair, quantity, measure),
    )


def _bought(ground: WholeGround, pair: Sequence[WholePlan], quantity: int, measure: Measure) -> Bought | None:
    """The best plan with what could be bought, where that makes more of the features."""
    if not pair:
        return None
    more = with_bought(ground, pair[-1])
    if more is None:
        return None
    tools, there = more
    best = two_of(searched(there, measure), quantity, measure)[-1]
    if len(best.drafted.unmade) >= len(pair[-1].drafted.unmade):
        return None
    return Bought(tuple(tool.name for tool in tools), there, best)
