"""Pages of the Close step: the report and its downloads."""

from typing import Annotated

from fastapi import APIRouter, Form, Query
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from ditto_run.core.close import Report, actual_piece_s, report
from ditto_run.core.close.after_trip import sizes_after
from ditto_run.core.close.compare import beside, got_better
from ditto_run.core.close.costing import batch_cost, payback_words
from ditto_run.core.close.counts import count_lines, counted_by_hand, left_to_do, likely_places
from ditto_run.core.close.deburr import by_hand_s, sharp_edges
from ditto_run.core.close.fit import Fitted, fit_pairs
from ditto_run.core.errors import BadEntry, NotFound
from ditto_run.core.part import complete_sets, sets_wanted
from ditto_run.core.plan import Plan
from ditto_run.core.run.batches import MOST_BATCHES, revisions_in
from ditto_run.core.run.by_hand import HAND_STEPS
from ditto_run.core.run.events import (
    HOW_FITS,
    PLACES,
    CloseRun,
    ComeBack,
    CountTray,
    GaugeAfter,
    ProveFunction,
    PutLesson,
    ReopenRun,
    SayFact,
    SendOut,
    TryFit,
    WorkByHand,
)
from ditto_run.core.run.events.lesson import PlaceName
from ditto_run.core.run.loads import finished, good_here
from ditto_run.core.run.scored import advice_score
from ditto_run.core.run.state import RunState
from ditto_run.core.run.strip import build
from ditto_run.core.sheets.reader import read_as
from ditto_run.core.shop.shop_lists import OnShelf
from ditto_run.core.steps import BY_NAME
from ditto_run.core.units import counted
from ditto_run.desk import Desk
from ditto_run.desk.again import next_batch
from ditto_run.desk.fitting import measured_sizes
from ditto_run.desk.gate import what_is_open
from ditto_run.desk.kits import kit_of, made_by_jobs
from ditto_run.desk.lessons import lessons_left, put_lesson
from ditto_run.desk.teaching import holders_used, lessons_of, price_paid, teach
from ditto_run.desk.values import Registers
from ditto_run.formats.job_bundle import write_bundle
from ditto_run.formats.line_documents import COMMAND
from ditto_run.formats.readings import log_lines, readings_csv, readings_xlsx, table
from ditto_run.web.dependencies import DeskDep, FormDep, RenderDep, WhoDep, head_of
from ditto_run.web.files import download
from ditto_run.web.pages.run import request_key
from ditto_run.web.paging import page_of
from ditto_run.web.told import told

SAID_FIELDS = {"kind", "pieces", "name", "text", "reason", "step", "waits", "note"}
TRIED_FIELDS = {"with_what", "how", "what", "least", "most", "unit", "reading", "works"}
MOST_BESIDE = 12  # batches
TRIP_FIELDS = {"kind", "what", "to", "pieces", "promised", "price", "mask", "trip", "rejects", "note"}
AFTER_FIELDS = {"piece", "size", "value"}
router = APIRouter(prefix="/jobs/{job_id}/close")
BatchDep = Annotated[int, Query(ge=0, le=MOST_BATCHES)]
XLSX = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"


