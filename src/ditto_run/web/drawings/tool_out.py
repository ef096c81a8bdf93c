"""A tool in its setup: what it has to stand out and what it does, how it bends; and its speed on one scale."""

from collections.abc import Callable
from dataclasses import dataclass

from markupsafe import Markup, escape

from ditto_run.core.tools.cutting.speed import Speed
from ditto_run.core.tools.stickout_sheet import ToolOut
from ditto_run.core.units import LengthUnit, bare_length
from ditto_run.web.drawings.part_frame import bar, figure, text, upright
from ditto_run.web.drawings.pictures import draw_picture
from ditto_run.web.drawings.scale import nice_step, svg
from ditto_run.web.drawings.setup_views import HeldPicture, above_cut, side_view

WIDTH = 764
HOLDER_MM = 22.0  # of the holder that is drawn above the tool
NOSE = 2.2  # times the tool, where nobody said how wide its holder is; drawn dashed
PLAIN_MM = 8.0  # a tool nobody said the diameter of; drawn dashed
ALONE_HIGH, ALONE_TOP, ALONE_LEFT = 300.0, 40.0, 330.0
BEND_LEFT, BEND_TOP, BEND_HIGH, BEND_TIMES = 560.0, 60.0, 96.0, 100
SCALE_LEFT, SCALE_RIGHT, SCALE_LINE = 60.0, 724.0, 84.0
STEPS = 8
FLUTE_STEP = 12
HANDBOOK_WIDE = 90  # room its word takes
SHOWN_BEYOND = 2.2  # times the machine's end, of what it has not
DASHED = ' stroke-dasharray="9 5"'


@dataclass(frozen=True)
class ToolPicture:
    """What is drawn of a tool.

    Args:
        out: how far it has to stand out, and does.
        held: its setup; None while its heights are not known.
        made: the feature it cuts; empty for none.
        name: of the tool.
        tip_mm: where its tip is, above the bed; 0 without heights. [mm]
        unit: of the job.
    """

    out: ToolOut
    held: HeldPicture | None
    made: str
    name: str
    tip_mm: float
    unit: LengthUnit


def draw_tool(picture: ToolPicture) -> Markup:
    """Return the tool over its cut, in the side view of its setup where that has heights."""
    out, held = picture.out, picture.held
    heights = held.contact.heights if held is not None else None
    far = max(out.reach.needed_mm, out.reach.there_mm or 0.0)
    if held is None or heights is None:
        return _alone(out, picture.unit, picture.name)
    up_to = picture.tip_mm + far + HOLDER_MM
    drawn, frame, bottom = side_view(held, heights, up_to, picture.made)
    x = above_cut(held.contact, frame, picture.made)
    drawn += _tool(picture, x, frame.h(picture.tip_mm), frame.scale) + _bends(out, picture.unit)
    return Markup(svg(WIDTH, round(bottom + 10), str(escape(_says(picture))), drawn))


@draw_picture.register
def _alone_in_a_sheet(picture: ToolOut, says: str) -> Markup:
    return _alone(picture, picture.unit, says)


def _alone(out: ToolOut, unit: LengthUnit, says: str) -> Markup:
    """The tool by itself over what is highest, where no setup has heights."""
    far = max(out.reach.needed_mm, out.reach.there_mm or 0.0) + HOLDER_MM
    scale = min(ALONE_HIGH / far, 12.0)
    tip = ALONE_TOP + far * scale
    top = tip - out.tip_mm * scale
    drawn = f'<path class="hatched" d="M120,{top:.1f}H{ALONE_LEFT + 120:.0f}V{tip:.1f}H120Z"/>'
    drawn += f'<path class="sc-h" d="M120,{top:.1f}H{ALONE_LEFT + 120:.0f}"/>'
    drawn += text(112, top + 5, "highest", "dim", anchor="end")
    drawn += _tool(ToolPicture(out, None, "", says, 0.0, unit), ALONE_LEFT, tip, scale) + _bends(out, unit)
    drawn += bar(120, tip + 30, scale, unit)
    return Markup(svg(WIDTH, round(tip + 46), str(escape(says)), drawn))


