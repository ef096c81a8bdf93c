"""The order of visits as a weave: stations are the warp, the thread goes from visit to visit, a column for each time a tool is put in."""

from collections.abc import Sequence
from dataclasses import dataclass

from markupsafe import Markup, escape

from ditto_run.core.plan import Plan
from ditto_run.core.plan.woven import CycleTools, Moves, weave_of
from ditto_run.core.tools.visits import visits_say
from ditto_run.core.tools.weave.cost import WeaveCost
from ditto_run.core.tools.weave.problem import Weave
from ditto_run.core.units import clock_text
from ditto_run.web.drawings.scale import svg

LEFT, RIGHT, TOP, HEAD = 76, 40, 64, 30
LANE, COLUMN, WIDE = 64, 118, 1180
OUT = 26  # how far the thread swings out where it turns at a station
LONGEST = 11  # letters of what a tool does under its number
NARROW = 84  # px; columns narrower than this bear no words


@dataclass(frozen=True, slots=True)
class Leg:
    """One visit with the way to it.

    Args:
        station: its label.
        lane: its number, from 0.
        tool, does: name of the tool and what it does.
        change_s, move_s: before it. [s]
        cut_s: it cuts. [s]
        start_s: from the start of the cycle. [s]
        broken: True if it comes too early by a rule.
    """

    station: str
    lane: int
    tool: str
    does: str
    change_s: float
    move_s: float
    cut_s: float
    start_s: float
    broken: bool = False


def legs_of(there: CycleTools, weave: Weave, cost: WeaveCost) -> list[Leg]:
    """Return the visits of an order as they are listed and drawn.

    Args:
        there: what of the cycle makes its weave.
        weave: it.
        cost: what the order takes.
    """
    named, late = there.visits(), {one.b for one in cost.broken}
    found = []
    for visit in cost.visits:
        op = weave.ops[visit.op]
        station, step = named[op.id]
        found.append(
            Leg(
                station.label,
                op.station,
                step.name,
                step.does,
                visit.change_ms / 1000,
                (visit.move_ms + visit.index_ms) / 1000,
                (visit.end_ms - visit.start_ms) / 1000,
                visit.start_ms / 1000,
                op.id in late,
            )
        )
    return found


def taken_card(plan: Plan, setup_key: int) -> tuple[Markup, list[Leg]] | None:
    """Return the order of visits taken for the cycle that begins with a setup, drawn and listed; None where none was, or it fits no more.

    Args:
        plan: the job.
        setup_key: of the setup.
    """
    cycle = next((one for one in plan.all_cycles if one.setups[0] == setup_key), None)
    visits = plan.taken_order(cycle.key) if cycle is not None else None
    cost = plan.taken_costs.get(cycle.key) if cycle is not None else None
    if cycle is None or visits is None or cost is None:
        return None
    there = plan.cycle_tools(cycle)
    weave = weave_of(there, Moves(visits.move_s, visits.pairs))
    legs = legs_of(there, weave, cost)
    return draw_visits(legs, [station.id for station in weave.stations]), legs


def draw_visits(visits: Sequence[Leg], stations: Sequence[str], picked: int = 0) -> Markup:
    """Return the weave at its real size.

    Args:
        visits: in order.
        stations: labels, from the top.
        picked: number of the visit that is picked; 0 for none.
    """
    columns = _columns(visits)
    wide = max(NARROW / 2, min(COLUMN * 2, (WIDE - LEFT - RIGHT) / max(columns)))
    width = round(LEFT + RIGHT + wide * max(columns))
    height = TOP + HEAD + LANE * len(stations)
    spots = [
        (LEFT + (column - 0.5) * wide, TOP + HEAD + LANE * (one.lane + 0.5) - LANE / 4)
        for one, column in zip(visits, columns, strict=True)
    ]
    body = "".join(
        f'<path class="hair" d="M{LEFT - 14},{TOP + HEAD + LANE * (n + 0.25):.0f}H{width - RIGHT / 2:.0f}"/>'
        f'<text class="b t24" x="{LEFT - 26}" y="{TOP + HEAD + LANE * (n + 0.25) + 8:.0f}" text-anchor="end">{escape(name)}</text>'
        for n, name in enumerate(stations)
    )
    body += _heads(visits, columns, wide)
    body += f'<path class="sc-h" d="{_thread(spots, columns)}"/>'
    body += "".join(
        _spot(n, one, spot, n == picked) for n, (one, spot) in enumerate(zip(visits, spots, strict=True), 1)
    )
    return Markup(
        svg(width, height, str(escape(visits_say((one.tool, one.station) for one in visits))), body)
    )


