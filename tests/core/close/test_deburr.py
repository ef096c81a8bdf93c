"""The edges that are left on a piece, from its features; broken by a step, by the feature's own chamfer, or by hand."""

from ditto_run.core.close.deburr import HAND_S, SharpEdge, by_hand_s, sharp_edges
from ditto_run.core.edits import SetFeatureLine, SetToolStep, apply_edit
from ditto_run.core.plan import Plan
from tests.conftest import SHOP, planned


def part(*lines: str) -> Plan:
    plan = planned()
    for line in lines:
        plan = apply_edit(SetFeatureLine(line), plan, SHOP).plan
    return plan


def test_each_feature_leaves_its_edges() -> None:
    """Own derivation: two holes through have two mouths each; a blind tapped hole one."""
    found = sharp_edges(
        part("block 60 x 40 x 30", "2 holes 6.6 through on top, 40 apart", "tapped hole M6 x 12 deep on top")
    )
    by = {one.feature: one for one in found}
    counts = {name: one.count for name, one in by.items()}
    assert sorted(counts.values()) == [1, 2, 4]
    assert {one.where for one in found} == {"inside", "outside"}
    assert by_hand_s(found) == sum(counts.values()) * HAND_S


def test_a_step_that_chamfers_the_feature_takes_it_from_the_hand() -> None:
    plan = part("bore: bore 12 through on top")
    (bore,) = sharp_edges(plan)
    assert bore.tool == ""
    plan = apply_edit(SetToolStep(plan.setups[0].key, 8, "chamfer bore", "10", "5"), plan, SHOP).plan
    (bore,) = sharp_edges(plan)
    assert bore.tool.endswith("chamfer bore")
    assert by_hand_s((bore,)) == 0


def test_those_by_hand_come_first_and_a_part_without_features_has_none() -> None:
    assert sharp_edges(planned()) == ()
    plan = part("bore: bore 12 through on top", "hole: hole 5 through on top")
    plan = apply_edit(SetToolStep(plan.setups[0].key, 8, "chamfer bore", "10", "5"), plan, SHOP).plan
    assert [bool(one.tool) for one in sharp_edges(plan)] == [False, True]
    assert isinstance(sharp_edges(plan)[0], SharpEdge)
