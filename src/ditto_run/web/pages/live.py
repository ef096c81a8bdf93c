"""Live pages: one stream a tab says that a run has a new line; the page then asks for what changed."""

import asyncio
from collections.abc import AsyncIterator

from fastapi import APIRouter, Request
from sse_starlette.sse import EventSourceResponse

from ditto_run.web.dependencies import DeskDep

router = APIRouter()
LOOK_S = 0.5


@router.get("/jobs/{job_id}/run/stream", name="run_stream")
async def stream(job_id: int, request: Request, desk: DeskDep) -> EventSourceResponse:
    """Send the number of the newest line whenever it has grown."""

    async def lines() -> AsyncIterator[dict[str, str]]:
        run_id = await asyncio.to_thread(desk.runs.of_job, job_id)
        known = -1
        while run_id is not None and not await request.is_disconnected():
            newest = await asyncio.to_thread(desk.runs.seq, run_id)
            if newest > known:
                known = newest
                yield {"event": "line", "data": str(newest)}
            await asyncio.sleep(LOOK_S)

    return EventSourceResponse(lines())
