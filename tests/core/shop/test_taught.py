"""What batches taught: means in which a batch counts once, and the nearest row for a plan."""

import pytest

from ditto_run.core.errors import BadEntry
from ditto_run.core.shop.drawers import drawer_of
from ditto_run.core.shop.taught import Taught, taught_for, taught_with

ONE = Taught("pace", 1.2, 1, 40, "cnc", "Mill 2", "6061-T6", ("4/1",))


def test_a_batch_more_is_the_mean_and_counts_once() -> None:
    """(1.2 + 1.0 + 1.4) / 3 = 1.2, each batch weighing the same."""
    two = taught_with(ONE, Taught("pace", 1.0, 1, 100, "cnc", "Mill 2", "6061-T6", ("5/1",)))
    assert (two.value, two.batches, two.pieces) == (pytest.approx(1.1), 2, 140)
    three = taught_with(two, Taught("pace", 1.4, 1, 10, "cnc", "Mill 2", "6061-T6", ("5/2",)))
    assert three.value == pytest.approx(1.2)
    assert taught_with(three, ONE) is three
    assert taught_with(None, ONE) is ONE


def test_the_nearest_row_is_taken_and_never_that_of_another_machine() -> None:
    any_way = Taught("pace", 1.5, 9, 900, "fixture", "Mill 2", "")
    rows = (any_way, ONE, Taught("pace", 2.0, 20, 900, "cnc", "Mill 3"))
    assert taught_for(rows, "pace", "cnc", "mill 2", "6061-T6") is ONE
    assert (
        taught_for(rows, "pace", "cnc", "Mill 2", "316") is any_way
    )  # that of a material is of that material
    assert taught_for(rows, "pace", "cnc", "Lathe 1") is None
    handling = (Taught("handling", 30, 1, 9, "fixture", "Mill 2"),)
    assert taught_for(handling, "handling", "cnc", "Mill 2") is None  # another way is loaded otherwise


@pytest.mark.parametrize(
    "row",
    [
        ONE,
        Taught("handling", 41.0, 2, 30, "several-up", "Lathe 1", "", ("4/1", "6/1")),
        Taught("setting up", 2400.0, 1, 0, "", "Mill 2"),
        Taught("scrap", 2.5, 3, 200, "", "Mill 2", "316"),
    ],
)
def test_a_row_of_the_register_reads_back(row: Taught) -> None:
    assert drawer_of("taught").value(row.texts, "mm") == row


@pytest.mark.parametrize(
    ("column", "text"),
    [("value", ""), ("value", "-3"), ("machine", ""), ("batches", "0"), ("figure", "mood"), ("name", "")],
)
def test_a_row_that_cannot_be_read_is_refused_at_its_column(column: str, text: str) -> None:
    with pytest.raises(BadEntry) as caught:
        drawer_of("taught").value({**ONE.texts, column: text}, "mm")
    assert caught.value.field == column


@pytest.mark.parametrize(
    ("name", "texts", "column"),
    [
        ("coolants", {"name": "oil", "what": ""}, "what"),
        ("coolants", {"name": "oil", "what": "oil", "operation": "hope"}, "operation"),
        ("unknown", {"name": ""}, "name"),
        ("unknown", {"name": "bar", "magnet": "maybe"}, "magnet"),
    ],
)
def test_other_new_registers_refuse_at_their_column(name: str, texts: dict[str, str], column: str) -> None:
    with pytest.raises(BadEntry) as caught:
        drawer_of(name).value(texts, "mm")
    assert caught.value.field == column


def test_what_was_not_said_of_unknown_material_stays_unsaid() -> None:
    found = drawer_of("unknown").value({"name": "red paint", "spark": "long, forked"}, "mm")
    assert (found.spark, found.guess, found.magnet) == ("long, forked", "", "not tried")