@router.get("", name="close_page")
def show_page(
    job_id: int,
    desk: DeskDep,
    render: RenderDep,
    batch: BatchDep = 0,
    upto: Annotated[int, Query(ge=0, le=2**31)] = 0,
    paper: Annotated[bool, Query()] = False,
) -> HTMLResponse:
    """Show the Close step: counts, figures, every piece, of the newest batch or of one before."""
    job = desk.jobs.load(job_id)
    shop = desk.shop.load()
    now_open = what_is_open(desk, job)
    if desk.runs.of_job(job_id) is None:
        return render("close/empty.html", head=head_of(desk, job, now_open), job=job, step=BY_NAME["close"])
    shop_changed = desk.shop_changed(job_id)
    run_id = desk.runs.of_batch(job_id, batch)
    kit = kit_of(job.plan, job_id, made_by_jobs(desk), desk.jobs.find()) if job.plan.kit else []
    starts, differs = next_batch(desk, job_id)
    left_lessons = lessons_left(desk, run_id)
    with desk.runs.folded(run_id) as lent:
        is_closed = lent.closed_at is not None
    lessons = lessons_of(desk, job_id, batch) if is_closed else ()
    paid, holders = price_paid(desk, job_id), holders_used(desk, job_id)
    batches = desk.runs.batches(job_id)
    with desk.runs.folded(run_id) as state:
        numbers = sorted(state.pieces)
        rows = page_of(upto, len(numbers))
        shown = numbers if paper else numbers[rows.first - 1 : rows.last]
        found = report(state, shown)
        to_do = left_to_do(state, [line.words for line in kit if line.words], desk.now)
        return render(
            "close/page.html",
            head=head_of(desk, job, now_open, state),
            job=job,
            plan=state.plan,
            state=state,
            shop=shop,
            step=BY_NAME["close"],
            report=found,
            rows=rows,
            paper=paper,
            scores=_scores(state, shop),
            edges=sharp_edges(state.plan),
            by_hand_s=by_hand_s(sharp_edges(state.plan)),
            stops=[one for run in state.cycles.values() for one in run.stopped],
            strip=build(state),
            batches=batches,
            revisions=[r for r in desk.runs.revisions(job_id) if r.number in revisions_in(state)],
            shop_changed=shop_changed,
            now=desk.now,
            choice=job.plan.choice,
            actual_piece_s=actual_piece_s(found),
            lessons=lessons,
            paid=paid,
            holders=holders,
            cost=batch_cost(state, desk.now, shop.day),
            payback=payback_words(state.plan, _good_so_far(desk, job_id)),
            tray_words=counted_by_hand(state),
            places=likely_places(state),
            good_here=good_here(state),
            count_lines=count_lines(state),
            kit=kit,
            sets=complete_sets(kit),
            wanted_sets=sets_wanted(job.plan.kit, job.plan.heading.quantity),
            after={trip.number: sizes_after(state, trip) for trip in state.trips},
            fit_words=HOW_FITS,
            fit_choices=[*HOW_FITS.items()],
            last_function=state.functions[-1] if state.functions else None,
            mates=next((c.mate for c in state.plan.all_characteristics if c.mate), ""),
            on_shelf=_on_shelf(desk, state.plan),
            to_do=to_do,
            hand_steps=HAND_STEPS,
            hand_choices=[(name, of.words) for name, of in HAND_STEPS.items()],
            by_hand=state.by_hand,
            left=len(to_do),
            suggested=left_lessons,
            put=[one for one in state.lessons.values() if one.place != "left"],
            lesson_places=PLACES,
            lesson_choices=[(name, words) for name, words in PLACES.items() if name != "left"],
            starts=starts,
            differs=differs,
        )


def _on_shelf(desk: Desk, plan: Plan) -> OnShelf | None:
    """What lies of the part on the shelf; None where no row of the register is called so."""
    name = plan.heading.part.lower()
    return next((row.value for row in desk.drawers.rows("finished") if row.value.part.lower() == name), None)


def _good_so_far(desk: Desk, job_id: int) -> int:
    """Good pieces of all batches of a job."""
    total = 0
    for run_id in desk.runs.batches(job_id).values():
        with desk.runs.folded(run_id) as state:
            total += finished(state)
    return total


def _scores(state: RunState, shop: Registers) -> list[str]:
    """What became of the advice in each cycle, in words."""
    found = []
    for key in state.cycles:
        machine = shop.machines.get(state.plan.cycle(key).machine_id or 0)
        words = advice_score(state.at(key), machine, shop.gauges).words
        if words:
            found.append(f"{state.plan.cycle(key).name}: {words}" if len(state.cycles) > 1 else words)
    return found


@router.post("", name="close_run")
def close_run(
    job_id: int, desk: DeskDep, render: RenderDep, who: WhoDep, short: Annotated[bool, Form()] = False
) -> Response:
    """Close the batch."""
    desk.runs.record(desk.runs.require(job_id), CloseRun(short), who, request_key(render))
    return RedirectResponse(f"/jobs/{job_id}/close", 303)


