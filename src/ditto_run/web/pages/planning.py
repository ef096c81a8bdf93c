"""Saves changes of a plan, from whichever planning page they come."""

import re
from typing import Annotated, Any

from fastapi import APIRouter, Form, Query
from fastapi.responses import HTMLResponse, RedirectResponse, Response
from starlette.datastructures import FormData

from ditto_run.core.edits import Edit, SetSetup
from ditto_run.core.entry.plain import read_count
from ditto_run.core.errors import BadEntry
from ditto_run.core.hold.sheets import HOLD_SHEETS
from ditto_run.core.method.sheets import METHOD_SHEETS
from ditto_run.core.part.sheets import PART_SHEETS
from ditto_run.core.place.sheets import FIND_SHEETS, MANY_SHEETS, PALLET_SHEETS
from ditto_run.core.plan import FIRST_PART, Plan
from ditto_run.core.plan.cycles import chosen_cycle
from ditto_run.core.shop import Machine
from ditto_run.core.sizes import read_size
from ditto_run.core.steps import BY_NAME
from ditto_run.core.stock.sheets import STOCK_SHEETS
from ditto_run.core.tools.sheets import TOOL_SHEETS
from ditto_run.core.units import LengthUnit, capital
from ditto_run.desk import Desk
from ditto_run.desk.gate import what_is_open
from ditto_run.desk.layouts import last_written
from ditto_run.desk.values import Job, Registers
from ditto_run.formats.edit_documents import EDIT
from ditto_run.web.dependencies import DeskDep, FormDep, RenderDep, WhoDep, head_of
from ditto_run.web.seen import SEEN, Seen
from ditto_run.web.told import told

router = APIRouter(prefix="/jobs/{job_id}")
MANY = (
    "ready_what",
    "ready_time",
    "ready_money",
    "ready_lasting",
    "kinds",
    "locates_on",
    "clamps_on",
    "cuts",
    "centres",
    "refers",
    "stations",
    "makes",
    "seats",
    "numbers",
    "grades",
    "gauges",
    "gauged_in",
    "finishes",
    "faces",
)
MAY_BE_BLANK = {"locates_on", "clamps_on", "refers"}  # a choice left open is none
GROUPS = {"shift": ("shift_x", "shift_y", "shift_z"), "zero": ("zero_x", "zero_y", "zero_z")}
MAY_BE_EMPTY = {
    "number",
    "key",
    "gauge_id",
    "setup",
    "machine_id",
    "due",
    "made_in",
    "finish",
    "job_id",
    "have",
    "per_set",
    "expected",
    "bars",
    "characteristic",
    "snap",
    "of_setup",
    "also_in",
}
TOOL_MARK = re.compile(r"^\s*T\s?(?=\d)", re.IGNORECASE)
BY = {"-1": -1, "1": 1}
COUNTS = ("quantity", "spares", "batches", "gauge_every", "per_set", "have", "bars", "pieces", "at_once")
SHEET_FIELDS = {
    "kind",
    "sheet",
    "name",
    "key",
    "keep",
    "of_setup",
}  # of a sheet's form; all others are its entries

TABS: dict[str, list[tuple[str, str]]] = {
    "part": [
        ("", "The part"),
        ("sizes", "Sizes"),
        ("features", "Features"),
        ("missing", "To ask"),
        ("finish", "Finish"),
        ("stock-sizes", "Measured stock"),
        ("family", "Family"),
        ("kit", "Kit"),
        ("sheets", "All sheets"),
    ],
    "stock": [("", "In short"), ("sheets", "All sheets"), ("order", "Ordered")],
    "hold": [("", "Setups"), ("proposed", "Proposed"), ("sheets", "All sheets"), ("sheet", "Setup sheets")],
    "place": [
        ("", "Setting out"),
        ("find", "Find zero"),
        ("offsets", "Offsets"),
        ("pallets", "Pallets"),
        ("stations", "How many"),
        ("files", "Files"),
        ("sheet", "Layout sheet"),
    ],
    "method": [("", "Ways"), ("proposed", "A first plan"), ("sheets", "All sheets")],
    "tools": [
        ("", "Tool steps"),
        ("proposed", "Proposed"),
        ("order", "Order of visits"),
        ("program", "Program"),
        ("sheet", "Tool sheets"),
        ("sheets", "All sheets"),
    ],
}
OF_SETUP = {"order"}  # views that look at one setup
OF_TOOL = re.compile(r"tool-(\d{1,9})")  # the view of one tool step
OFFSETS_ONLY = {"offsets", "pallets"}  # views that say nothing of a machine with stops and dials
GROUPED = {  # sheets that share a tab, by the tab's address
    "find": FIND_SHEETS,
    "pallets": PALLET_SHEETS,
    "stations": MANY_SHEETS,
}
TAB_OF = {sheet.kind: tab for tab, sheets in GROUPED.items() for sheet in sheets}
TAB_OF |= {
    sheet.kind: "sheets"
    for sheet in (*PART_SHEETS, *METHOD_SHEETS, *HOLD_SHEETS, *STOCK_SHEETS, *TOOL_SHEETS)
}
VIEWS = {address for views in TABS.values() for address, _ in views if address} | set(TAB_OF)


