"""The ditto strip: one column a load, one lane a station, drawn from the core's marks."""

from collections.abc import Sequence
from dataclasses import dataclass

from markupsafe import Markup, escape

from ditto_run.core.run.strip import Mark, Strip
from ditto_run.web.drawings.glyphs import PLAIN, glyph

FULL = 36  # px a piece: all of it
MARKS = 12  # px a piece: marks only, under it hairlines
NUMBER_GAP = 30  # px between two column numbers
LABELS, SIDED, NARROW = (
    118,
    206,
    900,
)  # px for the lanes' names; with what is cut there; of a strip that is upright
TWO_LINES, LINE = 40, 19  # px of a lane that bears two lines of what is cut in it; of a line
SIDE_SIGNS = 17  # letters of such a line
SMALL = {"come": '<circle class="g-come" r="3.5"/>', "dash": '<path class="g-run" d="M-3.5,0h7"/>'}


@dataclass(frozen=True, slots=True)
class StripLook:
    """Sizes of one drawing, [px]."""

    width: int
    lane: int
    head: int
    label: int
    gap: int = 6


def strip_size(layout: str, *, whole: bool) -> tuple[int, int]:
    """Return width and room of the strip in a layout: a window leaves room for the weave above it, [px]."""
    if layout == "tall":
        return 764, 168
    return 1026, 184 if whole else 130


