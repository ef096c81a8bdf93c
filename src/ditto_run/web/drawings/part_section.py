"""A turned part in half section, to scale: the upper half cut open, the lower as it is seen, and its small end larger."""

from itertools import pairwise
from math import radians, sin, sqrt

from markupsafe import Markup, escape

from ditto_run.core.part.features.kinds import Role
from ditto_run.core.part.shape.body import (
    AXES,
    FAR,
    Prism,
    Profile,
    Solid,
    radius_at,
    trimmed,
    turned_by,
)
from ditto_run.core.part.shape.holes import thread_pitch_mm
from ditto_run.core.part.shape.laid import Lying
from ditto_run.core.part.shape.plane import Disc, Oblong
from ditto_run.core.part.shape.turned import tip_of
from ditto_run.web.drawings.part_frame import (
    WIDTH,
    PartPicture,
    View,
    across,
    bar,
    figure,
    lead,
    named,
    text,
    upright,
    waiting,
    whole_of,
)
from ditto_run.web.drawings.scale import svg

LEFT, RIGHT, ROW = 90.0, 48.0, 27.0
HALF_MOST, LETTER, GAP = 150.0, 8.6, 10.0
SMALL = 16.0  # px below which a stretch is drawn again larger
DETAIL_HIGH = 240.0
UPRIGHT = 0.2  # of a cut that stands nearer to upright than this, its depth is drawn
TIMES = (2, 3, 4, 5, 8, 10)


def draw_section(picture: PartPicture) -> Markup:
    """Return the half section of a turned part with its features."""
    body = picture.shaped.body
    if body is None:
        return Markup()
    long, widest = body.size[0], body.high[1]
    scale = min((WIDTH - LEFT - RIGHT) / long, HALF_MOST / widest, 24.0)
    rows = _rows(picture, body, View(LEFT, 0.0, scale))
    top = 40 + ROW * max(rows.values(), default=0) + ROW
    view = View(LEFT, top + widest * scale, scale)
    drawn = text(LEFT, 22, "upper half cut open, free end at the left", "dim", anchor="start")
    drawn += _half(picture, body, view, (0.0, long), "")
    bottom = view.y(-widest)
    words, number = whole_of(picture, "length", long)
    drawn += across(view.x(0), view.x(long), bottom + 34, words, bottom + 4, number)
    words, number = whole_of(picture, "diameter", 2 * widest)
    words = words if words.startswith("Ø") else f"Ø{words}"
    drawn += upright(view.y(widest), view.y(-widest), LEFT - 46, words, LEFT - 4, number)
    drawn += _names(picture, body, view, rows, top)
    height = bottom + 62
    detail, more = _detail(picture, body, scale, height)
    drawn += bar(WIDTH - 190, 18, scale, picture.unit) + detail
    dotted, high = waiting(picture, height + more)
    return Markup(svg(WIDTH, round(height + more + high), str(escape(section_says(picture))), drawn + dotted))


def section_says(picture: PartPicture) -> str:
    """Return what the half section shows, in one sentence."""
    body = picture.shaped.body
    if body is None:
        return "The part is not drawn yet."
    names = ", ".join(
        one.name for one in picture.shaped.features if one.is_placed and one.feature.kind != "body"
    )
    sizes = f"{figure(body.size[0], picture.unit)} long, {figure(2 * body.high[1], picture.unit)} {picture.unit} at its largest diameter"
    return f"Half section of the part, {sizes}: {names or 'plain'}."


