"""When tools come up along a run: worked by hand, walked through load by load, asked where the register says how long they last."""

import pytest
from hypothesis import given
from hypothesis import strategies as some

from ditto_run.core.edits import SetToolStep, apply_edit
from ditto_run.core.errors import BadEntry
from ditto_run.core.plan import Plan, ShopKnown
from ditto_run.core.plan.asked import asked_findings, asked_of, tools_asked
from ditto_run.core.plan.worked import Worked, work_out
from ditto_run.core.questions import Asked
from ditto_run.core.sheets import Entries
from ditto_run.core.shop.shop_tools import by_number, read_shop_tool
from ditto_run.core.tools.lives import Lived, Stop, lives
from ditto_run.core.tools.lives_sheet import LIVES
from tests.conftest import MILL, SHOP, planned


def test_by_hand() -> None:
    """Loads of 3 of 48 pieces: T03 has 21 s left of 60 (7 loads, then every 20), T05 lasts 12 pieces (4 loads)."""
    found = lives([Lived("T03", 60, 21), Lived("T05", 12, 12)], 48, 3)
    assert found.stops == (
        Stop(12, ("T05",), ("T03",)),  # T03 would come up after 21, before T05 does again after 24
        Stop(24, ("T05",)),
        Stop(36, ("T05",)),
    )
    assert found.fresh == {"T03": 1, "T05": 3}
    assert lives([Lived("T03", 60, 48)], 48, 3).stops == ()
    assert lives([Lived("T03", 60, 47)], 48, 3).stops == (Stop(45, ("T03",)),)
    assert lives([Lived("T03", 60, 0)], 48, 3).stops == (Stop(0, ("T03",)),)
    assert lives([Lived("T03", 2, 2)], 9, 3).short == ("T03",)
    assert lives([], 9, 3).stops == ()


@given(
    some.lists(some.tuples(some.integers(1, 60), some.integers(0, 60)), min_size=1, max_size=5),
    some.integers(1, 150),
    some.integers(1, 5),
)
def test_walked_through_load_by_load_no_tool_cuts_past_its_life_and_no_stop_is_for_nothing(
    tools: list[tuple[int, int]], pieces: int, load: int
) -> None:
    made = [Lived(f"T{n}", max(life, load), left) for n, (life, left) in enumerate(tools)]
    found = lives(made, pieces, load)
    left = {tool.name: tool.left for tool in made}
    life = {tool.name: tool.life for tool in made}
    stops = {stop.after: stop for stop in found.stops}
    for done in range(0, pieces, load):
        stop = stops.pop(done, None)
        if stop is not None:
            assert all(left[name] < load for name in stop.up)  # it would not last another load
            for name in (*stop.up, *stop.along):
                left[name] = life[name]
        assert min(left.values()) >= load
        left = {name: pieces_left - load for name, pieces_left in left.items()}
    assert not stops


def known(*rows: dict[str, str]) -> ShopKnown:
    tools = by_number(read_shop_tool(Entries(row, "mm", {})) for row in rows)
    return ShopKnown({1: MILL}, tools=tools)


def two_tools() -> Plan:
    plan = planned(24)
    return apply_edit(SetToolStep(plan.setups[0].key, 5, "drill", "10", "14"), plan, SHOP).plan


def of_setups(worked: Worked) -> tuple[Asked, ...]:
    return tuple(one for one in tools_asked(worked) if one.question == "lives")


def test_it_is_asked_of_a_setup_whose_tools_the_register_knows() -> None:
    """T3 cuts 60 s a piece: 20 min are 20 pieces, of which 10 are left; loads of three; T5 has no life said."""
    plan = two_tools()
    shop = known({"name": "T03", "life": "20 min", "left": "10 min", "sisters": "1"}, {"name": "T05"})
    assert of_setups(work_out(plan, ShopKnown({1: MILL}))) == ()
    worked = work_out(plan, shop)
    (asked,) = of_setups(worked)
    assert asked.texts == {"rows": "T03; 60 s; 20 min; 10 min; 1", "pieces": "24", "load": "3"}
    assert asked.answer is not None
    assert asked.answer.say == "1 stop for tools, the first after piece 9: T03."
    assert asked_findings(worked, (asked,)) == []
    worn = work_out(plan, known({"name": "T03", "life": "20 min", "left": "10 min"}))
    (found,) = asked_findings(worn, of_setups(worn))
    assert (found.code, found.problem) == (
        "no-spare-tool",
        "first side: T03 wants 1 fresh one, and there is none.",
    )
    typed = asked_of(worn, "lives", asked.thing, {"pieces": "9"})
    assert typed.answer is not None
    assert typed.answer.say == "The tools whose lives are known last for all 9 pieces."


@pytest.mark.parametrize(
    ("rows", "says"),
    [
        ("T3", "cannot be read"),
        ("T3; 0:41", "cannot be read"),
        ("T3; ; 45 min", "does not follow"),
        ("T3; 60; 45 s", "does not follow"),
        ("T3; 60; 45 min; ; many", "no number of spares"),
        ("T3; soon; 45 min", "soon"),
    ],
)
def test_a_row_that_cannot_be_read_names_its_line(rows: str, says: str) -> None:
    with pytest.raises(BadEntry, match=says) as refused:
        LIVES.answer({"rows": rows}, work_out(two_tools()).known)
    assert refused.value.field == "rows"
