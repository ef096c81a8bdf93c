"""Drawings of Place: true to scale, valid, with a sentence; clashes hatched; the drift, the worth, the touches."""

import re
from dataclasses import replace
from datetime import UTC, datetime
from decimal import Decimal as D
from xml.etree import ElementTree as ET

import pytest

from ditto_run.core.place import Placed, clashes
from ditto_run.core.place.many_sheets import WorthPicture
from ditto_run.core.place.offsets import Offset, drift
from ditto_run.core.place.touched import TouchPicture
from ditto_run.core.place.worth import Cycle, knee, worth
from ditto_run.web.drawings import LayoutPicture, draw_drift, draw_layout, draw_picture, layout_says
from tests.core.place.layouts import BED, PALLET, VISE, bed, standing, vise

TWO = [standing(vise(1, 200, 100)), standing(vise(2, 286, 100), "B")]


def spots(path: str) -> list[tuple[float, float]]:
    return [(float(x), float(y)) for x, y in re.findall(r"([-\d.]+),([-\d.]+)", path)]


def test_a_holder_is_drawn_where_it_stands_to_the_scale_the_page_is_told() -> None:
    drawn = ET.fromstring(str(draw_layout(LayoutPicture(BED, TWO))))
    scale = float(drawn.get("data-scale"))
    table = spots(drawn.find("path").get("d"))
    group = next(g for g in drawn.iter() if g.get("data-placed") == "1")
    body = spots(group.find("path").get("d"))
    left, front = min(x for x, _ in body), max(y for _, y in body)
    assert left - min(x for x, _ in table) == pytest.approx(200 * scale, abs=0.2)
    assert max(y for _, y in table) - front == pytest.approx(100 * scale, abs=0.2)
    assert max(x for x, _ in body) - left == pytest.approx(100 * scale, abs=0.2)
    assert (group.get("data-left"), group.get("data-front")) == ("200.0000", "100.0000")


def test_it_says_what_it_shows_and_hatches_what_clashes() -> None:
    picture = LayoutPicture(BED, TWO, clashes(TWO, BED), {"A"}, 2, {1})
    drawn = str(draw_layout(picture))
    assert layout_says(picture).endswith("1 clash.")
    assert (
        layout_says(LayoutPicture(BED))
        == "The table, 800 by 400 mm, seen from above: nothing stands on it. Nothing clashes."
    )
    assert drawn.count('class="clash"') == 1
    assert ">14.0<" in drawn
    assert 'class="piece is-set"' in drawn
    assert "placed is-chosen" in drawn
    assert "placed is-quiet" in drawn


def test_an_inch_job_has_its_figures_in_inches() -> None:
    picture = LayoutPicture(BED, TWO, clashes(TWO, BED), unit="in")
    drawn = str(draw_layout(picture))
    assert "reach 27.559 × 14.173 in" in drawn
    assert ">0.551<" in drawn  # 14 mm
    assert "left edge 7.874, front edge 3.937 in" in drawn
    assert " mm" not in layout_says(picture)


def test_a_drawing_that_is_not_moved_has_no_handles() -> None:
    drawn = str(draw_layout(LayoutPicture(BED, TWO), movable=False))
    assert 'role="img"' in drawn
    assert "tabindex" not in drawn


@pytest.mark.parametrize(
    "placed",
    [
        Placed(1, 1, "Pallet <b>", PALLET, D(400), D(200), turn=D(30)),
        vise(1, turn=D(90)),
        vise(1, turn=D(180), mirrored=True),
        replace(vise(), body=replace(VISE, jaw_mm=None, chuck_mm=D(80))),
        replace(vise(), body=replace(VISE, outline=((D(0), D(0)), (D(100), D(0)), (D(50), D(200))))),
    ],
    ids=["pallet", "turned", "mirrored", "chuck", "outline"],
)
def test_every_kind_of_holder_is_valid_and_inside_its_frame(placed: Placed) -> None:
    drawn = str(draw_layout(LayoutPicture(bed(slots_run="Y"), [standing(placed, "AB")])))
    root = ET.fromstring(drawn)
    wide, tall = float(root.get("width")), float(root.get("height"))
    for path in root.iter("path"):
        assert all(
            -1 <= x <= wide + 1 and -60 <= y <= tall + 1
            for x, y in spots(path.get("d"))
            if "l" not in path.get("d")
        )
    assert "<b>" not in drawn


def test_rows_of_pieces_are_parted_and_hundreds_of_nests_lose_their_numbers() -> None:
    row = replace(standing(vise()).layout, pieces=3, piece_mm=(D(20), D(40), D(32)))
    assert str(draw_layout(LayoutPicture(BED, [standing(vise(), layout=row)]))).count('class="between"') == 2
    many = replace(
        PALLET, nests=tuple((D(10 + 18 * i), D(10 + 18 * j)) for i in range(10) for j in range(10))
    )
    drawn = str(
        draw_layout(LayoutPicture(BED, [standing(Placed(1, 1, "Pallet", many, D(400), D(200)), "P")]))
    )
    assert "P100" not in drawn.rsplit("</title>", maxsplit=1)[-1].replace("P1 to P100", "")


def test_the_drift_is_drawn_from_the_first_line_with_its_limit() -> None:
    at = datetime(2026, 5, 1, tzinfo=UTC)
    lines = [
        Offset("G59", {"x": D(1), "z": D(5)}, limit=D("0.02"), at=at),
        Offset("G59", {"x": D("1.03"), "z": D(5)}, limit=D("0.02"), at=at),
    ]
    drawn = str(draw_drift([*reversed(drift(lines))], lines[-1]))
    assert "limit 20 µm" in drawn
    assert "X 30 µm" in drawn
    assert ET.fromstring(drawn).get("aria-label").startswith("How far G59 has moved")


def test_the_knee_and_the_best_are_named_on_the_curve() -> None:
    rows = worth(Cycle(1, "", None, 60, 120, 30, 20, 300), 30, 48, 0, 0)
    drawn = str(draw_picture(WorthPicture(rows, knee(rows), 3), "worth"))
    assert "the gain flattens" in drawn
    assert drawn.count('class="fill"') == 30
    ET.fromstring(drawn)


def test_touches_are_numbered_where_there_is_room_and_left_out_ones_dashed() -> None:
    picture = TouchPicture(((0, 0), (0.1, 0), (60, 0)), 6, (30, 0), (((0, 10), (60, 10)),), left_out=(2,))
    drawn = str(draw_picture(picture, "touches"))
    assert drawn.count("stroke-dasharray") == 1
    assert ">1<" in drawn
    assert ">2<" not in drawn
    assert ">3<" in drawn
