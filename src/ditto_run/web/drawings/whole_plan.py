"""A whole plan at a glance: its setups from the side, the tools of each on a rule, how many pieces a change of tool serves."""

from markupsafe import Markup, escape

from ditto_run.core.plan.held import contacts
from ditto_run.core.propose.whole import WholePlan
from ditto_run.core.units import counted
from ditto_run.web.drawings.part_frame import text
from ditto_run.web.drawings.scale import svg
from ditto_run.web.drawings.setup_views import small_setup

WIDE, NARROW = 388, 216  # of two columns, and of more
MOST_SETUPS = 3  # that are drawn; what is more is said
GAP, PIECE_HIGH, TOP = 26.0, 92.0, 12.0
RULE, TICK = 34.0, 37.0
SIGN = 8.4  # as wide as a sign is drawn


def draw_whole(one: WholePlan, *, narrow: bool = False) -> Markup:
    """Return a whole plan drawn in a column's width.

    Args:
        one: the plan.
        narrow: True where more than two stand side by side.
    """
    wide = NARROW if narrow else WIDE
    plan = one.drafted.plan
    setups = plan.setups[:MOST_SETUPS]
    held = {contact.setup.key: contact for contact in contacts(one.drafted.worked)}
    cell = (wide - GAP * (len(setups) - 1)) / max(len(setups), 1)
    base = TOP + PIECE_HIGH
    most = max(one.picks.stations, default=1)
    drawn, y = "", base + 62
    for n, setup in enumerate(setups):
        left = n * (cell + GAP)
        many = one.picks.stations[n] if n < len(one.picks.stations) else 1
        room = min(cell - (34 if most > 1 else 0), 210.0), PIECE_HIGH
        contact = held.get(setup.key)
        drawn += small_setup(contact, left + 2, base, room) if contact is not None else ""
        drawn += (
            text(left + room[0] + 8, base - 8, f"× {many}", "b", "mk", anchor="start") if many > 1 else ""
        )
        drawn += text(left, base + 20, _fitting(f"{n + 1} {setup.name}", cell), "b", anchor="start")
        drawn += text(left, base + 39, _fitting(setup.holds, cell), "dim", anchor="start")
        if n:
            drawn += f'<path class="sc" d="M{left - GAP + 5:.1f},{base - 40:.1f}h12"/>'
            drawn += f'<path class="fill" d="M{left - 3:.1f},{base - 40:.1f}l-9,-5v10z"/>'
    for n, setup in enumerate(setups):
        many = one.picks.stations[n] if n < len(one.picks.stations) else 1
        drawn += _rule([step.tool for step in plan.tools_of(setup.key)], y + 14, many, wide)
        y += RULE
    return Markup(svg(wide, round(y + 8), str(escape(whole_says(one))), drawn))


def _fitting(words: str, wide: float) -> str:
    """As many of the words, from the first, as there is room for."""
    kept = words.split()
    while len(kept) > 1 and len(" ".join(kept)) * SIGN > wide:
        kept.pop()
    return " ".join(kept)


def _rule(tools: list[int], y: float, many: int, wide: float) -> str:
    """The tools of a setup in order, a dot for each piece that one serves."""
    most = int(wide / TICK)
    shown = tools if len(tools) <= most else tools[: most - 1]
    drawn = f'<path class="hair" d="M0,{y:.1f}H{max(len(shown), 1) * TICK:.1f}"/>'
    for n, tool in enumerate(shown):
        x = (n + 0.5) * TICK
        drawn += "".join(
            f'<circle class="fill" cx="{x + (i - (many - 1) / 2) * 7:.1f}" cy="{y:.1f}" r="2.6"/>'
            for i in range(many)
        )
        drawn += text(x, y - 7, f"T{tool:02d}" if tool else "hand", "dim", "mk")
    if len(tools) > len(shown):
        drawn += text(len(shown) * TICK + 4, y + 4, f"+{len(tools) - len(shown)}", "dim", anchor="start")
    return drawn


def whole_says(one: WholePlan) -> str:
    """Return what the drawing of a whole plan shows, in sentences."""
    plan = one.drafted.plan
    said = []
    for n, setup in enumerate(plan.setups):
        many = one.picks.stations[n] if n < len(one.picks.stations) else 1
        up = f", {setup.held.up} up" if setup.held.up else ""
        tools = counted(len(plan.tools_of(setup.key)), "tool step")
        said.append(f"{n + 1} {setup.name}{up}: {counted(many, 'station')} in {setup.holds}, {tools}.")
    return " ".join(said)
