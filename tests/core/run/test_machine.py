"""Random commands against a small model: counts add up, nothing is lost, a refusal changes nothing, undo and redo."""

from datetime import timedelta

from hypothesis import HealthCheck
from hypothesis import strategies as st
from hypothesis.stateful import RuleBasedStateMachine, initialize, invariant, rule

from ditto_run.core.close.counts import count_lines
from ditto_run.core.errors import DittoError
from ditto_run.core.run import Now, decide, extend, fold
from ditto_run.core.run import events as do
from ditto_run.core.run.loads import finished, good, held, to_go
from tests.conftest import CoreHand, planned
from tests.core.run.test_fold import summary
from tests.searches import searches

PIECES = st.integers(1, 9)
SIZES = st.sampled_from(["20.0", "20.02", "20.05", "19.9", "004", "20", "banana", "199.9"])
OUTCOMES = st.sampled_from(["good", "as_is", "rework", "scrap", "trial", "spare", "lost"])


class RunMachine(RuleBasedStateMachine):
    """A batch of eight at two stations, at the hands of two people who try anything."""

    @initialize(every=st.integers(1, 3))
    def begin(self, every: int) -> None:
        from ditto_run.core.edits import SetHeading, apply_edit
        from tests.conftest import SHOP

        plan = planned(8, stations="AB")
        self.hand = CoreHand(apply_edit(SetHeading("Pin", 8, gauge_every=every), plan, SHOP).plan)
        if every > 1:  # the others begin at the very start
            self.cut([True, True])
            self.try_it(do.AcceptMaster(1))

    def try_it(self, command: do.Command, who: str = "RK") -> bool:
        """Record a command. A refusal must leave log and state as they were, and say what to do."""
        hand = self.hand
        before, lines = summary(hand.state), len(hand.log)
        try:
            hand.do(command, who=who)
        except DittoError as refusal:
            assert refusal.problem
            assert refusal.remedy
            assert (summary(hand.state), len(hand.log)) == (before, lines)
            return False
        return True

    def cut(self, gauged: list[bool], size: str = "20.0") -> None:
        """Cut a load, and gauge those of its pieces."""
        if not self.try_it(do.StartCycle()):
            return
        self.end()
        for piece, wanted in zip(self.hand.state.here.loads[-1].pieces, gauged, strict=False):
            if wanted:
                self.try_it(do.TakeReading(piece, 1, size, confirm=size))
                self.try_it(do.TakeReading(piece, 2, "31.5"))

    @rule(gauged=st.lists(st.booleans(), min_size=2, max_size=2))
    def cut_a_load(self, gauged: list[bool]) -> None:
        self.cut(gauged)

    @rule(gauged=st.lists(st.booleans(), min_size=2, max_size=2))
    def cut_another_load(self, gauged: list[bool]) -> None:
        self.cut(gauged)

    @rule(size=SIZES)
    def gauge_the_last_piece(self, size: str) -> None:
        made = len(self.hand.state.pieces)
        self.try_it(do.TakeReading(made, 1, size, confirm=size))

    @rule()
    def start(self) -> None:
        self.try_it(do.StartCycle())

    @rule()
    def end(self) -> None:
        running = self.hand.state.running
        self.try_it(do.EndCycle(str(running.number) if running else ""))

    @rule(piece=PIECES, size=SIZES, height=st.booleans(), sure=st.booleans(), rough=st.booleans())
    def gauge(self, piece: int, size: str, height: bool, sure: bool, rough: bool) -> None:
        self.try_it(
            do.TakeReading(piece, 2 if height else 1, size, confirm=size if sure else "", rough=rough)
        )

    @rule(piece=PIECES)
    def accept(self, piece: int) -> None:
        self.try_it(do.AcceptMaster(piece, str(piece)))

    @rule(piece=PIECES, outcome=OUTCOMES, reason=st.sampled_from(["", "why"]))
    def dispose(self, piece: int, outcome, reason: str) -> None:
        self.try_it(do.Dispose(piece, outcome, reason))

    @rule(pieces=st.sampled_from(["1", "2-3", "9", "x"]))
    def hold(self, pieces: str) -> None:
        self.try_it(do.HoldPieces(pieces, "dropped"))

    @rule(pieces=st.sampled_from(["1-8", "2", "3-4"]))
    def take(self, pieces: str) -> None:
        self.try_it(do.TakeUngauged(pieces, "no time"))

    @rule(loads=st.integers(0, 3), joined=st.booleans())
    def late(self, loads: int, joined: bool) -> None:
        self.try_it(do.EnterLoads(loads, joined=joined))

    @rule(every=st.integers(0, 4))
    def often(self, every: int) -> None:
        self.try_it(do.GaugeEvery(1, every))

    @rule(b=st.integers(0, 1))
    def stations(self, b: int) -> None:
        self.try_it(do.SetComposition({"A": 1, "B": b}))

    @rule(who=st.sampled_from(["RK", "MT"]))
    def note(self, who: str) -> None:
        self.try_it(do.AddNote("chips"), who)

    @rule(line=st.integers(1, 30), size=SIZES)
    def correct(self, line: int, size: str) -> None:
        self.try_it(do.CorrectReading(line, size, "misread"))

    @rule(who=st.sampled_from(["RK", "MT"]))
    def undo_then_redo_is_the_identity(self, who: str) -> None:
        before = summary(self.hand.state)
        if self.try_it(do.Undo(), who):
            assert self.try_it(do.Redo(), who)
            assert summary(self.hand.state)[1:] == before[1:]

    @rule()
    def undo(self) -> None:
        self.try_it(do.Undo())

    @rule(short=st.booleans())
    def close(self, short: bool) -> None:
        state = self.hand.state
        if state.closed_at is None and self.try_it(do.CloseRun(short)):
            assert not held(self.hand.state)
            assert not self.hand.state.counts["not gauged"]
            self.try_it(do.Undo())

    @invariant()
    def counts_add_up(self) -> None:
        state = self.hand.state
        assert sum(state.counts.values()) == len(state.pieces)
        assert min([0, *state.counts.values()]) == 0
        assert good(state) == finished(state) == state.counts["good"] + state.counts["reworked"]
        assert set(state.pieces) == set(range(1, len(state.pieces) + 1))
        assert to_go(state) >= 0
        assert all(line.adds_up for line in count_lines(state))

    def proven(self, number: int, dimension: int) -> bool:
        """Work out from the readings alone whether a piece is gauged inside, or between two good checks near enough."""
        state = self.hand.state
        run = state.here
        piece = state.pieces[number]
        joined = {n for load in run.loads if load.joined for n in load.pieces}
        own = piece.last(state.cycle, dimension)
        if own is not None or number in joined:
            return own is None or own.inside
        order = [n for _, n in run.at_station[piece.made[state.cycle][1]]]
        at = order.index(number)
        seen = [(i, state.pieces[n].last(state.cycle, dimension)) for i, n in enumerate(order)]
        before = [(i, g) for i, g in seen[:at] if g is not None][-1:]
        after = [(i, g) for i, g in seen[at:] if g is not None][:1]
        if not before or not after:
            return False
        near = after[0][0] - before[0][0] <= state.sampling(dimension)
        return before[0][1].inside and after[0][1].inside and near

    @invariant()
    def good_means_proven_and_not_gauged_means_it_is_not(self) -> None:
        for piece in self.hand.state.pieces.values():
            if piece.outcome or piece.was_reworked or piece.standing not in {"good", "not gauged"}:
                continue
            whole = all(self.proven(piece.number, dimension) for dimension in (1, 2))
            assert whole == (piece.standing == "good"), piece.number
            assert piece.standing != "good" or not piece.out

    @invariant()
    def the_whole_log_gives_the_same_state(self) -> None:
        assert summary(fold(self.hand.log, self.hand.plans)) == summary(self.hand.state)


