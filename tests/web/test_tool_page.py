"""The page of one tool at work: its picture, its speed on one scale, its questions; times taken over by one key."""

import csv
import io
import re
from datetime import timedelta
from decimal import Decimal as D

import pytest
from starlette.testclient import TestClient

from ditto_run.core.edits import AddFeatureLines, SetSetup, SetStation, SetToolStep
from ditto_run.core.part import Heading
from ditto_run.core.plan import Plan
from ditto_run.core.run import events as do
from ditto_run.core.shop import Ability, Machine
from ditto_run.desk import Desk
from tests.conftest import planned
from tests.web.conftest import flat

HX = {"HX-Request": "true"}
TOOL = {
    "name": "T02 rough",
    "machine": "Mill 2",
    "kind": "end mill",
    "across": "12 mm",
    "out": "32 mm",
    "flute": "26 mm",
    "nose": "28 mm",
    "flutes": "3",
    "edge": "carbide",
}


@pytest.fixture
def job(desk: Desk) -> int:
    """A block with a slot and a hole, cut in a vise with jaws of 25; T02 in the register, T05 not."""
    mill = desk.shop.load().machines[1]
    ability = Ability(D("7.5"), D(48), D(8000), rapid_m_min=D(24), change_s=D(6))
    desk.shop.save_machine(Machine(1, mill.name, mill.kind, mill.offset_codes, mill.wear, ability))
    desk.drawers.save(
        "materials", 0, {"name": "6061-T6", "density": "2.7", "price": "7.50", "kc11": "700", "mc": "0.25"}
    )
    desk.drawers.save("tools", 0, TOOL)
    number = desk.jobs.new(Plan(Heading("Gate block", 12, "mm", material="6061-T6")), "RK")
    change(
        desk,
        number,
        AddFeatureLines(
            "block 60 x 40 x 30\nslot 20 x 12 deep x 40 long, in the middle, top\nhole 6 through, top, 45 from left, 20 from front"
        ),
    )
    slot, hole = (f.key for f in desk.jobs.load(number).plan.features[1:])
    change(
        desk,
        number,
        SetSetup(
            "first side",
            1,
            "Vise 1",
            cuts=(slot, hole),
            locates_on=("bottom",),
            clamps_on=("front", "back"),
            parallels="10",
            jaw_high="25",
        ),
    )
    setup = desk.jobs.load(number).plan.setups[0].key
    change(desk, number, SetStation(setup, "A", "Vise 1", "G54"))
    change(desk, number, SetToolStep(setup, 2, "rough slot", makes=(slot,)))
    change(desk, number, SetToolStep(setup, 5, "drill 6", makes=(hole,)))
    return number


def change(desk: Desk, job: int, edit: object) -> None:
    desk.jobs.change(job, desk.jobs.load(job).version, "RK", edit)  # type: ignore[arg-type]


def steps(desk: Desk, job: int) -> list[int]:
    return [step.key for step in desk.jobs.load(job).plan.tool_steps]


def test_a_tool_is_drawn_in_its_setup_with_its_speed_and_its_questions(
    client: TestClient, desk: Desk, job: int
) -> None:
    rough, _ = steps(desk, job)
    page = flat(client.get(f"/jobs/{job}/tools?tool={rough}").text)
    assert "T02 reaches, with 18.0 mm to spare." in page
    assert "T02 rough slot in its setup, mm: 14 is needed, it stands out 32." in page
    assert re.search(
        r"Speeds on one scale: handbook [\d,]+ to [\d,]+, the machine ends at 8,000, taken [\d,]+ rev/min\.",
        page,
    )
    for words in (
        "Does it reach? <b>By 18.0 mm",
        "How fast? <b>",
        "Has the spindle the power? <b>",
        "How long? <b>",
    ):
        assert words in page
    assert 'data-key="ArrowRight"' in page
    assert 'data-key="ArrowLeft"' not in page  # it is the first
    assert (
        client.get(f"/jobs/{job}/tools?tool=99999").status_code == 200
    )  # the step as it is, where the tool is gone


def test_what_is_wrong_at_a_tool_stands_on_tools_and_among_what_is_open_and_leads_back(
    client: TestClient, desk: Desk, job: int
) -> None:
    rough, _ = steps(desk, job)
    page = flat(client.get(f"/jobs/{job}/tools").text)
    assert f'href="?tool={rough}"' in page
    assert "Does it reach?" not in page  # right at every tool: said there alone
    step = desk.jobs.load(job).plan.tool_steps[0]
    change(desk, job, SetToolStep(step.setup, 2, step.does, key=step.key, makes=step.makes, reach="13"))
    assert "Does it reach? <b>Too short by 1.0 mm" in flat(client.get(f"/jobs/{job}/tools").text)
    listed = flat(client.get(f"/jobs/{job}/open").text)
    assert "T02: It stands out 13.0 mm (0.51 in), and 14.0 mm (0.55 in) is needed." in listed
    (number,) = re.findall(r'href="\?thing=(\d+)"[^>]*>(?:(?!</a>).)*T02: It stands out', listed)
    assert f"/tools?tool={rough}" in client.get(f"/jobs/{job}/open?thing={number}").text
    shown = flat(client.get(f"/jobs/{job}/tools?tool={rough}").text)
    assert "T02 is too short by 1.0 mm." in shown
    assert 'class="q is-stop"' in shown


