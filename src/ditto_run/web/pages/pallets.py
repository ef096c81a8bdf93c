"""Place, Pallets: every nest from one master origin, and the exchange list."""

from decimal import Decimal
from typing import Annotated

from fastapi import APIRouter, Form, Query
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from ditto_run.core.place.pallets import nests_on_base
from ditto_run.core.sheets import Entries
from ditto_run.desk.layouts import laid_out
from ditto_run.desk.shelf import PalletState, move_pallet
from ditto_run.web.dependencies import DeskDep, RenderDep
from ditto_run.web.pages.planning import step_page
from ditto_run.web.seen import SeenQuery, setup_chosen
from ditto_run.web.told import told

router = APIRouter(prefix="/jobs/{job_id}/place/pallets")
LABELS = {"turn": "Turned by", "over": "Over the Z pad"}


@router.get("", name="place_pallets")
def show_page(
    job_id: int,
    desk: DeskDep,
    render: RenderDep,
    setup: SeenQuery = None,
    holder: Annotated[str, Query(max_length=80)] = "",
    base: Annotated[str, Query(max_length=20)] = "",
    turn: Annotated[str, Query(max_length=20)] = "0",
    over: Annotated[str, Query(max_length=30)] = "",
) -> HTMLResponse:
    """Show the nests of a pallet on a base as offset plus shift, and where every pallet is."""
    plan = desk.jobs.load(job_id).plan
    seen = setup_chosen(plan, setup)
    laid = laid_out(desk, plan, seen.key, seen.cycle)
    owned = [
        row.value
        for row in desk.drawers.rows("holders")
        if row.value.body is not None and row.value.body.nests
    ]
    chosen = next((one for one in owned if one.name == holder), owned[0] if owned else None)
    kept = [code for code, offset in laid.offsets.items() if offset.kept]
    code = base or (kept[0] if kept else next(iter(laid.offsets), ""))
    entries = Entries({"turn": turn, "over": over}, plan.heading.unit, LABELS)
    turned, over_pad = (
        entries.turn("turn", -360, 360, 0),
        entries.maybe_mm("over", above=False) or Decimal(0),
    )
    nests = nests_on_base(chosen.body, laid.offsets.get(code), turned, over_pad) if chosen else ()
    return step_page(
        "place",
        job_id,
        desk,
        render,
        template="place/pallets.html",
        view="pallets",
        seen=seen,
        laid=laid,
        owned=owned,
        chosen=chosen,
        code=code,
        turn=turn,
        over=over,
        nests=nests,
        pallets=desk.drawers.rows("pallets"),
    )


@router.post("/state", name="pallet_state")
def set_state(
    job_id: int,
    row_id: Annotated[int, Form()],
    state: Annotated[PalletState, Form()],
    desk: DeskDep,
    setup: Annotated[str, Form()] = "",
) -> Response:
    """Say where a pallet is now."""
    name = move_pallet(desk, row_id, state)
    page = f"/jobs/{job_id}/place/pallets{f'?setup={setup}' if setup.isdigit() else ''}"
    return told(RedirectResponse(page, 303), f"{name} is {state}.")