def _half(picture: PartPicture, body: Solid, view: View, reach: tuple[float, float], broken: str) -> str:
    """The body between two distances: hatched above, as seen below, with its axis; `broken` names an end it goes on beyond."""
    start, end = reach
    outside, inside = trimmed(body.profile, start, end), trimmed(body.inner, start, end)
    lower = _closed(inside, start, end)
    drawn = ""
    for sign, edge in ((-1, ((start, 0.0), (end, 0.0))), (1, lower)):
        # an open path leaves out the side at which the part goes on
        spots = [*outside, *reversed(edge)] if broken != "end" else [*reversed(outside), *edge]
        path = "M" + "L".join(f"{view.x(z):.1f},{view.y(sign * r):.1f}" for z, r in spots)
        closed = path + ("Z" if not broken else "")
        drawn += f'<path class="sc-h dye2" d="{closed}"/>' + (
            f'<path class="hatched" d="{path}Z"/>' if sign > 0 else ""
        )
    if inside:  # the wall of a bore beyond the cut, down to the axis
        wall = [(inside[0][0], 0.0), *inside, (inside[-1][0], 0.0)]
        path = "L".join(f"{view.x(z):.1f},{view.y(r):.1f}" for z, r in wall)
        drawn += f'<path class="sc-h dye" d="M{path}"/>'
    drawn += _steps(outside, view)
    for one in picture.shaped.features:
        heavy = " picked" if one.key == picture.picked else ""
        parts = _thread(one, view, start, end) + "".join(
            _milled(cut, body, view, start, end) for cut in one.cuts
        )
        parts += _tip(one, view, start, end) + _knurl(one, body, view)
        if one.key == picture.picked:
            parts += _traced(one, view, start, end)
        if parts:
            drawn += f'<g class="part-cut{heavy}" data-pick="{one.key}">{parts}</g>'
    if picture.typed is not None:
        cuts = "".join(_milled(cut, body, view, start, end) for cut in picture.typed.cuts)
        drawn += f'<g class="typed">{cuts}{_traced(picture.typed, view, start, end)}</g>'
    drawn += f'<path class="sc-d" stroke-dasharray="16 5 3 5" d="M{view.x(start) - 18:.1f},{view.y(0):.1f}H{view.x(end) + 18:.1f}"/>'
    return drawn


def _closed(inside: Profile, start: float, end: float) -> Profile:
    """The lower edge of the cut half: the axis, and around what is bored."""
    if not inside:
        return ((start, 0.0), (end, 0.0))
    before = ((start, 0.0), (inside[0][0], 0.0)) if inside[0][0] > start else ()
    after = ((inside[-1][0], 0.0), (end, 0.0)) if inside[-1][0] < end else ()
    return (*before, *inside, *after)


def _steps(outside: Profile, view: View) -> str:
    """Edges of shoulders, seen below the axis."""
    lines = ""
    for (a, r), (b, s) in pairwise(outside):
        if a == b and r != s:
            lines += f"M{view.x(a):.1f},{view.y(-max(r, s)):.1f}V{view.y(0):.1f}"
    return f'<path class="sc" d="{lines}"/>' if lines else ""


def _thread(one: Lying, view: View, start: float, end: float) -> str:
    """A thin line at the depth of a thread, outside or inside."""
    thread = one.feature.sizes.get(Role.THREAD)
    if thread is None:
        return ""
    pitch, major = thread_pitch_mm(thread), float(thread.nominal_base) / 2
    profile, r = (one.outer, major - 0.61 * pitch) if one.outer else (one.inner, major)
    if not profile:
        return ""
    a, b = max(profile[0][0], start), min(profile[-1][0], end)
    both = f"M{view.x(a):.1f},{view.y(r):.1f}H{view.x(b):.1f}"
    if one.outer:
        both += f"M{view.x(a):.1f},{view.y(-r):.1f}H{view.x(b):.1f}"
    return f'<path class="hair b" d="{both}"/>' if b > a else ""


def _tip(one: Lying, view: View, start: float, end: float) -> str:
    """The point of a drill at the bottom of a hole on the axis."""
    tip = tip_of(one)
    if not tip or not one.inner:
        return ""
    free = one.feature.face == "free end"
    z, r = one.inner[-1] if free else one.inner[0]
    out = z + tip if free else z - tip
    if not start <= out <= end:
        return ""
    return f'<path class="sc-h dye" d="M{view.x(z):.1f},{view.y(r):.1f}L{view.x(out):.1f},{view.y(0):.1f}H{view.x(z):.1f}"/>'


