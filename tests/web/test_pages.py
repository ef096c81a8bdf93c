"""Routes and their answers: wiring, refusals, what is shown. Numbers are tested where they are computed."""

import re
from collections.abc import Iterator
from decimal import Decimal as D

import pytest
from starlette.testclient import TestClient

from ditto_run.app import create_app
from ditto_run.core.part import Heading
from ditto_run.core.plan import Plan
from ditto_run.desk import Desk
from ditto_run.settings import Settings
from ditto_run.web.dependencies import templates
from tests.conftest import planned
from tests.web.conftest import flat

PART = {"HX-Request": "true"}


@pytest.fixture
def client(desk: Desk, clock) -> Iterator[TestClient]:
    app = create_app(desk.settings, desk)
    with TestClient(app, "http://127.0.0.1", cookies={"who": "RK", "layout": "wide"}) as found:
        yield found


@pytest.fixture
def running(desk: Desk) -> int:
    job = desk.jobs.new(planned(12), "RK")
    desk.runs.start(job, "RK")
    return job


def do(client: TestClient, job: int, **fields: str):
    return client.post(f"/jobs/{job}/run/do", data=fields, headers=PART)


def test_a_new_shop_asks_three_things(tmp_path, clock) -> None:
    with TestClient(create_app(Settings(tmp_path / "new", clock=clock)), "http://127.0.0.1") as client:
        assert "Your machine and you" in client.get("/").text
        wrong = client.post(
            "/welcome",
            data={"unit": "mm", "machine": "Mill", "kind": "mill", "initials": "R2", "codes": "G54"},
            headers=PART,
        )
        assert wrong.status_code == 422
        assert 'data-field="initials"' in wrong.text
        done = client.post(
            "/welcome",
            data={"unit": "in", "machine": "Mill", "kind": "mill", "initials": "rk", "codes": "G54-G55"},
        )
        assert "No jobs yet" in flat(done.text)
        assert client.cookies["who"] == "RK"
        assert "Add the demo jobs" in done.text
        demo = client.post("/demo")
        assert "Rigger clamp block" in demo.text
        number = re.search(r'action="/jobs/(\d+)/copy"', demo.text).group(1)
        assert client.post(f"/jobs/{number}/delete").status_code == 200
        assert client.get(f"/jobs/{number}/part").status_code == 404


@pytest.mark.parametrize("step", ["part", "hold", "place", "tools", "run", "close"])
def test_every_step_shows_before_and_during_a_run(
    client: TestClient, desk: Desk, running: int, step: str
) -> None:
    fresh = desk.jobs.new(planned(4), "RK")
    for job in (fresh, running):
        answer = client.get(f"/jobs/{job}/{step}")
        assert answer.status_code == 200
        assert 'aria-current="step"' in answer.text


@pytest.mark.parametrize(
    ("form", "field"),
    [
        ({"kind": "set_characteristic", "name": "bore", "size": "banana"}, "size"),
        ({"kind": "set_characteristic", "name": "", "size": "12"}, "name"),
        ({"kind": "set_heading", "part": "x", "quantity": "0"}, "quantity"),
        ({"kind": "set_heading", "part": "x", "quantity": "lots"}, "quantity"),
        ({"kind": "set_heading", "part": "x", "quantity": "10000000"}, "quantity"),
        ({"kind": "set_station", "setup": "3", "label": "D", "offset": "G54"}, "offset"),
        ({"kind": "set_station", "setup": "3", "label": "D", "offset": "G99"}, "offset"),
        ({"kind": "set_tool_step", "setup": "3", "tool": "4", "does": "drill", "cut": "soon"}, "cut"),
        ({"kind": "set_tool_step", "setup": "3", "tool": "x", "does": "drill"}, "tool"),
        ({"kind": "set_setup", "name": " "}, "name"),
    ],
)
def test_a_refusal_names_its_field_and_changes_nothing(
    client: TestClient, desk: Desk, form: dict, field: str
) -> None:
    job = desk.jobs.new(planned(), "RK")
    answer = client.post(f"/jobs/{job}/plan", data={**form, "version": "1", "step": "part"}, headers=PART)

    assert answer.status_code == 422
    assert f'data-field="{field}"' in answer.text
    assert desk.jobs.load(job).version == 1


@pytest.mark.parametrize(("typed", "tool"), [("7", 7), ("T7", 7), (" t 07", 7), ("0", 0)])
def test_a_tool_s_number_is_typed_as_the_control_shows_it_too(
    client: TestClient, desk: Desk, typed: str, tool: int
) -> None:
    job = desk.jobs.new(planned(), "RK")
    form = {
        "kind": "set_tool_step",
        "setup": "3",
        "tool": typed,
        "does": "drill",
        "version": "1",
        "step": "tools",
    }
    assert client.post(f"/jobs/{job}/plan", data=form, follow_redirects=False).status_code == 303
    assert desk.jobs.load(job).plan.tool_steps[-1].tool == tool


