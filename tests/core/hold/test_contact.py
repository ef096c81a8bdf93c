"""Setups by size: the piece in and out, what the jaws grip and meet, what is under a hole; everyday cases raise nothing."""

from dataclasses import replace
from decimal import Decimal

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from ditto_run.core.edits.feature_lines import IN_CHAIN
from ditto_run.core.errors import BadEntry
from ditto_run.core.hold import Feature, Setup
from ditto_run.core.hold.contact import contact_of
from ditto_run.core.hold.heights import Contact, Vise
from ditto_run.core.hold.held import Holding, check_held, read_straps
from ditto_run.core.hold.pieces import pieces_in, raw_of
from ditto_run.core.part.features import Named, read_feature
from ditto_run.core.part.shape.measures import shape_part
from ditto_run.core.shop.steps_cut import JawStep
from ditto_run.core.stock.blank import bar_blank, block_blank

D = Decimal
VISE = Vise(high=25.0, wide=100.0, opens=110.0, name="Vise 1")


class Part:
    """A part by its lines: named as they begin, `bore: bore 12 …`."""

    def __init__(self, form: str, *lines: str) -> None:
        self.form = form
        read = [read_feature(line, form, "mm") for line in lines]
        self.named = [Named(i, one.called or one.kind, one) for i, one in enumerate(read, 1)]
        usual = "outside" if form == "turned" else "top"
        self.features = [
            Feature(
                n.key,
                n.name,
                "bar" if n.feature.kind == "part off" else n.feature.face or usual,
                IN_CHAIN[n.feature.kind],
                line="x",
            )
            for n in self.named
        ]
        self.shaped = shape_part(self.named, form)

    def keys(self, *names: str) -> tuple[int, ...]:
        return tuple(next(n.key for n in self.named if n.name == name) for name in names)

    def held(
        self, setups: list[Setup], blank=None, vise: Vise = VISE, *, on_bar: bool = False
    ) -> list[Contact]:
        raw = raw_of(self.shaped, blank, on_bar=on_bar)
        pieces = pieces_in(self.shaped, raw, self.features, setups)
        return [contact_of(piece, self.shaped, vise, "mm") for piece in pieces]


CLAMP = Part(
    "block",
    "outside: block 60 x 40 x 31.5",
    "top face: face, top",
    "slot: slot 20 x 12 deep x 28 long, R5, in the middle, open right, top",
    "bore: bore 12 through, 16 from left, in the middle, top",
    "bottom face: face, bottom",
)
BLANK = block_blank((D(60), D(40), D("31.5")), (D("1.5"), D("1.5"), D("1.5")), D(0), D(0))
FIRST = Setup(
    1, "first side", locates_on=("bottom", "back", "left"), clamps_on=("front", "back"),
    cuts=CLAMP.keys("top face", "slot", "bore"), held=Holding(parallels_mm=D(17)),
)  # fmt: skip
SECOND = Setup(
    2, "second side", locates_on=("top",), clamps_on=("bore",), cuts=CLAMP.keys("bottom face", "outside")
)


def codes(contact: Contact) -> list[str]:
    return [finding.code for finding in contact.findings]


def test_the_clamp_block_goes_in_and_comes_out_as_worked_by_hand() -> None:
    """Blank 63 × 43 × 34.5; less 1.5 of facing, a slot that runs 29.5 to the raw end, a bore through 33; then the part itself."""
    first, second = CLAMP.held([FIRST, SECOND], BLANK)
    assert first.piece.before.size == (63, 43, 34.5)
    assert first.piece.after.size == (63, 43, 33)
    assert second.piece.after.size == (60, 40, 31.5)
    assert second.piece.after.volume() == pytest.approx(CLAMP.shaped.body.volume(), rel=1e-6)
    corners = 2 * (25 - 3.14159265 * 25 / 4)
    by_hand = 63 * 43 * 33 - (29.5 * 20 - corners) * 12 - 3.14159265 * 36 * 33
    assert first.piece.after.volume() == pytest.approx(by_hand, rel=1e-4)
    h = first.heights
    assert (h.seat, h.jaw, h.raw, h.finished, h.grip, h.stands) == (17, 25, 51.5, 50, 8, 26.5)
    assert h.deepest == pytest.approx(17 - 12 * 0.3004 - 1)
    assert codes(first) == codes(second) == []
    assert first.judged
    assert second.heights.raw == 33


