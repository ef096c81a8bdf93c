"""Jobs of the demo that cut unlike stations: left and right with both sides in one cycle, and one setup on two lathes."""

from collections.abc import Iterator
from datetime import timedelta

from ditto_run.core.edits import (
    AddPart,
    SetCharacteristic,
    SetCycle,
    SetForm,
    SetSetup,
    SetStation,
    SetToolStep,
)
from ditto_run.core.part import Heading
from ditto_run.core.plan import FIRST_PART, Plan
from ditto_run.core.run import events as do
from ditto_run.demo.pretend import Hand
from ditto_run.desk import Desk

LEFT, RIGHT = FIRST_PART, 2


def stay_bracket(desk: Desk, mill: int, customer: str) -> None:
    """Plan and run left and right stay brackets in three vises: left in two sides, right in one with a tap; four loads cut."""
    hand = Hand(desk, "RK", desk.now - timedelta(hours=27), seed=16)
    heading = Heading("Stay bracket, left", 16, "mm", customer, "SB-7", "A", "6061-T6", gauge_every=1)
    job = hand.jobs.new(Plan(heading), hand.who, is_demo=True)
    hand.plan(
        job,
        SetCharacteristic("width", "24.00 ±0.05", "critical"),
        SetCharacteristic("depth", "6.00 ±0.05", "critical", why="Seats the stay."),
        SetSetup("first side", mill, "vise 1", "fixed jaw, left stop", "0:30"),
        SetSetup("second side", mill, "vise 3", "fixed jaw, step in the jaws", "0:30"),
        AddPart("Stay bracket, right", 16),
    )
    first, second = (setup.key for setup in hand.jobs.load(job).plan.setups)
    width, depth = hand.jobs.load(job).plan.characteristics
    hand.plan(
        job,
        SetCharacteristic(width.name, "24.00 ±0.05", "critical", setup=first, number=width.number),
        SetCharacteristic(
            depth.name, "6.00 ±0.05", "critical", why="Seats the stay.", setup=second, number=depth.number
        ),
        SetStation(first, "A", "vise 1", "G54"),
        SetStation(second, "C", "vise 3", "G56"),
        *_tools(first, (1, "face", 40, 20), (3, "profile", 75, 20)),
        *_tools(second, (1, "face", 35, 20), (5, "drill", 20, 20)),
    )
    right = hand.seen_from(RIGHT)
    right.plan(
        job,
        SetCharacteristic("width", "24.00 ±0.05", "critical"),
        SetCharacteristic("thread", "M8", "functional"),
        SetSetup("only side", mill, "vise 2", "fixed jaw, left stop", "0:30"),
    )
    side = right.jobs.load(job).plan.setups[0].key
    right.plan(
        job,
        SetStation(side, "B", "vise 2", "G55"),
        *_tools(side, (1, "face", 40, 20), (3, "profile", 75, 20), (8, "tap", 15, 20)),
        SetCycle("stays", (f"{first}:A", f"{side}:B", f"{second}:C")),
    )
    sizes = {(LEFT, "A"): (width.number, 24.004), (LEFT, "C"): (depth.number, 6.003)}
    wide, thread = (c.number for c in right.jobs.load(job).plan.characteristics)
    sizes[RIGHT, "B"] = (wide, 23.996)
    hand.start(job)
    for number in range(1, 4):
        _load_of_stays(hand, sizes, thread, first=number <= 2)  # noqa: PLR2004 - the second has the first second side


def _load_of_stays(
    hand: Hand, sizes: dict[tuple[int, str], tuple[int, float]], thread: int, *, first: bool
) -> None:
    """Cut a load of stays and gauge it; the first piece of each side is accepted."""
    hand.load(430, 100)
    with hand.runs.folded(hand.run_id) as state:
        load, masters = state.here.loads[-1], set(state.here.masters)
    for loaded in load.stations:
        dimension, middle = sizes[loaded.part, loaded.station]
        hand.gauge(loaded.pieces[0], (dimension, hand.size(middle, 0.004)))
        if loaded.station == "B":
            hand.do(do.TakeGo(loaded.pieces[0], thread, go=True))
    for loaded in load.stations if first else ():
        if loaded.setup not in masters:
            hand.do(do.AcceptMaster(loaded.pieces[0]))


def bushing(desk: Desk, lathes: tuple[int, int], customer: str) -> None:
    """Plan and run a bushing on two lathes at once: the same setup, each with its own tools, times and sizes."""
    hand = Hand(desk, "MT", desk.now - timedelta(hours=30), seed=30)
    heading = Heading("Gate bushing", 30, "mm", customer, "GB-2", "A", "bronze, 20 mm bar", gauge_every=3)
    job = hand.jobs.new(Plan(heading), hand.who, is_demo=True)
    one, two = lathes
    hand.plan(
        job,
        SetForm("turned"),
        SetCharacteristic("outside", "16.00 0/-0.03", "critical", why="Pressed into the gate."),
        SetSetup("turn and part", one, "20 mm collet", "bar stop", "0:20"),
    )
    key = hand.jobs.load(job).plan.setups[0].key
    hand.plan(
        job,
        SetStation(key, "L", "collet"),
        SetStation(key, "H", "collet of the hand lathe"),
        SetToolStep(key, 1, "turn", "55", "6", stations=("L",)),
        SetToolStep(key, 4, "part", "14", "6", stations=("L",)),
        SetToolStep(key, 0, "turn and part by hand", "150", "0", stations=("H",)),
        SetCycle("on Lathe 1", (f"{key}:L",), one),
        SetCycle("on the hand lathe", (f"{key}:H",), two),
    )
    first, second = (cycle.key for cycle in hand.jobs.load(job).plan.all_cycles)
    hand.start(job)
    by_hand = Hand(desk, "TB", hand.at + timedelta(seconds=40), seed=31, run_id=hand.run_id, cycle=second)
    hand.cycle = first
    turns = {0: _bushings(hand, 9, 75, 15.986), 1: _bushings(by_hand, 5, 150, 15.991, opens=True)}
    hands = (hand, by_hand)
    for turn in turns.values():
        next(turn)
    while turns:  # whoever's next moment comes first
        who = min(turns, key=lambda one: hands[one].at)
        if next(turns[who], None) is None:
            del turns[who]


def _bushings(hand: Hand, many: int, cycle_s: float, middle: float, *, opens: bool = False) -> Iterator[int]:
    """Turn bushings one by one; stops before each thing that is recorded, so that two hands can work in turn."""
    if opens:
        yield 1
        hand.do(do.OpenSetup(hand.cycle, "marked"))
    for number in range(1, many + 1):
        yield 1
        hand.do(do.StartCycle())
        hand.wait(cycle_s)
        yield 1
        hand.do(do.EndCycle())
        hand.wait(20)
        yield 1
        with hand.runs.folded(hand.run_id) as state:
            piece = state.near(hand.cycle).here.loads[-1].pieces[0]
        if number % 3 == 1:
            hand.gauge(piece, (1, hand.size(middle, 0.003)))
        if number == 1:
            hand.do(do.AcceptMaster(piece))


def _tools(setup: int, *steps: tuple[int, str, int, int]) -> list[SetToolStep]:
    return [SetToolStep(setup, tool, does, str(cut), str(change)) for tool, does, cut, change in steps]
