"""Pictures: real size, a text equivalent, exceptions never thinned out, and the numbers they show."""

import re
from decimal import Decimal as D
from xml.etree import ElementTree as ET

import pytest

from ditto_run.core.edits import SetCharacteristic
from ditto_run.core.run import events as do
from ditto_run.core.run.board import jaws
from ditto_run.core.run.strip import Mark, build, changed_marks, frame, weave
from ditto_run.core.steps import STEPS, StepState
from ditto_run.web import drawings
from ditto_run.web.drawings.glyphs import PLAIN, WORDS, glyph
from ditto_run.web.drawings.strip import hairline
from tests.conftest import CoreHand, planned

SVG = "{http://www.w3.org/2000/svg}"


def parsed(markup: str) -> ET.Element:
    """Return a picture as a tree; it must be well-formed to be one."""
    return ET.fromstring(str(markup).replace("<svg", '<svg xmlns="http://www.w3.org/2000/svg"', 1))


@pytest.fixture
def hand() -> CoreHand:
    hand = CoreHand(planned(30)).proven()
    hand.load("20.005", "20.021", "19.96")
    hand.do(
        do.Dispose(6, "scrap", "x"),
        do.Adjust("G55 Z", "0.01", station="B"),
        do.MarkBreak("bar 2"),
        do.StartCycle(),
    )
    return hand


@pytest.mark.parametrize(("width", "height"), [(1026, 205), (764, 180)])
def test_the_strip_is_drawn_at_its_real_size_with_a_name_for_each_mark(
    hand: CoreHand, width: int, height: int
) -> None:
    tree = parsed(drawings.draw_strip(build(hand.state), width, height))

    assert tree.get("width") == str(width)
    assert tree.get("viewBox").split()[2] == str(width)
    cells = [cell for cell in tree.iter(f"{SVG}g") if cell.get("role") == "gridcell"]
    assert all(cell.get("aria-label") for cell in cells)
    assert {cell.get("data-piece") for cell in cells} >= {str(n) for n in range(1, 10)}
    assert len([g for g in tree.iter(f"{SVG}g") if g.get("role") == "row"]) == 3


def test_a_slipped_foot_stands_at_its_value(hand: CoreHand) -> None:
    """Half-way to the limit is half the reach: the foot's height is the value, not a category."""
    half = glyph(Mark(1, "slip", 0.5), 20, 22)
    low = glyph(Mark(1, "slip", -1.0), 20, 22)

    assert 'd="M-1,-10.0H13"' in half
    assert 'd="M-1,20.0H13"' in low
    assert 'd="M-1,-20.0H13"' in glyph(
        Mark(1, "slip", 7.0), 20, 22
    )  # beyond the limit it stays at the lane's edge


@pytest.mark.parametrize("shape", sorted(PLAIN))
def test_every_shape_has_its_words(shape: str) -> None:
    assert shape in WORDS
    assert all(WORDS[shape])
    assert str(drawings.icon(shape)).count("<svg") == 1


def test_brackets_corners_digits_and_numbers() -> None:
    held = glyph(Mark(7, "slip", 0.9, 2, held=True, due=True), 20, 22)
    assert "g-held" in held
    assert "g-due" in held
    assert ">2</text>" in held
    assert ">12</text>" in glyph(Mark(12, "scrap"), 20, 22)


def test_thin_strips_keep_exceptions() -> None:
    assert "g-scrap" in hairline(Mark(1, "scrap"), 10)
    assert "g-held" in hairline(Mark(1, "dash", held=True), 10)
    assert hairline(Mark(1, "slip", 0.8), 10) == '<path class="hair" d="M0,0V-8.0"/>'
    assert hairline(Mark(1, "ditto"), 10) != hairline(Mark(1, "dash"), 10)


def test_a_thousand_pieces_are_a_few_elements() -> None:
    hand = CoreHand(planned(1000)).proven()
    hand.do(do.EnterLoads(300))
    chunk = range(1, 49)
    tree = parsed(drawings.draw_weave(weave(hand.state, chunk), chunk, 334, 880))

    assert len(list(tree.iter())) < 20
    assert float(tree.get("width")) == pytest.approx(880 * 48 / 334, abs=0.1)


