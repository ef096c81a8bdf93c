"""What a plan knows is not paid for with sheets that nothing else uses."""

import pytest

from ditto_run.core.edits import KeepSheet, PlanRegisters, RemoveSetup, SetSetup, apply_edit
from ditto_run.core.errors import NotFound
from ditto_run.core.part import Heading
from ditto_run.core.plan import Plan, worked
from ditto_run.core.plan.asked import held_answers, hold_asked
from ditto_run.core.plan.worked import known_of, work_out
from tests.conftest import SHOP, planned

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


def test_a_sheet_of_hold_is_of_the_setup_it_was_kept_for() -> None:
    plan = planned(4, SetSetup("second side", 1, "vise"))
    first, second = plan.setups
    dial = {"places": "10 20", "per_turn": "2"}
    for edit in (
        KeepSheet("dial", dial, "dials of the second side"),
        KeepSheet("dial", dial, "stops", of_setup=first.key),
        KeepSheet("dial", dial, "second side, but for the first", of_setup=first.key),
    ):
        plan = apply_edit(edit, plan, SHOP).plan
    worked = work_out(plan)
    said = [
        [name for name, _ in held_answers(worked, hold_asked(worked, ()), setup)] for setup in (first, second)
    ]
    assert said == [
        ["stops", "second side, but for the first"],
        ["Way round", "dials of the second side"],
    ]
    gone = apply_edit(RemoveSetup(first.key), plan, SHOP).plan
    assert [sheet.setup for sheet in gone.sheets] == [None, None, None]
    with pytest.raises(NotFound):
        apply_edit(KeepSheet("dial", dial, of_setup=99), plan, SHOP)