def read_edit(form: dict[str, str], many: dict[str, tuple[str, ...]] | None = None) -> Edit:
    """Return the change a form asks for.

    Args:
        form: its fields.
        many: the fields that come once a line.
    """
    values: dict[str, object] = {
        name: text for name, text in form.items() if text or name not in MAY_BE_EMPTY
    }
    if form.get("kind") != "keep_sheet":
        values |= {name: read_count(form[name], name) for name in COUNTS if form.get(name)}
    values |= many or {}
    if form.get("kind") == "add_ways":
        values.setdefault("kinds", ())  # none ticked: the plan says what to choose
    if form.get("kind") == "set_visits":
        values["order"] = tuple(form.get("order", "").split())
        values["pairs"] = tuple(tuple(one.split()) for one in form.get("pairs", "").split(";") if one)
    if form.get("kind") == "set_tool_step":
        values["tool"] = TOOL_MARK.sub("", form.get("tool", ""))  # T03 is how the control shows it
    if form.get("by") in BY:
        values["by"] = BY[form["by"]]  # one of two fixed numbers, which a form can only send as text
    if form.get("kind") == "keep_sheet":
        values = {name: value for name, value in values.items() if name in SHEET_FIELDS}
        values["texts"] = {name: text for name, text in form.items() if name not in SHEET_FIELDS}
    if form.get("kind") == "set_station":
        for name, parts in GROUPS.items():
            values[name] = tuple(str(values.pop(part, "")) for part in parts)
    return EDIT.validate_python(values)


def columns_of(sent: FormData) -> dict[str, tuple[str, ...]]:
    """Return the fields of a form that come more than once."""
    found = {name: tuple(str(value) for value in sent.getlist(name)) for name in MANY if name in sent}
    return {
        name: tuple(filter(None, values)) if name in MAY_BE_BLANK else values
        for name, values in found.items()
    }


def step_page(
    step: str,
    job_id: int,
    desk: Desk,
    render: RenderDep,
    template: str = "",
    **context: Any,  # noqa: ANN401 - whatever the template needs
) -> HTMLResponse:
    """Show one planning page of a job; `template` names another one than the step's own."""
    job = desk.jobs.load(job_id)
    run_id, found = desk.runs.of_job(job_id), what_is_open(desk, job)
    if run_id is None:
        head = head_of(desk, job, found)
    else:
        with desk.runs.folded(run_id) as state:
            head = head_of(desk, job, found, state)
            context |= {
                "revision": state.revision,
                "ahead": not state.plan.same_work(job.plan.seen_from(FIRST_PART)),
            }
    findings = [
        thing.finding
        for thing in head.open.things
        if thing.stands is None and thing.finding.step == step and thing.part == job.plan.part
    ]
    seen = context.setdefault("seen", Seen(context.get("setup_key") or 0))
    context["setup_key"] = seen.key
    cycle = chosen_cycle(job.plan.cycles_of(seen.key), seen.cycle) if step == "place" else None
    machine = head.shop.machines.get(cycle.machine_id or 0) if cycle else None
    if machine is not None:
        context["written"] = last_written(desk, machine, job.at, render.who)
    return render(
        template or f"{step}/page.html",
        head=head,
        job=job,
        plan=job.plan,
        who=render.who,
        step=BY_NAME[step],
        findings=findings,
        tabs=tabs_of(step, job.plan, head.shop),
        tab=tab_of(step, str(context.get("view", ""))),
        sheet_views=views_beside(step, str(context.get("view", ""))),
        **context,
    )


def machines_of(plan: Plan, shop: Registers) -> list[Machine | None]:
    """Return the machine of each setup; None where none is chosen."""
    return [shop.machines.get(setup.machine_id or 0) for setup in plan.setups]