def _tool(picture: ToolPicture, x: float, tip: float, scale: float) -> str:
    """Shank, flutes, holder as it is; what is needed dashed."""
    out, reach = picture.out, picture.out.reach
    wide = (out.across_mm or PLAIN_MM) * scale
    nose = (out.nose_mm or NOSE * (out.across_mm or PLAIN_MM)) * scale
    at = tip - (reach.needed_mm if reach.there_mm is None else reach.there_mm) * scale
    needed = tip - reach.needed_mm * scale
    top = min(at, needed) - HOLDER_MM * scale
    shank = f"M{x - wide / 2:.1f},{tip:.1f}V{at:.1f}H{x + wide / 2:.1f}V{tip:.1f}Z"
    drawn = f'<path class="sc-h dye"{"" if out.across_mm else DASHED} d="{shank}"/>'
    drawn += _flutes(x, tip, max(tip - (out.flute_mm or 0.0) * scale, at), wide)
    holder = f"M{x - nose / 2:.1f},{top:.1f}V{at:.1f}H{x + nose / 2:.1f}V{top:.1f}"
    is_known = out.nose_mm and reach.there_mm is not None
    drawn += f'<path class="sc-h dye2"{"" if is_known else DASHED} d="{holder}"/>'
    drawn += text(x, at - 10, picture.name.split(" ")[0], "b", "on-line")
    drawn += f'<path class="sc-d"{DASHED} d="M{x - nose / 2 - 14:.1f},{needed:.1f}H{x + nose / 2 + 34:.1f}"/>'
    right = x + nose / 2 + 30
    drawn += upright(needed, tip, right, bare_length(reach.needed_mm, picture.unit), x + wide / 2)
    drawn += text(right + 5, needed - 8, "needed", "dim", "on-line", anchor="start")
    if reach.there_mm is None:
        return drawn
    far = right + 100
    drawn += upright(at, tip, far, bare_length(reach.there_mm, picture.unit), x + nose / 2)
    return drawn + text(far, tip + 20, "there", "b", "on-line")


def _flutes(x: float, tip: float, end: float, wide: float) -> str:
    """Slanted lines as far up as the flutes run."""
    drawn, y = "", tip - 4
    while y > end + wide / 2:
        drawn += f'<path class="hair" d="M{x - wide / 2:.1f},{y:.1f}L{x + wide / 2:.1f},{y - wide / 2:.1f}"/>'
        y -= FLUTE_STEP
    return drawn


def _bends(out: ToolOut, unit: LengthUnit) -> str:
    """What it bends, a hundred times as much as it does: as far out as needed, and as it is."""
    bends, there = out.reach.bends_mm, out.reach.there_mm
    if bends is None:
        return ""
    rows = [(out.reach.needed_mm, bends[0], True)] if there is not None else []
    rows.append((there or out.reach.needed_mm, bends[1], False))
    longest = max(length for length, _, _ in rows)
    drawn = text(BEND_LEFT + 90, BEND_TOP - 34, f"bend, {BEND_TIMES} times", "dim")
    for at, (length, bend, is_needed) in enumerate(rows):
        x, high = BEND_LEFT + 30 + at * 110, BEND_HIGH * length / longest
        over = min(bend * BEND_TIMES * BEND_HIGH / longest, 44.0)
        line = f"M{x:.1f},{BEND_TOP:.1f}C{x:.1f},{BEND_TOP + high / 2:.1f} {x + over / 3:.1f}"
        line += f",{BEND_TOP + high * 0.8:.1f} {x + over:.1f},{BEND_TOP + high:.1f}"
        drawn += f'<path class="sc-h" d="M{x - 22:.1f},{BEND_TOP:.1f}h44"/>'
        drawn += (
            f'<path class="sc-d" stroke-dasharray="16 5 3 5" d="M{x:.1f},{BEND_TOP:.1f}v{high + 8:.1f}"/>'
        )
        drawn += f'<path class="sc-h"{DASHED if is_needed else ""} d="{line}"/>'
        drawn += text(x, BEND_TOP + BEND_HIGH + 26, f"{figure(round(bend, 4), unit)} {unit}", "mk", "b")
        drawn += text(
            x, BEND_TOP + BEND_HIGH + 48, f"at {bare_length(length, unit)}", "dim" if is_needed else ""
        )
    return drawn


