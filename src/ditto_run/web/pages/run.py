"""Pages of the Run step. Everything a person does goes through one address, and comes back as the board."""

from itertools import islice
from typing import Annotated, Any

from fastapi import APIRouter, Form, Query
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from ditto_run.core.entry.plain import read_count
from ditto_run.core.errors import NotFound, NotNow
from ditto_run.core.run.at_machine import plan_words
from ditto_run.core.run.batches import MOST_BATCHES
from ditto_run.core.run.board import board, jaws
from ditto_run.core.run.events import CAUSES, Command, Now, Reading, SetupOpened, TakeReading, decide
from ditto_run.core.run.heats import known_heats
from ditto_run.core.run.loads import next_cycle
from ditto_run.core.run.state import in_drawing_unit
from ditto_run.core.run.strip import build, weave_chunks
from ditto_run.core.run.strip import weave as whole
from ditto_run.core.run.words import decimals_for
from ditto_run.core.steps import BY_NAME
from ditto_run.desk import Desk
from ditto_run.desk.again import next_batch
from ditto_run.desk.gate import start_run, what_is_open
from ditto_run.formats.line_documents import COMMAND
from ditto_run.web.cycle import cycle_meant, has_cycles, looked_at
from ditto_run.web.dependencies import DeskDep, RenderDep, SentDep, WhoDep, head_of
from ditto_run.web.drawn import Drawn
from ditto_run.web.paging import page_of
from ditto_run.web.redraw import layout_of, of_machine, seen, show_changed, take_back

router = APIRouter(prefix="/jobs/{job_id}/run")
SENSES = (
    "sound changed",
    "chatter",
    "long chips",
    "blue chips",
    "feels loose",
    "dinged",
    "caught in the tray",
)
FORMS = {
    "size",
    "taken",
    "plan",
    "mark",
    "offset",
    "setting",
    "note",
    "break",
    "stations",
    "late",
    "setup",
    "revision",
    "hold",
    "stop",
}
FromDep = Annotated[int, Query(ge=0, le=2**31)]
MAY_BE_EMPTY = {"piece", "unit", "load"}


def read_command(form: dict[str, str]) -> Command:
    """Return what a form asks for."""
    values: dict[str, object] = {
        name: text for name, text in form.items() if text or name not in MAY_BE_EMPTY
    }
    if form.get("loads"):
        values["loads"] = read_count(form["loads"], "loads")
    if form.get("kind") == "set_composition":
        rooms = {name[8:]: text or "0" for name, text in form.items() if name.startswith("station_")}
        values = {"kind": "set_composition", "stations": rooms}
    return COMMAND.validate_python(values)


@router.get("/advice", name="run_advice")
def show_advice(job_id: int, desk: DeskDep, render: RenderDep) -> HTMLResponse:
    """Show what the judgement says, once a long log was read."""
    shop = desk.shop.load()
    run_id = desk.runs.require(job_id)
    with desk.runs.folded(run_id) as lent:
        state = looked_at(lent, render.request)
        advice = desk.advisers.of(run_id, state, shop, desk.version[0]) if state.running is None else None
        return render(
            "run/_advice.html",
            advice=advice,
            plan=state.plan,
            state=state,
            causes=CAUSES,
            run_url=f"/jobs/{job_id}/run",
        )


def _show(
    desk: Desk,
    render: RenderDep,
    job_id: int,
    template: str,
    chosen: tuple[int, int, int | None],
    run_id: int,
    **context: Any,  # noqa: ANN401 - whatever the template needs
) -> HTMLResponse:
    job = desk.jobs.load(job_id)
    edged = template != "run/_board.html" or "fresh" in context  # a board alone brings no step line
    found, changed = what_is_open(desk, job) if edged else None, desk.shop_changed(job_id)
    held = desk.held_now(job_id) if context.get("form") == "plan" else ()
    with desk.runs.folded(run_id) as lent:
        now, state = desk.now, looked_at(lent, render.request)
        shop = desk.shop.load()
        machine = shop.machines.get(state.plan.cycle(state.cycle).machine_id or 0)
        shown = board(state, now, *chosen, day=shop.day)
        return render(
            template,
            head=head_of(desk, job, found, state) if found is not None else None,
            job=job,
            plan=state.plan,
            state=state,
            board=shown,
            now=now,
            step=BY_NAME["run"],
            ahead=not state.plan.same_work(job.plan),
            shop_changed=changed,
            layout=layout_of(render),
            seen=seen(state),
            **of_machine(desk, state, run_id, shown.call.next),
            plan_says=plan_words(state, held, machine),
            next_cycle=next_cycle(state),
            stations_here=state.plan.cycle(state.cycle).stations,
            chain_here=state.plan.owner_of(state.here.setups[-1]).setups,
            tools_here=[step for setup in state.here.setups for step in state.plan.tools_of(setup)],
            heats=known_heats(state) if context.get("form") == "break" else (),
            senses=SENSES,
            **take_back(state, render.who),
            **context,
        )


