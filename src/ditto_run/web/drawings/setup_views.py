"""A piece in its setup, to scale: from the side along the jaws with its heights, and from above; or in a chuck along its axis."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import TYPE_CHECKING

from markupsafe import Markup, escape

from ditto_run.core.hold.chuck import held_end
from ditto_run.core.hold.heights import (
    ANGLE_PLATE,
    ARBOR,
    FACE_PLATE,
    NEST,
    Contact,
    Heights,
    jaw_axis,
    strap_box,
    walls_of,
)
from ditto_run.core.hold.jaws import PLATES
from ditto_run.core.hold.spinning import Spinning, spinning
from ditto_run.core.part.faces import BAR, OPPOSITE
from ditto_run.core.part.shape.block import NORMAL
from ditto_run.core.part.shape.body import AXES, FLAT, Axis, Solid, radius_at, trimmed
from ditto_run.core.units import LengthUnit, length_text
from ditto_run.web.drawings.part_frame import View, bar, figure, text
from ditto_run.web.drawings.scale import svg

if TYPE_CHECKING:
    from shapely.geometry.base import BaseGeometry

WIDTH, SIDE_WIDE, TOP = 764, 500.0, 44.0
LEFT, PLAN_LEFT = 140.0, 546.0
HIGH, PLAN_WIDE, PLAN_HIGH = 330.0, 200.0, 260.0
JAW, FLAT_JAW = 0.42, 0.28  # a drawn jaw over the piece's width
LINE = 23
UNSAID = "held: nobody said how far"
UNSAID_WIDE = 230  # room the words take left of their end
Place = Callable[[float, float], tuple[float, float]]


@dataclass(frozen=True)
class HeldPicture:
    """What is drawn of a setup.

    Args:
        contact: the setup as it is held.
        unit: the drawing's unit.
    """

    contact: Contact
    unit: LengthUnit


def draw_held(picture: HeldPicture) -> Markup:
    """Return the drawing of a setup: side and plan of a block, along the axis of a turned part."""
    contact = picture.contact
    if contact.heights is None:
        return _in_chuck(picture)
    side, high = _side(picture, contact.heights)
    plan, deep = _from_above(picture)
    high = max(high, deep + 30)
    body = side + plan + _legend(high)
    return Markup(svg(WIDTH, round(high + 16), str(escape(held_says(picture))), body))


def held_says(picture: HeldPicture) -> str:
    """Return what the drawing of a setup shows, in one sentence."""
    contact, unit = picture.contact, picture.unit
    cuts = ", ".join(step.feature.name for step in contact.piece.steps) or "nothing"
    if contact.heights is None:
        held, zone = f"{held_end(contact.setup)} held", contact.zone
        if contact.vise.kind == ARBOR:
            sits = (
                f" on {figure(zone[1] - zone[0], unit)} {unit} of its bore"
                if zone
                else ", and has no bore for it"
            )
            return f"{contact.setup.name}: on an arbor{sits}; cuts {cuts}."
        grip = (
            f"gripped {figure(contact.zone[1] - contact.zone[0], unit)} {unit}"
            if contact.zone
            else "nobody said how far it is gripped"
        )
        return f"{contact.setup.name}: {held}, {grip}; cuts {cuts}."
    h = contact.heights
    rows = ", ".join(f"{word} {figure(at, unit)}" for word, at in heights_rows(h))
    return f"{contact.setup.name} from the side, {contact.up} up, heights in {unit} above the bed: {rows}; cuts {cuts}."


def grip_said(picture: HeldPicture) -> str:
    """Return how far the holder reaches up the piece, in a sentence; empty where nothing stands beside it."""
    contact, unit = picture.contact, picture.unit
    h, kind = contact.heights, contact.vise.kind
    if h is None or kind in PLATES or not walls_of(contact.setup, kind):
        return ""
    if h.grip is None or h.stands is None:
        return "Nobody has said how high the jaws are."
    whole, stands = h.raw - h.seat, h.stands
    if kind == ANGLE_PLATE:
        return f"{length_text(min(h.grip, whole), unit)} of {length_text(whole, unit)} backed."
    above = (
        f"{length_text(stands, unit)} stands up"
        if stands >= 0
        else f"the jaws stand {length_text(-stands, unit)} above it"
    )
    return f"{length_text(h.grip, unit)} {'in the nest' if kind == NEST else 'gripped'}, {above}."


def heights_rows(heights: Heights) -> list[tuple[str, float]]:
    """Return the heights with their words, highest first, [mm]."""
    rows = [("raw top", heights.raw), ("finished top", heights.finished), ("seat", heights.seat)]
    if heights.jaw is not None:
        rows.append(("jaw top", heights.jaw))
    if heights.deepest is not None:
        rows.append(("deepest", heights.deepest))
    if heights.seat > 0:
        rows.append(("bed", 0.0))
    seen: dict[float, str] = {}
    for word, at in rows:
        seen.setdefault(round(at, 6), word)
    return sorted(((word, at) for at, word in seen.items()), key=lambda row: -row[1])


class _Lying:
    """A block's own coordinates to pixels, as it lies in the setup: along the jaws' direction, and up."""

    def __init__(self, contact: Contact, scale: float, left: float, base: float) -> None:
        self.through, inward = NORMAL[contact.up]
        self.upright = inward < 0
        self.kind = contact.vise.kind
        self.walls = walls_of(contact.setup, self.kind)
        pressed = (
            NORMAL[self.walls[0]][0] if self.kind == ANGLE_PLATE and self.walls else jaw_axis(contact.setup)
        )
        self.across: Axis = pressed or next(a for a in ("y", "x", "z") if a != self.through)  # type: ignore[assignment]
        self.along: Axis = next(a for a in AXES if a not in {self.through, self.across})
        self.before = contact.piece.before
        self.scale, self.left, self.base = scale, left, base
        self.seat = contact.heights.seat if contact.heights else 0.0

    def low(self, axis: Axis) -> float:
        """Least place of the piece along a direction."""
        return self.before.low[AXES.index(axis)]

    def size(self, axis: Axis) -> float:
        """How large the piece is along a direction."""
        return self.before.size[AXES.index(axis)]

    def h(self, height: float) -> float:
        """Pixels of a height above the bed."""
        return self.base - height * self.scale

    def x(self, across: float) -> float:
        """Pixels of a place across, the fixed jaw at the right."""
        return self.left + (across - self.low(self.across)) * self.scale

    def side(self, first: float, second: float) -> tuple[float, float]:
        """Pixels of a place of a section along the jaws."""
        across, up = (first, second) if FLAT[self.along][0] == self.across else (second, first)
        index = AXES.index(self.through)
        above = up - self.before.low[index] if self.upright else self.before.high[index] - up
        return self.x(across), self.h(self.seat + above)


def _path(shape: "BaseGeometry", place: Place) -> str:
    found = ""
    for part in getattr(shape, "geoms", [shape]):
        if part.geom_type != "Polygon" or part.is_empty:
            continue
        for ring in (part.exterior, *part.interiors):
            spots = "L".join("{:.1f},{:.1f}".format(*place(x, y)) for x, y in list(ring.coords)[:-1])
            found += f"M{spots}Z"
    return found


def _side(picture: HeldPicture, heights: Heights) -> tuple[str, float]:
    """The side view: bed, parallels, jaws, the piece cut open where the deepest cut is, what is cut hatched."""
    drawn, frame, bottom = side_view(picture, heights)
    return drawn + _deepest(picture.contact, heights, frame), bottom


def side_view(
    picture: HeldPicture, heights: Heights, up_to: float = 0.0, name: str = ""
) -> tuple[str, _Lying, float]:
    """Return the side view of a setup, its places in pixels, and where it ends below.

    Args:
        picture: the setup.
        heights: of it.
        up_to: height that has to find room, above the bed. [mm]
        name: of the feature it is cut open through; empty for the deepest.
    """
    contact = picture.contact
    probe = _Lying(contact, 1.0, 0.0, 0.0)
    wide = probe.size(probe.across)
    top = max(heights.raw, heights.jaw or 0.0, up_to)
    low = min(heights.deepest or 0.0, 0.0)
    scale = min((SIDE_WIDE - LEFT - 50) / (wide * (1 + 2 * JAW)), HIGH / (top - low), 14.0)
    frame = _Lying(contact, scale, LEFT + 30 + JAW * wide * scale, TOP + top * scale)
    drawn = text(frame.x(frame.low(frame.across) + wide / 2), 22, "from the side, cut open", "dim")
    drawn += _holder(frame, heights, wide)
    at = _where(contact, frame, name)
    before, after = (body.section(frame.along, at) for body in (contact.piece.before, contact.piece.after))
    drawn += f'<path class="sc-h dye2" fill-rule="evenodd" d="{_path(after, frame.side)}"/>'
    drawn += (
        f'<path class="sc hatched" fill-rule="evenodd" d="{_path(before.difference(after), frame.side)}"/>'
    )
    drawn += _scale_of_heights(heights, frame, picture.unit)
    bottom = frame.h(low)
    return drawn + bar(LEFT + 30, bottom + 50, scale, picture.unit), frame, bottom + 64


def _where(contact: Contact, frame: _Lying, name: str = "") -> float:
    """Where the side view is cut: through a feature, else the deepest cut, else the middle."""
    cuts = [
        c
        for step in contact.piece.steps
        for c in step.cuts
        if c.key is not None and c.axis == frame.through and not c.keeps and name in {"", step.feature.name}
    ]
    if not cuts:
        return frame.low(frame.along) + frame.size(frame.along) / 2
    deepest = min(cuts, key=lambda c: c.low if frame.upright else -c.high)
    low, high = deepest.reach(frame.along)
    floor, roof = frame.low(frame.along), frame.low(frame.along) + frame.size(frame.along)
    return (max(low, floor) + min(high, roof)) / 2 + 1e-4


def small_setup(contact: Contact, left: float, base: float, room: tuple[float, float]) -> str:
    """Return a setup without a word: from the side in its jaws, or along its axis in its chuck.

    Args:
        contact: the setup.
        left: where its room begins. [px]
        base: where it stands. [px]
        room: how wide and how high it may be. [px]
    """
    wide, high = room
    before, after = contact.piece.before, contact.piece.after
    if contact.heights is None:
        radius, far = before.high[1], _far(contact)
        scale = min(wide / (far - before.low[0]), high / (radius * 3), 14.0)
        view = View(left - before.low[0] * scale, base - radius * 1.5 * scale, scale)
        drawn = f'<path class="sc hatched" d="{_outline(before, far, view)}"/>'
        drawn += f'<path class="sc-h dye2" d="{_outline(after, far, view)}"/>'
        if contact.zone is not None and contact.vise.kind != ARBOR:
            reach = view.x(contact.zone[0]), view.x(min(far, contact.zone[1]))
            drawn += _chuck_jaws(reach, view.y(0), radius * scale, said=False)
        return drawn
    heights = contact.heights
    probe = _Lying(contact, 1.0, 0.0, 0.0)
    across = probe.size(probe.across)
    top = max(heights.raw, heights.jaw or 0.0)
    scale = min(wide / (across * (1 + 2 * JAW)), high / top, 6.0)
    frame = _Lying(contact, scale, left + (wide - across * scale) / 2, base)
    drawn = _holder(frame, heights, across, said=False)
    at = _where(contact, frame)
    inner, outer = (body.section(frame.along, at) for body in (after, before))
    drawn += f'<path class="sc-h dye2" fill-rule="evenodd" d="{_path(inner, frame.side)}"/>'
    return drawn + (
        f'<path class="sc hatched" fill-rule="evenodd" d="{_path(outer.difference(inner), frame.side)}"/>'
    )


def _holder(frame: _Lying, heights: Heights, wide: float, *, said: bool = True) -> str:
    """Bed, parallels and jaws."""
    left, right = frame.x(frame.low(frame.across)), frame.x(frame.low(frame.across) + wide)
    jaw = JAW * wide * frame.scale
    drawn = f'<path class="sc-h" d="M{left - jaw - 8:.1f},{frame.h(0):.1f}H{right + jaw + 8:.1f}"/>'
    if heights.seat > 0:
        thick = max(wide * 0.1 * frame.scale, 6.0)
        for x in (left, right - thick):
            drawn += f'<path class="sc" d="M{x:.1f},{frame.h(0):.1f}V{frame.h(heights.seat):.1f}h{thick:.1f}V{frame.h(0):.1f}"/>'
    if heights.jaw is not None:
        for x, words, hatch in _stands(frame, left - jaw, right):
            box = f"M{x:.1f},{frame.h(0):.1f}V{frame.h(heights.jaw):.1f}h{jaw:.1f}V{frame.h(0):.1f}Z"
            drawn += f'<path class="sc-h dye" d="{box}"/>' + (
                f'<path class="{hatch.strip()}" d="{box}"/>' if hatch else ""
            )
            drawn += text(x + jaw / 2, frame.h(0) - 8, words, "on-line") if said else ""
    return drawn


def _stands(frame: _Lying, left: float, right: float) -> list[tuple[float, str, str]]:
    """Where what holds the piece stands beside it, with its words: two jaws, one angle plate, the walls of a nest."""
    if frame.kind == NEST:
        return [(left, "nest", " hatched"), (right, "nest", " hatched")]
    if frame.kind == ANGLE_PLATE:
        at = next((right if NORMAL[face][1] < 0 else left for face in frame.walls), right)
        return [(at, "plate", " hatched")] if frame.walls else []
    return [(left, "moving", ""), (right, "fixed", " hatched")]


def _deepest(contact: Contact, heights: Heights, frame: _Lying) -> str:
    """The deepest tool as a dashed line with its name, from above down to its point."""
    if heights.deepest is None:
        return ""
    x = above_cut(contact, frame, heights.deepest_name)
    drawn = f'<path class="sc-d" stroke-dasharray="9 5" d="M{x:.1f},{TOP - 6:.1f}V{frame.h(heights.deepest):.1f}"/>'
    return drawn + text(x + 8, TOP - 2, heights.deepest_name, "on-line", anchor="start")


def above_cut(contact: Contact, frame: _Lying, name: str) -> float:
    """Return the pixels of the middle of a feature's cut, as far as it lies on the piece; of the piece where it has none from above."""
    low, high = frame.low(frame.across), frame.low(frame.across) + frame.size(frame.across)
    cuts = [c for step in contact.piece.steps if step.feature.name == name for c in step.cuts]
    cut = next((c for c in cuts if c.key is not None and c.axis == frame.through and not c.keeps), None)
    a, b = cut.reach(frame.across) if cut is not None else (low, high)
    return frame.x((max(a, low) + min(b, high)) / 2)