@pytest.mark.parametrize(
    ("held", "vise", "found"),
    [
        ({}, {}, ["through-no-room"]),  # no parallels: the reamer runs into the bed
        ({"parallels_mm": D("4.6")}, {}, ["through-no-room"]),
        ({"parallels_mm": D("4.7")}, {}, []),
        ({"parallels_mm": D("18.1")}, {}, []),  # 6.9 of 27.6
        ({"parallels_mm": D("18.2")}, {}, ["grip-shallow"]),
        ({"parallels_mm": D(17)}, {"opens": 43.0}, []),
        ({"parallels_mm": D(17)}, {"opens": 42.9}, ["jaws-too-narrow"]),
        ({"parallels_mm": D(17), "parallel_wide_mm": D("15.5")}, {}, []),
        ({"parallels_mm": D(17), "parallel_wide_mm": D("15.6")}, {}, ["hole-meets-parallel"]),
        ({"parallels_mm": D(17)}, {"high": 37.9}, []),
        ({"parallels_mm": D(17)}, {"high": 50.1}, ["faces-below-jaws"]),
        ({"parallels_mm": D(25)}, {}, ["no-grip"]),
    ],
)  # fmt: skip
def test_jaws_parallels_and_what_is_under_a_hole_at_their_limits(held, vise, found) -> None:
    setup = replace(FIRST, held=Holding(**held))
    (contact,) = CLAMP.held([setup], BLANK, replace(VISE, **vise))
    assert codes(contact) == found


def test_a_slot_that_runs_out_of_the_sides_meets_the_jaws_by_how_much() -> None:
    part = Part("block", "b: block 60 x 40 x 30", "slot: slot 20 x 12 deep, full width, top")
    setup = Setup(1, "one", locates_on=("bottom",), clamps_on=("front", "back"), cuts=part.keys("slot"))
    for high, said in ((18.0, None), (18.5, "0.500 mm"), (25.0, "7.000 mm")):
        (contact,) = part.held([setup], None, replace(VISE, high=high))
        meets = [f.problem for f in contact.findings if f.code == "cut-meets-jaws"]
        assert bool(meets) == (said is not None)
        assert said is None or f"slot runs {said}" in meets[0]
    (contact,) = part.held([replace(setup, clamps_on=("left", "right"))], None)
    assert "cut-meets-jaws" not in codes(contact)  # the other way round it stays between them


@settings(deadline=None)
@given(st.floats(0, 16), st.floats(0, 8), st.booleans())
def test_a_taller_parallel_hides_no_collision_that_a_shorter_one_has_not(low, more, right) -> None:
    """Raising the piece can only take cuts out of the jaws: what meets them at the taller one met them at the shorter one."""
    part = Part(
        "block",
        "b: block 60 x 40 x 30",
        f"slot: slot 20 x 12 deep, full width, {20 if right else 40} from left, top",
    )
    depths = []
    for parallels in (low, low + more):
        held = Holding(parallels_mm=D(repr(parallels)))
        setup = Setup(
            1, "one", locates_on=("bottom",), clamps_on=("front", "back"), cuts=part.keys("slot"), held=held
        )
        (contact,) = part.held([setup], None)
        depths.append("cut-meets-jaws" in codes(contact))
    assert depths[0] or not depths[1]


def test_a_hole_begins_in_stock_until_its_face_is_faced() -> None:
    part = Part(
        "block", "b: block 60 x 40 x 30", "bore: bore 6 x 8 deep, in the middle, top", "top face: face, top"
    )
    blank = block_blank((D(60), D(40), D(30)), (D(1), D(1), D(1)), D(0), D(0))
    setup = Setup(
        1, "one", locates_on=("bottom",), clamps_on=("front", "back"), cuts=part.keys("bore", "top face")
    )
    (contact,) = part.held([setup], blank)
    assert [f.problem for f in contact.findings if f.code == "starts-in-stock"] == [
        "one: bore begins 1.000 mm (0.0394 in) deep: the top is not faced by then."
    ]
    (contact,) = part.held([replace(setup, cuts=part.keys("top face", "bore"))], blank)
    assert "starts-in-stock" not in codes(contact)


