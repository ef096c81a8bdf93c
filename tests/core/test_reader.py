"""The one reader: each kind of entry at its boundaries, and thousands of texts made from a grammar of their own."""

from decimal import Decimal as D
from fractions import Fraction
from random import Random

import pytest

from ditto_run.core.entry.quantity import QUANTITIES
from ditto_run.core.errors import BadEntry, NeedsAnswer
from ditto_run.core.sheets.reader import KINDS, mark_for, read_as, said_back
from ditto_run.core.shop.drawers import drawer_of
from tests.core.sizes.test_grammar import ONES
from tests.searches import LONGER


def a_count(random: Random) -> tuple[str, D]:
    value = random.randint(1, 99_999)
    few = random.randint(2, 12)
    return random.choice(
        [
            (str(value), D(value)),
            (f"{value:,}", D(value)),
            (f"{value:,}".replace(",", random.choice(" .'")), D(value)),
            (f"{value}{random.choice([' pcs', ' off', 'x', ' pieces', ' ea'])}", D(value)),
            (f"{ONES[few]} {random.choice(['dozen', 'gross'])}", D(few)),
            (ONES[few], D(few)),
        ]
    )


def a_share(random: Random) -> tuple[str, D]:
    parts, whole = random.randint(1, 19), random.choice([2, 4, 5, 8, 10, 20, 50])
    value = D(parts) / whole
    sign = random.choice(["", "-"])
    text = random.choice(
        [f"{value}", f"{value * 100:f} %", f"{value * 100:f}%", f"{parts}:{whole}", f"{parts} in {whole}"]
        + ([f"{parts} out of {whole}"] if parts < whole else [])
    )
    return sign + text, -value if sign else value


def an_angle(random: Random) -> tuple[str, Fraction]:
    degrees, minutes, seconds = random.randint(0, 359), random.randint(1, 59), random.randint(1, 59)
    sign = random.choice(["", "-"])
    text, value = random.choice(
        [
            (f"{degrees}", Fraction(degrees)),
            (f"{degrees}.5°", degrees + Fraction(1, 2)),
            (f"{degrees} deg", Fraction(degrees)),
            (f"{degrees}°{minutes}'", degrees + Fraction(minutes, 60)),
            (f"{degrees} {minutes}′", degrees + Fraction(minutes, 60)),
            (f"{degrees}°{minutes}'{seconds}\"", degrees + Fraction(minutes, 60) + Fraction(seconds, 3600)),
            (f"{minutes}'", Fraction(minutes, 60)),
        ]
    )
    return sign + text, -value if sign else value


def test_counts_shares_and_angles_of_a_grammar_are_read_back() -> None:
    random = Random(11)
    for _ in range(40_000 if LONGER else 3_000):
        text, count = a_count(random)
        times = 12 if text.endswith("dozen") else 144 if text.endswith("gross") else 1
        assert read_as("count", text, "mm", "f") == count * times, text
        text, share = a_share(random)
        assert read_as("share", text, "mm", "f") == share, text
        if "%" in text or ":" in text or "in" in text or "out" in text:
            assert read_as("percent", text, "mm", "f") == share * 100, text
        text, angle = an_angle(random)
        assert abs(Fraction(read_as("angle", text, "in", "f")) - angle) < Fraction(1, 10**20), text


def test_a_quantity_with_any_of_its_units_is_the_same_in_either_system() -> None:
    random = Random(12)
    for _ in range(20_000 if LONGER else 2_000):
        kind = random.choice(list(QUANTITIES))
        unit, scale = random.choice(list(QUANTITIES[kind].units.items()))
        value = D(random.randint(1, 9_999)) / 10 ** random.randint(0, 2)
        shown = unit.replace("2", "²").replace("3", "³") if random.random() < 0.3 else unit
        text = f"{value}{random.choice(['', ' '])}{shown}"
        found = read_as(kind, text, "mm", "f")
        assert found == read_as(kind, text, "in", "f") == value * scale, text
        for system in ("mm", "in"):
            bare = read_as(kind, str(value), system, "f")
            assert bare == read_as(kind, f"{value} {mark_for(kind, system)}", "mm", "f"), (kind, system)


