"""Puts the layers together. The only module that knows all of them."""

import gc
import os
import sys
from pathlib import Path
from typing import Any

from fastapi import FastAPI
from fastapi.openapi.utils import get_openapi
from fastapi.staticfiles import StaticFiles
from starlette.responses import JSONResponse
from starlette.routing import Route

from ditto_run import __version__
from ditto_run.desk import Desk, open_desk
from ditto_run.settings import Settings
from ditto_run.web.drawn import Drawn
from ditto_run.web.guard import Guard
from ditto_run.web.later import Later
from ditto_run.web.pack import Pack
from ditto_run.web.parts import Parts
from ditto_run.web.problems import add_problem_pages

GIVE_WAY_S = (
    0.001  # how soon a thread that draws a long page lets another go on; five times as often as usual
)
STATIC = Path(__file__).parent / "web/static"
HEALTH = "ditto_run.web.health"
PAGES = "ditto_run.web.pages."
JOB = "/jobs/[^/]+"
WHERE = (  # what an address begins with, and the pages behind it; the first that fits has it
    ("/backup|/restore|/jobs/import", ("keep",)),
    ("/keys|/codes|/help", ("reference",)),
    ("/shop/drawers", ("drawers",)),
    ("/shop/machines/[^/]+/(?:table|dialect|keys|clocked)", ("bed",)),
    ("/shop/machines/[^/]+/offsets", ("offsets",)),
    ("/shop/gauges/[^/]+/study", ("gauge_study",)),
    ("/shop", ("shop",)),
    (f"{JOB}/part/features?(?:-read)?", ("features",)),
    (f"{JOB}/part", ("part",)),
    (f"{JOB}/method", ("first_plan", "method")),
    (f"{JOB}/stock", ("stock",)),
    (f"{JOB}/hold/features", ("features",)),
    (f"{JOB}/hold", ("setup_sheets", "proposed_setups", "hold")),
    (f"{JOB}/place", ("offsets", "find", "files", "pallets", "place")),
    (f"{JOB}/tools", ("order", "written", "program", "tool_sheets", "proposed", "tools")),
    (f"{JOB}/prove/(?:rehearse|practise|floor)", ("rehearse",)),
    (f"{JOB}/prove/(?:trials|set)", ("trials",)),
    (f"{JOB}/prove", ("prove",)),
    (f"{JOB}/run/time", ("when",)),
    (f"{JOB}/run/ritual", ("ritual",)),
    (f"{JOB}/run/charts", ("charts",)),
    (f"{JOB}/run/stand-in", ("standin",)),
    (f"{JOB}/run", ("run", "live")),
    (f"{JOB}/close", ("close", "close_papers")),
    (f"{JOB}/ask", ("figures",)),
    (f"{JOB}/(?:plan|size)", ("planning",)),
    (f"{JOB}/sheets", ("sheets",)),
    (f"{JOB}/open", ("gate",)),
    ("/week", ("week",)),
    ("/(?:jobs|demo|welcome|who)|/", ("jobs",)),
)


class Static(StaticFiles):
    """Styles and scripts; what stands before them in an address is the build they belong to, so that modules find each other."""

    def lookup_path(self, path: str) -> tuple[str, os.stat_result | None]:
        """Return where a file is, whatever build its address names."""
        return super().lookup_path(path.split("/", 1)[-1] if path.startswith("v-") else path)


def create_app(settings: Settings, desk: Desk | None = None) -> FastAPI:
    """Return the web app over the data folder of the settings, or over a desk that is open already."""
    app = FastAPI(
        title="Ditto Run",
        version=__version__,
        docs_url=None,
        redoc_url=None,
        openapi_url=None,
        description="Everything on the pages as JSON. Errors are a Problem: name, problem, remedy, field, choices.",
    )
    app.state.desk = desk or open_desk(settings)
    app.state.add_demo = _add_demo
    app.state.drawn = Drawn()
    app.state.stand_ins = {}
    app.mount("/static", Static(directory=STATIC), name="static")
    api = Later(app, "/api", "ditto_run.web.api")
    app.router.routes += [Later(app, "/healthz", HEALTH), api]
    for pattern, modules in WHERE:
        app.router.routes.append(Later(app, pattern, *(PAGES + module for module in modules)))
    app.router.routes.append(Route("/openapi.json", lambda _request: JSONResponse(_described(app))))
    add_problem_pages(app)
    app.add_middleware(Parts)
    app.add_middleware(Pack)
    app.add_middleware(Guard)
    sys.setswitchinterval(GIVE_WAY_S)
    gc.freeze()  # what was imported stays for good: the collector need not walk it while a long log is folded
    return app


def get_ready(app: FastAPI) -> None:
    """Do early what the next page would wait for: read the run written to last, load the steps' pages and drawings."""
    desk: Desk = app.state.desk
    desk.runs.take_up_last()
    for route in app.router.routes:
        if isinstance(route, Later):
            route.load()
    from ditto_run.web.dependencies import templates  # noqa: PLC0415 - the routes have loaded it

    for name in templates.env.list_templates():
        templates.env.get_template(name)


def _described(app: FastAPI) -> dict[str, Any]:
    """Return the description of the API, worked out in a thread when it is first asked for; the pages are not in it."""
    from ditto_run.web import api, health  # noqa: PLC0415 - a start describes nothing

    if app.openapi_schema is None:
        described = get_openapi(
            title=app.title,
            version=app.version,
            description=app.description,
            routes=[*health.router.routes, *api.router.routes],
        )
        app.openapi_schema = _plainly(described)
    return app.openapi_schema


def _plainly(described: Any) -> Any:  # noqa: ANN401 - JSON
    """Return a description without kinds by place, which not every reader knows: of a row it says what its items may be."""
    if isinstance(described, list):
        return [_plainly(one) for one in described]
    if not isinstance(described, dict):
        return described
    found = {name: _plainly(value) for name, value in described.items()}
    by_place = found.pop("prefixItems", None)
    if isinstance(by_place, list) and "items" not in found:
        kinds = [one for n, one in enumerate(by_place) if one not in by_place[:n]]
        found["items"] = kinds[0] if len(kinds) == 1 else {"anyOf": kinds}
    return found


def _add_demo(desk: Desk) -> None:
    from ditto_run.demo import add_demo_jobs  # noqa: PLC0415 - wanted once in a shop's life

    add_demo_jobs(desk)
