"""The piece as it sits in a setup: a block or a turned piece with named faces, not to scale."""

from markupsafe import Markup, escape

from ditto_run.core.hold import Chain, Setup
from ditto_run.core.hold.chain import AS_IT_SITS
from ditto_run.core.part.faces import BAR, OPPOSITE, SIDES
from ditto_run.web.drawings.scale import svg

WIDTH, HEIGHT = 380, 236
TOP_ROW = 80  # the upper face has no room for a second word


def draw_orientation(chain: Chain, setup: Setup) -> Markup:
    """Return the orientation picture of a setup: what is up, what it sits on, what is clamped and cut."""
    cut: frozenset[str] = frozenset().union(*(feature.touches for feature in chain.cut_in(setup)))
    on = setup.locates_on[0] if setup.locates_on else ""
    names = ", ".join(feature.name for feature in chain.cut_in(setup)) or "nothing yet"
    says = f"{setup.name}: sits on {on or 'nothing said'}, clamped on {' and '.join(setup.clamps_on) or 'nothing said'}, cuts {names}."
    body = _turned(chain, setup, cut) if chain.form == "turned" else _block(setup, on, cut)
    return Markup(svg(WIDTH, HEIGHT, str(escape(says)), body))


def _face(points: str, name: str, at: tuple[int, int], setup: Setup, cut: frozenset[str]) -> str:
    """Return one face with its name; hatched where it is cut, with the word where it is clamped."""
    body = f'<path class="sc-h {"dye2" if name not in cut else "dye"}" d="{points}"/>'
    if name in cut:
        body += f'<path fill="url(#hat)" d="{points}"/>'
    body += f'<text class="tx b on-line" x="{at[0]}" y="{at[1]}" text-anchor="middle">{escape(name)}</text>'
    held = (
        "clamped"
        if name in setup.clamps_on
        else f"{OPPOSITE[name]} clamped"
        if OPPOSITE[name] in setup.clamps_on
        else ""
    )
    if held and name in SIDES and at[1] > TOP_ROW:
        body += f'<text class="tx dim on-line" x="{at[0]}" y="{at[1] + 22}" text-anchor="middle">{escape(held)}</text>'
    return body


def _block(setup: Setup, on: str, cut: frozenset[str]) -> str:
    up = OPPOSITE.get(on, "top")
    front, right = AS_IT_SITS[up]
    body = _face("M70,90L130,44H310L250,90Z", up, (190, 74), setup, cut)
    body += _face("M70,90H250V186H70Z", front, (160, 136), setup, cut)
    body += _face("M250,90L310,44V140L250,186Z", right, (280, 112), setup, cut)
    body += (
        '<path class="sc-h" stroke-width="5" d="M40,192H330"/>'
        f'<text class="tx dim" x="190" y="222" text-anchor="middle">sits on {escape(on or "not said")}</text>'
    )
    if setup.stop:
        body += '<path class="fill" d="M52,186h18v-26z"/>'
    return (
        body
        + '<path class="sc-h" d="M190,6V34M182,26L190,36L198,26"/><text class="tx dim" x="204" y="22">tool</text>'
    )


def _outside(cut: frozenset[str]) -> str:
    points = "M70,84H290V156H70Z"
    hatched = f'<path fill="url(#hat)" d="{points}"/>' if "outside" in cut else ""
    return f'<path class="sc-h dye2" d="{points}"/>{hatched}<text class="tx b on-line" x="180" y="126" text-anchor="middle">outside</text>'


def _turned(chain: Chain, setup: Setup, cut: frozenset[str]) -> str:
    """Return a turned piece: the held end in the chuck at the right, the cut one at the left."""
    ends = [
        surface for surface in (*setup.clamps_on, *setup.locates_on) if surface in {"free end", "chuck end"}
    ]
    held = ends[0] if ends else "chuck end"
    out = OPPOSITE[held]
    body = '<path class="sc-d" stroke-dasharray="16 5 3 5" d="M20,120H360"/>'
    body += _outside(cut)
    body += (
        '<path class="sc-h dye2" d="M290,60H350V180H290Z"/><path fill="url(#hat)" d="M290,60H350V180H290Z"/>'
    )
    body += '<path class="fill" d="M262,66h34v16h-34zM262,158h34v16h-34z"/>'
    body += (
        f'<text class="tx b" x="66" y="72" text-anchor="middle">{escape(out)}</text>'
        f'<text class="tx b" x="320" y="204" text-anchor="middle">{escape(BAR if BAR in setup.clamps_on else held)}</text>'
    )
    if out in cut:
        body += '<path class="sc-h way is-best" d="M70,82V158"/>'
    if out in setup.centres:
        body += '<path class="fill" d="M20,104L70,120L20,136z"/>'
    made = ", ".join(feature.name for feature in chain.cut_in(setup))[:42]
    return body + f'<text class="tx dim" x="16" y="226">cuts {escape(made or "nothing yet")}</text>'
