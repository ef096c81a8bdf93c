"""A feature in one line of shop language: read as it is said, asked for what it does not say, written back the same."""

from dataclasses import replace
from decimal import Decimal as D

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ditto_run.core.errors import BadEntry, DittoError
from ditto_run.core.part.features import KINDS, Described, Role, feature_text, read_feature
from ditto_run.core.part.features.lexer import KIND_OF

R = Role

READ = [  # form, unit, line, kind, count, sizes, what else, open
    ("block", "mm", "4x M6 x 12 deep, top", "tapped hole", 4, {R.THREAD: 6, R.DEPTH: 12}, "top", ("how they stand to each other", "where")),
    ("block", "mm", "bore 12 H7 through, 20 from left, 15 from front", "bore", 1, {R.DIAMETER: 12}, "through", ("on which face",)),
    ("block", "mm", "slot 20 ±0.03 x 12 deep, full length, top", "slot", 1, {R.WIDTH: 20, R.DEPTH: 12}, "full length", ()),
    ("block", "mm", "2 holes 6.8 on 40 centres", "hole", 2, {R.DIAMETER: "6.8"}, "line", ("how deep, or through", "on which face", "where")),
    ("block", "mm", "6 on a 50 circle", "", 6, {}, "circle", ("what it is",)),
    ("turned", "in", "shoulder .4375 ±.001 x 1.250", "shoulder", 1, {R.DIAMETER: "0.4375", R.LENGTH: "1.250"}, "", ()),
    ("turned", "mm", "groove 3 wide to Ø9 at 20", "groove", 1, {R.WIDTH: 3, R.BOTTOM: 9}, "", ()),
    ("turned", "in", "3/8-16 x 3/4 deep, both ends", "tapped hole", 1, {R.THREAD: "0.375", R.DEPTH: "0.75"}, "both ends", ()),
    ("block", "mm", "chamfer 0.5 all round", "chamfer", 1, {R.SIZE: "0.5"}, "all round", ()),
    ("turned", "mm", "knurl 12 long", "knurl", 1, {R.LENGTH: 12}, "", ("where",)),
    ("turned", "mm", "M8 x 20 long, free end", "outside thread", 1, {R.THREAD: 8, R.LENGTH: 20}, "free end", ()),
    ("block", "mm", "M10x1.25 x 20 deep, front, on centre", "tapped hole", 1, {R.THREAD: 10, R.DEPTH: 20}, "front", ()),
    ("block", "mm", "pocket 40 x 20 x 8 deep, R5, in the top, in the middle", "pocket", 1, {R.LENGTH: 40, R.WIDTH: 20, R.DEPTH: 8, R.RADIUS: 5}, "top", ()),
    ("block", "mm", "pocket 40x20x8 in the top, in the middle", "pocket", 1, {R.LENGTH: 40, R.WIDTH: 20, R.DEPTH: 8}, "top", ()),
    ("block", "in", "#7 drill thru, top, 1/2 from left, .75 from back", "hole", 1, {R.DIAMETER: "0.2010"}, "through", ()),
    ("block", "mm", "drill 6.8 through, top, centre", "hole", 1, {R.DIAMETER: "6.8"}, "through", ()),
    ("block", "mm", "bend 90° R3", "bend", 1, {R.ANGLE: 324000, R.RADIUS: 3}, "", ("where",)),
    ("block", "mm", "bend 90° radius 4", "bend", 1, {R.ANGLE: 324000, R.RADIUS: 4}, "", ("where",)),
    ("turned", "mm", "taper 1:10 Ø20 x 30 long", "taper", 1, {R.DIAMETER: 20, R.LENGTH: 30}, "", ()),
    ("turned", "mm", "cross hole 4 through at 12", "cross hole", 1, {R.DIAMETER: 4}, "through", ()),
    ("turned", "mm", "hexagon 17 x 12 long", "hexagon", 1, {R.ACROSS: 17, R.LENGTH: 12}, "", ()),
    ("block", "mm", "outline 60 x 40", "outline", 1, {R.LENGTH: 60, R.WIDTH: 40}, "", ()),
    ("block", "mm", "face the top", "face", 1, {}, "top", ()),
    ("turned", "mm", "part off", "part off", 1, {}, "", ()),
    ("block", "mm", "step 10 wide x 5 deep, full length, left", "step", 1, {R.WIDTH: 10, R.DEPTH: 5}, "left", ()),
]  # fmt: skip


