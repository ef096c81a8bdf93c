"""Everything a page, a script or the command line works with."""

from collections.abc import Callable
from copy import copy
from dataclasses import dataclass, replace
from datetime import datetime
from functools import cached_property
from typing import TYPE_CHECKING

from ditto_run.core.plan import FIRST_PART, Plan, ShopKnown, Worked
from ditto_run.core.plan.asked import held_answers, hold_asked
from ditto_run.core.plan.held import contacts
from ditto_run.core.sheets import Answer
from ditto_run.desk.plans import Plans
from ditto_run.desk.worked import WorkedPlans
from ditto_run.desk.worker import Worker
from ditto_run.settings import Settings
from ditto_run.store.database import FILE_NAME, Database
from ditto_run.store.drawers import Drawers
from ditto_run.store.jobs import Job
from ditto_run.store.offsets import Offsets
from ditto_run.store.programs import Programs
from ditto_run.store.shop import Shop

if TYPE_CHECKING:  # loaded when first asked for: a start needs neither a run nor a file
    from ditto_run.desk.advice import Advisers
    from ditto_run.desk.backups import Backups
    from ditto_run.desk.bundles import Bundles
    from ditto_run.desk.proposing import Proposing
    from ditto_run.desk.runs import Runs
    from ditto_run.store.runs import Revision


@dataclass
class Desk:
    """The shop's desk.

    Args:
        settings: data folder and clock.
        database: the file everything is in; only the desk's own parts use it.
        shop: machines, gauges, people, settings.
        drawers: the registers that are plain tables.
        jobs: jobs and their plans.
        offsets: the register of work offsets.
        programs: program files kept with a job.
        worked: plans worked out, kept in memory.
        worker: a process for long work.
    """

    settings: Settings
    database: Database
    shop: Shop
    drawers: Drawers
    jobs: Plans
    offsets: Offsets
    programs: Programs
    worked: WorkedPlans
    worker: Worker

    @cached_property
    def runs(self) -> "Runs":
        """What happens at the machine."""
        from ditto_run.desk.runs import Runs  # noqa: PLC0415

        return Runs(self.database, self.settings.clock, lambda: self.worked.shop()[1])

    @cached_property
    def advisers(self) -> "Advisers":
        """What the judgement says of runs."""
        from ditto_run.desk.advice import Advisers  # noqa: PLC0415

        return Advisers()

    @cached_property
    def proposing(self) -> "Proposing":
        """Whole plans that are proposed."""
        from ditto_run.desk.proposing import Proposing  # noqa: PLC0415

        return Proposing()

    @cached_property
    def bundles(self) -> "Bundles":
        """Whole jobs in and out."""
        from ditto_run.desk.bundles import Bundles  # noqa: PLC0415

        return Bundles(self.database, self.shop, self.jobs, self.runs, self.worker)

    @cached_property
    def backups(self) -> "Backups":
        """The whole shop out and in."""
        from ditto_run.desk.backups import Backups  # noqa: PLC0415

        forget = (self.runs.forget, self.worked.forget)
        return Backups(self.database, self.settings.clock, self.worker, forget)

    @property
    def now(self) -> datetime:
        """The present moment."""
        return self.settings.clock()

    @property
    def version(self) -> tuple[int, int, int]:
        """Numbers that change with the registers, the offsets, and jobs and plans."""
        held = self.database
        return held.shop_version, held.offsets_version, held.plans_version

    def seen_from(self, part: int) -> "Desk":
        """Return the same desk with every job seen from one of its parts; runs, bundles and what is kept are the same.

        Args:
            part: key of the part.
        """
        if part == FIRST_PART:
            return self
        _ = self.runs, self.bundles, self.advisers, self.proposing  # one of each, whoever looks
        found = copy(self)
        found.jobs = self.jobs.seen_from(part)
        return found

    def worked_out(self, job: Job) -> Worked:
        """Return the plan of a job worked out with the shop as it is now."""
        return self.worked.of(job.id, job.version, job.plan)

    def shop_changed(self, job_id: int) -> tuple[str, ...]:
        """Return what of the shop has changed since the revision being run was frozen, and what comes out otherwise by it.

        Args:
            job_id: a job with a run.
        """
        plan, number, _ = self._run_now(job_id)

        def find() -> tuple[int, ShopKnown | None]:
            found = self._revision(job_id, number)
            return found.version, found.shop

        return self.worked.changed_since(job_id, number, plan, find)

    def held_now(self, job_id: int) -> tuple[tuple[str, Answer], ...]:
        """Return what Hold worked out for the setup being run, by name.

        Args:
            job_id: a job with a run.
        """
        plan, number, setups = self._run_now(job_id)
        version = self._revision(job_id, number).version
        found: list[tuple[str, Answer]] = []
        for setup in setups:
            view = plan.seen_from(plan.part_of(setup))
            worked = self.worked.of(job_id, version, view)
            found += held_answers(worked, hold_asked(worked, contacts(worked)), plan.setup(setup))
        return tuple(found)

    def _run_now(self, job_id: int) -> tuple[Plan, int, tuple[int, ...]]:
        """Return the plan, the revision and the setups of the cycle opened last; the run is lent for that moment only."""
        with self.runs.folded(self.runs.require(job_id)) as state:
            return state.plan, state.revision, state.here.setups

    def _revision(self, job_id: int, number: int) -> "Revision":
        return next(r for r in self.runs.revisions(job_id) if r.number == number)

    def at(self, clock: Callable[[], datetime]) -> "Desk":
        """Return a desk over the same shop where another clock hangs on the wall."""
        return _over(self.database, replace(self.settings, clock=clock), self.worker)

    def close(self) -> None:
        """End what works, put everything into the one file and close it."""
        self.worker.close()
        self.database.close()


def open_desk(settings: Settings, worker: Worker | None = None) -> Desk:
    """Return the desk over the data folder of the settings, with a process of its own for long work or another's."""
    return _over(Database(settings.folder / FILE_NAME), settings, worker or Worker())


def _over(database: Database, settings: Settings, worker: Worker) -> Desk:
    clock = settings.clock
    shop, drawers = Shop(database), Drawers(database)
    worked = WorkedPlans(shop, drawers, worker)
    plans = Plans(database, clock, shop, drawers, worked.anew)
    return Desk(
        settings,
        database,
        shop,
        drawers,
        plans,
        Offsets(database, clock),
        Programs(database, clock),
        worked,
        worker,
    )
