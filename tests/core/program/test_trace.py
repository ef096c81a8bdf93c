"""The way of a program, for a picture and for the ear."""

from math import hypot, pi

from ditto_run.core.program.given import BoxBlank, read_given
from ditto_run.core.program.paths import Arc
from ditto_run.core.program.reader import read_program
from ditto_run.core.program.trace import MOST_MOVES, points_of, stays_of
from ditto_run.web.drawings.program_path import draw_path

GIVEN = {"offsets": {"G54": [0, 0, 0], "G55": [100, 0, 0]}}
TEXT = (
    "G21 G17 G90 G94\nT1 M6\nS1000 M3\nG54 G0 X0. Y0.\nG43 H1 Z5.\nG1 Z-1. F100.\nX10.\nG0 Z5.\n"
    "G55 G0 X0. Y0.\nG1 Z-1.\nG0 Z5.\nT2 M6\nG43 H2\nG99 G81 X5. Y5. Z-5. R2. F100.\nG80\nM5\nM30\n"
)


def test_moves_keep_their_line_tool_and_offset() -> None:
    moves = read_program(TEXT, read_given(GIVEN)).trace.moves
    assert [(m.line, m.kind, m.tool, m.offset) for m in moves[:4]] == [
        (5, "rapid", 1, "G54"),
        (6, "feed", 1, "G54"),
        (7, "feed", 1, "G54"),
        (8, "rapid", 1, "G54"),
    ]
    assert moves[2].points == ((0, 0, -1), (10, 0, -1))
    assert moves[2].since_s > moves[1].since_s
    told = [(one.tool, one.offset, one.feeds, one.begin, one.end) for one in stays_of(moves)]
    assert told == [(1, "G54", 2, 5, 8), (1, "G55", 1, 9, 11), (2, "G55", 1, 14, 14)]


def test_a_long_way_is_cut_and_counted() -> None:
    text = TEXT.replace("X10.\n", "".join(f"X{n % 7}.\n" for n in range(MOST_MOVES + 50)))
    trace = read_program(text, read_given(GIVEN)).trace
    assert len(trace.moves) == MOST_MOVES
    assert trace.more > 50


def test_an_arc_is_drawn_by_points_on_it() -> None:
    points = points_of(Arc((5, 0, 0), (-5, 0, 0), "17", (0, 0), 5, 0, pi))
    assert len(points) > 8
    assert all(abs(hypot(x, y) - 5) < 1e-9 for x, y, _ in points)


def test_the_picture_says_what_is_picked_and_shows_both_views() -> None:
    moves = [m for m in read_program(TEXT, read_given(GIVEN)).trace.moves if m.offset == "G54"]
    drawn = draw_path(moves, BoxBlank((0, 0, -10), (20, 10, 0)), 7, turned=False)
    assert (
        'aria-label="Path under one offset: 2 feed moves, 2 rapids. Line 7: feed to X10.00 Y0.00 Z-1.00."'
        in drawn
    )
    assert drawn.count("<rect") == 2
    assert "from above" in drawn
    assert "from the front" in drawn
    assert "nan" not in draw_path(moves[:1], None, 0, turned=True)
