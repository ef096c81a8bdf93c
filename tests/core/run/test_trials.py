"""Trial pieces: what to set next, by how much and how sure; scatter, a wrong sign, a radius for a diameter."""

from dataclasses import replace

import pytest

from ditto_run.core.run import events as do
from ditto_run.core.run.trials import Trials, trials_of
from ditto_run.core.shop import Machine, Wear
from tests.conftest import MILL, CoreHand, planned


def tried(*steps: tuple[float, str], machine: Machine = MILL) -> Trials:
    """Return the slot's trials: each time the wear is dialled by so much, a piece is cut and gauged."""
    hand = CoreHand(planned(24, stations="A"))
    for n, (amount, size) in enumerate(steps, 1):
        if amount:
            hand.do(do.Adjust("T03 diameter wear", f"{amount}"))
        if not size:
            break
        hand.do(do.StartCycle(), do.EndCycle(confirm=str(n)))
        for text in size.split():
            hand.do(do.TakeReading(n, 1, text, confirm=text))
        if n < len(steps):
            hand.do(do.Dispose(n, "trial", "a trial"))
    return slot(hand, machine)


def slot(hand: CoreHand, machine: Machine = MILL) -> Trials:
    return next(
        t for t in trials_of(hand.state, hand.state.here.setups[0], machine, {}) if t.of.name == "slot"
    )


def test_one_trial_cut_narrow_on_purpose_is_set_by_the_whole_difference() -> None:
    """Own derivation: 0.100 narrow; more diameter wear makes a slot narrower, so 0.100 less of it."""
    found = tried((0.1, "19.900"))
    assert (found.verdict, round(found.amount_mm, 6)) == ("set", -0.1)
    assert found.expect_mm == pytest.approx(20.0)
    assert found.low_mm < 20 < found.high_mm
    assert found.can_be_cut
    assert found.trials[0].setting_mm == 0.1


def test_the_line_through_two_trials_is_what_the_knob_does_here() -> None:
    """Own derivation: 0.1 dialled moved 0.086, so the slope is between that and 1, and 14 µm take 13 to 16."""
    found = tried((0.1, "19.900"), (-0.1, "19.985 19.987"))
    assert found.verdict == "set"
    assert 0.86 < -found.slope < 1.0
    assert found.seen == pytest.approx(0.86)
    assert -0.0165 < found.amount_mm < -0.0125
    assert found.trials[1].times == 2
    assert found.trials[1].apart_mm == pytest.approx(0.002)


def test_what_was_dialled_since_is_cut_before_more_is_said() -> None:
    found = tried((0.1, "19.900"), (-0.1, ""))
    assert (found.verdict, found.amount_mm) == ("cut", 0)
    assert found.expect_mm == pytest.approx(20.0, abs=0.002)


@pytest.mark.parametrize(
    ("size", "verdict"), [("20.007", "leave"), ("19.993", "leave"), ("20.008", "set"), ("19.992", "set")]
)
def test_what_is_near_the_middle_is_left(size: str, verdict: str) -> None:
    """Near is an eighth of the limits' distance: 7.5 µm of 60."""
    assert tried((0, size)).verdict == verdict


def test_trials_that_scatter_more_than_the_limits_change_the_process() -> None:
    found = tried((0, "20.060"), (0, "19.930"), (0, "20.045"), (0, "19.950"))
    assert (found.verdict, found.amount_mm) == ("process", 0)
    assert 2 * 1.28 * found.scatter_mm > found.zone_mm
    steady = tried((0, "20.040"), (0, "20.042"), (0, "20.041"))
    assert steady.verdict == "set"
    assert steady.amount_mm == pytest.approx(0.041, abs=0.002)


@pytest.mark.parametrize(
    ("second", "verdict", "share"),
    [("19.800", "effect", -1), ("20.100", "effect", 2), ("19.950", "effect", 0.5), ("19.995", "set", 0.95)],
)
def test_a_knob_that_does_another_thing_than_it_should_is_said(
    second: str, verdict: str, share: float
) -> None:
    found = tried((0.1, "19.900"), (-0.1, second))
    assert found.seen == pytest.approx(share)
    assert found.verdict in {verdict, "leave"} if verdict == "set" else found.verdict == verdict


def test_a_small_step_says_nothing_of_the_sign() -> None:
    assert tried((0, "19.980"), (-0.005, "19.978")).verdict != "effect"


def test_sign_and_radius_are_the_machines_own() -> None:
    radius = replace(MILL, wear=Wear(by="radius"))
    hand = CoreHand(planned(24, stations="A"))
    hand.do(do.StartCycle(), do.EndCycle(confirm="1"), do.TakeReading(1, 1, "19.900", confirm="19.900"))
    assert slot(hand, radius).amount_mm == pytest.approx(-0.05)
    minus = replace(MILL, wear=Wear(bigger_is="minus"))
    assert slot(hand, minus).amount_mm == pytest.approx(0.1)


def test_a_slot_that_is_too_wide_cannot_be_cut_again() -> None:
    assert not tried((0, "20.050")).can_be_cut
    assert tried((0, "19.950")).can_be_cut


def test_a_reading_in_mid_cut_is_its_own_kind_and_judges_nothing() -> None:
    hand = CoreHand(planned(24, stations="A"))
    hand.do(
        do.StartCycle(), do.EndCycle(confirm="1"), do.TakeReading(1, 1, "19.4", rough=True, confirm="19.4")
    )
    found = slot(hand)
    assert (found.trials, found.verdict) == ((), "cut")
    assert found.rough[0].left_mm == pytest.approx(0.6)
    hand.do(do.TakeReading(1, 1, "19.998", confirm="19.998"))
    found = slot(hand)
    assert (len(found.trials), len(found.rough), found.verdict) == (1, 1, "leave")


def test_once_the_first_piece_is_accepted_there_are_no_trials() -> None:
    hand = CoreHand(planned()).proven()
    assert trials_of(hand.state, hand.state.here.setups[0], MILL, {}) == ()


def test_the_range_holds_four_of_five() -> None:
    """Own derivation: pieces drawn about a line of slope 0.95 with 4 µm of scatter; the range holds the next of most."""
    from random import Random

    draw, held, many = Random(4), 0, 120
    for _ in range(many):
        true = lambda setting: 20.0 - 0.95 * setting + draw.gauss(0, 0.004)  # noqa: E731
        sizes = [true(0.1), true(0.0)]
        found = tried((0.1, f"{sizes[0]:.4f}"), (-0.1, f"{sizes[1]:.4f}"))
        at = found.now_mm + found.amount_mm
        held += found.low_mm <= true(at) <= found.high_mm
    assert 0.7 < held / many < 0.95
