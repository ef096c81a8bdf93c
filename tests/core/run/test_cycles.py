"""What one press of start cuts: unlike stations, both sides together, one setup on two machines, several parts."""

from dataclasses import replace
from datetime import timedelta

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from ditto_run.core.close import report
from ditto_run.core.edits import (
    AddPart,
    PlanRegisters,
    RemoveCycle,
    SetCharacteristic,
    SetCycle,
    SetSetup,
    SetStation,
    SetToolStep,
    apply_edit,
)
from ditto_run.core.errors import BadEntry, NotFound, NotNow
from ditto_run.core.part import Heading
from ditto_run.core.plan import Plan
from ditto_run.core.plan.open import balance_findings
from ditto_run.core.run import Event, Now, decide, extend
from ditto_run.core.run import events as do
from ditto_run.core.run.board import board
from ditto_run.core.run.due import due_pieces
from ditto_run.core.run.loads import finished, finished_of, next_load, to_go
from ditto_run.core.run.strip import build
from ditto_run.core.run.where import Handled
from ditto_run.core.shop import Machine, read_codes
from ditto_run.web.drawings import draw_hands, hands_say
from tests.conftest import MILL, CoreHand

LATHES = {n: Machine(n, f"Lathe {n - 9}", "lathe") for n in (10, 11)}
SHOP = PlanRegisters({1: MILL, 3: Machine(3, "Mill 3", "mill", read_codes("G54-G59")), **LATHES})


def changed(plan: Plan, *edits: object) -> Plan:
    for edit in edits:
        plan = apply_edit(edit, plan, SHOP).plan
    return plan


def bracket(quantity: int = 8) -> Plan:
    """A bracket in two sides, each with a size, 60 s a side; the second side has a tap of 30 s."""
    plan = changed(
        Plan(Heading("Stay bracket, left", quantity, "mm")),
        SetCharacteristic("depth", "6 ±0.05", "critical"),
        SetCharacteristic("height", "20 ±0.05", "critical"),
        SetSetup("first side", 1, "vise", handling="30"),
        SetSetup("second side", 1, "vise", handling="30"),
    )
    first, second = (setup.key for setup in plan.setups)
    depth, height = plan.characteristics
    plan = replace(plan, characteristics=(replace(depth, setup=first), replace(height, setup=second)))
    return changed(
        plan,
        SetToolStep(first, 3, "mill", "60", "10"),
        SetToolStep(second, 3, "mill", "60", "10"),
        SetToolStep(second, 8, "tap", "30", "10"),
    )


def both_sides(quantity: int = 8) -> Plan:
    """First side in A and B, second in C, one press of start."""
    plan = bracket(quantity)
    first, second = (setup.key for setup in plan.setups)
    return changed(
        plan,
        SetStation(first, "A", "vise 1", "G54"),
        SetStation(first, "B", "vise 2", "G55"),
        SetStation(second, "C", "vise 3", "G56"),
        SetCycle("both sides", (f"{first}:A", f"{first}:B", f"{second}:C")),
    )


def two_parts(quantity: int = 4, other: int = 4) -> Plan:
    """Left and right, each with a first side only in a vise of its own; the right one has a tap."""
    plan = changed(
        Plan(Heading("Stay bracket, left", quantity, "mm")),
        SetCharacteristic("depth", "6 ±0.05", "critical"),
        SetSetup("left side", 1, "vise", handling="30"),
    )
    key = plan.setups[0].key
    plan = changed(
        plan,
        SetStation(key, "A", "vise 1", "G54"),
        SetToolStep(key, 3, "mill", "60", "10"),
        AddPart("Stay bracket, right", other, like=True),
    )
    right = plan.seen_from(2)
    key2 = right.setups[0].key
    right = changed(
        right,
        SetStation(key2, "B", "vise 2", "G55", was="A"),
        SetToolStep(key2, 8, "tap", "30", "10"),
        SetCycle("both brackets", (f"{key}:A", f"{key2}:B")),
    )
    return right.seen_from(1)


def seats(loads) -> list[tuple[str, tuple[int, ...]]]:
    return [(loaded.station, loaded.pieces) for loaded in loads]


