"""The program that is about to be run: read by its dialect, compared with the plan, in sentences."""

from collections.abc import Sequence
from contextlib import suppress
from dataclasses import dataclass, replace
from typing import Annotated, Any, Literal
from urllib.parse import parse_qsl, urlencode

from fastapi import APIRouter, Depends, File, Form, Query, UploadFile
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from ditto_run.core.edits import GiveBackTimes, SetProgram
from ditto_run.core.errors import BadEntry, BeingWorkedOut, DittoError, NotFound, NotNow
from ditto_run.core.plan import Plan
from ditto_run.core.plan.cycles import Press
from ditto_run.core.plan.program_differs import differences
from ditto_run.core.plan.program_room import ACROSS, ProgramZero, usual_zero
from ditto_run.core.plan.programmed import (
    given_of,
    times_read,
    usual_dialect,
)
from ditto_run.core.plan.programs_open import planned_of
from ditto_run.core.plan.segment_program import segments_asked
from ditto_run.core.program.blocks import lines_of
from ditto_run.core.program.choice import MOST_FAULTS, KeptFault, ProgramChoice
from ditto_run.core.program.compare import compared, figures_moved
from ditto_run.core.program.dialect import DIALECT_WORDS, DIALECTS, KEYS, key_text
from ditto_run.core.program.given import Given
from ditto_run.core.program.learned import parts_of
from ditto_run.core.program.reader import ProgramRead
from ditto_run.core.program.said import ORDER, ProgramSays, said_of
from ditto_run.core.program.tally import ProgramFault
from ditto_run.core.program.trace import stays_of
from ditto_run.core.run.clocked import Clocked, clocked
from ditto_run.core.units import capital
from ditto_run.desk import Desk
from ditto_run.desk.programs import Program, program_again, program_read_soon, program_stopped
from ditto_run.web.dependencies import DeskDep, RenderDep, WhoDep
from ditto_run.web.drawings.program_path import draw_path, draw_stations
from ditto_run.web.pages.planning import step_page
from ditto_run.web.pages.written import cycle_seen, zeros_of
from ditto_run.web.seen import Seen, SeenQuery, setup_chosen
from ditto_run.web.told import told

router = APIRouter(prefix="/jobs/{job_id}/tools/program")
MOST_SAID = 50
ASKED = frozenset({"file", "setup", "dialect", "zero", "top", "against", "line", "stations"})


@dataclass(frozen=True, slots=True)
class ReadAs:
    """How a program is read: its number, setup, table of meanings, where its zero stands; and the plan's version."""

    file: int
    setup: str
    dialect: str
    zero: ProgramZero
    version: int


def _read_as(
    file: Annotated[int, Form(ge=0, le=2**31)],
    setup: Annotated[str, Form(max_length=20)] = "",
    dialect: Annotated[str, Form(max_length=20)] = "",
    zero: Annotated[str, Form(max_length=20)] = "",
    top: Annotated[Literal["finished", "raw"], Form()] = "finished",
    version: Annotated[int, Form()] = 0,
) -> ReadAs:
    return ReadAs(file, setup, dialect, ProgramZero(zero, top), version)


ReadAsDep = Annotated[ReadAs, Depends(_read_as)]


