"""Whole plans: the best of every combination, honest where a way is missing, the same whatever the order of the registers."""

from dataclasses import replace
from decimal import Decimal
from itertools import product
from math import ceil, isfinite

import pytest
from hypothesis import given as for_all
from hypothesis import strategies as st

from ditto_run.core.edits import AddFeatureLines, apply_edit
from ditto_run.core.errors import NotFound, NotNow
from ditto_run.core.hold.chain import check_chain
from ditto_run.core.method.totals import line_of
from ditto_run.core.plan import Plan
from ditto_run.core.propose.beside import beside_own
from ditto_run.core.propose.choices import checked, choices_of, picked, weighed
from ditto_run.core.propose.drafts import MOST_DRAFTS, OWN, Picks, WholeGround, forget
from ditto_run.core.propose.judged import HEIGHTS_MM
from ditto_run.core.propose.said import said_of
from ditto_run.core.propose.setup_tools import Owned
from ditto_run.core.propose.take_whole import take_whole
from ditto_run.core.propose.ways import held_by, held_in_place
from ditto_run.core.propose.whole import (
    WholePlan,
    figured,
    gauged_every,
    left_open,
    searched,
    two_of,
    with_bought,
    without_rate,
)
from ditto_run.core.shop.shop_tools import ShopTool
from ditto_run.core.shop.taught import Taught
from tests.conftest import SHOP
from tests.core.propose.whole import MACHINES, PIN, VISES, ground, part, shop, vise
from tests.searches import searches

LINES = (
    "face top",
    "face bottom",
    "bore 12 H7 through, top, 30 from left, 20 from front",
    "hole 6 x 8 deep, top, 45 from left, 20 from front",
    "slot 8 ±0.05 x 6 deep, full length, bottom",
    "hole 4 x 8 deep, top, 10 ±0.05 from left, 30 from front",
    "face left",
    "hole 5 x 8 deep, left, 10 from front, 10 from bottom",
)


def pair_of(there: WholeGround, many: int = 48) -> tuple[WholePlan, ...]:
    return two_of(searched(there, "cost"), many, "cost")


def every_plan(there: WholeGround) -> list[WholePlan]:
    """Each combination of chain, machines, tools and stations, tried one by one."""
    found = []
    for chain, mill, lathe, tools in product(
        range(len(there.chains)), there.mills, there.lathes, ("quick", "thorough")
    ):
        picks = Picks(chain, mill, lathe, tools)  # type: ignore[arg-type] # of its names
        drafted = there.draft(picks)
        rooms = [range(1, there.room(drafted, n) + 1) for n in range(len(drafted.plan.setups))]
        found += [figured(there, replace(picks, stations=counts)) for counts in product(*rooms)]
    return found


@searches(12)
@for_all(st.lists(st.sampled_from(LINES), min_size=1, max_size=4, unique=True), st.integers(4, 200))
def test_no_combination_is_better_than_the_two(some: list[str], many: int) -> None:
    """Against every combination of chain, machine, tools and stations; and what each makes is held and breaks no rule."""
    there = ground(part("\n".join(["block 60 x 40 x 20", *some]), many))
    quick, thorough = pair_of(there, many)
    tried = every_plan(there)
    first = min(one.rank for one in tried)
    best = [one for one in tried if one.rank == first]
    assert min(one.total(many, "cost") for one in best) == pytest.approx(
        min(one.total(many, "cost") for one in (quick, thorough))
    )
    assert min(one.first_s or 0 for one in best) == pytest.approx(quick.first_s or 0)
    for one in (quick, thorough):
        plan = one.drafted.plan
        stops = [f for f in check_chain(replace(plan.chain, setups=plan.setups)) if f.weight == "stop"]
        assert not stops
        for tools in one.drafted.tools:
            for choice in tools.choices if tools is not None else ():
                assert choice.way is None or not choice.is_whole or held_by(choice.way, choice.wanted)
                assert (
                    choice.way is None or not choice.is_whole or held_in_place(choice.way, choice.within_mm)
                )


def test_more_vises_never_make_the_best_worse_and_their_names_do_not_matter() -> None:
    plan, totals = part(), []
    for many in (1, 2, 3):
        holders = {name: VISES[name] for name in [*VISES][:many]}
        totals.append(pair_of(ground(plan, shop(holders=holders)))[-1].total(48, "cost"))
    assert totals[0] >= totals[1] >= totals[2]
    renamed = {name: vise(name) for name in ("Zeta", "Alpha", "Mid")}
    machines = {n + 10: replace(one, id=n + 10) for n, one in reversed(MACHINES.items())}
    other = pair_of(ground(plan, shop(holders=renamed, machines=machines)))[-1]
    assert other.total(48, "cost") == pytest.approx(totals[2])


