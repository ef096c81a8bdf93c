"""Drawings of Part, Method, Stock and Hold: at their real size, with a sentence that says what they show, to scale."""

import re
from itertools import pairwise
from xml.etree import ElementTree as ET

import pytest

from ditto_run.core.errors import BadEntry
from ditto_run.core.hold import Chain, Feature, Setup
from ditto_run.core.method import MethodWanted, Ready, Way, judge
from ditto_run.core.method.guess import exactly
from ditto_run.core.sheet_kinds import SHEETS, sheet_of
from ditto_run.core.sheets import Known
from ditto_run.web.drawings import draw_chart, draw_ladder, draw_orientation, draw_picture
from ditto_run.web.drawings.scale import nice_step
from ditto_run.web.questions.words import FORMS, form_of

PLAIN = Way(1, "one at a time", "dial-in", (Ready("setting up", exactly(1200)),), cut=exactly(480))
JAWS = Way(
    2,
    "soft <jaws>",
    "soft-jaws",
    (Ready("jaws", exactly(3600), lasting=True), Ready("setting up", exactly(2100))),
    cut=exactly(300),
)
PLATE = Way(3, "plate", "fixture", (Ready("fixture", exactly(40_000), lasting=True),), cut=exactly(240))
WAYS = (PLAIN, JAWS, PLATE)


def parsed(markup: str) -> ET.Element:
    return ET.fromstring(markup)


def boxes(svg: ET.Element) -> list[tuple[float, float]]:
    """Return left and right of every rectangle."""
    return [
        (float(r.get("x")), float(r.get("x")) + float(r.get("width")))
        for r in svg.iter()
        if r.tag.endswith("rect")
    ]


@pytest.mark.parametrize("width", [730, 800])
@pytest.mark.parametrize("quantity", [4, 48, 400])
def test_the_chart_is_drawn_at_its_size_and_says_what_it_shows(width: int, quantity: int) -> None:
    wanted = MethodWanted(quantity, 3)
    verdict = judge(WAYS, wanted)
    svg = parsed(draw_chart(WAYS, verdict, wanted, width))
    assert svg.get("width") == str(width)
    assert "3 ways" in svg.get("aria-label")
    texts = [t.text for t in svg.iter() if t.tag.endswith("text")]
    assert f"wanted {quantity}" in texts
    assert all(left >= -1 and right <= width + 1 for left, right in boxes(svg))
    for value in re.findall(r'[xy]="(-?[\d.]+)"', draw_chart(WAYS, verdict, wanted, width)):
        assert float(value) <= max(width, 400)


def test_the_crossing_stands_where_the_lines_cross() -> None:
    """(5700 − 1200)/(480 − 300) = 25 pieces."""
    wanted = MethodWanted(48)
    markup = draw_chart(WAYS[:2], judge(WAYS[:2], wanted), wanted, 800)
    assert ">25</text>" in markup
    diamond = float(re.search(r'class="sc-h dye" d="M([\d.]+),', markup).group(1))
    punched = [float(x) for x in re.findall(r'<circle class="fill" cx="([\d.]+)"', markup)]
    assert (diamond - 66) / (punched[0] - 66) == pytest.approx(25 / 48, abs=0.002)


def test_the_ladder_parts_the_quantities() -> None:
    wanted = MethodWanted(48)
    verdict = judge(WAYS, wanted)
    svg = parsed(draw_ladder(WAYS, verdict, wanted))
    assert "4 to 25 one at a time, 26 to 571 soft" in svg.get("aria-label")
    rungs = sorted(boxes(svg))
    assert len(rungs) == 3
    assert rungs[0][0] == pytest.approx(16)
    assert rungs[-1][1] == pytest.approx(784)
    assert all(a[1] == pytest.approx(b[0], abs=0.2) for a, b in pairwise(rungs))


def test_names_from_the_shop_cannot_break_a_drawing() -> None:
    wanted = MethodWanted(48)
    assert "<jaws>" not in draw_chart(WAYS, judge(WAYS, wanted), wanted)
    chain = Chain(
        "block",
        (Feature(1, "<b>", "top"),),
        (Setup(1, "<i>", locates_on=("bottom",), clamps_on=("front",), cuts=(1,), stop="left"),),
    )
    assert "<i>" not in draw_orientation(chain, chain.setups[0])


