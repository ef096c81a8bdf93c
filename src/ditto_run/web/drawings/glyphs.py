"""The shape codes of the strip, each drawn around (0, 0)."""

from markupsafe import Markup

from ditto_run.core.run.strip import Mark

DITTO = "M-5.9,-9h5l-3.4,18h-2.6z M2.7,-9h5l-3.4,18h-2.6z"
LEFT_STROKE = "M-5.9,-9h5l-3.4,18h-2.6z"
PLAIN = {
    "ditto": f'<path class="g-dit" d="{DITTO}"/>',
    "dash": '<path class="g-run" d="M-7,0h14"/>',
    "cutting": '<circle class="g-come" r="6.5"/><path class="g-cut" d="M0,-6.5a6.5,6.5 0 0 0 0,13z"/>',
    "come": '<circle class="g-come" r="5.5"/>',
    "scrap": '<path class="g-scrap" d="M-8,-8l16,16M8,-8l-16,16"/>',
    "reworked": '<path class="g-loop" d="M-11,9C6,8 9,-2 6.5,-7.5C4,-12 -4,-12 -6.5,-7.5C-9,-2 -6,8 11,9"/>',
    "trial": '<path class="g-come" d="M-7,-7h14v14h-14z"/>',
    "spare": '<path class="g-loop" d="M0,-8V8M-8,0H8"/>',
    "lost": '<circle class="g-come" r="8" stroke-dasharray="3 4"/>',
    "master": '<path class="g-master" d="M-11,-11h22v22h-22z"/><text class="g-m" y="6" text-anchor="middle">M</text>',
    "notch": '<path class="g-notch" d="M-8,-6h16L0,6z"/>',
    "break": '<path class="sc" d="M0,-20v12l-5,4l10,8l-5,4v12"/>',
}
BRACKET = '<path class="g-held" d="M-8,-{h}H-14V{h}h6M8,-{h}H14V{h}h-6"/>'
CORNERS = '<path class="g-due" d="M-9,-{h}H-15V-{k}M9,-{h}H15V-{k}M-9,{h}H-15V{k}M9,{h}H15V{k}"/>'
NEAREST = 0.34  # a slipped stroke stands at least this far off the middle line, or it could not be told
WORDS = {
    "master": ("Master", "first accepted piece; everything is compared with it", "master"),
    "ditto": ("Ditto", "repeats the master, inside the quiet band", "ditto"),
    "riser": ("Riser", "the pair parts; the right stroke stands above, its foot is the value", "up 13"),
    "faller": ("Faller", "the same, below", "down 21"),
    "dash": ("Dash", "made, not gauged", "not gauged"),
    "cutting": ("Half dot", "being cut now", "cutting"),
    "come": ("Hollow dot", "still to come", "to come"),
    "due": ("Brass corners", "gauge this one next", "gauge this"),
    "held": ("Bracket", "held until gauged or decided", "held"),
    "scrap": ("Cross", "scrap", "scrap"),
    "reworked": ("Loop", "reworked and accepted", "reworked"),
    "trial": ("Hollow square", "trial piece, not counted", "trial"),
    "spare": ("Plus", "spare, beyond what is wanted", "spare"),
    "lost": ("Broken ring", "lost", "lost"),
    "notch": ("Notch", "offset, dial, stop or setting changed before this piece", "adjusted"),
    "break": ("Break", "new bar, new box of blanks, new shift", "new bar"),
}


def slipped(slip: float, reach: float) -> str:
    """Return the pair that came apart: the left stroke stays, the foot of the right one is the value."""
    up = slip > 0
    value = max(-1.0, min(1.0, slip))
    foot = -value * reach
    sign = -1 if up else 1
    stem = foot - sign * 12
    return (
        f'<path class="g-dit g-base" transform="translate(-4 0)" d="{LEFT_STROKE}"/>'
        f'<path class="g-dri" d="M6,{stem:.1f}V{foot:.1f}"/><path class="g-foot" d="M-1,{foot:.1f}H13"/>'
    )


def glyph(mark: Mark, reach: float, height: float) -> str:
    """Return one mark with its bracket or corners.

    Args:
        mark: what to draw.
        reach: distance from the middle line to the limit. [px]
        height: half the height of bracket and corners. [px]
    """
    body = slipped(mark.slip, reach) if mark.shape == "slip" else PLAIN[mark.shape]
    if mark.digit:
        body += f'<text class="dim digit" x="13" y="-5">{mark.digit}</text>'
    if mark.shape == "scrap":
        body += f'<text class="stop num" x="10" y="6">{mark.piece}</text>'
    if mark.held:
        body += BRACKET.format(h=f"{height:.0f}")
    if mark.due:
        body += CORNERS.format(h=f"{height + 2:.0f}", k=f"{height - 6:.0f}")
    return body


def icon(name: str, width: int = 28, height: int = 26) -> Markup:
    """Return a shape code as a small picture beside its word."""
    if name in {"riser", "faller"}:
        body = slipped(0.85 if name == "riser" else -0.85, 14)
    elif name == "held":
        body = BRACKET.format(h="11")
    elif name == "due":
        body = CORNERS.format(h="11", k="5")
    else:
        body = PLAIN[name]
    wide_mark = name in {"held", "due"}
    scale = min(width / (34 if wide_mark else 26), height / 26) if height > 30 or wide_mark else 1.0
    wide, high = width / scale, height / scale
    return Markup(
        f'<svg aria-hidden="true" width="{width}" '
        f'height="{height}" viewBox="{-wide / 2:.1f} {-high / 2:.1f} {wide:.1f} {high:.1f}">{body}</svg>'
    )