def test_a_doubtful_size_offers_its_readings_and_can_be_kept(client: TestClient, desk: Desk) -> None:
    job = desk.jobs.new(planned(), "RK")
    form = {"kind": "set_characteristic", "name": "width", "size": "1,000", "version": "1", "step": "part"}
    asked = client.post(f"/jobs/{job}/plan", data=form, headers=PART)
    assert 'data-fill="1.000"' in asked.text
    far = {**form, "size": "315"}
    assert "31.5 mm" in client.post(f"/jobs/{job}/plan", data=far, headers=PART).text
    kept = client.post(f"/jobs/{job}/plan", data={**far, "keep": "315"})
    assert "315 mm" in kept.text


def test_size_is_understood_while_typed(client: TestClient, running: int) -> None:
    assert "limits 12.000 to 12.018 mm" in client.get(f"/jobs/{running}/size", params={"size": "12 H7"}).text
    assert client.get(f"/jobs/{running}/size", params={"size": "ba"}, headers=PART).status_code == 422
    assert client.get(f"/jobs/{running}/size", params={"size": " "}).text.strip() == ""


def test_the_second_editor_gets_the_new_version_with_the_refusal(client: TestClient, desk: Desk) -> None:
    job = desk.jobs.new(planned(), "RK")
    form = {"kind": "set_setup", "name": "second side", "version": "1", "step": "hold"}
    client.post(f"/jobs/{job}/plan", data=form)
    told = client.post(f"/jobs/{job}/plan", data={**form, "name": "third side"}, headers=PART)
    assert (told.status_code, 'data-version="2"' in told.text) == (409, True)
    again = client.post(f"/jobs/{job}/plan", data={**form, "name": "third side", "version": "2"})
    assert "third side" in again.text
    undone = client.post(f"/jobs/{job}/plan/undo", data={"version": "3", "step": "hold"})
    assert "third side" not in undone.text.split("<aside")[0].split("Undo:")[0]


def test_a_table_is_rehearsed_then_added(client: TestClient, desk: Desk) -> None:
    job = desk.jobs.new(planned(), "RK")
    rows = "bore;12 H7;critical\nwidth;40 ±0.1"
    shown = client.post(f"/jobs/{job}/part/rehearse", data={"rows": rows})
    assert "All 2 rows can be added" in flat(shown.text)
    assert desk.jobs.load(job).version == 1
    assert "width" in client.post(f"/jobs/{job}/part/rows", data={"rows": rows, "version": "1"}).text
    bad = client.post(f"/jobs/{job}/part/rehearse", files={"file": ("a.csv", b"x;banana")})
    assert "1 row of 1 cannot be read" in bad.text
    assert (
        client.post(
            f"/jobs/{job}/part/rows", data={"rows": "x;banana", "version": "2"}, headers=PART
        ).status_code
        == 422
    )
    assert client.post(f"/jobs/{job}/part/rehearse", data={"rows": " "}, headers=PART).status_code == 422


def test_a_reading_is_answered_in_parts(client: TestClient, running: int) -> None:
    for kind in ("start_cycle", "end_cycle"):
        page = do(client, running, kind=kind, client_key=kind)
    seen = re.search(r'"seen": "([^"]+)', page.text).group(1)
    answer = do(
        client,
        running,
        kind="take_reading",
        piece="1",
        characteristic="1",
        text="20.01",
        client_key="r",
        seen=seen,
    )

    assert answer.headers["HX-Retarget"] == "#board-top"
    assert 'data-cell="A-1"' in answer.text
    assert "20 µm inside the upper limit" in answer.text
    assert 'data-tone="554.4"' in answer.text  # a third of the way up: 440 × 2^(1/3)
    assert "Gauge the height on piece 1." in answer.text
    again = do(
        client,
        running,
        kind="take_reading",
        piece="1",
        characteristic="1",
        text="20.01",
        client_key="r",
        seen=seen,
    )
    assert "HX-Retarget" not in again.headers


def test_without_scripts_the_same_forms_work(client: TestClient, running: int) -> None:
    answer = client.post(f"/jobs/{running}/run/do", data={"kind": "start_cycle"})
    assert answer.status_code == 200
    assert "Load 1 is cutting" in answer.text
    refused = client.post(f"/jobs/{running}/run/do", data={"kind": "start_cycle"})
    assert refused.status_code == 409
    assert "<title>Load 1 is cutting." in refused.text