@pytest.mark.parametrize("seat", ["bottom", "top", "front", "back", "left", "right"])
def test_a_block_is_drawn_as_it_sits(seat: str) -> None:
    up = {
        "bottom": "top",
        "top": "bottom",
        "front": "back",
        "back": "front",
        "left": "right",
        "right": "left",
    }[seat]
    setup = Setup(1, "side", locates_on=(seat,), cuts=(1,))
    svg = parsed(draw_orientation(Chain("block", (Feature(1, "f", up),), (setup,)), setup))
    texts = [t.text for t in svg.iter() if t.tag.endswith("text")]
    assert texts[0] == up
    assert f"sits on {seat}" in texts
    assert len({up, seat, *texts[1:3]}) == 4
    assert svg.get("aria-label") == f"side: sits on {seat}, clamped on nothing said, cuts f."


def test_a_turned_piece_shows_its_centre_and_its_held_end() -> None:
    features = (Feature(1, "shank", "outside", "turned"), Feature(2, "end", "free end"))
    setup = Setup(
        1, "between", locates_on=("chuck end",), clamps_on=("chuck end",), cuts=(1, 2), centres=("free end",)
    )
    markup = draw_orientation(Chain("turned", features, (setup,)), setup)
    assert "M20,104L70,120L20,136z" in markup
    assert ">chuck end</text>" in markup
    back = Setup(2, "back", locates_on=("free end",), clamps_on=("free end",))
    assert draw_orientation(Chain("turned", features, (back,)), back).index(">chuck end<") < draw_orientation(
        Chain("turned", features, (back,)), back
    ).index(">free end<")


PICTURED = {
    "profile": {"rows": "0 10 8 R1\n10 30 12 16\n30 32 9 groove\n32 40 16"},
    "taper": {"large": "20", "small": "15", "length": "80"},
    "pattern": {"count": "6", "diameter": "100", "hole": "8"},
    "cuts": {"bar": "3000", "kerf": "3", "piece": "97", "remnant": "60"},
    "mixed": {"rows": "700 x 5 strut\n400 x 3", "stock": "3000\n1500 x 1 A7 offcut", "kerf": "3"},
    "ladder": {"length": "20", "kerf": "3", "count": "5"},
    "blocks": {"sizes": "12.345 31.5"},
    "dial": {"places": "7.35 12.5", "per_turn": "2"},
    "segments": {"rows": "0 60 8\n60 90 10", "bar_across": "12", "pass": "1"},
    "strip": {"length": "20", "kerf": "2", "strip": "300"},
}


@pytest.mark.parametrize("kind", PICTURED)
def test_every_picture_of_a_sheet_is_sound_and_inside_its_frame(kind: str) -> None:
    answer = sheet_of(kind).answer(PICTURED[kind], Known("mm", 48, start=52))
    svg = parsed(draw_picture(answer.picture, answer.picture_says))
    assert svg.get("aria-label")
    wide, tall = float(svg.get("width")), float(svg.get("height"))
    for left, right in boxes(svg):
        assert -1 <= left <= right <= wide + 1
    for element in svg.iter():
        if element.tag.endswith(("text", "circle")):
            x, y = (
                float(element.get(a)) for a in (("x", "y") if element.tag.endswith("text") else ("cx", "cy"))
            )
            assert -1 <= x <= wide + 1
            assert -1 <= y <= tall + 1


def test_pieces_of_a_drawn_bar_are_to_scale() -> None:
    answer = sheet_of("cuts").answer(
        {"bar": "1000", "kerf": "10", "piece": "190", "remnant": "100"}, Known("mm", 4, start=4)
    )
    pieces = boxes(parsed(draw_picture(answer.picture, "x")))[:4]
    long = [right - left for left, right in pieces]
    gaps = [b[0] - a[1] for a, b in pairwise(pieces)]
    assert gaps[0] / long[0] == pytest.approx(10 / 190, rel=0.02)
    assert draw_picture(None, "") == ""


@pytest.mark.parametrize(
    ("span", "wanted", "step"), [(100, 8, 20), (14, 6, 5), (0.9, 6, 0.2), (1, 10, 0.1), (48, 8, 10)]
)
def test_scales_have_even_steps(span, wanted, step) -> None:
    assert nice_step(span, wanted) == pytest.approx(step)


@pytest.mark.parametrize("sheet", SHEETS, ids=lambda sheet: sheet.kind)
def test_every_sheet_is_declared_whole(sheet) -> None:
    """Names are unique, the first entry is not a pair's second half, a choice has words, an example stands somewhere."""
    names = [entry.name for entry in sheet.entries]
    assert len(set(names)) == len(names)
    assert not {"kind", "sheet", "key", "keep", "version", "step", "view"} & set(names)
    form, words = form_of(sheet.kind), FORMS[sheet.kind]
    for entry in form:
        assert entry.label
        assert (entry.kind == "choose") == bool(entry.choices)
    assert not form[-1].pair
    pairs = [i for i, entry in enumerate(form) if entry.pair]
    assert not any(i + 1 in pairs for i in pairs), "a pair opens inside a pair"
    assert words.does.endswith((".", "?"))
    assert {*words.hints, *words.labels, *words.choices, *words.beside} <= set(
        names
    )  # no word of a field that is gone
    for name, said in words.choices.items():
        assert set(said) <= set(next(one.choices for one in sheet.entries if one.name == name))


