"""The ladder and the start list follow the plan, the machine and its register; a tick stands on its ground alone."""

from dataclasses import replace
from decimal import Decimal as D

import pytest

from ditto_run.core.edits import SetProgram, SetSetup, apply_edit
from ditto_run.core.errors import BadEntry, NotFound
from ditto_run.core.place.offsets import Offset
from ditto_run.core.program.choice import ProgramChoice
from ditto_run.core.prove import proof_items
from ditto_run.core.run import events as do
from ditto_run.core.run.events import Event, Now, decide
from ditto_run.core.run.fold import extend
from ditto_run.core.run.proven import ProofSoFar, proof_of
from ditto_run.core.shop import Ability, Machine
from tests.conftest import MILL, SHOP, CoreHand, planned

G54 = Offset("G54", {"x": D(-300), "y": D("-200.5")})


def words(machine: Machine | None = MILL, offsets: dict[str, Offset] | None = None) -> list[str]:
    plan = planned(stations="A")
    return [one.words for one in proof_items(plan, plan.all_cycles[0], machine, offsets or {})]


def test_only_what_applies_is_asked() -> None:
    mill, lathe = words(), words(replace(MILL, kind="lathe"))
    assert "Spindle lock off, wrench out of the drawbar." in mill
    assert "Chuck key out, nothing loose in the chuck." in lathe
    assert "Chuck key out, nothing loose in the chuck." not in mill
    assert "G54 set; the register does not have it." in mill
    assert "G54 looked at over a known feature." in words(offsets={"G54": G54})
    assert "T03 finish slot in its place, its length measured." in mill
    assert "Stop checked: stop." in mill
    hand = words(replace(MILL, kind="manual mill", ability=Ability(speeds_rpm=(D(80), D(500)))))
    assert hand[0] == "Dials and stops gone through once without cutting."
    assert "Belt or gear set for the first speed, lever home." in hand
    assert not any(one.startswith(("Homed", "Air cut", "G54")) for one in hand)


def test_the_program_that_was_chosen_is_named_with_its_seal() -> None:
    plan = planned(stations="A")
    choice = ProgramChoice(plan.all_cycles[0].key, "side.nc", "abc123", "mill-ngc")
    plan = apply_edit(SetProgram(choice), plan, SHOP).plan
    first = proof_items(plan, plan.all_cycles[0], MILL, {})[0]
    assert first.words == "The machine holds side.nc, seal abc123, and it was read."
    assert first.ground == "abc123"


class Prover:
    """A run whose list is ticked, with a machine and its register."""

    def __init__(self) -> None:
        self.hand, self.offsets = CoreHand(planned(12, stations="A")), {"G54": G54}

    def tick(self, item: str, note: str = "", *, waived: bool = False) -> None:
        hand = self.hand
        now = Now(hand.at, "RK", hand.draft, 2, MILL, self.offsets)
        body = decide(do.TickProof(item, note, waived), hand.state, now)
        hand.log.append(Event(len(hand.log) + 1, hand.at, "RK", f"t{len(hand.log)}", body))
        hand.state = extend(hand.state, hand.log[-1:], hand.log)

    def proof(self) -> ProofSoFar:
        return proof_of(self.hand.state, MILL, self.offsets)


def test_what_is_left_falls_with_each_tick_until_the_first_piece_is() -> None:
    there = Prover()
    proof = there.proof()
    assert proof.missing == ("first side",)
    assert len(proof.left) == len(proof.items)
    for one in proof.items:
        there.tick(one.item.key)
    proof = there.proof()
    assert (list(proof.left), proof.never, proof.count) == ([], 0, 1)  # the first piece
    there.hand.proven()
    assert there.proof().count == 0


def test_a_ground_that_moves_asks_that_alone_again_even_after_the_first_piece() -> None:
    there = Prover()
    for one in there.proof().items:
        there.tick(one.item.key)
    there.hand.proven()
    there.offsets = {"G54": replace(G54, axes={"x": D("-300.1"), "y": D("-200.5")})}
    (moved,) = there.proof().left
    assert moved.item.key == "offset G54"
    assert moved.moved
    there.tick("offset G54")
    assert there.proof().count == 0


def test_what_was_never_gone_through_is_counted_and_a_list_nobody_looked_at_is_passed_by() -> None:
    there, passed = Prover(), Prover()
    there.tick("homed")
    there.hand.proven()
    proof = there.proof()
    assert proof.count == proof.never == len(proof.items) - 1
    assert not proof.is_passed_by
    assert not passed.proof().is_passed_by
    passed.hand.proven()
    assert passed.proof().is_passed_by
    assert passed.proof().count == 0


def test_it_is_left_out_with_a_sentence_only_and_taken_back_by_undo() -> None:
    there = Prover()
    with pytest.raises(BadEntry):
        there.tick("air", " ", waived=True)
    with pytest.raises(NotFound):
        there.tick("prayer")
    there.tick("air", "cut yesterday", waived=True)
    mark = there.hand.state.here.proof["air"]
    assert (mark.note, mark.waived) == ("cut yesterday", True)
    there.hand.do(do.Undo())
    assert there.hand.state.here.proof == {}


def test_a_setup_says_its_torque_parallels_and_way_round() -> None:
    plan = planned(stations="A")
    setup = plan.setups[0]
    edit = SetSetup(
        setup.name,
        1,
        "vises",
        "stop",
        key=setup.key,
        torque="30 N·m",
        parallels="12",
        proof="the pin at the left",
    )
    plan = apply_edit(edit, plan, SHOP).plan
    said = [one.words for one in proof_items(plan, plan.all_cycles[0], MILL, {})]
    assert "Tightened to 30 N·m." in said
    assert "Parallels of 12.0 mm (0.47 in) under the piece, none loose when it is tight." in said
    assert "Cannot be loaded the wrong way round: the pin at the left." in said


def test_gauges_of_critical_sizes_are_tried_and_a_vises_jaw_is_swept() -> None:
    plan = planned()
    vised = replace(plan, setups=(replace(plan.setups[0], holds="two vises"),))
    keys = {one.key: one.words for one in proof_items(vised, vised.all_cycles[0], MILL, {})}
    assert keys["gauge 1"] == "Gauge of the slot tried on its master, read from both sides, repeated."
    assert "gauge 2" not in keys  # the height is not critical
    assert any(key.startswith("true ") for key in keys)
    assert any(key.startswith("push ") for key in keys)
    lathe = {one.key for one in proof_items(vised, vised.all_cycles[0], replace(MILL, kind="lathe"), {})}
    assert not any(key.startswith(("true ", "push ")) for key in lathe)
