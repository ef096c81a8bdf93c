"""Who may ask at all, what a fault looks like, and that no two keys collide."""

from collections import Counter

import pytest
from starlette.testclient import TestClient

from ditto_run.app import create_app
from ditto_run.desk import Desk
from ditto_run.web.guard import host_of
from ditto_run.web.keys import KEYS


@pytest.fixture
def client(desk: Desk) -> TestClient:
    return TestClient(create_app(desk.settings, desk), "http://127.0.0.1", raise_server_exceptions=False)


def test_only_this_machine_is_answered(client: TestClient) -> None:
    assert client.get("/", headers={"Host": "evil.example"}).status_code == 403
    assert client.get("/", headers={"Host": "127.0.0.1:8270"}).status_code == 200
    assert client.get("/", headers={"Host": "[::1]:8270"}).status_code == 200


def test_another_sites_form_changes_nothing(client: TestClient, desk: Desk) -> None:
    answer = client.post("/shop/people", data={"initials": "XX"}, headers={"Origin": "http://evil.example"})
    assert answer.status_code == 403
    assert len(desk.shop.load().people) == 1
    assert (
        client.post(
            "/shop/people", data={"initials": "XX"}, headers={"Origin": "http://127.0.0.1"}
        ).status_code
        == 200
    )


@pytest.mark.parametrize(
    ("value", "host"),
    [
        ("127.0.0.1:80", "127.0.0.1"),
        ("http://localhost:1", "localhost"),
        ("[::1]", "[::1]"),
        ("[::1]:5", "[::1]"),
        ("null", "null"),
    ],
)
def test_host_of(value: str, host: str) -> None:
    assert host_of(value) == host


def test_every_answer_has_a_number_and_a_policy(client: TestClient, caplog) -> None:
    with caplog.at_level("INFO", "ditto_run"):
        answer = client.get("/keys")
    assert answer.headers["X-Request-Id"] in caplog.text
    assert "default-src 'self'" in answer.headers["Content-Security-Policy"]


def test_a_fault_shows_no_trace_to_the_user(client: TestClient, desk: Desk, caplog, monkeypatch) -> None:
    def broken(*_: object, **__: object) -> None:
        raise RuntimeError("secret inside")

    monkeypatch.setattr(client.app.state.desk.jobs, "find", broken)
    for path in ("/", "/api/v1/jobs"):
        answer = client.get(path)
        assert answer.status_code == 500
        assert "secret" not in answer.text
        assert "is safe" in answer.text
    assert "secret inside" in caplog.text


def test_no_two_keys_collide() -> None:
    """A key is live once in a place, and one that is live everywhere nowhere else besides."""
    places = Counter((key.key, key.place) for key in KEYS)
    everywhere = {key.key for key in KEYS if key.place == "everywhere"}

    assert max(places.values()) == 1
    assert [key.key for key in KEYS if key.place != "everywhere" and key.key in everywhere] == []


def test_digits_of_a_reading_are_no_commands() -> None:
    """Digits are steps, but the reading field takes them first; no other sign of a number is a key."""
    assert not {key.key for key in KEYS} & set(".,−-+'\"°")
