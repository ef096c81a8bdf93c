"""The judgement asked from the log of a run: what it is told, what it says in words, and a whole batch played by it."""

import re
from contextlib import suppress
from dataclasses import replace
from decimal import Decimal as D
from random import Random

import pytest

from ditto_run.core.errors import BadEntry, DittoError, NotFound
from ditto_run.core.run import events as do
from ditto_run.core.run.advised import Advised, Mind
from ditto_run.core.run.judge.decide import decide
from ditto_run.core.run.judged import HistoryHere, Keeper
from ditto_run.core.shop import Gauge, Machine, Wear
from tests.conftest import MILL, CoreHand, planned

GAUGES = {1: Gauge(1, "micrometer", D("0.001"), "mm")}


def setup_of(hand: CoreHand) -> int:
    return hand.state.plan.setups[0].key


def told(hand: CoreHand, machine: Machine = MILL) -> HistoryHere:
    found = Keeper(setup_of(hand)).history(hand.state, machine, GAUGES)
    assert found is not None
    return found


def asked(hand: CoreHand, machine: Machine = MILL) -> Advised | None:
    return Mind(setup_of(hand)).advise(hand.state, machine, GAUGES)


def both(hand: CoreHand, slots: list[str], heights: list[str]) -> None:
    hand.do(do.StartCycle(), do.EndCycle())
    for piece, slot, high in zip(hand.state.here.loads[-1].pieces, slots, heights, strict=True):
        hand.do(do.TakeReading(piece, 1, slot, confirm=slot), do.TakeReading(piece, 2, high, confirm=high))


def proven() -> CoreHand:
    hand = CoreHand(planned(30))
    both(hand, ["20.001", "20.002", "20.000"], ["31.501", "31.500", "31.502"])
    hand.do(do.AcceptMaster(1))
    return hand


