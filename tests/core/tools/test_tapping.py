"""The way of tapping: torque with the share of thread, what breaks a tap, which way for which machine."""

from decimal import Decimal as D

import pytest

from ditto_run.core.errors import BadEntry
from ditto_run.core.sheets import Known
from ditto_run.core.threads import read_thread
from ditto_run.core.tools.tapping_sheet import TAPPING, tap_breaks_nm, tap_torque_nm, way_to_tap

M6 = read_thread("M6")


def test_the_torque_is_that_of_the_usual_formula_at_75_per_cent() -> None:
    """P² D kc / 8000: 1 × 6 × 1990 / 8000 = 1.4925 N·m for M6 in mild steel; common practice, no source."""
    assert tap_torque_nm(M6, D(75), 1990) == pytest.approx(1.4925)


def test_sixty_per_cent_takes_about_a_third_less() -> None:
    """Own derivation: a trapezium of height h is h (P/8 + h tan 30°) wide; 0.39 P against 0.487 P high, M6 of 1 mm."""
    high = {share: share * 1.299038 / 2 for share in (0.6, 0.75)}
    area = {share: h * (0.125 + h * 0.57735) * (3 - h / 2) for share, h in high.items()}
    less = tap_torque_nm(M6, D(60), 1990) / tap_torque_nm(M6, D(75), 1990)
    assert less == pytest.approx(area[0.6] / area[0.75], rel=1e-5)
    assert 0.65 < less < 0.75


def test_a_larger_tap_stands_much_more() -> None:
    """A bar's twisting strength grows with the cube of its diameter: cores 4.917 and 2.459 of M6 and M3."""
    assert tap_breaks_nm(M6) / tap_breaks_nm(read_thread("M3")) == pytest.approx(
        (4.9175 / 2.4587) ** 3, rel=1e-3
    )


@pytest.mark.parametrize(
    ("can", "torque", "by_dials", "way"),
    [
        ("rigid", 5, False, "rigid"),
        ("floating", 5, False, "floating"),
        ("floating", 5, True, "floating"),
        ("no", 5, False, "by hand"),
        ("no", 1.0, True, "hand on the chuck"),  # dull it asks three times as much, and a hand holds 3
        ("no", 1.001, True, "by hand"),
        ("no", 0.1, False, "by hand"),  # nobody puts a hand into a machine with a control
    ],
)
def test_the_machine_and_the_torque_say_which_way(can: str, torque: float, by_dials: bool, way: str) -> None:
    assert way_to_tap(can, torque, by_dials=by_dials) == way


def answer(**texts: str) -> list[str]:
    found = TAPPING.answer({"thread": "M6", "kc11": "1990"} | texts, Known())
    return [found.say, *(f.code for f in found.findings)]


def test_a_tap_that_breaks_when_it_is_dull_is_asked_about() -> None:
    assert answer(can="rigid") == ["Rigid."]
    assert answer(can="rigid", thread="M1.6", kc11="4000") == ["Rigid.", "tap-may-break"]
    assert answer(can="no", control="dials", kc11="700") == ["By power, the hand on the chuck."]


@pytest.mark.parametrize(
    ("texts", "field"),
    [({"thread": "six"}, "thread"), ({"kc11": ""}, "kc11"), ({"percent": "140"}, "percent")],
)
def test_what_cannot_be_read_is_refused_at_its_field(texts: dict[str, str], field: str) -> None:
    with pytest.raises(BadEntry) as refused:
        answer(**texts)
    assert refused.value.field == field
