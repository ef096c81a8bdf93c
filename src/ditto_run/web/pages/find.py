"""Place, Find zero: guided sheets, filled by hand or by the probe, and their zeros written to the register."""

from collections.abc import Mapping
from dataclasses import dataclass
from decimal import Decimal
from typing import Annotated, Literal

from fastapi import APIRouter, Query
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from ditto_run.core.errors import BadEntry, NeedsAnswer, NotFound
from ditto_run.core.place import Station
from ditto_run.core.place.offsets import AXES, LINEAR, Axis, Offset, OffsetChange, read_axis
from ditto_run.core.place.predict import elsewhere
from ditto_run.core.place.sheets import FIND_SHEETS
from ditto_run.core.plan import Plan
from ditto_run.core.plan.held import standings
from ditto_run.core.shop import Machine
from ditto_run.desk import Desk
from ditto_run.desk.layouts import laid_out, zeros_to_find
from ditto_run.devices.probe import Faults
from ditto_run.web.dependencies import DeskDep, RenderDep, SentDep, WhoDep
from ditto_run.web.pages.offsets import written_words
from ditto_run.web.pages.planning import machines_of, step_page
from ditto_run.web.pages.sheets import show_sheet
from ditto_run.web.probing import PROBED, probed_texts
from ditto_run.web.seen import Seen
from ditto_run.web.told import told

router = APIRouter(prefix="/jobs/{job_id}/place")


@router.get("/find", name="place_find")
def show_index(job_id: int, desk: DeskDep, render: RenderDep) -> HTMLResponse:
    """Show every way of finding zero, and which offsets still want one."""
    plan = desk.jobs.load(job_id).plan
    machines = machines_of(plan, desk.shop.load())
    return step_page(
        "place",
        job_id,
        desk,
        render,
        template="place/find.html",
        view="find",
        sheets=FIND_SHEETS,
        probed=PROBED,
        zeros=zeros_to_find(desk, plan),
        by_hand=bool(machines) and all(m is not None and m.is_manual for m in machines),
    )


@router.get("/probe/{kind}", name="place_probe")
def probe(
    job_id: int,
    kind: str,
    desk: DeskDep,
    render: RenderDep,
    station: Annotated[str, Query(max_length=20)] = "",
    crooked: bool = False,
    chip: bool = False,
    scatter: Literal["2", "10", "30"] = "2",
    wrong: bool = False,
) -> HTMLResponse:
    """Fill a sheet from the simulated probe at a station of the layout; nothing is kept."""
    plan = desk.jobs.load(job_id).plan
    setup_key, label = _station_of(plan, station)
    station_at = station_of(plan, setup_key, label)
    machine = desk.shop.load().machines.get(plan.machine_of(station_at) or 0) if station_at else None
    if station_at is None or machine is None or machine.bed is None:
        raise BadEntry(
            "The table of this station's machine is not measured.",
            "Measure it on Shop, under Table.",
            "station",
        )
    mine = [
        standing
        for standing in standings(plan, setup_key, machine.bed, station_at.cycle)
        if standing.placed.setup == setup_key
    ]
    texts = probed_texts(
        kind, machine, mine, label, Faults(int(scatter) / 1000, crooked=crooked, chip=chip, wrong=wrong)
    )
    return show_sheet("place", kind, job_id, desk, render, typed=texts, target=station)


def station_of(plan: Plan, setup_key: int, label: str) -> Station | None:
    """Return the station of a setup with that label, or None."""
    return next((s for s in plan.stations_of(setup_key) if s.label == label), None)


def _station_of(plan: Plan, text: str) -> tuple[int, str]:
    setup, _, label = text.partition("|")
    if not setup.isdigit() or not label:
        raise BadEntry("No station is chosen.", "Choose one of the layout.", "station")
    return plan.setup(int(setup)).key, label


@router.post("/zeros", name="place_zeros")
def write_zeros(job_id: int, sent: SentDep, desk: DeskDep, who: WhoDep) -> Response:
    """Write what a sheet has found to the register; a station's own shift is taken off first."""
    plan = desk.jobs.load(job_id).plan
    target = _target(desk, plan, sent.get("target", ""))
    axes: dict[Axis, Decimal | None] = {}
    for axis in AXES:
        if sent.get(axis):
            value = _found(sent[axis]) - target.shift_mm.get(axis, Decimal(0))
            axes[axis] = read_axis(
                axis, f"{value:f}{' mm' if axis in LINEAR else ''}", target.machine, "target"
            )
    if sent.get("keep", "") != sent.get("target", ""):
        _ask_if_elsewhere(desk, plan, target, axes)
    change = OffsetChange(target.code, axes, sent.get("how", ""), typed=sent.get("typed", ""))
    written = desk.offsets.write(target.machine, [change], who)
    own = next((s.key for s in plan.setups if s.machine_id == target.machine.id), "")
    setup = Seen(target.setup, target.cycle) if target.setup else own
    page = f"/jobs/{job_id}/place/offsets?setup={setup}&code={target.code.replace(' ', '+')}"
    return told(RedirectResponse(page, 303), written_words(target.code, written))


@dataclass(frozen=True, slots=True)
class _Target:
    """Where a found zero goes: the machine's offset, and the shift of a station that is taken off first, [mm]."""

    machine: Machine
    code: str
    shift_mm: dict[str, Decimal]
    setup: int = 0
    cycle: int = 0


def _ask_if_elsewhere(desk: Desk, plan: Plan, target: _Target, axes: Mapping[Axis, Decimal | None]) -> None:
    """Ask before a zero is written that lies where its station is not drawn: it was touched at another one.

    Raises:
        NeedsAnswer: with what the layout says; the same target again keeps it.
    """
    laid = laid_out(desk, plan, target.setup, target.cycle) if target.setup else None
    if laid is None or target.machine.bed is None:
        return
    found = {axis: value for axis, value in axes.items() if value is not None}
    zero = Offset(target.code, found, target.machine.wear.unit)
    twins = elsewhere(laid.standings, laid.offsets, target.machine.bed, zero)
    if twins is not None:
        own, nearer = twins
        raise NeedsAnswer(
            f"The drawing puts {nearer.label} there, not {own.label}.",
            f"Choose {nearer.label} if it was touched there, or write it to {own.label} all the same.",
            "target",
        )


def _target(desk: Desk, plan: Plan, text: str) -> _Target:
    first, _, rest = text.partition("|")
    machines = desk.shop.load().machines
    if first.startswith("m") and first[1:].isdigit() and rest:
        machine = machines.get(int(first[1:]))
        if machine is None:
            raise NotFound("machine", first[1:], "Choose one on Shop.")
        return _Target(machine, rest, {})
    setup_key, label = _station_of(plan, text)
    station = station_of(plan, setup_key, label)
    machine = machines.get(plan.machine_of(station) or 0) if station else None
    if station is None or machine is None or station.offset is None:
        raise BadEntry("That station has no work offset.", "Give it one on Setting out.", "target")
    shift_mm = dict(zip("xyz", station.shift_mm, strict=True))
    return _Target(machine, station.offset, shift_mm, setup_key, station.cycle)


def _found(text: str) -> Decimal:
    try:
        value = Decimal(text)
    except ArithmeticError:
        raise BadEntry(f"“{text[:20]}” is not a coordinate.", "Work the sheet out again.", "target") from None
    if not value.is_finite():
        raise BadEntry(f"“{text[:20]}” is not a coordinate.", "Work the sheet out again.", "target")
    return value