def look_for(width: int, lanes: int, room: int, *, sided: bool = False) -> StripLook:
    """Return sizes for a strip of so many lanes in a room of that height; sided where each bears what is cut in it."""
    lane = max(26, min(54, (room - 30) // max(lanes, 1) - 6))
    return StripLook(width, lane, 24, (SIDED if sided else LABELS) if width > NARROW else 56)


def draw_strip(strip: Strip, width: int, room: int = 205) -> Markup:
    """Return the strip as a grid: arrow keys walk from mark to mark. Drawn at this width, [px]."""
    look = look_for(width, len(strip.lanes), room, sided=bool(strip.sides))
    column = (look.width - look.label - 8) / max(len(strip.loads), 1)
    parts = [_numbers(strip, look, column)]
    for index, lane in enumerate(strip.lanes):
        parts.append(_lane(strip, look, column, index, lane))
    parts.append(_goes_on(strip, look, column))
    parts.append(_changes(strip, look, column))
    height = look.head + len(strip.lanes) * (look.lane + look.gap) + 4
    return Markup(
        f'<svg class="strip-grid" role="grid" aria-label="{escape(strip.words)}" aria-rowcount="{len(strip.lanes)}" '
        f'width="{look.width}" height="{height}" viewBox="0 0 {look.width} {height}">{"".join(parts)}</svg>'
    )


def _x(look: StripLook, column: float, index: int) -> float:
    return look.label + column * (index + 0.5)


SIGN_PX = 19  # width of a sign of a lane's name


def _y(look: StripLook, index: int) -> float:
    return look.head + index * (look.lane + look.gap) + look.lane / 2


def _numbers(strip: Strip, look: StripLook, column: float) -> str:
    every = next(step for step in (1, 5, 10, 20, 50, 100, 500, 1000) if column * step >= NUMBER_GAP)
    texts = [
        f'<text class="dim" x="{_x(look, column, i):.1f}" y="16" text-anchor="middle">{load}</text>'
        for i, load in enumerate(strip.loads)
        if load % every == 0 or load == 1 or every == 1
    ]
    return f'<g aria-hidden="true">{"".join(texts)}</g>'


def _lane(strip: Strip, look: StripLook, column: float, index: int, lane: str) -> str:
    y = _y(look, index)
    half = look.lane / 2
    right = look.width - 4
    left = look.label - 2
    long = " is-long" if len(lane) * SIGN_PX > look.label - 14 else ""
    parts = [
        f'<g aria-hidden="true"><rect class="deep" x="{left}" y="{y - half:.1f}" width="{right - left}" height="{look.lane}"/>'
        f'<path class="sc-d" d="M{left},{y - half:.1f}H{right}M{left},{y + half:.1f}H{right}"/>'
        f'<path class="sc-l" d="M{left},{y:.1f}H{right}"/>'
        f'<text class="lane-name{long}" x="{look.label - 14}" y="{y + 8:.1f}" text-anchor="end">{escape(lane)}</text></g>'
    ]
    marks = [
        _cell(mark, lane, load, (_x(look, column, i), y, column, half))
        for i, load in enumerate(strip.loads)
        if (mark := strip.marks.get((lane, load))) is not None
    ]
    side = [words for words in strip.sides.get(lane, ()) if words]
    if side and look.label == SIDED:
        parts[0] += _side(side, y, look)
    says = escape(", ".join((f"Station {lane}", *side)))
    return parts[0] + f'<g role="row" aria-label="{says}">{"".join(marks)}</g>'


def _side(side: Sequence[str], y: float, look: StripLook) -> str:
    """What is cut in a lane, before its letter: part and setup, a line each where there is room."""
    lines = side if look.lane >= TWO_LINES else side[-1:]
    return "".join(
        f'<text class="side" aria-hidden="true" x="0" y="{y + 5 + (i - (len(lines) - 1) / 2) * LINE:.1f}">{escape(_short(line))}</text>'
        for i, line in enumerate(lines)
    )


def _short(words: str) -> str:
    return words if len(words) <= SIDE_SIGNS else f"{words[: SIDE_SIGNS - 1]}…"


def _goes_on(strip: Strip, look: StripLook, column: float) -> str:
    """A thin slanted line from where a piece was cut to where its next side was."""
    if column < FULL:
        return ""
    lines = ""
    for (lane, load), (after, later) in strip.goes_on:
        x, y = _x(look, column, load - strip.loads[0]), _y(look, strip.lanes.index(lane))
        to_x, to_y = _x(look, column, later - strip.loads[0]), _y(look, strip.lanes.index(after))
        down = 1 if to_y > y else -1
        edge = look.lane * 0.3
        lines += f"M{x + 8:.1f},{y + down * edge:.1f}L{to_x - 8:.1f},{to_y - down * edge:.1f}"
    return f'<path class="sc-d" aria-hidden="true" d="{lines}"/>' if lines else ""


def _cell(mark: Mark, lane: str, load: int, at: tuple[float, float, float, float]) -> str:
    x, y, column, half = at
    return (
        f'<g role="gridcell" tabindex="-1" data-cell="{escape(lane)}-{load}" data-piece="{mark.piece}" '
        f'aria-label="{escape(mark.name)}" transform="translate({x:.1f} {y:.1f})">'
        f'<rect class="hit" x="{-column / 2:.1f}" y="{-half:.1f}" width="{column:.1f}" height="{2 * half:.0f}"/>'
        f'<g aria-hidden="true">{_body(mark, column, half)}</g></g>'
    )


def draw_cells(
    marks: dict[tuple[str, int], Mark],
    lanes: Sequence[str],
    loads: range,
    width: int,
    room: int,
    *,
    sided: bool = False,
) -> Markup:
    """Return only these marks, each where it stands in the strip that is on the page already."""
    look = look_for(width, len(lanes), room, sided=sided)
    column = (look.width - look.label - 8) / max(len(loads), 1)
    parts = [
        _cell(
            mark,
            lane,
            load,
            (_x(look, column, load - loads.start), _y(look, lanes.index(lane)), column, look.lane / 2),
        )
        for (lane, load), mark in marks.items()
        if load in loads and lane in lanes
    ]
    return Markup(f'<svg id="cells" hidden aria-hidden="true">{"".join(parts)}</svg>')


def _body(mark: Mark, column: float, half: float) -> str:
    if column >= FULL:
        return glyph(mark, half - 3, half + 1)
    if column >= MARKS:
        if mark.shape in SMALL and not mark.held and not mark.due:
            return SMALL[mark.shape]
        small = Mark(mark.piece, mark.shape, mark.slip, 0, mark.held, mark.due)
        scale = max(0.55, min(1.0, column / 28))
        inner = glyph(small, (half - 3) / scale, (half + 1) / scale)
        return f'<g transform="scale({scale:.2f})">{inner}</g>'
    return hairline(mark, half)


def hairline(mark: Mark, half: float) -> str:
    """Return the mark of a long run: dittos are an even weave, exceptions keep their height and shape."""
    if mark.shape == "scrap":
        return f'<g transform="scale(.6)">{PLAIN["scrap"]}</g>'
    if mark.shape == "come":
        return '<circle class="g-come" r="1.5"/>'
    if mark.held:
        return f'<path class="g-held" d="M-2,{-half:.1f}V{half:.1f}"/>'
    tall = {"ditto": 5.0, "master": 8.0, "dash": 1.5}.get(mark.shape, 5.0)
    if mark.shape == "slip":
        end = -max(-1.0, min(1.0, mark.slip)) * half
        return f'<path class="hair" d="M0,0V{end:.1f}"/>'
    return f'<path class="hair" d="M0,{-tall}V{tall}"/>'


def _changes(strip: Strip, look: StripLook, column: float) -> str:
    parts = []
    for change in strip.changes:
        if change.load in strip.loads:
            index = strip.loads.index(change.load)
        elif strip.loads and change.load == strip.loads[-1] + 1:
            index = len(strip.loads)
        else:
            continue
        x = look.label + column * index
        if change.kind == "break":
            bottom = _y(look, len(strip.lanes) - 1) + look.lane / 2
            middle = (look.head + bottom) / 2
            parts.append(
                f'<path class="sc" d="M{x:.1f},{look.head - 4}V{middle - 9:.1f}l-6,6l12,8l-6,5V{bottom:.1f}"/>'
            )
            continue
        for i, lane in enumerate(strip.lanes):
            if lane in change.lanes:
                y = _y(look, i) - look.lane / 2
                parts.append(f'<path class="g-notch" d="M{x - 8:.1f},{y - 3:.1f}h16l-8,10z"/>')
    return f'<g aria-hidden="true">{"".join(parts)}</g>'


def draw_weave(
    pieces: dict[str, Sequence[tuple[int, Mark]]], loads: range, last: int, width: int, lane_height: int = 16
) -> Markup:
    """Return a part of a long run as hairlines: one path a lane, so that a thousand pieces stay a few elements."""
    column = width / max(last, 1)
    chunk_width = column * len(loads)
    parts = ""
    for index, marks in enumerate(pieces.values()):
        y = index * (lane_height + 4) + lane_height / 2 + 1
        half = lane_height / 2
        quiet, slips, stops = "", "", ""
        for load, mark in marks:
            x = (load - loads.start + 0.5) * column
            if mark.shape == "scrap" or mark.held:
                stops += (
                    f"M{x - 3:.1f},{y - 5:.1f}l6,10m0,-10l-6,10"
                    if mark.shape == "scrap"
                    else f"M{x:.1f},{y - half:.1f}v{lane_height}"
                )
            elif mark.shape == "slip":
                slips += f"M{x:.1f},{y:.1f}v{-max(-1.0, min(1.0, mark.slip)) * half:.1f}"
            elif mark.shape != "come":
                tall = 1.5 if mark.shape == "dash" else 5
                quiet += f"M{x:.1f},{y - tall:.1f}v{2 * tall}"
        parts += (
            f'<path class="sc-l" d="M0,{y:.1f}H{chunk_width:.1f}"/><path class="hair" d="{quiet}"/>'
            f'<path class="hair b" d="{slips}"/><path class="g-scrap thin" d="{stops}"/>'
        )
    height = len(pieces) * (lane_height + 4)
    return Markup(
        f'<svg aria-hidden="true" width="{chunk_width:.1f}" height="{height}" viewBox="0 0 {chunk_width:.1f} {height}">{parts}</svg>'
    )


def draw_signature(strip: Strip, width: int, room: int = 138) -> Markup:
    """Return the strip as a job's signature in the list: the same picture, not to be walked through."""
    look = look_for(width, len(strip.lanes), room)
    look = StripLook(width, min(look.lane, 34), 22, 34)
    column = (look.width - look.label - 8) / max(len(strip.loads), 1)
    parts = [_numbers(strip, look, column)]
    for index, lane in enumerate(strip.lanes):
        y, half = _y(look, index), look.lane / 2
        parts.append(
            f'<path class="sc-d" d="M{look.label},{y - half:.1f}H{width - 4}M{look.label},{y + half:.1f}H{width - 4}"/>'
        )
        parts.append(f'<path class="sc-l" d="M{look.label},{y:.1f}H{width - 4}"/>')
        parts.append(
            f'<text class="b" x="{look.label - 10}" y="{y + 6:.1f}" text-anchor="end">{escape(lane)}</text>'
        )
        for i, load in enumerate(strip.loads):
            mark = strip.marks.get((lane, load))
            if mark is not None:
                parts.append(
                    f'<g transform="translate({_x(look, column, i):.1f} {y:.1f})">{_body(mark, min(column, 30), half)}</g>'
                )
    parts.append(_changes(strip, look, column))
    height = look.head + len(strip.lanes) * (look.lane + look.gap) + 2
    return Markup(
        f'<svg role="img" aria-label="{escape(strip.words)}" width="{width}" height="{height}" viewBox="0 0 {width} {height}">'
        f'<g aria-hidden="true">{"".join(parts)}</g></svg>'
    )