@pytest.mark.parametrize(("form", "unit", "line", "kind", "count", "sizes", "else_", "opened"), READ)
def test_lines_as_they_are_said(form, unit, line, kind, count, sizes, else_, opened) -> None:
    found = read_feature(line, form, unit)
    assert (found.kind, found.count) == (kind, count)
    for role, value in sizes.items():
        assert found.sizes[role].nominal == D(str(value)), role
    said = {
        found.face,
        found.extent,
        "through" if found.through else "",
        found.pattern and found.pattern.arrangement,
    }
    assert else_ in {*said, ""}
    assert found.open == opened
    assert all(piece.read for piece in found.pieces)


def plain(found: Described) -> tuple:
    """What a feature is, without how it was typed."""
    bare = {role: replace(size, text="") for role, size in found.sizes.items()}
    return (
        *(found.kind, found.count, bare, found.through, found.face, found.extent, found.words),
        [(at.distance and replace(at.distance, text=""), at.face) for at in found.places],
        found.pattern and (found.pattern.arrangement, [replace(s, text="") for s in found.pattern.by]),
        {word: {r: replace(s, text="") for r, s in own.items()} for word, own in found.parts.items()},
        [replace(s, text="") for s in found.geometry],
    )


@pytest.mark.parametrize(("form", "unit", "line"), [row[:3] for row in READ])
def test_what_is_written_back_reads_the_same(form, unit, line) -> None:
    found = read_feature(line, form, unit)
    for other in ("mm", "in"):
        assert plain(read_feature(feature_text(found), form, other)) == plain(found)


def test_what_belongs_to_a_hole_and_how_it_lies() -> None:
    found = read_feature(
        "4 holes Ø6.6 through, counterbore 11 x 6.5 deep, on 40 x 30 centres, position 0.2 to A, top",
        "block",
        "mm",
    )
    counterbore = found.parts["counterbore"]
    assert (counterbore[R.DIAMETER].nominal, counterbore[R.DEPTH].nominal) == (11, D("6.5"))
    assert found.pattern.arrangement == "grid"
    assert [size.nominal for size in found.pattern.by] == [40, 30]
    assert (found.geometry[0].name, found.geometry[0].upper, found.geometry[0].note) == (
        "position",
        D("0.2"),
        "to A",
    )
    assert found.open == ("where",)
    csk = read_feature("hole 5 through, countersink 10 x 90°, top, centre", "block", "mm").parts[
        "countersink"
    ]
    assert (csk[R.DIAMETER].nominal, csk[R.ANGLE].nominal) == (10, 324000)
    tapped = read_feature("M6 x 12 deep, drill 5 x 16 deep, top", "block", "mm")
    assert tapped.kind == "tapped hole"
    assert (tapped.parts["drill"][R.DIAMETER].nominal, tapped.parts["drill"][R.DEPTH].nominal) == (5, 16)


def test_one_hole_in_an_end_lies_on_the_axis_and_several_are_asked_about() -> None:
    assert read_feature("bore 10 H7 x 25 deep, free end", "turned", "mm").open == ()
    assert read_feature("3x M5 x 12 deep, free end", "turned", "mm").open == (
        "how they stand to each other",
        "where",
    )
    assert read_feature("3x M5 x 12 deep, on a 30 circle, free end", "turned", "mm").open == ()


def test_each_piece_stands_over_its_reading() -> None:
    pieces = read_feature("4x M6 x 12 deep, top", "block", "mm").pieces
    assert [(p.typed, p.word) for p in pieces] == [
        ("4x", "how many"),
        ("M6", "thread"),
        ("12 deep", "depth"),
        ("top", "face"),
    ]
    assert "6" in pieces[1].read


