"""Script in every text that a person can type, and every page there is: nothing of it runs."""

import json
import sqlite3
from collections.abc import Iterator
from pathlib import Path

import pytest
from starlette.testclient import TestClient

from ditto_run.app import create_app
from ditto_run.core.sheet_kinds import SHEETS
from ditto_run.core.shop.drawers import DRAWERS
from ditto_run.demo import make_demo_shop
from ditto_run.desk import Desk, open_desk
from ditto_run.desk.worker import Worker
from ditto_run.settings import Settings
from tests.web.test_locked_out import every_route

EVIL = "\"'><script>alert(1)</script>"
TYPED = {  # fields of plans, lines, offsets and registers that hold what a person typed, and nothing reads as a value
    *("part", "customer", "drawing", "drawing_revision", "material", "family", "heat", "approved_by"),
    *(
        "name",
        "why",
        "mate",
        "customer_words",
        "agreed",
        "holds",
        "locates",
        "proof",
        "stop",
        "torque",
        "does",
    ),
    *("reason", "note", "problem", "what", "supplier", "grade_came", "shelf"),
    *("next_time", "words", "ready_what", "holder"),
}
FORMS = (
    "mark",
    "offset",
    "note",
    "stations",
    "late",
    "break",
    "setup",
    "hold",
    "plan",
    "size",
    "taken",
    "revision",
)


def poisoned(value: object, name: str = "") -> object:
    """Return a document with script in each text that was typed."""
    if isinstance(value, dict):
        return {key: poisoned(inner, key) for key, inner in value.items()}
    if isinstance(value, list):
        return [poisoned(inner, name) for inner in value]
    return f"{value}{EVIL}" if isinstance(value, str) and value and name in TYPED else value


@pytest.fixture
def shop(tmp_path: Path, worker: Worker) -> Iterator[TestClient]:
    settings = Settings(tmp_path, demo=True)
    desk = open_desk(settings, worker)
    make_demo_shop(desk)
    desk.database.close()
    with sqlite3.connect(desk.database.path) as connection:
        for table, column in (
            ("plan_version", "document"),
            ("run_event", "body"),
            ("offset", "body"),
            ("drawer_row", "texts"),
        ):
            few = " WHERE drawer NOT IN ('drills', 'taps', 'reamers')" if table == "drawer_row" else ""
            rows = connection.execute(f"SELECT DISTINCT {column} FROM {table}{few}").fetchall()
            for (text,) in rows:
                evil = json.dumps(poisoned(json.loads(text)))
                connection.execute(f"UPDATE {table} SET {column} = ? WHERE {column} = ?", (evil, text))
        for table in ("machine", "gauge"):
            connection.execute(f"UPDATE {table} SET name = name || ?", (EVIL,))
        connection.execute("UPDATE attachment SET name = name || ?", (EVIL,))
    with TestClient(
        create_app(settings, open_desk(settings, worker)), "http://127.0.0.1", cookies={"who": "RK"}
    ) as client:
        yield client


def addresses(client: TestClient) -> Iterator[str]:
    """Give every address there is, for every job."""
    desk: Desk = client.app.state.desk
    values = {
        "kind": [sheet.kind for sheet in SHEETS],
        "name": [*FORMS, *(drawer.name for drawer in DRAWERS)],
        "job_id": [str(job.id) for job in desk.jobs.find()],
    }
    for route in every_route(client.app.routes):
        if "GET" not in (getattr(route, "methods", None) or ()) or "stream" in route.path:
            continue
        found = [route.path]
        for name in ("job_id", "kind", "name", "setup", "number", "run_id", "row_id", "attachment_id"):
            if f"{{{name}}}" in route.path:
                found = [
                    path.replace(f"{{{name}}}", value)
                    for path in found
                    for value in values.get(name, ["1", "2"])
                ]
        yield from found


def test_no_text_of_any_page_runs(shop: TestClient) -> None:
    shown = 0
    for address in addresses(shop):
        answer = shop.get(address)
        assert answer.status_code < 500, address
        if answer.headers.get("content-type", "").startswith(("text/html", "image/svg")):
            assert "<script>alert" not in answer.text, address
            shown += "&lt;script&gt;alert" in answer.text and answer.status_code == 200
    assert shown > 250
