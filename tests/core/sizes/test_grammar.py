"""Thousands of sizes made from a grammar, each with what it means, read back. The grammar shares nothing with the reader."""

from collections.abc import Callable
from decimal import Decimal as D
from random import Random

import pytest

from ditto_run.core.sizes import read_size
from tests.searches import LONGER

SPOKEN = {2: "half", 4: "quarter", 8: "eighth", 16: "sixteenth", 32: "thirty-second", 64: "sixty-fourth"}
ONES = [
    "zero",
    "one",
    "two",
    "three",
    "four",
    "five",
    "six",
    "seven",
    "eight",
    "nine",
    "ten",
    "eleven",
    "twelve",
]
Meaning = tuple[str, D, D | None, D | None]


def a_number(random: Random, unit: str) -> tuple[str, D]:
    """A number of a size as it may be written, and its value; fractions are inches."""
    ways = (
        ["plain", "plain", "bare", "whole", "whole"]
        if unit == "mm"
        else ["plain", "bare", "fraction", "mixed", "spoken", "said", "whole"]
    )
    way = random.choice(ways)
    below = random.choice(list(SPOKEN))
    above = random.randrange(1, below, 2)
    whole = random.randint(1, 9)
    if way == "fraction":
        return f"{above}/{below}", D(above) / below
    if way == "mixed":
        return f"{whole}{random.choice(' -')}{above}/{below}", whole + D(above) / below
    if way == "spoken":
        count = (
            "" if above == 1 and random.random() < 0.3 else ONES[above] if above < len(ONES) else str(above)
        )
        plural = "s" if above > 1 else ""  # never of a half: there is one only
        words = f"{count} {SPOKEN[below]}{plural}".strip()
        return words, D(above) / below
    if way == "whole":  # its noughts belong to it: 30 -0.1 is no 3 with the deviations 0 and -0.1
        value = D(
            random.choice([random.randint(2, 99), 10 * random.randint(1, 40), 100 * random.randint(1, 4)])
        )
        return str(value), value
    if way == "said":
        return f"{ONES[whole]} and {ONES[3]} {SPOKEN[8]}s", whole + D(3) / 8
    places = random.randint(1, 3 if unit == "mm" else 4)
    value = D(random.randint(10**places // 2 + 1, 90 * 10**places)) / 10**places
    text = f"{value:.{places}f}"
    if way == "bare" and text.startswith("0."):
        text = text[1:]
    return text, value


def a_size(random: Random) -> tuple[str, str, Meaning]:
    """A text, the job's unit, and what it means: unit, nominal, lower, upper."""
    unit = random.choice(["mm", "in"])
    text, value = a_number(random, unit)
    small = D(random.randint(1, 40)) / 10 ** (2 if unit == "mm" else 4)
    large = small + D(random.randint(1, 9)) / 10 ** (2 if unit == "mm" else 4)
    mark = {"mm": [" mm", "mm", " MM", " millimetres"], "in": [" in", '"', " inch", " in."]}[unit]
    typed = random.choice(mark)
    forms: dict[str, Callable[[], Meaning]] = {
        "{n}{u}": lambda: (unit, value, None, None),
        "{n}{u} ±{s}": lambda: (unit, value, value - small, value + small),
        "{n} +/- {s}{u}": lambda: (unit, value, value - small, value + small),
        "{n} +{l}/-{s}{u}": lambda: (unit, value, value - small, value + large),
        "{n} -{s}/-{l}{u}": lambda: (unit, value, value - large, value - small),
        "{n} +{l} +{s}{u}": lambda: (unit, value, value + small, value + large),
        "{n} 0/-{s}{u}": lambda: (unit, value, value - small, value),
        "{n} (0/-{s}){u}": lambda: (unit, value, value - small, value),
        "{n} +{s}{u}": lambda: (unit, value, value, value + small),
        "{n} plus {l} minus {s}{u}": lambda: (unit, value, value - small, value + large),
        "{n}{u} max": lambda: (unit, value, None, value),
        "at least {n}{u}": lambda: (unit, value, value, None),
        "not over {n}{u}": lambda: (unit, value, None, value),
        "{n} to {h}{u}": lambda: (unit, value + small / 2, value, value + small),
        "between {n} and {h}{u}": lambda: (unit, value + small / 2, value, value + small),
    }
    form = random.choice(list(forms))
    meaning = forms[form]()
    if "{u})" in form or form.endswith("){u}"):
        typed = f" {typed.strip()}" if typed.strip() != '"' else typed
    said = form.format(n=text, u=typed, s=small, l=large, h=value + small)
    before, behind = random.choice(
        [("", "")] * 3 + [("Ø", ""), ("2x Ø", ""), ("", " TYP"), ("4x Ø", " THRU")]
    )
    if not form.startswith("{n}") or not text[0].isdigit():
        before = ""
    if random.random() < 0.3:
        said = said.replace("/-", " / -").replace("±", "+/-")
    if random.random() < 0.2:
        said = said.replace("-", "−")
        if "−" in text.replace("-", "−"):
            said = said.replace(text.replace("-", "−"), text)
    return f"{before}{said}{behind}", random.choice(["mm", "in"]), meaning


@pytest.mark.parametrize("seed", range(4))
def test_what_the_grammar_makes_reads_back_as_it_was_meant(seed: int) -> None:
    random = Random(seed)
    for _ in range(1000 * LONGER):
        text, job_unit, meaning = a_size(random)
        size = read_size(text, job_unit)
        assert (size.unit, size.nominal, size.lower, size.upper) == meaning, text