def test_what_is_gripped_has_to_be_there_and_solid() -> None:
    part = Part(
        "block", "b: block 60 x 40 x 30", "step: step 10 wide x 25 deep, all round, top", "slot: slot 30 x 20 deep, full length, bottom"
    )  # fmt: skip
    low = replace(VISE, high=4.0)
    on_bottom = Setup(1, "one", locates_on=("bottom",), clamps_on=("front", "back"), cuts=())
    on_top = Setup(2, "two", locates_on=("top",), clamps_on=("front", "back"), cuts=part.keys("slot"))
    first = replace(on_bottom, cuts=part.keys("step"))
    _, second = part.held([first, on_top], None, low)
    assert second.piece.before.size == (60, 40, 30)
    assert "grip-missing" not in codes(second)  # the island of the step is gripped, 20 wide
    _, opened = part.held([replace(on_bottom, key=3, cuts=part.keys("slot")), on_bottom], None, low)
    assert "squeezed-open" in codes(opened)
    assert "5.000 mm" in next(f.problem for f in opened.findings if f.code == "squeezed-open")


def test_it_sits_on_what_is_left() -> None:
    part = Part("block", "b: block 60 x 40 x 30", "step: step 10 wide x 5 deep, all round, top", "pocket: pocket 38 x 18 x 5 deep, R2, in the middle, top")  # fmt: skip
    setups = [
        Setup(
            1, "one", locates_on=("bottom",), clamps_on=("front", "back"), cuts=part.keys("step", "pocket")
        ),
        Setup(2, "two", locates_on=("top",), clamps_on=("front", "back")),
    ]
    assert "seat-small" in codes(part.held(setups, None)[1])
    assert "seat-small" not in codes(
        part.held([replace(setups[0], cuts=part.keys("step")), setups[1]], None)[1]
    )


def test_an_outline_above_the_jaws_on_a_stub_raises_nothing() -> None:
    part = Part("block", "outside: block 60 x 40 x 20", "top face: face, top")
    blank = block_blank((D(60), D(40), D(20)), (D(2), D(2), D(1)), D(8), D(0))
    setup = Setup(
        1, "profile", locates_on=("bottom",), clamps_on=("front", "back"), cuts=part.keys("top face", "outside"),
        held=Holding(parallels_mm=D(16)),
    )  # fmt: skip
    (contact,) = part.held([setup], blank)
    assert (contact.heights.grip, codes(contact)) == (9, [])
    assert contact.piece.after.size == (64, 44, 29)  # the stub is still there
    (deeper,) = part.held([replace(setup, held=Holding(parallels_mm=D(15)))], blank)
    assert codes(deeper) == ["cut-meets-jaws"]
    assert "1.000 mm" in deeper.findings[0].problem


PIN = Part(
    "turned", "end: face, free end", "shank: shoulder 11.95 x 66 at 20", "thread: outside thread M10 x 18 long, free end",
    "groove: groove 2 wide to Ø8 at 18", "off: part off 86",
)  # fmt: skip
BAR = bar_blank(D("11.95"), D(86), D("0.03"), D("0.5"), D(0), D(0))
COMPLETE = Setup(1, "complete", locates_on=("bar",), clamps_on=("bar",), cuts=(1, 2, 3, 4, 5))


def test_a_pin_from_the_bar() -> None:
    (contact,) = PIN.held(
        [replace(COMPLETE, held=Holding(stick_out_mm=D(90)), centres=("free end",))], BAR, on_bar=True
    )
    assert codes(contact) == []
    assert contact.piece.after.size[0] == 86
    assert contact.piece.after.volume() == pytest.approx(PIN.shaped.body.volume(), rel=1e-9)
    assert contact.zone[0] == 89.5