def _scale_of_heights(heights: Heights, frame: _Lying, unit: LengthUnit) -> str:
    """The heights at the left, each with its line; words keep a line's distance."""
    drawn, last = "", -1e9
    right = frame.x(frame.low(frame.across) + frame.size(frame.across))
    for word, at in heights_rows(heights):
        y = max(frame.h(at), last + LINE)
        last = y
        drawn += text(8, y + 5, word, "dim", anchor="start") + text(
            LEFT + 22, y + 5, _tenth(at, unit), "b", "mk", anchor="end"
        )
        drawn += (
            f'<path class="hair" d="M{LEFT + 26:.1f},{y:.1f}L{LEFT + 40:.1f},{frame.h(at):.1f}H{right:.1f}"/>'
        )
    return drawn


def _tenth(at: float, unit: LengthUnit) -> str:
    """A height as it is drawn: to a tenth of a millimetre, a hundredth of an inch."""
    return figure(round(at, 1), unit) if unit == "mm" else figure(round(at / 25.4, 2) * 25.4, unit)


def _from_above(picture: HeldPicture) -> tuple[str, float]:
    """The plan: the fixed jaw at the back, the stop where it is, what is cut hatched."""
    contact = picture.contact
    frame = _Lying(contact, 1.0, 0.0, 0.0)
    along, across = frame.size(frame.along), frame.size(frame.across)
    scale = min(PLAN_WIDE / along, PLAN_HIGH / (across * (1 + 2 * FLAT_JAW)), 10.0)
    left, base = PLAN_LEFT + (PLAN_WIDE - along * scale) / 2, TOP + 10 + across * (1 + FLAT_JAW) * scale
    low = base + FLAT_JAW * across * scale + 26
    turns = spinning(contact) if contact.vise.kind == FACE_PLATE else None
    if turns is not None:  # the whole circle its corners describe
        scale = min(PLAN_WIDE / turns.swing, 10.0)
        a, c = turns.at if FLAT[frame.through][0] == frame.along else turns.at[::-1]
        middle = TOP + 10 + turns.swing / 2 * scale
        left = PLAN_LEFT + PLAN_WIDE / 2 - (a - frame.low(frame.along)) * scale
        base = middle + (c - frame.low(frame.across)) * scale
        low = middle + turns.swing / 2 * scale + 30

    def place(first: float, second: float) -> tuple[float, float]:
        a, c = (first, second) if FLAT[frame.through][0] == frame.along else (second, first)
        return left + (a - frame.low(frame.along)) * scale, base - (c - frame.low(frame.across)) * scale

    drawn = text(PLAN_LEFT + PLAN_WIDE / 2, 22, "from above", "dim")
    if contact.heights is not None and contact.heights.jaw is not None:
        drawn += _jaws_from_above(contact, frame, base, scale)
    drawn += _seen_from_above(contact, frame, place)
    drawn += _straps(contact, frame, place)
    drawn += _swing(turns, place, scale) if turns is not None else ""
    drawn += _stop(contact, frame, (left, base - across * scale / 2), along * scale)
    return drawn + bar(PLAN_LEFT, low, scale, picture.unit), low