RunMachine.TestCase.settings = searches(
    80, stateful_step_count=30, suppress_health_check=[HealthCheck.too_slow]
)
TestRun = RunMachine.TestCase


def test_a_clock_set_back_is_said_and_no_time_is_negative() -> None:
    hand = CoreHand(planned(6)).proven()
    hand.do(do.StartCycle())
    at = hand.at - timedelta(hours=67)
    body = decide(do.EndCycle(), hand.state, Now(at, "RK"))
    hand.log.append(do.Event(len(hand.log) + 1, at, "RK", "back", body))
    state = extend(hand.state, hand.log[-1:])
    from ditto_run.core.run.board import board
    from ditto_run.core.run.said import last_said

    said = last_said(state)
    assert "The clock was set back meanwhile, so its time is not known." in said
    assert "−" not in said
    assert state.here.loads[-1].cycle_s is None
    assert board(state, at).pace.finish >= at


def test_a_load_far_shorter_than_planned_is_asked_about() -> None:
    import pytest

    from ditto_run.core.errors import NeedsAnswer, NotNow

    hand = CoreHand(planned(6)).proven()
    hand.do(do.StartCycle())
    soon = Now(hand.at + timedelta(seconds=1), "RK")
    with pytest.raises(NeedsAnswer, match="ran 0:01 of 3:20 planned"):
        decide(do.EndCycle(), hand.state, soon)
    with pytest.raises(NotNow, match="Load 1 has ended already"):
        decide(do.EndCycle("1", 1), hand.state, soon)
    assert decide(do.EndCycle("2", 2), hand.state, soon).load == 2
    assert (
        decide(do.EndCycle(), hand.state, Now(hand.at + timedelta(seconds=20), "RK")).load == 2
    )  # a tenth is enough


def test_a_master_out_of_limits_is_taken_only_with_a_word() -> None:
    import pytest

    from ditto_run.core.errors import NeedsAnswer

    hand = CoreHand(planned(6))
    hand.load("20.05")
    hand.do(do.TakeReading(1, 2, "31.5"), do.Dispose(1, "as_is", "the customer takes it"))
    with pytest.raises(NeedsAnswer, match="out of limits"):
        hand.do(do.AcceptMaster(1))
    hand.do(do.AcceptMaster(1, "1"))
    assert hand.state.here.master == 1
