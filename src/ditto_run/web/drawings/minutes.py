"""Where the minutes of a load go, as one bar from floor to floor: each kind with its own pattern and its words above."""

from markupsafe import Markup, escape

from ditto_run.core.tools.minutes_sheet import Minutes
from ditto_run.core.units import clock_text
from ditto_run.web.drawings.part_frame import text
from ditto_run.web.drawings.pictures import draw_picture
from ditto_run.web.drawings.scale import svg

WIDTH, LEFT, RIGHT = 764, 20.0, 744.0
ROW, BAR = 24, 44
PATTERN = {
    "cutting": "fill",
    "in the air": "dye",
    "changes and moves": "hatched",
    "hands": "dye2",
    "gauging": "deep",
}


@draw_picture.register
def draw_minutes(picture: Minutes, says: str) -> Markup:
    """Draw a load as a bar to scale, floor to floor."""
    scale = (RIGHT - LEFT) / picture.load_s
    top = ROW * len(picture.parts) + 14
    drawn, x = "", LEFT
    for row, (part, seconds) in enumerate(picture.parts):
        wide = seconds * scale
        box = f"M{x:.1f},{top}h{wide:.1f}v{BAR}h-{wide:.1f}Z"
        drawn += f'<path class="{PATTERN[part]}" d="{box}"/><path class="sc-h" d="{box}"/>'
        y = ROW * (row + 1) - 4
        words = f"{part} {clock_text(round(seconds))}"
        at_end = x > (LEFT + RIGHT) / 2
        middle = x + wide / 2
        drawn += f'<path class="hair" d="M{middle:.1f},{y + 6}V{top}"/>'
        drawn += text(
            middle + (-6 if at_end else 6), y + 5, words, "on-line", anchor="end" if at_end else "start"
        )
        x += wide
    drawn += text(LEFT, top + BAR + 22, "0", "mk", anchor="start")
    drawn += text(RIGHT, top + BAR + 22, clock_text(round(picture.load_s)), "mk", "b", anchor="end")
    return Markup(svg(WIDTH, top + BAR + 34, str(escape(says)), drawn))
