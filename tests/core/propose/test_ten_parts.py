"""Ten parts of unlike kinds, each with two plans written down by hand before the search was run: the better one is proposed.

A plan by hand is the faces that are up (block) or ahead (turned) in turn. The better one has fewer setups; where both have as
many, either may come. Common practice, no source.
"""

import pytest

from ditto_run.core.edits import AddFeatureLines, apply_edit
from ditto_run.core.part import Heading
from ditto_run.core.plan import Plan
from ditto_run.core.propose.setups import HoldsThere, propose_setups
from ditto_run.core.propose.whole import left_open, searched, two_of
from tests.conftest import SHOP
from tests.core.propose.whole import ground, part

BLOCKS: dict[str, tuple[str, tuple[str, ...], tuple[str, ...]]] = {
    "clamp block": (
        """block 60 x 40 x 25
face top
face bottom
bore 12 H7 through, top, 15 from left, 20 from front
slot 8 x 6 deep, full length, top""",
        ("top", "bottom"),
        ("bottom", "top", "front"),
    ),
    "backing plate": (
        """block 120 x 60 x 8
face top
face bottom
4 holes Ø6.6 through, on 100 x 40 centres, top""",
        ("top", "bottom"),
        ("top", "bottom", "left"),
    ),
    "stay end": (
        """block 50 x 20 x 20
hole 8 through, front, 12 from left, 10 from bottom
M6 tapped hole x 15 deep, left, 10 from front, 10 from bottom""",
        ("front", "left", "top"),
        ("left", "front", "top", "back"),
    ),
    "foot plate": (
        """block 200 x 90 x 6
hole 5 through, top, 20 from left, 20 from front
slot 20 x 60, through, top""",
        ("top",),
        ("top", "bottom"),
    ),
    "gate keeper": (
        """block 30 x 20 x 12
face top
hole 5 through, top, 15 from left, 10 from front
hole 3 x 6 deep, left, 10 from front, 6 from bottom
hole 3 x 6 deep, right, 10 from front, 6 from bottom""",
        ("top", "left", "right"),
        ("top", "left", "right", "bottom"),
    ),
    "drilled strap": (
        """block 80 x 15 x 5
hole 6 through, top, 10 from left, 7 from front""",
        ("top",),
        ("top", "bottom"),
    ),
}
TURNED: dict[str, tuple[str, tuple[str, ...], tuple[str, ...]]] = {
    "oarlock pin": (
        """body 13 x 70
face, free end
outside thread M12 x 20, free end""",
        ("free end",),
        ("free end", "chuck end"),
    ),
    "roller spindle": (
        """body 16 x 60
face, free end
shoulder 10 x 12, free end
groove 2 wide to Ø12 at 30
shoulder 10 x 12, chuck end""",
        ("free end", "chuck end"),
        ("free end", "chuck end", "free end"),
    ),
    "sleeve": (
        """body 20 x 25
face, free end
bore 14 H7 through, free end""",
        ("free end",),
        ("free end", "chuck end"),
    ),
    "cross drilled pin": (
        """body 10 x 40
face, free end
cross hole 3 through at 35""",
        ("free end", ""),
        ("free end", "chuck end", ""),
    ),
}


@pytest.mark.parametrize("name", [*BLOCKS, *TURNED])
def test_the_better_plan_by_hand_is_proposed(name: str) -> None:
    lines, better, worse = (BLOCKS | TURNED)[name]
    form = "turned" if name in TURNED else "block"
    plan = apply_edit(AddFeatureLines(lines), Plan(Heading(name, 12, "mm"), form=form), SHOP).plan  # type: ignore[arg-type] # of Form
    found = propose_setups(plan.chain, plan.described, HoldsThere(1, 2))
    assert found, name
    ups = [tuple(one.up for one in chain.setups) for chain in found]
    assert len(better) < len(worse)
    assert sorted(better) in [sorted(one) for one in ups], (better, ups)


@pytest.mark.parametrize("name", [*BLOCKS, *TURNED])
def test_two_unlike_whole_plans_are_proposed_that_nothing_stops(name: str) -> None:
    """By hand and by control are unlike; of the spindle the shop has no tool for a groove of 2 mm, and it is said."""
    lines, better, _ = (BLOCKS | TURNED)[name]
    there = ground(part(lines, 48, "turned" if name in TURNED else "block"))
    quick, thorough = two_of(searched(there, "cost"), 48, "cost")
    assert quick.makes != thorough.makes
    for one in (quick, thorough):
        assert one.drafted.unmade == (("groove",) if name == "roller spindle" else ())
        assert len(one.drafted.plan.setups) == len(better)
        assert not [f.problem for f in left_open(there, one) if f.weight == "stop"]
        assert one.total(48, "cost") > 0
    assert (quick.first_s or 0) <= (thorough.first_s or 0)
