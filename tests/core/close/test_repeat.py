"""What the next batch starts from and what differs today: an unchanged job asks for nothing, each change for what it takes."""

from collections.abc import Callable
from dataclasses import replace
from datetime import date, timedelta
from decimal import Decimal as D

import pytest

from ditto_run.core.close.repeat import DiffersToday, ShopToday, differs_today, starts_from
from ditto_run.core.errors import BadEntry
from ditto_run.core.place.offsets import Offset
from ditto_run.core.plan import Plan
from ditto_run.core.program.choice import ProgramChoice
from ditto_run.core.run import events as do
from ditto_run.core.shop import Gauge
from ditto_run.core.shop.drawers import drawer_of
from ditto_run.core.shop.shop_lists import GaugeCheck, overdue
from tests.conftest import MILL, SHOP, CoreHand, planned
from tests.core.close.test_counts import all_gauged

TODAY = ShopToday(SHOP.machines, {1: Gauge(1, "micrometer", D("0.001"), "mm")}, {})


def closed() -> CoreHand:
    hand = all_gauged(6)
    hand.do(do.CloseRun())
    return hand


def found(hand: CoreHand, plan: Plan, shop: ShopToday = TODAY, days: int = 3) -> tuple[DiffersToday, ...]:
    return differs_today(hand.state, plan, shop, hand.at + timedelta(days=days))


def test_an_unchanged_job_asks_for_nothing() -> None:
    hand = closed()
    assert found(hand, hand.state.plan) == ()


def changed_setup(**change: object) -> Callable[[Plan], Plan]:
    return lambda plan: replace(plan, setups=(replace(plan.setups[0], **change),))  # type: ignore[arg-type]


@pytest.mark.parametrize(
    ("change", "what", "prove"),
    [
        (
            changed_setup(holds="soft jaws"),
            "first side held in soft jaws, before vises",
            "the seat, the push test, and the first piece in full",
        ),
        (
            changed_setup(torque="60 N·m"),
            "first side tight with 60 N·m, before nothing said",
            "the seat, the push test",
        ),
        (
            changed_setup(machine_id=2),
            "first side on Old mill, before on Mill 2",
            "offsets, tool lengths, program",
        ),
        (
            lambda p: replace(p, heading=replace(p.heading, quantity=40)),
            "40 pieces, before 6",
            "stock, and how long the tools last",
        ),
        (
            lambda p: replace(p, heading=replace(p.heading, material="5083")),
            "Material 5083, before not said",
            "speeds, feeds",
        ),
        (
            lambda p: replace(p, heading=replace(p.heading, heat="H7")),
            "Heat H7, before not said",
            "the first piece in full",
        ),
        (
            lambda p: replace(p, heading=replace(p.heading, drawing="D1", drawing_revision="B")),
            "Drawing none, now D1 B",
            "program, sizes",
        ),
        (
            lambda p: replace(p, tool_steps=(replace(p.tool_steps[0], tool=5),)),
            "T05 finish slot is otherwise",
            "its length and offset",
        ),
        (lambda p: replace(p, tool_steps=()), "T03 finish slot is taken out", "the first piece in full"),
        (lambda p: replace(p, stations=p.stations[:2]), "first side: station C otherwise", "its offset"),
        (
            lambda p: replace(p, programs=(ProgramChoice(p.setups[0].key, "p.nc", "abc", "mill-ngc"),)),
            "The program of first side is new",
            "read it, compare it",
        ),
        (
            lambda p: replace(
                p, characteristics=(replace(p.characteristics[0], gauge_id=1), p.characteristics[1])
            ),
            "Another gauge for slot",
            "the gauge on its master",
        ),
        (
            lambda p: replace(
                p, characteristics=(replace(p.characteristics[0], gauge_id=9), p.characteristics[1])
            ),
            "Another gauge for slot",
            "the gauge on its master",
        ),
    ],
)
def test_each_change_is_said_with_what_must_be_proved_again(change, what: str, prove: str) -> None:
    hand = closed()
    first = found(hand, change(hand.state.plan))[0]
    assert first.what == what
    assert first.prove.startswith(prove)


