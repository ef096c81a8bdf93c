"""The batch on the floor before the first cut; figures by hand where chance is taken out, else what has to hold."""

from dataclasses import replace
from itertools import pairwise

import pytest

from ditto_run.core.edits import SetSetup, SetStation, SetToolStep
from ditto_run.core.errors import NotNow
from ditto_run.core.method.minding import Minded, go_round
from ditto_run.core.plan import Plan, ShopKnown
from ditto_run.core.rehearse import floor
from ditto_run.core.rehearse.floor import Floor, play_floor
from ditto_run.core.shop import Machine
from ditto_run.core.shop.shop_tools import Lasting, ShopTool
from tests.conftest import MILL, planned
from tests.core.run.test_cycles import SHOP as REGISTERS
from tests.core.run.test_cycles import both_sides, bracket, changed

KNOWN = ShopKnown(machines=REGISTERS.machines)


@pytest.fixture
def steady(monkeypatch: pytest.MonkeyPatch) -> None:
    """Hands that always take the same."""
    monkeypatch.setattr(floor, "SPREAD", 0.0)


def on_two_mills(quantity: int = 8) -> Plan:
    """First side on Mill 2, second on Mill 3, a vise each."""
    plan = bracket(quantity)
    first, second = (setup.key for setup in plan.setups)
    return changed(
        plan,
        SetSetup("second side", 3, "vise", handling="30", key=second),
        SetStation(first, "A", "vise 1", "G54"),
        SetStation(second, "A", "vise 1", "G54"),
    )


def alone(quantity: int = 12, cut: str = "60", handling: str = "45") -> Plan:
    plan = planned(quantity)
    key = plan.setups[0].key
    step = plan.tools_of(key)[0]
    return changed(
        plan,
        SetSetup("first side", 1, "vises", "stop", handling, key=key),
        SetToolStep(key, 3, "finish slot", cut, "20", key=step.key),
    )


@pytest.mark.usefixtures("steady")
def test_one_machine_takes_its_loads_one_after_another() -> None:
    """4 loads of 3: each 3 × 45 s of hands and 3 × 60 + 20 s of cutting; two sizes of the first piece, 40 s, before the second load.

    From the second load on the three pieces are gauged while the next is cut, and the last is gauged after the end.
    """
    found = play_floor(alone(), KNOWN)
    assert [(job.loads, job.cut_s, job.hands_s) for job in found.cycles] == [(4, 200.0, 135.0)]
    ends = max(span.end for span in found.spans if span.doing == "cuts")
    assert found.low_s == found.likely_s == found.high_s
    gauged = max(span.end for span in found.spans if span.doing == "gauges")
    assert gauged == found.likely_s
    assert ends == pytest.approx(4 * (200 + 135) + 40 + 2 * 0)
    assert found.spent_s("waits for pieces") == 0
    assert found.lanes == ("Mill 2",)


@pytest.mark.usefixtures("steady")
def test_the_second_machine_waits_for_the_first_ones_pieces() -> None:
    """Loads of one piece: first side 70 s + 30 s, second 110 s + 30 s: the second one sets the pace, and waits once."""
    found = play_floor(on_two_mills(), KNOWN, hands=3)
    assert found.lanes == ("Mill 2", "Mill 3")
    waits = [span for span in found.spans if span.doing == "waits for pieces"]
    assert {span.lane for span in waits} == {1}
    assert waits[0].start == 0
    assert waits[0].end == pytest.approx(100)
    cuts = [span.end for span in found.spans if span.doing == "cuts" and span.lane == 1]
    assert len(cuts) == 8
    assert cuts[-1] == pytest.approx(
        100 + 8 * 140 + 20
    )  # 20 s: its first piece is gauged before the second is cut


@pytest.mark.usefixtures("steady")
def test_one_pair_of_hands_at_two_machines_goes_the_round_that_is_reckoned(
    monkeypatch: pytest.MonkeyPatch,
) -> None:
    """Held to `go_round`: with hands of 200 s at each of two machines that cut 70 s and 110 s the hands set the pace."""
    monkeypatch.setattr(floor, "READING_S", 0.0)
    plan = on_two_mills(60)
    plan = replace(plan, setups=tuple(replace(setup, handling_s=200.0) for setup in plan.setups))
    found = play_floor(plan, KNOWN)
    jobs = {job.lane: job for job in found.cycles}
    round_s = go_round([Minded(str(n), job.cut_s, job.hands_s) for n, job in jobs.items()]).round_s
    ends = [span.end for span in found.spans if span.doing == "cuts" and span.lane == 1]
    steps = [b - a for a, b in pairwise(ends[5:-5])]
    assert sum(steps) / len(steps) == pytest.approx(round_s)
    assert found.spent_s("waits for hands") > 0
    assert found.hands_busy > 0.9


