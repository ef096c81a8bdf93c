"""Puts the layers together. The only module that knows all of them."""

import gc

from fastapi import FastAPI
from fastapi.staticfiles import StaticFiles
from starlette.middleware.gzip import GZipMiddleware

from ditto_run import __version__
from ditto_run.settings import Settings
from ditto_run.store.bundles import Bundles
from ditto_run.store.database import FILE_NAME, Database
from ditto_run.store.drawers import Drawers
from ditto_run.store.jobs import Jobs
from ditto_run.store.offsets import Offsets
from ditto_run.store.programs import Programs
from ditto_run.store.runs import Runs
from ditto_run.store.shop import Shop
from ditto_run.web.api import router as api
from ditto_run.web.dependencies import FOLDER, Desk
from ditto_run.web.guard import Guard
from ditto_run.web.pages import (
    bed,
    close,
    drawers,
    files,
    find,
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


def create_desk(settings: Settings) -> Desk:
    """Return the desk over the data folder of the settings."""
    database = Database(settings.folder / FILE_NAME)
    shop, jobs, runs = Shop(database), Jobs(database, settings.clock), Runs(database, settings.clock)
    offsets, programs = Offsets(database, settings.clock), Programs(database, settings.clock)
    return Desk(
        settings,
        database,
        shop,
        Drawers(database),
        jobs,
        runs,
        Bundles(database, shop, jobs, runs),
        offsets,
        programs,
    )


def create_app(settings: Settings) -> FastAPI:
    """Return the web app over the data folder of the settings."""
    app = FastAPI(
        title="Ditto Run", version=__version__, docs_url=None, redoc_url=None,
        description="Everything on the pages as JSON. Errors are a Problem: name, problem, remedy, field, choices.",
    )  # fmt: skip
    app.state.desk = create_desk(settings)
    app.mount("/static", StaticFiles(directory=FOLDER / "static"), name="static")
    app.include_router(api)
    pages = (
        jobs, part, method, stock, sheets, hold, offsets, find, files, pallets, place, tools, run, close, planning, shop, bed, drawers, keep, live, reference,
    )  # fmt: skip
    for module in pages:
        app.include_router(module.router, include_in_schema=False)
    add_problem_pages(app)
    app.add_middleware(GZipMiddleware, minimum_size=SMALLEST_PACKED, compresslevel=5)
    app.add_middleware(Guard)
    gc.freeze()  # what was imported stays for good: the collector need not walk it while a long log is folded
    return app
