"""Layouts, work offsets and tables as JSON. A layout is changed by the edits of a plan."""

from dataclasses import replace
from datetime import datetime
from decimal import Decimal
from typing import Annotated, Any

from fastapi import APIRouter, Body, Query
from pydantic import BaseModel, Field
from pydantic_core import to_jsonable_python

from ditto_run.core.place.offsets import Axis, OffsetChange, read_axis
from ditto_run.core.plan.programmed import usual_dialect
from ditto_run.core.program.dialect import changed_keys, with_keys
from ditto_run.core.sheets import Entries
from ditto_run.core.shop import Bed, Dialect
from ditto_run.core.shop.abilities import read_table
from ditto_run.core.shop.bed import LABELS
from ditto_run.desk.layouts import laid_out
from ditto_run.web.api.errors import ERRORS, Number
from ditto_run.web.api.strict import Sent
from ditto_run.web.dependencies import DeskDep, WhoDep

router = APIRouter(prefix="/api/v1", tags=["place"], responses=ERRORS)
CycleQuery = Annotated[int, Query(ge=0, le=2**31)]
Texts = dict[str, Annotated[str, Field(max_length=2000)]]


class SeatOut(BaseModel):
    """One station of a layout: its zero on the table, and what its offset should read."""

    label: str
    offset: str | None
    zero_mm: tuple[Decimal, Decimal, Decimal]
    corner: str


class StandingOut(BaseModel):
    """One placed holder."""

    key: int
    setup: int
    holder: str
    left_mm: Decimal
    front_mm: Decimal
    turn: Decimal
    stations: list[SeatOut]


class ClashOut(BaseModel):
    """One thing wrong with a layout."""

    code: str
    weight: str
    says: str
    way_out: str
    by_mm: float


class LayoutOut(BaseModel):
    """The layout of a setup: what stands on the table while it runs, and what is wrong."""

    machine: int | None
    standings: list[StandingOut]
    clashes: list[ClashOut]
    expected: Any


@router.get("/jobs/{job_id}/layout/{setup}")
def layout(job_id: Number, setup: Number, desk: DeskDep, cycle: CycleQuery = 0) -> LayoutOut:
    """Return the layout of a setup, checked; `cycle` says which where it is cut in several, 0 the first."""
    plan = desk.jobs.load(job_id).plan
    plan.setup(setup)
    laid = laid_out(desk, plan, setup, cycle)
    return LayoutOut(
        machine=laid.machine.id if laid.machine else None,
        expected=to_jsonable_python(laid.expected),
        standings=[
            StandingOut(
                key=s.placed.key,
                setup=s.placed.setup,
                holder=s.placed.holder,
                left_mm=s.placed.left_mm,
                front_mm=s.placed.front_mm,
                turn=s.placed.turn,
                stations=[
                    SeatOut(
                        label=seat.label, offset=seat.station.offset, zero_mm=seat.zero_mm, corner=seat.corner
                    )
                    for seat in s.seats
                ],
            )
            for s in laid.standings
        ],
        clashes=[
            ClashOut(code=c.code, weight=c.weight, says=c.says, way_out=c.way_out, by_mm=c.by_mm)
            for c in laid.clashes
        ],
    )


class OffsetOut(BaseModel):
    """One line of the register."""

    number: int
    code: str
    axes: dict[Axis, Decimal]
    unit: str
    kept: bool
    name: str
    purpose: str
    who: str
    at: datetime | None
    how: str


class ChangeIn(Sent):
    """What is to be written: axes as typed, empty takes one out; a kept offset wants its name in `typed`."""

    code: Annotated[str, Field(max_length=20)]
    axes: dict[Axis, Annotated[str, Field(max_length=40)]] = Field(default_factory=dict)
    how: Annotated[str, Field(max_length=200)] = ""
    kept: bool | None = None
    name: Annotated[str, Field(max_length=40)] | None = None
    purpose: Annotated[str, Field(max_length=200)] | None = None
    typed: Annotated[str, Field(max_length=40)] = ""


@router.get("/shop/machines/{number}/offsets")
def offsets(number: Number, desk: DeskDep) -> list[OffsetOut]:
    """Return a machine's offsets as they stand."""
    desk.shop.machine(number)
    return [OffsetOut.model_validate(o, from_attributes=True) for o in desk.offsets.of(number).values()]


@router.get("/shop/machines/{number}/offsets/history")
def history(
    number: Number, desk: DeskDep, code: Annotated[str, Query(max_length=20)] = ""
) -> list[OffsetOut]:
    """Return the lines of a machine's register, or of one offset, oldest first."""
    desk.shop.machine(number)
    return [OffsetOut.model_validate(o, from_attributes=True) for o in desk.offsets.history(number, code)]


@router.post("/shop/machines/{number}/offsets")
def write(
    number: Number, changes: Annotated[list[ChangeIn], Body(max_length=400)], desk: DeskDep, who: WhoDep
) -> list[OffsetOut]:
    """Write to the register: all changes or none."""
    machine = desk.shop.machine(number)
    found = [
        OffsetChange(
            c.code,
            {axis: read_axis(axis, text, machine, axis) for axis, text in c.axes.items()},
            c.how,
            c.kept,
            c.name,
            c.purpose,
            typed=c.typed,
        )
        for c in changes
    ]
    desk.offsets.write(machine, found, who)
    return offsets(number, desk)


@router.put("/shop/machines/{number}/table")
def set_table(number: Number, texts: Texts, desk: DeskDep) -> Bed:
    """Keep a machine's table, typed as on its page."""
    entries = Entries(texts, desk.shop.load().length_unit, LABELS)
    bed, ability = read_table(entries, desk.shop.machine(number).ability)
    desk.shop.save_bed(number, bed, ability)
    return bed


@router.put("/shop/machines/{number}/dialect")
def set_dialect(number: Number, dialect: Dialect, desk: DeskDep) -> Dialect:
    """Keep how a machine's control reads G10, and programs; keys of its table as they are typed."""
    machine = desk.shop.machine(number)
    name = dialect.reads or usual_dialect(replace(machine, dialect=dialect))
    kept = replace(dialect, keys=changed_keys(name, with_keys(name, dict(dialect.keys))))
    desk.shop.save_dialect(number, kept)
    return kept
