"""The pages of features and setups: what is drawn and said, what a file gives, what a wrong entry answers."""

import re
from dataclasses import replace

import pytest
from fastapi.testclient import TestClient

from ditto_run.core.edits import AddFeatureLines, SetForm, SetSetup, apply_edit
from ditto_run.core.part import Heading
from ditto_run.core.part.features import Named, read_feature
from ditto_run.core.part.shape.measures import shape_part
from ditto_run.core.plan import Plan
from ditto_run.core.plan.held import contacts
from ditto_run.core.plan.worked import work_out
from ditto_run.desk import Desk
from ditto_run.web.drawings import HeldPicture, PartPicture, draw_held, draw_section, draw_views
from ditto_run.web.drawings.part_frame import figure, spread
from tests.conftest import SHOP
from tests.formats.test_part_drawing import drawing, plate

PART = {"HX-Request": "true"}
BLOCK = (
    "block 60 x 40 x 31.5\nface, top\nbore 12 H7 through, 16 from left, in the middle, top\n"
    "slot 20 ±0.03 x 12 deep x 28 long, R5, in the middle, open right, top\nhole 5 x 8 deep, front, 10 from left"
)
TURNED = (
    "body Ø12 x 86\noutside thread M10 x 18 long, free end\ngroove 2 wide to Ø8 at 18\nchamfer 1, free end\n"
    "cross hole 3 through at 80\nhole 4 x 20 deep, chuck end\nflat 6 wide x 12 long, outside, at 40\n"
    "hexagon 9 across flats x 8 long, chuck end\nknurl 10 long, at 60\nslot 2 x 3 deep, free end"
)


def plan_of(form: str, lines: str, *edits: object, unit: str = "mm") -> Plan:
    plan = Plan(Heading("Part", 24, unit))  # type: ignore[arg-type]
    for edit in (*([SetForm("turned")] if form == "turned" else []), AddFeatureLines(lines), *edits):
        plan = apply_edit(edit, plan, SHOP).plan
    return plan


def picture(form: str, lines: str, **more: object) -> PartPicture:
    return PartPicture(shape_part(plan_of(form, lines).described, form), "mm", **more)  # type: ignore[arg-type]


def numbers(svg: str) -> list[float]:
    return [float(n) for d in re.findall(r'd="([^"]+)"', svg) for n in re.findall(r"-?\d+(?:\.\d+)?", d)]


@pytest.fixture
def job(desk: Desk) -> int:
    return desk.jobs.new(plan_of("block", BLOCK), "RK")


def test_a_block_is_drawn_within_its_picture_and_says_what_it_shows() -> None:
    drawn = str(draw_views(picture("block", BLOCK, picked=3)))
    width, height = (float(n) for n in re.search(r'width="(\d+)" height="(\d+)"', drawn).groups())
    assert 'aria-label="Three views of the part, 60 by 40 by 31.5 mm: bore, slot."' in drawn
    assert "hole: where along the height?" in drawn  # it stands nowhere yet
    assert drawn.count("<circle") == 1
    assert all(-1 <= n <= max(width, height) for n in numbers(drawn))


def test_first_angle_puts_the_top_below() -> None:
    def top_of(angle: str) -> float:
        drawn = str(draw_views(picture("block", BLOCK, angle=angle)))
        return float(re.search(r'y="([\d.]+)"[^>]*>from the top', drawn)[1])

    assert top_of("third") < 100 < top_of("first")


def test_a_turned_part_is_drawn_with_its_small_end_again_larger() -> None:
    drawn = str(draw_section(picture("turned", TURNED)))
    assert "free end, 2 times larger" in drawn or "free end, 3 times larger" in drawn
    assert "Half section of the part, 86 long, 12 mm at its largest diameter" in drawn
    assert all(-40 <= n <= 1500 for n in numbers(drawn))


def test_nothing_is_drawn_of_a_part_without_a_size() -> None:
    empty = PartPicture(
        shape_part([Named(1, "face", read_feature("face, top", "block", "mm"))], "block"), "mm"
    )
    assert draw_views(empty) == draw_section(empty) == ""


@pytest.mark.parametrize(("mm", "unit", "said"), [(12.0, "mm", "12"), (31.50001, "mm", "31.5"), (0.1, "mm", "0.1"), (19.05, "in", "0.75"), (100.0, "mm", "100")])  # fmt: skip
def test_a_figure_has_no_more_digits_than_it_needs(mm, unit, said) -> None:
    assert figure(mm, unit) == said


def test_names_keep_a_lines_distance_and_their_room() -> None:
    assert spread([10, 12, 14], 0, 200) == [10, 35, 60]
    assert spread([180, 190, 200], 0, 200) == [150, 175, 200]
    assert spread([5] * 9, 0, 80) == [5 + 9.375 * i for i in range(9)] or max(spread([5] * 9, 0, 80)) <= 80
    assert spread([], 0, 100) == []


def test_setups_are_drawn_with_their_heights() -> None:
    held = SetSetup("one", locates_on=("bottom",), clamps_on=("front", "back"), cuts=(2, 4), parallels="17", jaw_high="25", to_stop="left")  # fmt: skip
    (contact,) = contacts(work_out(plan_of("block", BLOCK, held)))
    drawn = str(draw_held(HeldPicture(contact, "mm")))
    assert (
        "one from the side, top up, heights in mm above the bed: raw top 48.5, jaw top 25, seat 17, deepest 12.395, bed 0"
        in drawn
    )
    assert drawn.count("fixed jaw") == 1
    on_end = replace(held, locates_on=("left",), clamps_on=("front", "back"), to_stop="right")
    (contact,) = contacts(work_out(plan_of("block", BLOCK, on_end)))
    assert "right up" in str(draw_held(HeldPicture(contact, "in")))


