"""The register of work offsets: set, keep, look back, compare, restore. On Shop for a machine, on Place for a setup."""

from datetime import date, datetime, time
from typing import Annotated, Any

from fastapi import APIRouter, Form
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from ditto_run.core.errors import BadEntry
from ditto_run.core.place.offsets import AXES, Offset, OffsetChange, change_words, drift, drifted, read_axis
from ditto_run.core.sheets import Entries
from ditto_run.core.shop import Machine
from ditto_run.core.units import convert
from ditto_run.desk import Desk
from ditto_run.desk.layouts import laid_out, put_back
from ditto_run.web.dependencies import DeskDep, RenderDep, SentDep, WhoDep
from ditto_run.web.pages.planning import step_page
from ditto_run.web.seen import SeenQuery, setup_chosen
from ditto_run.web.told import told

router = APIRouter()


def register_shown(desk: Desk, machine: Machine | None, code: str, day: str) -> dict[str, Any]:
    """Return what the register's page shows of a machine: its offsets, the chosen one with its history, an earlier day."""
    if machine is None:
        return {"machine": None}
    now = desk.shop.load().register.of(machine.id)
    chosen = code if code in machine.offset_codes else ""
    history = desk.offsets.history(machine.id, chosen) if chosen else []
    then, compared = _then(day), []
    if then is not None:
        before = desk.offsets.until(machine.id, then)
        compared = [
            (c, change_words(before.get(c), now[c])) for c in now if change_words(before.get(c), now[c])
        ]
    return {
        "machine": machine,
        "offsets": {c: now[c] for c in machine.offset_codes if c in now},
        "code": chosen,
        "chosen": now.get(chosen),
        "history": [*reversed(drift(history))],
        "day": day if then else "",
        "compared": compared,
        "axes": AXES,
        "free": [c for c in machine.offset_codes if c not in now],
        "words": _history_words(history),
        "drifted": drifted(history),
    }


def _then(day: str) -> datetime | None:
    """Return the last moment of a day."""
    if not day.strip():
        return None
    try:
        return datetime.combine(date.fromisoformat(day.strip()), time.max).astimezone()
    except ValueError:
        raise BadEntry(f"“{day[:20]}” is not a day.", "Type it as 2026-05-12.", "day") from None


def _history_words(history: list[Offset]) -> dict[int, str]:
    """Return what each line of a history changed, by its number."""
    return {
        line.number: change_words(before, line) or "its name or purpose"
        for before, line in zip([None, *history], history, strict=False)
    }


@router.get("/shop/machines/{number}/offsets", name="offsets_page")
def show_register(
    number: int, desk: DeskDep, render: RenderDep, code: str = "", day: str = ""
) -> HTMLResponse:
    """Show a machine's register of offsets."""
    machine = desk.shop.machine(number)
    shown = register_shown(desk, machine, code, day)
    return render("shop/offsets.html", shop=desk.shop.load(), at=f"/shop/machines/{number}/offsets", **shown)


@router.get("/jobs/{job_id}/place/offsets", name="place_offsets")
def show_of_setup(
    job_id: int, desk: DeskDep, render: RenderDep, setup: SeenQuery = None, code: str = "", day: str = ""
) -> HTMLResponse:
    """Show the register of the setup's machine, with what this job expects of it."""
    plan = desk.jobs.load(job_id).plan
    seen = setup_chosen(plan, setup)
    laid = laid_out(desk, plan, seen.key, seen.cycle)
    return step_page(
        "place",
        job_id,
        desk,
        render,
        template="place/offsets.html",
        view="offsets",
        seen=seen,
        expected=laid.expected,
        at=f"/jobs/{job_id}/place/offsets",
        **register_shown(desk, laid.machine, code, day),
    )


def back(to: str, machine: int, code: str = "") -> Response:
    """Send the browser back to the page of the register it came from."""
    safe = to if to.startswith("/jobs/") and "//" not in to else f"/shop/machines/{machine}/offsets"
    return RedirectResponse(
        f"{safe}{'&' if '?' in safe else '?'}code={code.replace(' ', '+')}" if code else safe, 303
    )


@router.post("/shop/machines/{number}/offsets", name="offset_save")
def save_offset(number: int, sent: SentDep, desk: DeskDep, who: WhoDep) -> Response:
    """Write one offset to the register; a kept one only with its name typed."""
    machine = desk.shop.machine(number)
    change = change_of(sent, machine)
    written = desk.offsets.write(machine, [change], who)
    return told(back(sent.get("back", ""), number, change.code), written_words(change.code, written))


def written_words(code: str, written: int) -> str:
    """Return what a write to the register did: nothing, where it read so already."""
    return f"{code} is written." if written else f"{code} reads so already."


def change_of(sent: dict[str, str], machine: Machine) -> OffsetChange:
    """Return the change a form asks for; only the axes it has fields for are touched.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    axes = {axis: read_axis(axis, sent[axis], machine, axis) for axis in AXES if axis in sent}
    told = "name" in sent
    limit = Entries({"limit": sent.get("limit", "")}, machine.wear.unit, {"limit": "Drift limit"}).maybe_mm(
        "limit", above=False
    )
    return OffsetChange(
        sent.get("code", ""),
        axes,
        sent.get("how", ""),
        ("kept" in sent) if told else None,
        sent.get("name") if told else None,
        sent.get("purpose") if told else None,
        convert(limit, "mm", machine.wear.unit) if limit is not None else None,
        sent.get("typed", ""),
    )


@router.post("/shop/machines/{number}/offsets/undo", name="offset_undo")
def undo_offset(
    number: int,
    line: Annotated[int, Form()],
    desk: DeskDep,
    who: WhoDep,
    to: Annotated[str, Form(alias="back")] = "",
) -> Response:
    """Take back the last line of a machine's register, as a new line."""
    code = put_back(desk, desk.shop.machine(number), line, who)
    return told(back(to, number), f"{code} reads as before.")


@router.post("/shop/machines/{number}/offsets/restore", name="offset_restore")
def restore_offset(
    number: int,
    line: Annotated[int, Form()],
    desk: DeskDep,
    who: WhoDep,
    typed: Annotated[str, Form()] = "",
    to: Annotated[str, Form(alias="back")] = "",
) -> Response:
    """Write an earlier line of an offset's history again, as a new line."""
    machine = desk.shop.machine(number)
    old = desk.offsets.line(number, line)
    when = f" of {old.at:%d %b %Y}" if old.at else ""
    axes = {axis: old.axes.get(axis) for axis in AXES}
    desk.offsets.write(
        machine, [OffsetChange(old.code, axes, f"restored from the line{when}", typed=typed)], who
    )
    return told(back(to, number, old.code), f"{old.code} reads as{when or ' before'}.")
