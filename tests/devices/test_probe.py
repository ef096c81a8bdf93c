"""The simulated probe finds the drawn station within placing and noise; each fault on request is noticed by its sheet."""

from dataclasses import replace

import pytest

from ditto_run.core.errors import BadEntry, NotNow
from ditto_run.core.place import Placed, expected_mm
from ditto_run.core.sheet_kinds import sheet_of
from ditto_run.core.sheets import Known
from ditto_run.core.shop import Wear
from ditto_run.devices.probe import Faults, SimulatedProbe
from ditto_run.web.probing import PROBED, probed_texts
from tests.core.place.layouts import BED, MILL, PALLET, PIECE, D, standing, vise

TABLE = [
    standing(vise(1, 200)),
    standing(vise(2, 420), "B"),
    standing(Placed(3, 1, "Pallet", PALLET, D(640), D(200)), "P"),
]


def found(kind: str, label: str, **faults: bool):
    texts = probed_texts(kind, MILL, TABLE, label, Faults(**faults))
    return sheet_of(kind).answer(texts, Known())


@pytest.mark.parametrize(
    ("kind", "label"),
    [("edge", "A"), ("corner", "A"), ("corner", "B"), ("height", "A"), ("bore", "P1"), ("height", "P2")],
)
def test_the_zero_lies_within_placing_of_the_drawing(kind: str, label: str) -> None:
    seat = next(seat for s in TABLE for seat in s.seats if seat.label == label)
    drawn = dict(zip("xyz", expected_mm(seat, BED), strict=True))
    if label.startswith("P"):  # its bushing is the origin of every nest
        drawn |= {"x": D(640) - 750, "y": D(200) - 380}
    answer = found(kind, label)
    assert answer.zeros
    for zero in answer.zeros:
        assert abs(float(zero.value) - float(drawn[zero.axis])) < float(BED.placing_mm)
    assert not [f for f in answer.findings if f.weight == "stop"]


def test_the_width_comes_back_and_the_bushing_is_round() -> None:
    assert found("halves", "A").result["width_mm"] == pytest.approx(60, abs=0.02)
    assert found("bore", "P1").result["across_mm"] == pytest.approx(20, abs=0.02)


def test_the_same_station_stands_the_same_each_time() -> None:
    assert probed_texts("edge", MILL, TABLE, "A", Faults()) == probed_texts(
        "edge", MILL, TABLE, "A", Faults()
    )


def test_a_crooked_vise_a_chip_and_the_wrong_station_are_noticed() -> None:
    assert "skew" in {f.code for f in found("corner", "A", crooked=True).findings}
    assert "touch-outlier" in {f.code for f in found("edge", "A", chip=True).findings}
    right, wrong = found("edge", "A"), found("edge", "A", wrong=True)
    assert abs(float(right.zeros[0].value) - float(wrong.zeros[0].value)) > 200


def test_it_speaks_the_controls_unit() -> None:
    inch = replace(MILL, wear=Wear(unit="in"))
    texts = probed_texts("height", inch, TABLE, "A", Faults())
    assert texts["shown"] == "in"
    in_mm = float(probed_texts("height", MILL, TABLE, "A", Faults())["touches"].split()[0])
    assert float(texts["touches"].split()[0]) * 25.4 == pytest.approx(in_mm, abs=0.002)


@pytest.mark.parametrize(
    ("kind", "label", "words"),
    [
        ("bore", "A", "no bore"),
        ("edge", "P1", "no edges"),
        ("line", "A", "cannot fill"),
        ("edge", "Z", "No station Z"),
    ],
)
def test_what_it_cannot_touch_is_said(kind, label, words) -> None:
    with pytest.raises((NotNow, BadEntry), match=words):
        probed_texts(kind, MILL, TABLE, label, Faults())


def test_nothing_there_is_said_and_a_long_piece_hides_the_jaw() -> None:
    probe = SimulatedProbe(TABLE[0], TABLE[0].seats[0], BED, Faults(), "x")
    with pytest.raises(NotNow, match="nothing to touch"):
        probe.touch((0.0, 500.0), (0.0, 1.0))
    long = standing(vise(1, 200), layout=replace(PIECE, piece_mm=(D(100), D(40), D(32))))
    with pytest.raises(NotNow, match="covers the jaw"):
        probed_texts("corner", MILL, [long], "A", Faults())
    assert {"edge", "halves", "corner", "bore", "height"} == PROBED
