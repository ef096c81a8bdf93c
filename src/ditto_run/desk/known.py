"""What the job and the shop know when a sheet is worked out on a page or by a program."""

from dataclasses import replace

from ditto_run.core.plan import Plan, known_of
from ditto_run.core.sheets import Known
from ditto_run.core.shop.drawers import drawer_of
from ditto_run.desk.desk import Desk


def sheet_known(desk: Desk, plan: Plan) -> Known:
    """Return what the job and the shop know for a sheet; without a drawer of drills every standard one stands in."""
    shop = desk.shop.load()
    known = known_of(
        plan, shop.machines, {row.value.name: row.value for row in desk.drawers.rows("materials")}
    )
    drills = [row.value for row in desk.drawers.rows("drills")]
    drawer = drawer_of("drills")
    standard = [] if drills else [drawer.value(texts, "mm") for texts in drawer.standard()]
    return replace(
        known,
        money=shop.money,
        drills=tuple((drill.name, drill.diameter_mm) for drill in (*drills, *standard)),
        whole_drawer=not drills,
        reamers=tuple((row.value.name, row.value.cuts_mm) for row in desk.drawers.rows("reamers")),
        taps=tuple((row.value.thread, row.value.lead) for row in desk.drawers.rows("taps")),
        holders={row.value.name: row.value for row in desk.drawers.rows("holders")},
    )