@searches(4)
@for_all(st.sampled_from(range(1, len(LINES))))
def test_a_feature_less_never_takes_more(gone: int) -> None:
    lines = ["block 60 x 40 x 20", *LINES]
    whole = pair_of(ground(part("\n".join(lines))))[-1]
    less = pair_of(ground(part("\n".join(lines[:gone] + lines[gone + 1 :]))))[-1]
    assert (less.rank[0], less.rank[2]) <= (whole.rank[0], whole.rank[2])
    if less.rank == whole.rank:
        assert less.total(48, "cost") <= whole.total(48, "cost") + 1


TOOLS = (
    ShopTool("face", 1, "", "face mill", Decimal(50)),
    ShopTool("seven", 2, "", "end mill", Decimal(7)),
    ShopTool("five", 3, "", "end mill", Decimal(5)),
    ShopTool("spot", 4, "", "spot drill"),
    ShopTool("ream", 5, "", "reamer", Decimal("12.006")),
)


@searches(8)
@for_all(
    st.lists(st.sampled_from(LINES), min_size=1, max_size=4, unique=True),
    st.sampled_from(("end mill", "face mill", "drill")),
    st.sampled_from((3, 6, 10, 16, 63)),
)
def test_another_tool_makes_no_fewer_features_and_hardly_more_work(
    some: list[str], kind: str, mm: int
) -> None:
    """What serves most features is taken, then what is widest: not always the quickest, but within a hundredth of it."""
    plan = part("\n".join(["block 60 x 40 x 20", *some]))
    more = ShopTool("more", 9, "", kind, Decimal(mm))
    before, after = (pair_of(ground(plan, owned=Owned(tools)))[-1] for tools in (TOOLS, (*TOOLS, more)))
    assert after.rank <= before.rank
    if after.rank == before.rank:
        assert after.total(48, "cost") <= before.total(48, "cost") * 1.01


def test_what_serves_most_features_goes_before_what_is_widest() -> None:
    """An end mill of 10 mm goes round an outline sooner; one of 7 is put in for the slot anyway, and does both."""
    lines = "block 60 x 40 x 20\nslot 8 ±0.05 x 6 deep, full length, bottom"
    ten, huge = (ShopTool(f"{mm}", mm, "", "end mill", Decimal(mm)) for mm in (10, 63))
    there = ground(part(lines), owned=Owned((*TOOLS, ten, huge)))
    assert {step.tool for step in pair_of(there)[-1].drafted.plan.tool_steps} == {2}
    alone = ground(part("block 60 x 40 x 20"), owned=Owned((*TOOLS, ten, huge)))
    assert {step.tool for step in pair_of(alone)[-1].drafted.plan.tool_steps} == {10}


def test_by_hand_comes_sooner_and_by_control_takes_less() -> None:
    there = ground(part())
    quick, thorough = pair_of(there)
    assert [MACHINES[one.picks.mill or 0].name for one in (quick, thorough)] == ["Old mill", "Mill 2"]
    say, why = said_of((quick, thorough), "cost", "€")
    saved = (quick.total(48, "cost") - thorough.total(48, "cost")) / 100
    assert say.startswith(f"Thorough saves €{saved:.2f}; quick cuts its first piece")
    assert why == "Both make all 5 features within their limits."


def test_the_first_piece_and_what_is_at_risk_are_as_by_hand() -> None:
    """Worked by hand: programming 60, tooling 25, the first setup 30 and a second vise 8 min, then a load; two loads of two."""
    there = ground(part())
    one = figured(there, Picks(0, 1, 3, "quick", stations=(2, 1)))
    plan = there.with_stations(one.picks, placed=False)
    load = plan.times(plan.setups[0].key).cycle_s
    assert one.first_s == pytest.approx((60 + 25 + 30 + 8) * 60 + load)
    assert one.load == 2
    assert one.at_risk == 2 * 1 + 2  # the load that is gauged, and the one that cuts meanwhile
    by_hand = figured(there, Picks(0, 2, 4))
    assert by_hand.at_risk == 1
    assert by_hand.first_s is not None
    assert by_hand.first_s < 45 * 60