def _jaws_from_above(contact: Contact, frame: _Lying, base: float, scale: float) -> str:
    """What stands beside the piece, from above: two jaws, a nest behind and before it, one angle plate."""
    along, across = frame.size(frame.along), frame.size(frame.across)
    shown = min((contact.vise.wide or along) * scale, PLAN_WIDE + 20)
    x, deep = PLAN_LEFT + (PLAN_WIDE - shown) / 2, FLAT_JAW * across * scale
    back, front = base - across * scale - deep, base
    rows = [(back, "fixed jaw"), (front, "moving jaw")]
    if frame.kind == NEST:
        rows = [(back, "nest"), (front, "nest")]
    elif frame.kind == ANGLE_PLATE:
        rows = [(back if NORMAL[face][1] < 0 else front, "angle plate") for face in frame.walls]
    drawn = ""
    for y, words in rows:
        drawn += f'<path class="sc-h dye" d="M{x:.1f},{y:.1f}h{shown:.1f}v{deep:.1f}h-{shown:.1f}Z"/>'
        drawn += text(PLAN_LEFT + PLAN_WIDE / 2, y + deep / 2 + 5, words, "on-line")
    return drawn


def _seen_from_above(contact: Contact, frame: _Lying, place: Place) -> str:
    """The piece as it comes out, and each cut of this setup hatched."""
    from shapely import box  # noqa: PLC0415 - shapely takes 0.2 s

    first, second = (AXES.index(a) for a in FLAT[frame.through])
    before: Solid = contact.piece.before
    whole = box(before.low[first], before.low[second], before.high[first], before.high[second])
    drawn = f'<path class="sc-h dye2" d="{_path(whole, place)}"/>'
    for cut in before.cuts:  # what is there already, behind
        if cut.axis == frame.through and not cut.keeps and cut.shown and cut.key is not None:
            there = _path(cut.shape.polygon.intersection(whole), place)
            drawn += f'<path class="sc-d" stroke-dasharray="7 4" fill="none" d="{there}"/>'
    for step in contact.piece.steps:
        for cut in step.cuts:
            if cut.key is None or cut.keeps or cut.axis != frame.through or not cut.shown:
                continue
            drawn += f'<path class="sc hatched" d="{_path(cut.shape.polygon.intersection(whole), place)}"/>'
    return drawn


