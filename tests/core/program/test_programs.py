"""Programs read whole: seventeen with their truth, one of any length in closed form, strange ones answered by a sentence."""

import json
from math import pi
from pathlib import Path
from typing import Any

import pytest

from ditto_run.core.errors import BadEntry
from ditto_run.core.program.blocks import block_of
from ditto_run.core.program.dialect import DIALECTS
from ditto_run.core.program.given import Given, Slides, read_given
from ditto_run.core.program.reader import ProgramRead, read_program
from ditto_run.core.program.tally import MOST_KEPT, MOST_WORDS

CASES = Path(__file__).parents[2] / "data/programs"
NAMES = sorted(path.stem for path in CASES.glob("*.json"))
HEAD = "G21 G17 G90 G94\nT1 M6\nS1000 M3\nG54 G0 X0. Y0.\nG43 H1 Z5.\n"
TAIL = "G0 Z5.\nM9\nM5\nM30\n"


def rounded(value: Any) -> Any:
    if isinstance(value, bool) or value is None or isinstance(value, str):
        return value
    if isinstance(value, int | float):
        return round(float(value), 3)
    if isinstance(value, list):
        return [rounded(one) for one in value]
    return {key: rounded(one) for key, one in value.items()}


@pytest.mark.parametrize("name", NAMES)
def test_what_is_taken_is_the_truth(name: str) -> None:
    """[programs]: figures as exact as said there; faults by line and kind, none missed and none false."""
    case = json.loads((CASES / f"{name}.json").read_text())
    found = read_program((CASES / f"{name}.ngc").read_bytes(), read_given(case["given"])).as_document()
    truth = case["truth"]
    for key in (
        "lines",
        "units",
        "tools",
        "offsets",
        "stops",
        "end",
        "block_delete",
        "holes",
        "taps",
        "threads",
        "g10",
    ):
        assert rounded(found[key]) == rounded(truth[key]), key
    for key in ("not_timed", "unknown_starts"):
        assert found[key] == truth[key], key
    assert found["boxes"].keys() == truth["boxes"].keys()
    for code, kinds in truth["boxes"].items():
        for kind, sides in kinds.items():
            for axis, pair in sides.items():
                assert found["boxes"][code][kind][axis] == pytest.approx(pair, abs=0.0015), (code, kind, axis)
    for key, value in truth["length_mm"].items():
        assert found["length_mm"][key] == pytest.approx(value, abs=0.02, rel=1e-5), key
    for key, value in truth["time_s"].items():
        assert found["time_s"][key] == pytest.approx(value, abs=0.02, rel=1e-3), key
    for key in ("faults", "unknown"):
        told = [
            sorted((one["line"], one.get("kind") or one["word"]) for one in side[key])
            for side in (found, truth)
        ]
        assert told[0] == told[1], key
    for said in truth["faults"]:
        if "seconds" in said:
            mine = next(
                one for one in found["faults"] if (one["line"], one["kind"]) == (said["line"], said["kind"])
            )
            assert mine["seconds"] == pytest.approx(said["seconds"], rel=0.02)


MILL = {
    "dialect": "mill-ngc",
    "machine": {"rapid_mm_min": [12000, 12000, 9000], "accel_mm_s2": 1500, "tool_change_s": 8},
    "offsets": {"G54": [0, 0, 0], "G55": [100, 0, 0]},
}


def read(text: str, **given: Any) -> ProgramRead:
    return read_program(text, read_given(MILL | given))


def kinds(reading: ProgramRead) -> list[tuple[int, str]]:
    return [(one.line, one.kind) for one in reading.tally.faults]


