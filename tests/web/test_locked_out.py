"""Nobody gets in, nothing runs that was uploaded, and what is strange is answered with a sentence."""

import base64
import json
import re

import pytest
from starlette.testclient import TestClient

from ditto_run.app import create_app
from ditto_run.desk import Desk
from ditto_run.formats.job_bundle import write_bundle
from ditto_run.web.later import Later
from tests.conftest import planned

CHANGES = [
    (method, path)
    for method, path in (
        ("POST", "/jobs"),
        ("POST", "/welcome"),
        ("POST", "/restore"),
        ("POST", "/jobs/import"),
        ("POST", "/jobs/1/run/do"),
        ("POST", "/jobs/1/plan"),
        ("POST", "/shop/people"),
        ("PUT", "/api/v1/shop/people/XX"),
        ("DELETE", "/api/v1/shop/machine/1"),
        ("POST", "/api/v1/runs/1/commands"),
    )
]
STRANGERS = [
    {"Origin": "http://evil.example"},
    {"Origin": "http://127.0.0.1:9999"},  # another program of this machine
    {"Origin": "http://localhost"},
    {"Origin": "https://127.0.0.1"},
    {"Origin": "chrome-extension://127.0.0.1"},
    {"Origin": "null"},
    {"Sec-Fetch-Site": "cross-site"},
    {"Sec-Fetch-Site": "same-site"},
]


@pytest.mark.parametrize("headers", STRANGERS, ids=lambda headers: next(iter(headers.values())))
@pytest.mark.parametrize(("method", "path"), CHANGES)
def test_a_change_comes_from_our_own_pages_only(client: TestClient, method: str, path: str, headers) -> None:
    assert client.request(method, path, headers=headers).status_code == 403


def every_route(routes):
    """Give every route of an application, those of its routers too."""
    for route in routes:
        inner = route.load() if isinstance(route, Later) else getattr(route, "original_router", None)
        yield from every_route(inner.routes) if inner is not None else (route,)


def test_every_route_that_changes_something_refuses_strangers(client: TestClient, desk: Desk) -> None:
    """Whatever routes there are: one from another site reaches none of them."""
    tried = 0
    for route in every_route(create_app(desk.settings, desk).routes):
        for method in {"POST", "PUT", "DELETE", "PATCH"} & set(getattr(route, "methods", None) or ()):
            path = re.sub(r"\{[^}]*\}", "1", route.path)
            answer = client.request(method, path, headers={"Sec-Fetch-Site": "cross-site"})
            assert answer.status_code == 403, path
            tried += 1
    assert tried > 30


def test_our_own_page_and_a_script_of_this_machine_may(client: TestClient) -> None:
    for headers in (
        {},
        {"Origin": "http://127.0.0.1", "Sec-Fetch-Site": "same-origin"},
        {"Sec-Fetch-Site": "none"},
    ):
        assert client.post("/shop/people", data={"initials": "XX"}, headers=headers).status_code == 200


def test_other_hosts_are_not_answered(client: TestClient) -> None:
    for host in ("evil.example", "testserver", "127.0.0.1.evil.example", ""):
        assert client.get("/", headers={"Host": host}).status_code == 403, host


@pytest.mark.parametrize("kind", ["text/html", "text/javascript", "image/svg+xml", "image/png\r\nX-Bad: 1"])
def test_a_drawing_in_a_bundle_is_what_its_bytes_say(client: TestClient, desk: Desk, kind: str) -> None:
    job = desk.jobs.new(planned(), "RK")
    bundle = json.loads(write_bundle(desk.bundles.take_out(job)))
    page = base64.b64encode(b"<script>alert(1)</script>").decode()
    bundle["drawings"] = [{"name": "a", "media_type": kind, "content": page}]
    refused = client.post("/jobs/import", files={"file": ("b.json", json.dumps(bundle))})
    assert refused.status_code == 422
    assert "neither a picture nor a PDF" in refused.text
    bundle["drawings"][0]["content"] = base64.b64encode(b"%PDF-1.7 <script>").decode()
    done = client.post("/api/v1/jobs/import", content=json.dumps(bundle))
    found = client.get(f"/jobs/{done.json()['id']}/attachments/1")
    assert found.headers["content-type"] == "application/pdf"
    assert found.headers["content-disposition"].startswith("attachment")
    assert found.headers["content-security-policy"] == "default-src 'none'; sandbox"


def test_pages_run_no_script_but_ours_and_nothing_is_kept_by_the_browser(client: TestClient) -> None:
    page = client.get("/keys")
    assert "unsafe-inline" not in page.headers["content-security-policy"]
    assert page.headers["cache-control"] == "no-store"
    assert " style=" not in page.text
    script = re.search(r'src="(/static/v-[^"]+/main\.js)"', page.text)[1]
    assert "immutable" in client.get(script).headers["cache-control"]