def test_what_is_typed_is_shown_before_it_is_recorded(client: TestClient, desk: Desk, running: int) -> None:
    for kind in ("start_cycle", "end_cycle"):
        do(client, running, kind=kind, client_key=kind)
    shown = client.get(
        f"/jobs/{running}/run/typed", params={"piece": 1, "characteristic": 1, "text": "20.04"}, headers=PART
    )
    assert "10 µm over the upper limit" in shown.text
    assert "Only typed: 20.04 mm" in shown.text
    assert len(desk.runs.events(desk.runs.of_job(running))) == 3
    assert (
        client.get(
            f"/jobs/{running}/run/typed", params={"piece": 1, "characteristic": 1, "text": "x"}, headers=PART
        ).status_code
        == 422
    )


@pytest.mark.parametrize(
    "name", ["mark", "hold", "offset", "setting", "note", "break", "stations", "late", "setup", "revision"]
)
def test_every_small_form_is_drawn(client: TestClient, running: int, name: str) -> None:
    assert "small-form" in client.get(f"/jobs/{running}/run/form/{name}").text
    assert client.get(f"/jobs/{running}/run/form/other").status_code == 404


def test_the_whole_run_then_close_and_download(client: TestClient, desk: Desk) -> None:
    job = desk.jobs.new(planned(3), "RK")
    client.post(f"/jobs/{job}/run/start")
    steps = [
        {"kind": "start_cycle"},
        {"kind": "end_cycle"},
        {"kind": "take_reading", "piece": "1", "characteristic": "1", "text": "20.001"},
        {"kind": "take_reading", "piece": "1", "characteristic": "2", "text": "31.5"},
        {"kind": "accept_master", "piece": "1"},
        {"kind": "mark_break", "what": "bar 2"},
        {"kind": "adjust", "what": "G55 Z", "amount": "−0.02", "unit": "mm", "station": "B"},
        {"kind": "change_setting", "what": "T03 feed", "before": "400", "after": "350"},
        {"kind": "hold_pieces", "pieces": "2-3", "reason": "dropped"},
        {"kind": "dispose", "piece": "2", "outcome": "good"},
        {"kind": "dispose", "piece": "3", "outcome": "spare"},
        {"kind": "add_note", "text": "<b>bold</b>", "piece": ""},
        {"kind": "set_composition", "station_A": "1", "station_B": "0", "station_C": ""},
        {"kind": "enter_loads", "loads": "1"},
        {"kind": "take_ungauged", "pieces": "2 4", "reason": "the gauge is away"},
    ]
    for n, form in enumerate(steps):
        answer = do(client, job, client_key=f"k{n}", **form)
        assert answer.status_code == 200, (form, answer.text[:300])
    log = client.get(f"/jobs/{job}/run/log").text
    assert "&lt;b&gt;bold" in log
    assert "G55 Z at B: −0.02 mm recorded." in log
    assert client.get(f"/jobs/{job}/run/table").status_code == 200
    assert client.get(f"/jobs/{job}/run/weave").status_code == 200
    closed = client.post(f"/jobs/{job}/close")
    assert "3 good of 3 wanted." in closed.text
    for name, kind in (
        ("readings.csv", "text/csv"),
        ("readings.xlsx", "spreadsheetml"),
        ("log.jsonl", "jsonl"),
        ("job.json", "json"),
    ):
        answer = client.get(f"/jobs/{job}/close/{name}")
        assert kind in answer.headers["content-type"]
        assert "attachment" in answer.headers["content-disposition"]
    bundle = client.get(f"/jobs/{job}/close/job.json").content
    assert "This batch is closed." in client.post("/jobs/import", files={"file": ("a.json", bundle)}).text
    assert do(client, job, kind="start_cycle", client_key="late").status_code == 409
    assert len(desk.jobs.find()) == 2
    copied = client.post(f"/jobs/{job}/copy")
    assert "Head of the job" in copied.text


def test_shop_registers(client: TestClient, desk: Desk) -> None:
    client.post(
        "/shop/machines",
        data={"name": "Lathe 1", "kind": "lathe", "offset_codes": "G54", "increment": "0.001"},
    )
    client.post("/shop/gauges", data={"name": "Caliper", "resolution": "0.01", "unit": "mm"})
    client.post("/shop/people", data={"initials": "mt"})
    page = client.get("/shop", params={"machine": 2, "gauge": 1}).text
    assert all(word in page for word in ("Lathe 1", "Caliper", "MT", str(desk.settings.folder)))
    for which, key in (("machine", "2"), ("gauge", "1"), ("person", "MT")):
        client.post("/shop/remove", data={"which": which, "key": key})
    assert "Lathe 1" not in client.get("/shop").text
    for data, field in (
        ({"name": "", "kind": "mill"}, "name"),
        ({"name": "x", "kind": "mill", "increment": "9"}, "increment"),
        ({"name": "x", "kind": "mill", "increment": "fine"}, "increment"),
        ({"name": "x", "kind": "mill", "offset_codes": "G1"}, "offset_codes"),
    ):
        answer = client.post("/shop/machines", data=data, headers=PART)
        assert answer.status_code == 422
        assert f'data-field="{field}"' in answer.text


