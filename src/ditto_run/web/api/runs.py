"""Runs as JSON: record what was done, read the state, the log and the report."""

from dataclasses import replace
from datetime import datetime
from typing import Annotated, Any

from fastapi import APIRouter, Query, Response
from pydantic import BaseModel, BeforeValidator, Field, TypeAdapter

from ditto_run.core.close import PieceRow, Report, report
from ditto_run.core.run import Body, Command, Event
from ditto_run.core.run.board import board
from ditto_run.core.run.state import RunState
from ditto_run.core.shop.day import ShopDay
from ditto_run.web.api.errors import ERRORS, Number
from ditto_run.web.api.strict import Sent, only_known
from ditto_run.web.dependencies import DeskDep, WhoDep

router = APIRouter(prefix="/api/v1/runs", tags=["runs"], responses=ERRORS)
REPORT = TypeAdapter(Report)
PIECE = TypeAdapter(PieceRow)


class CommandIn(Sent):
    """What was done. The same client key again records nothing more; `cycle` is the one it is about, 0 the one opened last."""

    client_key: Annotated[str, Field(min_length=1, max_length=80)]
    cycle: Annotated[int, Field(ge=0)] = 0
    command: Annotated[Command, Field(discriminator="kind"), BeforeValidator(only_known(Command))]


class EventOut(BaseModel):
    """One line of the log."""

    seq: int
    at: datetime
    who: str
    client_key: str
    body: Body


class CycleOut(BaseModel):
    """One cycle that was opened: what is cutting in it, and the first piece of each of its setups."""

    cycle: int
    name: str
    machine_id: int | None
    running_load: int | None
    masters: dict[int, int]


class PieceOut(BaseModel):
    """One piece: its part, and how it stands."""

    piece: int
    part: int
    standing: str
    outcome: str
    reason: str


class RunOut(BaseModel):
    """The state of a run."""

    seq: int
    batch: int
    revision: int
    setup: int
    running_load: int | None
    master: int | None
    closed: bool
    counts: dict[str, int]
    due: list[int]
    call: str
    why: str
    said: str
    finish: datetime | None
    earliest: datetime | None
    latest: datetime | None
    cycles: list[CycleOut]
    parts: dict[int, dict[str, int]]
    pieces: list[PieceOut]


class Recorded(BaseModel):
    """The line that was written; none if the client key was known already."""

    event: EventOut | None
    call: str
    said: str
    counts: dict[str, int]


def _event(event: Event) -> EventOut:
    return EventOut(seq=event.seq, at=event.at, who=event.who, client_key=event.client_key, body=event.body)


def _out(state: RunState, now: datetime, day: ShopDay) -> RunOut:
    shown = board(state, now, day=day)
    return RunOut(
        seq=state.seq,
        batch=state.batch,
        revision=state.revision,
        setup=state.cycle,
        running_load=state.running.number if state.running else None,
        master=state.here.master,
        closed=state.closed_at is not None,
        counts=shown.counts,
        due=list(shown.due),
        call=shown.call.say,
        why=shown.call.why,
        said=shown.last_said,
        finish=shown.pace.finish if shown.pace.known else None,
        earliest=shown.pace.earliest if shown.pace.known else None,
        latest=shown.pace.latest if shown.pace.known else None,
        cycles=[
            CycleOut(
                cycle=run.key,
                name=state.plan.cycle(run.key).name,
                machine_id=state.plan.cycle(run.key).machine_id,
                running_load=run.running.number if run.running else None,
                masters=run.masters,
            )
            for run in state.cycles.values()
        ],
        parts={part: dict(+counts) for part, counts in state.by_part.items()},
        pieces=[
            PieceOut(piece=p.number, part=p.part, standing=p.standing, outcome=p.outcome, reason=p.reason)
            for p in state.pieces.values()
        ],
    )


@router.get("/{run_id}")
def run(run_id: Number, desk: DeskDep, cycle: Annotated[int, Query(ge=0)] = 0) -> RunOut:
    """Return the state of a run, looked at from a cycle; 0 is the one opened last."""
    with desk.runs.folded(run_id) as state:
        return _out(state.at(cycle), desk.now, desk.shop.load().day)


@router.post("/{run_id}/commands")
def record(run_id: Number, sent: CommandIn, desk: DeskDep, who: WhoDep) -> Recorded:
    """Record what was done; it is kept for good when this answers."""
    event = desk.runs.record(run_id, sent.command, who, sent.client_key, sent.cycle)
    with desk.runs.folded(run_id) as state:
        shown = board(state.near(sent.cycle), desk.now, day=desk.shop.load().day)
        return Recorded(
            event=_event(event) if event else None,
            call=shown.call.say,
            said=shown.last_said,
            counts=shown.counts,
        )


@router.get("/{run_id}/events", response_model=list[EventOut])
def events(run_id: Number, desk: DeskDep, after: Annotated[int, Query(ge=0)] = 0) -> Response:
    """Return the lines of the log after one of them, oldest first."""
    lines = [_event(event).model_dump_json() for event in desk.runs.events(run_id, after)]
    return Response(f"[{','.join(lines)}]", media_type="application/json")


@router.get("/{run_id}/report", response_model=dict[str, Any])
def report_of(run_id: Number, desk: DeskDep) -> Response:
    """Return the report: every piece, figures of every dimension, times planned against actual."""
    with desk.runs.folded(run_id) as state:
        found = report(state)
        rest = REPORT.dump_json(replace(found, pieces=())).decode()
        pieces = ",".join(PIECE.dump_json(row).decode() for row in found.pieces)
    # one piece after the other: a thousand at once would hold everybody up
    return Response(rest.replace('"pieces":[]', f'"pieces":[{pieces}]', 1), media_type="application/json")
