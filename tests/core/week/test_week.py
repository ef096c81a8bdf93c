"""The week: held to trying every order, and to what has to hold of any."""

from itertools import permutations

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from ditto_run.core.week.laid_out import FULL, LaidOut, WeekTask, lay_out, worth
from ditto_run.core.week.proposed import moved, propose


@st.composite
def weeks(draw: st.DrawFn, most: int = 5) -> list[WeekTask]:
    tasks: list[WeekTask] = []
    for n in range(draw(st.integers(1, most))):
        after = draw(st.sampled_from(["", *(one.key for one in tasks)]))
        machine = draw(st.sampled_from(["Mill 2", "Lathe 1"]))
        minutes, hands = draw(st.integers(1, 30)), draw(st.sampled_from([0, 30, 60, 100]))
        release, due = draw(st.sampled_from([0, 0, 15])), draw(st.sampled_from([None, 20, 40]))
        tasks.append(WeekTask(f"t{n}", machine, minutes, hands, release, due, after))
    return tasks


def holds(tasks: list[WeekTask], found: tuple[LaidOut, ...], pairs: int) -> None:
    """Machines and hands are never asked for more than there is, nothing begins too early."""
    known, at = {task.key: task for task in tasks}, {one.key: one for one in found}
    assert set(known) == set(at)
    for one in found:
        task = known[one.key]
        assert one.end - one.start == task.minutes
        assert one.start >= task.release
        assert one.late == (0 if task.due is None else max(one.end - task.due, 0))
        assert not task.after or one.start >= at[task.after].end
        others = [other for other in found if other.key != one.key and other.machine == one.machine]
        assert all(other.end <= one.start or one.end <= other.start for other in others)
        together = [other for other in found if other.start <= one.start < other.end]
        assert sum(known[other.key].hands for other in together) <= FULL * pairs


@settings(deadline=None, max_examples=60)
@given(weeks(), st.integers(1, 2), st.randoms(use_true_random=False))
def test_any_order_is_laid_out_so_that_it_can_be_done(tasks: list[WeekTask], pairs: int, chance) -> None:
    order = [task.key for task in tasks]
    chance.shuffle(order)
    holds(tasks, lay_out(tasks, order, pairs), pairs)


@settings(deadline=None, max_examples=25)
@given(weeks(4), st.integers(1, 2))
def test_no_order_of_all_is_better_than_the_one_proposed(tasks: list[WeekTask], pairs: int) -> None:
    now = [task.key for task in tasks]
    found = lay_out(tasks, propose(tasks, now, pairs), pairs)
    holds(tasks, found, pairs)
    assert worth(found) <= min(worth(lay_out(tasks, order, pairs)) for order in permutations(now))


def test_the_one_that_is_due_first_goes_first_and_is_in_time() -> None:
    """By hand: 60 and 20 min on one machine, the short one due at 30: first it is in time, second it is 50 min late."""
    tasks = [WeekTask("long", "Mill 2", 60, 30), WeekTask("short", "Mill 2", 20, 30, due=30)]
    assert worth(lay_out(tasks, ["long", "short"])) == (50, 140)
    assert propose(tasks, ["long", "short"]) == ("short", "long")
    assert worth(lay_out(tasks, ["short", "long"])) == (0, 100)


def test_what_runs_already_goes_on_whatever_is_due() -> None:
    tasks = [WeekTask("new", "Mill 2", 20, 30, due=30), WeekTask("on", "Mill 2", 60, 30, runs=True)]
    order = propose(tasks, ["new", "on"])
    assert [one.key for one in lay_out(tasks, order)] == ["on", "new"]


def test_two_jobs_by_hand_follow_one_another_with_one_pair_and_not_with_two() -> None:
    tasks = [WeekTask("a", "Hand lathe", 30, FULL), WeekTask("b", "Old mill", 30, FULL)]
    assert [one.start for one in lay_out(tasks, ["a", "b"], 1)] == [0, 30]
    assert [one.start for one in lay_out(tasks, ["a", "b"], 2)] == [0, 0]


def test_an_order_that_is_as_good_stays_and_the_same_jobs_give_the_same() -> None:
    tasks = [WeekTask("a", "Mill 2", 30, 0), WeekTask("b", "Mill 2", 30, 0)]
    assert propose(tasks, ["b", "a"]) == ("b", "a")
    mixed = [
        WeekTask(f"t{n}", f"M{n % 3}", 10 + 7 * n % 40, 20 + 10 * (n % 5), due=60 + 5 * n) for n in range(20)
    ]
    keys = [task.key for task in mixed]
    assert propose(mixed, keys) == propose(mixed, keys)
    assert propose([], []) == ()


def test_a_longer_time_never_ends_anything_sooner_on_one_machine() -> None:
    tasks = [WeekTask(f"t{n}", "Mill 2", 10 + n, 0, due=25) for n in range(5)]
    keys = [task.key for task in tasks]
    longer = {task.key: task.minutes + 5 for task in tasks}
    for short, long in zip(lay_out(tasks, keys), lay_out(tasks, keys, 1, longer), strict=True):
        assert long.end > short.end
        assert long.late >= short.late


@pytest.mark.parametrize(
    ("key", "by", "order"),
    [
        ("c", -1, "cba"),
        ("a", 1, "cba"),
        ("a", -1, "abc"),
        ("c", 1, "abc"),
        ("b", 1, "abc"),
        ("none", 1, "abc"),
    ],
)
def test_a_job_is_moved_past_its_neighbour_on_the_same_machine_only(key: str, by: int, order: str) -> None:
    machine_of = {"a": "Mill 2", "b": "Lathe 1", "c": "Mill 2"}
    assert "".join(moved(("a", "b", "c"), key, by, machine_of)) == order


def test_unknown_keys_in_an_order_are_passed_by_and_new_jobs_come_last() -> None:
    tasks = [WeekTask("a", "Mill 2", 10, 0), WeekTask("b", "Mill 2", 10, 0)]
    assert [one.key for one in lay_out(tasks, ["gone", "b"])] == ["b", "a"]


def test_what_runs_goes_on_where_there_are_not_hands_for_all_of_it_and_the_rest_waits() -> None:
    tasks = [
        WeekTask("a", "Lathe 1", 30, 100, runs=True),
        WeekTask("b", "Mill 2", 60, 40, runs=True),
        WeekTask("c", "Saw", 10, 80, due=20),
        WeekTask("d", "Press", 10, 60),
    ]
    at = {one.key: one.start for one in lay_out(tasks, ("c", "d", "a", "b"))}
    assert at == {"a": 0, "b": 0, "c": 60, "d": 30}
    assert propose(tasks, ("c", "d", "a", "b")) == ("c", "d", "a", "b")
