"""Pages of the Place step: the layout of the table, its stations and what their offsets read."""

from dataclasses import dataclass

from fastapi import APIRouter
from fastapi.responses import HTMLResponse

from ditto_run.core.edits.place import next_place
from ditto_run.core.place import Placed, Seat, Station
from ditto_run.core.place.offsets import Offset
from ditto_run.core.place.predict import Expected
from ditto_run.core.plan import Plan
from ditto_run.core.plan.held import lying_mm
from ditto_run.desk.layouts import Laid, laid_out
from ditto_run.web.dependencies import DeskDep, RenderDep
from ditto_run.web.drawings import LayoutPicture
from ditto_run.web.pages.planning import step_page
from ditto_run.web.pages.sheets import show_sheet
from ditto_run.web.seen import Seen, SeenQuery, setup_chosen

router = APIRouter(prefix="/jobs/{job_id}/place")


def picture_of(plan: Plan, setup_key: int, laid: Laid, chosen: int = 0) -> LayoutPicture | None:
    """Return the drawing of a layout; None while the machine's table is not measured."""
    if laid.machine is None or laid.machine.bed is None:
        return None
    quiet = {standing.placed.key for standing in laid.standings if standing.placed.setup != setup_key}
    return LayoutPicture(
        laid.machine.bed, laid.standings, laid.clashes, laid.settled, chosen, quiet, plan.heading.unit
    )


@router.get("", name="place_page")
def show_page(
    job_id: int,
    desk: DeskDep,
    render: RenderDep,
    setup: SeenQuery = None,
    edit: str = "",
    holder: int = 0,
    cycle: int = 0,
) -> HTMLResponse:
    """Show the layout of one setup; `holder` chooses a placed holder, `edit` opens one station."""
    job = desk.jobs.load(job_id)
    plan = job.plan
    seen = setup_chosen(plan, setup)
    chosen = next((placed for placed in plan.placed if placed.key == holder), None)
    if chosen is not None and len(plan.cycles_of(seen.key)) > 1:
        seen = Seen(seen.key, plan.cycle_of_placed(chosen))
    laid = laid_out(desk, plan, seen.key, seen.cycle)
    holders = [row.value for row in desk.drawers.rows("holders")]
    next_label, next_code = next_place(plan, seen.key, laid.machine)
    return step_page(
        "place",
        job_id,
        desk,
        render,
        seen=seen,
        editing=edit,
        view="",
        laid=laid,
        picture=picture_of(plan, seen.key, laid, holder),
        chosen=chosen,
        cycle_edited=next((head for head in plan.cycles if head.key == cycle), None),
        next_label=next_label,
        next_code=next_code,
        rows=station_rows(plan, seen, laid),
        holders=[found.name for found in holders if found.body is not None],
        unmeasured=sum(found.body is None for found in holders),
        layout=plan.layout(seen.key),
        lying=lying_mm(plan, seen.key),
    )


@router.get("/{kind}", name="place_sheet")
def show_place_sheet(
    job_id: int, kind: str, desk: DeskDep, render: RenderDep, sheet: int = 0
) -> HTMLResponse:
    """Show one sheet of the Place step; `sheet` opens a kept one."""
    return show_sheet("place", kind, job_id, desk, render, sheet)


MOST_LISTED = 8  # nests of one holder that are listed one by one; more stand in one line


@dataclass(frozen=True, slots=True)
class StationRow:
    """One station as the list shows it, or all nests of a holder that has many.

    Args:
        station: the first of them.
        last: label of the last of them; the same for one.
        placed: the holder; None where it is not drawn.
        seat: where its piece sits; None where it is not drawn.
        offset: its offset as set; None while it is not.
        expected: what it should read; None where it is not drawn.
    """

    station: Station
    last: str
    placed: Placed | None
    seat: Seat | None
    offset: Offset | None
    expected: Expected | None


def station_rows(plan: Plan, seen: Seen, laid: Laid) -> list[StationRow]:
    """Return the stations of a setup, in order; the nests of a holder with many of them in one row."""
    seats = {
        (standing.placed.key, seat.label): (standing.placed, seat)
        for standing in laid.standings
        for seat in standing.seats
    }
    mine: dict[tuple[int, str], list[Station]] = {}
    for station in plan.stations_at(seen.key, seen.cycle):
        many = bool(station.placed) and len(plan.holder(station.placed).body.nests) > MOST_LISTED
        mine.setdefault((station.placed, "" if many else station.label), []).append(station)
    found = []
    for stations in mine.values():
        first = stations[0]
        placed, seat = seats.get((first.placed, first.label), (None, None))
        code = first.offset or ""
        found.append(
            StationRow(
                first, stations[-1].label, placed, seat, laid.offsets.get(code), laid.expected.get(code)
            )
        )
    return found
