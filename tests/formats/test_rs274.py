"""Work offsets as RS-274 text: written, read back, followed; and what each dialect makes of L20 and P0."""

from decimal import Decimal as D

import pytest
from hypothesis import given
from hypothesis import strategies as st

from ditto_run.core.place.offsets import Offset
from ditto_run.core.shop import Dialect
from ditto_run.formats.offset_table import read_offset_table, write_offset_table
from ditto_run.formats.rs274 import NUMBERED, p_number, positions, read_offsets, write_offsets

EXTENDED = Dialect("extended")
INCH = Offset("G54", {"x": D("-23.6220"), "y": D("-5.0394"), "z": D("-14.2520")}, "in")


def test_units_and_absolute_mode_are_written_out() -> None:
    text, left_out = write_offsets(
        [INCH, Offset("G54.1 P7", {"x": D(1), "a": D(90)}, "in", kept=True, name="base")],
        EXTENDED,
        "in",
        "Mill 2",
    )
    assert text.splitlines() == [
        "%",
        "(Mill 2)",
        "G20 (inches)",
        "G90 (absolute)",
        "G10 L2 P1 X-23.6220 Y-5.0394 Z-14.2520 (G54)",
        "G10 L20 P7 X1.0000 A90.000 (G54.1 P7 KEPT base)",
        "M30",
        "%",
    ]
    assert left_out == []


@pytest.mark.parametrize(
    ("code", "dialect", "said"),
    [
        ("G54", Dialect(), ("L2", 1)),
        ("G59.3", Dialect(), ("L2", 9)),
        ("G59.1", Dialect(fine=False), None),
        ("G54.1 P48", EXTENDED, ("L20", 48)),
        ("G54.1 P48", Dialect(), None),
        ("G54.1 P1", Dialect("here"), None),
        ("preset 1", EXTENDED, None),
    ],
)
def test_what_a_control_cannot_set_is_said(code, dialect, said) -> None:
    assert p_number(code, dialect) == said
    _, left_out = write_offsets([Offset(code, {"x": D(1)})], dialect, "mm")
    assert left_out == ([] if said else [code])


AXIS = st.one_of(st.none(), st.integers(-9_999_999, 9_999_999))


@given(
    st.dictionaries(st.sampled_from([*NUMBERED, "G54.1 P1", "G54.1 P48"]), st.tuples(AXIS, AXIS, AXIS, AXIS)),
    st.sampled_from(["mm", "in"]),
)
def test_what_is_written_reads_back_the_same(found, unit) -> None:
    """Round trip of G10 and of the table, in both units."""
    places = 4 if unit == "in" else 3
    offsets = []
    for code, values in found.items():
        axes = {
            axis: D(v).scaleb(-places if axis != "a" else -3)
            for axis, v in zip("xyza", values, strict=True)
            if v is not None
        }
        if axes:
            offsets.append(Offset(code, axes, unit))
    text, left_out = write_offsets(offsets, EXTENDED, unit)
    read = read_offsets(text, EXTENDED, "mm" if unit == "in" else "in")
    assert (left_out, read.faults) == ([], ())
    again = read_offsets(text, EXTENDED, unit)
    assert {code: dict(axes) for code, axes in again.axes.items()} == {o.code: dict(o.axes) for o in offsets}
    table = read_offset_table(write_offset_table(offsets), unit)
    assert {code: dict(axes) for code, axes in table.axes.items()} == {o.code: dict(o.axes) for o in offsets}


def test_units_of_the_text_win_over_the_controls() -> None:
    assert read_offsets("G20\nG10 L2 P1 X1", Dialect(), "mm").axes == {"G54": {"x": D("25.4")}}
    assert read_offsets("g21 g10 l2 p2 x25.4", Dialect(), "in").axes == {"G55": {"x": D("1.0000")}}


def test_incremental_blocks_add_to_what_stands() -> None:
    read = read_offsets(
        "G91\nG10 L2 P1 X0.5\nG10 L2 P1 X0.5", Dialect(), "mm", {"G54": {"x": D(10), "y": D(5)}}
    )
    assert read.axes == {"G54": {"x": D(11)}}  # and only what the text names


@pytest.mark.parametrize(
    ("line", "dialect", "words"),
    [
        ("G10 P1 X1", Dialect(), "L is missing"),
        ("G10 L2 X1", Dialect(), "P is missing"),
        ("G10 L2 P10 X1", Dialect(), "L2 P10 is not an offset"),
        ("G10 L2 P7 X1", Dialect(fine=False), "L2 P7 is not"),
        ("G10 L20 P3 X1", Dialect(), "L20 is not known"),
        ("G10 L20 P3 X1", Dialect("here"), "where the spindle stands"),
        ("G10 L2 P0 X1", Dialect(), "P0 is not known"),
        ("G10 L2 P0 X1", Dialect(p0="active"), "active at that moment"),
        ("G10 L2 P0 X1", Dialect(p0="common"), "common shift"),
        ("G10 L1 P1 X1", Dialect(), "L1 is no work offset"),
        ("G10 L2 P1.5 X1", Dialect(), "P1.5 is no offset"),
        ("G10 L2 P1", Dialect(), "names no axis"),
        ("G10 L2 P1 X1 X2", Dialect(), "X comes twice"),
        ("G10 L2 P1 X#5", Dialect(), "is not a word"),
    ],
)
def test_a_block_that_cannot_be_taken_is_named_and_sets_nothing(line, dialect, words) -> None:
    read = read_offsets(f"G21\n{line}\nG10 L2 P2 Y5", dialect, "mm")
    assert dict(read.axes) == {"G55": {"y": D(5)}}
    (fault,) = read.faults
    assert (fault.row, words in fault.message) == (2, True)


def test_comments_and_other_blocks_are_passed_over() -> None:
    assert read_offsets("(G10 L2 P1 X1)\n; G10 L2 P1 X1\nG0 X5\nM30", Dialect(), "mm").axes == {}
    assert (
        read_offsets("G0 X1\n" * 20_001, Dialect(), "mm").faults[0].message == "20,001 lines are over 20,000."
    )


def test_a_table_with_faults_names_row_and_column() -> None:
    read = read_offset_table("Code;X;unit\nG54;1;in\nG99;1;mm\nG55;left;mm\nG56;1;ft\nG54;2;in", "in")
    assert [(f.row, f.field) for f in read.faults] == [
        (3, "offset_codes"),
        (4, "x"),
        (5, "unit"),
        (6, "code"),
    ]
    assert read_offset_table("name,value\n", "mm").faults[0].field == "code"


def test_incremental_moves_and_canned_cycles_are_followed() -> None:
    found = positions(
        "G54 G90 G0 X1 Y1 Z5\nG91 G1 X2\nG90 G53 G0 Z0\nG0 Z5", {"G54": {"x": D(100), "z": D(-50)}}
    )
    assert [(p["x"], p["z"]) for p in found] == [
        (D(101), D(-45)),
        (D(103), D(-45)),
        (D(103), D(0)),
        (D(103), D(-45)),
    ]
