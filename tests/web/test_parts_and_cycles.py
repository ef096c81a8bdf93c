"""Several parts in one job, and each device at its own cycle: what an address says, and what a key acts on."""

from dataclasses import replace
from datetime import date

import pytest
from starlette.testclient import TestClient

from ditto_run.core.edits import RemoveStation, SetCycle, SetHeading, SetKitPart, SetStation
from ditto_run.core.errors import ChangedMeanwhile
from ditto_run.core.run import events as do
from ditto_run.desk import Desk, open_desk
from ditto_run.desk.gate import what_is_open
from ditto_run.desk.kits import kit_of, made_by_jobs
from ditto_run.formats.job_bundle import read_bundle, write_bundle
from ditto_run.settings import Settings
from tests.core.run.test_cycles import both_sides, bracket, changed, two_parts
from tests.web.conftest import flat


@pytest.fixture
def pair(desk: Desk) -> int:
    """Left and right in two vises."""
    return desk.jobs.new(two_parts(), "RK")


@pytest.fixture
def lathes(desk: Desk) -> int:
    """Two cycles on two machines, running."""
    machine = desk.shop.machine(1)
    other = desk.shop.save_machine(replace(machine, id=0, name="Mill 3"))
    plan = bracket(6)
    first = plan.setups[0].key
    plan = replace(plan, setups=plan.setups[:1], tool_steps=())
    plan = changed(plan, SetStation(first, "L"), SetStation(first, "R"))
    plan = changed(plan, SetCycle("left mill", (f"{first}:L",)), SetCycle("right mill", (f"{first}:R",), 3))
    cycles = tuple(replace(c, machine_id=other if c.machine_id else None) for c in plan.cycles)
    job = desk.jobs.new(replace(plan, cycles=cycles), "RK")
    desk.runs.start(job, "RK")
    return job


def test_an_address_with_a_part_shows_that_part_and_leads_back_to_it(
    client: TestClient, desk: Desk, pair: int
) -> None:
    page = flat(client.get(f"/jobs/{pair}-2/part").text)
    assert "Stay bracket, left + right" in page  # the job
    assert f'href="/jobs/{pair}-2/hold"' in page
    assert f'action="/jobs/{pair}-2/plan"' in page
    sent = {
        "kind": "set_characteristic",
        "name": "thread",
        "size": "M8",
        "version": desk.jobs.load(pair).version,
        "step": "part",
    }
    answer = client.post(f"/jobs/{pair}-2/plan", data=sent, follow_redirects=False)
    assert answer.headers["location"].startswith(f"/jobs/{pair}-2/part")
    plan = desk.jobs.load(pair).plan
    assert [c.name for c in plan.characteristics] == ["depth"]
    assert [c.name for c in plan.seen_from(2).characteristics] == ["depth", "thread"]
    assert desk.jobs.load(pair).what == "added thread M8×1.25, Stay bracket, right"
    for step in ("part", "part/features", "method", "stock", "hold", "place", "tools"):
        assert client.get(f"/jobs/{pair}-2/{step}").status_code == 200, step
    for step in ("run", "close", "open"):  # these are of the whole job
        assert client.get(f"/jobs/{pair}-2/{step}").status_code == 200, step


@pytest.mark.parametrize(
    "address", ["/jobs/{}-9/part", "/jobs/{}-9/hold", "/jobs/99-2/part", "/jobs/{}-x/part"]
)
def test_a_part_that_is_not_there_is_said(client: TestClient, pair: int, address) -> None:
    answer = client.get(address.format(pair))
    assert answer.status_code in {404, 422}
    assert "Traceback" not in answer.text


def test_undo_takes_back_whichever_part_it_was(client: TestClient, desk: Desk, pair: int) -> None:
    before = desk.jobs.load(pair).plan
    right = desk.seen_from(2)
    right.jobs.change(pair, desk.jobs.load(pair).version, "RK", SetHeading("Stay bracket, right", 9))
    assert desk.jobs.load(pair).plan.quantity_of(2) == 9
    desk.jobs.undo(pair, desk.jobs.load(pair).version, "RK")
    assert desk.jobs.load(pair).plan == before
    with pytest.raises(ChangedMeanwhile):  # two people change two parts: the second is told
        right.jobs.change(pair, 1, "TB", SetHeading("Stay bracket, right", 5))


def test_what_is_open_in_any_part_keeps_the_run_from_starting(
    client: TestClient, desk: Desk, pair: int
) -> None:
    right = desk.seen_from(2)
    setup = right.jobs.load(pair).plan.setups[0].key
    right.jobs.change(pair, desk.jobs.load(pair).version, "RK", RemoveStation(setup, "B"))
    found = what_is_open(desk, desk.jobs.load(pair))
    mine = [thing for thing in found.wanted if thing.finding.code == "no-station"]
    assert [(thing.part, thing.part_name) for thing in mine] == [(2, "Stay bracket, right")]
    page = flat(client.get(f"/jobs/{pair}/open").text)
    assert "Stay bracket, right: Add where the piece sits." in page
    assert f'href="/jobs/{pair}-2/place"' in page or f"/jobs/{pair}-2/" in page


