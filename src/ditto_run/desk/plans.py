"""Jobs and their plans: new ones, changes, undo and redo, copies and siblings."""

from collections.abc import Callable, Sequence
from dataclasses import replace
from datetime import datetime
from typing import TYPE_CHECKING

from ditto_run.core.errors import BadEntry
from ditto_run.core.part.family import read_siblings
from ditto_run.core.plan import Plan
from ditto_run.core.sheets import Solve
from ditto_run.store.database import Database
from ditto_run.store.drawers import Drawers
from ditto_run.store.jobs import Job, Jobs
from ditto_run.store.shop import Shop

if TYPE_CHECKING:  # a start makes no change: they are loaded with the first one
    from ditto_run.core.edits import Edit, PlanRegisters

NEEDS_DRAWERS = {"keep_sheet", "place_holder"}  # edits that look into the shop's drawers


class Plans(Jobs):
    """The jobs of the shop, and everything that changes a plan."""

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
        return PlanRegisters(shop.machines, frozenset(shop.gauges), materials, holders, self._solve)

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

    def make_siblings(self, job_id: int, who: str, rows: str) -> Sequence[int]:
        """Make a job for each sibling typed, all of them or none. Returns their numbers."""
        from ditto_run.core.edits import make_sibling  # noqa: PLC0415

        plan, registers = self.load(job_id).plan, self.registers()
        wanted = read_siblings(rows, [c.name for c in plan.characteristics])
        plans: list[Plan] = [make_sibling(plan, sibling, registers) for sibling in wanted]
        return self.new_together(plans, who, what=f"sibling of job {job_id}")
