"""Questions of single features and of sizes that fit each other: filled from their lines, checked against the other derivation."""

from dataclasses import replace

import pytest

from ditto_run.core.edits import (
    AddFeatureLines,
    AddPart,
    AssignSizes,
    GiveBackSize,
    RemoveFeature,
    SetCharacteristic,
    SetFigure,
    SetFinish,
    SetForm,
    apply_edit,
)
from ditto_run.core.errors import BadEntry, NotFound
from ditto_run.core.part import Heading
from ditto_run.core.plan import Plan
from ditto_run.core.plan.asked import asked_findings, asked_of, part_asked
from ditto_run.core.plan.worked import work_out
from ditto_run.core.questions import Asked
from tests.conftest import SHOP


def planned(lines: str, *edits: object, form: str = "block") -> Plan:
    plan = Plan(Heading("Part", 24, "mm"))
    for edit in (*([SetForm("turned")] if form == "turned" else []), AddFeatureLines(lines), *edits):
        plan = apply_edit(edit, plan, SHOP).plan
    return plan


def only(plan: Plan) -> Asked:
    (asked,) = part_asked(work_out(plan))
    return asked


def test_a_taper_is_set_by_half_its_angle() -> None:
    """Its large end 20 and 10° whole over 30: the slide swivels 5°, the small end is 20 − 2 × 30 × tan 5° = 14.751."""
    asked = only(planned("body Ø25 x 80\ntaper 10° Ø20 x 30 long, free end", form="turned"))
    assert (asked.question, asked.thing.startswith("feature ")) == ("taper", True)
    assert {name: asked.texts[name] for name in ("large", "length")} == {"large": "20 mm", "length": "30 mm"}
    assert asked.answer is not None
    assert asked.answer.result.slide_deg == pytest.approx(5)
    assert asked.answer.result.small_mm == pytest.approx(14.751, abs=5e-4)


def test_a_circle_of_holes_is_stepped_by_its_chord() -> None:
    """Six on a circle: the chord is its radius."""
    asked = only(planned("block 100 x 100 x 10\n6 holes 6 through, on a 60 circle, in the middle, top"))
    assert asked.texts == {"shape": "circle", "count": "6", "diameter": "60 mm", "hole": "6 mm"}
    assert asked.answer is not None
    assert asked.answer.result.step_mm == pytest.approx(30)


@pytest.mark.parametrize("bends", [1, 2])
def test_the_flat_of_a_bent_part_comes_out_as_the_flat_it_was_drawn_on(bends: int) -> None:
    """Two derivations of one thing: the drawn flat, and straights and arcs added up."""
    places = ("40 from left", "35 from right")[:bends]
    lines = "\n".join(f"bend 90° radius 4, {place}" for place in places)
    asked = [
        one for one in part_asked(work_out(planned(f"block 120 x 30 x 3\n{lines}"))) if one.question == "bend"
    ]
    assert len(asked) == 1  # of all bends at once, at the first
    assert asked[0].answer is not None
    assert asked[0].answer.result.flat_mm == pytest.approx(120, abs=0.001)


def test_bends_that_differ_are_not_asked_as_if_they_were_alike() -> None:
    plan = planned("block 120 x 30 x 3\nbend 90° radius 4, 40 from left\nbend 45° radius 4, 35 from right")
    assert not [one for one in part_asked(work_out(plan)) if one.question == "bend"]


