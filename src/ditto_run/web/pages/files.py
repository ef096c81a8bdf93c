"""Place, Files: offsets out and in as text, layouts as drawings, program files, the backup, the layout sheet."""

from dataclasses import replace
from datetime import datetime
from decimal import Decimal
from typing import Annotated, Literal

from fastapi import APIRouter, File, Form, UploadFile
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from ditto_run.core.edits import SetLayout
from ditto_run.core.errors import BadEntry, FileNotRead, NotFound, NotNow
from ditto_run.core.place.compare import beside
from ditto_run.core.place.look import looks
from ditto_run.core.place.offsets import Axis, Offset, OffsetChange
from ditto_run.core.plan import Plan
from ditto_run.core.plan.block_proven import prove_block
from ditto_run.core.shop import Dialect, Machine
from ditto_run.core.shop.dialect import L20, L20_WORDS, P0, P0_WORDS
from ditto_run.core.shop.outlines import points_text
from ditto_run.core.units import counted
from ditto_run.desk import Desk
from ditto_run.desk.gate import require_no_stop, what_is_open
from ditto_run.desk.layouts import Laid, laid_out
from ditto_run.formats.csv_tables import decode
from ditto_run.formats.documents import DIALECT
from ditto_run.formats.dxf import read_outlines
from ditto_run.formats.layout_dxf import write_layout
from ditto_run.formats.machine_backup import back_up_machine
from ditto_run.formats.offset_table import read_offset_table, write_offset_table
from ditto_run.formats.rs274 import ReadOffsets, positions, read_offsets, write_offsets
from ditto_run.web.dependencies import DeskDep, FormDep, RenderDep, WhoDep
from ditto_run.web.drawings import LayoutPicture, draw_layout
from ditto_run.web.files import download
from ditto_run.web.pages.place import picture_of
from ditto_run.web.pages.planning import back_to, step_page
from ditto_run.web.seen import SEEN, Seen, SeenPath, SeenQuery, setup_chosen
from ditto_run.web.told import told

router = APIRouter(prefix="/jobs/{job_id}/place")
DRAWN_CSS = (
    "svg{background:#fff;font-family:sans-serif;font-size:16px}path,circle{fill:none;stroke:#000;stroke-width:1.5}text{fill:#000}"
    ".fill,.tip{fill:#000}.clash{stroke-dasharray:2 2}.piece.is-set{fill:#ddd}"
)


def _machine(laid: Laid) -> Machine:
    if laid.machine is None:
        raise NotNow("This setup has no machine yet.", "Choose its machine on Hold.")
    return laid.machine


def _chosen_offsets(plan: Plan, laid: Laid, seen: Seen, *, kept: bool, everything: bool) -> list[Offset]:
    """Return the offsets that go out: those of the setup's stations, or all; kept ones only when asked."""
    mine = {station.offset for station in plan.stations_at(seen.key, seen.cycle)}
    return [o for code, o in laid.offsets.items() if (everything or code in mine) and (kept or not o.kept)]


@router.get("/files", name="place_files")
def show_page(
    job_id: int,
    desk: DeskDep,
    render: RenderDep,
    setup: SeenQuery = None,
    kept: bool = False,
    everything: bool = False,
) -> HTMLResponse:
    """Show what goes out and comes in as files."""
    plan = desk.jobs.load(job_id).plan
    seen = setup_chosen(plan, setup)
    return _files_page(job_id, desk, render, seen, kept=kept, everything=everything)


def _files_page(
    job_id: int,
    desk: Desk,
    render: RenderDep,
    seen: Seen,
    *,
    kept: bool = False,
    everything: bool = False,
    **more: object,
) -> HTMLResponse:
    job = desk.jobs.load(job_id)
    laid = laid_out(desk, job.plan, seen.key, seen.cycle)
    machine, text = laid.machine, ""
    left_out: list[str] = []
    goes: list[tuple[str, dict[Axis, Decimal]]] = []
    if machine is not None:
        chosen = _chosen_offsets(job.plan, laid, seen, kept=kept, everything=everything)
        text, left_out = write_offsets(
            chosen, machine.dialect, machine.wear.unit, f"{machine.name} {job.plan.heading.part}"
        )
        goes = _goes(text, chosen, machine)
    register = desk.shop.load().register
    return step_page(
        "place",
        job_id,
        desk,
        render,
        template="place/files.html",
        view="files",
        seen=seen,
        laid=laid,
        kept=kept,
        everything=everything,
        text=text,
        left_out=left_out,
        goes=goes,
        programs=desk.programs.of_job(job_id),
        holders=[row.value.name for row in desk.drawers.rows("holders")],
        l20=L20_WORDS,
        p0=P0_WORDS,
        backed_up=register.backed_up.get(machine.id) if machine else None,
        stale=_stale(desk, job_id, laid, job.at),
        **more,
    )


