"""Server-drawn SVG: each function returns one picture, drawn at its real size."""

from ditto_run.web.drawings import (  # their drawings register themselves
    minutes,
    overlap,
    place_pictures,
    stop_pictures,
)
from ditto_run.web.drawings.chart import draw_chart, draw_ladder, range_words, total_words
from ditto_run.web.drawings.drift import draw_drift
from ditto_run.web.drawings.floor_lanes import draw_floor
from ditto_run.web.drawings.glyphs import glyph, icon
from ditto_run.web.drawings.hands import draw_hands, hands_say
from ditto_run.web.drawings.jaws import draw_jaws
from ditto_run.web.drawings.layout import LayoutPicture, draw_layout, layout_says
from ditto_run.web.drawings.orientation import draw_orientation
from ditto_run.web.drawings.part_frame import PartPicture
from ditto_run.web.drawings.part_section import draw_section, section_says
from ditto_run.web.drawings.part_views import draw_views, views_says
from ditto_run.web.drawings.pictures import draw_picture
from ditto_run.web.drawings.setup_views import HeldPicture, draw_held, grip_said, heights_rows
from ditto_run.web.drawings.steps_line import open_gap, short_line, step_mark
from ditto_run.web.drawings.strip import draw_cells, draw_signature, draw_strip, draw_weave, strip_size
from ditto_run.web.drawings.tool_out import ToolPicture, draw_tool
from ditto_run.web.drawings.vises import draw_vises
from ditto_run.web.drawings.whole_plan import draw_whole, whole_says

__all__ = [
    "HeldPicture",
    "LayoutPicture",
    "PartPicture",
    "ToolPicture",
    "draw_cells",
    "draw_chart",
    "draw_drift",
    "draw_floor",
    "draw_hands",
    "draw_held",
    "draw_jaws",
    "draw_ladder",
    "draw_layout",
    "draw_orientation",
    "draw_picture",
    "draw_section",
    "draw_signature",
    "draw_strip",
    "draw_tool",
    "draw_views",
    "draw_vises",
    "draw_weave",
    "draw_whole",
    "glyph",
    "grip_said",
    "hands_say",
    "heights_rows",
    "icon",
    "layout_says",
    "minutes",
    "open_gap",
    "overlap",
    "place_pictures",
    "range_words",
    "section_says",
    "short_line",
    "step_mark",
    "stop_pictures",
    "strip_size",
    "total_words",
    "views_says",
    "whole_says",
]
