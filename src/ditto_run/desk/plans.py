"""Jobs and their plans: new ones, changes, undo and redo, copies and siblings."""

from collections.abc import Callable, Sequence
from copy import copy
from dataclasses import replace
from datetime import datetime
from typing import TYPE_CHECKING, Self

from ditto_run.core.errors import BadEntry, NotFound
from ditto_run.core.part import Heading
from ditto_run.core.part.family import read_siblings
from ditto_run.core.plan import FIRST_PART, Changed, Plan
from ditto_run.core.sheets import Solve
from ditto_run.store.database import Database
from ditto_run.store.drawers import Drawers
from ditto_run.store.jobs import Job, Jobs
from ditto_run.store.shop import Shop

if TYPE_CHECKING:  # a start makes no change: they are loaded with the first one
    from ditto_run.core.edits import Edit, PlanRegisters

NEEDS_DRAWERS = {
    "keep_sheet",
    "keep_sheets",
    "place_holder",
    "add_ways",
    "set_way",
    "choose_way",
}  # edits that look into the shop's drawers


class JobRef(int):
    """The number of a job together with one of its parts: counted with as the number, said as 12-2."""

    part: int

    def __new__(cls, number: int, part: int) -> Self:
        """Return the reference; only a part other than the first is said."""
        found = super().__new__(cls, number)
        found.part = part
        return found

    def __str__(self) -> str:
        return f"{int(self)}-{self.part}" if self.part != FIRST_PART else f"{int(self)}"

    def __format__(self, spec: str) -> str:
        return format(str(self), spec)


class Plans(Jobs):
    """The jobs of the shop, and everything that changes a plan."""

    part = FIRST_PART

    def __init__(
        self,
        database: Database,
        clock: Callable[[], datetime],
        shop: Shop,
        drawers: Drawers,
        solve: Solve,
    ) -> None:
        super().__init__(database, clock)
        self._shop, self._drawers, self._solve = shop, drawers, solve

    def seen_from(self, part: int) -> "Plans":
        """Return the same jobs, each seen from one of its parts.

        Args:
            part: key of the part.
        """
        found = copy(self)
        found.part = part
        return found

    def load(self, job_id: int) -> Job:
        """Return one job, seen from the part that is looked at.

        Raises:
            NotFound: if there is none, or it has no such part.
        """
        return self._seen(super().load(job_id))

    def _seen(self, job: Job) -> Job:
        if self.part == FIRST_PART:
            return job
        plan = job.plan.seen_from(self.part)
        if plan.part != self.part:
            raise NotFound("part", self.part, "Choose one of the parts of this job.")
        return replace(job, id=JobRef(job.id, self.part), plan=plan)

    def edit(
        self, job_id: int, version: int, who: str, change: Callable[[Plan], Changed], step: str = ""
    ) -> Job:
        """Change a plan, seen from the part that is looked at, and keep the new version of the whole job."""

        def whole(plan: Plan) -> Changed:
            changed = change(plan.seen_from(self.part))
            of_it = f", {changed.plan.heading.part}" if self.part != FIRST_PART else ""
            return Changed(changed.plan.seen_from(FIRST_PART), f"{changed.what}{of_it}")

        return self._seen(super().edit(job_id, version, who, whole, step))

    def undo(self, job_id: int, version: int, who: str, step: str = "", confirm: str = "") -> Job:
        """Take back the last change of the job, whichever part it was of."""
        return self._after(super().undo(job_id, version, who, step, confirm))

    def redo(self, job_id: int, version: int, who: str, step: str = "", confirm: str = "") -> Job:
        """Bring back the change that was undone last."""
        return self._after(super().redo(job_id, version, who, step, confirm))

    def _after(self, job: Job) -> Job:
        """The job as it is looked at after an undo, which may have taken the part away."""
        there = {one.key for one in job.plan.all_parts}
        return self._seen(job) if self.part in there else job

    def registers(self, *, drawers: bool = True) -> "PlanRegisters":
        """Return what of the shop a plan may refer to; materials and holders only where they are wanted."""
        from ditto_run.core.edits import PlanRegisters  # noqa: PLC0415

        shop = self._shop.load()
        if not drawers:
            return PlanRegisters(shop.machines, frozenset(shop.gauges), solve=self._solve)
        materials, holders = (
            {row.value.name: row.value for row in self._drawers.rows(name)}
            for name in ("materials", "holders")
        )
        return PlanRegisters(
            shop.machines,
            frozenset(shop.gauges),
            materials,
            holders,
            self._solve,
            tuple(row.value for row in self._drawers.rows("taught")),
            {row.value.name: row.value.cents_per_hour for row in self._drawers.rows("rates")},
        )

    def change(self, job_id: int, version: int, who: str, edit: "Edit", step: str = "") -> Job:
        """Make one change of a plan, on the version it was looked at in.

        Args:
            job_id: which job.
            version: the version the change was made on.
            who: initials; an override bears them.
            edit: what to change.
            step: the page it was made on, for undo.

        Raises:
            ChangedMeanwhile: if somebody saved another version since.
            DittoError: what the edit refuses.
        """
        from ditto_run.core.edits import OverrideFinding, apply_edit  # noqa: PLC0415

        signed = replace(edit, who=who) if isinstance(edit, OverrideFinding) else edit
        registers = self.registers(drawers=edit.kind in NEEDS_DRAWERS)
        return self.edit(job_id, version, who, lambda plan: apply_edit(signed, plan, registers), step)

    def add_rows(self, job_id: int, version: int, who: str, rows: str) -> Job:
        """Add the rows of a pasted table: all of them, or none while one cannot be read.

        Raises:
            BadEntry: if a row has a fault, or there is none.
        """
        from ditto_run.core.edits import AddCharacteristics  # noqa: PLC0415
        from ditto_run.formats.characteristic_table import rehearse  # noqa: PLC0415

        found = rehearse(rows, self.load(job_id).plan)
        if found.faults or not found.rows:
            raise BadEntry(
                "Some rows cannot be read yet.", "Mend or remove them, then rehearse again.", "rows"
            )
        return self.change(job_id, version, who, AddCharacteristics(found.rows), "part")

    def copy(self, job_id: int, who: str) -> int:
        """Make a new job with the plan of another. Returns its number."""
        return self.new(self.load(job_id).plan, who, what=f"copied from job {job_id}")

    def new_like(self, job_id: int, heading: Heading, who: str, client_key: str = "") -> int:
        """Make a new job that begins with all that is planned for another. Returns its number."""
        from ditto_run.core.edits import plan_like  # noqa: PLC0415

        plan = plan_like(self.load(job_id).plan, heading)
        return self.new(plan, who, what=f"begun like job {job_id}", client_key=client_key)

    def make_siblings(self, job_id: int, who: str, rows: str) -> Sequence[int]:
        """Make a job for each sibling typed, all of them or none. Returns their numbers."""
        from ditto_run.core.edits import make_sibling, sibling_sizes  # noqa: PLC0415

        plan, registers = self.load(job_id).plan, self.registers()
        wanted = read_siblings(rows, sibling_sizes(plan))
        plans: list[Plan] = [make_sibling(plan, sibling, registers) for sibling in wanted]
        return self.new_together(plans, who, what=f"sibling of job {job_id}")