def _goes(text: str, chosen: list[Offset], machine: Machine) -> list[tuple[str, dict[Axis, Decimal]]]:
    """Return where a control that has read the text goes for X0 Y0 of each offset, in millimetres: our own reading of it."""
    found = []
    for offset in chosen:
        if " " not in offset.code and "x" in offset.axes and "y" in offset.axes:
            unit = "G20" if machine.wear.unit == "in" else "G21"
            last = positions(f"{text}\n{unit} G90 {offset.code} G0 X0 Y0")[-1]
            found.append((offset.code, dict(last)))
    return found


def _stale(desk: Desk, job_id: int, laid: Laid, changed: datetime) -> bool:
    """Return whether something has changed since the machine's values were last taken off."""
    if laid.machine is None:
        return False
    last = desk.shop.load().register.backed_up.get(laid.machine.id)
    moments = [o.at for o in laid.offsets.values() if o.at] + [p.at for p in desk.programs.of_job(job_id)]
    return bool(moments) if last is None else max([changed, *moments]) > last


def _laid(desk: Desk, job_id: int, setup: str) -> tuple[Plan, Laid, Seen]:
    plan = desk.jobs.load(job_id).plan
    plan.setup(int(setup.partition(".")[0]))
    seen = setup_chosen(plan, setup)
    return plan, laid_out(desk, plan, seen.key, seen.cycle), seen


@router.get("/files/{setup}/offsets.nc", name="files_nc")
def as_program(
    job_id: int, setup: SeenPath, desk: DeskDep, kept: bool = False, everything: bool = False
) -> Response:
    """Download the offsets as RS-274 text in the control's dialect, unless something of Place would wreck the machine."""
    require_no_stop(what_is_open(desk, desk.jobs.load(job_id)), "place")
    plan, laid, seen = _laid(desk, job_id, setup)
    machine = _machine(laid)
    chosen = _chosen_offsets(plan, laid, seen, kept=kept, everything=everything)
    text, left = write_offsets(
        chosen, machine.dialect, machine.wear.unit, f"{machine.name} {plan.heading.part}"
    )
    if len(left) < len(chosen):
        prove_block(text, machine, [one for one in chosen if one.axes and one.code not in left])
    return download(text.encode(), "offsets.nc", "text/plain; charset=utf-8")


@router.get("/files/{setup}/offsets.csv", name="files_csv")
def as_table(job_id: int, setup: SeenPath, desk: DeskDep) -> Response:
    """Download every offset of the machine as CSV."""
    _, laid, _ = _laid(desk, job_id, setup)
    return download(
        write_offset_table(laid.offsets.values()).encode(), "offsets.csv", "text/csv; charset=utf-8"
    )


def _picture(plan: Plan, setup: int, laid: Laid) -> LayoutPicture:
    picture = picture_of(plan, setup, laid)
    if picture is None:
        raise NotNow(
            "The table of this setup's machine is not measured.",
            "Type its size, slots and reach on Shop, under Table.",
        )
    return picture


@router.get("/files/{setup}/layout.dxf", name="files_dxf")
def as_drawing(job_id: int, setup: SeenPath, desk: DeskDep) -> Response:
    """Download the layout as a DXF drawing in millimetres."""
    plan, laid, seen = _laid(desk, job_id, setup)
    picture = _picture(plan, seen.key, laid)
    return download(
        write_layout(picture.bed, picture.standings, picture.clashes), "layout.dxf", "image/vnd.dxf"
    )


@router.get("/files/{setup}/layout.svg", name="files_svg")
def as_svg(job_id: int, setup: SeenPath, desk: DeskDep) -> Response:
    """Download the layout as an SVG drawing that stands by itself."""
    plan, laid, seen = _laid(desk, job_id, setup)
    picture = _picture(plan, seen.key, laid)
    drawn = str(draw_layout(picture, 1100, 640, movable=False))
    hatch = (
        '<defs><pattern id="hat" width="9" height="9" patternUnits="userSpaceOnUse" patternTransform="rotate(45)">'
        '<path d="M0,0V9"/></pattern></defs>'
    )
    whole = drawn.replace("<svg ", '<svg xmlns="http://www.w3.org/2000/svg" ', 1).replace(
        ">", f"><style>{DRAWN_CSS}</style>{hatch}", 1
    )
    return download(whole.encode(), "layout.svg", "image/svg+xml")