@pytest.mark.parametrize(
    ("form", "line", "kind"),
    [
        ("turned", "stem Ø10 0/-0.04 x 70 long, free end", "shoulder"),
        ("turned", "journals 10 x 20, chuck end", "shoulder"),
        ("turned", "step Ø10 x 20, free end", "shoulder"),
        ("turned", "Ø10 x 20 long, free end", "shoulder"),
        ("turned", "Ø4 x 20 deep, free end", ""),  # a hole or a bore: nobody said
        ("block", "step 10 x 5 x 40, top", "step"),
        ("block", "keyway 6 x 3 deep x 20 long, top", "slot"),
    ],
)
def test_words_a_shop_uses_for_the_same_thing(form, line, kind) -> None:
    assert read_feature(line, form, "mm").kind == kind


def test_what_is_done_by_hand_is_only_said() -> None:
    found = read_feature("press in the bush flush", "block", "mm")
    assert (found.kind, found.words, found.open) == ("by hand", "press in the bush flush", ())
    assert feature_text(found) == "press in the bush flush"


@pytest.mark.parametrize(
    ("form", "line", "said"),
    [
        ("block", "hole foo 6", "foo"),
        ("block", "wibble", "“wibble” is no word we know here"),
        ("block", "", "No size is typed"),
        ("block", "bore 12 through x 20 deep", "goes through and has a depth"),
        ("block", "slot 20 wide x 12 wide", "the width twice"),
        ("block", "slot 5 x 3 x 20 x 4", "no place for “4”"),
        ("block", "bore 12 pocket 20", "says bore and pocket"),
        ("block", "shoulder 12 x 20", "A block part has no shoulder"),
        ("turned", "pocket 12 x 20 x 5", "A turned part has no pocket"),
        ("turned", "bore 12 x 20 deep, left", "no face “left”"),
        ("block", "hole 6, top, bottom", "says top and bottom"),
        ("block", "hole 6, 20 from left, 30 from left", "twice how far from left"),
        ("block", "0x M6 x 12 deep", "None of it"),
        ("block", "hole 0 through", "diameter of 0 is none"),
        ("block", "hole 6 on 40 centres", "One alone"),
        ("block", "4x hole 6 on a 50 x 20 circle", "is no pattern"),
        ("block", "hole 6 on", "does not say on what"),
        ("block", "hole deep", "Before “deep” a figure is missing"),
        ("block", "hole 6 at", "After “at” a distance is missing"),
        ("turned", "groove 3 wide x Ø9 to Ø12", "not smaller at the bottom"),
        ("block", "hole 6 " + "x" * 300, "signs long"),
        ("block", "hole 6 full length both ends", "full length and both ends"),
    ],
)
def test_a_line_that_cannot_be_read_says_why(form, line, said) -> None:
    with pytest.raises(DittoError, match=said) as refused:
        read_feature(line, form, "mm")
    assert refused.value.field == "text"
    assert refused.value.remedy


MEASURES = st.sampled_from(["6", "12.5", "20 ±0.03", ".4375", "1/4 in", "12.0 to 12.1", "3 mm", "25 +0.1/0"])
PLACES = st.lists(
    st.sampled_from(["20 from left", "15 from front", "3 mm from back"]),
    unique_by=lambda p: p.split()[-1],
    max_size=2,
)


@st.composite
def lines(draw) -> str:
    """A line made of what may be said of a feature of a block, in any order behind its sizes."""
    kind = draw(
        st.sampled_from(
            [
                kind
                for kind in KINDS.values()
                if "block" in kind.forms
                and kind.order
                and kind.name not in {"bend", "face", "outside thread"}
            ]
        )
    )
    count = draw(st.sampled_from(["", "", "2x ", "4x "]))
    name = draw(st.sampled_from(sorted(word for word, of in KIND_OF.items() if of == kind.name)))
    given_ = draw(st.integers(1, len(kind.order)))
    sizes = [
        "M6" if role is R.THREAD else "45°" if role is R.ANGLE else draw(MEASURES)
        for role in kind.order[:given_]
    ]
    rest = draw(PLACES)
    if kind.through and given_ == 1 and draw(st.booleans()):
        rest.append("through")
    if count and draw(st.booleans()):
        rest.append(draw(st.sampled_from(["on a 50 circle", "on 40 centres", "on 40 x 30 centres"])))
    rest.append(draw(st.sampled_from(["top", "in the top", "front face", "all round"])))
    for more in (
        ("open right", "along the left"),
        ("along the width", "along the length"),
        ("supplied", "cut-out"),
    ):
        if draw(st.booleans()):
            rest.append(draw(st.sampled_from(more)))
    called = draw(st.sampled_from(["", "", "mine: ", "tube seat: "]))
    corners = (
        "points 0 0; 60 0; 60 30; 0 30, " if name == "outline" and not count and draw(st.booleans()) else ""
    )
    sizes = sizes[:1] if corners else sizes
    return f"{called}{count}{name} {corners}" + ", ".join((" x ".join(sizes), *draw(st.permutations(rest))))