def test_a_part_is_added_and_taken_out_by_form(client: TestClient, desk: Desk) -> None:
    job = desk.jobs.new(both_sides(), "RK")
    sent = {
        "kind": "add_part",
        "name": "Stay bracket, right",
        "quantity": "6",
        "like": "true",
        "version": 1,
        "step": "part",
    }
    assert client.post(f"/jobs/{job}/plan", data=sent, follow_redirects=False).status_code == 303
    plan = desk.jobs.load(job).plan
    assert [one.plan.heading.quantity for one in plan.all_parts] == [8, 6]
    refused = client.post(f"/jobs/{job}/plan", data=sent | {"version": 2}, headers={"hx-request": "true"})
    assert "There is a part Stay bracket, right already." in refused.text
    out = {"kind": "remove_part", "part": "2", "version": 2, "step": "part"}
    client.post(f"/jobs/{job}/plan", data=out)
    assert desk.jobs.load(job).plan.companions == ()


def test_each_device_acts_on_the_cycle_its_page_says(client: TestClient, desk: Desk, lathes: int) -> None:
    """Two people, two machines: the key of one never starts the machine of the other, whoever opened what last."""
    run = desk.runs.require(lathes)
    one, two = (cycle.key for cycle in desk.jobs.load(lathes).plan.all_cycles)
    led = client.get(f"/jobs/{lathes}/run", follow_redirects=False)
    assert led.headers["location"].endswith(f"?cycle={one}")
    opened = client.post(
        f"/jobs/{lathes}/run/do",
        data={"kind": "open_setup", "setup": str(two), "identity": "marked", "client_key": "o"},
        headers={"hx-request": "true", "hx-current-url": f"http://127.0.0.1/jobs/{lathes}/run?cycle={one}"},
    )
    assert opened.headers["hx-redirect"] == f"/jobs/{lathes}/run?cycle={two}"
    for key, cycle in (("a", one), ("b", two)):
        client.post(
            f"/jobs/{lathes}/run/do",
            data={"kind": "start_cycle", "client_key": key},
            headers={
                "hx-request": "true",
                "hx-current-url": f"http://127.0.0.1/jobs/{lathes}/run?cycle={cycle}",
            },
        )
    with desk.runs.folded(run) as state:
        assert {key: found.running.pieces for key, found in state.cycles.items()} == {one: (1,), two: (2,)}
    bare = client.post(
        f"/jobs/{lathes}/run/do",
        data={"kind": "end_cycle", "client_key": "z"},
        headers={"hx-request": "true"},
    )
    assert "does not say at which cycle" in bare.text  # no key acts on a machine nobody named
    again = client.get(f"/jobs/{lathes}/run", headers={"hx-request": "true"})
    assert again.headers["hx-redirect"].endswith(f"?cycle={two}")
    page = flat(client.get(f"/jobs/{lathes}/run?cycle={one}").text)
    assert "End load 1" in page
    assert "right mill, load 1 cutting" in page
    api = client.get(f"/api/v1/runs/{run}?cycle={one}").json()
    assert [found["running_load"] for found in api["cycles"]] == [1, 1]
    sent = {"client_key": "c", "cycle": one, "command": {"kind": "end_cycle", "confirm": "1"}}
    assert client.post(f"/api/v1/runs/{run}/commands", json=sent).status_code == 200
    with desk.runs.folded(run) as state:
        assert state.cycles[one].running is None
        assert state.cycles[two].running is not None
    twice = client.post(
        f"/jobs/{lathes}/run/do",
        data={"kind": "start_cycle", "client_key": "d"},
        headers={"hx-request": "true", "hx-current-url": f"http://127.0.0.1/jobs/{lathes}/run?cycle={two}"},
    )
    assert "Load 1 is cutting." in twice.text


def test_a_job_of_two_parts_goes_out_and_comes_back(desk: Desk, pair: int, tmp_path) -> None:
    run = desk.runs.start(pair, "RK")
    for n, command in enumerate(
        (do.StartCycle(), do.EndCycle(), do.TakeReading(1, 1, "6.00"), do.AcceptMaster(1))
    ):
        desk.runs.record(run, command, "RK", f"k{n}")
    out = desk.bundles.take_out(pair)
    empty = open_desk(Settings(tmp_path / "other"))
    again = empty.bundles.bring_in(read_bundle(write_bundle(out)))
    assert empty.jobs.load(again).plan == desk.jobs.load(pair).plan
    with empty.runs.folded(empty.runs.require(again)) as state:
        assert {number: piece.part for number, piece in state.pieces.items()} == {1: 1, 2: 2}
        assert list(state.here.masters.values()) == [1]