@pytest.mark.parametrize("loops", [1, 400])
def test_a_program_of_any_length_in_closed_form(loops: int) -> None:
    """Round a square of 40 with corners of radius 5: 4 × 30 + 10 π a loop, at 20 mm/s without a stop; own derivation."""
    loop = "G1 X35. F1200.\nG3 X40. Y5. I0. J5.\nG1 Y35.\nG3 X35. Y40. I-5. J0.\nG1 X5.\nG3 X0. Y35. I0. J-5.\nG1 Y5.\nG3 X5. Y0. I5. J0.\n"
    text = f"G21 G17 G90 G94\nT1 M6\nS1000 M3\nG54 G0 X5. Y0.\nG43 H1 Z-1.\n{loop * loops}{TAIL}"
    found = read(text, start=[5, 0, -1], air_s=1000).as_document()
    way = (120 + 10 * pi) * loops
    assert found["length_mm"]["cut"] == pytest.approx(way, abs=1e-4)
    assert found["boxes"]["G54"]["feed"]["x"] == [0, 40]
    simple = way / 20 + 8 + 6 / 150
    assert found["time_s"]["simple"] == pytest.approx(simple, abs=1e-3)
    # from rest to rest over all of it: v / a more; the rapid of 6 mm never reaches its speed: 2 √(L / a)
    assert found["time_s"]["trapezoid"] == pytest.approx(
        way / 20 + 20 / 1500 + 8 + 2 * (6 / 1500) ** 0.5, abs=1e-3
    )


def test_what_is_no_program_is_refused_in_a_sentence() -> None:
    for raw, words in (
        (b"", "no block"),
        (b"%\n%\n", "no block"),
        (b" \t \n" * 50, "no block"),
        (bytes(range(256)) * 40, "not a text"),
        (b"<!doctype html><html><body>404 <script>alert(1)</script></body></html>\n", "not a program"),
        (b"G1 X1.\n" * 3_000_000, "over 20 MB"),
    ):
        with pytest.raises(BadEntry, match=words):
            read_program(raw, read_given(MILL))


@pytest.mark.parametrize(
    ("body", "line", "says"),
    [
        ("G1 X" + "1" * 70_000 + " F100.\n", 6, "limit"),
        ("G1 X1" + " " * 70_000 + "2. F100.\n", 6, "limit"),
        ("G1 X" + "1 " * 30_000 + "Y F100.\n", 6, "X"),
        ("(" * 30_000 + "a" + ")" * 30_000 + "\n", 6, ")"),
        ("G1 X" + "[" * 20_000 + "1" + "]" * 20_000 + " F100.\n", 6, "X["),
        ("G91 G99 G81 X0.001 Z-1. R-1. L999999 F100.\nG90\n", 6, "limit"),
        ("G99 G83 X1. Y1. Z-100. R2. Q0.00001 F100.\nG80\n", 6, "limit"),
        ("G1 X99999999999999999999. F100.\n", 6, "X999"),
        ("G2 X0. Y0. I5. P99999 F100.\n", 6, "limit"),
        ("G1 X1E999 F100.\nG1 XNAN\n", 7, "X"),
        ("G1 X\u0662. F100.\n", 6, "X"),
    ],
)
def test_bombs_are_said_with_their_line_and_nothing_becomes_endless(body: str, line: int, says: str) -> None:
    found = read(HEAD + body + TAIL)
    json.dumps(found.as_document(), allow_nan=False)
    told = found.tally.limits if says == "limit" else found.tally.unknown
    assert any(at == line and (says == "limit" or word.startswith(says)) for at, word in told)
    assert not found.is_whole


def test_lists_are_cut_and_counted() -> None:
    found = read(HEAD + "@9 G0 X1.\n" * 6_000 + TAIL)
    assert len(found.tally.unknown) == 5_000
    assert found.tally.more["unknown"] == 1_000


def test_only_cr_and_lf_end_a_line() -> None:
    found = read(HEAD + "G1 X1. F100.\rG1 X2.\r\nG1 X3.\x0bG1 X4.\x0cG1 X5.\u2028G1 X6.\n" + TAIL)
    assert found.tally.lines == 5 + 3 + 4


def test_bytes_of_any_coding_are_a_text() -> None:
    for coding in ("utf-8", "utf-8-sig", "utf-16", "utf-16-be", "cp1252"):
        text = HEAD + "(FRÄSEN)\nG1 X1. F100.\n" + TAIL
        assert read_program(text.encode(coding), read_given(MILL)).tally.lines == 11, coding


