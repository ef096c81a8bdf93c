"""Routes loaded when first asked for: every page is behind its own address, and a start loads none of them."""

import subprocess
import sys
from pathlib import Path

import pytest
from fastapi.testclient import TestClient

from ditto_run.app import PAGES, WHERE, create_app
from ditto_run.desk import Desk
from ditto_run.web.later import Later
from tests.web.test_locked_out import every_route

MODULES = sorted(
    path.stem for path in (Path(__file__).parents[2] / "src/ditto_run/web/pages").glob("[a-z]*.py")
)


def test_every_page_is_behind_some_address() -> None:
    assert sorted({module for _, modules in WHERE for module in modules}) == MODULES


@pytest.mark.parametrize("module", MODULES)
def test_the_first_pattern_that_fits_an_address_has_its_page(desk: Desk, module: str) -> None:
    laters = [route for route in create_app(desk.settings, desk).routes if isinstance(route, Later)]
    routes = [*every_route(Later(create_app(desk.settings, desk), "", PAGES + module).router.routes)]
    assert routes
    for route in routes:
        path = route.path.replace("{job_id}", "1").replace("{", "").replace("}", "")
        first = next(later for later in laters if later.pattern.match(path))
        assert route.path in {known.path for known in every_route(first.router.routes)}, route.path


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


def test_what_no_page_answers_is_said_not_found(client: TestClient) -> None:
    assert client.get("/jobs/1/nowhere").status_code == 404
    assert "There is no such page." in client.get("/apiary").text
    assert client.put("/keys").status_code == 405