@router.post("/files/{setup}/read", name="files_read")
def read_back(
    job_id: int,
    setup: SeenPath,
    desk: DeskDep,
    render: RenderDep,
    file: Annotated[UploadFile, File()],
    l20: Annotated[L20, Form()] = "not used",
    p0: Annotated[P0, Form()] = "not used",
) -> HTMLResponse:
    """Read offsets from a file and show them beside the register and the layout; nothing is changed."""
    _, laid, seen = _laid(desk, job_id, setup)
    machine = _machine(laid)
    text = decode(file.file.read())
    dialect = Dialect(l20, p0, machine.dialect.fine)
    read = _read(text, machine, dialect, laid)
    if not read.axes:
        why = f" Line {read.faults[0].row}: {read.faults[0].message}" if read.faults else ""
        raise FileNotRead(
            f"That file sets no work offset.{why}", "It wants G10 blocks, or a table with code and X, Y, Z."
        )
    rows = beside(read.axes, laid.offsets, laid.expected, machine.wear.unit)
    return _files_page(
        job_id,
        desk,
        render,
        seen,
        read=read,
        rows=rows,
        typed_text=text,
        dialect=dialect,
        lacking=[c for c in read.axes if c not in machine.offset_codes],
    )


def _read(text: str, machine: Machine, dialect: Dialect, laid: Laid) -> ReadOffsets:
    if "G10" in text.upper().replace(" ", ""):
        return read_offsets(
            text, dialect, machine.wear.unit, {code: o.axes for code, o in laid.offsets.items()}
        )
    return read_offset_table(text, machine.wear.unit)


@router.post("/files/{setup}/take", name="files_take")
def take_in(job_id: int, setup: SeenPath, sent: FormDep, desk: DeskDep, who: WhoDep) -> Response:
    """Write the ticked offsets of a file to the register: all of them or none."""
    _, laid, _ = _laid(desk, job_id, setup)
    machine = _machine(laid)
    dialect = replace(
        DIALECT.validate_python({"l20": sent.get("l20", "not used"), "p0": sent.get("p0", "not used")}),
        fine=machine.dialect.fine,
    )
    read = _read(str(sent.get("text", "")), machine, dialect, laid)
    wanted = [str(code) for code in sent.getlist("take")]
    if not wanted:
        raise BadEntry("No offset is ticked.", "Tick those to take in.", "take")
    missing = [code for code in wanted if code not in read.axes]
    if missing:
        raise NotFound("offset in the file", missing[0], "Read the file again.")
    changes = [
        OffsetChange(code, read.axes[code], "read from a file", typed=str(sent.get(f"typed {code}", "")))
        for code in wanted
    ]
    desk.offsets.write(machine, changes, who)
    page = f"/jobs/{job_id}/place/offsets?setup={setup}"
    return told(RedirectResponse(page, 303), f"Took in {counted(len(changes), 'offset')}.")


@router.post("/files/{setup}/outline", name="files_outline")
def take_outline(
    job_id: int,
    setup: SeenPath,
    desk: DeskDep,
    who: WhoDep,
    outline: Annotated[UploadFile, File()],
    goes_to: Annotated[str, Form(max_length=80)] = "",
    unit: Annotated[Literal["", "mm", "in"], Form()] = "",
) -> Response:
    """Take the largest closed outline of a DXF drawing as a holder's footprint, or its size as the piece's."""
    job = desk.jobs.load(job_id)
    found = (desk.worker.run(read_outlines, outline.file.read(), unit))[0]
    xs, ys = [x for x, _ in found.points], [y for _, y in found.points]
    if not goes_to:
        key = setup_chosen(job.plan, setup).key
        old = job.plan.layout(key)
        high = f"{old.piece_mm[2]} mm" if old.piece_mm else "10 mm"
        edit = SetLayout(
            key,
            f"{max(xs) - min(xs):.3f} mm",
            f"{max(ys) - min(ys):.3f} mm",
            high,
            str(old.pieces),
            old.how,
            f"{old.gap_mm} mm",
            f"{old.cutter_mm} mm",
            f"{old.longest_mm} mm" if old.longest_mm else "",
            f"{old.shortest_mm} mm" if old.shortest_mm else "",
            f"{old.clear_mm} mm",
        )
        changed = desk.jobs.change(job_id, job.version, who, edit, "place")
        return back_to(changed, "place", f"?setup={setup}")
    row = next((row for row in desk.drawers.rows("holders") if row.value.name == goes_to), None)
    if row is None:
        raise NotFound("holder", goes_to, "Choose one of the register.")
    points = points_text([(_mm(x - min(xs)), _mm(y - min(ys))) for x, y in found.points])
    desk.drawers.save("holders", row.id, row.texts | {"outline": points, "body_x": "", "body_y": ""})
    return told(
        RedirectResponse(f"/shop/drawers/holders?row={row.id}", 303), f"The outline of {goes_to} is kept."
    )


