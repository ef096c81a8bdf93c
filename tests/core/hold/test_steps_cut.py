"""Steps cut into jaws: read, offered again for what they take, and the grip they give."""

from dataclasses import replace
from decimal import Decimal

import pytest

from ditto_run.core.errors import BadEntry
from ditto_run.core.hold.picker import Ask, rank_holders
from ditto_run.core.shop.drawers import drawer_of
from ditto_run.core.shop.steps_cut import JawStep, read_steps

D = Decimal
ROW = {"name": "jaws 7", "kind": "soft jaws", "shape": "any", "low": "0", "high": "150", "marks": "none"}


def test_steps_are_read_as_they_are_typed() -> None:
    assert read_steps("40 x 6; Ø22 x 5 deep", "mm") == (
        JawStep(D(40), D(6)),
        JawStep(D(22), D(5), is_round=True),
    )
    assert read_steps("1/2 x .25", "in") == (JawStep(D("12.70"), D("6.350")),)
    assert read_steps("", "mm") == ()


@pytest.mark.parametrize("text", ["40", "40 x 6 x 3", "40 x 0", "wide", "; ".join(["4 x 1"] * 21)])
def test_what_is_no_step_is_refused_at_its_field(text) -> None:
    with pytest.raises(BadEntry) as refused:
        read_steps(text, "mm")
    assert refused.value.field == "steps"


@pytest.mark.parametrize(
    ("across", "takes"), [("39.69", False), ("39.7", True), ("40", True), ("40.01", False)]
)
def test_a_step_takes_what_goes_in_and_lies_snug(across, takes) -> None:
    assert JawStep(D(40), D(6)).takes(D(across)) is takes


def test_jaws_with_a_step_for_it_are_offered_first() -> None:
    read = drawer_of("holders")
    plain, cut = (read.value(ROW | more, "mm") for more in ({"name": "jaws 1"}, {"steps": "40 x 6"}))
    best, other = rank_holders(Ask("flat", D(40)), [plain, cut])
    assert (best.holder.name, other.holder.name) == ("jaws 7", "jaws 1")
    assert any("a step of 40.00 mm" in reason for reason in best.reasons)
    assert rank_holders(Ask("round", D(40)), [replace(cut, name="a"), plain])[0].reasons == (
        "leaves no mark",
    )


@pytest.mark.parametrize(
    ("steps", "bores", "fits"),
    [
        ("12 x 20; 10 x 15", ("12.018",), True),
        ("12 x 20", ("12.3",), True),
        ("12 x 20", ("12.301",), False),
        ("12 x 20", ("11.99", "30"), False),
        ("", ("11.99", "30"), True),  # it expands from 20 to 40
        ("", ("19.9",), False),
        ("12 x 20", (), False),
    ],
)
def test_an_arbor_is_offered_for_the_bore_not_for_the_outside(steps, bores, fits) -> None:
    row = ROW | {"name": "arbor 2", "kind": "arbor", "low": "20", "high": "40", "steps": steps}
    arbor = drawer_of("holders").value(row, "mm")
    (found,) = rank_holders(Ask("round", D(80), bores_mm=tuple(map(D, bores))), [arbor])
    assert found.fits is fits
    assert any("bore" in reason for reason in found.reasons)
