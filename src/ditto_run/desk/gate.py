"""The gate: what is open in a job, and whether its run may start."""

from dataclasses import dataclass

from ditto_run.core.edits import OverrideFinding, PlanRegisters, apply_edit
from ditto_run.core.errors import BadEntry, NotNow
from ditto_run.core.findings import ORDER, Yields
from ditto_run.core.plan import FIRST_PART, OpenThing, Plan, open_things
from ditto_run.core.steps import STEPS
from ditto_run.desk.again import carry_over
from ditto_run.desk.desk import Desk
from ditto_run.desk.values import Job

STOPS: tuple[Yields, ...] = ("never", "initials")


@dataclass(frozen=True, slots=True)
class Open:
    """What is open in a job: everything its steps still want, and what was let stand.

    Args:
        things: heaviest first; plain notes last.
        not_begun: the steps nobody has looked at, in order, as shown; nothing was checked there.
    """

    things: tuple[OpenThing, ...]
    not_begun: tuple[str, ...] = ()

    @property
    def wanted(self) -> tuple[OpenThing, ...]:
        """What wants an answer."""
        return tuple(thing for thing in self.things if thing.is_open)

    @property
    def standing(self) -> tuple[OpenThing, ...]:
        """What was let stand with a note."""
        return tuple(thing for thing in self.things if thing.stands is not None)

    @property
    def stops(self) -> tuple[OpenThing, ...]:
        """What keeps a run from starting until it is done, or let stand with initials."""
        return tuple(thing for thing in self.wanted if thing.yields in STOPS)

    @property
    def asks(self) -> tuple[OpenThing, ...]:
        """What a note is enough for."""
        return tuple(thing for thing in self.wanted if thing.yields == "note")

    def counted(self, yields: Yields) -> int:
        """Return how many want an answer of that weight."""
        return sum(thing.yields == yields for thing in self.wanted)


def what_is_open(desk: Desk, job: Job) -> Open:
    """Return what is open in a job, worked out with the shop and the offsets as they are now."""
    register = desk.shop.load().register
    found: list[OpenThing] = []
    for part in job.plan.all_parts:
        view = job.plan.seen_from(part.key)
        found += open_things(desk.worked.of(job.id, job.version, view), register)
    if job.plan.companions:
        found.sort(key=lambda thing: ORDER.index(thing.yields))
    not_begun = frozenset().union(*(part.plan.not_begun for part in job.plan.all_parts))
    return Open(tuple(found), tuple(step.word for step in STEPS if step.name in not_begun))


def start_run(desk: Desk, job_id: int, who: str, note: str = "", client_key: str = "", batch: int = 1) -> int:
    """Freeze the plan and start its run, if nothing keeps it. Returns the run's number; twice gives the same.

    Args:
        desk: the shop.
        job_id: which job.
        who: initials.
        note: why what is asked may stand; it goes with each of those things.
        client_key: chosen by the sender.
        batch: which time the job is run, from 1.

    Raises:
        BadEntry: if something is asked and no note says why it may stand.
        NotNow: if something that never yields, or yields to initials only, is open, or the plan lacks what a run needs.
    """
    known = desk.runs.batches(job_id)
    if batch in known:
        return known[batch]
    job = desk.jobs.load(job_id)
    found = what_is_open(desk, job)
    require_no_stop(found)
    if found.asks and not note.strip():
        many = len(found.asks)
        raise BadEntry(
            f"{many} {'thing is' if many == 1 else 'things are'} open: {found.asks[0].finding.problem}",
            "Answer them, or write why they may stand.",
            "note",
        )
    run_id = desk.runs.start(
        job_id, who, client_key, job.version, _let_stand(job.plan, found, note, who), batch
    )
    if batch > 1:
        carry_over(desk, job_id, run_id, batch, who)
    return run_id


def require_no_stop(found: Open, step: str = "") -> None:
    """Raise NotNow while something is open that keeps a run from starting; of one step only, if it is named."""
    stops = [thing for thing in found.stops if step in {"", thing.finding.step}]
    if not stops:
        return
    first = stops[0].finding
    more = f" And {len(stops) - 1} more." if len(stops) > 1 else ""
    raise NotNow(f"{first.problem}{more}", f"{first.remedy} See what is open, key A.")


def _let_stand(plan: Plan, found: Open, note: str, who: str) -> Plan | None:
    """Return the plan with a note on everything that was asked; None if nothing was."""
    kept = plan
    for thing in found.asks:
        code, about, ground = thing.finding.key
        edit = OverrideFinding(
            thing.finding.problem, note, who, who, code, about, ground, thing.finding.weight
        )
        kept = apply_edit(edit, kept.seen_from(thing.part), PlanRegisters()).plan.seen_from(FIRST_PART)
    return kept if found.asks else None
