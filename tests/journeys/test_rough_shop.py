"""What goes wrong in a shop: power, network, two people at once, an impatient hand."""

import re
import threading

import httpx2
from playwright.sync_api import Browser, Page, Route, expect

from tests.journeys.conftest import Server, ready_job, ready_run, start_server


def test_an_acknowledged_reading_survives_a_power_cut(page: Page, demo: Server, tmp_path) -> None:
    """Kill -9 while a script records as fast as it can; after the restart no acknowledged line is missing."""
    server = start_server(tmp_path / "cut", "demo")
    job = ready_job(page, server.address, 2000)
    run = page.request.post(f"{server.address}/api/v1/jobs/{job}/run").json()["id"]
    acknowledged: list[str] = []
    started = threading.Event()

    def record() -> None:
        with httpx2.Client(base_url=f"{server.address}/api/v1/runs/{run}") as client:
            for n in range(100_000):
                try:
                    answer = client.post(
                        "/commands",
                        json={"client_key": f"k{n}", "command": {"kind": "add_note", "text": f"note {n}"}},
                    )
                except httpx2.HTTPError:
                    return
                if answer.status_code == 200:
                    acknowledged.append(f"k{n}")
                if n == 60:
                    started.set()

    hands = threading.Thread(target=record)
    hands.start()
    assert started.wait(30)
    server.kill()
    hands.join()
    again = start_server(tmp_path / "cut" / "demo", "serve")
    kept = {
        event["client_key"] for event in page.request.get(f"{again.address}/api/v1/runs/{run}/events").json()
    }
    again.stop()
    assert len(acknowledged) > 60
    assert set(acknowledged) <= kept


def test_two_browsers_record_into_one_run(browser: Browser, page: Page, demo: Server) -> None:
    """Each sees what the other did, and nothing is lost or doubled."""
    job, run = ready_run(page, demo.address)
    address = f"{demo.address}/jobs/{job}/run"
    page.goto(address)
    context = browser.new_context(viewport={"width": 800, "height": 1280})
    other = context.new_page()
    other.goto(address)
    page.locator("#rd").fill("20.004")
    page.keyboard.press("Enter")
    expect(other.locator("h1")).to_have_text("Accept piece 1 as the master?")
    other.get_by_role("button", name="Accept piece 1").click()
    expect(page.locator("h1")).to_have_text("Gauge the slot on piece 2.")
    page.locator("#rd").fill("20.001")
    other.locator("#rd").fill("20.002")
    page.keyboard.press("Enter")
    expect(page.locator("h1")).to_contain_text("start load 2")
    expect(other.locator("#rd")).to_have_value("20.002")  # a hand in the middle of an entry is not disturbed
    other.locator("#rd").press("Enter")
    expect(other.locator("h1")).to_contain_text("start load 2")
    events = page.request.get(f"{demo.address}/api/v1/runs/{run}/events").json()
    assert [event["seq"] for event in events] == list(range(1, len(events) + 1))
    assert [event["body"]["text"] for event in events if event["body"]["kind"] == "reading"] == [
        "20.004",
        "20.001",
        "20.002",
    ]
    context.close()


def test_the_same_form_twice_is_one_reading(page: Page, demo: Server) -> None:
    job, run = ready_run(page, demo.address)
    page.goto(f"{demo.address}/jobs/{job}/run")
    page.locator("#rd").fill("20.004")
    with page.expect_request(lambda request: request.method == "POST") as sent:
        page.keyboard.press("Enter")
    expect(page.locator("h1")).to_have_text("Accept piece 1 as the master?")
    form = dict(re.findall(r"([^&=]+)=([^&]*)", sent.value.post_data or ""))
    assert form["client_key"]
    page.request.post(f"{demo.address}/jobs/{job}/run/do", form=form)
    events = page.request.get(f"{demo.address}/api/v1/runs/{run}/events").json()
    assert sum(event["body"]["kind"] == "reading" for event in events) == 1


def test_a_lost_server_loses_no_entry(page: Page, demo: Server, tmp_path) -> None:
    server = start_server(tmp_path / "lost", "demo")
    port = int(server.address.rsplit(":", 1)[1])
    job, _ = ready_run(page, server.address)
    page.goto(f"{server.address}/jobs/{job}/run")
    page.locator("#rd").fill("20.004")
    server.kill()
    page.keyboard.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("Your entry is still here")
    expect(page.locator("#rd")).to_have_value("20.004")
    again = start_server(tmp_path / "lost" / "demo", "serve", port)
    page.locator("#rd").press("Enter")
    expect(page.locator("h1")).to_have_text("Accept piece 1 as the master?")
    again.stop()


