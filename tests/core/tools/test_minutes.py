"""Where the minutes of a load go, and how far one pair of hands goes; each worked by hand, the round against a simulation."""

import pytest
from hypothesis import example, given
from hypothesis import strategies as st

from ditto_run.core.errors import BadEntry
from ditto_run.core.method.minding import Minded, go_round
from ditto_run.core.plan.asked import asked_of, method_asked
from ditto_run.core.plan.worked import ShopKnown, work_out
from ditto_run.core.sheet_kinds import sheet_of
from ditto_run.core.sheets import Known
from ditto_run.core.shop.taught import Taught
from tests.conftest import MILL, planned

MINUTES = {
    "cut": "6:00",
    "air": "0:30",
    "change": "2:00",
    "hands": "0:45",
    "gauge": "0:40",
    "pieces": "3",
    "start": "48",
}


def test_a_load_from_floor_to_floor_worked_by_hand() -> None:
    """5:30 cut, 0:30 air, 2:00 change, 3 × 45 s hands; gauging fits beside the cut: 10:15 a load, 3:25 a piece, 16 loads."""
    answer = sheet_of("minutes").answer(MINUTES, Known())
    assert dict(answer.result.parts) == {
        "cutting": 330,
        "in the air": 30,
        "changes and moves": 120,
        "hands": 135,
    }
    assert answer.say == "3:25 a piece."
    assert answer.why.startswith("54% of it is cutting.")
    assert answer.facts[-1].value == "2 h 44"


def test_gauging_counts_where_it_does_not_fit_beside_the_cut() -> None:
    """150 s a piece against a cut of 120 s a piece leaves 30 s; every second load half of what it takes."""
    long = MINUTES | {"gauge": "2:30"}
    assert dict(sheet_of("minutes").answer(long, Known()).result.parts)["gauging"] == 90
    after = sheet_of("minutes").answer(MINUTES | {"beside": "no", "every": "2"}, Known())
    assert dict(after.result.parts)["gauging"] == pytest.approx(60)


def test_a_pace_that_was_taught_is_of_the_machine_alone() -> None:
    parts = dict(sheet_of("minutes").answer(MINUTES | {"pace": "1.1"}, Known()).result.parts)
    assert (parts["cutting"], parts["hands"]) == (pytest.approx(363), 135)


@pytest.mark.parametrize(
    ("texts", "field"),
    [
        ({"air": "6:01"}, "air"),
        ({"cut": "", "air": "", "change": "", "hands": "", "gauge": ""}, "cut"),
        ({"pieces": "0"}, "pieces"),
    ],
)
def test_what_cannot_be_is_refused_at_its_field(texts: dict[str, str], field: str) -> None:
    with pytest.raises(BadEntry) as refused:
        sheet_of("minutes").answer(MINUTES | texts, Known())
    assert refused.value.field == field


def test_the_question_takes_the_steps_the_stations_and_what_batches_taught() -> None:
    """Three stations, 60 s a piece, 20 s change, 45 s hands; a pace of 1.2 in two batches."""
    plan = planned(12)
    shop = ShopKnown({1: MILL}, taught=(Taught("pace", 1.2, 2, 48, "", "Mill 2"),))
    asked = asked_of(work_out(plan, shop), "minutes", f"setup {plan.setups[0].key}")
    assert asked.texts["cut"] == "180 s"
    assert (asked.texts["change"], asked.texts["hands"], asked.texts["pieces"]) == ("20 s", "45 s", "3")
    assert asked.texts["pace"] == "1.2"
    assert asked.answer is not None
    assert asked.answer.result.load_s == pytest.approx(1.2 * 200 + 135)


def simulated(machines: list[Minded], rounds: int = 3000) -> float:
    """Serve machines in a fixed order, each as soon as it stands and the hands are free; the length of a late round.

    A slower machine comes to set the pace a second a round, over what the first one was ahead at the start.
    """
    now, ready, began = 0.0, [0.0] * len(machines), []
    for _ in range(rounds):
        for at, one in enumerate(machines):
            now = max(now, ready[at])
            if at == 0:
                began.append(now)
            now += one.hands_s
            ready[at] = now + one.runs_s
    return began[-1] - began[-2]


TIME = st.integers(1, 400).map(float)


@example([(60.0, 3.0), (61.0, 1.0)])  # the pace is the second one's only after sixty rounds
@given(st.lists(st.tuples(TIME, TIME), min_size=1, max_size=5))
def test_a_round_is_that_of_a_simulation(times: list[tuple[float, float]]) -> None:
    machines = [Minded(f"M{n}", runs, hands) for n, (runs, hands) in enumerate(times)]
    found = go_round(machines)
    assert found.round_s == pytest.approx(simulated(list(found.order)))
    assert min(found.waits) >= 0
    assert found.hands_wait_s >= 0


def test_two_machines_worked_by_hand() -> None:
    """Mill runs 9:24 with 2:15 of hands, lathe 2:03 with 0:20: 11:39 a round, hands 2:35, free 9:04; the lathe stands 9:16."""
    rows = "Lathe 1; 2:03; 0:20\nMill 2; 9:24; 2:15"
    answer = sheet_of("minding").answer(
        {"rows": rows}, Known(hand_work=(("deburr", 41.0), ("polish", 3600.0)))
    )
    assert answer.say == "Free for 9:04 of each 11:39."
    assert (
        answer.why == "Mill 2 sets the pace; the others wait for their turn in it. There is room for deburr."
    )
    assert answer.result.order[0].name == "Mill 2"
    assert answer.result.waits == (0, 556)
    assert answer.result.serves == (5, 7)  # 699 / 135 and 143 / 20


def test_hands_that_are_never_free_set_the_pace() -> None:
    answer = sheet_of("minding").answer({"rows": "A; 60; 50\nB; 40; 30\nC; 40; 50"}, Known())
    assert answer.say == "The hands set the pace: a round every 2:10."
    assert answer.why == "A and B and C wait for them."


@pytest.mark.parametrize(
    "rows", ["", "A; 60", "A; 60; soon", "A; 0; 0", "; 60; 50", "\n".join(f"M{n}; 60; 5" for n in range(41))]
)
def test_machines_that_cannot_be_read_are_refused(rows: str) -> None:
    with pytest.raises(BadEntry) as refused:
        sheet_of("minding").answer({"rows": rows}, Known())
    assert refused.value.field == "rows"


def test_one_machine_is_not_asked_about() -> None:
    worked = work_out(planned(12), ShopKnown({1: MILL}))
    assert "minding" not in [one.question for one in method_asked(worked)]
