"""Loading, thing by thing: made from the plan and what sits where; taps counted; a loss holds what was cut by it."""

from dataclasses import replace

from ditto_run.core.edits import SetToolStep, apply_edit
from ditto_run.core.run import events as do
from ditto_run.core.run.ritual import ritual, tapped
from ditto_run.core.shop import Machine
from tests.conftest import MILL, SHOP, CoreHand, planned

LATHE = Machine(1, "Lathe 1", "lathe")


def hand(holds: str = "vise", torque: str = "30 N·m", does: str = "", stop: str = "left stop") -> CoreHand:
    plan = planned(12, stations="AB")
    key = plan.setups[0].key
    if does:
        plan = apply_edit(SetToolStep(key, 5, does, "20", "10"), plan, SHOP).plan
    setup = replace(plan.setups[0], holds=holds, torque=torque, stop=stop, proof="the chamfer to the back")
    return CoreHand(replace(plan, setups=(setup,)))


def test_each_station_is_loaded_in_the_order_of_the_hands() -> None:
    said = ritual(hand().state, MILL)
    assert said[:4] == (
        "A: chips off the seat and what holds.",
        "A: 1 in, against left stop.",
        "A: the right way round: the chamfer to the back.",
        "A: tight, 30 N·m; seated down, the gap felt.",
    )
    assert said[4].startswith("B: ")
    assert said[-1] == "Door shut, the right program on, its first line."


def test_what_comes_off_goes_out_first_and_nothing_is_said_while_it_cuts() -> None:
    there = hand().proven()
    assert ritual(there.state, MILL)[0] == "A: 1 out, edges broken, into its place in the tray."
    there.do(do.StartCycle())
    assert ritual(there.state, MILL) == ()


def test_vacuum_is_looked_at_and_a_chuck_key_is_out() -> None:
    said = ritual(hand("vacuum plate").state, MILL)
    assert "A: vacuum up, its reading looked at." in said
    assert not any("vacuum" in one for one in ritual(hand().state, MILL))
    assert "Chuck key out, everything clear of what turns." in ritual(hand("collet").state, LATHE)


def test_a_tap_is_counted_since_it_was_changed() -> None:
    there = hand(does="tap M4 blind").proven()
    step = there.state.plan.tools_of(there.state.here.setups[0])[-1]
    for _ in range(2):
        there.do(do.StartCycle(), do.EndCycle())
    assert tapped(there.state, step) == 6
    assert any("6 pieces since it was new" in one for one in ritual(there.state, MILL))
    there.do(do.ChangeSetting(f"{step.name} new tap", "", ""), do.StartCycle(), do.EndCycle())
    assert tapped(there.state, step) == 2


def test_a_loss_holds_the_load_that_is_cut_and_lets_nothing_else_go() -> None:
    there = hand("vacuum plate").proven()
    there.do(do.StartCycle(), do.WriteStop("vacuum fell to 0.3 bar", lost=True))
    assert [p.number for p in there.state.pieces.values() if p.hold_reason] == [3, 4]
    assert "Held: 3" in do.sentence(there.log[-1].body, there.state, len(there.log))
    there.do(do.Undo())
    assert not any(p.hold_reason for p in there.state.pieces.values())
    there.do(do.EndCycle(), do.Dispose(3, "scrap", "thrown"), do.WriteStop("vacuum fell", lost=True))
    assert [p.number for p in there.state.pieces.values() if p.hold_reason] == [4]
