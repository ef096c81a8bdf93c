"""Two texts of a program line by line."""

from hypothesis import given
from hypothesis import strategies as st

from ditto_run.core.program.compare import compared

LINES = st.lists(st.sampled_from(["G0 X1.", "G1 X2.", "G1 X3.", "M30", ""]), max_size=30)


def told(old: list[str], new: list[str]) -> list[tuple[int, str, str]]:
    return [(one.line, one.which, one.text) for one in compared(old, new).lines]


def test_a_changed_line_is_told_with_its_number_in_each_text() -> None:
    assert told(["a", "b", "c"], ["a", "B", "c"]) == [(2, "old", "b"), (2, "new", "B")]
    assert told(["a", "c"], ["a", "b", "c"]) == [(2, "new", "b")]
    assert told(["a", "b  "], ["a", "b"]) == []


@given(LINES, LINES)
def test_taking_out_and_putting_in_makes_one_text_of_the_other(old: list[str], new: list[str]) -> None:
    found = compared(old, new)
    out = {one.line for one in found.lines if one.which == "old"}
    come = {one.line for one in found.lines if one.which == "new"}
    kept = [line.rstrip() for n, line in enumerate(old, 1) if n not in out]
    assert kept == [line.rstrip() for n, line in enumerate(new, 1) if n not in come]


def test_what_is_too_different_is_counted_and_what_is_much_is_cut() -> None:
    far = compared([f"X{n}" for n in range(5000)], [f"Y{n}" for n in range(5000)])
    assert (far.is_whole, far.count, far.lines) == (False, 5000, ())
    much = compared([], [f"X{n}" for n in range(300)])
    assert (len(much.lines), much.count) == (200, 300)
