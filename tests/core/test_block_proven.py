"""A block of offsets is held to the register by the reader of programs before it goes out."""

from dataclasses import replace
from decimal import Decimal as D

import pytest

from ditto_run.core.errors import NotNow
from ditto_run.core.place.offsets import Offset
from ditto_run.core.plan.block_proven import prove_block
from ditto_run.core.shop import Dialect, Machine
from ditto_run.formats.rs274 import write_offsets

MILL = Machine(1, "Mill 2", dialect=Dialect("extended"))
OFFSETS = [
    Offset("G54", {"x": D("-300.125"), "y": D(-200), "z": D("-350.5"), "a": D(90)}),
    Offset("G59.1", {"x": D(1)}),
    Offset("G54.1 P3", {"z": D("-12.3456")}),
]


@pytest.mark.parametrize("unit", ["mm", "in"])
def test_what_is_written_reads_back_as_it_stands_in_the_register(unit: str) -> None:
    offsets = [replace(one, unit=unit) for one in OFFSETS]  # type: ignore[arg-type]
    text, left = write_offsets(offsets, MILL.dialect, unit, "")  # type: ignore[arg-type]
    assert left == []
    prove_block(text, MILL, offsets)


@pytest.mark.parametrize(
    ("was", "now"),
    [
        ("G21", "G20"),
        ("-300.125", "-3001.25"),
        ("P1", "P2"),
        ("G90", "G91"),
        ("M30", "G10 L2 P4 X1.\nM30"),
        (" Y-200.000", ""),
    ],
)
def test_a_block_that_would_set_something_else_is_not_offered(was: str, now: str) -> None:
    text, _ = write_offsets(OFFSETS, MILL.dialect, "mm", "")
    assert was in text
    with pytest.raises(NotNow, match=r"read back|more than is meant"):
        prove_block(text.replace(was, now, 1), MILL, OFFSETS)


def test_on_a_control_that_does_not_know_the_word_it_is_refused() -> None:
    text, _ = write_offsets(OFFSETS, MILL.dialect, "mm", "")
    with pytest.raises(NotNow):
        prove_block(text, replace(MILL, dialect=Dialect("not used")), OFFSETS)
