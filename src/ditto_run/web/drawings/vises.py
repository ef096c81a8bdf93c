"""The same little row of vises, with the meant one filled, wherever a station is named."""

from collections.abc import Sequence

from markupsafe import Markup

MOST = 12


def draw_vises(labels: Sequence[str], meant: str, width: int = 128, height: int = 62) -> Markup:
    """Return the stations as a row on a table, the meant one filled."""
    shown = list(labels)[:MOST] or [""]
    room = (width - 8) / len(shown)
    bars = ""
    for index, label in enumerate(shown):
        left = 4 + index * room + room * 0.14
        kind = "sc meant" if label == meant else "sc"
        bars += (
            f'<rect class="{kind}" x="{left:.1f}" y="2" width="{room * 0.72:.1f}" height="{height - 10}"/>'
        )
    return Markup(
        f'<svg aria-hidden="true" width="{width}" height="{height}" viewBox="0 0 {width} {height}">'
        f'<rect class="sc" x="1" y="{height - 6}" width="{width - 2}" height="5"/>{bars}</svg>'
    )
