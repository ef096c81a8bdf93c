"""What the tests of Place's pages share: a job on a measured table, its changes, its offsets."""

from decimal import Decimal as D

from starlette.testclient import TestClient

from ditto_run.core.edits import PlaceHolder, SetLayout, SetSetup, SetToolStep, apply_edit
from ditto_run.core.part import Heading
from ditto_run.core.plan import Plan
from ditto_run.core.shop import Ability, Machine, read_codes
from ditto_run.desk import Desk
from tests.core.place.layouts import BED
from tests.core.place.layouts import TABLE as BED_TEXTS

HX = {"HX-Request": "true"}
ROW = {"kind": "vise", "shape": "flat", "low": "0", "high": "120", "marks": "light"}
TABLE = BED_TEXTS | {
    "slots_run": "X",
    "keep_outs": "door: 790,0 860,200",
    "corner": "back left",
    "stop_side": "left",
    "zero_at": "top of the piece",
    "placing": "0.5",
}


def lay_out(desk: Desk) -> int:
    """A job with two vises and a pallet on a measured table; its setup has key 1, its machine number 2."""
    ability = Ability(travel_x_mm=D(700), travel_y_mm=D(360), travel_z_mm=D(450))
    number = desk.shop.save_machine(
        Machine(0, "Mill 3", "mill", read_codes("G54-G59, G54.1 P1-P9"), ability=ability, bed=BED)
    )
    for name, body in (
        (
            "Vise",
            {
                "body_x": "100",
                "body_y": "200",
                "tall": "110",
                "seat": "80",
                "jaw_width": "100",
                "jaw_at": "30",
                "bolts": "5,100 95,100",
            },
        ),
        (
            "Pallet",
            {
                "body_x": "200",
                "body_y": "200",
                "tall": "40",
                "seat": "40",
                "origin": "100,100",
                "nests": "rows 2 x 2 at 100,100 from 50,50",
            },
        ),
        ("Bare", {}),
    ):
        desk.drawers.save("holders", 0, ROW | {"name": name} | body)
    plan, shop = Plan(Heading("Clamp block", 12)), desk.jobs.registers()
    for edit in (
        SetSetup("first side", number, "vises", "stop", "0:30"),
        SetLayout(1, "60", "40", "32", cutter="20"),
        SetToolStep(1, 3, "slot", "60", "20"),
        PlaceHolder(1, "Vise", left="100", front="100"),
        PlaceHolder(1, "Vise", left="260", front="100"),
        PlaceHolder(1, "Pallet", left="480", front="100"),
    ):
        plan = apply_edit(edit, plan, shop).plan
    return desk.jobs.new(plan, "RK")


def edit(client: TestClient, desk: Desk, job: int, **fields: object):
    form = {"version": desk.jobs.load(job).version, "step": "place", "view_setup": "1"} | fields
    return client.post(f"/jobs/{job}/plan", data=form, headers=HX)


def setting(client: TestClient) -> None:
    for code, x in (("G54", "-630"), ("G55", "-470"), ("G56", "-170")):
        client.post(
            "/shop/machines/2/offsets", data={"code": code, "x": x, "y": "-110", "z": "-488"}, headers=HX
        )
    client.post(
        "/shop/machines/2/offsets", data={"code": "G59", "x": "1", "kept": "true", "name": "base"}, headers=HX
    )
