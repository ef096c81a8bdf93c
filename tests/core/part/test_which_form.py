"""Block or turned: by the first line, by what was chosen beside it, by the shop's machines."""

import pytest

from ditto_run.core.edits import SetFeatureLine, apply_edit
from ditto_run.core.part import Heading
from ditto_run.core.part.features import form_of_first, form_of_shop
from ditto_run.core.plan import Plan
from tests.conftest import SHOP


@pytest.mark.parametrize(
    ("line", "form"),
    [
        ("body Ø1 x 3/4", "turned"),
        ("body 1.000 x 0.75", "block"),  # it may be either: the form stays as it was chosen
        ("block 2 x 1 x 3/4", "block"),
        ("body 2 x 1 x 3/4", "block"),
        ("plate 2 x 1", "block"),  # no turned part is called so
        ("shoulder 0.6 x 0.25 long, free end", "turned"),
        ("hole 1/4 x 1/2 deep, top", "block"),
    ],
)
def test_the_first_line_says_the_form(line: str, form: str) -> None:
    assert form_of_first(line, "block", "in") == form


def test_what_is_chosen_beside_the_first_line_counts_and_beside_a_later_one_no_more() -> None:
    plan = Plan(Heading("Nut", 50, "in"))
    first = apply_edit(SetFeatureLine("hole 1/4 through, free end", part_form="turned"), plan, SHOP).plan
    assert first.form == "turned"
    later = apply_edit(SetFeatureLine("face, free end", part_form="block"), first, SHOP).plan
    assert later.form == "turned"


def test_a_shop_of_lathes_begins_with_turned_parts() -> None:
    assert form_of_shop([True, True]) == "turned"
    assert form_of_shop([True, False]) == "block"
    assert form_of_shop([]) == "block"
