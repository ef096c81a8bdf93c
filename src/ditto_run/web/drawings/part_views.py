"""A block in three views, to scale: from the top, the front and the right; first or third angle as the shop reads them."""

from typing import TYPE_CHECKING

from markupsafe import Markup, escape

from ditto_run.core.part.shape.bent import Bent, bent
from ditto_run.core.part.shape.body import AXES, FLAT, TINY, Axis, Prism, Solid
from ditto_run.core.part.shape.laid import Lying
from ditto_run.core.part.shape.plane import Disc
from ditto_run.web.drawings import part_frame as frame
from ditto_run.web.drawings.part_frame import WIDTH, PartPicture, View
from ditto_run.web.drawings.scale import svg

if TYPE_CHECKING:
    from shapely.geometry.base import BaseGeometry

LEFT, GAP, TOP, NAMES = 74.0, 64.0, 34.0, 230.0
MOST_HIGH = 560.0
MOST_NAMED = 14
FORMED_HIGH = 220.0
SEEN: dict[str, Axis] = {"top": "z", "front": "y", "right": "x"}  # a view: the direction it is looked along


def draw_views(picture: PartPicture) -> Markup:
    """Return the three views of a block with its features."""
    body = picture.shaped.body
    if body is None:
        return Markup()
    x, y, z = body.size
    scale = min(
        (WIDTH - LEFT - GAP - 40) / (x + max(y, NAMES / 8)), (MOST_HIGH - TOP - GAP - 110) / (y + z), 14.0
    )
    third = picture.angle == "third"
    first_high, second_high = (y, z) if third else (z, y)
    upper, lower = TOP + first_high * scale, TOP + first_high * scale + GAP + second_high * scale
    views = {
        "top": View(LEFT, upper if third else lower, scale),
        "front": View(LEFT, lower if third else upper, scale),
        "right": View(LEFT + x * scale + GAP, lower if third else upper, scale, 0.0 if third else y),
    }
    height = lower + 74
    says = views_says(picture)
    drawn = "".join(_view(picture, body, name, view) for name, view in views.items())
    drawn += _sizes(picture, body, views)
    drawn += _names(picture, body, views, (upper, lower), third=third)
    drawn += frame.bar(LEFT, height - 14, scale, picture.unit)
    drawn += (
        f'<path class="sc-d" stroke-dasharray="7 4" d="M{LEFT + 240:.1f},{height - 14:.1f}h40"/>'
        + frame.text(LEFT + 288, height - 9, "behind", "dim", anchor="start")
    )
    form = bent(picture.shaped)
    if form is not None:
        drawn += _bend_lines(form, body, views["top"])
        formed, deep = _formed(picture, form, scale, height)
        drawn, height = drawn + formed, height + deep
    more, high = frame.waiting(picture, height + 2)
    return Markup(svg(WIDTH, round(height + high), str(escape(says)), drawn + more))


def views_says(picture: PartPicture) -> str:
    """Return what the three views show, in one sentence."""
    body = picture.shaped.body
    if body is None:
        return "The part is not drawn yet."
    sizes = " by ".join(frame.figure(s, picture.unit) for s in body.size)
    placed = [one.name for one in picture.shaped.features if one.cuts and one.feature.kind != "outline"]
    names = f": {', '.join(placed)}" if placed else ", nothing cut from it yet"
    return f"Three views of the part, {sizes} {picture.unit}{names}."


def _view(picture: PartPicture, body: Solid, name: str, view: View) -> str:
    """One view: the outline, what is open towards you, what is behind, and its word."""
    axis = SEEN[name]
    whole = _silhouette(body, axis)
    drawn = f'<path class="sc-h dye2" fill-rule="evenodd" d="{view.path(whole)}"/>'
    for one in picture.shaped.features:
        if one.feature.kind == "outline":
            continue
        heavy = " picked" if one.key == picture.picked else ""
        parts = "".join(_cut(cut, body, name, view) for cut in one.cuts)
        if parts:
            drawn += f'<g class="part-cut{heavy}" data-pick="{one.key}">{parts}</g>'
    if picture.typed is not None:
        drawn += (
            '<g class="typed">' + "".join(_cut(cut, body, name, view) for cut in picture.typed.cuts) + "</g>"
        )
    low, high = (AXES.index(a) for a in FLAT[axis])
    middle = view.x(body.size[low] / 2)
    words = {
        "top": "from the top",
        "front": "from the front",
        "right": "from the right" if not view.flipped else "from the left",
    }
    return drawn + frame.text(middle, view.y(body.size[high]) - 12, words[name], "dim")