def test_changed_cells_stand_where_the_strip_has_them(hand: CoreHand) -> None:
    """A mark that is sent alone has the place and the look it has in the whole strip."""
    hand.do(do.EndCycle())
    before = hand.state.seq
    hand.do(do.TakeReading(8, 1, "20.015"))
    lanes, loads, _, _ = frame(hand.state)
    alone = drawings.draw_cells(changed_marks(hand.state, before, []), lanes, loads, 1026, 205)
    whole = str(drawings.draw_strip(build(hand.state), 1026, 205))
    cell = re.search(r'<g role="gridcell" tabindex="-1" data-cell="B-3".*?</g></g>', str(alone)).group(0)

    assert cell in whole


def test_notches_stand_in_the_lane_they_touch(hand: CoreHand) -> None:
    text = str(drawings.draw_strip(build(hand.state), 1026, 205))

    assert text.count('class="g-notch"') == 1
    assert "l-6,6l12,8l-6,5" in text  # the break line


@pytest.mark.parametrize(
    ("value", "inside"),
    [("19.97", True), ("20.03", True), ("20.1", False), (None, True)],
)
def test_the_jaws_show_the_reading_between_its_limits(
    hand: CoreHand, value: str | None, inside: bool
) -> None:
    slot = hand.state.plan.characteristics[0]
    picture = jaws(hand.state, hand.state.pieces[4], slot, None if value is None else D(value), 3)
    text = str(drawings.draw_jaws(picture, 510))

    assert "19.970" in text
    assert "20.030" in text
    assert ('class="fill"' in text) == (value is not None)
    if value is not None:
        assert picture.answer.inside == inside
        assert picture.answer.words in parsed(text).get("aria-label")
        scriber = float(re.search(r'class="fill" d="M([\d.-]+),', text).group(1)) + 13
        left, right = 510 * 0.163, 510 * (1 - 0.163)
        assert (left - 1 <= scriber <= right + 1) == inside


def test_the_jaws_name_earlier_loads_of_the_same_station(hand: CoreHand) -> None:
    hand.do(do.EndCycle())
    slot = hand.state.plan.characteristics[0]
    picture = jaws(hand.state, hand.state.pieces[7], slot, D("20.001"), 3)

    assert [load for load, _ in picture.earlier] == [1, 2]
    assert "20.004 in load 1, 20.005 in load 2" in str(drawings.draw_jaws(picture))


@pytest.mark.parametrize("size", ["20 max", "20", "45° ±1°"])
def test_sizes_with_one_limit_none_or_an_angle_are_drawn(size: str) -> None:
    hand = CoreHand(planned(4, SetCharacteristic("other", size, "functional"))).proven()
    other = hand.state.plan.characteristics[-1]
    text = str(drawings.draw_jaws(jaws(hand.state, hand.state.pieces[2], other, other.size.nominal, 2)))

    assert "other, piece 2" in parsed(text).get("aria-label")


def test_the_step_line_tells_each_state_by_shape() -> None:
    shapes = {
        state: str(drawings.step_mark(StepState(STEPS[0], state, 1)))
        for state in ("settled", "open", "held", "later")
    }

    assert shapes["settled"].count("<circle") == 3
    assert "held" in shapes["held"]
    assert "dots" in shapes["later"]
    assert len(set(shapes.values())) == 4
    line = str(drawings.short_line([StepState(step, "open", 2) for step in STEPS]))
    assert "1</text>" in line
    assert "Part 2 open" in line


def test_the_meant_vise_is_filled() -> None:
    text = str(drawings.draw_vises(["A", "B", "C"], "B"))

    assert text.count('class="sc meant"') == 1
    assert str(drawings.draw_vises(["A"] * 40, "A")).count("<rect") == 13


def test_names_from_the_shop_cannot_break_a_picture() -> None:
    hand = CoreHand(planned(4, SetCharacteristic('<b>"x"', "9 ±1", "functional"))).proven()
    bad = hand.state.plan.characteristics[-1]
    hand.do(do.TakeReading(2, bad.number, "9.9"))

    assert "<b>" not in str(drawings.draw_strip(build(hand.state), 1026))
    assert "<b>" not in str(drawings.draw_jaws(jaws(hand.state, hand.state.pieces[2], bad, D("9.9"), 1)))
