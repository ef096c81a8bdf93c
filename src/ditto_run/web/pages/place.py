"""Pages of the Place step: the layout of the table, its stations and what their offsets read."""

from collections.abc import Sequence
from dataclasses import dataclass

from fastapi import APIRouter
from fastapi.responses import HTMLResponse

from ditto_run.core.edits import piece_of_blank
from ditto_run.core.place import Placed, Seat, Standing, Station, clashes
from ditto_run.core.place.offsets import Offset
from ditto_run.core.place.predict import Expected, expectations
from ditto_run.core.plan import Plan
from ditto_run.core.shop import Machine
from ditto_run.web.dependencies import Desk, DeskDep, RenderDep
from ditto_run.web.drawings import LayoutPicture
from ditto_run.web.pages.planning import setup_chosen, step_page
from ditto_run.web.pages.sheets import show_sheet

router = APIRouter(prefix="/jobs/{job_id}/place")


@dataclass(frozen=True, slots=True)
class Laid:
    """A setup's layout as a page shows it.

    Args:
        machine: the machine of the setup; None while it has none.
        picture: the drawing; None while its table is not measured.
        offsets: the machine's offsets by code.
        expected: what each offset should read, by code.
    """

    machine: Machine | None
    picture: LayoutPicture | None
    offsets: dict[str, Offset]
    expected: dict[str, Expected]


def laid_out(desk: Desk, plan: Plan, setup_key: int, chosen: int = 0) -> Laid:
    """Return the layout of a setup with what the register says of its offsets."""
    setup = next((setup for setup in plan.setups if setup.key == setup_key), None)
    shop = desk.shop.load()
    machine = shop.machines.get(setup.machine_id or 0) if setup else None
    offsets = dict(shop.register.of(machine.id)) if machine else {}
    if machine is None or machine.bed is None:
        return Laid(machine, None, offsets, {})
    standings = plan.standings(setup_key, machine.bed)
    found = clashes(standings, machine.bed, plan.heading.unit)
    settled = {s.label for s in plan.stations if _is_set(offsets.get(s.offset or ""))}
    quiet = {standing.placed.key for standing in standings if standing.placed.setup != setup_key}
    picture = LayoutPicture(machine.bed, standings, found, settled, chosen, quiet, plan.heading.unit)
    return Laid(
        machine, picture, offsets, {one.code: one for one in expectations(standings, offsets, machine.bed)}
    )


def _is_set(offset: Offset | None) -> bool:
    return offset is not None and all(axis in offset.axes for axis in ("x", "y", "z"))


@router.get("", name="place_page")
def show_page(
    job_id: int, desk: DeskDep, render: RenderDep, setup: int | None = None, edit: str = "", holder: int = 0
) -> HTMLResponse:
    """Show the layout of one setup; `holder` chooses a placed holder, `edit` opens one station."""
    plan = desk.jobs.load(job_id).plan
    key = setup_chosen(plan, setup)
    laid = laid_out(desk, plan, key, holder)
    holders = [row.value for row in desk.drawers.rows("holders")]
    chosen = next((placed for placed in plan.placed if placed.key == holder), None)
    return step_page(
        "place", job_id, desk, render, setup_key=key, editing=edit, view="", laid=laid, chosen=chosen, rows=station_rows(plan, key, laid),
        holders=[found.name for found in holders if found.body is not None], unmeasured=sum(found.body is None for found in holders),
        layout=plan.layout(key), blank=piece_of_blank(plan),
    )  # fmt: skip


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


def station_rows(plan: Plan, setup_key: int, laid: Laid) -> list[StationRow]:
    """Return the stations of a setup, in order; the nests of a holder with many of them in one row."""
    standings: Sequence[Standing] = laid.picture.standings if laid.picture else ()
    seats = {
        (standing.placed.key, seat.label): (standing.placed, seat)
        for standing in standings
        for seat in standing.seats
    }
    mine: dict[tuple[int, str], list[Station]] = {}
    for station in plan.stations_of(setup_key):
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