def _silhouette(body: Solid, axis: Axis) -> "BaseGeometry":
    """What is seen of the body's outline along a direction."""
    from shapely import box, union_all  # noqa: PLC0415 - shapely takes 0.2 s

    first, second = (AXES.index(a) for a in FLAT[axis])
    whole: BaseGeometry = box(body.low[first], body.low[second], body.high[first], body.high[second])
    gone = []
    for cut in body.cuts:
        if cut.axis == axis:
            if cut.keeps and _goes_through(cut, body):
                whole = whole.intersection(cut.shape.polygon)
            elif not cut.keeps and _goes_through(cut, body) and not isinstance(cut.shape, Disc):
                gone.append(cut.shape.polygon)
            continue
        low, high = cut.box[AXES.index(axis)]
        if (
            not cut.keeps
            and low <= body.low[AXES.index(axis)] + TINY
            and high >= body.high[AXES.index(axis)] - TINY
            and not cut.is_round
        ):
            a, b = cut.box[first], cut.box[second]
            gone.append(box(a[0], b[0], a[1], b[1]))
    return whole - union_all(gone) if gone else whole


def _goes_through(cut: Prism, body: Solid) -> bool:
    index = AXES.index(cut.axis)
    return cut.low <= body.low[index] + TINY and cut.high >= body.high[index] - TINY


def _cut(cut: Prism, body: Solid, name: str, view: View) -> str:
    """One cut in one view: solid where it is open towards you, dashed behind."""
    axis = SEEN[name]
    index = AXES.index(axis)
    near = body.low[index] if name == "front" or view.flipped else body.high[index]
    low, high = cut.box[index]
    seen = low < near + TINY and high > near - TINY
    style = 'class="sc-h dye"' if seen else 'class="sc-d" stroke-dasharray="7 4" fill="none"'
    if cut.axis == axis and not cut.keeps:
        if not cut.shown:
            return ""
        if isinstance(cut.shape, Disc):
            at = f'cx="{view.x(cut.shape.x):.1f}" cy="{view.y(cut.shape.y):.1f}"'
            drawn = f'<circle {style} {at} r="{cut.shape.r * view.scale:.1f}"/>'
            if cut.thread_r is not None:
                drawn += (
                    f'<circle class="hair" stroke-dasharray="24 6" {at} r="{cut.thread_r * view.scale:.1f}"/>'
                )
            return drawn
        return f'<path {style} d="{view.path(cut.shape.polygon.intersection(_silhouette(Solid(body.low, body.high), axis)))}"/>'
    return _edge_on(cut, body, axis, view, style)


def _edge_on(cut: Prism, body: Solid, axis: Axis, view: View, style: str) -> str:
    """A cut seen from its side: its width and how deep it goes."""
    first, second = (AXES.index(a) for a in FLAT[axis])
    if cut.keeps:
        return _kept_edge(cut, body, axis, view)
    (a, b), (c, d) = cut.box[first], cut.box[second]
    a, b = max(a, body.low[first]), min(b, body.high[first])
    c, d = max(c, body.low[second]), min(d, body.high[second])
    if b - a < TINY or d - c < TINY:
        return ""
    through = 'class="sc-h dye"' in style
    drawn = f'<path {style} d="{view.box(a, c, b, d)}"/>'
    if cut.tip and not through:
        drawn += _point(cut, (a, b, c, d), first, view)
    return drawn


def _point(cut: Prism, box: tuple[float, float, float, float], first: int, view: View) -> str:
    """The point of a drill, behind."""
    a, b, c, d = box
    along_first = AXES[first] == cut.axis
    if along_first:
        end, out = (b, b + cut.tip) if cut.high < 1e5 else (a, a - cut.tip)
        return f'<path class="sc-d" stroke-dasharray="7 4" fill="none" d="M{view.x(end):.1f},{view.y(c):.1f}L{view.x(out):.1f},{view.y((c + d) / 2):.1f}L{view.x(end):.1f},{view.y(d):.1f}"/>'
    end, out = (d, d + cut.tip) if cut.high < 1e5 else (c, c - cut.tip)
    return f'<path class="sc-d" stroke-dasharray="7 4" fill="none" d="M{view.x(a):.1f},{view.y(end):.1f}L{view.x((a + b) / 2):.1f},{view.y(out):.1f}L{view.x(b):.1f},{view.y(end):.1f}"/>'