@pytest.mark.parametrize(
    ("out", "found"), [("86.5", []), ("86.4", ["cut-meets-jaws", "cut-meets-jaws"]), ("86.6", [])]
)
def test_ordinary_turning_near_the_chuck_raises_nothing_until_it_is_in_it(out, found) -> None:
    """The free end stands 0.5 before the finished one: the part ends 86.5 from the raw face."""
    (contact,) = PIN.held(
        [replace(COMPLETE, held=Holding(stick_out_mm=D(out)), centres=("free end",))], BAR, on_bar=True
    )
    assert codes(contact) == found


@pytest.mark.parametrize(("out", "found"), [("35", []), ("36", ["stick-out-long"])])
def test_what_sticks_out_three_diameters_is_usual(out, found) -> None:
    plain = Part("turned", "body Ø11.96 x 30", "off: part off 30")
    setup = Setup(
        1, "one", locates_on=("bar",), clamps_on=("bar",), cuts=(1, 2), held=Holding(stick_out_mm=D(out))
    )
    assert codes(plain.held([setup], None, on_bar=True)[0]) == found


def test_the_second_end_of_a_turned_part() -> None:
    part = Part(
        "turned",
        "body Ø20 x 50",
        "end: face, free end",
        "back: face, chuck end",
        "neck: shoulder 12 x 20, chuck end",
    )
    blank = bar_blank(D(20), D(50), D(0), D(1), D(0), D(0))
    first = Setup(
        1, "first end", clamps_on=("chuck end",), cuts=part.keys("end"), held=Holding(grip_mm=D(15))
    )
    second = Setup(2, "second end", clamps_on=("free end",), locates_on=("free end",), cuts=part.keys("back", "neck"), held=Holding(grip_mm=D(15)))  # fmt: skip
    one, two = part.held([first, second], blank)
    assert one.zone == (36, 51)
    assert (two.zone, codes(two)) == ((0, 15), [])
    assert two.piece.after.volume() == pytest.approx(part.shaped.body.volume())
    (_, deep) = part.held([first, replace(second, held=Holding(grip_mm=D(31)))], blank)
    assert codes(deep) == ["cut-meets-jaws"]
    wrong = part.held([replace(first, cuts=part.keys("end", "neck"))], blank)[0]
    assert codes(wrong) == ["cut-meets-jaws"]


def test_without_a_size_nothing_is_judged() -> None:
    part = Part("block", "top face: face, top")
    assert raw_of(part.shaped, BLANK) is None
    (contact,) = CLAMP.held([FIRST], None, Vise())
    assert not contact.judged


@settings(deadline=None)
@given(st.permutations(range(1, 6)), st.integers(0, 5))
def test_the_last_piece_is_the_part_whatever_the_order(order, split) -> None:
    """Properties: taking away never adds, and once each feature is made the piece is the part."""
    setups = [Setup(1, "one", cuts=tuple(order[:split])), Setup(2, "two", cuts=tuple(order[split:]))]
    one, two = CLAMP.held(setups, BLANK)
    assert one.piece.before.volume() >= one.piece.after.volume() - 1e-6
    assert two.piece.after.volume() == pytest.approx(CLAMP.shaped.body.volume(), rel=1e-6)


@pytest.mark.parametrize(
    ("held", "field"),
    [(Holding(up="free end"), "up"), (Holding(to_stop="x"), "to_stop"), (Holding(parallels_mm=D(25), jaw_high_mm=D(25)), "parallels")],
)  # fmt: skip
def test_what_cannot_be_held_so_is_refused_at_its_field(held, field) -> None:
    with pytest.raises(BadEntry) as refused:
        check_held(held, "block")
    assert refused.value.field == field


def mirrored(line: str) -> str:
    """The same line with left and right swapped."""
    return line.replace("left", "LEFT").replace("right", "left").replace("LEFT", "right")


