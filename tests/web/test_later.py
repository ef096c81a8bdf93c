"""Routes loaded when first asked for: every page is behind its own address, and a start loads none of them."""

import inspect
import subprocess
import sys
from pathlib import Path
from unittest.mock import Mock

import pytest
from fastapi.testclient import TestClient

from ditto_run.app import PAGES, WHERE, create_app, get_ready
from ditto_run.core.run import fold
from ditto_run.desk import Desk
from ditto_run.web.later import Later
from tests.conftest import planned
from tests.web.test_locked_out import every_route

MODULES = sorted(
    path.stem for path in (Path(__file__).parents[2] / "src/ditto_run/web/pages").glob("[a-z]*.py")
)


def test_every_page_is_behind_some_address() -> None:
    assert sorted({module for _, modules in WHERE for module in modules}) == MODULES


@pytest.mark.parametrize("module", MODULES)
def test_the_first_pattern_that_fits_an_address_has_its_page(desk: Desk, module: str) -> None:
    laters = [route for route in create_app(desk.settings, desk).routes if isinstance(route, Later)]
    routes = [*every_route(Later(create_app(desk.settings, desk), "", PAGES + module).load().routes)]
    assert routes
    for route in routes:
        path = route.path.replace("{job_id}", "1").replace("{", "").replace("}", "")
        first = next(later for later in laters if later.pattern.match(path))
        assert route.path in {known.path for known in every_route(first.load().routes)}, route.path


def test_a_start_and_the_list_of_jobs_load_no_step_and_no_api() -> None:
    code = (
        "import sys, tempfile; from pathlib import Path\n"
        "from fastapi.testclient import TestClient\n"
        "from ditto_run.app import create_app; from ditto_run.settings import Settings\n"
        "client = TestClient(create_app(Settings(Path(tempfile.mkdtemp()))), base_url='http://127.0.0.1')\n"
        "assert client.get('/').status_code == 200 and client.get('/healthz').status_code == 200\n"
        "names = ('ditto_run.web.api', 'ditto_run.web.pages.run', 'ditto_run.web.pages.planning', 'ditto_run.web.pages.shop')\n"
        "print([name for name in names if name in sys.modules])\n"
    )
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)
    assert done.stdout.strip() == "[]"


def test_no_page_works_in_the_event_loop(desk: Desk) -> None:
    """Only the stream of a run waits there; whatever reads, writes or draws does so in a thread."""
    routes = [
        route for route in every_route(create_app(desk.settings, desk).routes) if hasattr(route, "endpoint")
    ]
    assert len(routes) > 100
    waiting = [route.name for route in routes if inspect.iscoroutinefunction(route.endpoint)]
    assert waiting == ["run_stream"]


def test_what_no_page_answers_is_said_not_found(client: TestClient) -> None:
    assert client.get("/jobs/1/nowhere").status_code == 404
    assert "There is no such page." in client.get("/apiary").text
    assert client.put("/keys").status_code == 405


def test_once_it_is_up_the_run_in_hand_is_read_and_the_steps_are_loaded(desk: Desk, monkeypatch) -> None:
    app = create_app(desk.settings, desk)
    get_ready(app)  # a shop without a run has nothing to read
    laters = [route for route in app.routes if isinstance(route, Later)]
    monkeypatch.setattr("ditto_run.web.later.import_module", None)  # loading anything now would fail
    assert all(route.load().routes for route in laters)
    job = desk.jobs.new(planned(), "RK")
    desk.runs.start(job, "RK")
    desk.runs.forget()
    desk.runs.take_up_last()
    read = Mock(wraps=fold)
    monkeypatch.setattr("ditto_run.desk.runs.fold", read)
    with desk.runs.folded(desk.runs.require(job)) as state:
        assert state.seq == 1
    read.assert_not_called()
