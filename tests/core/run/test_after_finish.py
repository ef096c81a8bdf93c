"""What a reading will be once finished; figures by hand."""

from decimal import Decimal as D

import pytest

from ditto_run.core.edits import SetCharacteristic, SetFinish, apply_edit
from ditto_run.core.run.after_finish import after_finish_words
from tests.conftest import SHOP, planned


@pytest.mark.parametrize(
    ("reading", "words"),
    [
        ("11.950", "After the zinc: 11.960 mm to 11.974 mm, inside 11.92 to 11.98 mm."),
        (
            "11.956",
            "After the zinc: 11.966 mm to 11.980 mm, inside 11.92 to 11.98 mm.",
        ),  # on the limit is inside
        ("11.957", "After the zinc: 11.967 mm to 11.981 mm, maybe outside 11.92 to 11.98 mm."),
        ("11.971", "After the zinc: 11.981 mm to 11.995 mm, outside 11.92 to 11.98 mm."),
        ("11.895", "After the zinc: 11.905 mm to 11.919 mm, outside 11.92 to 11.98 mm."),
    ],
)
def test_a_film_of_5_to_12_um_on_a_diameter_adds_10_to_24(reading: str, words: str) -> None:
    plan = apply_edit(SetFinish("zinc", "5", "12"), planned(4), SHOP).plan
    edit = SetCharacteristic(
        "shank", "11.95 ±0.03", "critical", finish=plan.finishes[0].key, face="outside diameter"
    )
    plan = apply_edit(edit, plan, SHOP).plan
    assert after_finish_words(plan.characteristics[-1], D(reading), plan.finishes) == words


def test_in_inches_the_film_is_counted_in_inches() -> None:
    """Half a thou on a face, twice: a bore of .5000 becomes .4990."""
    plan = apply_edit(SetFinish("hard coat", "0.5", "0.5"), planned(4, unit="in"), SHOP).plan
    edit = SetCharacteristic("bore", ".5000 ±.002", "critical", finish=plan.finishes[0].key, face="bore")
    plan = apply_edit(edit, plan, SHOP).plan
    words = after_finish_words(plan.characteristics[-1], D("0.5000"), plan.finishes)
    assert words.startswith("After the hard coat: 0.4990 in, inside ")


def test_nothing_is_said_where_no_finish_moves_it() -> None:
    plan = planned(4)
    assert after_finish_words(plan.characteristics[0], D(20), plan.finishes) == ""