def _straps(contact: Contact, frame: _Lying, place: Place) -> str:
    """Clamps on the face that is up, as far as they reach."""
    drawn = ""
    first, second = (AXES.index(a) for a in FLAT[frame.through])
    for face, reach in contact.setup.held.straps:
        if face not in NORMAL or NORMAL[face][0] == frame.through:
            continue
        low, high = strap_box(frame.before, face, float(reach))
        (a, b), (c, d) = place(low[first], low[second]), place(high[first], high[second])
        drawn += f'<path class="sc-h" fill="url(#cross)" d="M{a:.1f},{b:.1f}H{c:.1f}V{d:.1f}H{a:.1f}Z"/>'
    return drawn


def _swing(found: Spinning, place: Place, scale: float) -> str:
    """On a face plate: the axis it turns about, and the circle its farthest corner describes."""
    x, y = place(*found.at)
    r = found.swing / 2 * scale
    cross = f"M{x - 9:.1f},{y:.1f}h18M{x:.1f},{y - 9:.1f}v18"
    return (
        f'<circle class="sc-d" fill="none" stroke-dasharray="16 5 3 5" cx="{x:.1f}" cy="{y:.1f}" r="{r:.1f}"/>'
        f'<path class="sc" d="{cross}"/>'
    )


def _stop(contact: Contact, frame: _Lying, middle: tuple[float, float], long: float) -> str:
    """The stop: a wedge at the face that goes against it."""
    face = contact.setup.held.to_stop
    if face not in NORMAL or NORMAL[face][0] != frame.along:
        return ""
    x, y = middle
    if NORMAL[face][1] > 0:
        return f'<path class="fill" d="M{x - 4:.1f},{y:.1f}l-18,-10v20z"/>'
    return f'<path class="fill" d="M{x + long + 4:.1f},{y:.1f}l18,-10v20z"/>'