def test_stations_have_codes_of_the_machine_and_no_two_the_same_in_a_load() -> None:
    there = ground(part())
    plan = there.with_stations(Picks(0, 1, 3, stations=(3, 3)), placed=True)
    codes = [one.offset for one in plan.stations]
    assert codes == ["G54", "G55", "G56", "G57", "G58", "G59"]
    few = shop(machines={**MACHINES, 1: replace(MACHINES[1], offset_codes=("G54", "G55", "G56", "G57"))})
    plan = ground(part(), few).with_stations(Picks(0, 1, 3, stations=(3, 3)), placed=True)
    second = [one.offset for one in plan.stations if one.setup == plan.setups[1].key]
    assert second == ["G57", "G54", "G55"]  # those of the setup before come again: it is cut at another time
    drafted = there.draft(Picks(0, 2, 4))
    assert there.room(drafted, 0) == 1  # dials and stops tell no two places apart


def test_a_control_goes_round_and_a_hand_does_not() -> None:
    lines = "block 60 x 40 x 20\npocket Ø20 x 5 deep, top, 30 from left, 20 from front"
    there = ground(part(lines))
    assert figured(there, Picks(0, 1, 3)).drafted.unmade == ()
    by_hand = figured(there, Picks(0, 2, 4))
    assert by_hand.drafted.unmade == ("pocket",)
    assert by_hand.drafted.lacks[0].startswith("Round:")


def test_what_is_lacking_is_named_with_what_could_be_bought() -> None:
    there = ground(part(PIN, form="turned"))
    best = pair_of(there)[-1]
    assert best.drafted.unmade == ("groove",)
    bought = with_bought(there, best)
    assert bought is not None
    tools, more = bought
    assert [tool.name for tool in tools] == ["grooving tool 2 mm"]
    assert pair_of(more)[-1].drafted.unmade == ()
    buy = next(one for one in choices_of(there, best) if one.key == "buy")
    assert "No grooving tool up to 2 mm to groove with" in buy.why
    assert with_bought(more, pair_of(more)[-1]) is None
    assert said_of((best,), "time", "")[1] == "Not made by what is here: groove."


def test_a_plan_without_a_time_is_not_called_the_least() -> None:
    plan = part("block 60 x 40 x 20\nface top")
    there = ground(replace(plan, heading=replace(plan.heading, material="")), shop(machines={}))
    found = two_of(searched(there, "time"), 48, "time")
    assert found[0].drafted.untimed
    assert not isfinite(found[0].total(48, "time"))
    assert said_of(found, "time", "")[0].endswith("no time comes out until Part says the material.")
    assert found[0].first_s is None


def test_a_machine_without_a_rate_is_named_and_none_is_not() -> None:
    there = ground(part(), shop(rates={"labour": 4200, "mill 2": 3800}))
    found = searched(there, "time")
    assert without_rate(there, found) == ("Old mill",)
    assert without_rate(ground(part(), shop(rates={"labour": 4200})), found) == ()


def test_a_pick_changes_what_it_names_and_keeps_the_rest() -> None:
    there = ground(part())
    base = Picks(0, 1, 3, "quick", stations=(2, 1))
    assert picked(base, "mill:2") == replace(base, mill=2)
    assert picked(base, "stations:1:3").stations == (2, 3)
    assert picked(picked(base, "way:4:milled at once"), "way:4:x").ways == ((4, "x"),)
    for text in ("", "chain", "chain:x", "mill:2:3", "stations:0", "way:4", "lathe:", "drop:1"):
        with pytest.raises(NotFound):
            picked(base, text)
    for wrong in ("chain:7", "mill:3", "stations:0:4", "stations:0:0"):
        with pytest.raises(NotFound):
            checked(there, picked(base, wrong))
    names = {f.name: f.key for f in there.plan.features}
    slot = names["slot"]
    one = figured(there, checked(there, picked(base, f"way:{slot}:roughed, then finished by another")))
    other = figured(there, base)
    changed = [s.does for s in one.drafted.plan.tool_steps if slot in s.makes]
    assert [does.split()[0] for does in changed] == ["rough", "finish"]
    mine, theirs = (
        [s.does for s in each.drafted.plan.tool_steps if slot not in s.makes] for each in (one, other)
    )
    assert mine == theirs
    ignored = figured(there, picked(base, f"way:{slot}:bored with a spoon"))
    assert [s.does for s in ignored.drafted.plan.tool_steps] == [
        s.does for s in other.drafted.plan.tool_steps
    ]