def test_what_the_judgement_is_told_of_a_log() -> None:
    hand = proven()
    hand.do(do.Adjust("T03 diameter wear", "-0.004"), do.Adjust("coolant hose", "1"), do.MarkBreak("bar 2"))
    both(hand, ["20.003", "20.004", "20.002"], ["31.500"] * 3)
    hand.do(
        do.TryMaster(1, "0.002"),
        do.LookAtHold("B", loose=True),
        do.TakeReading(2, 1, "20.005", confirm="20.005"),
    )
    history = told(hand)
    assert (history.job.pieces, history.job.stations, history.pieces_done) == (30, 3, 6)
    assert history.places == {n: ((n - 1) // 3 + 1, (n - 1) % 3 + 1) for n in range(1, 7)}
    slot, _ = history.job.dimensions
    assert (slot.name, slot.lower, slot.upper, slot.target) == ("slot", 19.97, 20.03, 20)
    assert slot.resolution == pytest.approx(0.003)  # a twentieth of the limits, where no gauge is said
    assert [(one.after_piece, one.knob, one.amount) for one in history.turns] == [
        (3, "T03 diameter wear", -0.004)
    ]
    assert [(one.after_piece, one.kind) for one in history.events] == [(3, "insert"), (3, "bar")]
    assert [(one.after_piece, one.dimension, one.error) for one in history.master_checks] == [
        (6, "slot", 0.002)
    ]
    assert [(one.after_piece, one.station, one.found) for one in history.stops] == [(6, 2, True)]
    last = history.readings[-1]
    assert (last.piece, last.value, last.after_piece, last.recheck) == (2, 20.005, 6, True)
    assert [one.recheck for one in history.readings[:-1]] == [False] * 12


def test_the_load_that_is_being_cut_is_not_done_yet() -> None:
    hand = proven()
    hand.do(do.StartCycle())
    history = told(hand)
    assert (history.pieces_done, history.job.pieces) == (3, 30)
    hand.do(do.Adjust("T03 diameter wear", "0.002"))
    assert told(hand).turns == []  # it comes after the load that is in the machine
    hand.do(do.EndCycle())
    assert told(hand).turns[0].after_piece == 6


@pytest.mark.parametrize(
    ("wear", "name", "factor"),
    [
        (Wear(), "T03 diameter wear", -1),  # more wear makes an outside bigger, and a slot smaller
        (Wear("radius"), "T03 radius wear", -2),
        (Wear("diameter", "minus"), "T03 diameter wear", 1),
    ],
)
def test_knobs_are_those_of_the_control(wear: Wear, name: str, factor: float) -> None:
    knobs = told(proven(), replace(MILL, wear=wear)).job.knobs
    assert (knobs[0].name, knobs[0].gains) == (name, {"slot": factor})
    assert knobs[1].name == "length wear of the height"  # nothing says which tool makes it
    assert [(one.what, one.label, one.station) for one in knobs[2:]] == [
        ("G54 Z", "A", 1),
        ("G55 Z", "B", 2),
        ("G56 Z", "C", 3),
    ]


def test_nothing_is_said_before_the_first_piece_is_accepted_or_after_the_end() -> None:
    hand = CoreHand(planned(30))
    both(hand, ["20.001"] * 3, ["31.5"] * 3)
    assert asked(hand) is None
    hand.do(do.AcceptMaster(1))
    assert asked(hand) is not None
    free = replace(
        hand.state.plan,
        characteristics=tuple(replace(c, grade="free") for c in hand.state.plan.characteristics),
    )
    bare = CoreHand(free)
    bare.do(do.StartCycle(), do.EndCycle())
    assert asked(bare) is None


def test_a_steady_process_is_left_and_stays_left_until_the_load_it_named() -> None:
    hand = proven()
    both(hand, ["20.000", "20.001", "20.001"], ["31.500", "31.501", "31.500"])
    said = asked(hand)
    while said is not None and said.kind == "gauge":
        for piece, number in said.gauge:
            text = "20.001" if number == 1 else "31.501"
            hand.do(do.TakeReading(piece, number, text, confirm=text))
        said = asked(hand)
    assert said is not None
    assert said.kind == "leave"
    if said.next_load > hand.state.here.loads[-1].number + 1:
        hand.do(do.StartCycle(), do.EndCycle())  # not gauged
        again = asked(hand)
        assert again is not None
        assert (again.kind, again.next_load) == ("leave", said.next_load)


def test_the_same_log_gives_the_same_as_the_pure_function_and_as_one_that_remembers() -> None:
    hand = proven()
    remembers = Mind(setup_of(hand))
    for n in range(4):
        sizes = [f"{20.004 + 0.004 * n:.3f}"] * 3
        both(hand, sizes, ["31.500"] * 3)
        mine = remembers.advise(hand.state, MILL, GAUGES)
        assert mine == asked(hand)
        assert mine is not None
        assert mine.kind == decide(told(hand)).kind


class Follower:
    """Somebody who does what is said, at a process with an offset, a drift and noise."""

    def __init__(self, seed: int, off: float, drift: float, noise: float) -> None:
        self.draw, self.off, self.drift, self.noise = Random(seed), off, drift, noise
        self.hand, self.true, self.turns = CoreHand(planned(60, stations="A")), {}, 0

    def cut(self) -> None:
        self.hand.do(do.StartCycle(), do.EndCycle())
        for piece in self.hand.state.here.loads[-1].pieces:
            self.true[piece] = 20 + self.off + self.draw.gauss(0, self.noise)
            self.off += self.drift

    def gauge(self, piece: int, number: int) -> None:
        text = f"{self.true[piece]:.3f}" if number == 1 else "31.500"
        self.hand.do(do.TakeReading(piece, number, text, confirm=text))

    def play(self) -> None:
        self.cut()
        for number in (1, 2):
            self.gauge(1, number)
        self.hand.do(do.AcceptMaster(1))
        while len(self.true) < 60:
            for _ in range(20):
                said = asked(self.hand)
                assert said is not None
                if said.kind == "leave":
                    break
                self.follow(said)
            self.cut()

    def follow(self, said: Advised) -> None:
        for piece, number in said.gauge:
            self.gauge(piece, number)
        if said.kind == "turn":
            self.turns += 1
            self.hand.do(do.Adjust(said.what, said.amount, said.unit, said.station))
            self.off -= float(said.amount)  # diameter wear up makes the slot smaller by as much
        if said.kind == "check_gauge":
            self.hand.do(do.TryMaster(said.characteristic))
        if said.kind == "stop":
            self.hand.do(do.LookAtHold(said.station))


def test_a_wearing_tool_is_followed_and_kept_inside() -> None:
    """A slot that shrinks by 2 µm a piece is 118 µm off after 60; followed, it stays within ±30."""
    there = Follower(3, 0.0, -0.002, 0.002)
    there.play()
    assert there.turns >= 2
    late = [abs(size - 20) for piece, size in there.true.items() if piece > 10]
    assert max(late) < 0.03
    assert sum(late) / len(late) < 0.015


def test_noise_alone_is_hardly_ever_dialled() -> None:
    there = Follower(5, 0.0, 0.0, 0.004)
    there.play()
    assert there.turns <= 1


def test_a_jump_is_seen_and_dialled_back_with_its_sign() -> None:
    there = Follower(7, 0.0, 0.0, 0.002)
    there.cut()
    there.gauge(1, 1)
    there.gauge(1, 2)
    there.hand.do(do.AcceptMaster(1))
    there.off = 0.022
    said = None
    for piece in range(2, 8):  # six pieces from a jump to its end is what the judgement is good for
        there.cut()
        there.gauge(piece, 1)
        there.gauge(piece, 2)
        said = asked(there.hand)
        while said is not None and said.kind not in {"turn", "leave"}:
            there.follow(said)
            said = asked(there.hand)
        if said is not None and said.kind == "turn":
            break
    assert said is not None
    assert said.kind == "turn"
    assert (said.what, said.unit) == ("T03 diameter wear", "mm")
    assert 0.010 < float(said.amount) < 0.030  # up, to make the slot smaller again
    assert said.say == f"Add +{said.amount} mm to the T03 diameter wear."
    assert said.why.startswith("Slot is ")
    assert "over its target" in said.why


def test_what_cannot_be_is_refused() -> None:
    hand = proven()
    for command, error in (
        (do.TryMaster(99), NotFound),
        (do.TryMaster(1, "lots"), BadEntry),
        (do.TryMaster(1, "20.002"), BadEntry),
        (do.LookAtHold("Q"), BadEntry),
    ):
        with pytest.raises(error):
            hand.do(command)


def test_a_knob_of_one_station_is_a_turn_there_and_not_elsewhere() -> None:
    hand = proven()
    hand.do(do.Adjust("G55 Z", "-0.02", station="B"), do.Adjust("G55 Z", "-0.02"))
    both(hand, ["20.001"] * 3, ["31.500", "31.480", "31.500"])
    history = told(hand)
    assert [(one.knob, one.amount) for one in history.turns] == [("G55 Z at B", -0.02)]
    assert [one.kind for one in history.events] == ["insert"]  # at every station it is nobody's knob
    assert asked(hand) is not None


@pytest.mark.parametrize("seed", range(6))
def test_one_that_remembers_says_the_same_as_a_fresh_one_whatever_happens(seed: int) -> None:
    """Loads, readings, turns, corrections, undo and redo, a station off: after each the history and the advice are the same."""
    draw, hand = Random(seed), proven()
    minds, keeper = Mind(setup_of(hand)), Keeper(setup_of(hand))

    def reading() -> do.Command | None:
        pieces = hand.state.here.loads[-1].pieces
        size = f"{20 + draw.gauss(0.004, 0.012):.3f}"
        return do.TakeReading(draw.choice(pieces), 1, size, confirm=size)

    def correct() -> do.Command | None:
        return do.CorrectReading(max(hand.state.gaugings), "20.002", "misread")

    steps = (
        do.StartCycle,
        do.EndCycle,
        reading,
        reading,
        correct,
        lambda: do.Adjust("T03 diameter wear", f"{draw.choice((-0.004, 0.006))}"),
        lambda: do.Adjust("something", "0.01"),
        lambda: do.MarkBreak("bar"),
        lambda: do.TryMaster(1),
        lambda: do.LookAtHold("B"),
        do.Undo,
        do.Redo,
        lambda: do.SetComposition({"A": 1, "B": draw.randrange(2), "C": 1}),
    )
    for _ in range(60):
        with suppress(DittoError):
            hand.do(draw.choice(steps)())
        kept, fresh = (
            keeper.history(hand.state, MILL, GAUGES),
            Keeper(setup_of(hand)).history(hand.state, MILL, GAUGES),
        )
        assert kept == fresh
        assert minds.advise(hand.state, MILL, GAUGES) == asked(hand)


@pytest.mark.parametrize(
    ("off", "unit", "says"),
    [
        (0.022, "mm", r"Make the slot 0\.0\d mm smaller, by its dial or stop\."),
        (-0.022, "mm", r"Make the slot 0\.0\d mm larger, by its dial or stop\."),
        (0.022, "in", r"Make the slot 0\.00(0|1)[05] in smaller, by its dial or stop\."),  # half thousandths
    ],
)
def test_on_a_machine_worked_by_hand_it_says_which_way_the_size_has_to_go(
    off: float, unit: str, says: str
) -> None:
    hand = CoreHand(planned(60, stations="A", unit=unit))
    manual = replace(MILL, kind="manual mill")
    both(hand, ["20.000"], ["31.5"])
    hand.do(do.AcceptMaster(1))
    for _ in range(8):
        both(hand, [f"{20 + off:.3f}"], ["31.5"])
        said = asked(hand, manual)
        if said is not None and said.kind == "turn":
            break
    assert said is not None
    assert said.kind == "turn"
    assert re.fullmatch(says, said.say)


def test_what_the_plan_asks_stands_beside_a_leave() -> None:
    hand = proven()
    hand.do(do.GaugeEvery(1, 5))
    both(hand, ["20.000", "20.001", "20.001"], ["31.500", "31.501", "31.500"])
    said = asked(hand)
    assert said is not None
    assert said.kind == "leave"
    assert said.why.endswith(" By the plan: every load.")