def test_a_speed_said_otherwise_is_kept_with_its_reason_and_one_that_cannot_be_read_is_refused_at_its_field(
    client: TestClient, desk: Desk, job: int
) -> None:
    rough, _ = steps(desk, job)
    form = {
        "thing": f"tool {rough}",
        "question": "speed",
        "name": "rpm",
        "version": desk.jobs.load(job).version,
    }
    wrong = client.post(f"/jobs/{job}/ask/figure", data=form | {"text": "fast"}, headers=HX)
    assert wrong.status_code == 422
    assert not desk.jobs.load(job).plan.figures
    said = client.post(
        f"/jobs/{job}/ask/figure",
        data=form | {"text": "4,500", "why": "sings above"},
        headers=HX,
        follow_redirects=False,
    )
    assert said.status_code == 303
    assert said.headers["location"] == f"/jobs/{job}/tools?tool={rough}&ask=speed&figure=none"
    page = flat(client.get(said.headers["location"]).text)
    assert "How fast? 4,500 rev/min." in page
    assert "sings above" in page
    tried = client.get(f"/jobs/{job}/ask/try?thing=tool+{rough}&question=speed&name=rpm&text=9000")
    assert "the machine turns 8,000 rev/min at most" in tried.text


def test_computed_times_go_to_one_step_or_to_all_that_have_none_and_nothing_typed_is_changed(
    client: TestClient, desk: Desk, job: int
) -> None:
    rough, drill = steps(desk, job)
    plan = desk.jobs.load(job).plan
    assert "Take 4 computed times" in flat(client.get(f"/jobs/{job}/tools").text)
    change(
        desk,
        job,
        SetToolStep(
            plan.setups[0].key, 5, "drill 6", "0:33", "0:10", key=drill, makes=plan.tool_steps[1].makes
        ),
    )
    assert "Take 2 computed times" in flat(client.get(f"/jobs/{job}/tools").text)
    form = {"setup": plan.setups[0].key, "version": desk.jobs.load(job).version}
    assert (
        client.post(f"/jobs/{job}/ask/times", data=form, headers=HX, follow_redirects=False).status_code
        == 303
    )
    first, second = desk.jobs.load(job).plan.tool_steps
    assert first.cut_s > 0
    assert (first.change_s, second.cut_s, second.change_s) == (6, 33, 10)
    page = flat(client.get(f"/jobs/{job}/tools").text)
    assert "Take 1 computed" not in page
    assert "take-times" not in page
    assert page.count(">computed</small>") == 1  # the other one was typed
    opened = client.get(f"/jobs/{job}/tools?tool={rough}&ask=cutting&figure=none").text
    assert "The tool step has it so." in opened
    give = {"thing": f"tool {drill}", "question": "cutting", "version": desk.jobs.load(job).version}
    assert "Take this time" in client.get(f"/jobs/{job}/tools?tool={drill}&ask=cutting&figure=none").text
    assert (
        client.post(f"/jobs/{job}/ask/give", data=give, headers=HX, follow_redirects=False).status_code == 303
    )
    assert desk.jobs.load(job).plan.tool_steps[1].cut_s != 33
    assert desk.jobs.load(job).plan.tool_steps[1].change_s == 10
    desk.jobs.undo(job, desk.jobs.load(job).version, "RK")
    assert desk.jobs.load(job).plan.tool_steps[1].cut_s == 33


def test_figures_of_a_step_that_is_gone_are_not_found(client: TestClient, desk: Desk, job: int) -> None:
    form = {
        "thing": "tool 999",
        "question": "speed",
        "name": "rpm",
        "text": "900",
        "version": desk.jobs.load(job).version,
    }
    assert client.post(f"/jobs/{job}/ask/figure", data=form, headers=HX).status_code == 404
    assert client.get(f"/jobs/{job}/ask/try?thing=setup+1&question=speed&name=rpm&text=1").status_code == 404


def test_a_machine_keeps_its_belts_rapid_and_longest_tool_and_refuses_what_is_no_speed(
    client: TestClient, desk: Desk
) -> None:
    form = {
        "name": "Old lathe",
        "kind": "manual lathe",
        "increment": "0.01",
        "speeds": "330 65, 130",
        "rapid": "2",
        "accel": "0.5",
        "change": "20",
        "longest": "90",
        "amps": "7.5",
    }
    wrong = client.post("/shop/machines", data=form | {"speeds": "65 fast"}, headers=HX)
    assert wrong.status_code == 422
    assert "“fast” is no speed." in wrong.text
    client.post("/shop/machines", data=form, headers=HX)
    kept = next(m for m in desk.shop.load().machines.values() if m.name == "Old lathe").ability
    assert [int(one) for one in kept.speeds_rpm] == [65, 130, 330]
    assert (kept.rapid_m_min, kept.accel_m_s2, kept.change_s, kept.tool_mm) == (2, 0.5, 20, 90)
    assert kept.amps == D("7.5")
    page = client.get(
        f"/shop?machine={next(m.id for m in desk.shop.load().machines.values() if m.name == 'Old lathe')}"
    ).text
    assert 'value="65 130 330"' in page


