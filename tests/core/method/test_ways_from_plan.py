"""A way that the plan describes: filled from setups, stations and tools, following them, until somebody types over it."""

from dataclasses import replace

import pytest

from ditto_run.core.edits import (
    AddWays,
    ChooseWay,
    PlanRegisters,
    SetSetup,
    SetToolStep,
    SetWay,
    apply_edit,
)
from ditto_run.core.errors import BadEntry
from ditto_run.core.method import Way, piece_times
from ditto_run.core.method.order import OPERATIONS
from ditto_run.core.plan import Plan, ShopKnown, known_of
from ditto_run.core.plan.ways import WaySays, followed, planned_times, ways_now
from ditto_run.core.shop.taught import Taught
from tests.conftest import SHOP, planned

PACE = Taught("pace", 1.25, 2, 96, "several-up", "Mill 2", "", ("3/1", "5/1"))
HANDLING = Taught("handling", 33.0, 1, 48, "planned", "Mill 2", "", ("3/1",))
SETTING = Taught("setting up", 2400.0, 3, 48, "planned", "Mill 2", "", ())
SCRAP = Taught("scrap", 2.5, 1, 40, "planned", "Mill 2", "6061-T6", ())
LEARNED = replace(SHOP, taught=(PACE, HANDLING, SETTING, SCRAP), rates={"Labour": 4200, "Mill 2": 3800})


def with_way(plan: Plan, shop: PlanRegisters = SHOP, *kinds: str) -> Plan:
    return apply_edit(AddWays(kinds or ("planned",)), plan, shop).plan


def now(plan: Plan, shop: PlanRegisters = SHOP) -> Way:
    says = WaySays(plan, ShopKnown(shop.machines, taught=shop.taught, rates=shop.rates))
    return ways_now(says)[0]


def typed(way: Way, **over: str) -> SetWay:
    """The form of a way as it is sent back, with some fields typed over."""
    texts = {
        name: getattr(way, name).text
        for name in ("load", "locate", "cut", "unload", "deburr", "gauge", "per_load")
    }
    return replace(
        SetWay(
            way.name,
            way.kind,
            tuple(line.what for line in way.ready),
            tuple(line.time.text for line in way.ready),
            ready_lasting=tuple("yes" if line.lasting else "no" for line in way.ready),
            trials=str(way.trials),
            pieces_per_load=str(way.pieces_per_load),
            attended=way.attended,
            machine_id=way.machine_id,
            key=way.key,
            **texts,
        ),
        **over,  # type: ignore[arg-type]
    )


def test_what_the_plan_says_worked_by_hand() -> None:
    """Three stations, one tool: cut 60 s each, 20 s of changes a load, handling 45 s a piece."""
    (times,) = planned_times(planned())
    assert (times.cut_s, times.handling_s, times.pieces) == (60, 45, 3)
    assert times.change_s == pytest.approx(20 / 3)
    way = now(with_way(planned()))
    assert (way.cut.text, way.per_load.text, way.load.text, way.pieces_per_load) == (
        "1:00",
        "0:20",
        "0:45",
        3,
    )
    assert [line.what for line in way.ready] == ["setting up 1", "programming", "tooling"]
    assert way.rest_of("cut").of == "Tools"
    assert way.attended == "start and stop"  # Mill 2 has a control
    cycle = planned().times(planned().setups[0].key)
    on_machine = piece_times(replace(way, attended="runs alone")).machine_s
    assert on_machine == pytest.approx(cycle.per_piece_s)


def test_a_setup_without_a_time_makes_no_way_and_says_what_is_wanted() -> None:
    plan = apply_edit(SetSetup("second side", 1, "vise", "stop", "45"), planned(), SHOP).plan
    assert planned_times(plan) == ()
    with pytest.raises(BadEntry) as caught:
        with_way(plan)
    assert caught.value.field == "kinds"
    assert "tools and their times" in caught.value.remedy


def test_it_follows_the_plan_until_it_is_typed_over() -> None:
    plan = with_way(planned())
    step = plan.tool_steps[0]
    slower = apply_edit(SetToolStep(step.setup, 3, "finish slot", "90", "20", key=step.key), plan, SHOP).plan
    assert now(slower).cut.text == "1:30"
    over = apply_edit(typed(now(slower), cut="2:00"), slower, SHOP).plan
    back = apply_edit(SetToolStep(step.setup, 3, "finish slot", "60", "20", key=step.key), over, SHOP).plan
    assert now(back).cut.text == "2:00"
    assert now(back).rest_of("cut") is None
    assert now(back).rest_of("load").origin == "computed"  # what was sent back as it was still follows


def test_the_shops_own_figures_go_before_usual_ones() -> None:
    way = now(with_way(planned(), LEARNED), LEARNED)
    assert way.cut.text == "1:15"  # 60 s × 1.25
    assert way.rest_of("cut").of == "Tools, 1.25 times by 2 batches"
    assert (way.load.text, way.rest_of("load").origin) == ("0:33", "learned")
    assert (way.ready[0].time.text, way.rest_of("ready").of) == ("40:00", "3 batches")
    assert (way.labour_cents, way.machine_cents) == (4200, 3800)
    assert way.rest_of("machine_cents").origin == "register"
    assert way.rest_of("scrap") is None  # learned of another material


def test_usual_ways_take_the_rates_of_the_shop_but_not_times_of_other_ways() -> None:
    plan = with_way(planned(), LEARNED, "soft-jaws", "buy")
    first, bought = plan.ways
    assert (first.load.text, first.rest_of("load").origin) == ("0:20", "practice")
    assert (first.labour_cents, bought.labour_cents) == (4200, 0)


def test_a_choice_expects_what_the_way_is_now() -> None:
    plan = with_way(planned())
    step = plan.tool_steps[0]
    slower = apply_edit(SetToolStep(step.setup, 3, "finish slot", "90", "20", key=step.key), plan, SHOP).plan
    chosen = apply_edit(ChooseWay(plan.ways[0].key, "It is set up."), slower, SHOP).plan
    assert chosen.choice.piece_s == pytest.approx(piece_times(now(slower)).elapsed_s)


def test_setting_up_is_by_setup_where_it_has_a_line_for_each() -> None:
    plan = apply_edit(SetSetup("second side", 1, "vise", "stop", "45"), planned(), SHOP).plan
    plan = apply_edit(SetToolStep(plan.setups[1].key, 4, "face", "30", "20"), plan, SHOP).plan
    plan = with_way(plan)
    way = now(plan)
    assert [line.what for line in way.ready if line.is_setting_up] == ["setting up 1", "setting up 2"]
    apart = apply_edit(
        typed(way, ready_time=("20 min", "50 min", "40 min", "15 min")),  # type: ignore[arg-type]
        plan,
        SHOP,
    ).plan
    chosen = apply_edit(ChooseWay(way.key, "So."), apart, SHOP).plan
    assert [operation.change_s for operation in known_of(chosen).of(OPERATIONS)] == [1200, 3000]


def test_a_way_without_anything_computed_is_left_alone() -> None:
    way = Way(1, "vise")
    assert followed(way, WaySays(planned(), ShopKnown())) is way
