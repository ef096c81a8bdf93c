"""The fold: the log and nothing else is the state, in whatever order its lines come and however often."""

from dataclasses import replace
from random import Random

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ditto_run.core.run import events as do
from ditto_run.core.run import fold
from ditto_run.core.run.loads import good, to_go
from tests.conftest import CoreHand, planned
from tests.searches import searches


def summary(state) -> tuple:
    return (
        state.seq,
        state.revision,
        state.running.number if state.running else None,
        dict(+state.counts),
        good(state),
        to_go(state),
        [
            (
                p.number,
                p.standing,
                p.outcome,
                p.suspect,
                sorted((k, [g.seq for g in v]) for k, v in p.gaugings.items()),
            )
            for p in state.pieces.values()
        ],
        [
            (run.master, run.composition, list(run.changes), run.full_entry_due)
            for run in state.cycles.values()
        ],
    )


def story(seed: int) -> CoreHand:
    """Return a run with something of everything in it, different for each seed."""
    random = Random(seed)
    hand = CoreHand(planned(12)).proven()
    for _ in range(random.randint(1, 2)):
        hand.load(*(f"20.0{random.randint(0, 28):02d}" for _ in range(random.randint(0, 3))))
    hand.do(do.Adjust("T03 wear", "-0.002", "mm"), do.AddNote("chips"), do.MarkBreak("bar 2"))
    number = random.randint(1, 6)
    hand.do(do.HoldPieces(f"{number}", "dropped"))
    hand.do(do.Dispose(number, random.choice(["good", "scrap", "spare", "trial"]), "because"))
    if random.random() < 0.5:
        hand.do(do.Undo())
    if random.random() < 0.5:
        hand.do(do.StartCycle())
    return hand


@searches(30)
@given(st.integers(0, 10_000))
def test_any_order_of_duplicates_gives_the_same_state(seed: int) -> None:
    hand = story(seed)
    lines = hand.log + hand.log[::2]
    Random(seed).shuffle(lines)

    assert summary(fold(lines, hand.plans)) == summary(hand.state)


@searches(30)
@given(st.integers(0, 10_000))
def test_extending_gives_what_folding_the_whole_log_gives(seed: int) -> None:
    hand = story(seed)

    assert summary(fold(hand.log, hand.plans)) == summary(hand.state)


def test_a_line_sent_twice_under_one_key_counts_once(hand: CoreHand) -> None:
    hand.proven().do(do.TakeReading(2, 1, "20.001"))
    again = replace(hand.log[-1], seq=len(hand.log) + 1)

    assert summary(fold([*hand.log, again], hand.plans))[1:] == summary(hand.state)[1:]


def test_counts_always_add_up(hand: CoreHand) -> None:
    hand.proven().load("20.0", "20.04", "")
    hand.do(do.Dispose(2, "lost", "fell into the sump"), do.Dispose(1, "spare"))

    assert sum(hand.state.counts.values()) == len(hand.state.pieces) == 6
    assert hand.state.counts["lost"] == hand.state.counts["spare"] == 1


def test_undo_takes_the_last_line_back_and_stays_in_the_log(hand: CoreHand) -> None:
    hand.proven()
    before = summary(hand.state)
    hand.do(do.AddNote("wrong"), do.Undo())

    assert summary(hand.state)[1:] == before[1:]
    assert hand.log[-1].body.kind == "undone"
    assert len(hand.log) == before[0] + 2


@pytest.mark.parametrize("pieces", [2, 3])
def test_several_pieces_in_one_station(pieces: int) -> None:
    hand = CoreHand(planned(12, stations="AB", pieces=pieces))
    hand.load("20.0")

    assert [loaded.pieces for loaded in hand.state.here.loads[0].stations] == [
        tuple(range(1, pieces + 1)),
        tuple(range(pieces + 1, 2 * pieces + 1)),
    ]


def test_the_last_load_is_short_and_a_station_can_be_off() -> None:
    hand = CoreHand(planned(5)).proven()
    hand.load()
    assert hand.state.here.loads[-1].pieces == (4, 5)
    other = CoreHand(planned(8)).proven()
    other.do(do.SetComposition({"A": 1, "B": 0, "C": 1}))
    other.load()
    assert [loaded.station for loaded in other.state.here.loads[-1].stations] == ["A", "C"]


def test_a_scrapped_piece_is_made_again() -> None:
    hand = CoreHand(planned(3)).proven()
    hand.do(do.Dispose(2, "scrap", "chatter"))
    assert to_go(hand.state) == 1
    hand.load("20.0")
    for piece in (3, 4):
        hand.do(do.TakeReading(piece, 1, "20.0"), do.TakeReading(piece, 2, "31.5"))
    assert good(hand.state) == 3