def test_backup_and_restore_by_page(client: TestClient, desk: Desk) -> None:
    desk.jobs.new(planned(), "RK")
    content = client.get("/backup").content
    desk.jobs.new(planned(), "RK")
    assert client.post("/restore", files={"file": ("x", b"nonsense")}, headers=PART).status_code == 422
    client.post("/restore", files={"file": ("x", content)})
    assert len(desk.jobs.find()) == 1
    refused = client.post("/jobs/import", files={"file": ("x", content)}, headers=PART)
    assert "no whole job bundle" in refused.text


def test_attach_a_drawing_with_a_new_job(client: TestClient) -> None:
    made = client.post(
        "/jobs",
        data={"part": "Pin", "quantity": "12", "unit": "mm", "due": "2026-12-01"},
        files={"drawing_file": ("pin.png", b"\x89PNG\r\n\x1a\n", "image/png")},
    )
    assert "pin.png" in made.text
    assert "due 1 Dec 2026" in made.text
    found = re.search(r'href="(/jobs/\d+/attachments/\d+)"', made.text).group(1)
    assert client.get(found).content == b"\x89PNG\r\n\x1a\n"
    refused = client.post("/jobs", data={"part": "Pin", "quantity": "", "unit": "mm"}, headers=PART)
    assert 'data-field="quantity"' in refused.text


def test_reference_pages_and_unknown_addresses(client: TestClient) -> None:
    assert "Shape" in client.get("/keys").text
    assert "Broken ring" in client.get("/codes").text
    assert client.get("/nowhere").status_code == 404
    assert "There is no such page." in client.get("/nowhere").text
    assert client.get("/jobs/999/part").status_code == 404


def test_the_open_list_names_only_keys_that_do_something(client: TestClient, desk: Desk) -> None:
    bare, sound = desk.jobs.new(Plan(Heading("Pin", 5)), "RK"), desk.jobs.new(planned(), "RK")
    never, nothing = (client.get(f"/jobs/{job}/open").text.split('id="foot"')[1] for job in (bare, sound))
    assert "↑ ↓" in never
    assert "let it stand" not in never
    assert "↑ ↓" not in nothing
    assert "let it stand" not in nothing
    assert "go there" in nothing


def test_a_full_temporary_folder_stops_no_page(client: TestClient, monkeypatch) -> None:
    """What a template is compiled to is kept there; where nothing can be, the page is drawn all the same."""

    def full(*_values: object, **_named: object) -> None:
        raise OSError(28, "No space left on device")

    templates.env.cache.clear()
    monkeypatch.setattr("jinja2.bccache.tempfile.NamedTemporaryFile", full)
    monkeypatch.setattr("jinja2.bccache.FileSystemBytecodeCache.load_bytecode", lambda *_: None)
    assert client.get("/keys").status_code == 200


def test_counts_and_steps_are_read_as_they_are_said(client: TestClient, desk: Desk) -> None:
    made = client.post("/jobs", data={"part": "Pin", "quantity": "two dozen", "unit": "mm"})
    job = int(made.url.path.split("/")[2])
    assert desk.jobs.load(job).plan.heading.quantity == 24
    edit = {
        "kind": "set_heading",
        "version": desk.jobs.load(job).version,
        "step": "part",
        "part": "Pin",
        "unit": "mm",
    }
    client.post(f"/jobs/{job}/plan", data={**edit, "quantity": "1,000", "spares": "a dozen"})
    heading = desk.jobs.load(job).plan.heading
    assert (heading.quantity, heading.spares) == (1000, 12)
    wrong = client.post(f"/jobs/{job}/plan", data={**edit, "quantity": "12.5"}, headers=PART)
    assert (wrong.status_code, 'data-field="quantity"' in wrong.text) == (422, True)

    client.post("/shop/gauges", data={"name": "Mic", "resolution": "1 tenth", "unit": "in"})
    client.post(
        "/shop/machines", data={"name": "Lathe 1", "kind": "lathe", "increment": "1/2 thou", "unit": "in"}
    )
    shop = desk.shop.load()
    assert [gauge.resolution for gauge in shop.gauges.values() if gauge.name == "Mic"] == [D("0.0001")]
    assert [m.wear.increment for m in shop.machines.values() if m.name == "Lathe 1"] == [D("0.0005")]
    refused = client.post(
        "/shop/gauges", data={"name": "X", "resolution": "fine", "unit": "in"}, headers=PART
    )
    assert (refused.status_code, 'data-field="resolution"' in refused.text) == (422, True)