@router.get("", name="run_page")
def show_page(
    job_id: int,
    desk: DeskDep,
    render: RenderDep,
    piece: int = 0,
    dimension: int = 0,
    first: int | None = None,
) -> Response:
    """Show the Run step; before there is a run, what is still open and the key that starts it."""
    run_id = desk.runs.of_job(job_id)
    if run_id is None:
        job = desk.jobs.load(job_id)
        head = head_of(desk, job, what_is_open(desk, job))
        return render("run/start.html", head=head, job=job, plan=job.plan, step=BY_NAME["run"], batch=1)
    chosen = piece, dimension, first
    asked = render.request
    if "cycle" not in asked.query_params and not (render.is_part and cycle_meant(asked)):
        with desk.runs.folded(run_id) as lent:
            if has_cycles(lent):  # the page then says which one its keys act on
                home = str(asked.url.include_query_params(cycle=looked_at(lent, asked).cycle))
                return (
                    Response(headers={"HX-Redirect": home}) if render.is_part else RedirectResponse(home, 302)
                )
    if not (render.is_part and "board" in render.request.headers.get("hx-target", "")):
        return _show(desk, render, job_id, "run/page.html", chosen, run_id)
    with desk.runs.folded(run_id) as lent:
        state = looked_at(lent, render.request)
        said = tuple(take_back(state, render.who).values())
        shown = (
            run_id,
            state.seq,
            state.cycle,
            chosen,
            layout_of(render),
            said,
            desk.version,
            int(desk.now.timestamp()),
        )
    drawn: Drawn = render.request.app.state.drawn
    found = drawn.of(
        shown, lambda: bytes(_show(desk, render, job_id, "run/_board.html", chosen, run_id).body)
    )
    return found.answer(render.request)


@router.get("/again", name="run_again")
def show_again(job_id: int, desk: DeskDep, render: RenderDep) -> Response:
    """Show what is open before the next batch of a job, and the key that starts it; the run itself while one is open."""
    with desk.runs.folded(desk.runs.require(job_id)) as state:
        if state.closed_at is None:
            return RedirectResponse(f"/jobs/{job_id}/run", 303)
        batch = state.batch + 1
    job = desk.jobs.load(job_id)
    head = head_of(desk, job, what_is_open(desk, job))
    starts, differs = next_batch(desk, job_id)
    return render(
        "run/start.html",
        head=head,
        job=job,
        plan=job.plan,
        step=BY_NAME["run"],
        batch=batch,
        starts=starts,
        differs=differs,
    )


@router.post("/start", name="run_start")
def start(
    job_id: int,
    desk: DeskDep,
    who: WhoDep,
    note: Annotated[str, Form(max_length=300)] = "",
    client_key: Annotated[str, Form(max_length=80)] = "",
    batch: Annotated[int, Form(ge=1, le=MOST_BATCHES)] = 1,
) -> Response:
    """Freeze the plan and start the run of a batch, if nothing keeps it."""
    start_run(desk, job_id, who, note, client_key, batch)
    return RedirectResponse(f"/jobs/{job_id}/run", 303)


@router.post("/do", name="run_do")
def do(form: SentDep, job_id: int, desk: DeskDep, render: RenderDep, who: WhoDep) -> Response:
    """Record what the person did, and show the board, or of it only what changed."""
    key, known = form.pop("client_key", "") or request_key(render), form.pop("seen", "")
    whole = form.pop("whole", "") or not render.is_part  # a form on a page of its own goes back to the run
    command = read_command(form)
    run_id = desk.runs.require(job_id)
    meant = cycle_meant(render.request)
    with desk.runs.folded(run_id) as lent:
        if has_cycles(lent) and len(lent.cycles) > 1 and not meant:
            raise NotNow("This page does not say at which cycle it is.", "Load it again, then do it.")
        state = looked_at(lent, render.request)
        command = desk.advisers.with_what_was_left(run_id, state, command, desk.version[0])
    event = desk.runs.record(run_id, command, who, key, meant)
    opened = event.body.setup if event is not None and isinstance(event.body, SetupOpened) else 0
    if whole or opened:
        with desk.runs.folded(run_id) as lent:
            key_of = opened or looked_at(lent, render.request).cycle
            home = f"/jobs/{job_id}/run" + (f"?cycle={key_of}" if has_cycles(lent) else "")
        if whole:
            return RedirectResponse(home, 303)
        if "?" in home:  # this device goes on in the cycle it opened
            return Response(headers={"HX-Redirect": home})
    changed = event is not None and show_changed(desk, render, job_id, run_id, event.body, known)
    return changed or _show(desk, render, job_id, "run/_board.html", (0, 0, None), run_id, fresh=True)


