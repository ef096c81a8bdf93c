"""What a plan knows is not paid for with sheets that nothing else uses."""

import pytest

from ditto_run.core.edits import KeepSheet, PlanRegisters, apply_edit
from ditto_run.core.part import Heading
from ditto_run.core.plan import Plan, worked
from ditto_run.core.plan.worked import known_of, work_out

MIXED = {"rows": "500 x 4\n300 x 2", "stock": "3000", "kerf": "3"}


def test_what_a_plan_knows_solves_no_lengths(monkeypatch: pytest.MonkeyPatch) -> None:
    plan = apply_edit(KeepSheet("mixed", MIXED), Plan(Heading("Bar", 6)), PlanRegisters()).plan
    asked: list[str] = []
    sheet_of = worked.sheet_of
    monkeypatch.setattr(worked, "sheet_of", lambda kind: asked.append(kind) or sheet_of(kind))
    known_of(plan)
    assert asked == []
    assert work_out(plan).answers
    assert asked == ["mixed"]
