"""A table and holders to lay out in tests: made up, in round numbers."""

from dataclasses import replace
from decimal import Decimal as D

from ditto_run.core.edits import Edit, PlanRegisters, SetSetup, apply_edit
from ditto_run.core.part import Heading
from ditto_run.core.place import Layout, Placed, Standing, Station, stand
from ditto_run.core.plan import Plan
from ditto_run.core.sheets import Entries
from ditto_run.core.shop import Ability, Bed, Body, Machine, read_codes
from ditto_run.core.shop.bed import LABELS, read_bed
from ditto_run.core.shop.drawers import drawer_of

TABLE = {
    "table_x": "800",
    "table_y": "400",
    "slots": "3",
    "slot_first": "100",
    "slot_pitch": "100",
    "slot_width": "14",
    "reach_from": "50,20",
    "home": "right back",
    "nose": "600",
    "keep_outs": "column cover: 0,420 800,460\ndoor: 790,0 860,200",
}
TRAVEL = (D(700), D(360), D(450))


def bed(**changed: str) -> Bed:
    return read_bed(Entries(TABLE | changed, "mm", LABELS), TRAVEL)


BED = bed()
MILL = Machine(
    1,
    "Mill 2",
    "mill",
    read_codes("G54-G59, G54.1 P1-P48"),
    ability=Ability(travel_x_mm=D(700), travel_y_mm=D(360), travel_z_mm=D(450)),
    bed=BED,
)
VISE = Body(
    (D(100), D(200)),
    D(110),
    D(80),
    jaw_mm=D(100),
    jaw_at_mm=D(30),
    opens_mm=D(120),
    handle=(D(50), D(-20)),
    swing_mm=D(40),
    bolts=((D(5), D(100)), (D(95), D(100))),
)
PALLET = Body(
    (D(200), D(200)),
    D(40),
    D(40),
    origin=(D(100), D(100)),
    nests=((D(50), D(50)), (D(150), D(50)), (D(50), D(150)), (D(150), D(150))),
)
PIECE = Layout(1, (D(60), D(40), D(32)), cutter_mm=D(20), longest_mm=D(150), shortest_mm=D(80))


def vise(key: int = 1, left: float = 200, front: float = 100, **more: object) -> Placed:
    """Return a vise with its left front corner there."""
    placed = Placed(key, 1, f"Vise {key}", VISE, D(str(left)) + 50, D(str(front)) + 100)
    return replace(placed, **more)  # type: ignore[arg-type]


def standing(placed: Placed, labels: str = "A", layout: Layout = PIECE, table: Bed = BED) -> Standing:
    nests = len(placed.body.nests)
    names = [f"{labels}{n + 1}" for n in range(nests)] or [*labels]
    stations = [Station(1, name, offset="G54", placed=placed.key, nest=n) for n, name in enumerate(names)]
    return stand(placed, tuple(stations), layout, table)


def holder(name: str, **texts: str) -> object:
    row = {"name": name, "kind": "vise", "shape": "flat", "low": "0", "high": "120", "marks": "light"}
    return drawer_of("holders").value(row | texts, "mm")


HOLDERS = {
    "Vise": holder(
        "Vise",
        body_x="100",
        body_y="200",
        tall="110",
        seat="80",
        jaw_width="100",
        jaw_at="30",
        bolts="5,100 95,100",
    ),
    "Pallet": holder(
        "Pallet",
        body_x="200",
        body_y="200",
        tall="40",
        seat="40",
        origin="100,100",
        nests="rows 2 x 2 at 100,100 from 50,50",
    ),
    "Unmeasured": holder("Unmeasured"),
}
SHOP = PlanRegisters({1: MILL, 2: Machine(2, "Old mill", "manual")}, holders=HOLDERS)


def laid_out(*edits: Edit, machine: int = 1, shop: PlanRegisters = SHOP) -> Plan:
    """Return a plan of one setup on the mill after some edits; the setup has key 1."""
    plan = Plan(Heading("Clamp block", 48))
    for edit in (SetSetup("first side", machine, "vises", "stop"), *edits):
        plan = apply_edit(edit, plan, shop).plan
    return plan
