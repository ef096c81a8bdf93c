"""Shop, Table: a machine's table, slots, reach and keep-outs, and how its control reads G10."""

from typing import Annotated

from fastapi import APIRouter, Form
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from ditto_run.core.errors import BadEntry
from ditto_run.core.program.dialect import DIALECT_WORDS, DIALECTS
from ditto_run.core.sheets import Entries
from ditto_run.core.shop.abilities import read_table
from ditto_run.core.shop.bed import CORNERS, HOMES, LABELS, ZERO_AT, bed_texts
from ditto_run.core.shop.dialect import L20, L20_WORDS, P0, P0_WORDS, Dialect
from ditto_run.web.dependencies import DeskDep, RenderDep, SentDep
from ditto_run.web.drawings import LayoutPicture
from ditto_run.web.told import told

router = APIRouter(prefix="/shop/machines/{number}")


@router.get("/table", name="bed_page")
def show_page(number: int, desk: DeskDep, render: RenderDep) -> HTMLResponse:
    """Show a machine's table, drawn to scale, with its entry form."""
    machine = desk.shop.machine(number)
    return render(
        "shop/table.html",
        machine=machine,
        shop=desk.shop.load(),
        texts=bed_texts(machine.bed) if machine.bed else {},
        homes=HOMES,
        corners=CORNERS,
        zero_at=ZERO_AT,
        l20=L20_WORDS,
        p0=P0_WORDS,
        reads=[("", "the plain one of its kind"), *DIALECT_WORDS.items()],
        picture=LayoutPicture(machine.bed, unit=desk.shop.load().length_unit) if machine.bed else None,
    )


@router.post("/table", name="bed_save")
def save_bed(number: int, sent: SentDep, desk: DeskDep) -> Response:
    """Keep a machine's table."""
    machine = desk.shop.machine(number)
    entries = Entries(sent, desk.shop.load().length_unit, LABELS)
    desk.shop.save_bed(number, *read_table(entries, machine.ability))
    return told(
        RedirectResponse(f"/shop/machines/{number}/table", 303), f"The table of {machine.name} is kept."
    )


@router.post("/dialect", name="dialect_save")
def save_dialect(
    number: int,
    desk: DeskDep,
    l20: Annotated[L20, Form()],
    p0: Annotated[P0, Form()],
    fine: Annotated[bool, Form()] = False,
    reads: Annotated[str, Form(max_length=20)] = "",
) -> Response:
    """Keep how a machine's control reads programs."""
    machine = desk.shop.machine(number)
    if reads and reads not in DIALECTS:
        raise BadEntry("There is no such table of meanings.", "Choose one of the list.", "reads")
    desk.shop.save_dialect(number, Dialect(l20, p0, fine, reads))
    return told(
        RedirectResponse(f"/shop/machines/{number}/table", 303), f"How {machine.name} reads programs is kept."
    )
