"""A first plan proposed: setups and tools of a part of twenty features, with thirty holders and sixty tools."""

from collections.abc import Callable
from decimal import Decimal
from time import process_time

from bench.alone import shown
from ditto_run.core.edits import AddFeatureLines, PlanRegisters, apply_edit
from ditto_run.core.part import Heading
from ditto_run.core.plan import Plan
from ditto_run.core.plan.worked import work_out
from ditto_run.core.propose.judged import judged
from ditto_run.core.propose.proposal import ToolsThere, propose_tools
from ditto_run.core.propose.setups import HoldsThere, propose_setups
from ditto_run.core.shop.drawers import Holder
from ditto_run.core.shop.shop_tools import ShopTool

Say = Callable[[str, float, float, str], None]
KINDS = ("end mill", "drill", "tap", "chamfer", "spot drill", "face mill", "reamer", "boring bar")


def part() -> Plan:
    """Return a block of twenty features on five faces."""
    lines = [
        "block 120 x 80 x 40",
        "face top",
        "face bottom",
        "face left",
        "slot 12 ±0.1 x 8 deep, full length, top",
    ]
    for n, (face, across, up) in enumerate(
        (face, 10 + 9 * n, 10 + 6 * n) for face in ("top", "bottom", "left") for n in range(5)
    ):
        places = {
            "top": f"{across} from left, {up} from front",
            "bottom": f"{across} from left, {up} from front",
            "left": f"{across} from front, {up} from bottom",
        }
        lines.append(f"hole {3 + n % 4} x 6 deep, {face}, {places[face]}")
    plan = Plan(Heading("Bench block", 24, "mm"))
    return apply_edit(AddFeatureLines("\n".join(lines)), plan, PlanRegisters()).plan


def bench_propose(say: Say) -> None:
    """Say how long proposals take.

    Args:
        say: prints a figure beside its limit.
    """
    plan = part()
    holders = tuple(
        Holder(f"Vise {n}", "vise", "flat", Decimal(0), Decimal(60 + 5 * n), "light", None, "", "", "", "")
        for n in range(30)
    )
    tools = tuple(
        ShopTool(f"T{n:02d} {KINDS[n % 8]}", n, "", KINDS[n % 8], Decimal(3 + n % 14)) for n in range(1, 61)
    )
    drills = tuple((f"{n / 10} mm", Decimal(n) / 10) for n in range(10, 131))
    began = process_time()
    chains = propose_setups(plan.chain, plan.described, HoldsThere(1, 2, holders))
    first = process_time() - began
    best = judged(plan, chains[0], work_out)
    keys = {key for one in best.chain.setups for key in one.cuts}
    features = [one for one in plan.described if one.key in keys]
    propose_tools(features, ToolsThere(tools, drills), turned=False)
    print(f"       {len(plan.features)} features, {len(best.chain.setups)} setups, {len(best.asks)} asked")
    say("setups proposed, the first shown", first, 1, "s")
    say("setups held to every check, and their tools", process_time() - began, 3, "s")


if __name__ == "__main__":
    bench_propose(shown)
