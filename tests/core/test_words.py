"""What is said: one of a thing and many, the job's unit first, and no more than is known."""

import pytest

from ditto_run.core.close import report
from ditto_run.core.edits import SetSetup
from ditto_run.core.errors import BadEntry, NotNow
from ditto_run.core.run import events as do
from ditto_run.core.run.board import board
from ditto_run.core.run.pace import time_left
from ditto_run.core.sheet_kinds import sheet_of
from ditto_run.core.sheets import Known
from tests.conftest import CoreHand, planned

CONE = {"large": "1", "small": ".5", "length": "4", "angle": "30"}
POINT = {"large": "1", "length": "4", "angle": "30"}
ROLL = {"straights": "1 1", "angle": "90", "thickness": ".1", "radius": "1", "spacing": "9", "roller": "1"}
BAR = {"piece": "40", "kerf": ".1", "bar": "36", "remnant": "1", "across": "1"}
LINES = {"rows": "200 x 1 rail", "stock": "120", "kerf": ".1"}
PALLET = {"x": "4", "y": "6", "vacuum": "29 inHg", "altitude": "3000"}
PLAIN = {"angle", "altitude", "vacuum", "straights", "rows", "stock"}  # no length of one figure


@pytest.mark.parametrize(
    ("kind", "texts", "field"),
    [
        ("taper", CONE, "angle"),
        ("taper", POINT, "length"),
        ("bend", ROLL, "spacing"),
        ("cuts", BAR, "bar"),
        ("cuts", BAR | {"piece": ".05"}, "kerf"),
        ("mixed", LINES, "stock"),
        ("vacuum", PALLET, "vacuum"),
    ],
)
@pytest.mark.parametrize(("unit", "marks"), [("in", (" in (", " inHg (")), ("mm", (" mm (", " kPa ("))])
def test_a_refusal_speaks_in_the_jobs_unit_first(
    kind: str, texts: dict[str, str], field: str, unit, marks: tuple[str, str]
) -> None:
    inches = {name: text if name in PLAIN else f"{text} in" for name, text in texts.items()}
    with pytest.raises(BadEntry) as refused:
        sheet_of(kind).answer(inches, Known(unit))
    assert refused.value.field == field
    said = f"{refused.value.problem} {refused.value.remedy}"
    assert marks[kind == "vacuum"] in said


def closable(quantity: int) -> CoreHand:
    return CoreHand(planned(quantity, stations="A")).proven()


def test_one_piece_is_and_two_pieces_are() -> None:
    hand = closable(2)
    with pytest.raises(NotNow, match=r"1 piece is missing to 2\."):
        hand.do(do.CloseRun())
    with pytest.raises(NotNow, match=r"2 pieces are missing to 3\."):
        closable(3).do(do.CloseRun())


def test_a_good_piece_that_goes_on_to_the_next_setup_is_one() -> None:
    hand = CoreHand(planned(1, SetSetup("second side", 1, "vise"), stations="A")).proven()
    call = board(hand.state, hand.at).call
    assert (call.say, call.why) == ("Go on with second side.", "1 good piece went through this setup.")


def test_pieces_taken_without_gauging_are_said_with_the_good_ones() -> None:
    hand = closable(3)
    hand.load()
    hand.load()
    hand.do(do.TakeUngauged("2-3", "the ring went on"))
    assert board(hand.state, hand.at).call.say == (
        "All 3 of 3 are good, 2 of them taken without gauging. Close the batch."
    )
    assert report(hand.state).taken == 2
    assert report(closable(1).state).taken == 0


@pytest.mark.parametrize(
    ("gaps", "seen", "measured"), [([], 0, False), ([60], 1, False), ([60, 61, 62], 3, True)]
)
def test_a_pace_says_how_many_loads_it_is_from(gaps: list[float], seen: int, measured: bool) -> None:
    left = time_left(gaps, 5, 100)
    assert (left.seen, left.measured) == (seen, measured)


def test_nothing_is_ditto_before_there_is_a_master() -> None:
    hand = CoreHand(planned(2, stations="A"))
    hand.load("20.004")
    assert "Near the middle." in board(hand.state, hand.at).last_said
    hand.do(do.TakeReading(1, 2, "31.502"), do.AcceptMaster(1))
    hand.load("20.004")
    assert "Ditto." in board(hand.state, hand.at).last_said
