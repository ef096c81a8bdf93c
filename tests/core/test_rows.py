"""Rows of figures: what parts them, their units, and what is asked about."""

from decimal import Decimal as D

import pytest

from ditto_run.core.entry.rows import length_times, lengths_of
from ditto_run.core.errors import BadEntry, NeedsAnswer


@pytest.mark.parametrize(
    ("row", "unit", "mm"),
    [
        ("0 1 .410 .430", "in", ["0", "25.4", "10.414", "10.922"]),
        ("0 1/2 20 mm", "in", ["0", "12.7", "20"]),
        ("12-1/4 1-1/2", "in", ["311.15", "38.1"]),
        ("12; 1/4", "in", ["304.8", "6.35"]),
        ("12,5 30,25", "mm", ["12.5", "30.25"]),
        ("−3; +2, 1 in", "mm", ["-3", "2", "25.4"]),
    ],
)
def test_a_row_is_read_figure_by_figure(row: str, unit, mm: list[str]) -> None:
    assert lengths_of(row, unit, "rows") == [D(one) for one in mm]


@pytest.mark.parametrize(
    ("row", "words"),
    [
        ("0.5 12 1/4", "“12 1/4” can be one figure or two"),
        ("0 1 banana", "“banana” is not a length"),
        ("1e9", "“1e9” is not a length"),
        ("999999 999999", "over 100 m"),
        ("1/3", "on no rule"),
    ],
)
def test_what_a_row_cannot_mean_is_named_at_its_field(row: str, words: str) -> None:
    with pytest.raises(BadEntry, match=words) as refused:
        lengths_of(row, "mm", "rows")
    assert refused.value.field == "rows"


def test_a_comma_with_three_figures_is_asked_about_at_the_field() -> None:
    with pytest.raises(NeedsAnswer) as asked:
        lengths_of("12,500 3", "mm", "touches")
    assert asked.value.field == "touches"


@pytest.mark.parametrize(
    ("row", "found"),
    [
        ("420 x 12 strut", (D(420), 12, "strut")),
        ("20 in x 4", (D(508), 4, "")),
        ("1740 x 1 A7 offcut", (D(1740), 1, "A7 offcut")),
        ("3000", (D(3000), None, "")),
        ("1 1/2 in x 4", (D("38.1"), 4, "")),
        ("20 x 4.5", None),
        ("strut", None),
    ],
)
def test_lengths_wanted(row: str, found) -> None:
    assert length_times(row, "mm", "rows") == found