def test_what_was_turned_down_says_what_it_comes_to_and_from_how_many_it_would_be_better() -> None:
    plan = part()
    there = ground(plan)
    one = pair_of(there)[-1]
    choice = next(one for one in choices_of(there, one) if one.key == "stations:0")
    rows = weighed(there, one, choice, "cost")
    assert len(rows) == len(choice.down) == 2
    for row in rows:
        other = figured(there, picked(one.picks, row.down.pick))
        assert row.total == f"{other.total(48, 'cost') / 100:,.2f}"
        word, _, rest = row.takes.partition(" ")
        assert word == "less"
        pieces = int(rest.split()[-2 if rest.startswith("up") else 1])
        beyond = pieces if rest.startswith("up to") else ceil(pieces)
        assert other.total(beyond, "cost") <= one.total(beyond, "cost")
    shown = {words for _, words in choice.options}
    assert shown == {"1 station", "2 stations", "3 stations"}
    assert "" in dict(choice.options)


def test_drift_that_batches_taught_says_how_often_and_consequence_goes_before_it() -> None:
    """Worked by hand: 12 H7 is 18 µm wide, half of half of that is 4.5; 0.03 mm in 100 pieces is 0.3 µm a load: every 15."""
    plan = part()
    taught = (Taught("drift", 0.03, 2, 96, "", "Mill 2", "6061-T6"),)
    there = ground(plan, shop(taught=taught))
    one = figured(there, Picks(0, 1, 3))
    assert (one.gauged.loads, one.gauged.size) == (15, "bore")
    assert gauged_every(one.drafted.plan, ground(plan)).loads == 1
    hurts = replace(plan, heading=replace(plan.heading, holds_pressure=True))
    assert figured(ground(hurts, shop(taught=taught)), Picks(0, 1, 3)).gauged.loads == 1
    gauge = next(c for c in choices_of(there, one) if c.key == "gauge")
    assert gauge.said == "Every 15 loads."
    assert take_whole(plan, there, one, "proposed").plan.heading.gauge_every == 15


def test_a_whole_plan_is_taken_as_one_change_and_not_over_setups() -> None:
    plan = part()
    there = ground(plan)
    one = pair_of(there)[-1]
    changed = take_whole(plan, there, one, "Proposed: it saves an hour.")
    taken = changed.plan
    assert changed.what == "took the proposed plan: 2 setups, 7 tool steps"
    assert [bool(taken.stations_of(setup.key)) for setup in taken.setups] == [True, True]
    assert taken.choice is not None
    assert taken.choice.reason == "Proposed: it saves an hour."
    assert taken.choice.total_s == pytest.approx(line_of(taken.ways[0], "time").at(48), rel=0.02)
    with pytest.raises(NotNow):
        take_whole(taken, there, one, "again")


def test_a_plan_that_is_there_is_completed_and_what_it_has_stays() -> None:
    taken = take_whole(part(), ground(part()), pair_of(ground(part()))[-1], "so").plan
    some = replace(taken, tool_steps=taken.tool_steps[:2], stations=())
    there = ground(some)
    own = figured(there, Picks(OWN))
    assert own.drafted.plan.tool_steps[:2] == some.tool_steps
    assert own.drafted.unmade == ()
    done = take_whole(some, there, own, "").plan
    assert len(done.stations) == len(done.setups)
    with pytest.raises(NotNow):
        take_whole(done, ground(done), figured(ground(done), Picks(OWN)), "")
    assert next(one.key for one in choices_of(there, own)) != "chain"


def test_a_proposal_beside_a_plan_of_more_setups_says_what_is_cut_together() -> None:
    plan = part()
    there = ground(plan)
    one = pair_of(there)[-1]
    taken = take_whole(plan, there, one, "so").plan
    first = taken.setups[0]
    more = replace(first, key=900, name="third side", cuts=first.cuts[-1:])
    own = replace(taken, setups=(replace(first, cuts=first.cuts[:-1]), taken.setups[1], more))
    said = beside_own(own, one, one.changes)
    assert said[0].startswith("2 setups instead of 3: ")
    assert "cut with" in said[0]
    assert beside_own(taken, one, one.changes) == ()
    assert beside_own(taken, one, one.changes + 3)[0].endswith(f"instead of {one.changes + 3}.")


def test_what_is_proposed_is_not_stopped_by_hold_place_or_tools() -> None:
    for plan in (part(), part(PIN, form="turned"), part("block 60 x 40 x 20\n" + "\n".join(LINES))):
        there = ground(plan)
        for one in pair_of(there):
            assert [f.problem for f in left_open(there, one) if f.weight == "stop"] == []


