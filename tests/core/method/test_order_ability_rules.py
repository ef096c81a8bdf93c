"""Order of work, the machine's ability and rules of the trade."""

from math import pi

import pytest

from ditto_run.core.errors import BadEntry
from ditto_run.core.method.ability import Cut, cutting_force_n, demand, spindle_rpm
from ditto_run.core.method.order import Operation, order_plan, visits
from ditto_run.core.method.rules import hole_rule, punch_rule, ream_rule, rule_findings, stem_rule

TWO = [Operation("saw", 50, 10, 300, "saw"), Operation("mill", 170, 30, 1200, "mill")]
SHARED = [Operation("side 1", 100, 20, 600, "mill"), Operation("side 2", 80, 20, 600, "mill")]


def test_by_operation_and_piece_by_piece_worked_by_hand() -> None:
    whole, single = order_plan(TWO, 10, 10), order_plan(TWO, 10, 1)
    assert whole.total_s == single.total_s == 1500 + 10 * 260
    assert whole.first_s == 1500 + 10 * 60 + 200
    assert single.first_s == 1500 + 60 + 200
    assert (whole.waiting, whole.at_risk, single.at_risk) == (10, 10, 1)
    assert whole.lost_s == 800
    assert whole.handling_s == 400


def test_one_machine_for_both_sides_is_set_up_for_every_lot() -> None:
    assert [order_plan(SHARED, 10, lot).changes for lot in (10, 5, 1)] == [2, 4, 20]
    assert order_plan(SHARED, 10, 1).total_s - order_plan(SHARED, 10, 10).total_s == 18 * 600
    with pytest.raises(BadEntry):
        order_plan(SHARED, 10, 11)
    with pytest.raises(BadEntry):
        order_plan([], 10, 1)


def test_turns() -> None:
    assert visits(2, 3, 3) == [[1, 2, 3], [4, 5, 6]]
    assert visits(2, 4, 2) == [[1, 2, 5, 6], [3, 4, 7, 8]]


@pytest.mark.parametrize(
    ("kc11", "mc", "b", "h", "force"),
    [
        (2220, 0.14, 3, 0.3, 2364.8),
        (2220, 0.14, 2, 0.2, 1112.4),
        (2500, 0.26, 2, 0.2, 1519.6),
        (2100, 0.26, 3, 0.25, 2258.5),
        (1160, 0.26, 3, 0.3, 1427.7),
    ],
)
def test_cutting_force(kc11, mc, b, h, force) -> None:
    """[kienzle]; figures of docs/sources.md."""
    assert cutting_force_n(kc11, mc, b, h) == pytest.approx(force, abs=0.06)


def test_power_of_a_turned_cut() -> None:
    """C45, b 3, h 0.3 at 150 m/min: 2364.8 N × 150/60000 = 5.912 kW at the spindle, [kienzle]."""
    found = demand(Cut("turn", 50, 150, 0.3, 3), 2220, 0.14)
    assert found.power_kw * 0.8 == pytest.approx(5.912, abs=0.001)
    assert found.torque_nm == pytest.approx(found.force_n * 0.025)
    assert spindle_rpm(100, 20) == pytest.approx(1591.55, abs=0.005)
    assert spindle_rpm(100 * 0.3048, 12.7) == pytest.approx(763.94, abs=0.01)


def test_milling_balances_power_and_metal() -> None:
    """5 × 10 mm at 600 mm/min is 30 cm³/min; at full slot the mean chip is 2 f / π. Own derivation."""
    found = demand(Cut("mill", 20, pi * 20 * 3, 0.05, 5, 10, 4), 2000, 0.0)
    assert found.removal_cm3_min == pytest.approx(30)
    assert found.power_kw * 0.8 == pytest.approx(30_000 * 2000 / 6e7)
    slot = demand(Cut("mill", 20, 60, 0.1, 2, 20, 4), 2000, 0.5)
    assert slot.force_n == pytest.approx(2000 * 2 * (0.2 / pi) ** 0.5)
    with pytest.raises(BadEntry):
        demand(Cut("mill", 20, 60, 0.1, 2, 21, 4), 2000, 0.25)


def test_a_drill_by_energy() -> None:
    """With mc = 0 the torque does the work kc × volume: M 2π = kc π/4 D² f. Own derivation."""
    found = demand(Cut("drill", 10, 30, 0.2), 2000, 0.0)
    assert found.torque_nm * 2 * pi == pytest.approx(2000 * pi / 4 * 100 * 0.2 / 1000)


def test_the_more_feed_the_more_torque() -> None:
    torques = [demand(Cut("drill", 10, 30, f / 100), 2220, 0.14).torque_nm for f in range(5, 40)]
    assert torques == sorted(torques)


def test_rules_of_the_trade() -> None:
    """Common practice, no source."""
    kept = [
        punch_rule(3, 3),
        hole_rule(24, 6),
        stem_rule(30, 10, "none"),
        stem_rule(75, 10, "centre"),
        ream_rule(11.8, 12),
    ]
    broken = [
        punch_rule(2.9, 3),
        hole_rule(30, 6),
        stem_rule(31, 10, "none"),
        ream_rule(11.95, 12),
        ream_rule(11.4, 12),
    ]
    assert rule_findings(kept) == []
    assert len(rule_findings(broken)) == 5
