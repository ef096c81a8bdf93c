"""A server that watches itself: how long its event loop stood still, and how long the database was held for writing.

`python -m bench.watched FOLDER` serves a shop and prints both at the end of each line it is sent; see bench_busy.
"""

import asyncio
import json
import sys
import threading
import time
from collections.abc import AsyncIterator, Iterator
from contextlib import asynccontextmanager, contextmanager
from pathlib import Path
from typing import Any

import uvicorn
from fastapi import FastAPI
from sqlalchemy import Connection

from ditto_run.app import create_app
from ditto_run.cli import free_socket
from ditto_run.settings import Settings
from ditto_run.store.database import Database

EACH_S = 0.002  # how often the loop is looked at
longest = {"loop": 0.0, "lock": 0.0}


async def look() -> None:
    """Note the longest time the loop did not come round."""
    while True:
        started = time.perf_counter()
        await asyncio.sleep(EACH_S)
        longest["loop"] = max(longest["loop"], (time.perf_counter() - started - EACH_S) * 1000)


writing = Database.writing


@contextmanager
def watched(database: Database, **what: Any) -> Iterator[Connection]:  # noqa: ANN401 - whatever it takes
    """Hold the database as always, and note for how long, from the moment it is held, [ms]."""
    with writing(database, **what) as connection:
        started = time.perf_counter()
        yield connection
        longest["lock"] = max(longest["lock"], (time.perf_counter() - started) * 1000)


def tell() -> None:
    """Print what was noted since the last line that came in."""
    for _ in sys.stdin:
        print(json.dumps(longest), flush=True)
        longest.update(loop=0.0, lock=0.0)


def main(folder: Path) -> None:
    """Serve a shop, watched."""
    Database.writing = watched  # type: ignore[assignment]
    app: FastAPI = create_app(Settings(folder))

    @asynccontextmanager
    async def watching(_app: FastAPI) -> AsyncIterator[None]:
        looking = asyncio.create_task(look())
        yield
        looking.cancel()

    app.router.lifespan_context = watching
    threading.Thread(target=tell, daemon=True).start()
    with free_socket(0) as listening:
        print(f"http://127.0.0.1:{listening.getsockname()[1]}", flush=True)
        config = uvicorn.Config(app, log_level="critical", timeout_graceful_shutdown=1, access_log=False)
        uvicorn.Server(config).run(sockets=[listening])


if __name__ == "__main__":
    main(Path(sys.argv[1]))
