"""What a thread wants is asked of each thread, filled from the size and the line of its feature."""

from decimal import Decimal

import pytest

from ditto_run.core.edits import (
    AddFeatureLines,
    AddToolLines,
    RemoveCharacteristic,
    SetCharacteristic,
    SetFigure,
    SetForm,
    SetSetup,
    apply_edit,
)
from ditto_run.core.errors import NotFound
from ditto_run.core.part import Heading
from ditto_run.core.plan import Plan, ShopKnown
from ditto_run.core.plan.asked import asked_of, part_asked, size_thing, tools_wanted
from ditto_run.core.plan.worked import work_out
from tests.conftest import SHOP

DRAWER = ShopKnown(drills=(("5 mm", Decimal(5)),))


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


@pytest.mark.parametrize(
    ("said", "side"),
    [
        ("M10x1 6g", "external"),
        ("1/4-20 2A", "external"),
        ("M8 6H", "internal"),
        ("1/4-20 UNC-2B", "internal"),
    ],
)
def test_a_thread_without_a_feature_is_on_the_side_of_its_class(said: str, side: str) -> None:
    """ISO 965-1 and ASME B1.1: capital letters and B are of nuts, small ones and A of screws; from memory."""
    plan = apply_edit(SetCharacteristic("thread", said), Plan(Heading("Part", 4, "mm")), SHOP).plan
    (asked,) = part_asked(work_out(plan))
    assert (asked.texts["side"], asked.figure("side").is_guess) == (side, False)  # type: ignore[union-attr]


def test_only_threads_are_asked_and_a_size_that_is_gone_is_said() -> None:
    plan = planned("block", "block 60 x 40 x 20\nbore 12 H7 through, top, in the middle")
    assert [one.question for one in part_asked(work_out(plan))] == ["fit"]
    for thing in ("size 99", "size x", "setup 1", "part", "nothing"):
        with pytest.raises(NotFound):
            asked_of(work_out(plan), "thread", thing)
    assert size_thing(plan.characteristics[0]) == f"size {plan.characteristics[0].number}"


def test_the_tools_of_a_tapped_hole_are_given_to_the_setup_that_makes_it() -> None:
    plan = planned("block", "block 60 x 40 x 31.5\ntapped hole M6 x 12 deep, top, in the middle")
    (asked,) = part_asked(work_out(plan, DRAWER))
    assert asked.gives == ()  # no setup makes it yet
    cuts = (plan.features[1].key,)
    plan = apply_edit(SetSetup("first side", 1, "vise", cuts=cuts), plan, SHOP).plan
    (asked,) = part_asked(work_out(plan, DRAWER))
    ((name, lines),) = asked.gives
    assert (name, lines.splitlines()[1], asked.given) == ("tools", "tap M6×1 12 mm deep", False)
    size, setup = plan.characteristics[0], plan.setups[0].key
    assert tools_wanted(asked, plan, size) == lines.splitlines()
    plan = apply_edit(AddToolLines(setup, lines.splitlines()[0]), plan, SHOP).plan
    (asked,) = part_asked(work_out(plan, DRAWER))
    assert tools_wanted(asked, plan, size) == lines.splitlines()[1:]  # what is there is not given twice
    plan = apply_edit(AddToolLines(setup, lines.splitlines()[1]), plan, SHOP).plan
    (asked,) = part_asked(work_out(plan, DRAWER))
    assert asked.given
