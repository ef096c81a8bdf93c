"""Programs that are written from the plan: a skeleton in its order, a slender bar in segments; read back before they are shown."""

from typing import Annotated

from fastapi import APIRouter, Query
from fastapi.responses import HTMLResponse, Response

from ditto_run.core.errors import NotNow
from ditto_run.core.plan import Plan
from ditto_run.core.plan.cycles import Press
from ditto_run.core.plan.program_room import ACROSS, ProgramZero, usual_zero
from ditto_run.core.plan.segment_program import SegmentProgram, write_segments
from ditto_run.core.plan.skeleton import Skeleton, write_skeleton
from ditto_run.core.program.dialect import DIALECT_WORDS
from ditto_run.core.program.trace import stays_of
from ditto_run.desk import Desk
from ditto_run.web.dependencies import DeskDep, RenderDep
from ditto_run.web.drawings.program_path import draw_path
from ditto_run.web.files import download
from ditto_run.web.pages.planning import step_page
from ditto_run.web.seen import Seen, SeenQuery, setup_chosen

router = APIRouter(prefix="/jobs/{job_id}/tools/program")
TEXT = "text/plain; charset=utf-8"
ZeroQuery = Annotated[str | None, Query(max_length=20)]


def cycle_seen(plan: Plan, setup: str | None) -> tuple[Seen, Press | None]:
    """Return the setup that is looked at, and the cycle it is cut in; None without one."""
    seen = setup_chosen(plan, setup)
    return seen, next((one for one in plan.all_cycles if seen.key in one.setups), None)


@router.get("/skeleton", name="tools_skeleton")
def show_skeleton(
    job_id: int, desk: DeskDep, render: RenderDep, setup: SeenQuery = None, zero: ZeroQuery = None
) -> HTMLResponse:
    """Show the skeleton of a program for the cycle of a setup, read back, proven and drawn."""
    job = desk.jobs.load(job_id)
    seen, cycle = cycle_seen(job.plan, setup)
    found: Skeleton | None = None
    refusal: NotNow | None = None
    by_place = usual_zero(desk.worked_out(job), cycle).across if cycle is not None else ""
    try:
        found = _skeleton(desk, job_id, cycle, zero)
    except NotNow as problem:
        refusal = problem
    return _page(
        job_id,
        desk,
        render,
        seen,
        template="tools/skeleton.html",
        found=found,
        refusal=refusal,
        zero=by_place if zero is None else zero,
        zeros=zeros_of(by_place),
        turned=job.plan.form == "turned",
        **(_drawn(found) if found is not None else {}),
    )


@router.get("/skeleton.nc", name="tools_skeleton_file")
def give_skeleton(job_id: int, desk: DeskDep, setup: SeenQuery = None, zero: ZeroQuery = None) -> Response:
    """Download the skeleton of a program."""
    _, cycle = cycle_seen(desk.jobs.load(job_id).plan, setup)
    return download(_skeleton(desk, job_id, cycle, zero).text.encode(), f"job-{job_id}-skeleton.nc", TEXT)


@router.get("/segments", name="tools_segments")
def show_segments(job_id: int, desk: DeskDep, render: RenderDep, setup: SeenQuery = None) -> HTMLResponse:
    """Show the program of a slender bar in segments, read back and proven."""
    seen, cycle = cycle_seen(desk.jobs.load(job_id).plan, setup)
    found: SegmentProgram | None = None
    refusal: NotNow | None = None
    try:
        found = _segments(desk, job_id, cycle)
    except NotNow as problem:
        refusal = problem
    return _page(job_id, desk, render, seen, template="tools/segments.html", found=found, refusal=refusal)


@router.get("/segments.nc", name="tools_segments_file")
def give_segments(job_id: int, desk: DeskDep, setup: SeenQuery = None) -> Response:
    """Download the program of a slender bar in segments."""
    _, cycle = cycle_seen(desk.jobs.load(job_id).plan, setup)
    return download(_segments(desk, job_id, cycle).text.encode(), f"job-{job_id}-segments.nc", TEXT)


def _page(
    job_id: int,
    desk: Desk,
    render: RenderDep,
    seen: Seen,
    *,
    template: str,
    found: Skeleton | SegmentProgram | None,
    refusal: NotNow | None,
    **more: object,
) -> HTMLResponse:
    return step_page(
        "tools",
        job_id,
        desk,
        render,
        template=template,
        view="program",
        seen=seen,
        setup_key=seen.key,
        found=found,
        refusal=refusal,
        dialect_words=DIALECT_WORDS,
        unit=desk.jobs.load(job_id).plan.heading.unit,
        **more,
    )


def zeros_of(by_place: str) -> list[tuple[str, str]]:
    """Return where a program's zero may stand on the piece, and what Place has of it, as choices."""
    return [
        ("", "not said"),
        *((name, f"{name}, as Place has it" if name == by_place else name) for name in ACROSS),
    ]


def _drawn(found: Skeleton) -> dict[str, object]:
    """The way of a skeleton at its first offset, and its visits."""
    moves = found.read.trace.moves
    first = next((move.offset for move in moves), "")
    under = [move for move in moves if move.offset == first]
    given = found.read.given
    path = draw_path(under, given.blanks.get(first), 0, turned=given.dialect.turns) if under else None
    return {"path": path, "path_offset": first, "stays": stays_of(moves)}


def _skeleton(desk: Desk, job_id: int, cycle: Press | None, zero: str | None) -> Skeleton:
    offsets = desk.offsets.of(_cut(cycle).machine_id or 0)
    said = None if zero is None else ProgramZero(zero)
    return write_skeleton(desk.worked_out(desk.jobs.load(job_id)), _cut(cycle), offsets, said)


def _segments(desk: Desk, job_id: int, cycle: Press | None) -> SegmentProgram:
    return write_segments(desk.worked_out(desk.jobs.load(job_id)), _cut(cycle))


def _cut(cycle: Press | None) -> Press:
    """The cycle that is written.

    Raises:
        NotNow: if there is none.
    """
    if cycle is None:
        raise NotNow("There is no cycle to write.", "Add a setup with its tools first.")
    return cycle