def test_what_stands_before_the_first_mark_and_behind_the_end_is_not_run() -> None:
    found = read("leader text\nmore of it G1 X999.\n%\n" + HEAD + "G1 X1. F100.\n" + TAIL + "%\nG0 Z-100.\n")
    assert found.as_document()["boxes"]["G54"]["rapid"]["z"] == [0, 5]
    assert (15, "after_end") in kinds(found)
    assert found.tally.notes[0][0] == 1


@pytest.mark.parametrize(
    ("given", "field"),
    [
        ({"dialect": "mine"}, "dialect"),
        ({"dialect": "mill-ngc", "dialect_set": {"speed": 1}}, "dialect_set"),
        ({"dialect": "mill-ngc", "dialect_set": {"g28": "some"}}, "dialect_set"),
        ({"offsets": {"G54": [1, 2]}}, "given"),
        ({"offsets": {"G54": [1, 2, "nan"]}}, "given"),
        ({"machine": {"accel_mm_s2": -1}}, "given"),
        ({"machine": {"rapid_mm_min": [0, 1, 1]}}, "given"),
        ({"blanks": {"G54": 5}}, "given"),
        ({"blanks": {"G54": {"d": 5}}}, "given"),
        ({"machine": []}, "given"),
    ],
)
def test_what_is_told_and_cannot_be_is_refused(given: dict[str, Any], field: str) -> None:
    if given.get("machine") == []:
        assert read_given(given).slides.rapid_mm_min is None  # nothing told
        return
    with pytest.raises(BadEntry) as refused:
        read_given(given)
    assert refused.value.field == field


BLOCK = {"G54": {"min": [0, 0, -20], "max": [80, 50, 0]}, "G55": {"min": [0, 0, -20], "max": [80, 50, 0]}}


@pytest.mark.parametrize(
    ("body", "expected"),
    [
        ("G0 X10. Y10.\nG0 Z-5.\n", [(7, "rapid_in_blank")]),
        ("G0 X10. Y10.\nG1 Z-5. F100.\nG0 Z2.\nG0 Z-5.\n", []),  # down to where it was fed before
        ("G0 X10. Y10.\nG1 Z-5. F100.\nG0 Z2.\nG0 Z-5.001\n", [(9, "rapid_in_blank")]),
        ("G0 X-10. Y10.\nG0 Z-5.\nG1 X40. F100.\nG0 X-10.\n", []),  # straight back along the feed just made
        ("G0 X-10. Y10.\nG0 Z-5.\nG1 X40. F100.\nG0 X-11.\n", [(9, "rapid_in_blank")]),
        ("G0 X-10. Y10.\nG0 Z-5.\nG0 Y40.\n", []),
        ("G0 X-10. Y10.\nG0 Z-5.\nG0 X110.\n", [(8, "rapid_in_blank")]),
        ("G0 X90. Y10.\nG0 Z-5.\nG0 X150.\n", [(8, "rapid_in_blank")]),  # the next vise's blank, 100 further
    ],
)
def test_a_rapid_through_a_blank_is_said_and_one_that_is_clear_is_not(
    body: str, expected: list[tuple[int, str]]
) -> None:
    found = read(HEAD + body + TAIL, blanks=BLOCK, air_s=1000)
    assert [one for one in kinds(found) if one[1] == "rapid_in_blank"] == expected


def test_words_of_another_dialect_mean_other_things() -> None:
    text = HEAD + "G1 X20 F100.\nG4 P500\nG3 I-5. J0.\n" + TAIL
    plain, shop = (read(text, dialect=name) for name in ("mill-ngc", "mill-shop"))
    assert plain.as_document()["boxes"]["G54"]["feed"]["x"] == [0, 20]
    assert plain.tally.limits[0][0] == 8  # a circle without an end is none by the standard
    assert shop.as_document()["boxes"]["G54"]["feed"]["x"] == [-9.98, 0.02]
    assert (plain.dwell_s, shop.dwell_s) == (500, 0.5)


