"""The API: a whole job by script, named errors, and a fuzz from its own description."""

import pytest
import schemathesis
from hypothesis import HealthCheck, given, settings
from schemathesis import Case
from schemathesis.checks import not_a_server_error
from schemathesis.specs.openapi.checks import response_schema_conformance, status_code_conformance
from starlette.testclient import TestClient

from ditto_run.app import create_app
from ditto_run.desk import Desk
from tests.conftest import planned

V1 = "/api/v1"


def asked_here(app):
    """Return an application that is asked under this machine's own address, whatever the asker calls it."""

    async def local(scope, receive, send) -> None:
        if scope["type"] == "http":
            others = [(name, value) for name, value in scope["headers"] if name != b"host"]
            scope = scope | {"headers": [*others, (b"host", b"127.0.0.1")]}
        await app(scope, receive, send)

    return local


@pytest.fixture
def client(desk: Desk) -> TestClient:
    return TestClient(create_app(desk.settings, desk), "http://127.0.0.1", cookies={"who": "RK"})


def test_a_whole_job_by_script(client: TestClient) -> None:
    job = client.post(f"{V1}/jobs", json={"part": "Pin", "quantity": 2}).json()["id"]
    edits = [
        {"kind": "set_characteristic", "name": "shank", "size": "12 ±0.02", "grade": "critical"},
        {"kind": "set_setup", "name": "turn", "machine_id": 1, "holds": "collet", "handling": "0:20"},
        {"kind": "set_station", "setup": 2, "label": "L", "offset": "G54"},
        {"kind": "set_tool_step", "setup": 2, "tool": 1, "does": "turn", "cut": "1:00"},
    ]
    for version, edit in enumerate(edits, 1):
        answer = client.post(f"{V1}/jobs/{job}/edits", json={"version": version, "edit": edit})
        assert answer.status_code == 200, answer.text
    assert answer.json()["findings"] == []
    run = client.post(f"{V1}/jobs/{job}/run").json()["id"]

    def record(key: str, **command: object):
        return client.post(f"{V1}/runs/{run}/commands", json={"client_key": key, "command": command})

    record("a", kind="start_cycle")
    record("b", kind="end_cycle")
    answer = record("c", kind="take_reading", piece=1, characteristic=1, text="12.001").json()
    assert answer["event"]["body"]["value"] == "12.001"
    assert answer["call"] == "Accept piece 1 as the master?"
    assert record("c", kind="take_reading", piece=1, characteristic=1, text="12.001").json()["event"] is None
    record("d", kind="accept_master", piece=1)
    state = client.get(f"{V1}/runs/{run}").json()
    assert (state["master"], state["counts"]["good"], state["counts"]["to go"]) == (1, 1, 1)
    assert [e["seq"] for e in client.get(f"{V1}/runs/{run}/events", params={"after": 3}).json()] == [4, 5]
    assert client.get(f"{V1}/runs/{run}/report").json()["good"] == 1
    rows = client.post(f"{V1}/jobs/{job}/rehearse", json={"rows": "bore;6 H7\nbad;x"}).json()
    assert [bool(row["problem"]) for row in rows] == [False, True]
    bundle = client.get(f"{V1}/jobs/{job}/bundle").json()
    assert client.post(f"{V1}/jobs/import", json=bundle).status_code == 201


@pytest.mark.parametrize(
    ("method", "path", "body", "status", "name"),
    [
        ("GET", "/jobs/99", None, 404, "NotFound"),
        ("GET", "/runs/99", None, 404, "NotFound"),
        ("POST", "/jobs", {"part": "", "quantity": 1}, 422, "BadEntry"),
        ("POST", "/jobs", {"part": "x", "quantity": 10**7}, 422, "BadEntry"),
        ("POST", "/jobs", {"part": "x"}, 422, "BadEntry"),
        ("GET", "/size?text=banana", None, 422, "SizeNotRead"),
        ("GET", "/size?text=1,000", None, 422, "NeedsAnswer"),
        ("POST", "/jobs/import", {"format": "x"}, 422, "FileNotRead"),
        ("POST", "/jobs/1/undo?version=1", None, 409, "NotNow"),
        ("POST", "/jobs/1/undo?version=7", None, 409, "ChangedMeanwhile"),
        ("GET", "/nothing", None, 404, "NotFound"),
    ],
)
def test_errors_are_named(client: TestClient, desk: Desk, method, path, body, status, name) -> None:
    desk.jobs.new(planned(), "RK")
    answer = client.request(method, V1 + path, json=body)

    assert (answer.status_code, answer.json()["name"]) == (status, name)
    assert answer.json()["problem"]
    assert answer.json()["remedy"]


def test_what_pages_do_the_api_does(client: TestClient) -> None:
    paths = client.get("/openapi.json").json()["paths"]

    assert {
        "/api/v1/jobs",
        "/api/v1/jobs/{job_id}/edits",
        "/api/v1/runs/{run_id}/commands",
        "/api/v1/runs/{run_id}/report",
        "/healthz",
    } <= set(paths)
    for operations in paths.values():
        for operation in operations.values():
            assert operation["summary"]
            assert operation["description"].endswith(".")