@pytest.mark.parametrize("kind", KINDS)
def test_what_says_nothing_is_refused_at_its_field(kind) -> None:
    for text in ("banana", "12 bananas", "--3", "Ø", "%", "1/0 x"):
        with pytest.raises((BadEntry, NeedsAnswer)) as refused:
            read_as(kind, text, "mm", "here")
        if isinstance(refused.value, BadEntry):
            assert refused.value.field == "here", (kind, text)
        assert refused.value.problem, (kind, text)


@pytest.mark.parametrize(
    ("kind", "text"),
    [
        *(("count", "12.5"), ("count", "-3"), ("count", "1,00"), ("count", "100,000,001"), ("count", "")),
        *(("share", "0:0"), ("share", "1/3"), ("angle", "4 4"), ("angle", "12 1/2"), ("angle", "°")),
        *(
            ("length", "1e9"),
            ("length", "100001"),
            ("length", "-100001"),
            ("length", "1..2"),
            ("price", "-2"),
            ("price", "2 /g"),
        ),
        *(
            ("density", "2.7 kg"),
            ("stress", "5 N"),
            ("money", "1.250,0000"),
            ("money", "12.5 c"),
            ("money", "12 bananas"),
        ),
    ],
)
def test_is_refused(kind, text: str) -> None:
    with pytest.raises(BadEntry) as refused:
        read_as(kind, text, "mm", "here")
    assert refused.value.field == "here"


def test_limits_are_the_last_value_taken() -> None:
    assert read_as("length", "100000", "mm", "f") == 100_000
    assert read_as("count", "100,000,000", "mm", "f") == 100_000_000


def test_a_comma_that_can_be_two_things_is_asked_about() -> None:
    for kind in ("length", "number", "share", "force", "angle"):
        with pytest.raises(NeedsAnswer):
            read_as(kind, "1,250", "mm", "here")


def test_what_is_said_back_reads_back() -> None:
    for kind, text in (
        *(("length", "1/2"), ("torque", "40 N·m"), ("percent", "5"), ("price", "7.50"), ("row", "1 2.5")),
        *(("time", "65"), ("film", "12 µm"), ("angle", "44°30'"), ("money", "12.50"), ("share", "70 %")),
    ):
        value = read_as(kind, text, "mm", "f")
        assert read_as(kind, said_back(kind, value, "mm").partition(" (")[0], "mm", "f") == value, kind


def test_a_price_of_a_pound_and_of_a_kilogram_are_the_same_money() -> None:
    """453.592 37 g to the pound, exactly; [iso80000]."""
    pound = read_as("price", "10.00", "in", "f")
    assert pound == read_as("price", "$10.00/lb", "mm", "f")
    assert pound * D("0.45359237") == pytest.approx(D(1000))
    assert read_as("price", "10 a kilo", "in", "f") == 1000


def test_a_register_keeps_the_unit_a_figure_was_typed_in() -> None:
    """Else the shop's own unit would change what lies in the drawer."""
    holder = {"name": "Vise", "low": "0", "high": "4", "repeat": ".0005", "torque": "45", "shelf": "4"}
    kept = drawer_of("holders").as_kept(holder, "in")
    assert kept == {**holder, "low": "0 in", "high": "4 in", "repeat": ".0005 in"}
    coating = drawer_of("coatings").as_kept({"name": "zinc", "film_low": "0.3", "film_high": "12 µm"}, "in")
    assert coating == {"name": "zinc", "film_low": "0.3 thou", "film_high": "12 µm"}
    first, second = (drawer_of("holders").value(kept, unit) for unit in ("mm", "in"))
    assert first == second
    assert first.high_mm == D("101.6")


def test_a_register_lists_a_film_in_the_shops_unit() -> None:
    film = next(column for column in drawer_of("coatings").columns if column.name == "film_low")
    assert [film.shown(text, unit) for text in ("8 µm", "") for unit in ("mm", "in")] == [
        "8.0 µm",
        "0.31 thou",
        "",
        "",
    ]
    assert film.label_in("in") == "Film from, thou"
