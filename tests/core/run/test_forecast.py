"""When it will be done: by plan and clock, round the breaks of the day; where the time went; what fits before a time."""

from dataclasses import replace
from datetime import datetime, timedelta

import pytest

from ditto_run.core.edits import SetCharacteristic, SetSetup, SetStation, apply_edit
from ditto_run.core.part import Heading
from ditto_run.core.plan import Plan
from ditto_run.core.run import events as do
from ditto_run.core.run.forecast import CycleSoFar, ends_of, fits, late_words, learning, so_far, spent
from ditto_run.core.run.outlook import pace
from ditto_run.core.run.resumed import resumed
from ditto_run.core.shop.day import ShopDay, read_day
from tests.conftest import SHOP, CoreHand, planned

NO = ShopDay()
WALL = datetime(2026, 5, 12, 7, 0).astimezone()


def at_wall(hand: CoreHand, at: datetime = WALL) -> CoreHand:
    """Let the next line be written a minute after a wall time."""
    hand.at = at
    return hand


def timed(hand: CoreHand, loads: int, cycle_s: float = 300.0, hand_s: float = 60.0) -> CoreHand:
    """Cut loads that take so long each, with so long between them."""
    for _ in range(loads):
        hand.at += timedelta(seconds=hand_s - 60)
        hand.do(do.StartCycle())
        hand.at += timedelta(seconds=cycle_s - 60)
        hand.do(do.EndCycle())
    return hand


def worked(quantity: int = 60, loads: int = 6) -> CoreHand:
    """Return a run with a master and some steady loads since seven."""
    hand = at_wall(CoreHand(planned(quantity))).proven()
    return timed(hand, loads)


def case(hand: CoreHand, now: datetime | None = None, day: ShopDay = NO) -> CycleSoFar:
    found = so_far(hand.state, now or hand.at, day)
    assert found is not None
    return found[1]


def test_the_finish_follows_the_clock_and_not_the_plan() -> None:
    """Own derivation: 13 loads to go at 6 min are 78 min; the plan says 200 s of cutting and 135 s of hands."""
    hand = worked()
    ends = ends_of(hand.state, hand.at, NO)
    assert ends is not None
    assert (ends.likely - hand.at).total_seconds() == pytest.approx(13 * 360, rel=0.08)
    assert ends.low < ends.likely < ends.high


def test_lunch_and_the_night_are_counted_once_they_are_known() -> None:
    hand = worked()
    plain = ends_of(hand.state, hand.at, NO)
    lunch = (plain.likely - timedelta(minutes=20)).astimezone()
    day = read_day("", f"{lunch:%H:%M} 45", "7")
    with_it = ends_of(hand.state, hand.at, day)
    assert timedelta(minutes=35) < with_it.likely - plain.likely < timedelta(minutes=50)
    over = read_day(f"6:00 to {lunch:%H:%M}", "", "7")
    assert ends_of(hand.state, hand.at, over).likely.astimezone().strftime("%d %H") == "13 06"


def test_a_night_in_the_log_is_no_stop_with_or_without_the_hours() -> None:
    hand = worked(90, 8)
    before = ends_of(hand.state, hand.at, NO)
    left = before.likely - hand.at
    hand.at += timedelta(hours=15)
    timed(hand, 1)
    for day in (NO, read_day("7:00 to 8:05", "", "7")):
        found = spent(case(hand, day=day))
        assert found.stops == 0
        assert found.breaks == pytest.approx(15 * 3600, rel=0.05)
    after = ends_of(hand.state, hand.at, NO)
    assert after.likely - hand.at < left


def test_a_wait_is_not_taken_for_pace_and_the_finish_moves_with_it() -> None:
    hand = worked()
    ends = ends_of(hand.state, hand.at, NO)
    later = ends_of(hand.state, hand.at + timedelta(hours=2), NO)
    assert timedelta(minutes=115) < later.likely - ends.likely < timedelta(minutes=125)


def test_what_is_running_counts_as_done_when_it_usually_is() -> None:
    hand = worked(24, 6)  # one load to go
    hand.do(do.StartCycle())
    assert ends_of(hand.state, hand.at, NO).likely - hand.at == timedelta(seconds=300)
    late = hand.at + timedelta(minutes=9)
    assert ends_of(hand.state, late, NO).likely == late


def test_an_interruption_stands_apart_from_the_hands() -> None:
    hand = worked(60, 5)
    hand.at += timedelta(minutes=25)
    timed(hand, 1)
    found = spent(case(hand))
    assert (found.stops, found.breaks) == (1, 180)  # and proving the first piece
    assert found.stood == pytest.approx(25 * 60, abs=30)
    assert found.cut == pytest.approx(6 * 300 + 60)


def test_learning_is_said_only_where_the_clock_shows_it() -> None:
    assert learning(case(worked(90, 12))) is None
    hand = at_wall(CoreHand(planned(90))).proven()
    for n in range(1, 25):
        timed(hand, 1, hand_s=60 + 400 * n**-0.6)
    assert learning(case(hand)) == pytest.approx(0.75, abs=0.12)


def test_what_fits_before_a_time_is_surely_less_than_likely() -> None:
    hand = worked()
    one = case(hand)
    sure, likely = fits(one, one.now + 3600)
    assert 0 < sure <= likely
    assert likely in {9, 10}
    assert fits(one, one.now) == (0, 0)
    assert fits(one, one.now + 60) == (0, 0)


def test_without_a_plan_and_a_clock_it_is_not_known() -> None:
    plan = Plan(Heading("Pin", 6, "mm"))
    for edit in (SetCharacteristic("across", "20 ±0.03 mm"), SetSetup("only side", 1, "collet", "stop", "")):
        plan = apply_edit(edit, plan, SHOP).plan
    key = plan.setups[0].key
    plan = replace(
        apply_edit(SetStation(key, "A", "collet", "G54"), plan, SHOP).plan,
        characteristics=tuple(replace(c, setup=key) for c in plan.characteristics),
    )
    hand = CoreHand(plan)
    assert ends_of(hand.state, hand.at, NO) is None
    assert not pace(hand.state, hand.at).known
    timed(hand, 1)
    assert pace(hand.state, hand.at).known


@pytest.mark.parametrize(("hour", "late"), [(5, True), (7, False), (15, False), (16, True), (22, True)])
def test_a_late_hour_is_said_once_the_day_is_over(hour: int, late: bool) -> None:
    day = read_day("7:00 to 16:00", "", "5")
    assert bool(late_words(day, WALL.replace(hour=hour))) is late
    assert late_words(NO, WALL.replace(hour=hour)) == ""


def test_who_comes_back_is_told_where_each_station_stands() -> None:
    hand = worked(60, 1)
    hand.do(do.SetComposition({"A": 1, "B": 0, "C": 1}))
    found = resumed(hand.state, (6,))
    by = {one.label: one for one in found.stations}
    assert by["B"].there == "switched off"
    assert by["A"].there == "4 came off last; 7 goes in"
    assert by["A"].last[1][0] == "slot"
    assert "(piece 1)" in by["A"].last[1][1]
    hand.do(do.StartCycle())
    assert {one.there for one in resumed(hand.state, ()).stations} >= {"7 is being cut", "8 is being cut"}
    assert found.gauge_first == (6,)
