"""A short study of a gauge, read from lines; the figures are held to their sources in tests/published."""

from statistics import stdev

import pytest

from ditto_run.core.errors import DittoError
from ditto_run.core.prove.study import study_of
from ditto_run.core.statistics.gauges import Fitness


def test_one_piece_measured_five_times_says_how_well_it_repeats() -> None:
    values = [20.001, 20.003, 20.002, 20.004, 20.002]
    found = study_of(" ".join(map(str, values)), "mm", 0.001)
    assert found.repeats_to == pytest.approx(stdev(values))
    assert (found.by_ranges, found.by_variance, found.persons) == (None, None, 1)
    assert found.guard == pytest.approx(1.6449 * found.repeats_to, rel=1e-3)


def test_what_is_less_than_the_scales_rounding_cannot_be_seen() -> None:
    """Own derivation: a step of 0.01 rounds evenly, with a standard deviation of 0.01 / √12."""
    assert study_of("20.01 20.01 20.01 20.01 20.01", "mm", 0.01).repeats_to == pytest.approx(0.01 / 12**0.5)


def test_several_persons_and_pieces_are_told_apart() -> None:
    lines = "\n".join(
        f"{who} {piece}: {20 + piece * 0.01 + shift:.3f} {20 + piece * 0.01 + shift + 0.001:.3f}"
        for who, shift in (("RK", 0.0), ("MT", 0.004))
        for piece in range(1, 6)
    )
    found = study_of(lines, "mm", 0.001, 0.06)
    assert (found.persons, found.pieces, found.repeats) == (2, 5, 2)
    assert found.by_variance is not None
    assert found.by_variance.reproducibility == pytest.approx(0.004 / 2**0.5, rel=0.02)
    assert found.repeats_to == pytest.approx(found.by_variance.both)
    assert found.fits is not None
    assert found.fits.fitness is Fitness.FAIR or found.fits.fitness is Fitness.POOR


@pytest.mark.parametrize(
    ("text", "said"),
    [
        ("", "No reading"),
        ("20.001 20.002 20.003 20.004", "too little to say"),
        ("RK 1: 20.001 20.002\nMT 1: 20.001", "not full"),
        ("RK 1: 20.001 20.002\nRK 2: 20.1 20.1\nMT 1: 20.001 20.002", "not full"),
        ("RK: 20.001", "who and which piece"),
        ("RK 1: twenty and a bit", ""),
        ("\n".join(["RK 1: 20"] * 121), "too many"),
    ],
)
def test_what_is_no_study_is_said_at_its_field(text: str, said: str) -> None:
    with pytest.raises(DittoError) as refused:
        study_of(text, "mm", 0.001)
    assert said in refused.value.problem
    assert refused.value.field == "readings"


def test_a_decimal_comma_is_no_gap_between_readings() -> None:
    values = [20.01, 20.03, 20.02, 20.04, 20.02]
    found = study_of("20,01 20,03 20,02 20,04 20,02", "mm", 0.001)
    assert found.repeats == 5
    assert found.repeats_to == pytest.approx(stdev(values))