def test_the_report_and_the_table_say_which_part(client: TestClient, desk: Desk, pair: int) -> None:
    run = desk.runs.start(pair, "RK")
    other = desk.jobs.load(pair).plan.seen_from(2).characteristics[0].number
    for n, command in enumerate(
        (do.StartCycle(), do.EndCycle(), do.TakeReading(1, 1, "6.00"), do.TakeReading(2, other, "6.01"))
    ):
        desk.runs.record(run, command, "RK", f"k{n}")
    rows = client.get(f"/jobs/{pair}/close/readings.csv").text.splitlines()
    assert ",part," in rows[0]
    assert "Stay bracket, right" in rows[2]
    assert "6.01" in rows[2]
    page = flat(client.get(f"/jobs/{pair}/close").text)
    assert '<th scope="row">right</th> <td class="n mk">4</td><td class="n mk">1</td>' in page
    table = flat(client.get(f"/jobs/{pair}/run/table").text)
    assert "1 depth" in table
    assert f"{other} depth" in table


def test_a_kit_counts_each_part_of_its_own_job(client: TestClient, desk: Desk, pair: int) -> None:
    """Left and right are one each in a set; two left are good, one right."""
    for edit in (SetKitPart("left stay", 1, "made", 0, 0), SetKitPart("right stay", 1, "made", 0, -2)):
        desk.jobs.change(pair, desk.jobs.load(pair).version, "RK", edit)
    run = desk.runs.start(pair, "RK")
    one, other = (c.number for c in desk.jobs.load(pair).plan.all_characteristics)
    good = (
        do.TakeReading(1, one, "6.0"),
        do.AcceptMaster(1),
        do.TakeReading(2, other, "6.0"),
        do.AcceptMaster(2),
    )
    more = (
        do.StartCycle(),
        do.EndCycle(),
        do.TakeReading(3, one, "6.0"),
        do.TakeReading(4, other, "6.3", confirm="6.3"),
    )
    for n, command in enumerate((do.StartCycle(), do.EndCycle(), *good, *more)):
        desk.runs.record(run, command, "RK", f"k{n}")
    lines = kit_of(desk.jobs.load(pair).plan, pair, made_by_jobs(desk), desk.jobs.find())
    assert [(line.part.name, line.have, line.short) for line in lines] == [
        ("left stay", 2, 2),
        ("right stay", 1, 3),
    ]
    page = flat(client.get(f"/jobs/{pair}/part/kit").text)
    assert f'<a href="/jobs/{pair}-2/part">Stay bracket, right, in this job</a>' in page
    assert "Stay bracket, left + right" in flat(client.get("/").text)


def test_what_is_said_of_the_job_is_said_once_for_all_its_parts(desk: Desk, pair: int) -> None:
    plan = desk.jobs.load(pair).plan
    due = date(2026, 12, 4)
    edit = SetHeading(plan.heading.part, 9, customer="Heron Reach Rowing", due=due, material="6061-T6")
    desk.jobs.change(pair, desk.jobs.load(pair).version, "RK", edit)
    other = desk.jobs.load(pair).plan.seen_from(2).heading
    assert (other.customer, other.due) == ("Heron Reach Rowing", due)
    assert (other.part, other.quantity, other.material) == ("Stay bracket, right", 4, "")  # its own


def test_bought_parts_of_a_kit_are_counted_once_for_all_parts_and_siblings(
    client: TestClient, desk: Desk, pair: int
) -> None:
    def change(edit: object, seen: Desk = desk) -> None:
        seen.jobs.change(pair, desk.jobs.load(pair).version, "RK", edit)

    change(SetKitPart("M8 nut", 2, "bought", 10))
    change(SetKitPart("M8 nut", 1, "bought", 0), desk.seen_from(2))
    desk.jobs.make_siblings(pair, "RK", "Stay bracket, long; 3")
    line = kit_of(desk.jobs.load(pair).plan, pair, made_by_jobs(desk), desk.jobs.find())[0]
    assert (line.wanted, line.beside, line.have) == (
        8,
        4 + 6,
        10,
    )  # the right one's 4 x 1, the sibling's 3 x 2
    assert "+ 10 for siblings" in flat(client.get(f"/jobs/{pair}/part/kit").text)


def test_the_list_says_what_each_machine_wants(client: TestClient, desk: Desk, lathes: int) -> None:
    run = desk.runs.require(lathes)
    _, right = (cycle.key for cycle in desk.jobs.load(lathes).plan.cycles)
    assert "left mill:" not in flat(client.get("/").text)  # only one is open yet
    desk.runs.record(run, do.StartCycle(), "RK", "a")
    desk.runs.record(run, do.OpenSetup(right, "marked"), "RK", "b")
    page = flat(client.get("/").text)
    assert "Load R, then start load 1." in page
    assert "left mill: Load 1 is cutting: end it when done." in page
