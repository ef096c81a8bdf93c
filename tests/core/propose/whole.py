"""A small shop and parts for whole plans: two mills, three vises alike, a lathe of each kind."""

from dataclasses import replace
from decimal import Decimal

from ditto_run.core.edits import AddFeatureLines, apply_edit
from ditto_run.core.part import Heading
from ditto_run.core.plan import Plan, ShopKnown, Worked, work_out
from ditto_run.core.propose.drafts import WholeGround, whole_ground
from ditto_run.core.propose.setup_tools import Owned
from ditto_run.core.shop import Ability, Machine
from ditto_run.core.shop.drawers import Holder
from tests.conftest import SHOP

MM = Decimal
CODES = ("G54", "G55", "G56", "G57", "G58", "G59")
FAST = Ability(MM("5.5"), MM(40), MM(8000), rapid_m_min=MM(24), accel_m_s2=MM(3), change_s=MM(6))
SLOW = Ability(MM("1.5"), MM(40), MM(3000))
MACHINES = {
    1: Machine(1, "Mill 2", "mill", CODES, ability=FAST),
    2: Machine(2, "Old mill", "manual mill", ability=SLOW),
    3: Machine(3, "Lathe 1", "lathe", ability=FAST),
    4: Machine(4, "Hand lathe", "manual lathe", ability=SLOW),
}
DRILLS = tuple((f"{MM(n) / 10} mm", MM(n) / 10) for n in range(10, 131))
RATES = {"labour": 4200, "mill 2": 3800, "old mill": 1200, "lathe 1": 3400, "hand lathe": 800}
BLOCK = """block 60 x 40 x 20
face top
face bottom
bore 12 H7 through, top, 30 from left, 20 from front
slot 8 ±0.05 x 6 deep, full length, bottom"""
PIN = """body 16 x 60
face, free end
groove 2 wide to Ø12 at 30
shoulder 10 x 12, chuck end"""


def vise(name: str, high: str = "100") -> Holder:
    return Holder(name, "vise", "flat", MM(0), MM(high), "light", None, "", "", "", "")


VISES = {name: vise(name) for name in ("Vise 1", "Vise 2", "Vise 3")}
REAMERS = (("12 mm", MM("12.006")),)


def shop(**more: object) -> ShopKnown:
    known = ShopKnown(MACHINES, holders=VISES, drills=DRILLS, reamers=REAMERS, rates=RATES)
    return replace(known, **more)


def part(lines: str = BLOCK, many: int = 48, form: str = "block", **more: object) -> Plan:
    heading = Heading("Gate block", many, "mm", material="6061-T6", **more)  # type: ignore[arg-type] # of its fields
    return apply_edit(AddFeatureLines(lines), Plan(heading, form=form), SHOP).plan  # type: ignore[arg-type] # of Form


def ground(plan: Plan, known: ShopKnown | None = None, owned: Owned | None = None) -> WholeGround:
    there = known or shop()

    def tried(one: Plan) -> Worked:
        return work_out(one, there)

    return whole_ground(tried(plan), owned or Owned(), tried)
