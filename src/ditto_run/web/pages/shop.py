"""Shop: the registers of machines, gauges and people."""

from decimal import Decimal
from typing import Annotated, Literal

from fastapi import APIRouter, Form
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from ditto_run.core.run.costs import COSTS_OF_PRACTICE, ESCAPE_TIMES
from ditto_run.core.sheets import Entries
from ditto_run.core.sheets.reader import read_as
from ditto_run.core.shop import MACHINE_KINDS, Gauge, Machine, MachineKind, Wear, read_codes
from ditto_run.core.shop.abilities import LABELS, read_ability
from ditto_run.core.shop.costs import SHOP_COSTS, read_costs
from ditto_run.core.shop.day import DAYS_WORDS, Days, read_day
from ditto_run.core.shop.drawers import DRAWERS
from ditto_run.core.units import UNIT_WORDS, LengthUnit, convert
from ditto_run.web.dependencies import DeskDep, RenderDep
from ditto_run.web.told import told

router = APIRouter(prefix="/shop")
COST_FIELDS = [(name, words, COSTS_OF_PRACTICE[name]) for name, words in SHOP_COSTS.items()]


def _back(words: str) -> Response:
    return told(RedirectResponse("/shop", 303), words)


@router.get("", name="shop_page")
def show_page(desk: DeskDep, render: RenderDep, machine: int = 0, gauge: int = 0) -> HTMLResponse:
    """Show the registers; `machine` or `gauge` opens one of them."""
    return render(
        "shop/page.html",
        shop=desk.shop.load(),
        drawers=DRAWERS,
        kinds=MACHINE_KINDS,
        days=DAYS_WORDS,
        costs=COST_FIELDS,
        escape_times=ESCAPE_TIMES,
        machine_id=machine,
        gauge_id=gauge,
        folder=desk.settings.folder,
    )


@router.post("/unit", name="shop_unit")
def save_unit(unit: Annotated[LengthUnit, Form()], desk: DeskDep) -> Response:
    """Keep the unit new jobs start with."""
    desk.shop.save_setting("unit", unit)
    return _back(f"New jobs start in {UNIT_WORDS[unit]}.")


@router.post("/machines", name="shop_machine")
def save_machine(
    desk: DeskDep,
    name: Annotated[str, Form()],
    kind: Annotated[MachineKind, Form()],
    offset_codes: Annotated[str, Form()] = "",
    by: Annotated[Literal["radius", "diameter"], Form()] = "diameter",
    bigger_is: Annotated[Literal["plus", "minus"], Form()] = "plus",
    increment: Annotated[str, Form(max_length=40)] = "0.001",
    unit: Annotated[LengthUnit, Form()] = "mm",
    machine_id: Annotated[int, Form()] = 0,
    power: Annotated[str, Form()] = "",
    torque: Annotated[str, Form()] = "",
    max_rpm: Annotated[str, Form()] = "",
    travel_x: Annotated[str, Form()] = "",
    travel_y: Annotated[str, Form()] = "",
    travel_z: Annotated[str, Form()] = "",
    bar: Annotated[str, Form()] = "",
    taps: Annotated[str, Form()] = "",
    swing: Annotated[str, Form()] = "",
    speeds: Annotated[str, Form(max_length=400)] = "",
    rapid: Annotated[str, Form()] = "",
    accel: Annotated[str, Form()] = "",
    change: Annotated[str, Form()] = "",
    longest: Annotated[str, Form()] = "",
    amps: Annotated[str, Form()] = "",
) -> Response:
    """Keep a machine."""
    wear = Wear(by, bigger_is, _step(increment, unit, "increment"), unit)
    typed = {
        "power": power,
        "torque": torque,
        "max_rpm": max_rpm,
        "travel_x": travel_x,
        "travel_y": travel_y,
        "travel_z": travel_z,
        "bar": bar,
        "taps": taps,
        "swing": swing,
        "speeds": speeds,
        "rapid": rapid,
        "accel": accel,
        "change": change,
        "longest": longest,
        "amps": amps,
    }
    ability = read_ability(Entries(typed, desk.shop.load().length_unit, LABELS))
    desk.shop.save_machine(Machine(machine_id, name, kind, read_codes(offset_codes), wear, ability))
    return _back(f"{'Changed' if machine_id else 'Added'} {name.strip()}.")


def _step(text: str, unit: LengthUnit, field: str) -> Decimal:
    return convert(read_as("length", text, unit, field), "mm", unit).normalize()


@router.post("/day", name="shop_day")
def save_day(
    desk: DeskDep,
    hours: Annotated[str, Form(max_length=60)] = "",
    breaks: Annotated[str, Form(max_length=200)] = "",
    days: Annotated[Days, Form()] = "5",
) -> Response:
    """Keep when the shop works."""
    day = read_day(hours, breaks, days)
    desk.shop.save_day(day)
    return _back("The day of the shop is kept; Run counts with it.")


@router.post("/costs", name="shop_costs")
def save_costs(
    desk: DeskDep,
    turn: Annotated[str, Form(max_length=40)] = "",
    gauge: Annotated[str, Form(max_length=40)] = "",
    check_gauge: Annotated[str, Form(max_length=40)] = "",
    stop: Annotated[str, Form(max_length=40)] = "",
    times: Annotated[str, Form(max_length=40)] = "",
) -> Response:
    """Keep what things cost at the machines."""
    typed = {"turn": turn, "gauge": gauge, "check_gauge": check_gauge, "stop": stop, "times": times}
    desk.shop.save_costs(read_costs(typed))
    return _back("What things cost is kept; the advice on Run counts with it.")


@router.post("/money", name="shop_money")
def save_money(desk: DeskDep, money: Annotated[str, Form(max_length=4)] = "") -> Response:
    """Keep the mark before a sum of money."""
    desk.shop.save_setting("money", money.strip())
    return _back("The mark of money is kept.")


@router.post("/angle", name="shop_angle")
def save_angle(desk: DeskDep, angle: Annotated[Literal["first", "third"], Form()]) -> Response:
    """Keep how three views of a part stand to each other."""
    desk.shop.save_setting("angle", angle)
    return _back(f"Parts are drawn in {angle} angle.")


@router.post("/gauges", name="shop_gauge")
def save_gauge(
    desk: DeskDep,
    name: Annotated[str, Form()],
    resolution: Annotated[str, Form(max_length=40)],
    unit: Annotated[LengthUnit, Form()],
    gauge_id: Annotated[int, Form()] = 0,
) -> Response:
    """Keep a gauge."""
    before = desk.shop.load().gauges.get(gauge_id)
    kept = before.repeats if before is not None and before.unit == unit else None
    desk.shop.save_gauge(Gauge(gauge_id, name, _step(resolution, unit, "resolution"), unit, kept))
    return _back(f"{'Changed' if gauge_id else 'Added'} {name.strip()}.")


@router.post("/people", name="shop_person")
def save_person(initials: Annotated[str, Form()], desk: DeskDep) -> Response:
    """Keep somebody's initials."""
    desk.shop.save_person(initials)
    return _back(f"{initials.strip().upper()} is listed.")


@router.post("/remove", name="shop_remove")
def remove(
    which: Annotated[Literal["machine", "gauge", "person"], Form()],
    key: Annotated[str, Form()],
    desk: DeskDep,
) -> Response:
    """Take a machine, gauge or person out of the lists."""
    desk.shop.remove(which, key)
    return _back(f"Removed the {which}.")