def _legend(high: float) -> str:
    drawn = f'<rect class="sc hatched" x="{PLAN_LEFT:.1f}" y="{high - 14:.1f}" width="26" height="16"/>'
    return drawn + text(PLAN_LEFT + 34, high, "cut here", "dim", anchor="start")


def _in_chuck(picture: HeldPicture) -> Markup:
    """A turned piece along its axis: as it goes in outlined, as it comes out filled, the jaws where they grip."""
    contact = picture.contact
    before, after, zone = contact.piece.before, contact.piece.after, contact.zone
    end = _far(contact)
    r = before.high[1]
    scale = min((WIDTH - 120) / (end - before.low[0]), 120 / r, 14.0)
    left, middle = 60.0 - before.low[0] * scale, 70.0 + r * 1.5 * scale

    view = View(left, middle, scale)
    drawn = f'<path class="sc" d="{_outline(before, end, view)}"/>'
    drawn += f'<path class="sc hatched" d="{_outline(before, min(after.high[0], end), view)}"/>'
    drawn += f'<path class="sc-h dye2" d="{_outline(after, end, view)}"/>'
    drawn += f'<path class="sc-d" stroke-dasharray="16 5 3 5" d="M20,{middle:.1f}H{WIDTH - 20}"/>'
    drawn += _gripped(contact, view, min(end, zone[1]) if zone is not None else end)
    high = middle + r * 1.5 * scale
    drawn += text(left + before.low[0] * scale, 22, OPPOSITE["chuck end"], "dim", anchor="start")
    drawn += bar(60, high + 30, scale, picture.unit)
    return Markup(svg(WIDTH, round(high + 50), str(escape(held_says(picture))), drawn))