def test_a_form_speaks_in_the_unit_of_the_job() -> None:
    torque = next(one for one in form_of("grip") if one.name == "torque")
    assert (torque.label_in("mm"), torque.label_in("in")) == ("Torque, N·m", "Torque, lbf·ft")
    clearance = next(one for one in form_of("nest") if one.name == "clearance")
    assert (clearance.hint_in("mm"), clearance.hint_in("in")) == ("0.02 mm if empty.", "0.0008 in if empty.")


def test_every_form_is_that_of_a_sheet() -> None:
    assert set(FORMS) == {sheet.kind for sheet in SHEETS}


BLOCK = Known(
    "mm",
    48,
    told={
        "blank": sheet_of("blank")
        .answer({"shape": "block", "length": "60", "width": "40", "height": "30"}, Known("mm", 48))
        .result
    },
)


@pytest.mark.parametrize("side", ["left", "right"])
def test_a_blank_against_its_stop_is_to_scale(side: str) -> None:
    """60 × 30 mm; a blank 6 mm shorter ends a tenth of the length early, at the end away from the stop."""
    texts = {"side": side, "push": side, "height": "10", "shorter": "6"}
    answer = sheet_of("stop").answer(texts, BLOCK)
    markup = draw_picture(answer.picture, answer.picture_says)
    svg = parsed(markup)
    (rect,) = (r for r in svg.iter() if r.tag.endswith("rect"))
    left, wide, high, top = (float(rect.get(name)) for name in ("x", "width", "height", "y"))
    assert wide / high == pytest.approx(2, abs=0.01)
    ends = float(re.search(r'stroke-dasharray="4 5" d="M([\d.]+),', markup).group(1))
    assert ends == pytest.approx(left + wide * (0.9 if side == "left" else 0.1), abs=0.2)
    x, y = (float(v) for v in re.search(r'class="fill" d="M([\d.]+),([\d.]+)l', markup).groups())
    assert x == pytest.approx(left if side == "left" else left + wide, abs=0.2)
    assert y == pytest.approx(top + high * 2 / 3, abs=0.2)
    assert svg.get("aria-label") == f"The blank against its stop at the {side}, to scale."


def test_a_pin_is_drawn_at_its_size_and_nothing_without_a_blank() -> None:
    texts = {"kind_of_stop": "pin in a jaw", "pin": "6"}
    answer = sheet_of("stop").answer(texts, BLOCK)
    markup = draw_picture(answer.picture, answer.picture_says)
    radius = float(re.search(r'<circle class="fill"[^>]* r="([\d.]+)"', markup).group(1))
    wide = float(re.search(r'<rect[^>]* width="([\d.]+)"', markup).group(1))
    assert radius / wide == pytest.approx(3 / 60, abs=0.001)
    assert sheet_of("stop").answer(texts, Known("mm", 48)).picture is None


@pytest.mark.parametrize(("field", "typed"), [("height", "30"), ("shorter", "60")])
def test_a_stop_must_meet_the_blank(field: str, typed: str) -> None:
    with pytest.raises(BadEntry) as caught:
        sheet_of("stop").answer({field: typed}, BLOCK)
    assert caught.value.field == field


def test_the_tip_over_the_edge_is_to_scale() -> None:
    """3 mm of overlap, 0.6 of slack, 0.3 of gap: 10 to 2 to 1."""
    texts = {"kind_of_stop": "tool tip", "overlap": "3", "slack": "0.6", "pull_back": "0.3"}
    answer = sheet_of("stop").answer(texts, BLOCK)
    markup = draw_picture(answer.picture, answer.picture_says)
    edge, face = 60, 380
    tip_x, tip_y = (float(v) for v in re.search(r'class="fill" d="M([\d.]+),([\d.]+)V', markup).groups())
    hangs = float(re.search(r'stroke-dasharray="4 5" d="M60,([\d.]+)', markup).group(1))
    assert (tip_y - edge) / (hangs - edge) == pytest.approx(5, abs=0.02)
    assert (hangs - edge) / (tip_x - face) == pytest.approx(2, abs=0.02)
    assert "2.400 mm" in answer.picture_says
