"""The gate before cutting: one list, what each thing yields to, and what a start refuses."""

from dataclasses import replace

import pytest

from ditto_run.core.edits import (
    OverrideFinding,
    SetCharacteristic,
    SetFeature,
    SetHeading,
    SetSetup,
    SetStation,
    apply_edit,
)
from ditto_run.core.errors import BadEntry, ChangedMeanwhile, NotNow
from ditto_run.core.part import Heading
from ditto_run.core.plan import OpenThing, Plan
from ditto_run.core.plan.open import gauging_findings
from ditto_run.desk import Desk
from ditto_run.desk.gate import Open, start_run, what_is_open
from tests.conftest import SHOP, planned

HOOK = SetHeading("Lifting hook", 12, lifts=True, heat="H-1")


def opened(desk: Desk, job: int) -> Open:
    return what_is_open(desk, desk.jobs.load(job))


def stand(desk: Desk, job: int, thing: OpenThing, note: str = "seen", initials: str = "RK") -> None:
    code, about, ground = thing.finding.key
    edit = OverrideFinding(
        thing.finding.problem, note, "", initials, code, about, ground, thing.finding.weight
    )
    desk.jobs.change(job, desk.jobs.load(job).version, "RK", edit)


def test_a_sound_plan_starts_and_nothing_is_open(desk: Desk) -> None:
    job = desk.jobs.new(planned(), "RK")
    assert opened(desk, job).wanted == ()
    assert opened(desk, job).not_begun == ("Method", "Stock")
    assert start_run(desk, job, "RK") == start_run(desk, job, "RK")


def test_a_fresh_job_says_what_is_open_and_settles_nothing(desk: Desk) -> None:
    job = desk.jobs.new(Plan(Heading("Pin", 5)), "RK")
    assert {thing.finding.code for thing in opened(desk, job).wanted} == {"no-characteristic", "no-setup"}
    assert desk.jobs.load(job).plan.not_begun == {"method", "stock", "place", "tools"}
    assert {thing.yields for thing in opened(desk, job).wanted} == {"never"}


def test_what_a_start_cannot_do_without_yields_to_no_note_and_what_comes_later_does(desk: Desk) -> None:
    job = desk.jobs.new(Plan(Heading("Pin", 5)), "RK")
    for edit in (
        SetCharacteristic("height", "20 ±0.1"),
        SetSetup("first", None, "vise"),
        SetSetup("second", None, "vise"),
    ):
        desk.jobs.change(job, desk.jobs.load(job).version, "RK", edit)
    yields = {
        thing.finding.problem: thing.yields
        for thing in opened(desk, job).wanted
        if "station" in thing.finding.problem
    }
    assert yields == {"first has no station.": "never", "second has no station.": "note"}
    with pytest.raises(NotNow, match="first has no station"):
        start_run(desk, job, "RK", "it may stand")


def test_asked_things_stand_by_a_note_that_is_kept_with_each(desk: Desk) -> None:
    plan = planned(12, SetCharacteristic("edge", "2", "critical", setup=3))
    job = desk.jobs.new(plan, "RK")
    with pytest.raises(BadEntry, match="1 thing is open: edge is critical but has no limits") as asked:
        start_run(desk, job, "RK", " ")
    assert asked.value.field == "note"
    start_run(desk, job, "RK", "The customer said any.")
    assert [thing.stands.note for thing in opened(desk, job).standing] == ["The customer said any."]
    assert [(r.number, r.version, r.reason) for r in desk.runs.revisions(job)] == [(1, 2, "start")]
    with desk.runs.folded(desk.runs.require(job)) as state:
        assert state.plan.overrides[0].who == "RK"


def test_a_part_with_a_consequence_never_starts_unapproved(desk: Desk) -> None:
    job = desk.jobs.new(planned(12, HOOK), "RK")
    first = opened(desk, job).wanted[0]
    assert (first.finding.code, first.yields) == ("no-approval", "never")
    with pytest.raises(NotNow, match="nobody competent has approved"):
        start_run(desk, job, "RK", "it is urgent")
    with pytest.raises(NotNow, match="yields to no note"):
        stand(desk, job, first)
    desk.jobs.change(job, 1, "RK", replace(HOOK, approved_by="A. Designer"))
    assert start_run(desk, job, "RK")


def test_a_stop_wants_initials_and_is_asked_again_when_its_ground_changes(desk: Desk) -> None:
    plan = planned(12)
    twin = replace(plan.stations[1], offset="G59.1")  # a code this machine lacks never yields
    job = desk.jobs.new(replace(plan, stations=(plan.stations[0], twin)), "RK")
    assert [thing.yields for thing in opened(desk, job).stops] == ["never"]
    with pytest.raises(NotNow, match=r"has no G59\.1"):
        start_run(desk, job, "RK")


def test_an_override_lives_as_long_as_its_ground(desk: Desk) -> None:
    job = desk.jobs.new(planned(12, SetSetup("second side", 1, "pallet")), "RK")
    second = desk.jobs.load(job).plan.setups[1].key
    desk.jobs.change(job, 1, "RK", SetStation(second, "P", "pallet", "G57"))
    desk.jobs.change(job, 2, "RK", SetCharacteristic("width", "40 ±0.05 mm"))
    asked = next(t for t in opened(desk, job).wanted if t.finding.code == "size-without-setup")
    stand(desk, job, asked, initials="")
    assert [t.finding.code for t in opened(desk, job).standing] == ["size-without-setup"]
    desk.jobs.change(job, 4, "RK", SetSetup("last side", 1, "pallet"))
    again = [t.finding for t in opened(desk, job).wanted if t.finding.code == "size-without-setup"]
    assert [finding.ground for finding in again] == ["width last side"]


def test_where_sizes_are_gauged_is_asked_once_while_no_feature_is_described(desk: Desk) -> None:
    plan = planned(12, SetSetup("second side", 1, "pallet"), SetCharacteristic("width", "40 ±0.05 mm"))
    plan = apply_edit(SetCharacteristic("depth", "4 ±0.1 mm"), plan, SHOP).plan
    said = [f.problem for f in gauging_findings(plan)]
    assert said == [
        "Nobody has said where width, depth are gauged: in second side, the last setup, until then."
    ]
    plan = apply_edit(SetFeature("top face"), plan, SHOP).plan
    assert [f.problem.split(";", maxsplit=1)[0] for f in gauging_findings(plan)] == [
        "No feature makes width",
        "No feature makes depth",
    ]


def test_initials_are_wanted_for_a_stop(desk: Desk) -> None:
    job = desk.jobs.new(planned(12), "RK")
    edit = OverrideFinding(
        "The handle hits the door.", "off once clamped", "RK", " ", "swing", "x", "y", "stop"
    )
    with pytest.raises(BadEntry) as asked:
        desk.jobs.change(job, 1, "RK", edit)
    assert asked.value.field == "initials"


def test_a_plan_that_was_changed_meanwhile_is_not_started(desk: Desk) -> None:
    job = desk.jobs.new(planned(), "RK")
    with pytest.raises(ChangedMeanwhile):
        desk.runs.start(job, "RK", "k", version=7)


def test_what_is_worked_out_is_kept_until_plan_or_shop_change(desk: Desk) -> None:
    job = desk.jobs.load(desk.jobs.new(planned(), "RK"))
    first = desk.worked_out(job)
    assert desk.worked_out(job) is first
    desk.offsets.look(1, "G54", "RK")  # an offset that was looked at or set changes no plan
    assert desk.worked_out(job) is first
    desk.shop.save_setting("money", "£")
    assert desk.worked_out(job) is not first
    assert desk.worked_out(job).known.money == "£"
