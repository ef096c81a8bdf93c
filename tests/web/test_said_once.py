"""What was added, changed or taken away is said once, by the page that answers, and not again by the next one."""

import re

import pytest
from starlette.testclient import TestClient

from ditto_run.desk import Desk

HX = {"HX-Request": "true"}
TABLE = {
    "table_x": "700",
    "table_y": "300",
    "slots_run": "X",
    "reach_from": "10,10",
    "home": "left back",
    "nose": "500",
    "travel_x": "700",
    "travel_y": "360",
    "travel_z": "450",
    "corner": "back left",
    "stop_side": "left",
    "zero_at": "seat",
}
PNG = ("pin.png", b"\x89PNG\r\n\x1a\n", "image/png")
ADDED = [
    (
        "/shop/drawers/coatings",
        {"row_id": "0", "name": "zinc", "film_low": "5", "film_high": "12"},
        "Added zinc.",
    ),
    ("/shop/drawers/drills", {"row_id": "0", "name": "#7"}, "Added #7."),
    ("/shop/drawers/drills/standard", {}, "Added 305 drills."),
    ("/shop/drawers/drills/remove", {"row_id": "99999"}, "It was gone."),
    ("/shop/machines", {"name": "Saw", "kind": "manual"}, "Added Saw."),
    ("/shop/gauges", {"name": "Mic", "resolution": "0.001", "unit": "mm"}, "Added Mic."),
    ("/shop/people", {"initials": "bo"}, "BO is listed."),
    ("/shop/unit", {"unit": "in"}, "New jobs start in inches."),
    ("/shop/money", {"money": "€"}, "The mark of money is kept."),
    ("/shop/machines/2/table", TABLE, "The table of Mill 3 is kept."),
    ("/shop/machines/2/dialect", {"l20": "here", "p0": "active"}, "How Mill 3 reads programs is kept."),
    ("/shop/machines/2/offsets", {"code": "G54", "x": "-1"}, "G54 is written."),
    ("/jobs", {"part": "Pin", "quantity": "4", "unit": "mm"}, "Made the job Pin."),
    ("/jobs/{job}/copy", {}, "Made a job with the same plan."),
    ("/jobs/{job}/archive", {}, "The job is put away."),
    ("/jobs/{job}/part/family", {"siblings": "A; 4\nB; 8"}, "Made 2 sibling jobs."),
    ("/jobs/{job}/plan", {"kind": "set_setup", "name": "third", "step": "hold"}, "Added setup third."),
    (
        "/jobs/{job}/plan",
        {"kind": "set_feature", "name": "edge", "step": "part", "view": "features"},
        "Feature edge.",
    ),
    (
        "/jobs/{job}/plan",
        {"kind": "set_finish", "name": "zinc", "step": "part", "view": "finish"},
        "Finish zinc.",
    ),
    ("/jobs/{job}/plan", {"kind": "set_kit_part", "name": "nut", "step": "part", "view": "kit"}, "nut"),
    (
        "/jobs/{job}/plan",
        {"kind": "set_characteristic", "name": "bore", "size": "12 H7", "step": "part"},
        "Added bore Ø12.000 H7 mm.",
    ),
]


def said(page: str) -> str:
    """What the page's one status line says."""
    found = re.search(r'id="said"[^>]*>(.*?)</p>', page, re.DOTALL)
    assert found is not None
    return " ".join(found[1].split())


@pytest.mark.parametrize(("address", "form", "words"), ADDED)
def test_it_is_said_once(
    client: TestClient, desk: Desk, placed_job: int, address: str, form, words: str
) -> None:
    form = dict(form)
    if "plan" in address:
        form["version"] = str(desk.jobs.load(placed_job).version)
    answer = client.post(address.format(job=placed_job), data=form, headers=HX)
    assert answer.status_code == 200, answer.text
    assert said(answer.text).count(words) == 1, said(answer.text)
    assert words not in said(client.get(answer.url.path).text)  # looked at again, nothing was done


def test_undo_and_redo_are_said(client: TestClient, desk: Desk, placed_job: int) -> None:
    def send(address: str, **form: str) -> str:
        version = str(desk.jobs.load(placed_job).version)
        return said(
            client.post(f"/jobs/{placed_job}/{address}", data=form | {"version": version}, headers=HX).text
        )

    assert "Added setup third." in send("plan", kind="set_setup", name="third", step="hold")
    assert "Undid: added setup third." in send("plan/undo", step="hold")
    assert "Redid: added setup third." in send("plan/undo", step="hold", redo="true")


def test_a_drawing_beside_the_job_is_said(client: TestClient, placed_job: int) -> None:
    answer = client.post(f"/jobs/{placed_job}/attachments", files={"drawing_file": PNG}, headers=HX)
    assert "pin.png is kept beside the job." in said(answer.text)


def test_a_refusal_leaves_nothing_to_be_said(client: TestClient) -> None:
    refused = client.post("/shop/drawers/drills", data={"row_id": "0", "name": "banana"}, headers=HX)
    assert refused.status_code == 422
    assert "told" not in client.cookies


def test_what_is_left_to_be_said_is_text(client: TestClient) -> None:
    client.post("/shop/machines", data={"name": "<b>Saw</b>", "kind": "manual"}, follow_redirects=False)
    page = client.get("/shop").text
    assert "<b>Saw" not in page
    assert "Added &lt;b&gt;Saw" in said(page)