# the plan


def test_setups_are_cut_alone_until_somebody_puts_them_together() -> None:
    plan = bracket()
    first, second = (setup.key for setup in plan.setups)
    plan = changed(plan, SetStation(first, "A", offset="G54"))
    assert [(c.key, c.declared, [s.label for s in c.stations]) for c in plan.all_cycles] == [
        (first, False, ["A"]),
        (second, False, []),
    ]
    (cycle,) = both_sides().all_cycles
    assert (cycle.name, cycle.setups, cycle.machine_id) == ("both sides", (first, second), 1)
    assert [s.label for s in cycle.stations] == ["A", "B", "C"]
    apart = changed(both_sides(), RemoveCycle(cycle.key))
    assert [c.key for c in apart.all_cycles] == [first, second]


def test_the_time_of_a_cycle_by_hand() -> None:
    """A and B 60 s each, C 60 and 30 s; T03 goes round all stations with one change of 10 s, T08 one; 3 × 30 s of hands."""
    (cycle,) = both_sides().all_cycles
    times = both_sides().times(cycle.key)
    assert times.cycle_s == pytest.approx(2 * 60 + 10 + 60 + 30 + 10)
    assert times.load_to_load_s == pytest.approx(230 + 90)
    tapped = two_parts().times(two_parts().all_cycles[0].key)
    assert tapped.cycle_s == pytest.approx(60 + 10 + 60 + 30 + 10)  # the tap costs at B alone


@pytest.mark.parametrize(
    ("at_once", "cycle_s"), [("1", 4 * 60 + 20), ("0", 60 + 20), ("4", 60 + 20), ("3", 120 + 20)]
)
def test_a_time_is_for_a_piece_a_strip_or_a_load(at_once, cycle_s) -> None:
    plan = bracket()
    key = plan.setups[0].key
    plan = changed(plan, SetStation(key, "A", offset="G54", pieces=4), SetToolStep(key, 5, "gang mill", "60", "20", at_once=int(at_once)))  # fmt: skip
    plan = replace(plan, tool_steps=plan.tool_steps[-1:])
    assert plan.times(key).cycle_s == cycle_s


@pytest.mark.parametrize(
    ("edit", "field"),
    [
        ({"name": ""}, "name"),
        ({"seats": ()}, "seats"),
        ({"seats": ("99:A",)}, "seats"),
        ({"name": "both sides", "key": None}, "name"),
    ],
)
def test_a_cycle_that_cannot_be_is_refused_at_its_field(edit, field) -> None:
    plan = both_sides()
    first = plan.setups[0].key
    with pytest.raises(BadEntry) as refused:
        changed(plan, SetCycle(**({"name": "one", "seats": (f"{first}:A",)} | edit)))
    assert refused.value.field == field


def test_stations_that_are_cut_together_have_letters_and_zeros_of_their_own() -> None:
    plan = bracket()
    first, second = (setup.key for setup in plan.setups)
    plan = changed(plan, SetStation(first, "A", offset="G54"), SetStation(second, "A", offset="G55"))
    with pytest.raises(BadEntry, match="a station A already"):
        changed(plan, SetCycle("both", (f"{first}:A", f"{second}:A")))
    same = changed(plan, SetStation(second, "B", offset="G54", was="A"))
    with pytest.raises(BadEntry, match="same zero"):
        changed(same, SetCycle("both", (f"{first}:A", f"{second}:B")))
    other = changed(
        plan, SetSetup("second side", 3, "vise", key=second), SetStation(second, "B", offset="G55", was="A")
    )
    together = SetCycle("both", (f"{first}:A", f"{second}:B"))
    with pytest.raises(BadEntry, match="different machines"):
        changed(other, together)
    assert changed(other, replace(together, machine_id=3)).cycle(other.next_number).machine_id == 3
    with pytest.raises(NotFound):
        changed(plan, SetCycle("both", (f"{first}:A",), machine_id=77))
    both = both_sides()
    with pytest.raises(BadEntry, match="same zero"):  # and it stays so when one is changed later
        changed(both, SetStation(both.setups[1].key, "C", offset="G54", was="C"))