def of_batch(batch: int) -> str:
    """Return what of an address says a batch; nothing for the newest."""
    return f"?batch={batch}" if batch else ""


@router.post("/trip", name="close_trip")
def move_out(
    sent: FormDep, job_id: int, desk: DeskDep, render: RenderDep, who: WhoDep, batch: BatchDep = 0
) -> Response:
    """Write down that pieces went out for work done elsewhere, or came back."""
    texts = {name: str(value) for name, value in sent.items() if isinstance(value, str)}
    key = texts.pop("client_key", "") or request_key(render)
    command = COMMAND.validate_python(
        {name: text for name, text in texts.items() if name in TRIP_FIELDS | AFTER_FIELDS}
    )
    if not isinstance(command, SendOut | ComeBack | GaugeAfter):
        raise NotFound("trip", command.kind, "Send pieces out, or count them in.")
    desk.runs.record(desk.runs.of_batch(job_id, batch), command, who, key)
    if isinstance(command, GaugeAfter):
        return RedirectResponse(f"/jobs/{job_id}/close/trip/{command.trip}{of_batch(batch)}#after", 303)
    return RedirectResponse(f"/jobs/{job_id}/close{of_batch(batch)}#trips", 303)


@router.post("/say", name="close_say")
def say(
    sent: FormDep, job_id: int, desk: DeskDep, render: RenderDep, who: WhoDep, batch: BatchDep = 0
) -> Response:
    """Write the count by hand, what nobody clocks, or that the batch is open again."""
    texts = {name: str(value) for name, value in sent.items() if isinstance(value, str)}
    key = texts.pop("client_key", "") or request_key(render)
    command = COMMAND.validate_python(
        {name: text for name, text in texts.items() if name in SAID_FIELDS | TRIED_FIELDS}
    )
    if not isinstance(command, CountTray | SayFact | ReopenRun | WorkByHand | TryFit | ProveFunction):
        raise NotFound("line", command.kind, "Count, say a fact, or open the batch again.")
    desk.runs.record(desk.runs.of_batch(job_id, batch), command, who, key)
    place = "#tried" if isinstance(command, TryFit | ProveFunction) else ""
    return RedirectResponse(f"/jobs/{job_id}/close{of_batch(batch)}{place}", 303)


@router.post("/lesson", name="close_lesson")
def lesson(
    job_id: int,
    desk: DeskDep,
    render: RenderDep,
    who: WhoDep,
    place: Annotated[PlaceName, Form()],
    words: Annotated[str, Form(max_length=200)] = "",
    key: Annotated[str, Form(max_length=80)] = "",
    of: Annotated[str, Form(max_length=80)] = "",
    client_key: Annotated[str, Form(max_length=80)] = "",
    batch: BatchDep = 0,
) -> Response:
    """Put a lesson where it will be seen next time."""
    command = PutLesson(key, words, place, of)
    put_lesson(desk, desk.runs.of_batch(job_id, batch), command, who, client_key or request_key(render))
    back = RedirectResponse(f"/jobs/{job_id}/close{of_batch(batch)}#learnt-h", 303)
    return told(back, "No lesson, then." if place == "left" else f"It is in its place: {PLACES[place]}.")


@router.get("/batches", name="close_batches")
def batches_page(job_id: int, desk: DeskDep, render: RenderDep) -> HTMLResponse:
    """Show the batches of a job beside each other: strips, sizes, minutes; whether it got better."""
    job = desk.jobs.load(job_id)
    now_open = what_is_open(desk, job)
    desk.runs.require(job_id)
    found, strips = [], []
    for run_id in [*desk.runs.batches(job_id).values()][-MOST_BESIDE:]:
        with desk.runs.folded(run_id) as state:
            found.append(beside(state))
            strips.append(build(state))
    sizes = job.plan.all_characteristics
    names = {c.number: c.name for c in sizes}
    return render(
        "close/batches.html",
        head=head_of(desk, job, now_open),
        job=job,
        plan=job.plan,
        step=BY_NAME["close"],
        batches=found,
        strips=strips,
        sizes=sizes,
        changes=got_better(found, names, {cycle.key: cycle.name for cycle in job.plan.all_cycles}),
        now=desk.now,
    )