def test_a_gauge_that_is_gone_an_old_batch_and_a_changed_shop_are_said() -> None:
    hand = closed()
    plan = hand.state.plan
    plan = replace(
        plan, characteristics=(replace(plan.characteristics[0], gauge_id=9), plan.characteristics[1])
    )
    words = [one.what for one in found(hand, plan)]
    assert "The gauge of slot is no longer on Shop" in words
    old = found(hand, hand.state.plan, days=200)
    assert old[0].what == "The last batch was closed on 12 May 2026"
    shop = found(hand, hand.state.plan, replace(TODAY, changed=("Mill 2 was changed.",)))
    assert [one.what for one in shop] == ["On Shop: Mill 2 was changed."]


def test_an_offset_set_again_after_closing_is_looked_at_one_before_it_is_not() -> None:
    hand = closed()
    end = hand.state.closed_at
    assert end is not None
    for minutes, count in ((-5, 0), (0, 0), (5, 1)):
        offset = Offset("G54", {"z": D(-300)}, who="RK", at=end + timedelta(minutes=minutes))
        there = found(hand, hand.state.plan, replace(TODAY, offsets={MILL.id: {"G54": offset}}))
        assert len(there) == count
    assert there[0] == DiffersToday("G54 at A was set again since", "it over a known feature")


def test_what_it_starts_from_is_what_the_last_one_left() -> None:
    hand = all_gauged(12)
    assert starts_from(hand.state)[0] == "revision 1, 1 setup, 3 stations"
    assert any("by 4 loads of the clock" in words for words in starts_from(hand.state))
    assert not any("turn" in words for words in starts_from(hand.state))
    hand.do(do.Adjust("T03 diameter wear", "-0.004"), do.GaugeEvery(1, 3))
    said = starts_from(hand.state)
    assert "1 turn of its knobs is written down: see what the control shows" in said
    assert said[-1] == "how often slot is gauged, as said on Run"


def test_the_newest_check_of_a_gauge_decides_whether_it_is_out_of_date() -> None:
    day = date(2026, 11, 28)
    old = GaugeCheck("Micrometer", date(2025, 1, 1), due=date(2026, 1, 1))
    new = GaugeCheck("micrometer", date(2026, 1, 5), due=day)
    assert overdue((old,), "micrometer", day) == date(2026, 1, 1)
    assert overdue((old, new), "Micrometer", day) is None  # due today is not over
    assert overdue((old, new), "Micrometer", day + timedelta(days=1)) == day
    assert overdue((), "Micrometer", day) is overdue((replace(old, due=None),), "Micrometer", day) is None


@pytest.mark.parametrize(
    ("drawer", "texts", "field"),
    [
        ("gauge_checks", {"gauge": "mic", "on": "28.11.2026"}, "on"),
        ("gauge_checks", {"gauge": "mic", "on": "2026-11-28", "due": "2026-11-27"}, "due"),
        ("gauge_checks", {"gauge": "mic"}, "on"),
        ("maintenance", {"machine": "Mill 2"}, "what"),
        ("maintenance", {"what": "oil", "again": "soon"}, "again"),
        ("condition", {"machine": "Hand lathe", "what": "backlash"}, "found"),
        ("fixtures", {}, "name"),
        ("to_ask", {}, "name"),
    ],
)
def test_what_cannot_be_read_in_the_shops_lists_is_said_at_its_column(
    drawer: str, texts: dict[str, str], field: str
) -> None:
    with pytest.raises(BadEntry) as refused:
        drawer_of(drawer).value(texts, "mm")
    assert refused.value.field == field


def test_days_are_read_as_they_are_shown() -> None:
    check = drawer_of("gauge_checks").value({"gauge": "mic", "on": "28 Nov 2026", "due": "2027-11-28"}, "mm")
    assert (check.on, check.due) == (date(2026, 11, 28), date(2027, 11, 28))
    assert planned().heading.due is None