def test_a_gap_of_what_is_known_is_said_and_times_are_at_least() -> None:
    bare = read_program(HEAD + "G1 X10. F100.\n" + TAIL, Given(read_given({}).dialect))
    assert bare.trapezoid_s is None
    assert bare.simple_s == pytest.approx(6)  # its feed alone: rapids are not known
    assert bare.is_whole
    assert not read(HEAD + "G1 X#1 F100.\n" + TAIL).is_whole


def test_a_roughing_cycle_is_not_followed_and_its_contour_not_run() -> None:
    text = (
        "G21 G40 G99\nT0101\nG97 S500 M3\nG0 X40. Z2.\nG71 U2. R1.\nG71 P10 Q20 U0.4 W0.1 F0.2\n"
        "N10 G0 X10.\nG1 Z-20. F0.1\nN20 X40.\nG0 X100. Z100.\nM5\nM30\n"
    )
    found = read(text, dialect="lathe-A", offsets={"G54": [0, 0, 0]})
    assert [word for _, word in found.tally.unknown] == ["G71", "G71"]
    assert "feed" not in found.as_document()["boxes"]["G54"]
    assert not found.is_whole


@pytest.mark.parametrize(
    ("body", "expected"),
    [
        ("G1 X10.\n", (6, "no_feed")),
        ("G95 G1 X10. F0.1\nG94 G1 X20.\n", (7, "no_feed")),  # not carried from one mode to the other
        ("G1 G0 X5.\n", (6, "two_of_one_group")),
        ("G0 X5. X6.\n", (6, "doubled_word")),
        ("G0 X5.\nG80\nX6.\n", (8, "no_motion_mode")),
        ("G99 G81 X1. Y1. Z5. R2. F100.\n", (6, "cycle_z_above_r")),
        ("G99 G83 X1. Y1. Z-5. R2. F100.\n", (6, "cycle_word_missing")),
        ("G1 X5. F100. (open\n", (6, "open_comment")),
        ("M6\nT2 M6\nG0 Z-1.\n", (8, "no_length")),
        ("G96 S100\n", (6, "no_rpm_cap")),
    ],
)
def test_faults_of_words(body: str, expected: tuple[int, str]) -> None:
    assert expected in kinds(read(HEAD + body + TAIL))


def test_a_program_without_an_end_is_asked_about() -> None:
    assert kinds(read(HEAD))[-1] == (5, "no_end")


@pytest.mark.parametrize(
    ("line", "name", "kept"),
    [
        ("M0\n", "stops", MOST_KEPT),
        ("G10 L2 P1 X{n}.\n", "g10", MOST_KEPT),
        ("S{n}\n", "speeds", MOST_WORDS),
        ("G43 H{n}\n", "lengths", MOST_WORDS),
    ],
)
def test_what_is_kept_has_an_end_and_the_rest_is_counted(line: str, name: str, kept: int) -> None:
    many = MOST_KEPT + 7
    found = read(HEAD + "".join(line.format(n=n + 1) for n in range(many)) + TAIL).tally
    lists = {"speeds": found.use.spindle, "lengths": found.use.h} if found.use else {}
    there = lists[name] if name in lists else getattr(found, name)
    assert len(there) == kept
    assert many - kept - 1 <= found.more[name] <= many - kept + 1


def test_the_same_line_again_is_said_with_its_own_number() -> None:
    """Words read once are shared by all lines like it: a fault and a word not known keep their place."""
    text = "G21 G17 G90\n" + "G1 X1. Q7 (a (\n" * 3 + "M30\n"
    tally = read_program(text, Given(DIALECTS["mill-ngc"], Slides(None, None, 0.0))).tally
    assert [one.line for one in tally.faults if one.kind == "open_comment"] == [2, 3, 4]
    first, second = block_of(1, "G1 X1. Y2."), block_of(9, "G1 X1. Y2.")
    assert (first.line, second.line, second.g, second.words) == (1, 9, ["1"], {"X": 1.0, "Y": 2.0})
