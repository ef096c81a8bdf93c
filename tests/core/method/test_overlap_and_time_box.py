"""Hands and machine over a load, and how far each way comes in the time there is: identities, and figures worked by hand."""

from decimal import Decimal as D
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ditto_run.core.errors import BadEntry
from ditto_run.core.method import Way, piece_times
from ditto_run.core.method.guess import exactly
from ditto_run.core.method.overlap import Overlap, overlap
from ditto_run.core.method.resting import resting, resting_text
from ditto_run.core.method.time_box import reached
from ditto_run.core.method.way import Attended, Ready, Rest
from ditto_run.core.sheet_kinds import sheet_of
from ditto_run.core.sheets import Known

SECONDS = st.integers(0, 900)


def load(way: Way) -> Overlap:
    return overlap(
        handling_s=way.load.likely_s,
        cut_s=way.cut.likely_s,
        per_load_s=way.per_load.likely_s,
        beside_s=way.deburr.likely_s,
        pieces=way.pieces_per_load,
        attended=way.attended,
    )


@given(
    SECONDS,
    st.integers(1, 900),
    SECONDS,
    SECONDS,
    st.integers(1, 12),
    st.sampled_from(["all the time", "start and stop", "runs alone"]),
)
def test_a_load_takes_as_long_as_its_pieces(
    handling: int, cut: int, changes: int, beside: int, pieces: int, attended: Attended
) -> None:
    """The picture and the sums are two derivations of one thing: load to load = pieces × time of a piece."""
    way = Way(
        1,
        "vise",
        load=exactly(handling),
        cut=exactly(cut),
        per_load=exactly(changes),
        deburr=exactly(beside),
        pieces_per_load=pieces,
        attended=attended,
    )
    found = load(way)
    assert found.period_s == pytest.approx(piece_times(way).elapsed_s * pieces)
    for doing in ("hands", "machine"):  # nobody does two things at once, nothing goes past the end
        spans = sorted((s.start_s, s.end_s) for s in found.spans if s.doing == doing)
        assert all(a[1] <= b[0] + 1e-6 for a, b in pairwise(spans)), spans
        assert not spans or (spans[0][0] >= 0 and spans[-1][1] <= found.period_s + 1e-6)
    busy = sum(s.end_s - s.start_s for s in found.spans if s.doing == "machine")
    assert found.machine_waits_s == pytest.approx(found.period_s - busy)


def test_the_demo_load_worked_by_hand() -> None:
    """3 pieces: change 3 × 0:45 = 2:15, cut 3 × 2:50 = 8:30, changes 2:48: 13:33; beside it 3 × 1:20 = 4:00, free 4:30."""
    found = overlap(
        handling_s=45, cut_s=170, per_load_s=168, beside_s=80, pieces=3, attended="start and stop"
    )
    assert (found.period_s, found.hands_free_s, found.machine_waits_s) == (813, 270, 135)


def test_hands_that_take_longer_than_the_cut_set_the_pace_and_it_is_said() -> None:
    answer = sheet_of("overlap").answer(
        {"handling": "0:20", "cut": "1:00", "beside": "1:30", "pieces": "2", "attended": "start and stop"},
        Known(),
    )
    assert answer.say == "The hands set the pace: 3:40 a load."
    assert [f.code for f in answer.findings] == ["hands-set-pace"]
    assert "1:00 a load longer" in answer.findings[0].problem


def test_hand_work_that_fits_is_named_and_work_that_does_not_is_not() -> None:
    texts = {"handling": "0:45", "cut": "2:50", "beside": "1:20", "pieces": "3", "attended": "start and stop"}
    fits = sheet_of("overlap").answer(texts, Known(hand_work=(("stamp", 60.0), ("file", 91.0))))
    assert fits.why == "Stamp fits in there: 3:00 a load."
    none = sheet_of("overlap").answer(texts, Known(hand_work=(("file", 91.0),)))
    assert none.why.startswith("No hand work of this job")


WAYS = [("one vise", 1200.0, 180.0), ("plate", 7200.0, 70.0)]


@pytest.mark.parametrize(
    ("time_s", "first", "pieces"),
    [
        (1200, "one vise", 0),  # ready, nothing cut
        (1379, "one vise", 0),
        (1380, "one vise", 1),  # to the second
        (1800, "one vise", 3),
        (
            10800,
            "one vise",
            50,
        ),  # (10800 − 1200) / 180 = 53.3; the plate (10800 − 7200) / 70 = 51.4; 50 are wanted
    ],
)
def test_how_far_each_way_comes_worked_by_hand(time_s: float, first: str, pieces: int) -> None:
    found = reached(WAYS, time_s, 50)
    assert (found[0].name, found[0].pieces) == (first, pieces)


def test_of_two_that_finish_the_sooner_one_is_first() -> None:
    found = reached(WAYS, 40_000, 50)
    assert [(one.name, one.pieces, one.whole_s) for one in found] == [
        ("one vise", 50, 10_200.0),
        ("plate", 50, 10_700.0),
    ]


def test_a_box_too_small_says_when_the_first_piece_comes() -> None:
    answer = sheet_of("time_box").answer({"time": "10 min"}, Known(quantity=8, ways=tuple(WAYS)))
    assert answer.say == "No piece is done in 10 min."
    assert answer.why == "One vise shows the first one after 23 min."
    assert [f.code for f in answer.findings] == ["box-too-small"]


@pytest.mark.parametrize(
    ("texts", "field"),
    [
        ({}, "time"),
        ({"time": "0"}, "time"),
        ({"time": "banana"}, "time"),
        ({"time": "1 h"}, "rows"),
        ({"time": "1 h", "rows": "vise; 20"}, "rows"),
        ({"time": "1 h", "rows": "vise; 20; -3"}, "rows"),
        ({"time": "1 h", "pieces": "0", "rows": "vise; 20; 3"}, "pieces"),
    ],
)
def test_a_time_box_is_refused_at_its_field(texts: dict[str, str], field: str) -> None:
    with pytest.raises(BadEntry) as caught:
        sheet_of("time_box").answer(texts, Known())
    assert caught.value.field == field


def test_what_a_way_rests_on_is_counted_and_nothing_is_not() -> None:
    way = Way(
        1,
        "vise",
        ready=(Ready("setting up 1", exactly(60)), Ready("setting up 2", exactly(60))),
        trials=2,
        load=exactly(30),
        cut=exactly(60),
        scrap=D(0),
        rests=(
            Rest("ready", "practice"),
            Rest("cut", "computed", "Tools"),
            Rest("scrap", "learned", "1 batch"),
            Rest("gauge", "practice"),
        ),
    )
    assert resting(way) == {"computed": 1, "learned": 1, "register": 0, "typed": 2, "practice": 2}
    assert resting_text(way) == (
        "1 figure from the plan, 1 from the shop's own batches, 2 typed here, 2 usual ones"
    )