def test_shop_and_size(client: TestClient) -> None:
    assert (
        client.post(
            f"{V1}/shop/machines", json={"name": "Lathe", "kind": "lathe", "offset_codes": "G54"}
        ).status_code
        == 201
    )
    assert (
        client.post(
            f"{V1}/shop/gauges", json={"name": "Caliper", "resolution": "0.01", "unit": "mm"}
        ).status_code
        == 201
    )
    assert [m["name"] for m in client.get(f"{V1}/shop").json()["machines"]] == ["Mill 2", "Lathe"]
    assert client.get(f"{V1}/size", params={"text": "12 H7"}).json()["size"]["upper"] == "12.018"
    assert client.get(f"{V1}/offset-codes", params={"text": "G54-G56"}).json() == ["G54", "G55", "G56"]
    assert client.put(f"{V1}/shop/machines/2", json={"name": "Lathe 1"}).json() == {"id": 2}
    assert (
        client.put(
            f"{V1}/shop/gauges/1", json={"name": "Caliper", "resolution": "0.02", "unit": "mm"}
        ).status_code
        == 200
    )
    assert (
        client.put(f"{V1}/shop/gauges/9", json={"name": "x", "resolution": "1", "unit": "mm"}).status_code
        == 404
    )
    assert client.put(f"{V1}/shop/people/mt").json()["people"] == ["RK", "MT"]
    assert client.put(f"{V1}/shop/unit/in").json()["unit"] == "in"
    assert [m["name"] for m in client.delete(f"{V1}/shop/machine/2").json()["machines"]] == ["Mill 2"]
    assert client.get("/healthz").json()["status"] == "ok"


def test_anything_the_description_allows_is_answered_as_described(desk: Desk) -> None:
    """No fault, a status that is described, and a body of the described form; a dozen tries an operation."""
    job = desk.jobs.new(planned(), "RK")
    desk.runs.start(job, "RK")
    described = schemathesis.openapi.from_asgi("/openapi.json", asked_here(create_app(desk.settings, desk)))
    checks = [not_a_server_error, status_code_conformance, response_schema_conformance]
    tried = 0

    for found in described.get_all_operations():

        @given(case=found.ok().as_strategy())
        @settings(max_examples=12, deadline=None, database=None, suppress_health_check=list(HealthCheck))
        def answered(case: Case) -> None:
            case.call_and_validate(checks=checks)

        answered()
        tried += 1
    assert tried > 15


def test_an_entry_is_read_as_a_field_reads_it(client: TestClient) -> None:
    found = client.get("/api/v1/read", params={"kind": "torque", "text": "40 ft-lb"}).json()
    assert (found["understood"], found["unit"]) == ("54.2 N·m (40.0 lbf·ft)", "N·m")
    row = client.get("/api/v1/read", params={"kind": "row", "text": "0 1/2", "unit": "in"}).json()
    assert row["value"] == ["0.0", "12.70"]
    asked = client.get("/api/v1/read", params={"kind": "length", "text": "1,250"})
    assert (asked.status_code, len(asked.json()["choices"])) == (422, 2)
    assert client.get("/api/v1/read", params={"kind": "taste", "text": "1"}).status_code == 422
    size = client.get("/api/v1/read", params={"kind": "size", "text": "12 H7"}).json()
    assert size["understood"] == client.get("/api/v1/size", params={"text": "12 H7"}).json()["understood"]


def test_how_a_feature_is_understood(client: TestClient) -> None:
    """Read piece by piece, with what has to be asked; a word that is not known is named at the field."""
    found = client.get("/api/v1/feature", params={"text": "4x M6 x 12 deep, top"}).json()
    assert (found["kind"], found["count"], found["face"]) == ("tapped hole", 4, "top")
    assert [piece["word"] for piece in found["pieces"]] == ["how many", "thread", "depth", "face"]
    assert found["open"] == ["how they stand to each other", "where"]
    again = client.get("/api/v1/feature", params={"text": found["canonical"], "unit": "in"}).json()
    assert {**again, "pieces": [], "sizes": []} == {**found, "pieces": [], "sizes": []}
    turned = {"text": "shoulder .4375 x 1.250", "form": "turned", "unit": "in"}
    assert client.get("/api/v1/feature", params=turned).json()["open"] == []
    whole = {
        "text": "4 holes 6.6 through, counterbore 11 x 6, position 0.2 to A, 10 from left, on 40 x 30 centres, top"
    }
    said = client.get("/api/v1/feature", params=whole).json()
    assert (said["arrangement"], [size["nominal"] for size in said["by"]]) == ("grid", ["40", "30"])
    assert (said["places"][0]["face"], said["places"][0]["distance"]["nominal"]) == ("left", "10")
    assert said["parts"]["counterbore"]["depth"]["nominal"] == "6"
    assert said["geometry"][0]["name"] == "position"
    refused = client.get("/api/v1/feature", params={"text": "hole foo 6"})
    assert (refused.status_code, refused.json()["field"]) == (422, "text")
    assert "foo" in refused.json()["problem"]


def test_a_row_is_described_by_what_its_items_may_be(client: TestClient) -> None:
    described = client.get("/openapi.json")
    assert "prefixItems" not in described.text
    schemas = described.json()["components"]["schemas"]
    pairs = schemas["Dialect"]["properties"]["keys"]["items"]
    assert pairs == {"items": {"type": "string"}, "type": "array", "maxItems": 2, "minItems": 2}
    mixed = schemas["Composition"]["properties"]["stations"]["items"]
    assert mixed["items"] == {"anyOf": [{"type": "string"}, {"type": "integer"}]}