@settings(deadline=None)
@given(
    st.lists(
        st.sampled_from(
            [
                "hole 8 through, top, 6 from left, 12 from front",
                "slot 20 x 12 deep, full width, 20 from left, top",
                "slot 6 x 4 deep x 20 long, open left, 30 from front, top",
                "step 5 wide x 22 deep, along the front, top",
                "pocket 10 x 10 x 18 deep, R2, top, 8 from left, 8 from front",
            ]
        ),
        min_size=1,
        unique=True,
    ),
    st.integers(0, 24),
)
def test_mirroring_changes_no_finding(lines, parallels) -> None:
    found = []
    for some in (lines, [mirrored(line) for line in lines]):
        part = Part("block", "b: block 60 x 40 x 30", *(f"f{i}: {line}" for i, line in enumerate(some)))
        cuts = part.keys(*(f"f{i}" for i in range(len(some))))
        setup = Setup(1, "one", locates_on=("bottom",), clamps_on=("front", "back"), cuts=cuts, held=Holding(parallels_mm=D(parallels)))  # fmt: skip
        found.append([(f.code, f.problem) for f in part.held([setup])[0].findings])
    assert found[0] == found[1]


def test_a_step_cut_into_the_jaws_gives_the_grip() -> None:
    cut = replace(VISE, steps=(JawStep(D("43.1"), D(6)), JawStep(D(43), D(9), is_round=True)))
    (contact,) = CLAMP.held([replace(FIRST, held=Holding())], BLANK, cut)
    assert (contact.heights.grip, contact.heights.jaw) == (6, 6)
    (other,) = CLAMP.held([replace(FIRST, held=Holding(grip_mm=D(4)))], BLANK, cut)
    assert other.heights.grip == 4


@pytest.mark.parametrize(("stop", "found"), [("right", ["cut-meets-stop"]), ("left", []), ("", [])])
def test_a_slot_that_runs_out_where_the_stop_is_is_asked_about(stop, found) -> None:
    (contact,) = CLAMP.held([replace(FIRST, held=Holding(parallels_mm=D(17), to_stop=stop))], BLANK)
    assert codes(contact) == found


@pytest.mark.parametrize(("high", "said"), [("38", None), ("38.1", "0.100 mm"), ("45", "7.000 mm")])
def test_a_stop_below_the_cut_is_in_nobodys_way(high, said) -> None:
    """The slot's floor is 38 above the bed."""
    (contact,) = CLAMP.held(
        [replace(FIRST, held=Holding(parallels_mm=D(17), to_stop="right", stop_high_mm=D(high)))], BLANK
    )
    found = [f for f in contact.findings if f.code == "cut-meets-stop"]
    assert [f.weight for f in found] == (["stop"] if said else [])
    assert said is None or f"slot runs out of the right, where the stop is, {said}" in found[0].problem


@pytest.mark.parametrize(
    ("straps", "relay", "found"),
    [
        ((("left", D("11.5")),), False, []),  # the bore begins 10 from the part's edge, 11.5 from the raw one
        ((("left", D("11.6")),), False, [("cut-meets-clamp", "stop")]),
        ((("left", D("11.6")),), True, [("cut-meets-clamp", "ask")]),
        (
            (("right", D(10)), ("front", D(9))),
            False,
            [("cut-meets-clamp", "stop")],
        ),  # the slot, open at the right
        ((("top", D(10)),), False, []),
    ],
)
def test_what_a_clamp_lies_over_is_found_by_how_much(straps, relay, found) -> None:
    held = Holding(parallels_mm=D(17), straps=straps)
    setup = replace(FIRST, cuts=CLAMP.keys("slot", "bore"), held=held, relay=relay, clamps_on=("top",))
    said = [
        (f.code, f.weight)
        for f in CLAMP.held([setup], BLANK, Vise())[0].findings
        if f.code == "cut-meets-clamp"
    ]
    assert said == found


@pytest.mark.parametrize("text", ["left", "left wide", "middle 15", "left 0", "left 3 4"])
def test_clamps_that_say_no_face_or_no_length_are_refused(text) -> None:
    with pytest.raises(BadEntry) as refused:
        read_straps(text, "mm")
    assert refused.value.field == "straps"
    assert read_straps("left 15; Right 1/2 in", "mm") == (("left", D(15)), ("right", D("12.70")))


