"""Puts the layers together. The only module that knows all of them."""

import gc

from fastapi import FastAPI
from fastapi.staticfiles import StaticFiles
from starlette.middleware.gzip import GZipMiddleware

from ditto_run import __version__
from ditto_run.desk import Desk, open_desk
from ditto_run.settings import Settings
from ditto_run.web.api import router as api
from ditto_run.web.dependencies import FOLDER
from ditto_run.web.guard import Guard
from ditto_run.web.pages import (
    bed,
    close,
    drawers,
    files,
    find,
    gate,
    hold,
    jobs,
    keep,
    live,
    method,
    offsets,
    pallets,
    part,
    place,
    planning,
    reference,
    run,
    sheets,
    shop,
    stock,
    tools,
)
from ditto_run.web.problems import add_problem_pages

SMALLEST_PACKED = 20_000  # bytes; small answers go out as they are, packing them would take longer


def create_app(settings: Settings, desk: Desk | None = None) -> FastAPI:
    """Return the web app over the data folder of the settings, or over a desk that is open already."""
    app = FastAPI(
        title="Ditto Run",
        version=__version__,
        docs_url=None,
        redoc_url=None,
        description="Everything on the pages as JSON. Errors are a Problem: name, problem, remedy, field, choices.",
    )
    app.state.desk = desk or open_desk(settings)
    app.state.add_demo = _add_demo
    app.mount("/static", StaticFiles(directory=FOLDER / "static"), name="static")
    app.include_router(api)
    pages = (
        jobs,
        part,
        method,
        stock,
        sheets,
        hold,
        offsets,
        find,
        files,
        pallets,
        place,
        tools,
        run,
        close,
        planning,
        shop,
        bed,
        drawers,
        gate,
        keep,
        live,
        reference,
    )
    for module in pages:
        app.include_router(module.router, include_in_schema=False)
    add_problem_pages(app)
    app.add_middleware(GZipMiddleware, minimum_size=SMALLEST_PACKED, compresslevel=5)
    app.add_middleware(Guard)
    gc.freeze()  # what was imported stays for good: the collector need not walk it while a long log is folded
    return app


def _add_demo(desk: Desk) -> None:
    from ditto_run.demo import add_demo_jobs  # noqa: PLC0415 - wanted once in a shop's life

    add_demo_jobs(desk)