@router.get("", name="tools_program")
def show_program(
    job_id: int,
    desk: DeskDep,
    render: RenderDep,
    setup: SeenQuery = None,
    file: Annotated[int, Query(ge=0, le=2**31)] = 0,
    dialect: Annotated[str, Query(max_length=20)] = "",
    zero: Annotated[str | None, Query(max_length=20)] = None,
    top: Literal["finished", "raw"] = "finished",
    against: Annotated[int, Query(ge=0, le=2**31)] = 0,
    line: Annotated[int, Query(ge=0, le=2**31)] = 0,
    again: bool = False,
    stations: bool = False,
) -> HTMLResponse:
    """Show the program files of a job, and what is taken from one of them, compared with the cycle of a setup."""
    job = desk.jobs.load(job_id)
    seen, cycle = cycle_seen(job.plan, setup)
    files = desk.programs.of_job(job_id)
    chosen = _file(desk, job_id, file) if file else None
    other = _file(desk, job_id, against) if against and chosen else None
    table = _table(desk, cycle, dialect)
    by_place = usual_zero(desk.worked_out(job), cycle).across if cycle is not None else ""
    zero = by_place if zero is None else zero
    found: ProgramRead | None = None
    progress: BeingWorkedOut | None = None
    refusal: DittoError | None = None
    if chosen is not None:
        given = _given(desk, job_id, cycle, table, ProgramZero(zero, top))
        try:
            if again:
                program_again(desk, chosen.content, given)
            found = program_read_soon(desk, chosen.content, given)
        except BeingWorkedOut as waits:
            progress = waits
        except DittoError as problem:
            refusal = problem
    said = _said(_faults(desk, job_id, cycle, ProgramZero(zero, top), found)) if found is not None else []
    return step_page(
        "tools",
        job_id,
        desk,
        render,
        template="tools/program.html",
        view="program",
        seen=seen,
        setup_key=seen.key,
        cycle=cycle,
        files=files,
        chosen=chosen,
        revisions=[one for one in desk.programs.revisions(job_id) if chosen and one.name == chosen.name],
        other=other,
        differs=compared([*lines_of(other.content)], [*lines_of(chosen.content)])
        if other and chosen
        else None,
        dialect=table,
        dialects=list(DIALECT_WORDS.items()),
        zero=zero if zero in ACROSS else "",
        zeros=zeros_of(by_place),
        top=top,
        turned=cycle is not None and job.plan.form == "turned",
        found=found,
        says=found.as_document() if found is not None else None,
        said=said[:MOST_SAID],
        beyond=max(len(said) - MOST_SAID, 0) + (found.tally.more.get("faults", 0) if found else 0),
        planned=job.plan.times(cycle.key) if cycle is not None else None,
        clock=_clock(desk, job_id, cycle) if found is not None else None,
        progress=progress,
        refusal=refusal,
        wasted=_wasted(found, job.plan, cycle) if found is not None and cycle is not None else 0.0,
        **_own_table(desk, cycle, table, chosen, found),
        pulled=bool(cycle and job.plan.form == "turned" and segments_asked(desk.worked_out(job), cycle)),
        troubles=[one for one in job.plan.troubles if cycle and one.cycle == cycle.key],
        choice=next((one for one in job.plan.programs if cycle and one.key == cycle.key), None),
        **(
            _path(found, chosen.content, line, stations=stations)
            if found is not None and chosen is not None
            else {}
        ),
        takes=bool(found and cycle and times_read(job.plan, cycle, found.tally.tool_s, 0.0)),
        unit=job.plan.heading.unit,
    )


@router.post("", name="tools_program_keep")
def keep_program(
    job_id: int,
    desk: DeskDep,
    who: WhoDep,
    program: Annotated[UploadFile, File()],
    setup: Annotated[str, Form(max_length=20)] = "",
    dialect: Annotated[str, Form(max_length=20)] = "",
) -> Response:
    """Keep a program with the job and read it."""
    number = desk.programs.keep(job_id, program.filename or "", program.file.read(), who)
    where = f"/jobs/{job_id}/tools/program?file={number}&dialect={dialect if dialect in DIALECTS else ''}"
    plan = desk.jobs.load(job_id).plan
    seen = setup_chosen(plan, setup or None)
    return told(RedirectResponse(f"{where}&setup={seen}", 303), f"{program.filename or 'The file'} is kept.")


@router.post("/why", name="tools_program_why")
def say_why(
    job_id: int,
    desk: DeskDep,
    file: Annotated[int, Form(ge=0, le=2**31)],
    why: Annotated[str, Form(max_length=200)],
    asked: Annotated[str, Form(max_length=300)] = "",
) -> Response:
    """Say why a revision of a program is another one."""
    if not why.strip():
        raise BadEntry("The reason is empty.", "Type it in a few words, such as longer drill.", "why")
    desk.programs.say_why(job_id, file, why)
    return told(_back(job_id, asked), "Why it is another one is kept.")


@router.post("/readback", name="tools_program_readback")
def compare_readback(
    job_id: int,
    desk: DeskDep,
    who: WhoDep,
    machine_copy: Annotated[UploadFile, File()],
    file: Annotated[int, Form(ge=0, le=2**31)],
    asked: Annotated[str, Form(max_length=300)] = "",
) -> Response:
    """Compare a program with the copy that was read back from the machine."""
    chosen = _file(desk, job_id, file)
    number = desk.programs.keep(job_id, chosen.name, machine_copy.file.read(), who, read_back=True)
    return told(_back(job_id, f"{asked}&against={number}"), "The copy is compared, line by line.")


@router.post("/remove", name="tools_program_remove")
def take_away(job_id: int, desk: DeskDep, file: Annotated[int, Form(ge=0, le=2**31)]) -> Response:
    """Take a program away that cannot be read, with its revisions."""
    name = _file(desk, job_id, file).name
    desk.programs.remove(job_id, file)
    return told(_back(job_id, ""), f"{name} is taken away.")


def _back(job_id: int, asked: str) -> RedirectResponse:
    """Back to the page, asked as it was."""
    kept = {name: value for name, value in parse_qsl(asked) if name in ASKED}
    return RedirectResponse(f"/jobs/{job_id}/tools/program?{urlencode(kept)}", 303)