@pytest.mark.parametrize(
    ("at_a", "at_c", "said"),
    [
        (2, 1, "both sides: first side makes 4 a load and second side takes 1, so pieces pile up before"),
        (1, 2, ""),
        (
            1,
            3,
            "both sides: first side makes 2 a load and second side takes 3, so second side is often not full",
        ),
    ],
)
def test_sides_that_are_cut_together_hand_on_as_many_as_they_get(at_a, at_c, said) -> None:
    plan = both_sides()
    at = {"A": at_a, "B": at_a, "C": at_c}
    plan = replace(plan, stations=tuple(replace(s, pieces=at[s.label]) for s in plan.stations))
    found = [f.problem for f in balance_findings(plan, plan.all_cycles[0])]
    assert [text[: len(said)] for text in found] == ([said] if said else [])


def test_a_part_like_this_one_has_numbers_of_its_own() -> None:
    plan = two_parts()
    right = plan.seen_from(2)
    assert (right.heading.part, right.heading.quantity, right.part) == ("Stay bracket, right", 4, 2)
    numbers = [c.number for c in plan.all_characteristics]
    assert len(set(numbers)) == len(numbers) == 2
    assert plan.part_of(right.setups[0].key) == 2
    assert right.seen_from(1) == plan
    assert plan.title == "Stay bracket, left + right"
    with pytest.raises(BadEntry, match="already"):
        changed(plan, AddPart("stay bracket, RIGHT", 3))


# the run


def test_first_and_second_side_fill_up_and_run_empty() -> None:
    """New blanks in A and B; what A and B made goes to C, one a load; then C alone until all are through."""
    hand = CoreHand(both_sides(4))
    assert seats(next_load(hand.state)) == [("A", (1,)), ("B", (2,))]
    hand.do(do.StartCycle(), do.EndCycle())
    hand.do(do.TakeReading(1, 1, "6.00"), do.AcceptMaster(1), do.TakeReading(2, 1, "6.01"))
    assert seats(next_load(hand.state)) == [("A", (3,)), ("B", (4,)), ("C", (1,))]
    hand.do(do.StartCycle(), do.EndCycle())
    with pytest.raises(NotNow, match="first piece of second side"):
        hand.do(do.StartCycle())
    hand.do(do.TakeReading(1, 2, "20.00"), do.AcceptMaster(1))
    hand.do(do.TakeReading(3, 1, "6.00"), do.TakeReading(4, 1, "6.00"))
    assert hand.state.here.masters == {hand.state.plan.setups[0].key: 1, hand.state.plan.setups[1].key: 1}
    for piece in (2, 3, 4):
        assert seats(next_load(hand.state)) == [("C", (piece,))]
        hand.do(do.StartCycle(), do.EndCycle(), do.TakeReading(piece, 2, "20.01"))
    assert next_load(hand.state) == ()
    assert finished(hand.state) == 4
    assert to_go(hand.state) == 0
    hand.do(do.CloseRun())
    found = report(hand.state)
    assert (found.good, found.wanted) == (4, 4)
    assert found.pieces[1].made == ((1, 1, "B"), (2, 3, "C"))


def test_each_side_is_asked_for_on_its_own_first_piece() -> None:
    hand = CoreHand(both_sides(4))
    hand.do(do.StartCycle(), do.EndCycle())
    shown = board(hand.state, hand.at)
    assert shown.call.say == "Gauge the depth on piece 1."
    assert shown.due == (1,)
    hand.do(do.TakeReading(1, 1, "6.00"), do.AcceptMaster(1), do.StartCycle(), do.EndCycle())
    due = board(hand.state, hand.at).due
    assert 1 in due  # its second side
    assert [line.characteristic.name for line in board(hand.state, hand.at, piece=1).lines] == [
        "depth",
        "height",
    ]


def test_the_strip_begins_where_its_first_piece_comes() -> None:
    hand = CoreHand(both_sides(4))
    strip = build(hand.state)
    assert strip.lanes == ("A", "B", "C")
    come = {lane: sorted(load for (one, load) in strip.marks if one == lane) for lane in strip.lanes}
    assert come == {"A": [1, 2], "B": [1, 2], "C": [2, 3, 4, 5]}
    assert strip.last == 5