def tabs_of(step: str, plan: Plan, shop: Registers) -> list[tuple[str, str]]:
    """Return the views of a step: address after the step's own, and word; offsets only where a machine has them."""
    views = TABS.get(step, [])
    machines = machines_of(plan, shop)
    if step != "place" or not machines or any(m is None or m.offset_codes for m in machines):
        return views
    bare = OFFSETS_ONLY if any(m is not None and m.bed for m in machines) else OFFSETS_ONLY | {"files"}
    return [view for view in views if view[0] not in bare]


def tab_of(step: str, view: str) -> str:
    """Return the tab a view of a step stands under: its own, or that of the sheets it shares one with."""
    own = {address for address, _ in TABS.get(step, ())}
    return view if view in own else TAB_OF.get(view, view)


def views_beside(step: str, view: str) -> list[tuple[str, str]]:
    """Return the views that share a tab with one: address and word; none where it has a tab of its own."""
    tab = tab_of(step, view)
    if tab not in {address for address, _ in TABS.get(step, ())}:
        return []
    first = [("pallets", "Nests and exchange")] if tab == "pallets" else []
    return [*first, *((sheet.kind, sheet.word) for sheet in GROUPED.get(tab, ()))]


def back_to(job: Job, step: str, chosen: str = "") -> Response:
    """Send the browser back to the page it came from, which says what was changed."""
    page = f"/jobs/{job.id}/{step if step in {*BY_NAME, 'open'} else 'part'}{chosen}"
    return told(RedirectResponse(page, 303), f"{capital(job.what)}.")


@router.post("/plan", name="plan_edit")
def change_plan(sent: FormDep, job_id: int, desk: DeskDep, who: WhoDep) -> Response:
    """Make one change to the plan; an entry that cannot be used is answered at its field."""
    many = columns_of(sent)
    form = {name: str(value) for name, value in sent.items() if name not in MANY}
    step, version, view = form.pop("step", "part"), int(form.pop("version", "0") or 0), form.pop("view", "")
    shown = {name: form.pop(name, "") for name in ("view_setup", "view_holder")}
    edit = read_edit(form, many)
    job = desk.jobs.change(job_id, version, who, edit, step)
    setup = f"?setup={form['setup']}" if form.get("setup") and step in {"place", "tools"} else ""
    if SEEN.fullmatch(shown["view_setup"]):
        setup = f"?setup={shown['view_setup']}" + (
            f"&holder={shown['view_holder']}" if shown["view_holder"].isdigit() else ""
        )
    if isinstance(edit, SetSetup) and step == "hold":  # the page shows what was just said of it
        setup = f"?setup={edit.key or job.plan.setups[-1].key}"
    return back_to(job, step, _where(view, setup))


@router.post("/plan/undo", name="plan_undo")
def undo(
    job_id: int,
    version: Annotated[int, Form()],
    desk: DeskDep,
    who: WhoDep,
    step: Annotated[str, Form()] = "part",
    view_setup: Annotated[str, Form()] = "",
    confirm: Annotated[str, Form(max_length=400)] = "",
    redo: Annotated[bool, Form()] = False,
    view: Annotated[str, Form(max_length=40)] = "",
) -> Response:
    """Take back the last change of the plan, or bring back the one that was undone, and stay on its view."""
    job = (desk.jobs.redo if redo else desk.jobs.undo)(job_id, version, who, step, confirm)
    return back_to(job, step, _where(view, f"?setup={view_setup}" if SEEN.fullmatch(view_setup) else ""))


def _where(view: str, setup: str) -> str:
    """Where a page is gone back to: the setup that was looked at, on its own view where that is of a setup, else the view."""
    tool = OF_TOOL.fullmatch(view)
    if tool is not None:
        return f"?tool={tool[1]}"
    if setup:
        return f"/{view}{setup}" if view in OF_SETUP else setup
    return f"/{view}" if view in VIEWS else ""


@router.get("/size", name="size_read")
def size_read(
    job_id: int, desk: DeskDep, render: RenderDep, size: Annotated[str, Query(max_length=200)] = ""
) -> HTMLResponse:
    """Show how a size is understood while it is typed."""
    unit: LengthUnit = desk.jobs.load(job_id).plan.heading.unit
    if not size.strip():
        return render("part/_understood.html", size=None)
    return render("part/_understood.html", size=read_size(size, unit))


def require_rows(text: str) -> str:
    """Return pasted text if there is any.

    Raises:
        BadEntry: if it is empty.
    """
    if not text.strip():
        raise BadEntry("Nothing is pasted.", "Paste rows with a name and a size.", "rows")
    return text
