"""The cycle that tool steps make, and typed times."""

import pytest

from ditto_run.core.edits import RemoveStation, SetStation, SetToolStep, apply_edit
from ditto_run.core.errors import BadEntry, NotFound
from ditto_run.core.times import read_seconds
from ditto_run.core.tools import ToolStep, check_tool_step, cycle_time, tool_findings
from tests.conftest import SHOP, planned

CLAMP_BLOCK = [ToolStep(n, 1, n, "x", cut, 24) for n, cut in enumerate((18, 41, 26, 6, 14, 12, 15), 1)]


def test_the_demos_cycle_by_hand() -> None:
    """Cutting 132 s × 3 pieces + 7 changes × 24 s = 564 s = 9:24; with 45 s handling × 3 it is 699 s, 233 s a piece."""
    found = cycle_time(CLAMP_BLOCK, 3, 45)

    assert (found.cycle_s, found.load_to_load_s, found.per_piece_s) == (564, 699, 233)


def test_a_tap_at_one_of_three_stations_costs_only_there() -> None:
    """Slot 60 s at A, B and C with 20 s to change, tap 30 s at C only with 10: 180 + 20 + 30 + 10 = 240 s; everywhere 300 s."""
    plan = planned(12)
    key = plan.setups[0].key
    plan = apply_edit(SetToolStep(key, 5, "tap", "30", "10", stations=("C",)), plan, SHOP).plan
    tap = plan.tool_steps[-1]
    assert plan.times(key).cycle_s == pytest.approx(240)
    assert plan.share_of(tap) == pytest.approx(1 / 3)
    everywhere = apply_edit(SetToolStep(key, 5, "tap", "30", "10", tap.key, ("A", "B", "C")), plan, SHOP).plan
    assert everywhere.tool_steps[-1].stations == ()
    assert everywhere.times(key).cycle_s == pytest.approx(300)
    with pytest.raises(NotFound):
        apply_edit(SetToolStep(key, 5, "tap", stations=("Z",)), plan, SHOP)


def test_a_station_that_is_renamed_or_removed_takes_its_tool_steps_along() -> None:
    plan = planned(12)
    key = plan.setups[0].key
    plan = apply_edit(SetToolStep(key, 5, "tap", "30", stations=("C",)), plan, SHOP).plan
    renamed = apply_edit(SetStation(key, "D", "vise", "G56", was="C"), plan, SHOP).plan
    assert renamed.tool_steps[-1].stations == ("D",)
    removed = apply_edit(RemoveStation(key, "C"), plan, SHOP).plan
    assert removed.tool_steps[-1].stations == ()
    assert removed.share_of(removed.tool_steps[-1]) == 1.0


def test_more_pieces_share_the_changes() -> None:
    times = [cycle_time(CLAMP_BLOCK, pieces, 45).per_piece_s for pieces in range(1, 10)]

    assert times == sorted(times, reverse=True)


@pytest.mark.parametrize(
    ("text", "seconds"),
    [
        ("41", 41),
        ("0:41", 41),
        ("1:05", 65),
        ("1:00:05", 3605),
        ("2 min", 120),
        ("2,5 min", 150),
        ("1 h", 3600),
        ("", 0),
        ("41.5 s", 41.5),
    ],
)
def test_times_as_typed(text: str, seconds: float) -> None:
    assert read_seconds(text, "cut") == seconds


@pytest.mark.parametrize("text", ["soon", "1:75", "-4", "99999999", "900 h"])
def test_what_is_no_time_is_refused(text: str) -> None:
    with pytest.raises(BadEntry) as refused:
        read_seconds(text, "cut")
    assert refused.value.field == "cut"


def test_a_step_without_time_is_asked_about() -> None:
    assert [f.code for f in tool_findings(1, "first", [ToolStep(1, 1, 3, "slot")])] == ["no-time"]
    assert [f.code for f in tool_findings(1, "first", [])] == ["no-tool"]
    with pytest.raises(BadEntry):
        check_tool_step(ToolStep(1, 1, 1000, "slot"))
    with pytest.raises(BadEntry):
        check_tool_step(ToolStep(1, 1, 1, " "))


@pytest.mark.parametrize(
    ("steps", "codes"),
    [
        ([(1, "part off"), (2, "drill 8.5")], ["parted-early"]),
        ([(2, "drill 8.5"), (1, "Parting off")], []),
        ([(1, "part off"), (0, "deburr")], []),
        ([(1, "cut off"), (1, "part off")], []),
        ([(0, "part off"), (2, "drill")], []),
    ],
)
def test_parting_off_before_another_tool_is_asked_about(steps, codes) -> None:
    mine = [ToolStep(key, 1, tool, does, 10.0) for key, (tool, does) in enumerate(steps, 1)]
    found = tool_findings(1, "turn", mine)
    assert [f.code for f in found] == codes
    assert all("parts the piece off before T02 drill 8.5" in f.problem for f in found)
