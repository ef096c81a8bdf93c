"""Pages of the Prove step: the ladder and the start list of a cycle, ticked into the log of its run."""

from dataclasses import dataclass
from datetime import datetime
from typing import Annotated

from fastapi import APIRouter, Form
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from ditto_run.core.run import RunState
from ditto_run.core.run.board import ReadingLine, board
from ditto_run.core.run.events import TickProof, Undo
from ditto_run.core.run.proven import proof_of
from ditto_run.core.run.require import tried
from ditto_run.core.steps import BY_NAME
from ditto_run.desk.forgetting import forgot, forgotten_before
from ditto_run.desk.gate import what_is_open
from ditto_run.web.cycle import cycle_meant, has_cycles, looked_at
from ditto_run.web.dependencies import DeskDep, RenderDep, WhoDep, head_of
from ditto_run.web.pages.run import request_key
from ditto_run.web.redraw import take_back
from ditto_run.web.told import told
from ditto_run.web.trial_words import all_trials

router = APIRouter(prefix="/jobs/{job_id}/prove")


@router.get("", name="prove_page")
def show_page(job_id: int, desk: DeskDep, render: RenderDep) -> HTMLResponse:
    """Show what is gone through before the first load of a cycle; before there is a run, how it starts."""
    job, run_id = desk.jobs.load(job_id), desk.runs.of_job(job_id)
    found = what_is_open(desk, job)
    if run_id is None:
        return render(
            "prove/page.html",
            head=head_of(desk, job, found),
            job=job,
            plan=job.plan,
            step=BY_NAME["prove"],
            proof=None,
        )
    shop = desk.shop.load()
    with desk.runs.folded(run_id) as lent:
        state = looked_at(lent, render.request)
        machine = shop.machines.get(state.plan.cycle(state.cycle).machine_id or 0)
        offsets = shop.register.of(machine.id if machine is not None else None)
        return render(
            "prove/page.html",
            head=head_of(desk, job, found, state),
            job=job,
            plan=state.plan,
            step=BY_NAME["prove"],
            state=state,
            proof=proof_of(state, machine, offsets, forgotten_before(desk)),
            machine=machine,
            trials=all_trials(desk, state),
            firsts=_firsts(state, desk.now),
            many=has_cycles(state),
            **take_back(state, render.who),
        )


@dataclass(frozen=True, slots=True)
class FirstPiece:
    """The piece that may become the first of a setup, with what was read on it.

    Args:
        setup: its name.
        piece: number of the piece.
        lines: each size with its reading.
        edge: names of the sizes that are inside, but outside the middle half.
    """

    setup: str
    piece: int
    lines: tuple[ReadingLine, ...]
    edge: tuple[str, ...]


def _firsts(state: RunState, now: datetime) -> list[FirstPiece]:
    found = []
    for setup in state.here.setups:
        if setup in state.here.masters:
            continue
        cut = reversed(tried(state, setup))
        piece = next((n for n in cut if any(key[0] == setup for key in state.pieces[n].gaugings)), None)
        if piece is not None:
            lines = board(state, now, piece, strip=False).lines
            edge = tuple(line.characteristic.name for line in lines if _at_edge(line))
            found.append(FirstPiece(state.plan.setup(setup).name, piece, lines, edge))
    return found


def _at_edge(line: ReadingLine) -> bool:
    size, gauging = line.characteristic.size, line.gauging
    if (
        gauging is None
        or gauging.value is None
        or not gauging.inside
        or size.lower is None
        or size.upper is None
    ):
        return False
    return abs(gauging.value - size.middle) > (size.upper - size.lower) / 4


@router.post("/forgot", name="prove_forgot")
def forget(
    job_id: int,
    desk: DeskDep,
    render: RenderDep,
    what: Annotated[str, Form(max_length=300)] = "",
    machine: Annotated[str, Form(max_length=120)] = "",
) -> Response:
    """Keep what was forgotten: it stands on top of the start list from now on."""
    found = forgot(desk, what, machine)
    return told(_back(job_id, render), f"{found.words.rstrip('.')}: asked first from now on.")


@router.post("", name="prove_tick")
def tick(
    job_id: int,
    desk: DeskDep,
    render: RenderDep,
    who: WhoDep,
    item: Annotated[str, Form(max_length=60)],
    note: Annotated[str, Form(max_length=300)] = "",
    waived: Annotated[bool, Form()] = False,
    client_key: Annotated[str, Form(max_length=80)] = "",
) -> Response:
    """Write down that something was gone through, or why it is left out."""
    run_id = desk.runs.require(job_id)
    command = TickProof(item, note, waived)
    desk.runs.record(run_id, command, who, client_key or request_key(render), cycle_meant(render.request))
    return _back(job_id, render)


@router.post("/undo", name="prove_undo")
def undo(job_id: int, desk: DeskDep, render: RenderDep, who: WhoDep) -> Response:
    """Take the last line back that this person recorded."""
    desk.runs.record(desk.runs.require(job_id), Undo(), who, request_key(render), cycle_meant(render.request))
    return told(_back(job_id, render), "Taken back.")


def _back(job_id: int, render: RenderDep) -> RedirectResponse:
    meant = cycle_meant(render.request)
    return RedirectResponse(f"/jobs/{job_id}/prove{f'?cycle={meant}' if meant else ''}", 303)