def _far(contact: Contact) -> float:
    """How far along its axis a turned piece is drawn: all of it, or a little of the bar behind it."""
    before, zone = contact.piece.before, contact.zone
    if BAR in (*contact.setup.clamps_on, *contact.setup.locates_on):
        return max(contact.piece.after.high[0] * 1.25, zone[0] + before.high[1] * 3 if zone else 0.0)
    return before.high[0]


def _gripped(contact: Contact, view: View, end: float) -> str:
    """Where jaws grip it or the arbor sits in it, as far as `end` along the axis; or that nobody said so."""
    before, zone = contact.piece.before, contact.zone
    r = before.high[1]
    if zone is not None and contact.vise.kind == ARBOR:
        inside = radius_at(before.inner, sum(zone) / 2) * view.scale
        return _arbor((view.x(zone[0]), view.x(zone[1])), view.y(0), inside)
    if zone is not None:
        return _chuck_jaws((view.x(zone[0]), view.x(end)), view.y(0), r * view.scale)
    if held_end(contact.setup) == "free end" or view.x(end) < UNSAID_WIDE:
        return text(view.x(before.low[0]), view.y(r) - 14, UNSAID, "dim", anchor="start")
    return text(view.x(end), view.y(r) - 14, UNSAID, "dim", anchor="end")


def _outline(body: Solid, far: float, view: View) -> str:
    """A turned piece from its side, as far as it is drawn."""
    spots = trimmed(body.profile, body.low[0], far)
    upper = [f"{view.x(z):.1f},{view.y(r):.1f}" for z, r in spots]
    lower = [f"{view.x(z):.1f},{view.y(-r):.1f}" for z, r in reversed(spots)]
    return f"M{'L'.join((*upper, *lower))}Z"


def _arbor(reach: tuple[float, float], middle: float, r: float) -> str:
    """The arbor in the bore, running on into the spindle."""
    a, b = reach
    box = f"M{a:.1f},{middle - r:.1f}H{WIDTH - 30}v{2 * r:.1f}H{a:.1f}Z"
    drawn = f'<path class="sc-h dye" d="{box}"/><path class="hatched" d="{box}"/>'
    return drawn + text((a + b) / 2, middle - r - 8, "arbor", "on-line")


def _chuck_jaws(reach: tuple[float, float], middle: float, r: float, *, said: bool = True) -> str:
    """Two jaws of a chuck, or a collet's two halves, where they grip."""
    a, b = reach
    drawn = ""
    for y in (middle - r * 1.45, middle + r):
        box = f"M{a:.1f},{y:.1f}H{b:.1f}v{r * 0.45:.1f}H{a:.1f}Z"
        drawn += f'<path class="sc-h dye" d="{box}"/><path class="hatched" d="{box}"/>'
    return drawn + (text((a + b) / 2, middle - r * 1.45 - 10, "jaws", "dim") if said else "")
