"""A part of 60 features and six setups of it, for the figures of Part and Hold."""

from ditto_run.core.edits import AddFeatureLines, PlanRegisters, SetSetup, apply_edit
from ditto_run.core.part import Heading
from ditto_run.core.plan import Plan

NO_SHOP = PlanRegisters()


def many_features(count: int = 60) -> list[str]:
    """Return a plate's lines: its outline, two faces, and holes, slots and pockets in rows."""
    lines = ["plate 400 x 300 x 40", "face, top", "face, bottom"]
    for i in range(count - len(lines)):
        x, y = 25 + 40 * (i % 9), 25 + 38 * (i // 9 % 7)
        lines.append(
            (
                f"bore 12 H7 through, {x} from left, {y} from front, top",
                f"M6 x 12 deep, {x} from left, {y} from front, top",
                f"pocket 20 x 14 x 6 deep, R3, {x - 10} from left, {y - 7} from front, top",
                f"hole 5 x 30 deep, {x} from left, 20 from bottom, {'front' if i % 2 else 'back'}",
            )[i % 4]
        )
    return lines


def featured_plan(setups: int = 6, count: int = 60) -> Plan:
    """Return a plan of that part, its features shared by the setups."""
    plan = Plan(Heading("Thole plate", 24, "mm"))
    plan = apply_edit(AddFeatureLines("\n".join(many_features(count))), plan, NO_SHOP).plan
    keys = [feature.key for feature in plan.features]
    for n in range(setups):
        seat = "bottom" if n % 2 == 0 else "top"
        edit = SetSetup(
            f"setup {n + 1}",
            locates_on=(seat,),
            clamps_on=("front", "back"),
            cuts=tuple(keys[n::setups]),
            parallels="17",
            jaw_high="25",
        )
        plan = apply_edit(edit, plan, NO_SHOP).plan
    return plan