@router.get("/fit", name="close_fit")
def fit_page(
    job_id: int,
    desk: DeskDep,
    render: RenderDep,
    pin: Annotated[str, Query(max_length=40)] = "",
    bore: Annotated[str, Query(max_length=40)] = "",
    low: Annotated[str, Query(max_length=40)] = "",
    high: Annotated[str, Query(max_length=40)] = "",
) -> HTMLResponse:
    """Show which pin goes to which bore, by the sizes that were measured in the jobs of the shop."""
    job = desk.jobs.load(job_id)
    unit = job.plan.heading.unit
    sizes = measured_sizes(desk, job_id)
    fitted: Fitted | None = None
    wrong: BadEntry | None = None
    if pin in sizes and bore in sizes:
        try:
            fitted = desk.worker.run(
                fit_pairs,
                sizes[pin].pieces,
                sizes[bore].pieces,
                read_as("length", low or "0", unit, "low"),
                read_as("length", high, unit, "high"),
            )
        except BadEntry as refused:
            wrong = refused
    return render(
        "close/fit.html",
        head=head_of(desk, job, what_is_open(desk, job)),
        job=job,
        plan=job.plan,
        step=BY_NAME["close"],
        sizes=sizes,
        chosen={"pin": pin, "bore": bore, "low": low, "high": high},
        fitted=fitted,
        wrong=wrong,
        unit=unit,
        now=desk.now,
    )


@router.post("/teach", name="close_teach")
def teach_shop(
    sent: FormDep,
    job_id: int,
    desk: DeskDep,
    batch: BatchDep = 0,
    setting_up: Annotated[str, Form(max_length=40)] = "",
) -> Response:
    """Put what was ticked of a closed batch into the shop's own figures."""
    ticked = {str(value) for value in sent.getlist("ticked")}
    named, texts = ([str(value) for value in sent.getlist(name)] for name in ("holder", "next_time"))
    kept = teach(desk, job_id, batch, ticked, setting_up, dict(zip(named, texts, strict=False)))
    words = f"{counted(kept, 'figure')} for the next plan." if kept else "The shop has them already."
    return told(RedirectResponse(f"/jobs/{job_id}/close{of_batch(batch)}", 303), words)


def reported(desk: Desk, job_id: int, batch: int) -> tuple[Report, Plan]:
    """Return the report of a batch and the plan it is read by."""
    with desk.runs.folded(desk.runs.of_batch(job_id, batch)) as state:
        return report(state), state.plan


def named(job_id: int, batch: int) -> str:
    """Return how a file of a batch is called."""
    return f"job-{job_id}-batch-{batch}" if batch else f"job-{job_id}"


@router.get("/readings.csv", name="close_csv")
def as_csv(job_id: int, desk: DeskDep, batch: BatchDep = 0) -> Response:
    """Download the readings as CSV."""
    return download(
        readings_csv(*reported(desk, job_id, batch)),
        f"{named(job_id, batch)}-readings.csv",
        "text/csv; charset=utf-8",
    )


@router.get("/readings.xlsx", name="close_xlsx")
def as_xlsx(job_id: int, desk: DeskDep, batch: BatchDep = 0) -> Response:
    """Download the readings as a workbook."""
    header, rows = table(*reported(desk, job_id, batch))
    book = desk.worker.run(readings_xlsx, header, [*rows])
    return download(book, f"{named(job_id, batch)}-readings.xlsx", XLSX)


@router.get("/log.jsonl", name="close_log")
def as_log(job_id: int, desk: DeskDep, batch: BatchDep = 0) -> Response:
    """Download the log as JSON Lines."""
    lines = log_lines(desk.runs.events(desk.runs.of_batch(job_id, batch)))
    return download(lines, f"{named(job_id, batch)}-log.jsonl", "application/jsonl")


@router.get("/job.json", name="close_bundle")
def as_bundle(job_id: int, desk: DeskDep) -> Response:
    """Download the whole job as one bundle."""
    return download(
        write_bundle(desk.bundles.take_out(job_id)), f"job-{job_id}.ditto.json", "application/json"
    )
