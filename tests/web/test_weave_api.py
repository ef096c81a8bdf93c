"""The order of visits over the API: figures of an order and of the habits, and what is refused."""

import json
from pathlib import Path

import pytest
from starlette.testclient import TestClient

from ditto_run.app import create_app
from ditto_run.desk import Desk

CLAMP = Path(__file__).parents[1] / "data" / "weave" / "dev" / "d01-clamp-block-3x7.json"


@pytest.fixture
def client(desk: Desk) -> TestClient:
    return TestClient(create_app(desk.settings, desk), "http://127.0.0.1", cookies={"who": "RK"})


def sent(**more: object) -> dict[str, object]:
    said = json.loads(CLAMP.read_text("utf-8"))
    return said["weave"] | {"order": said["known"]["order"]} | more


def test_an_order_is_worked_out_beside_the_habits(client: TestClient) -> None:
    known = json.loads(CLAMP.read_text("utf-8"))["known"]
    answer = client.post("/api/v1/weave/cost", json=sent()).json()
    assert {
        name: answer[name] for name in ("cycle", "first", "at_risk", "changes", "per_piece", "totals")
    } == {name: known[name] for name in ("cycle", "first", "at_risk", "changes", "per_piece", "totals")}
    assert [visit["op"] for visit in answer["visits"]] == known["order"]
    parts = ("change", "move", "index")
    visits = sum(visit[part] for visit in answer["visits"] for part in (*parts, "wait"))
    assert visits + answer["totals"]["cut"] + sum(answer["closing"].values()) == answer["cycle"]
    assert [(habit["name"], habit["cycle"]) for habit in answer["habits"]] == [
        ("each", 780),
        ("round", 594),
        ("back", 564),
    ]


@pytest.mark.parametrize(
    ("more", "problem"),
    [
        ({"order": ["A1"]}, "does not hold every operation once"),
        ({"tools": [{"id": "T01"}]}, "wants tool T02, which is not listed"),
        ({"rules": [{"rule": "first", "id": "r", "ops": "Z9"}]}, "Rule r names nothing that is there"),
        ({"change": {"kind": "ring", "seconds": 1}}, "place"),
        ({"moves": {"stations": ["A"], "seconds": [[0]]}}, "do not name every station"),
        ({"cycle": {"from_park": {"Q": 1}}}, "Q is no station"),
        ({"load": 3}, "load"),
    ],
)
def test_what_cannot_be_worked_out_is_said(client: TestClient, more: dict[str, object], problem: str) -> None:
    answer = client.post("/api/v1/weave/cost", json=sent(**more))
    assert answer.status_code in {400, 422}
    assert problem in answer.text


def test_a_change_of_which_no_time_is_said_takes_none(client: TestClient) -> None:
    answer = client.post("/api/v1/weave/cost", json=sent(change={"at_once": True}, index=None))
    assert (answer.status_code, answer.json()["totals"]["change"]) == (200, 0)


def test_an_order_twice_over_is_refused(client: TestClient) -> None:
    doubled = sent()
    order = list(json.loads(CLAMP.read_text("utf-8"))["known"]["order"])
    order[-1] = order[0]
    answer = client.post("/api/v1/weave/cost", json=doubled | {"order": order})
    assert answer.status_code == 422
    assert "every operation once" in answer.json()["problem"]


def test_the_best_order_is_found_in_the_other_process(client: TestClient) -> None:
    said = json.loads(CLAMP.read_text("utf-8"))
    answer = client.post("/api/v1/weave", json=said["weave"]).json()
    known = said["known"]
    names = ("status", "cycle", "first", "at_risk", "ties", "changes", "per_piece", "totals")
    assert {name: answer[name] for name in names} == {name: known[name] for name in names}
    assert (answer["bound"], answer["gap"], answer["broken"]) == (564, 0, [])
    assert answer["sentence"].startswith("There is nothing to save against there and back: 9:24")
    again = client.post(
        "/api/v1/weave/cost", json=said["weave"] | {"order": [v["op"] for v in answer["visits"]]}
    )
    assert again.json()["cycle"] == answer["cycle"]


@pytest.mark.parametrize(
    ("rules", "status", "named"),
    [
        ([{"rule": "before", "id": "r", "a": "A2", "b": "A1"}], "wrong", ["r"]),
        (
            [{"rule": "first", "id": "f", "ops": "A1"}, {"rule": "first", "id": "g", "ops": "B1"}],
            "impossible",
            ["f", "g"],
        ),
    ],
)
def test_no_order_is_an_answer_that_names_the_rules(
    client: TestClient, rules: list[dict[str, str]], status: str, named: list[str]
) -> None:
    said = json.loads(CLAMP.read_text("utf-8"))["weave"] | {"rules": rules}
    answer = client.post("/api/v1/weave", json=said)
    assert (answer.status_code, answer.json()["status"], answer.json()["rules"]) == (200, status, named)
    assert "visits" not in answer.json() or answer.json()["visits"] == []


@pytest.mark.parametrize("seconds", [0, 31, "soon"])
def test_how_much_work_has_limits(client: TestClient, seconds: object) -> None:
    said = json.loads(CLAMP.read_text("utf-8"))["weave"] | {"seconds": seconds}
    answer = client.post("/api/v1/weave", json=said)
    assert answer.status_code == 422
    assert "seconds" in answer.text