def test_an_outline_without_stock_beside_it_meets_nothing() -> None:
    part = Part("block", "outside: block 60 x 40 x 20")
    setup = Setup(1, "one", locates_on=("bottom",), clamps_on=("front", "back"), cuts=(1,))
    assert codes(part.held([setup], None, replace(VISE, high=10.0))[0]) == []
    blank = block_blank((D(60), D(40), D(20)), (D(0), D("0.5"), D(0)), D(0), D(0))
    assert codes(part.held([setup], blank, replace(VISE, high=10.0))[0]) == ["cut-meets-jaws"]


def test_a_cut_to_the_bottom_goes_into_the_jaws_no_deeper_than_the_piece_sits() -> None:
    part = Part("block", "outside: block 60 x 40 x 20", "slot: slot 20 x 30 through, open front, top")
    held = Holding(parallels_mm=D(4))
    setup = Setup(
        1, "one", locates_on=("bottom",), clamps_on=("front", "back"), cuts=part.keys("slot"), held=held
    )
    (contact,) = part.held([setup], None, replace(VISE, high=10.0))
    (meets,) = [f.problem for f in contact.findings if f.code == "cut-meets-jaws"]
    assert "slot runs 6.000 mm" in meets  # from the jaws' top at 10 down to the parallels at 4


@pytest.mark.parametrize(
    ("kind", "parallels", "found"),
    [
        ("vacuum", 0, ["vacuum-leaks"]),
        ("vacuum", 17, ["vacuum-leaks"]),
        ("fixture plate", 0, ["through-into-plate"]),
        ("fixture plate", 17, []),
        ("nest", 0, []),
    ],
)
def test_a_hole_that_goes_through_on_a_plate_or_a_vacuum(kind, parallels, found) -> None:
    setup = replace(FIRST, clamps_on=("top",), held=Holding(parallels_mm=D(parallels)))
    (contact,) = CLAMP.held([setup], BLANK, Vise(name="P", kind=kind))
    assert codes(contact) == found
    (blind,) = CLAMP.held(
        [replace(setup, cuts=CLAMP.keys("top face", "slot"))], BLANK, Vise(name="P", kind=kind)
    )
    assert codes(blind) == []


def test_a_chuck_of_the_register_says_how_deep_it_grips_until_the_setup_does() -> None:
    part = Part("turned", "body Ø20 x 50", "end: face, free end")
    setup = Setup(1, "one", clamps_on=("chuck end",), cuts=(2,))
    chuck = Vise(high=12.0, name="three-jaw")
    assert part.held([setup], None, chuck)[0].zone == (38, 50)
    assert part.held([replace(setup, held=Holding(grip_mm=D(20)))], None, chuck)[0].zone == (30, 50)
    assert part.held([setup], None, Vise())[0].zone is None


@pytest.mark.parametrize(
    ("least", "most", "found"),
    [(11.5, 12.0, []), (11.95, 11.95, []), (11.96, 12.5, ["does-not-span"]), (10.0, 11.94, ["does-not-span"]), (None, None, [])],
)  # fmt: skip
def test_a_collet_has_to_take_the_diameter_it_grips(least, most, found) -> None:
    collet = Vise(opens=most, least=least, name="12 mm collet", kind="collet")
    plain = bar_blank(D("11.95"), D(86), D(0), D("0.5"), D(0), D(0))
    assert codes(PIN.held([COMPLETE], plain, collet, on_bar=True)[0]) == found


@pytest.mark.parametrize(
    ("facing", "seat", "found"),
    [("1", "chuck end", ["sawn-end"]), ("0", "chuck end", []), ("1", "outside", [])],
)
def test_the_first_chucking_on_a_sawn_end_is_said_to_tilt(facing, seat, found) -> None:
    part = Part("turned", "body: body Ø20 x 50", "free: face, free end", "chuck: face, chuck end")
    first = Setup(1, "one", locates_on=(seat,), clamps_on=("outside",), cuts=part.keys("free"))
    second = Setup(2, "two", locates_on=("free end",), clamps_on=("outside",), cuts=part.keys("chuck"))
    blank = bar_blank(D(20), D(50), D(0), D(facing), D(0), D(0))
    one, two = part.held([first, second], blank)
    assert codes(one) == found
    assert codes(two) == []  # faced by then