def test_tools_are_printed_with_what_is_needed_and_what_has_to_be_loaded_and_leave_as_csv(
    client: TestClient, desk: Desk, job: int
) -> None:
    page = flat(client.get(f"/jobs/{job}/tools/sheet").text)
    assert "1 tool sheet." in page
    assert "<b>To load: T05.</b>" in page  # the register says what stands in Mill 2, and T05 does not
    rows = list(
        csv.reader(io.StringIO(client.get(f"/jobs/{job}/tools/sheet.csv").content.decode("utf-8-sig")))
    )
    by_name = [dict(zip(rows[0], row, strict=True)) for row in rows[1:]]
    assert [row["tool"] for row in by_name] == ["T02", "T05"]
    assert (by_name[0]["makes"], by_name[0]["diameter [mm]"], by_name[0]["stands out [mm]"]) == (
        "slot",
        "12",
        "32",
    )
    assert (by_name[0]["stick-out needed [mm]"], by_name[0]["in the machine"]) == ("14", "yes")
    assert by_name[1]["in the machine"] == "no"
    empty = desk.jobs.new(Plan(Heading("Nothing yet", 4, "mm")), "RK")
    assert "No tool to print yet." in flat(client.get(f"/jobs/{empty}/tools/sheet").text)


def test_one_number_for_two_tools_is_asked_about(client: TestClient, desk: Desk, job: int) -> None:
    desk.drawers.save("tools", 0, TOOL | {"name": "T02 old one"})
    setup = desk.jobs.load(job).plan.setups[0].key
    change(desk, job, SetToolStep(setup, 5, "drill 8", across="8"))
    change(desk, job, SetToolStep(setup, 5, "drill 9", across="9"))
    page = flat(client.get(f"/jobs/{job}/open").text)
    assert "T02 stands in Mill 2 as T02 rough and as T02 old one." in page
    assert "T05 is Ø8.000 mm (0.3150 in) and Ø9.000 mm (0.3543 in) across in first side." in page


def clock_four_loads(desk: Desk, job: int) -> None:
    """Four full loads of four minutes each."""
    run = desk.runs.start(job, "RK")
    now = desk.now
    for n in range(4):
        desk.at(lambda n=n: now + timedelta(minutes=10 * n)).runs.record(run, do.StartCycle(), "RK", f"s{n}")
        ends = desk.at(lambda n=n: now + timedelta(minutes=10 * n, seconds=240)).runs
        ends.record(run, do.EndCycle(confirm=str(n + 1)), "RK", f"e{n}")
        for piece in range(3 * n + 1, 3 * n + 4):
            ends.record(run, do.TakeReading(piece, 1, "20.001"), "RK", f"r{piece}")
            ends.record(run, do.TakeReading(piece, 2, "31.5"), "RK", f"q{piece}")
        if not n:
            ends.record(run, do.AcceptMaster(1), "RK", "first")


def test_the_clock_goes_before_the_plan_by_one_key_and_says_when_it_says_the_same(
    client: TestClient, desk: Desk
) -> None:
    plan = planned(60)
    job = desk.jobs.new(plan, "RK")
    key = plan.setups[0].key
    assert "The clock says" not in client.get(f"/jobs/{job}/tools").text
    refused = client.post(
        f"/jobs/{job}/ask/clock", data={"setup": key, "version": desk.jobs.load(job).version}, headers=HX
    )
    assert refused.status_code in {409, 422}
    assert "says nothing of this setup yet" in refused.text
    clock_four_loads(desk, job)
    page = flat(client.get(f"/jobs/{job}/tools").text)
    assert "<b>The clock says 4:00 a cycle</b>, 8 of 10 loads within 4:00 to 4:00; 4 full loads." in page
    form = {"setup": key, "version": desk.jobs.load(job).version}
    assert (
        client.post(f"/jobs/{job}/ask/clock", data=form, headers=HX, follow_redirects=False).status_code
        == 303
    )
    step = desk.jobs.load(job).plan.tool_steps[0]
    assert (step.cut_s, step.change_s) == (72, 24)  # 240 over 200 of 60 and 20
    assert "4 full loads. As planned." in flat(client.get(f"/jobs/{job}/tools").text)


def test_the_clock_says_nothing_once_something_else_is_cut(client: TestClient, desk: Desk) -> None:
    plan = planned(60)
    job = desk.jobs.new(plan, "RK")
    clock_four_loads(desk, job)
    assert "The clock says 4:00" in flat(client.get(f"/jobs/{job}/tools").text)
    change(desk, job, SetToolStep(plan.setups[0].key, 4, "chamfer", "30", "10"))
    assert "The clock says" not in client.get(f"/jobs/{job}/tools").text