def test_a_doubtful_reading_is_asked_about_at_the_field(page: Page, demo: Server) -> None:
    job, _ = ready_run(page, demo.address)
    page.goto(f"{demo.address}/jobs/{job}/run")
    page.locator("#rd").fill("200.04")
    page.keyboard.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("It is about 10 times of it. Type it again to keep it.")
    expect(page.locator("#rd")).to_be_focused()
    page.keyboard.type("20.035")
    page.keyboard.press("Enter")
    expect(page.locator(".dev")).to_contain_text("5 µm over the upper limit")
    expect(page.get_by_text("Held: 1")).to_be_visible()
    page.goto(f"{demo.address}/jobs/{job}/run/log")
    page.get_by_role("link", name="Correct line").first.click()
    page.get_by_label("It is").fill("2O.005")
    page.get_by_label("Why it was wrong").fill("misread the thimble")
    page.get_by_role("button", name="Correct it").click()
    expect(page.get_by_role("alert")).to_contain_text("“2O.005” is not a reading.")
    expect(page.get_by_label("Why it was wrong")).to_have_value("misread the thimble")
    page.get_by_label("It is").fill("20.005")
    page.get_by_role("button", name="Correct it").click()
    expect(page).to_have_url(f"{demo.address}/jobs/{job}/run")
    expect(page.get_by_text("Held: 1")).not_to_be_visible()
    page.goto(f"{demo.address}/jobs/{job}/run/log")
    expect(page.get_by_text("misread the thimble")).to_be_visible()


def test_two_people_edit_one_plan(browser: Browser, page: Page, demo: Server) -> None:
    """The second is told at the form, keeps the entry, and can save it on top."""
    job = ready_job(page, demo.address)
    address = f"{demo.address}/jobs/{job}/tools"
    page.goto(address)
    context = browser.new_context()
    other = context.new_page()
    other.goto(address)
    for who, tool, does in ((other, "4", "spot"), (page, "5", "drill")):
        who.get_by_label("T number").fill(tool)
        who.get_by_label("What it does").fill(does)
        who.get_by_role("button", name="Add Enter").click()
    expect(page.get_by_role("alert")).to_contain_text(
        "changed this plan while you had it open: added T04 spot"
    )
    expect(page.get_by_label("What it does")).to_have_value("drill")
    page.get_by_role("button", name="Add Enter").click()
    for name in ("T04", "T05", "T09"):
        expect(page.get_by_role("rowheader", name=name)).to_be_visible()
    context.close()


def test_a_turned_tablet_is_drawn_anew(page: Page, demo: Server) -> None:
    job, _ = ready_run(page, demo.address)
    page.goto(f"{demo.address}/jobs/{job}/run")
    page.reload()  # now the server knows the layout and draws one only
    expect(page.locator(".strip-grid")).to_have_count(1)
    page.set_viewport_size({"width": 800, "height": 1280})
    expect(page.locator(".tall .strip-grid")).to_be_visible()
    expect(page.locator(".strip-grid")).to_have_count(1)


def test_what_is_typed_while_a_reading_is_on_its_way_is_meant_for_the_next(page: Page, demo: Server) -> None:
    """A gauge that types is quicker than an old PC: no digit goes into the field that is about to be replaced."""
    job = ready_job(page, demo.address)
    height = {"kind": "set_characteristic", "name": "height", "size": "31.5 ±0.05"}
    api = f"{demo.address}/api/v1"
    assert page.request.post(f"{api}/jobs/{job}/edits", data={"version": 6, "edit": height}).ok
    run = page.request.post(f"{api}/jobs/{job}/run").json()["id"]
    for key in ("start_cycle", "end_cycle"):
        confirm = {"confirm": "1"} if key == "end_cycle" else {}
        sent = {"client_key": key, "command": {"kind": key} | confirm}
        assert page.request.post(f"{api}/runs/{run}/commands", data=sent).ok
    page.goto(f"{demo.address}/jobs/{job}/run")
    expect(page.locator("#rd")).to_be_focused()
    held: list[Route] = []
    page.route("**/run/do", lambda route: route.continue_() if held else held.append(route))
    for text in ("20.004", "31.5028"):
        page.keyboard.type(text)
        page.keyboard.press("Backspace" if text.endswith("8") else "Enter")
    page.keyboard.press("Enter")
    page.keyboard.type("77")  # nothing is asked for after the second: it is said, and kept nowhere
    assert len(held) == 1
    held[0].continue_()
    expect(page.locator("h1").first).to_contain_text("Accept piece 1 as the master?")
    expect(page.locator("#status")).to_have_text("Not taken: 77. No size is asked for.")
    page.goto(f"{demo.address}/jobs/{job}/run/log")
    expect(page.locator("#main")).to_contain_text("20.004")
    expect(page.locator("#main")).to_contain_text("31.502 mm")
    expect(page.locator("#main")).not_to_contain_text("77")