EVIL = "<script>alert(1)</script>"


def test_texts_in_every_place_stay_texts(client: TestClient, desk: Desk) -> None:
    job = desk.jobs.new(planned(), "RK")
    heading = {
        "kind": "set_heading",
        "part": EVIL,
        "quantity": 5,
        "customer": EVIL,
        "material": EVIL,
        "drawing": EVIL,
    }
    for version, edit in enumerate(
        (
            heading,
            {"kind": "set_characteristic", "name": EVIL, "size": "12 ±0.1", "why": EVIL},
            {"kind": "set_setup", "name": EVIL[:40], "machine_id": 1, "holds": EVIL, "locates": EVIL},
        ),
        1,
    ):
        answer = client.post(f"/api/v1/jobs/{job}/edits", json={"version": version, "edit": edit})
        assert answer.status_code == 200, answer.text
    desk.jobs.attach(job, EVIL, b"\x89PNG\r\n\x1a\n")
    for path in (
        "",
        f"jobs/{job}/part",
        f"jobs/{job}/hold",
        f"jobs/{job}/place",
        f"jobs/{job}/tools",
        f"jobs/{job}/run",
        f"jobs/{job}/open",
    ):
        page = client.get(f"/{path}").text
        assert "<script>alert" not in page, path
        assert "&lt;script&gt;" in page or path.endswith(("place", "tools")), path


@pytest.mark.parametrize("text", ["\ud800", "a\udfffb"])
def test_half_a_sign_is_refused_with_a_sentence(client: TestClient, text: str) -> None:
    body = json.dumps({"part": text, "quantity": 5}).encode()
    answer = client.post("/api/v1/jobs", content=body, headers={"Content-Type": "application/json"})
    assert answer.status_code == 422
    assert answer.json()["problem"]


def test_a_name_is_no_novel(client: TestClient) -> None:
    answer = client.post("/api/v1/jobs", json={"part": "x" * 201, "quantity": 5})
    assert (answer.status_code, answer.json()["field"]) == (422, "part")
    huge = client.post("/api/v1/jobs", headers={"Content-Length": "100000000"}, content=b"{}")
    assert huge.status_code == 403


@pytest.mark.parametrize(
    ("path", "body", "field"),
    [
        (
            "/api/v1/jobs/1/edits",
            {"version": 1, "edit": {"kind": "set_setup", "name": "x", "colour": "red"}},
            "colour",
        ),
        (
            "/api/v1/jobs/1/edits",
            {"version": 1, "why": "", "edit": {"kind": "set_setup", "name": "x"}},
            "why",
        ),
        ("/api/v1/shop/machines", {"name": "Mill 9", "speed": 3}, "speed"),
    ],
)
def test_a_field_nobody_knows_is_refused(client: TestClient, desk: Desk, path: str, body, field: str) -> None:
    desk.jobs.new(planned(), "RK")
    answer = client.post(path, json=body)
    assert answer.status_code == 422
    assert field in answer.text


def test_a_fault_bears_its_number_and_the_policy(desk: Desk, monkeypatch) -> None:
    def broken(*_: object, **__: object) -> None:
        raise RuntimeError("secret path")

    client = TestClient(create_app(desk.settings, desk), "http://127.0.0.1", raise_server_exceptions=False)
    monkeypatch.setattr(type(desk.shop), "load", broken)
    answer = client.get("/shop")
    assert answer.status_code == 500
    assert "secret path" not in answer.text
    assert answer.headers["x-request-id"] in answer.text
    assert "default-src 'self'" in answer.headers["content-security-policy"]


@pytest.mark.parametrize("initials", ["ŁK", "李", "ÄÖ"])
def test_the_first_start_takes_initials_of_any_script(tmp_path, clock, initials: str) -> None:
    from ditto_run.settings import Settings

    with TestClient(create_app(Settings(tmp_path / "new", clock=clock)), "http://127.0.0.1") as client:
        sent = {"unit": "mm", "machine": "Mill", "kind": "mill", "codes": "G54", "initials": initials}
        assert client.post("/welcome", data=sent | {"initials": "1"}).status_code == 422
        assert client.post("/welcome", data=sent).status_code == 200
        shop = client.get("/api/v1/shop").json()
        assert (len(shop["machines"]), shop["people"]) == (1, [initials])
        job = client.post("/api/v1/jobs", json={"part": "Pin", "quantity": 5}).json()["id"]
        assert client.get(f"/api/v1/jobs/{job}").json()["changed_by"] == initials


def test_the_same_new_job_twice_is_one(client: TestClient) -> None:
    sent = {"part": "Pin", "quantity": "5", "unit": "mm", "client_key": "k1"}
    for _ in range(2):
        assert client.post("/jobs", data=sent).status_code == 200
    assert len(client.get("/api/v1/jobs").json()) == 1
