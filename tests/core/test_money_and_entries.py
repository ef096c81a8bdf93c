"""Money in whole cents, and entries read at the edge of a sheet: what is typed is read exactly or refused at its field."""

from decimal import Decimal
from fractions import Fraction

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ditto_run.core.errors import BadEntry, DittoError, NeedsAnswer
from ditto_run.core.money import money_text, read_cents
from ditto_run.core.sheets import Entries, StockSize
from ditto_run.core.units import degrees_text, length_text, steps_of

D = Decimal


@pytest.mark.parametrize(
    ("text", "cents"),
    [
        ("", 0),
        ("55", 5500),
        ("55.5", 5550),
        ("55,50", 5550),
        ("€18.50", 1850),
        ("1,250.00", 125000),
        ("0.01", 1),
        (".50", 50),
        (" 7 ", 700),
    ],
)
def test_sums_of_money(text: str, cents: int) -> None:
    assert read_cents(text, "rate") == cents


@pytest.mark.parametrize("text", ["free", "-3", "−3", "1.234.5", "12.345", "99999999", "1e5", "€"])
def test_what_is_no_sum_is_refused(text: str) -> None:
    with pytest.raises(BadEntry) as caught:
        read_cents(text, "rate")
    assert caught.value.field == "rate"


@given(st.integers(0, 99_999))
def test_money_shown_below_a_thousand_reads_back_the_same(cents: int) -> None:
    assert read_cents(money_text(cents), "x") == cents


def test_large_sums_are_shown_in_whole_units() -> None:
    assert money_text(123_456, "€") == "€1,235"
    assert money_text(99_999) == "999.99"
    assert money_text(100_000) == "1,000"


def entries(unit: str = "mm", **texts: str) -> Entries:
    return Entries(texts, unit, {"length": "Length", "count": "Count"})  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("text", "unit", "millimetres"),
    [
        ("12.5", "mm", "12.5"),
        ("12,5", "mm", "12.5"),
        ("1/2", "mm", "12.7"),
        (".5", "in", "12.7"),
        ("12.7 mm", "in", "12.7"),
        ("1/2 in", "mm", "12.7"),
        ("#7", "mm", "5.1054"),
        ("500 thou", "mm", "12.7"),
        ("Ø12", "mm", "12"),
    ],
)
def test_lengths_are_read_exactly_in_either_unit(text: str, unit: str, millimetres: str) -> None:
    assert entries(unit, length=text).mm("length") == D(millimetres)


@pytest.mark.parametrize("text", ["", "banana", "0", "-3", "1e99", "200000", "12 14", "±"])
def test_a_length_that_cannot_be_is_refused_at_its_field(text: str) -> None:
    with pytest.raises(BadEntry) as caught:
        entries(length=text).mm("length")
    assert caught.value.field == "length"
    assert caught.value.problem
    assert caught.value.remedy


def test_a_doubtful_comma_is_asked_about_at_its_field() -> None:
    with pytest.raises(NeedsAnswer) as caught:
        entries(length="1,000").mm("length")
    assert caught.value.field == "length"
    assert len(caught.value.choices) == 2


@given(st.integers(1, 10_000_000))
def test_any_plain_length_comes_back_exactly(microns: int) -> None:
    value = D(microns) / 1000
    assert entries(length=f"{value:f}").mm("length") == value
    assert entries("in", length=f"{value / 1000:f}").mm("length") == value / 1000 * D("25.4")


@pytest.mark.parametrize(
    ("text", "low", "high"),
    [("", 1, 5), ("x", 1, 5), ("6", 1, 5), ("0", 1, 5), ("nan", 1, 5), ("inf", 1, 5), ("-1", 0, 5)],
)
def test_numbers_outside_their_ends_are_refused(text: str, low: float, high: float) -> None:
    with pytest.raises(BadEntry) as caught:
        entries(count=text).number("count", low, high)
    assert caught.value.field == "count"


def test_numbers_wholes_choices_and_angles() -> None:
    given_ = entries(count="3", percent="75 %", angle="44°30'", word="yes", half="2.5", time="1:05")
    assert given_.number("count", 3, 3) == 3
    assert given_.percent("percent", 0, 100) == 75
    assert given_.number("missing", 0, 9, 4.5) == D("4.5")
    assert given_.whole("count", 1, 9) == 3
    assert given_.degrees("angle", 0, 90) == 44.5
    assert given_.degrees("missing", 0, 90) is None
    assert given_.choice("word", ("no", "yes")) == "yes"
    assert given_.choice("missing", ("no", "yes")) == "no"
    assert given_.seconds("time") == 65
    for refused in (
        lambda: given_.whole("half", 1, 9),
        lambda: given_.choice("word", ("a", "b")),
        lambda: given_.degrees("angle", 0, 40),
        lambda: given_.degrees("word", 0, 40),
    ):
        with pytest.raises(BadEntry):
            refused()


def test_pasted_lines_have_a_limit() -> None:
    assert entries(rows="a\n\n b\t1 \n").lines("rows") == ["a", "b 1"]
    with pytest.raises(BadEntry, match="2,001 lines"):
        entries(rows="x\n" * 2001).lines("rows")


@given(st.text(max_size=40))
def test_no_text_breaks_a_reader(text: str) -> None:
    found = entries(length=text, count=text, angle=text)
    for read in (
        lambda: found.mm("length"),
        lambda: found.number("count", 0, 9),
        lambda: found.degrees("angle", 0, 9),
        lambda: found.size_mm("length"),
    ):
        try:
            read()
        except DittoError as refusal:
            assert refusal.field in {"length", "count", "angle"}


def test_measured_stock_stands_in_for_the_nominal() -> None:
    plate = StockSize(1, "plate", "3", "2.87")
    assert plate.used_mm("mm") == D("2.87")
    assert plate.differs("mm")
    assert StockSize(1, "plate", "3").used_mm("mm") == 3
    assert not StockSize(1, "bar", "12", "11.9").differs("mm")
    assert StockSize(1, "bar", "1/2 in", "12.6 mm").used_mm("in") == D("12.6")
    assert StockSize(1, "bar", "1/2 in", "12.6 mm").nominal_mm("mm") == D("12.7")


@given(st.integers(1, 5000), st.integers(1, 500))
def test_equal_steps_are_never_larger_than_the_largest(whole: int, largest: int) -> None:
    length, step = D(whole) / 7, D(largest) / 11
    count = steps_of(length, step)
    assert Fraction(length) / count <= Fraction(
        step
    )  # in fractions: a quotient of decimals is cut off itself
    assert count == 1 or Fraction(length) / (count - 1) > Fraction(step)


def test_lengths_and_angles_in_words() -> None:
    assert length_text(D("25.4"), "in") == "1.0000 in (25.400 mm)"
    assert length_text(1.5, "mm", 1) == "1.5 mm (0.06 in)"
    assert degrees_text(-1.5) == "−1.500° (−1°30′)"
    assert degrees_text(0.9999) == "1.000° (1°00′)"


def test_equal_steps_are_counted_to_the_last_figure() -> None:
    """A quotient of decimals is cut off after 28 figures: a hair over three steps came out as three."""
    assert steps_of(D("0.3"), D("0.1")) == 3
    assert steps_of(D("0.3000000000000000000000000001"), D("0.1")) == 4
    assert steps_of(D("1000000000.0000000000000000000001"), D("0.5")) == 2_000_000_001