def test_the_play_of_two_parts_of_one_job_is_that_of_their_classes() -> None:
    """H7/g6 at 12: hole 0 to +18 µm, shaft −6 to −17 µm, play 6 to 35 µm (ISO 286-2, reference.md)."""
    plan = Plan(Heading("Ring", 24, "mm"))
    plan = apply_edit(SetCharacteristic("bore", "Ø12 H7"), plan, SHOP).plan
    alone = only(plan)
    assert (alone.answer, alone.unknown) == (None, "classes")  # what goes into it is not known
    said = apply_edit(SetFigure(alone.thing, "fit", "classes", "H7/g6", "bought pins", "", "RK"), plan, SHOP)
    assert dict(only(said.plan).gives)["why"].startswith("goes with its mate: 12.000 mm")
    plan = apply_edit(AddPart("Pin", 24), plan, SHOP).plan
    pin = plan.seen_from(plan.companions[0].key)
    pin = apply_edit(SetCharacteristic("shank", "Ø12 g6"), pin, SHOP).plan
    ring = pin.seen_from(1)
    asked = only(ring)
    assert (asked.question, asked.texts) == ("fit", {"nominal": "12 mm", "classes": "H7/g6"})
    assert asked.answer is not None
    assert (float(asked.answer.result.fit.least_play_mm), float(asked.answer.result.fit.most_play_mm)) == (
        0.006,
        0.035,
    )
    assert part_asked(work_out(pin)) == ()  # asked once, of the hole
    ((name, why),) = asked.gives
    assert (name, why.startswith("goes with Pin: "), asked.given) == ("why", True, False)
    number = int(asked.thing.split()[1])
    told = apply_edit(GiveBackSize(number, "why", why), ring, SHOP).plan
    assert only(told).given
    own = apply_edit(GiveBackSize(number, "why", "the lever turns in it"), ring, SHOP).plan
    assert only(own).gives == ()  # what a person said is not written over


def test_a_figure_of_a_feature_is_kept_and_asked_about_when_the_drawing_moves() -> None:
    plan = planned("body Ø25 x 80\ntaper 10° Ø20 x 30 long, free end", form="turned")
    asked = only(plan)
    plan = apply_edit(SetFigure(asked.thing, "taper", "sine_bar", "100", "ours", "", "RK"), plan, SHOP).plan
    plan = apply_edit(
        SetFigure(asked.thing, "taper", "large", "20.2", "as turned", "20 mm", "RK"), plan, SHOP
    ).plan
    assert only(plan).answer.result.large_mm == pytest.approx(20.2)  # type: ignore[union-attr]
    line = next(f for f in plan.features if f.line.startswith("taper"))
    moved = plan.put(replace(line, line=line.line.replace("20", "21")))
    found = asked_findings(work_out(moved), part_asked(work_out(moved)))
    assert [f.code for f in found] == ["figure-moved"]
    gone = apply_edit(RemoveFeature(line.key), plan, SHOP).plan
    assert gone.figures == ()  # what was said of it goes with it
    assert part_asked(work_out(gone)) == ()
    with pytest.raises(NotFound):
        asked_of(work_out(plan), "taper", "size 1")
    with pytest.raises(NotFound):
        asked_of(work_out(plan), "thread", asked.thing)


def test_many_sizes_are_assigned_at_once_or_not_at_all() -> None:
    plan = planned("block 60 x 40 x 20 ±0.1\nbore 12 H7 through, 16 from left, in the middle, top")
    plan = apply_edit(SetFinish("anodise", "8", "12"), plan, SHOP).plan
    finish = str(plan.finishes[0].key)
    numbers = tuple(str(c.number) for c in plan.characteristics)
    assert len(numbers) == 2
    edit = AssignSizes(numbers, ("critical", "free"), finishes=(finish, ""), faces=("bore", "none"))
    done = apply_edit(edit, plan, SHOP).plan
    first, second = done.characteristics
    assert (first.grade, second.grade, first.finish, second.finish) == (
        "critical",
        "free",
        plan.finishes[0].key,
        None,
    )
    assert first.drawing == plan.characteristics[0].drawing
    assert first.finished is not None  # what is gauged is worked back through the finish
    for wrong, kind in (
        (AssignSizes(numbers, ("critical", "vital")), BadEntry),
        (AssignSizes((*numbers, "99"), ("critical",) * 3), NotFound),
        (AssignSizes(numbers, tuple(c.grade for c in plan.characteristics)), BadEntry),  # nothing changed
        (AssignSizes(numbers, ("critical",) * 2, gauges=("77", "")), NotFound),
        (AssignSizes(numbers, ("critical",) * 2, finishes=("77", "")), NotFound),
    ):
        with pytest.raises(kind):
            apply_edit(wrong, plan, SHOP)
