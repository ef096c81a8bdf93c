"""A short study of a gauge, on Shop: how well it repeats, what persons add, what a reading proves."""

from dataclasses import replace
from decimal import Decimal
from typing import Annotated

from fastapi import APIRouter, Form, Query
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from ditto_run.core.errors import BadEntry, DittoError, NotFound
from ditto_run.core.prove.study import GaugeStudied, study_of
from ditto_run.core.sheets.reader import read_as
from ditto_run.core.shop import Gauge
from ditto_run.core.units import convert
from ditto_run.desk import Desk
from ditto_run.web.dependencies import DeskDep, RenderDep
from ditto_run.web.told import told

router = APIRouter(prefix="/shop/gauges/{gauge_id}/study")
DIGITS = 3  # that of a standard deviation are kept


def _gauge(desk: Desk, gauge_id: int) -> Gauge:
    found = desk.shop.load().gauges.get(gauge_id)
    if found is None:
        raise NotFound("gauge", gauge_id, "Choose one on Shop.")
    return found


def _studied(gauge: Gauge, readings: str, width: str) -> GaugeStudied:
    apart = None
    if width.strip():
        apart = float(convert(read_as("length", width, gauge.unit, "width"), "mm", gauge.unit))
        if apart <= 0:
            raise BadEntry("The limits are no way apart.", "Type how far, such as 0.06.", "width")
    return study_of(readings, gauge.unit, float(gauge.resolution), apart)


@router.get("", name="gauge_study")
def show_page(
    gauge_id: int,
    desk: DeskDep,
    render: RenderDep,
    readings: Annotated[str, Query(max_length=8000)] = "",
    width: Annotated[str, Query(max_length=40)] = "",
) -> HTMLResponse:
    """Show the study of a gauge, and what it says."""
    gauge = _gauge(desk, gauge_id)
    found: GaugeStudied | None = None
    wrong: DittoError | None = None
    if readings.strip():
        try:
            found = _studied(gauge, readings, width)
        except DittoError as refused:
            wrong = refused
    return render(
        "shop/study.html",
        shop=desk.shop.load(),
        gauge=gauge,
        readings=readings,
        width=width,
        found=found,
        wrong=wrong,
    )


@router.post("", name="gauge_study_take")
def take(
    gauge_id: int,
    desk: DeskDep,
    readings: Annotated[str, Form(max_length=8000)],
    width: Annotated[str, Form(max_length=40)] = "",
) -> Response:
    """Keep how well the gauge repeats; the judgement on Run counts with it."""
    gauge = _gauge(desk, gauge_id)
    found = _studied(gauge, readings, width)
    desk.shop.save_gauge(replace(gauge, repeats=Decimal(f"{found.repeats_to:.{DIGITS}g}")))
    return told(
        RedirectResponse("/shop", 303), f"{gauge.name} repeats to {found.repeats_to:.{DIGITS}g} {gauge.unit}."
    )
