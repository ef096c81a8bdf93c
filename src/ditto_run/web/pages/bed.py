"""Shop, Table: a machine's table, slots, reach and keep-outs, and how its control reads G10."""

from dataclasses import replace
from typing import Annotated

from fastapi import APIRouter, Form
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from ditto_run.core.errors import BadEntry
from ditto_run.core.plan.programmed import usual_dialect
from ditto_run.core.program.dialect import (
    DIALECT_WORDS,
    DIALECTS,
    KEYS,
    changed_keys,
    key_text,
    keys_of,
    with_keys,
)
from ditto_run.core.sheets import Entries
from ditto_run.core.shop import Machine
from ditto_run.core.shop.abilities import read_table
from ditto_run.core.shop.bed import CORNERS, HOMES, LABELS, ZERO_AT, bed_texts
from ditto_run.core.shop.dialect import L20, L20_WORDS, P0, P0_WORDS, Dialect
from ditto_run.desk.learning import learned_of, take_learned
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
        keys=_keys(machine),
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
    keys = machine.dialect.keys if reads == machine.dialect.reads else ()  # they are another table's
    desk.shop.save_dialect(number, Dialect(l20, p0, fine, reads, keys))
    return told(
        RedirectResponse(f"/shop/machines/{number}/table", 303), f"How {machine.name} reads programs is kept."
    )


@router.post("/keys", name="dialect_keys")
def save_keys(number: int, sent: SentDep, desk: DeskDep) -> Response:
    """Keep in which keys a machine's table of meanings differs from the ready-made one."""
    machine = desk.shop.machine(number)
    name = usual_dialect(machine)
    keys = changed_keys(name, with_keys(name, sent))
    desk.shop.save_dialect(number, replace(machine.dialect, keys=keys))
    said = f"{len(keys)} of its keys" if len(keys) != 1 else "One of its keys"
    told_so = (
        f"{said} differ{'s' if len(keys) == 1 else ''} from the ready-made table."
        if keys
        else "It is the ready-made table."
    )
    return told(RedirectResponse(f"/shop/machines/{number}/table", 303), told_so)


@router.get("/clocked", name="machine_clocked")
def show_clocked(number: int, desk: DeskDep, render: RenderDep) -> HTMLResponse:
    """Show what clocked programs say of a machine's times."""
    machine = desk.shop.machine(number)
    programs, found = learned_of(desk, machine)
    return render("shop/clocked.html", machine=machine, shop=desk.shop.load(), programs=programs, found=found)


@router.post("/clocked", name="machine_learn")
def learn_times(number: int, desk: DeskDep) -> Response:
    """Take what clocked programs say of a machine's times."""
    machine = desk.shop.machine(number)
    take_learned(desk, machine)
    return told(
        RedirectResponse(f"/shop/machines/{number}/clocked", 303),
        f"{machine.name} has the clock’s times now.",
    )


def _keys(machine: Machine) -> list[dict[str, object]]:
    """Each key of a machine's table: its name, label, value, the ready-made one's, and the values it may have."""
    name = usual_dialect(machine)
    own = with_keys(name, dict(machine.dialect.keys))
    return [
        {
            "name": key,
            "label": KEYS[key][0],
            "value": key_text(own, key),
            "usual": key_text(DIALECTS[name], key),
            "choices": choices,
        }
        for key, choices in keys_of(own).items()
    ]
