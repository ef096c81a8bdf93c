"""Each line of docs/entries.md is read exactly as the page says."""

import re
from decimal import Decimal
from pathlib import Path

import pytest

from ditto_run.core.entry.quantity import quantity_text, read_quantity
from ditto_run.core.errors import NeedsAnswer
from ditto_run.core.money import read_cents
from ditto_run.core.sheets.reader import KINDS, read_as, said_back
from ditto_run.core.sizes import read_size, understood
from ditto_run.core.times import read_seconds

PAGE = (Path(__file__).parents[1] / "docs/entries.md").read_text()


def rows(*headings: str) -> list[tuple[str, ...]]:
    """Return the rows of the tables under some headings."""
    found = []
    for part in re.split(r"^## ", PAGE, flags=re.MULTILINE):
        if part.split("\n", 1)[0] in headings:
            lines = re.findall(r"^\| `(.+?)` \| (.+) \|$", part, re.MULTILINE)
            found += [(typed, *rest.split(" | ")) for typed, rest in lines]
    assert found
    return found


SIZES = (
    "Lengths and their limits",
    "As it is said",
    "As the drawing words it",
    "Angles and tapers",
    "Threads",
)


@pytest.mark.parametrize(("typed", "unit", "said"), rows(*SIZES))
def test_a_size(typed: str, unit, said: str) -> None:
    assert understood(read_size(typed, unit)) == said


@pytest.mark.parametrize(("typed", "unit", "said"), rows("Asked about"))
def test_a_question(typed: str, unit, said: str) -> None:
    with pytest.raises(NeedsAnswer) as asked:
        read_size(typed, unit)
    assert "; ".join(asked.value.choices) == said


def test_the_kinds_are_those_of_the_reader() -> None:
    found = re.findall(r"^\| (\w+) \| (\S*) ?\| (\S*) ?\| `(.+)` \|$", PAGE, re.MULTILINE)
    assert found == [(name, *kind.mark, kind.examples) for name, kind in KINDS.items()]


@pytest.mark.parametrize(("typed", "kind", "said"), rows("Counts, shares, percentages, angles of a turn"))
def test_a_number_without_a_unit(typed: str, kind, said: str) -> None:
    assert said_back(kind, read_as(kind, typed, "mm", "field"), "mm") == said


def test_times_and_money() -> None:
    for typed, seconds in rows("Times"):
        assert read_seconds(typed, "time") == float(seconds), typed
    for typed, cents in rows("Money"):
        assert read_cents(typed, "price") == int(cents), typed


@pytest.mark.parametrize(("typed", "kind", "said"), rows("Forces, torques, films, pressures, masses"))
def test_a_quantity(typed: str, kind, said: str) -> None:
    value = read_quantity(kind, typed, "mm", "field")
    assert isinstance(value, Decimal)
    assert quantity_text(kind, value, "mm") == said
