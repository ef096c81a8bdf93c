"""Live pages: one stream a tab is told of each new line of a run once it is kept; the page then asks for what changed."""

import asyncio
from collections.abc import AsyncIterator

from fastapi import APIRouter, Request
from sse_starlette.sse import EventSourceResponse

from ditto_run.web.dependencies import DeskDep

router = APIRouter()


@router.get("/jobs/{job_id}/run/stream", name="run_stream")
async def stream(job_id: int, request: Request, desk: DeskDep) -> EventSourceResponse:
    """Send the number of the newest line, and again whenever a line was kept."""
    run_id = await asyncio.to_thread(desk.runs.of_job, job_id)
    loop, heard = asyncio.get_running_loop(), asyncio.Event()
    newest = -1

    def tell(seq: int) -> None:
        """Take a line's number in; called from whichever thread has kept it."""

        def take() -> None:
            nonlocal newest
            newest = max(newest, seq)
            heard.set()

        loop.call_soon_threadsafe(take)

    async def lines() -> AsyncIterator[dict[str, str]]:
        nonlocal newest
        if run_id is None:
            return
        end = desk.runs.watch(run_id, tell)
        try:
            newest = max(newest, await asyncio.to_thread(desk.runs.seq, run_id))
            while not await request.is_disconnected():
                heard.clear()
                yield {"event": "line", "data": str(newest)}
                await heard.wait()
        finally:
            end()

    return EventSourceResponse(lines())