@router.post("/stop", name="tools_program_stop")
def stop_reading(
    job_id: int,
    desk: DeskDep,
    file: Annotated[int, Query(ge=0, le=2**31)],
    setup: SeenQuery = None,
    dialect: Annotated[str, Query(max_length=20)] = "",
    zero: Annotated[str, Query(max_length=20)] = "",
    top: Literal["finished", "raw"] = "finished",
) -> Response:
    """Stop reading a program."""
    seen, cycle = cycle_seen(desk.jobs.load(job_id).plan, setup)
    chosen = _file(desk, job_id, file)
    table = _table(desk, cycle, dialect)
    program_stopped(desk, chosen.content, _given(desk, job_id, cycle, table, ProgramZero(zero, top)))
    asked = urlencode({"file": file, "dialect": table, "zero": zero, "top": top, "setup": str(seen)})
    return RedirectResponse(f"/jobs/{job_id}/tools/program?{asked}", 303)


@router.post("/times", name="tools_program_times")
def take_times(
    job_id: int,
    desk: DeskDep,
    who: WhoDep,
    sent: ReadAsDep,
) -> Response:
    """Put the times of a program into the tool steps of the cycle it cuts, in one change."""
    plan = desk.jobs.load(job_id).plan
    seen, cycle, found, _, given = _read_sent(desk, job_id, sent)
    times = times_read(plan, cycle, found.tally.tool_s, given.slides.change_s)
    if not times:
        raise NotNow(
            "No tool of the program is one of this cycle.", "Check T numbers, or choose another setup."
        )
    job = desk.jobs.change(job_id, sent.version, who, GiveBackTimes(times, "program"), "tools")
    return told(RedirectResponse(f"/jobs/{job_id}/tools?setup={seen}", 303), f"{capital(job.what)}.")


@router.post("/choose", name="tools_program_choose")
def choose_program(
    job_id: int,
    desk: DeskDep,
    who: WhoDep,
    sent: ReadAsDep,
) -> Response:
    """Choose the program of a cycle: what is said of it stands among what is open."""
    plan = desk.jobs.load(job_id).plan
    seen, cycle, found, chosen, _ = _read_sent(desk, job_id, sent)
    table = _table(desk, cycle, sent.dialect)
    faults = [
        KeptFault(one.line, one.kind, one.word[:120], float(one.figures.get("seconds", 0)))
        for one in _faults(desk, job_id, cycle, sent.zero, found)
    ]
    tools, offsets = planned_of(plan, cycle)
    choice = ProgramChoice(
        cycle.key,
        chosen.name,
        chosen.seal,
        table,
        sent.zero.across,
        sent.zero.top,
        round(found.trapezoid_s or found.simple_s, 1),
        found.is_whole,
        tuple(faults[:MOST_FAULTS]),
        max(len(faults) - MOST_FAULTS, 0) + found.tally.more.get("faults", 0),
        tools,
        offsets,
        plan.heading.drawing_revision,
        parts_of(found),
    )
    job = desk.jobs.change(job_id, sent.version, who, SetProgram(choice), "tools")
    asked = urlencode(
        {
            "file": sent.file,
            "dialect": table,
            "zero": sent.zero.across,
            "top": sent.zero.top,
            "setup": str(seen),
        }
    )
    where = f"/jobs/{job_id}/tools/program?{asked}"
    return told(RedirectResponse(where, 303), f"{capital(job.what)}.")


def _read_sent(desk: Desk, job_id: int, sent: ReadAs) -> tuple[Seen, Press, ProgramRead, Program, Given]:
    """The cycle a program is for, what was taken from it, its file, and what was told beside it."""
    seen, cycle = cycle_seen(desk.jobs.load(job_id).plan, sent.setup or None)
    chosen = _file(desk, job_id, sent.file)
    if cycle is None:
        raise NotNow("There is no cycle it could be for.", "Add a setup with its tools first.")
    given = _given(desk, job_id, cycle, _table(desk, cycle, sent.dialect), sent.zero)
    return seen, cycle, program_read_soon(desk, chosen.content, given), chosen, given


def _clock(desk: Desk, job_id: int, cycle: Press | None) -> Clocked | None:
    """What the clock of the newest batch says of a cycle; None before three full loads."""
    run_id = desk.runs.of_job(job_id)
    if run_id is None or cycle is None:
        return None
    with desk.runs.folded(run_id) as state:
        known = any(one.key == cycle.key for one in state.plan.all_cycles)
        return clocked(state, cycle.key) if known else None


