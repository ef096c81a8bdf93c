"""Pieces behind one that is out, from the log: which to measure next, until nothing is worth a reading."""

import pytest

from ditto_run.core.errors import BadEntry, NotNow
from ditto_run.core.run import events as do
from ditto_run.core.run.advised import Mind
from ditto_run.core.run.contained import case_of
from ditto_run.core.run.judge.recheck import contain
from ditto_run.core.run.judged import Keeper
from tests.conftest import MILL, CoreHand, planned


def run(loads: int, out: str = "20.040") -> CoreHand:
    """One vise; gauged at the first and the last load, which is out."""
    hand = CoreHand(planned(40, stations="A"))
    hand.do(do.GaugeEvery(1, 50), do.GaugeEvery(2, 50))
    hand.load("20.001")
    hand.do(do.TakeReading(1, 2, "31.5"), do.AcceptMaster(1))
    for _ in range(loads - 2):
        hand.do(do.StartCycle(), do.EndCycle())
    hand.load(out)
    return hand


def test_the_piece_that_finds_most_is_asked_for_first_and_a_good_one_ends_it() -> None:
    hand = run(12)
    setup = hand.state.plan.setups[0].key
    asked: list[int] = []
    for _ in range(12):
        said = Mind(setup).advise(hand.state, MILL, {})
        assert said is not None
        if said.kind != "recheck":
            break
        ((piece, number),) = said.gauge
        assert number == 1
        assert "piece 12 is out" in said.say
        assert piece not in asked
        asked.append(piece)
        text = "20.041" if piece >= 9 else "20.001"  # it moved before piece 9
        hand.do(do.TakeReading(piece, 1, text, confirm=text))
    assert asked
    assert min(asked) <= 9  # it went back until it found a good one
    assert len(asked) < 11
    assert said is not None
    assert said.kind != "recheck"


def test_the_case_is_told_in_half_tolerances_and_the_same_log_gives_the_same() -> None:
    hand = run(6)
    setup = hand.state.plan.setups[0].key
    history = Keeper(setup).history(hand.state, MILL, {})
    assert history is not None
    found = case_of(hand.state, history, setup)
    assert found is not None
    case, name = found
    assert (name, case.failed, case.pieces_done) == ("slot", 6, 6)
    assert [(one.piece, one.deviation) for one in case.readings] == [
        (1, pytest.approx(1 / 30)),
        (6, pytest.approx(4 / 3)),
    ]
    answer = contain(case)
    said = Mind(setup).advise(hand.state, MILL, {})
    assert said is not None
    assert said.gauge[0][0] == getattr(answer, "piece", 0)


def test_where_all_is_inside_or_somebody_went_on_nothing_is_suspected() -> None:
    hand = run(6, "20.003")
    setup = hand.state.plan.setups[0].key
    history = Keeper(setup).history(hand.state, MILL, {})
    assert history is not None
    assert case_of(hand.state, history, setup) is None
    gone_on = run(6)
    gone_on.do(do.Dispose(6, "scrap", "out"), do.StartCycle(), do.EndCycle())
    later = Keeper(setup).history(gone_on.state, MILL, {})
    assert later is not None
    assert case_of(gone_on.state, later, setup) is None


def test_what_somebody_taps_as_the_cause_is_part_of_the_case_until_it_is_taken_back() -> None:
    hand = run(12)
    setup = hand.state.plan.setups[0].key

    def cause() -> str:
        history = Keeper(setup).history(hand.state, MILL, {})
        assert history is not None
        found = case_of(hand.state, history, setup)
        assert found is not None
        return found[0].cause

    assert cause() == "unknown"
    hand.do(do.SayCause(12, "loosened"))
    assert cause() == "loosened"
    hand.do(do.SayCause(12, "dull"))
    assert cause() == "dull"
    hand.do(do.Undo())
    assert cause() == "loosened"
    with pytest.raises(NotNow):
        hand.do(do.SayCause(1, "dull"))  # it is inside
    with pytest.raises(BadEntry):
        hand.do(do.SayCause(99, "dull"))
    said = Mind(setup).advise(hand.state, MILL, {})
    assert said is not None
    assert said.failed == 12


def test_a_cause_changes_which_pieces_are_asked_for() -> None:
    """A thing that was bumped moved at once; a tool that went dull crept there: then other pieces say more."""
    asked = set()
    for tapped in ("bumped", "dull"):
        hand = run(30)
        hand.do(do.SayCause(30, tapped))  # type: ignore[arg-type]
        found = []
        for _ in range(8):
            said = Mind(hand.state.plan.setups[0].key).advise(hand.state, MILL, {})
            if said is None or said.kind != "recheck":
                break
            ((piece, _number),) = said.gauge
            found.append(piece)
            hand.do(do.TakeReading(piece, 1, "20.014", confirm="20.014"))
        asked.add(tuple(found))
    assert len(asked) == 2