def test_an_empty_shop_gets_usual_tools_and_no_part_gets_nothing() -> None:
    there = ground(part(), shop(machines={}, holders={}, drills=(), reamers=()))
    (one, *_) = two_of(searched(there, "time"), 48, "time")
    assert one.drafted.usual
    assert ground(Plan(part().heading)).chains == ()
    assert searched(ground(Plan(part().heading)), "time") == ()
    assert said_of((), "time", "") == ("", "")


def test_tools_of_the_register_go_before_usual_ones() -> None:
    mill = ShopTool("T09 end mill", 9, "Mill 2", "end mill", Decimal(6))
    spot, face = (
        ShopTool("T10 spot", 10, "Mill 2", "spot drill"),
        ShopTool("T11 face", 11, "", "face mill", Decimal(50)),
    )
    one = figured(ground(part(), owned=Owned((mill, spot, face))), Picks(0, 1, 3))
    assert {9, 10, 11} <= {step.tool for step in one.drafted.plan.tool_steps}
    assert not one.drafted.usual


def test_a_chain_says_that_none_is_shorter_only_where_that_is_so() -> None:
    there = ground(part())
    one = pair_of(there)[-1]
    chain = there.chains[0]
    assert chain.is_fewest
    assert "no fewer setups keep" in choices_of(there, one)[0].why
    longer = replace(there, chains=(replace(chain, is_fewest=False),), _drafts={}, figured={})
    assert "is stopped by a check" in choices_of(longer, one)[0].why


def test_a_shop_of_inches_gets_usual_tools_and_parallels_of_inches() -> None:
    lines = "block 2.5 x 1.5 x 1\nface top\nslot 0.5 ±.005 x 0.25 deep, full length, top\ntapped hole 1/4-20 x 0.5 deep, top"
    plan = part(lines)
    inch = replace(part("face top"), features=(), heading=replace(plan.heading, unit="in"))
    inch = apply_edit(AddFeatureLines(lines), inch, SHOP).plan
    there = ground(inch, shop(drills=()))
    one = figured(there, Picks(0, 1, 3, "thorough"))
    called = {
        tool.name for tools in one.drafted.tools if tools for c in tools.choices for tool in c.tools if tool
    }
    assert {"face mill 2 in", "end mill 0.375 in", "1/4-20 tap"} <= called
    assert any(words.endswith(" in to drill with: none is on Shop.") for words in one.drafted.lacks)
    assert all(mm % Decimal("3.175") == 0 for mm in HEIGHTS_MM["in"])


def test_picks_that_somebody_makes_up_do_not_fill_the_memory() -> None:
    there = ground(part("block 60 x 40 x 20\nface top"))
    kept = {replace(Picks(), stations=(n,)): n for n in range(MOST_DRAFTS + 5)}
    forget(kept)
    assert (len(kept), min(kept.values())) == (MOST_DRAFTS, 5)
    for n in range(3):
        figured(there, picked(Picks(0, 1, 3), f"way:1:made up {n}"))
    assert len(there.figured) <= MOST_DRAFTS


def test_a_wall_is_milled_by_the_side_of_a_cutter_that_is_long_enough() -> None:
    plan = part("block 60 x 40 x 20\nface top\nface left")
    short, long = (
        replace(TOOLS[1], name=name, flute_mm=Decimal(mm)) for name, mm in (("short", 12), ("long", 22))
    )
    one = figured(ground(plan, owned=Owned((TOOLS[0], short, long))), Picks(0, 1, 3))
    assert [setup.held.up for setup in one.drafted.plan.setups] == ["top"]
    wall = next(c for tools in one.drafted.tools if tools for c in tools.choices if c.name == "left face")
    assert [tool.name for tool in wall.tools if tool] == ["long"]
    bare = figured(ground(plan, owned=Owned((TOOLS[0], short))), Picks(0, 1, 3))
    assert bare.drafted.unmade == ("left face",)


def test_one_station_is_not_praised_where_two_would_take_less() -> None:
    there = ground(part(many=400))
    best = pair_of(there, 400)[-1]
    assert best.picks.stations[0] > 1
    alone = figured(there, picked(best.picks, "stations:0:1"))
    why = next(c.why for c in choices_of(there, alone) if c.key == "stations:0")
    assert why.startswith("Each piece bears its changes of tool alone: ")
    few = figured(ground(part(many=4)), replace(best.picks, stations=(1, 1)))
    why = next(c.why for c in choices_of(ground(part(many=4)), few) if c.key == "stations:0")
    assert why.startswith("A further one takes longer to place and zero than it saves of ")