def _wasted(found: ProgramRead, plan: Plan, cycle: Press) -> float:
    """Time of slow moves through the air over the batch, [s]."""
    air = sum(float(one.figures.get("seconds", 0)) for one in found.tally.faults if one.kind == "slow_air")
    pieces = sum(station.pieces for station in cycle.stations) or 1
    return air * -(-plan.heading.quantity // pieces)


def _path(found: ProgramRead, text: str, line: int, *, stations: bool) -> dict[str, Any]:
    """The way of a program drawn, with one of its lines picked and the moves before and after it."""
    moves = found.trace.moves
    lines = list(dict.fromkeys(move.line for move in moves))
    if not lines:
        return {}
    picked = max((one for one in lines if one <= line), default=lines[0]) if line else 0
    here = next((move for move in moves if move.line == picked), moves[0])
    at = lines.index(picked) if picked else -1
    under = [move for move in moves if move.offset == here.offset]
    blank = found.given.blanks.get(here.offset)
    texts = list(lines_of(text))
    codes = {move.offset for move in moves} & found.given.offsets.keys()
    over_all = stations and len(codes) > 1
    return {
        "path": draw_stations(moves, found.given.blanks, found.given.offsets, picked)
        if over_all
        else draw_path(under, blank, picked, turned=found.given.dialect.turns),
        "over_all": over_all,
        "many_stations": len(codes) > 1 and not found.given.dialect.turns,
        "picked": picked,
        "picked_text": texts[picked - 1].strip()[:120] if 0 < picked <= len(texts) else "",
        "picked_move": here if picked else None,
        "earlier": lines[at - 1] if at > 0 else 0,
        "later": lines[at + 1] if at + 1 < len(lines) else 0,
        "first_line": lines[0],
        "last_line": lines[-1],
        "path_offset": here.offset,
        "stays": stays_of(moves)[:MOST_SAID],
    }


def _file(desk: Desk, job_id: int, number: int) -> Program:
    """A program file of the job."""
    found = next((one for one in desk.programs.revisions(job_id) if one.id == number), None)
    if found is None:
        raise NotFound("program file", number, "Choose one of the list.")
    return found


def _table(desk: Desk, cycle: Press | None, dialect: str) -> str:
    """The table of meanings: as chosen, else the plain one of the machine's kind."""
    if dialect and dialect not in DIALECTS:
        raise BadEntry("There is no such table of meanings.", "Choose one of the list.", "dialect")
    machine = desk.shop.load().machines.get(cycle.machine_id or 0) if cycle is not None else None
    return dialect or usual_dialect(machine)


def _own_table(
    desk: Desk, cycle: Press | None, table: str, chosen: Program | None, found: ProgramRead | None
) -> dict[str, Any]:
    """Keys in which the machine's table differs, and the figures they move; None while the other reading is on its way."""
    own_keys = _own_keys(desk, cycle, table)
    moved = None
    if chosen is not None and found is not None and own_keys:
        with suppress(DittoError):
            plain = program_read_soon(desk, chosen.content, replace(found.given, dialect=DIALECTS[table]))
            moved = figures_moved(plain, found)
    return {"own_keys": own_keys, "moved": moved}


def _own_keys(desk: Desk, cycle: Press | None, table: str) -> list[tuple[str, str, str]]:
    """Keys in which the machine's table differs: what each says, its value there, and the ready-made one."""
    machine = desk.shop.load().machines.get(cycle.machine_id or 0) if cycle is not None else None
    if machine is None or table != usual_dialect(machine):
        return []
    base = DIALECTS[table]
    return [(KEYS[key][0], value, key_text(base, key)) for key, value in machine.dialect.keys]


def _given(desk: Desk, job_id: int, cycle: Press | None, table: str, zero: ProgramZero) -> Given:
    """What the plan tells beside the program; without a cycle its dialect alone."""
    if cycle is None:
        return Given(DIALECTS[table])
    offsets = desk.offsets.of(cycle.machine_id) if cycle.machine_id else {}
    return given_of(desk.worked_out(desk.jobs.load(job_id)), cycle, table, offsets, zero)


def _faults(
    desk: Desk, job_id: int, cycle: Press | None, zero: ProgramZero, found: ProgramRead
) -> list[ProgramFault]:
    """The faults of a program, and where it differs from the plan of its cycle."""
    if cycle is None:
        return found.tally.faults
    worked = desk.worked_out(desk.jobs.load(job_id))
    return [*found.tally.faults, *differences(worked, cycle, zero, found.tally)]


def _said(faults: Sequence[ProgramFault]) -> list[ProgramSays]:
    """What is said of a program, heaviest first, then by line."""
    said = [said_of(fault) for fault in faults]
    return sorted(said, key=lambda one: (ORDER.index(one.weight), one.line))
