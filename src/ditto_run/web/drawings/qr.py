"""A square code for paper that leads to a page."""

from markupsafe import Markup
from segno import make

BORDER = 2  # modules of white around it; four are asked of a code by itself, a tag gives the rest


def qr_svg(text: str) -> Markup:
    """Return the code of a text as an SVG without a size of its own.

    Args:
        text: up to some 200 letters.
    """
    code = make(text, error="m", micro=False)
    drawn = code.svg_inline(border=BORDER, omitsize=True, svgclass="qr", lineclass="", dark="#000")
    drawn = drawn.replace('stroke="#000"', 'stroke="currentColor"', 1)
    return Markup(drawn.replace("<svg ", '<svg aria-hidden="true" ', 1))