def _mm(value: float) -> Decimal:
    return Decimal(f"{value:.4f}")


@router.post("/files/{setup}/program", name="files_program")
def keep_program(
    job_id: int, setup: SeenPath, desk: DeskDep, who: WhoDep, program: Annotated[UploadFile, File()]
) -> Response:
    """Keep a program file with the job."""
    desk.programs.keep(job_id, program.filename or "", program.file.read(), who)
    page = f"/jobs/{job_id}/place/files?setup={setup}"
    return told(RedirectResponse(page, 303), f"{program.filename or 'The file'} is kept.")


@router.get("/files/program/{number}", name="files_program_get")
def give_program(job_id: int, number: int, desk: DeskDep) -> Response:
    """Download a program file."""
    found = next((one for one in desk.programs.of_job(job_id) if one.id == number), None)
    if found is None:
        raise NotFound("program file", number, "Choose one of the list.")
    name = "".join(c if c.isascii() and (c.isalnum() or c in "._-") else "-" for c in found.name)
    return download(found.content.encode(), name, "text/plain; charset=utf-8")


@router.post("/files/{setup}/program/remove", name="files_program_remove")
def drop_program(job_id: int, setup: SeenPath, number: Annotated[int, Form()], desk: DeskDep) -> Response:
    """Take a program file away."""
    desk.programs.remove(job_id, number)
    return told(RedirectResponse(f"/jobs/{job_id}/place/files?setup={setup}", 303), "The file is gone.")


@router.post("/files/{setup}/backup", name="files_backup")
def back_up(job_id: int, setup: SeenPath, desk: DeskDep) -> Response:
    """Download offsets, layout, tool list and program files of the machine in one file, and remember when."""
    plan, laid, _ = _laid(desk, job_id, setup)
    machine = _machine(laid)
    programs = [(one.name, one.content) for one in desk.programs.of_job(job_id)]
    content = back_up_machine(machine, laid.offsets, plan, programs, desk.now)
    desk.offsets.backed_up(machine.id)
    name = "".join(c if c.isascii() and c.isalnum() else "-" for c in machine.name.lower())
    return download(content, f"{name}-{desk.now:%Y-%m-%d}.zip", "application/zip")


@router.get("/sheet", name="place_layout_sheet")
def show_sheet_page(job_id: int, desk: DeskDep, render: RenderDep) -> HTMLResponse:
    """Show the layout sheet: a printed page for each setup, with its offsets and the last look before the first cut."""
    plan = desk.jobs.load(job_id).plan
    pages = []
    for setup, cycle in plan.cuts:
        laid = laid_out(desk, plan, setup.key, cycle.key)
        mine = [s for s in laid.standings if s.placed.setup == setup.key]
        picture = picture_of(plan, setup.key, laid)
        pages.append((setup, cycle, laid, picture, looks(mine, laid.offsets)))
    register = desk.shop.load().register
    return step_page(
        "place",
        job_id,
        desk,
        render,
        template="place/sheet.html",
        view="sheet",
        pages=pages,
        register=register,
    )


@router.post("/look", name="place_look")
def tick_look(
    job_id: int,
    setup: Annotated[str, Form(pattern=f"^{SEEN.pattern}$")],
    code: Annotated[str, Form(max_length=20)],
    desk: DeskDep,
    who: WhoDep,
) -> Response:
    """Remember that the read-out agreed at a station; a later change of its offset makes that void."""
    _, laid, _ = _laid(desk, job_id, setup)
    machine = _machine(laid)
    if code not in laid.offsets:
        raise NotFound("offset", code, "Set it first.")
    desk.offsets.look(machine.id, code, who)
    return RedirectResponse(f"/jobs/{job_id}/place/sheet", 303)