def _knurl(one: Lying, body: Solid, view: View) -> str:
    """A knurl as crossed lines on the outside."""
    long = one.feature.sizes.get(Role.LENGTH)
    if one.feature.kind != "knurl" or long is None:
        return ""
    at = next((float(p.distance.nominal_base) for p in one.feature.places if p.distance is not None), 0.0)
    r = radius_at(body.profile, at + float(long.nominal_base) / 2)
    return f'<path fill="url(#cross)" d="{view.box(at, 0, at + float(long.nominal_base), -r)}"/>'


def _traced(one: Lying, view: View, start: float, end: float) -> str:
    """The picked feature's own edge, heavy."""
    drawn = ""
    for profile in (one.outer, one.inner):
        part = trimmed(profile, start, end)
        if part:
            for sign in (1, -1) if profile is one.outer else (1,):
                spots = "L".join(f"{view.x(z):.1f},{view.y(sign * r):.1f}" for z, r in part)
                drawn += f'<path class="sc-h picked" fill="none" d="M{spots}"/>'
    return drawn


def _milled(cut: Prism, body: Solid, view: View, start: float, end: float) -> str:
    """A milled cut: seen from above where it runs towards you, else by its depth; all of it in the lower half as seen."""
    (a, b), _, (c, d) = cut.box
    a, b = max(a, start, 0.0), min(b, end, body.size[0])
    if b <= a or not cut.shown:
        return ""
    r = radius_at(body.profile, (a + b) / 2)
    if cut.axis == "x":
        return _lengthwise(cut, view, (a, b), r)
    if abs(facing := sin(radians(cut.turn))) > UPRIGHT:
        return _from_the_side(cut, view, (a, b), r, facing)
    low, high = max(c, -r), min(d, r)
    if high <= low:
        return ""
    shape = f'<path class="sc-h dye" d="{view.box(a, low, b, high)}"/>'
    if isinstance(cut.shape, Disc) and min(abs(cut.low), abs(cut.high)) > FAR / 2:
        shape = f'<path class="sc-h dye" d="{view.box(a, -r, b, r)}"/>'
    return shape


def _from_the_side(cut: Prism, view: View, reach: tuple[float, float], r: float, facing: float) -> str:
    """A cut that does not stand upright: its opening as it is seen, dashed where it lies behind."""
    a, b = reach
    _, low, _, high = cut.shape.bounds
    floor = max(cut.low, -r)
    if isinstance(cut.shape, Oblong) and high - low > r:  # a flat is as wide as it lies in the outside
        half = sqrt(max(r * r - floor * floor, 0.0))
        low, high, r = -half, half, floor
    _, up = turned_by(cut.turn, ((low + high) / 2, r))
    tall = (high - low) / 2 * abs(facing)
    through = cut.low < -FAR / 2
    style = 'class="sc-h dye"' if facing > 0 or through else 'class="sc-d" stroke-dasharray="7 4" fill="none"'
    if isinstance(cut.shape, Disc):
        wide, middle = cut.shape.r * view.scale, (a + b) / 2
        up = up if facing > 0 else -up if through else up
        return f'<ellipse {style} cx="{view.x(middle):.1f}" cy="{view.y(up):.1f}" rx="{wide:.1f}" ry="{tall * view.scale:.1f}"/>'
    return f'<path {style} d="{view.box(a, up - tall, b, up + tall)}"/>'


def _lengthwise(cut: Prism, view: View, reach: tuple[float, float], r: float) -> str:
    """A cut along the axis: hole beside it, hexagon, slot across the end."""
    a, b = reach
    if cut.keeps:
        x0, _, _, y1 = cut.shape.bounds
        lines = f"M{view.x(a):.1f},{view.y(-min(-x0, r) / 2):.1f}H{view.x(b):.1f}M{view.x(b):.1f},{view.y(-min(y1, r)):.1f}V{view.y(0):.1f}"
        return f'<path class="sc" d="{lines}"/>'
    _, low, _, high = cut.shape.bounds
    low, high = max(low, -r), min(high, r)
    style = 'class="sc-d" stroke-dasharray="7 4" fill="none"'
    return f'<path {style} d="{view.box(a, low, b, high)}"/>'