@pytest.mark.parametrize(
    ("held", "said"),
    [
        ({}, "nobody said how far it is gripped"),
        ({"grip": "15"}, "gripped 15 mm"),
        ({"stick_out": "40", "clamps_on": ("bar",)}, "gripped"),
        ({"clamps_on": ("free end",)}, "free end held"),
    ],
)
def test_a_turned_setup_says_how_it_is_held(held, said) -> None:
    setup = SetSetup("one", **({"clamps_on": ("chuck end",), "cuts": (1, 3)} | held))
    (contact,) = contacts(work_out(plan_of("turned", TURNED, setup)))
    assert said in str(draw_held(HeldPicture(contact, "mm")))


def test_the_page_says_what_follows_and_what_is_missing(client: TestClient, job: int) -> None:
    page = client.get(f"/jobs/{job}/part/features", params={"edit": 4}).text
    assert "5 features, drawn to scale." in " ".join(page.split())
    assert "1 feature stands nowhere yet" in " ".join(page.split())
    assert "Not said yet: where along the height." in page
    assert "about" not in re.search(r'<dl class="read-pieces follows">.*?</dl>', page, re.DOTALL)[0]
    empty = client.get(
        f"/jobs/{client.app.state.desk.jobs.new(Plan(Heading('New', 4, 'mm')), 'RK')}/part/features"
    ).text
    assert "What does the part look like?" in empty
    assert "begin with block 60 x 40 x 31.5" in " ".join(empty.split())


def test_a_typed_line_is_dotted_on_the_picture(client: TestClient, job: int) -> None:
    read = client.get(
        f"/jobs/{job}/part/feature", params={"line": "bore 8 through, 45 from left, 6 from front, top"}
    ).text
    assert 'hx-swap-oob="true"' in read
    assert '<g class="typed">' in read
    asked = client.get(f"/jobs/{job}/part/feature", params={"line": "bore 8 through, 45 from left, top"}).text
    assert "where along the width" in asked
    changed = client.get(
        f"/jobs/{job}/part/feature", params={"line": "bore 14 through, in the middle, top", "key": 3}
    )
    assert changed.status_code == 200


def test_a_drawing_and_a_table_become_lines_to_be_read_over(client: TestClient, desk: Desk, job: int) -> None:
    address = f"/jobs/{job}/part/features-read"
    before = desk.jobs.load(job).version
    page = client.post(address, files={"file": ("plate.dxf", drawing(plate), "application/dxf")}).text
    assert "4 lines read." in page
    assert "hole Ø6.8, 10 from left, 10 from front, top" in page
    page = client.post(address, data={"table": "name;what\nseat;bore 10 through, top, in the middle"}).text
    assert "seat: bore 10 through, top, in the middle" in page
    assert desk.jobs.load(job).version == before
    unit = client.post(address, files={"file": ("plate.dxf", drawing(plate, 0), "x")}, headers=PART)
    assert unit.status_code == 422
    assert "in what unit" in unit.text
    nothing = client.post(address, data={"table": " "}, headers=PART)
    assert nothing.status_code == 422
    assert "no rows are pasted" in nothing.text


def test_the_shop_says_how_three_views_stand(client: TestClient, desk: Desk, job: int) -> None:
    assert desk.shop.load().angle == "third"
    client.post("/shop/angle", data={"angle": "first"})
    assert desk.shop.load().angle == "first"
    page = client.get(f"/jobs/{job}/part/features").text
    assert page.index("from the front") < page.index("from the top") or "from the left" in page
    assert client.post("/shop/angle", data={"angle": "sideways"}, headers=PART).status_code == 422


def test_a_holder_that_is_not_in_the_register_is_offered_to_it(client: TestClient, desk: Desk) -> None:
    held = SetSetup("one", holds="Vise 9", locates_on=("bottom",), clamps_on=("front", "back"), cuts=(2,))
    job = desk.jobs.new(plan_of("block", BLOCK, held), "RK")
    page = client.get(f"/jobs/{job}/hold").text
    assert '<a href="/shop/drawers/holders?begin=Vise%209">Add it</a>' in page
    assert 'value="Vise 9"' in client.get("/shop/drawers/holders", params={"begin": "Vise 9"}).text
    sheet = client.get(f"/jobs/{job}/hold/sheet").text
    assert "from the side, cut open" in sheet


@pytest.mark.parametrize("address", ["part/features", "part/features?edit=3", "hold", "tools", "part"])
def test_no_two_things_of_a_page_bear_the_same_id(client: TestClient, desk: Desk, address: str) -> None:
    held = SetSetup("one", holds="Vise 9", locates_on=("bottom",), clamps_on=("front", "back"), cuts=(2,))
    job = desk.jobs.new(plan_of("block", BLOCK, held), "RK")
    ids = re.findall(r' id="([^"]+)"', client.get(f"/jobs/{job}/{address}").text)
    assert sorted(set(ids)) == sorted(ids)
