"""A first plan proposed: a part of twenty features with five machines, thirty holders and sixty tools; and one of eighty."""

import gc
from collections.abc import Callable
from dataclasses import replace
from decimal import Decimal
from time import process_time

from bench.alone import shown
from ditto_run.core.edits import AddFeatureLines, PlanRegisters, apply_edit
from ditto_run.core.part import Heading
from ditto_run.core.plan import Plan, ShopKnown, Worked, work_out
from ditto_run.core.propose.choices import choices_of, picked, weighed
from ditto_run.core.propose.drafts import WholeGround, whole_ground
from ditto_run.core.propose.setup_tools import Owned
from ditto_run.core.propose.whole import figured, left_open, searched, two_of
from ditto_run.core.shop import Ability, Machine
from ditto_run.core.shop.drawers import Holder
from ditto_run.core.shop.shop_tools import ShopTool, by_number

Say = Callable[[str, float, float, str], None]
KINDS = ("end mill", "drill", "tap", "chamfer", "spot drill", "face mill", "reamer", "boring bar")
CODES = tuple(f"G{n}" for n in range(54, 60))
FEW, MANY = 20, 80


def part(features: int = FEW) -> Plan:
    """Return a block of so many features on three faces; a slot is one of them."""
    lines = [
        "block 120 x 80 x 40",
        "face top",
        "face bottom",
        "face left",
        "slot 12 ±0.1 x 8 deep, full length, top",
    ]
    for n in range(features - len(lines)):
        face, at = ("top", "bottom", "left")[n % 3], n // 3
        where = {
            "top": f"{6 + at % 12 * 9} from left, {8 + at // 12 * 24} from front",
            "bottom": f"{6 + at % 12 * 9} from left, {8 + at // 12 * 24} from front",
            "left": f"{6 + at % 7 * 10} from front, {8 + at // 7 * 7} from bottom",
        }[face]
        lines.append(f"hole {3 + n % 4} x 6 deep, {face}, {where}")
    plan = Plan(Heading("Bench block", 24, "mm", material="6061-T6"))
    return apply_edit(AddFeatureLines("\n".join(lines)), plan, PlanRegisters()).plan


def shop() -> tuple[ShopKnown, Owned]:
    """Return five machines, thirty holders of which each three are alike, and sixty tools."""
    able = Ability(Decimal(5), Decimal(40), Decimal(8000), change_s=Decimal(6))
    kinds = ("mill", "mill", "manual mill", "lathe", "manual lathe")
    machines = {
        n: Machine(n, f"Machine {n}", kind, () if "manual" in kind else CODES, ability=able)  # type: ignore[arg-type] # of its kinds
        for n, kind in enumerate(kinds, 1)
    }
    holders = {
        f"Vise {n}": Holder(
            f"Vise {n}", "vise", "flat", Decimal(0), Decimal(90 + 5 * (n // 3)), "light", None, "", "", "", ""
        )
        for n in range(30)
    }
    tools = tuple(
        ShopTool(f"T{n:02d} {KINDS[n % 8]}", n, "", KINDS[n % 8], Decimal(3 + n % 14)) for n in range(1, 61)
    )
    drills = tuple((f"{n / 10} mm", Decimal(n) / 10) for n in range(10, 131))
    rates = {"labour": 4200} | {f"machine {n}": 2000 + 100 * n for n in range(1, 6)}
    return ShopKnown(machines, holders=holders, drills=drills, rates=rates, tools=by_number(tools)), Owned(
        tools
    )


def bench_propose(say: Say) -> None:
    """Say how long proposals take.

    Args:
        say: prints a figure beside its limit.
    """
    known, owned = shop()

    def tried(plan: Plan) -> Worked:
        return work_out(plan, known)

    warm = whole_ground(tried(part(6)), owned, tried)
    searched(warm, "cost")
    for features, limit in ((FEW, 3.0), (MANY, 12.0)):
        plan = part(features)
        gc.collect()  # what lies about from before is not this one's
        began = process_time()
        ground = whole_ground(tried(plan), owned, tried)
        found = searched(ground, "cost")
        pair = two_of(found, plan.heading.quantity, "cost")
        first = process_time() - began
        left = left_open(ground, pair[-1])
        print(f"       {features} features: {len(found)} whole plans, {len(left)} things left open")
        say(f"{features} features, every whole plan searched: the two are there", first, limit / 3, "s")
        say(f"{features} features, with what they leave open", process_time() - began, limit, "s")
        if features == FEW:
            _changed(ground, say)


def _changed(ground: WholeGround, say: Say) -> None:
    """A changed choice: a way that no plan had yet, with its choices and what one of them turned down."""
    base = two_of(searched(ground, "cost"), 24, "cost")[-1]
    choice = next(one for one in choices_of(ground, base) if one.key.startswith("way:") and one.next_pick)
    gc.collect()
    began = process_time()
    one = figured(ground, picked(replace(base.picks), choice.next_pick))
    opened = next(each for each in choices_of(ground, one) if each.key.startswith("stations:"))
    weighed(ground, one, opened, "cost")
    say("a changed choice, with another one opened", (process_time() - began) * 1000, 150, "ms")


if __name__ == "__main__":
    bench_propose(shown)
