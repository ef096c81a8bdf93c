"""Our reader of programs beside others: words as tree-sitter-gcode has them, straight moves as pygcode; and what changes nothing.

Both are general libraries for RS-274; an offset's place is worked by hand ([ngc]: machine = offset + program).
"""

import json
import re
from collections.abc import Callable
from pathlib import Path

import pygcode
import pytest
import tree_sitter_gcode
from hypothesis import given as for_all
from hypothesis import strategies as st
from tree_sitter import Language, Node, Parser

from ditto_run.core.program.blocks import block_of
from ditto_run.core.program.dialect import DIALECTS
from ditto_run.core.program.given import Given, Slides, read_given
from ditto_run.core.program.reader import read_program
from tests.searches import searches

CASES = sorted((Path(__file__).parents[1] / "data/programs").glob("*.ngc"))
WORDS = frozenset(
    {"g_word", "m_word", "axis_word", "parameter_word", "tool_word", "feedrate_word", "spindle_word"}
)
TOLD = Given(DIALECTS["mill-ngc"], Slides((9000.0, 9000.0, 9000.0), 900.0), {"G54": (0.0, 0.0, 0.0)})
HEAD = "G21 G17 G90 G94\nT1 M6\nS900 M3\nG54\nG43 H1\n"
whole = st.integers(-400, 400)


def words_in(node: Node) -> list[str]:
    if node.type in WORDS or node.type.endswith("_word"):
        return [re.sub(r"\s", "", (node.text or b"").decode()).upper()]
    return [word for child in node.children for word in words_in(child)]


@pytest.mark.parametrize("path", CASES, ids=lambda path: path.stem)
def test_words_are_those_of_another_grammar(path: Path) -> None:
    """Every line that both read without a fault has the same words."""
    parser, same = Parser(Language(tree_sitter_gcode.language())), 0
    for n, line in enumerate(path.read_text().splitlines(), 1):
        tree, block = parser.parse(f"{line}\n".encode()).root_node, block_of(n, line)
        if tree.has_error or block.unknown or block.faults or block.twice or block.is_empty:
            continue
        theirs = sorted(words_in(tree))
        mine = [f"G{code}" for code in block.g] + [f"M{code}" for code in block.m]
        mine += [letter + text for letter, text in block.texts.items() if letter not in "NO"]
        plain = sorted(re.sub(r"^([GM])0+(?=\d)", r"\1", word) for word in theirs)
        assert plain == sorted(mine), (n, line)
        same += 1
    assert same > 5  # most of it is read by both


@searches(60)
@for_all(
    st.lists(st.tuples(st.sampled_from(["G0", "G1", "G90", "G91", ""]), whole, whole, whole), max_size=30)
)
def test_straight_moves_end_where_another_interpreter_has_them(
    moves: list[tuple[str, int, int, int]],
) -> None:
    machine = pygcode.Machine()
    lines = [f"{code} X{x / 4:g} Y{y / 4:g} Z{z / 4:g}".strip() for code, x, y, z in moves]
    texts = [*HEAD.split("\n")[:1], "G0 X0 Y0 Z0", "G1 F600", *lines]
    for text in texts:
        machine.process_block(pygcode.Line(text).block)
    theirs = [machine.pos.values[axis] for axis in "XYZ"]
    read = read_program(f"{HEAD}G0 X0 Y0 Z0\nG1 F600\n" + "\n".join(lines) + "\nM5\nM30\n", TOLD)
    if read.trace.moves:
        assert read.trace.moves[-1].points[-1] == pytest.approx(theirs)
    else:
        assert theirs == [0, 0, 0]


def test_an_offset_stands_where_it_was_put_by_hand() -> None:
    """G54 at −500, −250, −300: X10 Y20 Z5 is −490, −230, −295; and 90, −80, −10 under G55 at −580, −150, −285."""
    told = Given(DIALECTS["mill-ngc"], TOLD.slides, {"G54": (-500, -250, -300), "G55": (-580, -150, -285)})
    moves = read_program(f"{HEAD}G0 X10. Y20. Z5.\nG55 X91. Y-80. Z-10.\nM30\n", told).trace.moves
    assert moves[0].points[-1] == (10, 20, 5)
    assert moves[1].points[0] == (90, -80, -10)  # the same place, seen from G55
    assert moves[1].points[-1] == (91, -80, -10)


def _renumbered(text: str) -> str:
    return "\n".join(
        f"N{n * 10} {line}" if line and line[0] not in "%/(N" else line
        for n, line in enumerate(text.split("\n"))
    )


SAME: dict[str, Callable[[str], str]] = {
    "renumbered": _renumbered,
    "blanks": lambda text: re.sub(r"(?m)(?<=[\d.]) (?=[A-Z])", "  ", text),
    "comments": lambda text: re.sub(r"(?m)^(G[01]\b.*)$", r"\1 (AS SHOWN)", text),
    "case": lambda text: "\n".join(line if "(" in line else line.lower() for line in text.split("\n")),
    "line ends": lambda text: text.replace("\n", "\r\n"),
}


@pytest.mark.parametrize("how", SAME)
@pytest.mark.parametrize("name", ["d01", "d04", "d10", "d12"])
def test_what_means_nothing_changes_nothing(name: str, how: str) -> None:
    path = next(one for one in CASES if one.stem == name)
    told = read_given(json.loads(path.with_suffix(".json").read_text())["given"])
    text = path.read_text()
    changed = SAME[how](text)
    assert changed != text
    assert read_program(changed, told).as_document() == read_program(text, told).as_document()


@searches(40)
@for_all(st.lists(st.tuples(whole, whole), min_size=1, max_size=20))
def test_inch_and_millimetre_twins_read_the_same(spots: list[tuple[int, int]]) -> None:
    def text(unit: str, by: float, feed: float) -> str:
        cuts = "".join(f"X{x * by:.4f} Y{y * by:.4f}\n" for x, y in spots)
        return f"{HEAD.replace('G21', unit)}G0 Z{2 * by:.4f}\nG1 Z{-by:.4f} F{feed:.4f}\n{cuts}M5\nM30\n"

    inch, mm = (read_program(one, TOLD) for one in (text("G20", 1, 10), text("G21", 25.4, 254)))
    assert inch.tally.cut_mm == pytest.approx(mm.tally.cut_mm)
    assert inch.trapezoid_s == pytest.approx(mm.trapezoid_s)


@searches(40)
@for_all(whole, whole, st.integers(2, 9))
def test_a_straight_move_in_parts_is_as_long_and_takes_as_long(x: int, y: int, parts: int) -> None:
    def text(many: int) -> str:
        cuts = "".join(f"X{x * n / many:.6f} Y{y * n / many:.6f}\n" for n in range(1, many + 1))
        return f"{HEAD}G0 X0. Y0. Z2.\nG1 Z-1. F600.\n{cuts}M5\nM30\n"

    one, more = read_program(text(1), TOLD), read_program(text(parts), TOLD)
    assert more.tally.cut_mm == pytest.approx(one.tally.cut_mm, abs=1e-4)
    assert more.trapezoid_s == pytest.approx(one.trapezoid_s, abs=1e-3)