def test_two_machines_run_the_same_setup_at_once() -> None:
    """Two lathes, each with its own stream of sizes, loads and clock; a third start on a busy one is refused."""
    plan = changed(
        Plan(Heading("Pin", 5, "mm")),
        SetCharacteristic("shank", "12 ±0.05", "critical"),
        SetSetup("turn", 10, "collet"),
    )
    key = plan.setups[0].key
    plan = changed(
        plan,
        SetStation(key, "L"),
        SetStation(key, "R"),
        SetToolStep(key, 1, "turn", "60", "10"),
        SetToolStep(key, 2, "turn on lathe 2", "90", "10", stations=("R",)),
        SetCycle("Lathe 1", (f"{key}:L",)),
        SetCycle("Lathe 2", (f"{key}:R",), machine_id=11),
    )
    one, two = (cycle.key for cycle in plan.all_cycles)
    assert (plan.times(one).cycle_s, plan.times(two).cycle_s) == (70, 170)
    hand = CoreHand(plan)
    hand.do(do.OpenSetup(two, "marked"))
    started = decide(do.StartCycle(), hand.state.at(one), Now(hand.at, "RK"))
    assert (started.machine, started.cycle, started.stations[0].pieces) == (10, one, (1,))
    hand.do(do.StartCycle())  # on the second lathe
    assert seats(hand.state.here.running.stations) == [("R", (1,))]
    at = hand.at + timedelta(minutes=1)

    def record(command: do.Command, cycle: int) -> None:
        body = decide(command, hand.state.at(cycle), Now(at, "TB"))
        hand.log.append(Event(len(hand.log) + 1, at, "TB", f"t{len(hand.log)}", body))
        hand.state = extend(hand.state, hand.log[-1:], hand.log)

    record(do.StartCycle(), one)
    assert [run.running.pieces for run in hand.state.cycles.values()] == [(2,), (1,)]
    with pytest.raises(NotNow, match="Load 1 is cutting"):
        record(do.StartCycle(), one)
    record(do.EndCycle(confirm="1"), one)
    assert hand.state.cycles[two].running is not None  # the other goes on
    record(do.TakeReading(2, 1, "12.0"), one)
    record(do.AcceptMaster(2), one)
    assert [run.master for run in hand.state.cycles.values()] == [2, None]
    record(do.Adjust("T01 wear", "0.01"), one)
    assert [len(run.changes) for run in hand.state.cycles.values()] == [1, 0]


def test_two_cycles_cannot_cut_on_one_machine_at_once() -> None:
    plan = bracket(4)
    first, second = (setup.key for setup in plan.setups)
    plan = changed(plan, SetStation(first, "A", offset="G54"), SetStation(second, "B", offset="G55"))
    hand = CoreHand(plan)
    hand.do(do.StartCycle(), do.EndCycle(), do.TakeReading(1, 1, "6.0"), do.AcceptMaster(1))
    hand.do(do.OpenSetup(second, "marked"), do.StartCycle())
    with pytest.raises(NotNow, match="cutting on the same machine"):
        decide(do.StartCycle(), hand.state.at(first), Now(hand.at, "RK"))


