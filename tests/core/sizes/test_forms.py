"""The forms of faults.md and their neighbours: what a drawing, a colleague or a gauge says, and how it is understood."""

from decimal import Decimal as D

import pytest

from ditto_run.core.errors import BadEntry, NeedsAnswer, SizeNotRead
from ditto_run.core.sizes import read_size, size_text, understood
from ditto_run.core.threads import read_thread

LENGTHS = [  # text, job unit, unit, nominal, lower, upper
    ("6 thou under 5/8", "in", "in", ".619", None, None),
    ("half a thou over 1/2", "in", "in", ".5005", None, None),
    ("2 tenths under .500", "in", "in", ".4998", None, None),
    ("two tenths over half", "in", "in", ".5002", None, None),
    ("an eighth", "mm", "in", ".125", None, None),
    ("one and a quarter", "in", "in", "1.25", None, None),
    ("an inch and a half", "mm", "in", "1.5", None, None),
    ("seven thirty-seconds", "in", "in", ".21875", None, None),
    ("one hundred and twenty five thou", "in", "in", ".125", None, None),
    ("two point five", "mm", "mm", "2.5", None, None),
    ("2 hundredths over 12 mm", "in", "mm", "12.02", None, None),
    ("2.5 -.1", "mm", "mm", "2.5", "2.4", "2.5"),
    (".500-.001", "in", "in", ".5", ".499", ".5"),
    ("12 0 -0.05", "mm", "mm", "12", "11.95", "12"),
    ("12 -0.05 0", "mm", "mm", "12", "11.95", "12"),
    ("12 +0.05 0", "mm", "mm", "12", "12", "12.05"),
    ("25 (-0.020/-0.041)", "mm", "mm", "25", "24.959", "24.98"),
    ("12 H7 (+0.018/0)", "mm", "mm", "12", "12", "12.018"),
    ("12 H7 (12.018/12.000)", "mm", "mm", "12", "12", "12.018"),
    ("12 H 7", "mm", "mm", "12", "12", "12.018"),
    ("12 mm H7", "in", "mm", "12", "12", "12.018"),
    ("2.498…2.500", "mm", "mm", "2.499", "2.498", "2.5"),
    ("between 2.4 and 2.5", "mm", "mm", "2.45", "2.4", "2.5"),
    ("at least 3", "mm", "mm", "3", "3", None),
    ("no more than 3", "mm", "mm", "3", None, "3"),
    ("≤ 2.5", "mm", "mm", "2.5", None, "2.5"),
    (">= 2.5", "mm", "mm", "2.5", "2.5", None),
    (".500 plus .001 minus .000", "in", "in", ".5", ".5", ".501"),
    ("⅜", "mm", "in", ".375", None, None),
    ("12MM", "in", "mm", "12", None, None),
    ("2 in.", "mm", "in", "2", None, None),
    ("2.5 cm", "mm", "mm", "25", None, None),
    ('25.40 mm (1.000")', "mm", "mm", "25.4", None, None),
    ("1.000 [25.4]", "in", "in", "1", None, None),
    ("0.1-0.3", "mm", "mm", ".2", ".1", ".3"),
    ("12 REF", "mm", "mm", "12", None, None),
    ("(12)", "mm", "mm", "12", None, None),
    ("12 ±0.1 REF", "mm", "mm", "12", None, None),
    ("1x45°", "mm", "mm", "1", None, None),
    ("1 x 45°", "mm", "mm", "1", None, None),
    ("C0.5", "mm", "mm", ".5", None, None),
    ("perpendicular 0.003", "in", "in", "0", None, ".003"),
    ("⌖ 0.2", "mm", "mm", "0", None, ".2"),
    (".001 TIR", "in", "in", "0", None, ".001"),
    ("17/64 drill", "mm", "in", ".265625", None, None),
    ("drill F", "mm", "in", ".257", None, None),
    ("1/8 NPT", "mm", "in", ".405", None, None),
    ("4-40 UNC", "mm", "in", ".112", None, None),
    ('1/4"-20', "in", "in", ".25", None, None),
    (".250-20", "in", "in", ".25", None, None),
    ("0-80", "in", "in", ".060", None, None),
    ("G1/4", "in", "mm", "13.157", None, None),
    ("12 a9", "mm", "mm", "12", "11.667", "11.710"),
]
ANGLES = [  # text, nominal, lower, upper in degrees
    ("29.5° to 30.5°", "30", "29.5", "30.5"),
    ("30° +1°/-0°", "30", "30", "31"),
    ("45 deg ±30'", "45", "44.5", "45.5"),
    ("12°30'36\"", "12.51", None, None),
    ("30° max", "30", None, "30"),
]
NOTED = [
    ("4x Ø6.5 THRU", "4 ×, through", "diameter"),
    ("2X Ø6", "2 ×", "diameter"),
    ("20 AF", "across flats", "length"),
    ("20 SQ", "square", "length"),
    ("12 TYP", "typical", "length"),
    ("M5 tapped 8 deep", "8 deep", "thread"),
    ("M6 x 1 x 20", "20 deep", "thread"),
    ("3 R", "", "radius"),
    ("Φ12", "", "diameter"),
]
THREADS = [
    ("M8X1", "M8×1"),
    ("m8", "M8×1.25"),
    ("M8*1", "M8×1"),
    ("M10x1.25 LH", "M10×1.25 LH"),
    ("1/4-20 UNC-2B LH", "1/4-20 UNC 2B LH"),
    ('1"-8 UNC', "1-8 UNC"),
    ("No. 10-32", "#10-32 UNF"),
    ("1/4 BSP", "G1/4"),
    ("Tr20x4", "Tr20×4"),
    ("1-1/4-7 BSW", "1-1/4-7 BSW"),
    ("1/4 UNC", "1/4-20 UNC"),
    ("12 x 1.5 mm 55°", "12 × 1.5 mm 55°"),
]
NUMBERED = [
    ("4-40", ".112"),
    ("1-8", "1"),
    ("2-56", ".086"),
    ("0-80", ".060"),
    ("1-72", ".073"),
    ("2-4.5", "2"),
    ("6-4", "6"),
]
ASKED = [  # text, job unit, what it may mean
    ("3-48", "mm", {"#3-48 UNC", "3 to 48"}),
    ("1-8", "in", {"1-8 UNC", "1 to 8"}),
    ("1-5", "mm", {"1 to 5"}),
    ("M6x20", "mm", {"M6 20 deep"}),
    ("12 H7", "in", {"12 mm H7", "12 in H7"}),
    ("2 over 12", "mm", {"2 hundredths over 12 mm", "2 thou over 12 in"}),
    ("12 ±2 tenths", "mm", {"12 mm ±0.2 mm", "12 mm ±0.0002 in"}),
    ("5 mil", "mm", {"5 mm", "5 thou"}),
    ("25 H7 (+0.03/0)", "mm", {"25 mm H7", "25 to 25.03 mm"}),
]


