"""Sizes as a machinist writes them. The forms are those of the issue and of common practice."""

from decimal import Decimal as D

import pytest

from ditto_run.core.errors import BadEntry, NeedsAnswer, SizeNotRead
from ditto_run.core.sizes import read_size, read_value, understood

READ = [  # text, job unit, unit, nominal, lower, upper
    ("12 H7", "mm", "mm", "12", "12", "12.018"),
    ("12H7", "mm", "mm", "12", "12", "12.018"),
    ("25 g6", "mm", "mm", "25", "24.980", "24.993"),
    ("20 ±0.03", "mm", "mm", "20", "19.97", "20.03"),
    ("20 +/- .03", "mm", "mm", "20", "19.97", "20.03"),
    ("20 +-0.03 mm", "in", "mm", "20", "19.97", "20.03"),
    (".500 +.000/-.001", "in", "in", ".5", ".499", ".5"),
    (".500 +.000 -.001", "in", "in", ".5", ".499", ".5"),
    ("0.612-0.616", "in", "in", ".614", ".612", ".616"),
    ("0.612 to 0.616", "in", "in", ".614", ".612", ".616"),
    ("0.616/0.612", "in", "in", ".614", ".612", ".616"),
    ("31.5 +0.1 -0", "mm", "mm", "31.5", "31.5", "31.6"),
    ("25 0/-0.013", "mm", "mm", "25", "24.987", "25"),
    ("10 +0.2/+0.1", "mm", "mm", "10", "10.1", "10.2"),
    ("10.3 +0.1", "mm", "mm", "10.3", "10.3", "10.4"),
    ("Ø7/8 ±1/64", "in", "in", ".875", ".859375", ".890625"),
    ("Ø7/8 ±1/64", "mm", "in", ".875", ".859375", ".890625"),
    ("1 1/4", "in", "in", "1.25", None, None),
    ("1-1/4", "in", "in", "1.25", None, None),
    ('7/8"', "mm", "in", ".875", None, None),
    ("3.250 +/- 3 thou", "in", "in", "3.25", "3.247", "3.253"),
    ("2.5 ±4 tenths", "in", "in", "2.5", "2.4996", "2.5004"),
    ("50 ±3 thou", "mm", "mm", "50", "49.9238", "50.0762"),
    ("12 ±15 µm", "mm", "mm", "12", "11.985", "12.015"),
    ("12,5 ±0,1", "mm", "mm", "12.5", "12.4", "12.6"),
    ("1,000 ±0,005", "mm", "mm", "1", ".995", "1.005"),
    ("1,250.5", "mm", "mm", "1250.5", None, None),
    ("86 ±.1 mm", "in", "mm", "86", "85.9", "86.1"),
    ("12 max", "mm", "mm", "12", None, "12"),
    ("min 3", "mm", "mm", "3", "3", None),
    ("#7 drill", "mm", "in", ".201", None, None),
    ("#7", "mm", "in", ".201", None, None),
    ("F drill", "mm", "in", ".257", None, None),
    ("seven over three quarters", "in", "in", ".757", None, None),
    ("six under five eighths", "in", "in", ".619", None, None),
    ("R3", "mm", "mm", "3", None, None),
    ("1 H7 in", "mm", "in", "1", "1", "1.00082677"),
]


@pytest.mark.parametrize(("text", "job_unit", "unit", "nominal", "lower", "upper"), READ)
def test_reads_as_a_machinist_means_it(text, job_unit, unit, nominal, lower, upper) -> None:
    size = read_size(text, job_unit)

    assert (size.unit, size.nominal) == (unit, D(nominal))
    assert size.lower == (None if lower is None else D(lower))
    assert size.upper == (None if upper is None else D(upper))


@pytest.mark.parametrize(
    ("text", "name", "nominal"),
    [
        ("M6", "M6×1", "6"),
        ("M8x1 6g", "M8×1 6g", "8"),
        ("1/4-20", "1/4-20 UNC", ".25"),
        ("#10-32 UNF 2B", "#10-32 UNF 2B", ".19"),
    ],
)
def test_threads_keep_their_name(text: str, name: str, nominal: str) -> None:
    size = read_size(text, "mm")

    assert (size.kind, size.name, size.nominal) == ("thread", name, D(nominal))


def test_an_angle_is_exact_in_minutes() -> None:
    size = read_size("45° ±20'", "mm")

    assert (size.lower, size.upper) == (D(160800), D(163200))  # 44°40′ and 45°20′ in seconds of arc
    assert understood(size) == "angle 45°, limits 44°40′ to 45°20′"


def test_decimals_typed_are_kept() -> None:
    assert "0.5000 in, limits 0.4990 to 0.5000 in" in understood(read_size(".5000 +.0000/-.0010", "in"))


@pytest.mark.parametrize("text", ["1,000", "12,500", "1,000 min"])
def test_a_comma_with_three_digits_is_asked_about(text: str) -> None:
    with pytest.raises(NeedsAnswer, match="two ways") as asked:
        read_size(text, "mm")
    assert len(asked.value.choices) == 2
    for chosen in asked.value.choices.values():
        read_size(chosen, "mm")


def test_a_thread_that_may_be_a_range_is_asked_about() -> None:
    with pytest.raises(NeedsAnswer) as asked:
        read_size("10-32", "in")
    assert set(asked.value.choices.values()) == {"#10-32 UNF", "10 to 32"}


@pytest.mark.parametrize(
    "text",
    [
        "",
        "banana",
        "12 ± 0.1 ± 0.2",
        "1/3",
        "1/0",
        "12 H99",
        "12 q7",
        "M6.7",
        "#99 drill",
        "1.2.3",
        "±0.1",
        "9" * 40,
    ],
)
def test_what_cannot_be_read_is_said(text: str) -> None:
    with pytest.raises(BadEntry) as refused:
        read_size(text, "mm")
    assert refused.value.problem.endswith(".")
    assert refused.value.remedy
    assert refused.value.field == "size"


@pytest.mark.parametrize(
    ("text", "words"), [("12-10", "backwards"), ("Ø0", "above zero"), ("999999999 mm", "100 m")]
)
def test_readable_nonsense_is_refused(text: str, words: str) -> None:
    with pytest.raises(BadEntry, match=words):
        read_size(text, "mm")


@pytest.mark.parametrize(
    ("text", "unit", "value", "decimals"),
    [
        ("19.977", "mm", "19.977", 3),
        ("−0.0008", "in", "-0.0008", 4),
        ("0.787 in", "mm", ".787", 3),
        ("44°30'", "arcsec", "160200", 0),
        ("44.5", "arcsec", "160200", 0),
    ],
)
def test_reads_one_measured_value(text, unit, value, decimals) -> None:
    found = read_value(text, unit)

    assert found[:2] == (D(value), decimals)


@pytest.mark.parametrize("text", ["20 ±0.1", "abc", "", "12 13", "M6"])
def test_a_reading_is_one_plain_number(text: str) -> None:
    with pytest.raises(SizeNotRead):
        read_value(text, "mm")