def _shown(picture: PartPicture) -> list[Lying]:
    return [one for one in picture.shaped.features if one.is_placed and one.feature.kind != "body"]


def _rows(picture: PartPicture, body: Solid, view: View) -> dict[int, int]:
    """In which row above the part each name stands, from below: no line to one on the left runs through one on the right."""
    ends: list[float] = []  # where the leftmost name of each row begins
    found: dict[int, int] = {}
    for one in sorted(_shown(picture), key=lambda o: -_target(o, body, view)[0]):
        x = _start(picture, one, _target(one, body, view)[0])
        wide = LETTER * len(picture.label(one)) + (34 if one.key in picture.numbers else 0)
        row = next((i for i, begin in enumerate(ends) if x + wide + GAP < begin), len(ends))
        ends[row:] = [x, *ends[row + 1 :]]
        found[one.key] = row
    return found


def _start(picture: PartPicture, one: Lying, x: float) -> float:
    """Where a name begins, so that it ends within the picture."""
    wide = LETTER * min(len(picture.label(one)), 26) + (34 if one.key in picture.numbers else 0)
    return max(min(x + 4, WIDTH - wide - 6), 4.0)


def _names(picture: PartPicture, body: Solid, view: View, rows: dict[int, int], top: float) -> str:
    drawn = ""
    for one in _shown(picture):
        x, y = _target(one, body, view)
        at = top - 16 - ROW * rows[one.key]
        drawn += lead(picture, one, (x, at + 6), (x, y)) + named(picture, one, _start(picture, one, x), at)
    return drawn


def _target(one: Lying, body: Solid, view: View) -> tuple[float, float]:
    """Where the line to a feature ends: on its own edge in the upper half."""
    if one.outer:
        (a, r), (b, s) = one.outer[0], one.outer[-1]
        return view.x((a + b) / 2), view.y((r + s) / 2)
    if one.inner:
        (a, r), (b, s) = one.inner[0], one.inner[-1]
        return view.x((a + b) / 2), view.y(min(r, s))
    (a, b), _, (c, d) = one.cuts[0].box
    a, b = max(a, 0.0), min(b, body.size[0])
    r = radius_at(body.profile, (a + b) / 2)
    index = AXES.index(one.cuts[0].axis)
    return view.x((a + b) / 2), view.y(min(d, r) if index else min(r, max(c, 0.0)))


def _detail(picture: PartPicture, body: Solid, scale: float, top: float) -> tuple[str, float]:
    """The end with the smallest stretch again larger; nothing where all can be seen."""
    stretches = [
        (b - a, a, b)
        for one in picture.shaped.features
        if one.outer
        for (a, _), (b, _) in [(one.outer[0], one.outer[-1])]
        if 0 < (b - a) * scale < SMALL
    ]
    if not stretches:
        return "", 0.0
    _, a, b = min(stretches)
    long = body.size[0]
    at_free = (a + b) / 2 <= long / 2
    near = [(c, d) for _, c, d in stretches if ((c + d) / 2 <= long / 2) == at_free]
    far = max(d for _, d in near) if at_free else min(c for c, _ in near)
    start, end = (0.0, min(far + long * 0.06, long)) if at_free else (max(far - long * 0.06, 0.0), long)
    r = max((radius for z, radius in trimmed(body.profile, start, end)), default=body.high[1])
    fitting = min((WIDTH - LEFT - 40) / (end - start), DETAIL_HIGH / 2 / r) / scale
    times = max((t for t in TIMES if t <= fitting), default=0)
    if not times:
        return "", 0.0
    view = View(LEFT, top + 44 + r * scale * times, scale * times)
    drawn = text(
        LEFT, top + 22, f"{'free' if at_free else 'chuck'} end, {times} times larger", "dim", anchor="start"
    )
    drawn += _half(picture, body, view, (start, end), "end" if at_free else "start")
    below = view.y(-r) + 28
    return drawn + bar(LEFT, below, scale * times, picture.unit), below + 14 - top