def request_key(render: RenderDep) -> str:
    """Return a key for a form that brought none: then each sending counts."""
    return f"r{render.request.scope.get('request_id', '')}-{render.request.app.state.desk.now.timestamp()}"


@router.get("/typed", name="run_typed")
def typed(
    job_id: int,
    desk: DeskDep,
    render: RenderDep,
    piece: int,
    characteristic: int,
    text: Annotated[str, Query(max_length=40)] = "",
    unit: str = "",
) -> HTMLResponse:
    """Show what a reading would mean while it is only typed. Nothing is recorded."""
    with desk.runs.folded(desk.runs.require(job_id)) as lent:
        state = looked_at(lent, render.request)
        command = TakeReading(
            piece,
            characteristic,
            text,
            "in" if unit == "in" else "mm" if unit == "mm" else None,
            confirm=text.strip(),
        )
        body = decide(command, state, Now(desk.now, ""))
        if not isinstance(body, Reading) or body.value is None:
            raise NotFound("reading", text)
        plan = state.plan_of(state.pieces[piece], body.setup)
        wanted = plan.characteristic(characteristic)
        value = in_drawing_unit(body.value, body.unit, wanted)
        picture = jaws(state, state.pieces[piece], wanted, value, decimals_for(wanted.size, body.decimals))
        return render(
            "run/_typed.html",
            jaws=picture,
            typed=True,
            layout=layout_of(render),
            shop_gauges=desk.shop.load().gauges,
            plan=state.plan,
            warmth=state.here.warmth,
        )


@router.get("/form/{name}", name="run_form")
def form(
    job_id: int, name: str, desk: DeskDep, render: RenderDep, piece: int = 0, dimension: int = 0
) -> HTMLResponse:
    """Show one of the small forms beside the reading."""
    if name not in FORMS:
        raise NotFound("form", name)
    return _show(
        desk,
        render,
        job_id,
        "run/_form.html",
        (piece, dimension, None),
        desk.runs.require(job_id),
        form=name,
        chosen_piece=piece,
    )


@router.get("/log", name="run_log")
def log(
    job_id: int, desk: DeskDep, render: RenderDep, correct: FromDep = 0, line: FromDep = 0
) -> HTMLResponse:
    """Show lines of the log, newest first: from `line` down, from the newest without it."""
    run_id = desk.runs.require(job_id)
    with desk.runs.folded(run_id) as state:
        newest = state.seq
    page = page_of(line or correct or newest, newest)
    events = desk.runs.events(run_id, page.first - 1, page.last - page.first + 1)
    return _show(
        desk,
        render,
        job_id,
        "run/log.html",
        (0, 0, None),
        run_id,
        events=list(reversed(events)),
        correct=correct,
        page=page,
    )


@router.get("/weave", name="run_weave")
def weave(job_id: int, desk: DeskDep, render: RenderDep) -> HTMLResponse:
    """Show the whole of a long run as hairlines. Asked for beside the board, never on the way of a reading."""
    with desk.runs.folded(desk.runs.require(job_id)) as lent:
        state = looked_at(lent, render.request)
        last = build(state).last
        chunks = [(chunk, whole(state, chunk)) for chunk in weave_chunks(last)]
        return render("run/_weave.html", chunks=chunks, strip_last=last)


@router.get("/table", name="run_table")
def table(job_id: int, desk: DeskDep, render: RenderDep, line: FromDep = 0) -> HTMLResponse:
    """Show the strip as a table, for those who read it: the pieces up to the one in row `line`, the newest without it."""
    run_id = desk.runs.require(job_id)
    with desk.runs.folded(run_id) as state:
        page = page_of(line or len(state.pieces), len(state.pieces))
        shown = list(islice(state.pieces.values(), page.first - 1, page.last))
    return _show(desk, render, job_id, "run/table.html", (0, 0, None), run_id, page=page, shown=shown)
