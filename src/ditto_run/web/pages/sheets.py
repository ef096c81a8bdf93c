"""Sheets of any step: shown, worked out while they are typed, kept with the job."""

from collections.abc import Mapping
from typing import Any

from fastapi import APIRouter
from fastapi.responses import HTMLResponse

from ditto_run.core.errors import BeingWorkedOut, DittoError, NotFound, NotNow
from ditto_run.core.plan import Plan
from ditto_run.core.plan.worked import texts_of
from ditto_run.core.sheet_kinds import SHEETS, sheet_of
from ditto_run.core.sheets import Answer, Known, SheetKind
from ditto_run.desk import Desk
from ditto_run.desk.worker import STOPPED
from ditto_run.web.dependencies import DeskDep, RenderDep, SentDep, WhoDep
from ditto_run.web.pages.planning import step_page
from ditto_run.web.probing import PROBED
from ditto_run.web.seen import Seen

router = APIRouter(prefix="/jobs/{job_id}")
MOST_CODES = 60


def show_index(
    step: str, job_id: int, desk: Desk, render: RenderDep, asked: Mapping[str, str], setup: int = 0
) -> HTMLResponse:
    """Show every sheet of a step, for who looks for a certain computation; those that answer questions open filled."""
    return step_page(
        step,
        job_id,
        desk,
        render,
        template="sheets/index.html",
        view="sheets",
        seen=Seen(setup),
        sheets=[sheet for sheet in SHEETS if sheet.step == step],
        asked=asked,
        here=f"setup={setup}" if setup else "",
        kept=[sheet for sheet in desk.jobs.load(job_id).plan.sheets if sheet_of(sheet.kind).step == step],
    )


def show_sheet(
    step: str,
    kind: str,
    job_id: int,
    desk: Desk,
    render: RenderDep,
    key: int = 0,
    *,
    typed: dict[str, str] | None = None,
    target: str = "",
) -> HTMLResponse:
    """Show a sheet with its entry form, and those of its kind that are kept.

    Args:
        step: the sheet must belong to it.
        kind: which sheet.
        job_id: which job.
        desk: the shop.
        render: draws for the request at hand.
        key: opens one that is kept.
        typed: entries to start from, as a device has found them.
        target: the station they were found at.
    """
    sheet = sheet_of(kind)
    if sheet.step != step:
        raise NotFound("sheet", kind, f"It belongs to {sheet.step}.")
    job = desk.jobs.load(job_id)
    plan, worked = job.plan, desk.worked_out(job)
    known = worked.known
    kept = [one for one in plan.sheets if one.kind == kind]
    opened = plan.sheet(key) if key else kept[0] if sheet.single and kept else None
    if opened is not None and opened.kind != kind:
        raise NotFound(f"{sheet.word.lower()} sheet", key, "Choose one of the sheets kept with the job.")
    begun = sheet.begins(known) if sheet.begins and opened is None and typed is None else {}
    said = texts_of(plan, opened) if opened else {}
    texts = typed if typed is not None else said if opened else begun or None
    if opened is not None and typed is None:  # kept: worked out already
        answer, refusal = worked.answers.get(opened.key), worked.refusals.get(opened.key)
    else:
        answer, refusal = try_sheet(sheet, texts, known) if texts is not None else (None, None)
    shown: dict[str, Any] = {
        "sheet": sheet,
        "kept": kept,
        "opened": opened,
        "said": said,
        "answer": answer,
        "refusal": refusal,
        "known": known,
        "answers": {one.key: worked.answers.get(one.key) for one in kept},
        "refusals": worked.refusals,
        "typed": typed or begun,
        "target": target,
        "targets": zero_targets(desk, plan) if step == "place" else [],
        "probes": probe_stations(desk, plan) if kind in PROBED else [],
    }
    return step_page(step, job_id, desk, render, template="sheets/page.html", view=kind, **shown)


def try_sheet(
    sheet: SheetKind, texts: dict[str, str], known: Known
) -> tuple[Answer | None, DittoError | None]:
    """Return the answer of a sheet, or why it has none."""
    try:
        return sheet.answer(texts, known), None
    except DittoError as refusal:
        return None, refusal


@router.post("/sheets/{kind}/answer", name="sheet_answer")
def work_out(
    texts: SentDep, job_id: int, kind: str, desk: DeskDep, render: RenderDep, who: WhoDep
) -> HTMLResponse:
    """Work a sheet out while it is typed; nothing is kept. What takes long is answered with how far it is."""
    job = desk.jobs.load(job_id)
    going = bool(texts.pop("going", ""))
    try:
        answer = desk.worked.typed(
            kind, texts, desk.worked_out(job).known, f"{job_id} {kind} {who}", again=not going
        )
    except BeingWorkedOut as progress:
        shown = render("sheets/_working.html", job=job, kind=kind, progress=progress)
        shown.headers.update({"HX-Retarget": "#working", "HX-Reswap": "outerHTML"})
        return shown
    except NotNow as refusal:
        return render("sheets/_refused.html", refusal=refusal, job=job, kind=kind, again=True, alone=True)
    except DittoError as refusal:
        if going:  # nothing was typed that a sentence could stand at
            return render(
                "sheets/_refused.html", refusal=refusal, job=job, kind=kind, again=False, alone=True
            )
        raise
    targets = zero_targets(desk, job.plan) if answer.zeros else []
    return render("sheets/_answer.html", answer=answer, job=job, targets=targets, target="", alone=True)


@router.post("/sheets/{kind}/stop", name="sheet_stop")
def stop(texts: SentDep, job_id: int, kind: str, desk: DeskDep, render: RenderDep) -> HTMLResponse:
    """Stop working on a sheet that takes long; it is worked out again when something is typed."""
    job = desk.jobs.load(job_id)
    desk.worked.stop(kind, texts, desk.worked_out(job).known)
    return render(
        "sheets/_refused.html", refusal=NotNow(*STOPPED), job=job, kind=kind, again=True, alone=True
    )


def zero_targets(desk: Desk, plan: Plan) -> list[tuple[str, str]]:
    """Return where a found zero can be written: the offsets of the job's stations, then the others of its machines."""
    found: dict[str, str] = {}
    machines = desk.shop.load().machines
    for setup, cycle in plan.cuts:
        machine = machines.get(cycle.machine_id or 0)
        if machine is None:
            continue
        for station in cycle.stations_of(setup.key):
            if station.offset is None:
                continue
            if any(station.shift):
                found.setdefault(
                    f"m{machine.id}|{station.offset}", f"{station.offset}, origin of {station.holds}"
                )
            less = ", less its shift" if any(station.shift) else ""
            found[f"{setup.key}|{station.label}"] = f"{station.offset}, station {station.label}{less}"
        for code in machine.offset_codes[:MOST_CODES]:
            found.setdefault(f"m{machine.id}|{code}", f"{code} of {machine.name}")
    return [*found.items()]


def probe_stations(desk: Desk, plan: Plan) -> list[tuple[str, str]]:
    """Return the stations the simulated probe can touch: those laid out on a measured table."""
    machines = desk.shop.load().machines
    found = []
    for setup, cycle in plan.cuts:
        machine = machines.get(cycle.machine_id or 0)
        if machine is not None and machine.bed is not None:
            found += [
                (f"{setup.key}|{s.label}", f"{s.label}, {s.holds}")
                for s in cycle.stations_of(setup.key)
                if s.placed
            ]
    return found