@pytest.mark.usefixtures("steady")
def test_a_second_pair_of_hands_never_makes_it_later() -> None:
    plan = on_two_mills(30)
    plan = replace(plan, setups=tuple(replace(setup, handling_s=150.0) for setup in plan.setups))
    one, two = (play_floor(plan, KNOWN, hands=n) for n in (1, 2))
    assert two.likely_s < one.likely_s
    assert two.spent_s("waits for hands") < one.spent_s("waits for hands")


@pytest.mark.usefixtures("steady")
def test_a_tool_comes_up_before_the_load_that_it_would_not_last() -> None:
    """Ten pieces of life, three a load: fresh before loads 4, 7 and 10; exactly used up is not over."""
    tool = ShopTool("T03 finish slot", 3, "Mill 2", life=Lasting(pieces=10))
    shop = replace(KNOWN, tools={3: (tool,)})
    found = play_floor(alone(30), shop)
    assert [(up.tool, up.load) for up in found.tools] == [("T03", 4), ("T03", 7), ("T03", 10)]
    assert found.unknown == ()
    half = replace(shop, tools={3: (replace(tool, left=Lasting(pieces=5)),)})
    assert [up.load for up in play_floor(alone(30), half).tools] == [
        2,
        5,
        8,
    ]  # 5 left: one load of it, then 3 a tool
    nine = replace(shop, tools={3: (replace(tool, life=Lasting(pieces=9)),)})
    assert [up.load for up in play_floor(alone(30), nine).tools] == [4, 7, 10]
    minutes = replace(shop, tools={3: (replace(tool, life=Lasting(cutting_s=600.0)),)})  # 60 s a piece
    assert [up.load for up in play_floor(alone(30), minutes).tools] == [4, 7, 10]
    assert play_floor(alone(30), KNOWN).unknown == ("T03",)


@pytest.mark.usefixtures("steady")
def test_a_manual_machine_keeps_the_hands_while_it_cuts() -> None:
    by_hand = replace(KNOWN, machines={1: Machine(1, "Mill 2", "manual"), 3: REGISTERS.machines[3]})
    held, free = play_floor(on_two_mills(12), by_hand), play_floor(on_two_mills(12), KNOWN)
    assert held.likely_s > free.likely_s
    assert held.hands_busy > free.hands_busy


def test_a_relay_in_one_press_takes_one_load_more(steady: None) -> None:
    """Eight pieces, two first sides and one second side a press: eight second sides, the first a load later."""
    found = play_floor(both_sides(8), KNOWN)
    assert [job.loads for job in found.cycles] == [9]
    assert found.whole


def test_hands_that_vary_give_a_range_and_the_same_seed_the_same() -> None:
    found = play_floor(alone(), KNOWN)
    assert found.low_s < found.likely_s < found.high_s
    assert found == play_floor(alone(), KNOWN)
    assert found != play_floor(alone(), KNOWN, seed=2)
    assert found.ends_s == found.likely_s


def test_pieces_at_risk_are_those_between_two_gauged_loads() -> None:
    plan = alone(60)
    often = replace(plan, heading=replace(plan.heading, gauge_every=5))
    assert [job.at_risk for job in play_floor(often, KNOWN).cycles] == [15]
    harmful = replace(often, heading=replace(often.heading, lifts=True))
    assert [job.at_risk for job in play_floor(harmful, KNOWN).cycles] == [3]


def test_two_cycles_of_one_machine_follow_one_another() -> None:
    plan = on_two_mills()
    first, second = (setup.key for setup in plan.setups)
    plan = changed(plan, SetSetup("second side", 1, "vise", handling="30", key=second))
    found: Floor = play_floor(plan, KNOWN)
    assert found.lanes == ("Mill 2",)
    assert [span.load for span in found.spans if span.doing == "cuts"] == [*range(1, 9), *range(1, 9)]
    assert first != second


@pytest.mark.parametrize(
    ("plan", "words"),
    [
        (bracket(), "No station is there yet."),
        (changed(planned(), SetStation(planned().setups[0].key, "D", "vise", "G57")), ""),
        (replace(planned(), tool_steps=()), "has no time yet."),
        (planned(20_000, stations="A"), "It is more than 4,000 loads."),
    ],
)
def test_what_cannot_be_played_is_said(plan: Plan, words: str) -> None:
    if not words:
        assert play_floor(plan, KNOWN).cycles
        return
    with pytest.raises(NotNow) as refused:
        play_floor(plan, KNOWN)
    assert words in refused.value.problem


def test_an_open_machine_is_named_as_open() -> None:
    plan = planned()
    plan = replace(plan, setups=tuple(replace(setup, machine_id=None) for setup in plan.setups))
    assert play_floor(plan, KNOWN).lanes == ("first side, machine open",)
    assert MILL.name not in play_floor(plan, KNOWN).lanes
