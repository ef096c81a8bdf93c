"""What a revision keeps of the shop, and what has changed in it since."""

from collections.abc import Mapping
from dataclasses import replace

from ditto_run.core.plan.document import Plan
from ditto_run.core.plan.shop_known import ShopKnown
from ditto_run.core.plan.worked import Worked
from ditto_run.core.sheet_kinds import sheet_of


def shop_used(plan: Plan, shop: ShopKnown) -> ShopKnown:
    """Return what of the shop a plan uses: the machines, materials and holders it names, the drawers if it has sheets.

    Args:
        plan: the plan that is frozen.
        shop: the shop as it is now.
    """
    plans = [part.plan for part in plan.all_parts]
    sheets = [sheet for one in plans for sheet in one.sheets]
    chosen = {
        (entry.kind, sheet.texts.get(entry.name, ""))
        for sheet in sheets
        for entry in sheet_of(sheet.kind).entries
    }
    held = {placed.holder for one in plans for placed in one.placed}
    machines = {setup.machine_id for one in plans for setup in one.setups}
    machines |= {cycle.machine_id for cycle in plan.cycles}
    return replace(
        replace(shop, taught=(), rates={}, tools={}) if sheets else ShopKnown(money=shop.money),
        machines={
            number: machine
            for number, machine in shop.machines.items()
            if number in machines or ("machine", str(number)) in chosen
        },
        materials={name: row for name, row in shop.materials.items() if ("material", name) in chosen},
        holders={
            name: row for name, row in shop.holders.items() if name in held or ("holder", name) in chosen
        },
    )


def changed_since(frozen: Worked, now: Worked) -> tuple[str, ...]:
    """Return what comes out otherwise with the shop of today than with the shop a revision was frozen with.

    Args:
        frozen: the revision's plan, worked out with the shop it was frozen with.
        now: the same plan, worked out with the shop of today.

    Returns:
        One sentence for each thing of the shop that was changed or is gone, and each kept sheet that answers otherwise.
    """
    was, is_now = frozen.shop, now.shop
    found = [
        *_rows_changed(
            {m.name: m for m in was.machines.values()}, {m.name: m for m in is_now.machines.values()}
        )
    ]
    found += _rows_changed(was.materials, is_now.materials)
    found += _rows_changed(was.holders, is_now.holders)
    for sheet in frozen.plan.sheets:
        before, after = frozen.answers.get(sheet.key), now.answers.get(sheet.key)
        if before != after:
            found.append(f"{sheet.name} comes out otherwise now.")
    return tuple(found)


def _rows_changed(before: Mapping[str, object], after: Mapping[str, object]) -> list[str]:
    return [
        f"{name} was changed." if name in after else f"{name} is no longer there."
        for name, row in before.items()
        if after.get(name) != row
    ]