def _kept_edge(cut: Prism, body: Solid, axis: Axis, view: View) -> str:
    """A step all round, seen from its side: the line where it ends."""
    index = AXES.index(cut.axis)
    level = cut.low if cut.low > body.low[index] + TINY else cut.high
    if not body.low[index] + TINY < level < body.high[index] - TINY:
        return ""
    first, second = FLAT[axis]
    x0, y0, x1, y1 = cut.shape.bounds
    reach = dict(zip(FLAT[cut.axis], ((x0, x1), (y0, y1)), strict=True))
    other = first if second == cut.axis else second
    a, b = reach[other]
    top = body.high[index] if level == cut.low else body.low[index]
    box = (a, level, b, top) if second == cut.axis else (level, a, top, b)
    return f'<path class="sc-h" fill="none" d="{view.box(*box)}"/>'


def _sizes(picture: PartPicture, body: Solid, views: dict[str, View]) -> str:
    """Length, width and height beside the views."""
    x, y, z = body.size
    front, right = views["front"], views["right"]
    long, wide, high = (
        frame.whole_of(picture, *size) for size in (("length", x), ("width", y), ("height", z))
    )
    drawn = frame.across(front.x(0), front.x(x), front.base + 30, long[0], front.base + 4, long[1])
    drawn += frame.upright(front.y(0), front.y(z), front.left - 34, high[0], front.left - 4, high[1])
    a, b = sorted((right.x(0), right.x(y)))
    return drawn + frame.across(a, b, right.base + 30, wide[0], right.base + 4, wide[1])


def _names(
    picture: PartPicture, body: Solid, views: dict[str, View], levels: tuple[float, float], *, third: bool
) -> str:
    """The names of the features beside the view each is cut in, with a line to it."""
    shown = [one for one in picture.shaped.features if one.cuts and one.feature.kind != "outline"]
    if len(shown) > MOST_NAMED:
        shown = [one for one in shown if one.key in picture.numbers or one.key == picture.picked][:MOST_NAMED]
    targets = sorted(((_target(one, body, views), one) for one in shown), key=lambda t: t[0][1])
    x = views["front"].x(body.size[0]) + 30
    low, high = (TOP + 4, levels[0] + 6) if third else (levels[0] + GAP - 6, levels[1])
    heights = frame.spread([t[0][1] + 5 for t in targets], low, high)
    return "".join(
        frame.lead(picture, one, (x - 6, at - 5), target) + frame.named(picture, one, x, at)
        for (target, one), at in zip(targets, heights, strict=True)
    )


def _bend_lines(form: Bent, body: Solid, view: View) -> str:
    """The bends on the flat, as chain lines across it."""
    lines = "".join(
        f"M{view.x(line.at):.1f},{view.y(body.size[1]) - 10:.1f}V{view.y(0) + 10:.1f}" for line in form.lines
    )
    return f'<path class="sc-d" stroke-dasharray="16 5 3 5" d="{lines}"/>'


def _formed(picture: PartPicture, form: Bent, scale: float, top: float) -> tuple[str, float]:
    """The part once it is bent, from the front, with how long and how high it is."""
    shape = form.outline
    left, low, right, high = shape.bounds
    scale = min(scale, (WIDTH - LEFT - 120) / (right - left), FORMED_HIGH / (high - low))
    view = View(LEFT - left * scale, top + 44 + high * scale, scale)
    drawn = frame.text(LEFT, top + 20, "bent, from the front", "dim", anchor="start")
    drawn += f'<path class="sc-h dye2" d="{view.path(shape)}"/>'
    long, tall = (frame.figure(round(side, 2), picture.unit) for side in form.size)
    foot, edge = view.y(low), view.x(right)
    drawn += frame.across(view.x(left), edge, foot + 30, long, foot + 4)
    drawn += frame.upright(foot, view.y(high), edge + 44, tall, edge + 6)
    return drawn, 44 + (high - low) * scale + 60


def _target(one: Lying, body: Solid, views: dict[str, View]) -> tuple[float, float]:
    """Where the line to a feature ends: on its first cut, in the view it is cut in."""
    cut = one.cuts[0]
    name = next(n for n, axis in SEEN.items() if axis == cut.axis)
    view = views[name]
    first, second = (AXES.index(a) for a in FLAT[cut.axis])
    (a, b), (c, d) = cut.box[first], cut.box[second]
    a, b = max(a, body.low[first]), min(b, body.high[first])
    c, d = max(c, body.low[second]), min(d, body.high[second])
    return view.x(b), view.y((c + d) / 2)