def test_left_and_right_are_counted_as_what_they_are() -> None:
    hand = CoreHand(two_parts(2, 3))
    depth, other = (c.number for c in hand.state.plan.all_characteristics)
    assert [(x.station, x.pieces, x.part) for x in next_load(hand.state)] == [("A", (1,), 1), ("B", (2,), 2)]
    hand.do(do.StartCycle(), do.EndCycle())
    assert (hand.state.pieces[1].part, hand.state.pieces[2].part) == (1, 2)
    with pytest.raises(NotNow, match="gauged in another setup"):
        hand.do(do.TakeReading(1, other, "6.0"))
    hand.do(do.TakeReading(1, depth, "6.0"), do.AcceptMaster(1))
    hand.do(do.TakeReading(2, other, "6.0"), do.AcceptMaster(2))
    hand.do(
        do.StartCycle(),
        do.EndCycle(),
        do.TakeReading(3, depth, "6.0"),
        do.TakeReading(4, other, "6.2", confirm="6.2"),
    )
    assert hand.state.by_part[2]["held"] == 1
    assert hand.state.by_part[1]["good"] == 2
    assert seats(next_load(hand.state)) == [("B", (5,))]  # two right ones are still to begin, one is held
    assert (finished_of(hand.state, 1), finished_of(hand.state, 2)) == (2, 1)
    hand.do(do.Dispose(4, "scrap", "too deep"))
    assert to_go(hand.state) == 2
    for piece in (5, 6):
        hand.do(do.StartCycle(), do.EndCycle(), do.TakeReading(piece, other, "6.0"))
    hand.do(do.CloseRun())
    found = report(hand.state)
    assert (found.wanted, found.good, found.counts) == (5, 5, {"good": 5, "scrap": 1})


def test_a_setup_that_is_only_cut_with_others_is_opened_with_them() -> None:
    hand = CoreHand(both_sides())
    with pytest.raises(NotNow, match="second side is cut in both sides"):
        hand.do(do.OpenSetup(hand.state.plan.setups[1].key))


def test_a_part_without_a_size_or_a_setup_cannot_be_run() -> None:
    plan = changed(bracket(), AddPart("Cap", 4))
    plan = changed(plan, SetStation(plan.setups[0].key, "A", offset="G54"))
    with pytest.raises(NotNow, match="no setup of Cap"):
        CoreHand(plan)


# any cycles: nothing lost, nothing twice, sides in their order, and it always ends


@st.composite
def jobs(draw) -> Plan:
    """One or two parts of one to three setups, their stations put into cycles anyhow."""
    plan = Plan(Heading("Part 1", draw(st.integers(1, 6)), "mm"))
    parts = draw(st.integers(1, 2))
    for part in range(1, parts + 1):
        if part > 1:
            plan = changed(plan, AddPart(f"Part {part}", draw(st.integers(1, 6)))).seen_from(part)
        plan = changed(plan, SetCharacteristic("size", "6 ±0.05"))
        for n in range(draw(st.integers(1, 3))):
            plan = changed(plan, SetSetup(f"side {n}", 1))
        plan = plan.seen_from(1)
    label = iter("ABCDEFGHIJKLMNOP")
    seats_: list[str] = []
    for part in range(1, parts + 1):
        view = plan.seen_from(part)
        for setup in view.setups:
            for _ in range(draw(st.integers(1, 2))):
                name = next(label)
                view = changed(view, SetStation(setup.key, name, pieces=draw(st.integers(1, 2))))
                seats_.append(f"{setup.key}:{name}")
        plan = view.seen_from(1)
    for n in range(draw(st.integers(0, 2))):
        mine = draw(st.lists(st.sampled_from(seats_), min_size=1, unique=True))
        plan = changed(plan, SetCycle(f"cycle {n}", tuple(mine)))
    return plan