@given(lines(), st.sampled_from(["mm", "in"]))
def test_any_line_of_the_grammar_is_read_and_reads_the_same_when_written_back(line, unit) -> None:
    found = read_feature(line, "block", unit)
    assert found.kind
    assert plain(read_feature(feature_text(found), "block", unit)) == plain(found)


@given(st.text(alphabet="0123456789 xM.,/ØR±deprtohlsbu-#°", max_size=40))
def test_no_line_breaks_the_reader(line) -> None:
    """It is read, and then reads the same written back, or it is refused with a sentence and a remedy."""
    try:
        found = read_feature(line, "block", "mm")
    except DittoError as refusal:
        assert refusal.problem
        assert refusal.remedy
        return
    again = read_feature(feature_text(found), "block", "mm") if found.kind else found
    assert plain(again) == plain(found)


@pytest.mark.parametrize(
    ("line", "what"),
    [
        ("outline points 0 0; 60 0; 0 30; 60 30, 10 high", "crosses itself near 30 15"),
        ("outline points 0 0; 60 0", "2 points make no outline"),
        ("outline points 0 0; 60 0; 30 0, 5 high", "crosses itself"),
        ("outline points " + "; ".join(f"{i} {i * i}" for i in range(1001)), "1,001 points"),
    ],
)
def test_corners_that_enclose_nothing_are_refused(line, what) -> None:
    with pytest.raises(BadEntry, match=what):
        read_feature(line, "block", "mm")


@pytest.mark.parametrize(
    ("line", "what"),
    [
        ("profile points 0 10; 20 10; 10 15", "runs back from 20 to 10"),
        ("profile points 0 10; 20 -1", "below nought"),
        ("profile points 0 10", "One point"),
    ],
)
def test_a_profile_that_cannot_be_turned_is_refused(line, what) -> None:
    with pytest.raises(BadEntry, match=what):
        read_feature(line, "turned", "mm")


def test_a_name_before_a_colon_is_the_features_name() -> None:
    found = read_feature("tube slot: slot 20 x 12 deep, full length, top", "block", "mm")
    assert (found.called, found.kind) == ("tube slot", "slot")
    assert read_feature("press in: the sleeve", "block", "mm").kind == "by hand"
    assert read_feature("taper 1:10 x Ø20 x 30, free end", "turned", "mm").called == ""


def test_what_comes_with_the_blank_is_said_so() -> None:
    for line in (
        "hole 22 ±0.5 through, in the middle, top, supplied",
        "supplied hole 22 ±0.5 through, in the middle, top",
    ):
        assert read_feature(line, "block", "mm").supplied
    assert not read_feature("hole 22 through, top", "block", "mm").supplied


@pytest.mark.parametrize(
    ("form", "line", "angle"),
    [
        ("turned", "chamfer 1 x 45, free end", 45),
        ("block", "chamfer 0.5 x 30, top", 30),
        ("block", "bend 90 x R3, 40 from left", 90),
        ("block", "bend 45 x 3, 40 from left", 45),
        ("turned", "taper 10 x Ø20 x 30, free end", 10),
    ],
)
def test_a_bare_figure_is_an_angle_where_only_that_can_be_meant(form, line, angle) -> None:
    found = read_feature(line, form, "mm")
    assert found.sizes[R.ANGLE].nominal_base == angle * 3600
    assert plain(read_feature(feature_text(found), form, "mm")) == plain(found)