def _says(picture: ToolPicture) -> str:
    reach, unit = picture.out.reach, picture.unit
    there = (
        "nobody has said how far it stands out"
        if reach.there_mm is None
        else f"it stands out {figure(round(reach.there_mm, 2), unit)}"
    )
    return (
        f"{picture.name} in its setup, {unit}: {figure(round(reach.needed_mm, 2), unit)} is needed, {there}."
    )


@draw_picture.register
def draw_speed(picture: Speed, says: str) -> Markup:
    """Draw speeds on one scale: the handbook's a box, beyond the machine's end hatched, what is taken a scriber."""
    low, high = picture.band_rpm
    end = picture.end_rpm
    most = max(min(high, (end or high) * SHOWN_BEYOND), picture.rpm * 1.12, (end or 0.0) * 1.25, low * 1.2)
    scale = (SCALE_RIGHT - SCALE_LEFT) / most

    def x(rpm: float) -> float:
        return SCALE_LEFT + min(rpm, most) * scale

    drawn = _ruler(x, most) + (_end(x(end), end) if end is not None else "")
    drawn += _handbook(x(low), x(high), low)
    taken = x(picture.rpm)
    drawn += f'<path class="fill" d="M{taken - 12:.1f},{SCALE_LINE - 44:.0f}h24v26l-12,18l-12,-18Z"/>'
    words = max(taken - 18, SCALE_LEFT + 60)
    drawn += text(words, SCALE_LINE - 34, f"{picture.rpm:,.0f}", "b", "on-line", "mk", anchor="end")
    return Markup(svg(WIDTH + 30, round(SCALE_LINE + 40), str(escape(says)), drawn))


def _ruler(x: Callable[[float], float], most: float) -> str:
    """The line with its figures."""
    step = nice_step(most, STEPS)
    drawn = f'<path class="sc-h" d="M{SCALE_LEFT:.0f},{SCALE_LINE:.0f}H{SCALE_RIGHT:.0f}"/>'
    for at in (step * n for n in range(int(most / step) + 1)):
        drawn += f'<path class="sc" d="M{x(at):.1f},{SCALE_LINE:.0f}v8"/>'
        drawn += text(x(at), SCALE_LINE + 28, f"{at:,.0f}" if step >= 1 else f"{at:g}", "mk")
    return drawn + text(SCALE_RIGHT + 30, SCALE_LINE + 5, "rpm", "dim")


def _end(x: float, rpm: float) -> str:
    """Where the machine ends, and what it has not."""
    drawn = f'<path class="hatched" d="M{x:.1f},{SCALE_LINE - 44:.0f}H{SCALE_RIGHT:.1f}V{SCALE_LINE:.0f}H{x:.1f}Z"/>'
    drawn += f'<path class="sc-h" d="M{x:.1f},{SCALE_LINE - 52:.0f}V{SCALE_LINE:.0f}"/>'
    return drawn + text(x + 8, SCALE_LINE - 56, f"ends at {rpm:,.0f}", "b", "on-line", anchor="start")


def _handbook(low: float, high: float, rpm: float) -> str:
    """The handbook's speeds as a box; only said where they begin beyond the scale."""
    if high <= low:
        return text(SCALE_RIGHT, SCALE_LINE - 8, f"handbook from {rpm:,.0f}", "on-line", anchor="end")
    box = f"M{low:.1f},{SCALE_LINE - 26:.0f}H{high:.1f}V{SCALE_LINE:.0f}H{low:.1f}Z"
    words = (high + 8, "start") if high + HANDBOOK_WIDE < SCALE_RIGHT else (low - 8, "end")
    at = words if words[0] > SCALE_LEFT + HANDBOOK_WIDE or words[1] == "start" else (SCALE_RIGHT - 8, "end")
    return f'<path class="sc-h dye2" d="{box}"/>' + text(
        at[0], SCALE_LINE - 8, "handbook", "on-line", anchor=at[1]
    )