def _columns(visits: Sequence[Leg]) -> list[int]:
    """The column of each visit: a new one where another tool is put in, or a station is visited again."""
    found: list[int] = []
    seen: set[int] = set()
    for n, one in enumerate(visits):
        if not n or one.tool != visits[n - 1].tool or one.lane in seen:
            seen = set()
        found.append((found[-1] if found else 0) + (not seen))
        seen.add(one.lane)
    return found


def _heads(visits: Sequence[Leg], columns: Sequence[int], wide: float) -> str:
    """Number of the tool above each column, and what it does where there is room."""
    said: dict[int, Leg] = {}
    for one, column in zip(visits, columns, strict=True):
        said.setdefault(column, one)
    parts = f'<path class="sc" d="M{LEFT},22V14H{LEFT + wide * max(columns):.0f}V22"/>'
    for column, one in said.items():
        x = LEFT + (column - 0.5) * wide
        parts += f'<text class="b t20" x="{x:.1f}" y="44" text-anchor="middle">{escape(one.tool)}</text>'
        if wide >= NARROW:
            does = one.does if len(one.does) <= LONGEST else f"{one.does[: LONGEST - 1]}…"
            parts += f'<text class="tx" x="{x:.1f}" y="66" text-anchor="middle">{escape(does)}</text>'
    return parts


def _thread(spots: Sequence[tuple[float, float]], columns: Sequence[int]) -> str:
    """The thread: straight along a tool, a bow where it goes on to the next column."""
    x, y = spots[0]
    begin = OUT if len(spots) > 1 and columns[1] == columns[0] and spots[1][1] < y else -OUT
    path = f"M{x - 8:.1f},{y + begin * 1.3:.1f}h16L{x:.1f},{y + begin:.1f}zM{x:.1f},{y + begin:.1f}V{y:.1f}"
    for (x, y), was, column, before in zip(spots[1:], spots, columns[1:], columns, strict=False):
        if column == before:
            path += f"V{y:.1f}"
        elif y == was[1]:
            path += f"C{was[0]:.1f},{y + OUT:.1f} {x:.1f},{y + OUT:.1f} {x:.1f},{y:.1f}"
        else:
            middle = (was[0] + x) / 2
            path += f"C{middle:.1f},{was[1]:.1f} {middle:.1f},{y:.1f} {x:.1f},{y:.1f}"
    x, y = spots[-1]
    end = -OUT if len(spots) > 1 and columns[-2] == columns[-1] and spots[-2][1] > y else OUT
    return f"{path}V{y + end:.1f}h-10h20"


def _spot(n: int, one: Leg, spot: tuple[float, float], picked: bool) -> str:
    """A visit: a knot with its number; open where it comes too early, ringed where it is picked."""
    x, y = spot
    ring = f'<circle class="sc-h" cx="{x:.1f}" cy="{y:.1f}" r="13"/>' if picked else ""
    kind = "ruled" if one.broken else "fill"
    words = f"{n} {one.tool} at {one.station}, {clock_text(one.start_s)}"
    return (
        f'{ring}<circle class="{kind}" cx="{x:.1f}" cy="{y:.1f}" r="5.5"><title>{escape(words)}</title></circle>'
        f'<text class="b on-line" x="{x + 9:.1f}" y="{y - 8:.1f}">{n}</text>'
    )