@pytest.mark.parametrize(("text", "job_unit", "unit", "nominal", "lower", "upper"), LENGTHS)
def test_what_is_said_of_a_length(text, job_unit, unit, nominal, lower, upper) -> None:
    size = read_size(text, job_unit)
    assert (size.unit, size.nominal, size.lower, size.upper) == (
        unit,
        D(nominal),
        None if lower is None else D(lower),
        None if upper is None else D(upper),
    )
    again = read_size(size_text(size), job_unit)
    assert (again.lower, again.upper, again.kind) == (size.lower, size.upper, size.kind)


@pytest.mark.parametrize(("text", "nominal", "lower", "upper"), ANGLES)
def test_what_is_said_of_an_angle(text, nominal, lower, upper) -> None:
    size = read_size(text, "in")
    found = [None if end is None else end / 3600 for end in (size.nominal, size.lower, size.upper)]
    assert (size.unit, found) == ("arcsec", [None if e is None else D(e) for e in (nominal, lower, upper)])


@pytest.mark.parametrize(("text", "note", "kind"), NOTED)
def test_the_words_of_a_drawing_are_kept_beside_the_size(text, note, kind) -> None:
    size = read_size(text, "mm")
    assert (size.note, size.kind) == (note, kind)
    assert note in understood(size)


@pytest.mark.parametrize(("text", "name"), THREADS)
def test_a_thread_is_the_same_wherever_it_is_typed(text, name) -> None:
    assert read_thread(text).called == read_size(text, "mm").name == name
    assert read_thread(name).called == name


@pytest.mark.parametrize(("text", "major"), NUMBERED)
def test_threads_to_the_inch_tell_a_number_from_inches(text, major) -> None:
    assert read_thread(text).major == D(major)


@pytest.mark.parametrize(("text", "job_unit", "readings"), ASKED)
def test_what_may_mean_two_things_is_asked_about(text, job_unit, readings) -> None:
    with pytest.raises(NeedsAnswer) as asked:
        read_size(text, job_unit)
    assert set(asked.value.choices.values()) == readings
    for chosen in readings:
        read_size(chosen, job_unit)


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("12 banana", "“banana” is no word we know"),
        ("12 q7", "“q7” is no tolerance class"),
        ("12345678901", "11 digits in a row are no size"),
        ("12.5,10", "“12.5,10” could be one figure or two"),
        ('25.40 mm (1.100")', "1.100 in stands beside it"),
        ("12 b7 0.5 mm 1 mm", "cannot be read"),
        ("25.40 mm (26 to 27 mm)", "26.5 mm stands beside it"),
        ("4 x " * 60, "signs are too many"),
        ("Ø12 Ø13", "cannot be read"),
    ],
)
def test_what_cannot_be_read_is_named(text, words) -> None:
    with pytest.raises(BadEntry, match=words.replace("(", r"\(")):
        read_size(text, "mm")


def test_a_taper_is_an_angle_to_the_second() -> None:
    """2 atan(1/20) = 5.72481° = 5°43′29″; own derivation."""
    assert read_size("1:10", "mm").nominal == 20609
    assert read_size("3/4 in per foot", "in").nominal == read_size("1:16", "mm").nominal
    with pytest.raises(SizeNotRead):
        read_size("1:0", "mm")
