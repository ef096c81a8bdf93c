"""Offcuts of the shelf before bars are bought: worked by hand."""

from decimal import Decimal as D

import pytest

from ditto_run.core.shop.drawers import Offcut
from ditto_run.core.stock.bars import cut_bar
from ditto_run.core.stock.blank import bar_blank, block_blank
from ditto_run.core.stock.cuts_sheet import Cuts
from ditto_run.core.stock.offcuts import grade_of, section_text, shelf_for

BLANK = bar_blank(D(12), D(86), D(0), D(1), D(0), D(0))  # Ø12, 88 long
CUT = cut_bar(D(3000), D(88), D(3), D(1), 32)


def cuts(start: int) -> Cuts:
    return Cuts(start, 32, -(-start // 32), CUT, CUT, None, D(60))


def offcut(name: str, length: int, material: str = "316", section: str = "Ø12") -> Offcut:
    return Offcut(name, material, section, D(length), "rack 2")


def test_a_fitting_offcut_takes_the_last_pieces_and_no_bar_is_bought_for_them() -> None:
    """740 − 60 − 1 = 679 over 91: 7 pieces. Of 70 to start, 63 are left: two bars, not three."""
    found = shelf_for([offcut("A7", 740)], "316", BLANK, cuts(70), ("mm", "mm"))
    assert [(o.name, n) for o, n in found.fitting] == [("A7", 7)]
    assert found.bars_less == 1
    assert found.say == "Cut A7 first, 7 pieces: 1 bar less to buy."
    assert shelf_for([offcut("A7", 740)], "316", BLANK, cuts(60), ("mm", "mm")).bars_less == 0


@pytest.mark.parametrize(
    ("one", "why"),
    [
        (offcut("A", 740, "304"), "is 304"),
        (offcut("A", 740, ""), "is of no known grade"),
        (offcut("A", 740, section="Ø10"), "is too thin"),
        (offcut("A", 740, section="Ø40"), "is far thicker than needed"),
        (offcut("A", 740, section="20 x 12"), "is of another shape"),
        (offcut("A", 740, section="odd"), "has a section that cannot be read"),
        (offcut("A", 151), "gives no piece of 88.0 mm (3.46 in)"),
    ],
)
def test_why_an_offcut_is_not_for_a_job(one: Offcut, why: str) -> None:
    found = shelf_for([one], "316", BLANK, cuts(70), ("mm", "mm"))
    assert (found.fitting, [said for _, said in found.others], found.say) == ((), [why], "")


def test_the_shortest_is_cut_first_and_what_is_not_needed_stays() -> None:
    shelf = [offcut("long", 900), offcut("short", 250), offcut("exact", 152)]
    found = shelf_for(shelf, "316 ", BLANK, cuts(3), ("mm", "mm"))
    assert [(o.name, n) for o, n in found.fitting] == [("exact", 1), ("short", 2)]
    assert [(o.name, why) for o, why in found.others] == [("long", "fits, and is not needed")]
    assert found.bars_less == 1


def test_flat_bar_by_both_sides_and_grades_as_they_are_written() -> None:
    block = block_blank((D(60), D(40), D("31.5")), (D(2), D(1), D(1)), D(0), D(0))
    found = shelf_for([offcut("F", 700, "6061 T6", "45 x 35")], "6061-T6", block, cuts(9), ("mm", "mm"))
    assert len(found.fitting) == 1
    assert (grade_of("EN AW-6061 T6"), grade_of("316L, ground bar")) == ("enaw6061t6", "316l")
    assert (
        shelf_for([offcut("F", 700)], "", BLANK, cuts(9), ("mm", "mm")).others[0][1] == "the job has no grade"
    )


def test_a_section_without_a_unit_is_in_the_shops_and_one_unit_behind_serves_both() -> None:
    """An inch job in a metric shop: Ø12 on the shelf is 12 mm, and 45 x 35 mm is no 45 inches."""
    found = shelf_for([offcut("A7", 740)], "316", BLANK, cuts(70), ("in", "mm"))
    assert len(found.fitting) == 1
    block = block_blank((D(60), D(40), D("31.5")), (D(2), D(1), D(1)), D(0), D(0))
    both = offcut("F", 700, "316", "45 x 35 mm")
    assert len(shelf_for([both], "316", block, cuts(9), ("in", "in")).fitting) == 1
    again = offcut("F", 700, "316", section_text(block))
    assert len(shelf_for([again], "316", block, cuts(9), ("in", "in")).fitting) == 1
    assert shelf_for([again], "316", None, None, ("mm", "mm")).others[0][1] == "not known yet"
