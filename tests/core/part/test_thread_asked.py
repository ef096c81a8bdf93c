"""What a thread wants is asked of each thread, filled from the size and the line of its feature."""

import pytest

from ditto_run.core.edits import (
    AddFeatureLines,
    RemoveCharacteristic,
    SetCharacteristic,
    SetFigure,
    SetForm,
    apply_edit,
)
from ditto_run.core.errors import NotFound
from ditto_run.core.part import Heading
from ditto_run.core.plan import Plan
from ditto_run.core.plan.asked import asked_of, part_asked, size_thing
from ditto_run.core.plan.worked import work_out
from tests.conftest import SHOP


def planned(form: str, lines: str, *edits: object) -> Plan:
    plan = Plan(Heading("Part", 24, "mm"))
    for edit in (*([SetForm("turned")] if form == "turned" else []), AddFeatureLines(lines), *edits):
        plan = apply_edit(edit, plan, SHOP).plan
    return plan


@pytest.mark.parametrize(
    ("form", "lines", "figures", "says"),
    [
        (
            "block",
            "block 60 x 40 x 31.5\ntapped hole M6 x 12 deep, top, in the middle",
            {"thread": "M6×1", "side": "internal", "percent": "75", "depth": "12 mm"},
            "Drill ",
        ),
        (
            "block",
            "block 60 x 40 x 20\ntapped hole M6 through, top, in the middle",
            {"thread": "M6×1", "side": "internal", "percent": "75"},
            "Drill ",
        ),
        (
            "turned",
            "body Ø12 x 86\noutside thread M10 x 18 long, free end",
            {"thread": "M10×1.5", "side": "external", "percent": "75"},
            "Turn it to 9.",
        ),
    ],
)
def test_a_thread_is_answered_from_its_feature(
    form: str, lines: str, figures: dict[str, str], says: str
) -> None:
    (asked,) = part_asked(work_out(planned(form, lines)))
    assert asked.texts == figures
    assert asked.answer is not None
    assert asked.answer.say.startswith(says)
    assert not any(figure.is_guess for figure in asked.figures)


def test_a_thread_without_a_feature_guesses_its_side_and_that_counts_as_open() -> None:
    plan = apply_edit(SetCharacteristic("thread", "M8"), Plan(Heading("Part", 4, "mm")), SHOP).plan
    (asked,) = part_asked(work_out(plan))
    assert asked.figure("side").is_guess  # type: ignore[union-attr]
    plan = apply_edit(
        SetFigure(asked.thing, "thread", "side", "external", "on the stem", "internal", "RK"), plan, SHOP
    ).plan
    again = asked_of(work_out(plan), "thread", asked.thing)
    assert again.answer is not None
    assert again.answer.say.startswith("Turn it to")
    assert apply_edit(RemoveCharacteristic(plan.characteristics[0].number), plan, SHOP).plan.figures == ()


def test_only_threads_are_asked_and_a_size_that_is_gone_is_said() -> None:
    plan = planned("block", "block 60 x 40 x 20\nbore 12 H7 through, top, in the middle")
    assert part_asked(work_out(plan)) == ()
    for thing in ("size 99", "size x", "setup 1", "part", "nothing"):
        with pytest.raises(NotFound):
            asked_of(work_out(plan), "thread", thing)
    assert size_thing(plan.characteristics[0]) == f"size {plan.characteristics[0].number}"