@given(jobs(), st.data())
@settings(max_examples=150, deadline=None, suppress_health_check=[HealthCheck.too_slow])
def test_no_piece_is_lost_or_doubled_whatever_is_cut_together(plan, data) -> None:
    hand = CoreHand(plan)
    for _ in range(200):
        state = hand.state
        able = [c.key for c in plan.all_cycles if c.stations]
        ready = [key for key in able if key in state.cycles and next_load(state.at(key))]
        unopened = [key for key in able if key not in state.cycles]
        if unopened and (not ready or data.draw(st.booleans())):
            hand.do(do.OpenSetup(unopened[0], "marked"))
            continue
        if not ready:
            break
        key = data.draw(st.sampled_from(ready))
        if key != state.cycle:
            hand.do(do.OpenSetup(key, "marked"))
        before = {n: list(p.made) for n, p in hand.state.pieces.items()}
        hand.do(do.StartCycle())
        load = hand.state.here.running
        assert len(set(load.pieces)) == len(load.pieces)
        assert not set(due_pieces(hand.state)) & set(load.pieces)  # nobody gauges what is being cut
        for loaded in load.stations:
            chain = plan.chain_of(loaded.part)
            for number in loaded.pieces:
                been = before.get(number, [])
                assert tuple(been) == chain[: len(been)]
                assert chain[len(been)] == load.setup_of(loaded)
                assert hand.state.pieces[number].part == loaded.part
        hand.do(do.EndCycle(confirm=str(load.number)))
        for number in load.pieces:
            piece = hand.state.pieces[number]
            for c in hand.state.missing(piece):
                hand.do(do.TakeReading(number, c.number, "6.0"))
        for setup in hand.state.here.setups:
            first = [n for n in load.pieces if setup in hand.state.setups_here(hand.state.pieces[n])]
            if first and setup not in hand.state.here.masters:
                hand.do(do.AcceptMaster(first[0]))
    state = hand.state
    for one in plan.all_parts:
        mine = [p for p in state.pieces.values() if p.part == one.key]
        assert len(mine) == one.plan.heading.quantity
        assert all(tuple(p.made) == plan.chain_of(one.key) for p in mine)
        assert sum(state.by_part[one.key].values()) == len(mine)
    assert sum(state.counts.values()) == len(state.pieces) == finished(state) == plan.wanted


# the words at the machine


def test_what_goes_where_is_said_in_the_order_of_the_hands() -> None:
    hand = CoreHand(both_sides(4))
    shown = board(hand.state, hand.at)
    assert (shown.call.say, shown.call.why) == (
        "Load A, B, then start load 1.",
        "New blanks in A and B.",
    )
    hand.do(do.StartCycle(), do.EndCycle(), do.TakeReading(1, 1, "6.0"))
    assert board(hand.state, hand.at).call.why == "What first side makes after it is compared with it."
    hand.do(do.AcceptMaster(1), do.TakeReading(2, 1, "6.0"))
    assert board(hand.state, hand.at).call.why == "Piece 1 from A to C, new blanks in A and B."
    hand.do(do.StartCycle(), do.EndCycle())
    assert board(hand.state, hand.at, piece=1).call.why == "From station C, load 2, second side."


def test_the_parts_of_a_job_are_told_apart_by_what_their_names_do_not_share() -> None:
    hand = CoreHand(two_parts())
    assert board(hand.state, hand.at).call.why == "New left in A, new right in B."
    assert changed(bracket(), AddPart("Cap", 3)).part_names == {1: "Stay bracket, left", 2: "Cap"}
    assert changed(bracket(), AddPart("Cap", 3)).title == "Stay bracket, left + Cap"
    assert bracket().part_names == {1: "Stay bracket, left"}


def test_what_the_hands_do_at_each_station_between_two_loads() -> None:
    hand = CoreHand(both_sides(4))
    assert board(hand.state, hand.at).hands == (Handled("A", new=(1,)), Handled("B", new=(2,)))
    hand.do(do.StartCycle())
    assert board(hand.state, hand.at).hands == ()  # nothing is handled while it cuts
    hand.do(do.EndCycle(), do.TakeReading(1, 1, "6.0"), do.AcceptMaster(1), do.TakeReading(2, 1, "6.0"))
    assert board(hand.state, hand.at).hands == (
        Handled("A", new=(3,)),  # piece 1 is not out: it goes on to C
        Handled("B", new=(4,), out=(2,)),
        Handled("C", over=(1,), came_from="A"),
    )
    said = hands_say(board(hand.state, hand.at).hands)
    assert said == "A: new, 3; B: 2 out, new, 4; C: 1 in from A."
    drawn = draw_hands(board(hand.state, hand.at).hands, 510)
    assert "1 goes on" in drawn
    assert "2 out" in drawn
    assert draw_hands([Handled(str(n)) for n in range(9)], 510) == ""  # too many: in words alone


def test_stations_that_are_alike_need_no_picture_of_what_goes_where() -> None:
    plan = bracket()
    plan = changed(plan, SetStation(plan.setups[0].key, "A"))
    assert board(CoreHand(plan).state, CoreHand(plan).at).hands == ()
