"""Checks of Part: what is asked about before anything is made."""

import pytest

from ditto_run.core.errors import BadEntry
from ditto_run.core.part import Characteristic, Heading, check_heading, doubt_about_size, part_findings
from ditto_run.core.sizes import read_size

NEIGHBOURS = [read_size(text, "mm") for text in ("12 H7", "20 ±0.03", "31.5 ±0.05", "60 ±0.1")]


@pytest.mark.parametrize(
    ("text", "meant"),
    [("0.787", "0.787 in"), (".4724 ±.001", ".4724 ±.001 in"), ("315", "31.5 mm"), ("600 ±1", "60 ±1 mm")],
)
def test_a_size_far_off_is_asked_about(text: str, meant: str) -> None:
    doubt = doubt_about_size(read_size(text, "mm"), NEIGHBOURS, "mm")

    assert doubt is not None
    assert meant in doubt.choices.values()
    assert "12.00 mm to 60.00 mm" in doubt.problem


def test_a_metric_size_in_an_inch_job_is_asked_about() -> None:
    doubt = doubt_about_size(read_size("38.1", "in"), [read_size(t, "in") for t in (".5", "1.25", "2")], "in")

    assert "38.1 mm" in doubt.choices.values()


@pytest.mark.parametrize(
    "text", ["1 ±0.1", "R0.5", "45° ±1°", "100 ±0.2", "149", "2.5", "#7 drill", "M3", "0.787 in"]
)
def test_a_plausible_size_is_not(text: str) -> None:
    assert doubt_about_size(read_size(text, "mm"), NEIGHBOURS, "mm") is None


def test_with_one_neighbour_anything_may_be_right() -> None:
    assert doubt_about_size(read_size("0.787", "mm"), NEIGHBOURS[:1], "mm") is None


@pytest.mark.parametrize(
    ("quantity", "fits"), [(0, False), (-4, False), (1, True), (20_000, True), (10_000_000, False)]
)
def test_quantity(quantity: int, fits: bool) -> None:
    heading = Heading("Pin", quantity)
    if fits:
        assert check_heading(heading) is heading
        return
    with pytest.raises(BadEntry, match="outside 1 to 20,000") as refused:
        check_heading(heading)
    assert refused.value.field == "quantity"


def test_a_critical_size_without_limits_is_asked_about() -> None:
    bore = Characteristic(1, "bore", read_size("10", "mm"), "critical")
    found = part_findings(Heading("Pin", 4), [bore])

    assert [(f.weight, f.code) for f in found] == [("ask", "critical-without-limits")]
    assert (
        part_findings(Heading("Pin", 4), [Characteristic(1, "thread", read_size("M6", "mm"), "critical")])
        == []
    )
    assert part_findings(Heading("Pin", 4), [])[0].code == "no-characteristic"
    assert part_findings(Heading("Pin", 4, waits_for="bar"), [bore])[-1].weight == "note"
