"""Moves run in a row give the same as block by block; held to it by made-up programs with everything that may come between."""

from dataclasses import replace

import pytest
from hypothesis import given as for_all
from hypothesis import strategies as st

from ditto_run.core.program.dialect import DIALECTS
from ditto_run.core.program.given import BoxBlank, Given, Planned, Slides, ToolFigures
from ditto_run.core.program.interpret import Interpreter
from ditto_run.core.program.reader import read_program
from ditto_run.core.program.streak import Streak
from tests.searches import searches

HEAD = "%\nG21 G17 G40 G49 G80 G90 G94\nT1 M6\nS900 M3\nG54 G0 X5. Y5.\nG43 H1 Z5.\n"
TOLD = Given(
    DIALECTS["mill-ngc"],
    Slides(
        (10_000.0, 10_000.0, 8_000.0), 900.0, 4.0, travel_mm=((-300.0, 0.0), (-200.0, 0.0), (-400.0, 0.0))
    ),
    {"G54": (-250.0, -150.0, -300.0), "G55": (-100.0, -150.0, -290.0)},
    {"G54": BoxBlank((0, 0, -20), (60, 40, 0)), "G55": BoxBlank((0, 0, -20), (60, 40, 1))},
    {"G54": (BoxBlank((0, -40, -20), (60, 0, -12)), BoxBlank((0, 40, -20), (60, 80, -12)))},
    Planned((1, 2), ("G54", "G55"), (1,), {1: ToolFigures(6.0), 2: ToolFigures()}),
)
places = st.integers(-8, 70).map(lambda n: f"{n}.")
depths = st.sampled_from(["-1.", "-5.5", "-13.", "-19.", "0.", "2.", "25.", "-30."])
lines = st.one_of(
    st.builds("G1 X{} Y{}".format, places, places),
    st.builds("X{} F{}".format, places, st.sampled_from(["100.", "800", "0", "-5."])),
    st.builds("N{} G01 Y{}".format, st.integers(1, 999), places),
    st.builds("G1 Z{} F200.".format, depths),
    st.builds("Z{}".format, depths),
    st.builds(
        "G{} X{} Y{} I{} J{}".format,
        st.sampled_from("23"),
        places,
        places,
        st.integers(-5, 5),
        st.integers(-5, 5),
    ),
    st.sampled_from(["G2 X15. Y15. I5. J5.", "G3 X25. Y15. I5. J0.", "G2 X30. Y10. Z-6. I5.", "G3 I5. J0."]),
    st.builds("G0 X{} Y{}".format, places, places),
    st.builds("G0 Z{}".format, depths),
    st.sampled_from(
        [
            "M5",
            "S700 M3",
            "M0",
            "M1",
            "G4 P1",
            "G91",
            "G90",
            "G55",
            "G54",
            "T2 M6",
            "G43 H2 Z25.",
            "G18",
            "G17",
            "G95",
            "G94",
            "(words)",
            "X1 2.",
            "G1 X#5",
            "G28 Z0.",
            "G53 G0 Z0.",
            "G92 X3.",
            "G10 L2 P1 X-240.",
            "G20",
            "G21",
            "G81 X20. Y20. Z-5. R2. F90.",
            "G80",
            "G99",
            "/X4.",
            "x7.",
            "G1 X9. R2.",
            "G93",
            "",
            "G40",
            "G41 D1",
        ]
    ),
)


def whole(text: str, told: Given) -> tuple[object, ...]:
    """All that is taken from a program: the document to the last digit but one, the trace, the parts of its time."""
    read = read_program(text, told)
    moves = [
        (
            m.line,
            m.kind,
            m.tool,
            m.offset,
            tuple(tuple(round(v, 6) for v in p) for p in m.points),
            round(m.since_s, 6),
        )
        for m in read.trace.moves
    ]
    times = (read.simple_s, read.trapezoid_s or 0.0, read.rapid_s, *read.tally.tool_s.values())
    return _near(read.as_document()), moves, tuple(round(one, 5) for one in times), dict(read.tally.fed)


def _near(doc: object) -> object:
    if isinstance(doc, dict):
        return {key: _near(value) for key, value in doc.items()}
    if isinstance(doc, list):
        return [_near(one) for one in doc]
    return round(doc, 3) if isinstance(doc, float) else doc


def the_long_way(text: str, told: Given, patch: pytest.MonkeyPatch) -> tuple[object, ...]:
    with patch.context() as there:
        there.setattr(Streak, "look", lambda _: None)
        return whole(text, told)


@searches(300)
@for_all(st.lists(lines, max_size=40), st.sampled_from(["mill-ngc", "mill-shop"]), st.booleans())
def test_the_same_as_block_by_block(body: list[str], table: str, bare: bool) -> None:
    told = replace(TOLD, dialect=DIALECTS[table])
    if bare:
        told = replace(told, blanks={}, guards={})
    text = HEAD + "G1 Z-2. F300.\n" + "\n".join(body) + "\nM5\nM30\n%\n"
    with pytest.MonkeyPatch.context() as patch:
        assert whole(text, told) == the_long_way(text, told, patch)


def test_most_blocks_of_a_plain_program_are_taken_at_once() -> None:
    taken: list[int] = []
    with pytest.MonkeyPatch.context() as patch:
        plain = Interpreter._read

        def counted(self: Interpreter, line: int, text: str) -> None:
            taken.append(line)
            plain(self, line, text)

        patch.setattr(Interpreter, "_read", counted)
        body = "".join(f"X{n % 50 + 1}. Y{n % 30 + 1}.\n" for n in range(200))
        read_program(HEAD + "G1 Z-2. F300.\n" + body + "G0 Z25.\nM5\nM30\n%\n", TOLD)
    assert len(taken) < 15
