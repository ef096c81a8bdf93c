"""The order of visits of a cycle: the shortest one, the habits, the one taken, and one moved by hand."""

from dataclasses import dataclass
from typing import Annotated, Any
from urllib.parse import urlencode

from fastapi import APIRouter, Query
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from ditto_run.core.edits.visiting import read_move
from ditto_run.core.errors import BadEntry, BeingWorkedOut, NotFound, NotNow
from ditto_run.core.plan import Plan
from ditto_run.core.plan.cycles import Press
from ditto_run.core.plan.moves import between_s
from ditto_run.core.plan.visited import broken_says
from ditto_run.core.plan.woven import CycleTools, Moves, weave_of
from ditto_run.core.tools.weave.cost import WeaveCost, cost_of
from ditto_run.core.tools.weave.habits import HABITS, habit_orders
from ditto_run.core.tools.weave.problem import Weave, by_id
from ditto_run.core.tools.weave.solve import Woven
from ditto_run.core.tools.weave.words import sentence_of, spoken
from ditto_run.core.units import capital, span_text
from ditto_run.desk import Desk
from ditto_run.desk.weaving import weave_again, weave_stopped, woven_soon
from ditto_run.web.dependencies import DeskDep, RenderDep
from ditto_run.web.drawings.visits import draw_visits, legs_of
from ditto_run.web.pages.planning import step_page
from ditto_run.web.seen import Seen, SeenQuery, setup_chosen

router = APIRouter(prefix="/jobs/{job_id}/tools/order")
BEST, TAKEN, MOVED = "best", "taken", "moved"
WORDS = {BEST: "Shortest", TAKEN: "As taken", MOVED: "Moved by hand"} | {
    name: capital(said) for name, said in HABITS.items()
}
RULE_KINDS = (
    ("before", "one before the other"),
    ("rest", "a rest between one and the other"),
    ("together", "nothing in between its visits"),
    ("once", "the tool is put in once"),
    ("cool", "the tool cools between uses"),
    ("first", "it begins the cycle"),
    ("last", "it ends the cycle"),
)
Order = tuple[int, ...]


@dataclass(frozen=True, slots=True)
class Shown:
    """One order beside the others.

    Args:
        name: habit, best, taken or moved.
        order: it.
        cost: what it takes.
        each_s: load to load over the pieces. [s]
    """

    name: str
    order: Order
    cost: WeaveCost
    each_s: float

    @property
    def word(self) -> str:
        """What it is called."""
        return WORDS[self.name]


@dataclass(frozen=True, slots=True)
class LookedAt:
    """What the address asks for.

    Args:
        name: of the order that is looked at; empty for the one taken, else the shortest.
        order: it, where it was moved by hand.
        at: number of the visit that is picked; 0 for none.
    """

    name: str
    order: tuple[str, ...]
    at: int


@router.get("", name="tools_order")
def show_order(
    job_id: int,
    desk: DeskDep,
    render: RenderDep,
    setup: SeenQuery = None,
    show: Annotated[str, Query(max_length=10)] = "",
    order: Annotated[str, Query(max_length=40_000)] = "",
    at: Annotated[int, Query(ge=0, le=400)] = 0,
    by: Annotated[int, Query(ge=-400, le=400)] = 0,
    move: Annotated[str, Query(max_length=40)] = "",
    again: bool = False,
) -> HTMLResponse:
    """Show the order of visits of a setup's cycle; `show` looks at one, `order` is one moved by hand, `at` and `by` move a visit."""
    plan = desk.jobs.load(job_id).plan
    seen, cycle = _cycle_seen(plan, setup)
    context: dict[str, Any] = {"view": "order", "seen": seen, "setup_key": seen.key, "move": move}
    if cycle is None:
        return step_page("tools", job_id, desk, render, template="tools/order.html", refusal=None, **context)
    taken, there = plan.taken_order(cycle.key), plan.cycle_tools(cycle)
    context |= {"cycle": cycle, "going": there.going, "choices": _choices(there), "rule_kinds": RULE_KINDS}
    context["rules"] = [(rule, there.says(rule), there.stands(rule)) for rule in there.rules]
    try:
        between = between_s(desk.worked_out(desk.jobs.load(job_id)), cycle)
        moves = _moves(plan, cycle, move, between)
        weave = weave_of(there, moves)
    except (NotNow, BadEntry) as refusal:
        return step_page(
            "tools", job_id, desk, render, template="tools/order.html", refusal=refusal, **context
        )
    if again:
        weave_again(desk, weave)
    found, progress, stopped = _searched(desk, weave)
    asked = _moved(weave, LookedAt(show, tuple(order.split()), at), by)
    shown, chosen, picked = _orders(plan, cycle, weave, found, asked)
    rows = legs_of(there, weave, chosen.cost)
    habits = {one.name: one.cost for one in shown if one.name in HABITS}
    return step_page(
        "tools",
        job_id,
        desk,
        render,
        template="tools/order.html",
        refusal=None,
        shown=shown,
        shortest=found,
        chosen=chosen,
        picked=picked,
        visits=rows,
        picture=draw_visits(rows, [s.id for s in weave.stations], picked),
        progress=progress,
        stopped=stopped,
        sentence=sentence_of(found, habits) if found is not None else "",
        longer=_longer(found, chosen.cost),
        saved=_saved(plan, weave, habits["each"], chosen.cost),
        is_taken=taken is not None
        and tuple(weave.ops[i].id for i in chosen.order) == taken.order
        and moves == Moves(taken.move_s, taken.pairs),
        has_taken=taken is not None,
        ids=" ".join(weave.ops[i].id for i in chosen.order),
        moves=moves,
        between=sorted(seconds for _, _, seconds in between),
        broken=[broken_says(there, one) for one in chosen.cost.broken],
        said_move=bool(move) or (taken is not None and not taken.pairs),
        looked_at=urlencode(
            {"setup": str(seen), "show": show, "order": " ".join(asked.order), "at": picked, "move": move}
        ),
        **context,
    )


@router.post("/stop", name="tools_order_stop")
def stop_order(job_id: int, desk: DeskDep, setup: SeenQuery = None, move: str = "") -> Response:
    """Stop looking for a shorter order."""
    plan = desk.jobs.load(job_id).plan
    seen, cycle = _cycle_seen(plan, setup)
    if cycle is None:
        raise NotFound("cycle", seen.key, "Choose one of the setups.")
    between = between_s(desk.worked_out(desk.jobs.load(job_id)), cycle)
    weave_stopped(desk, weave_of(plan.cycle_tools(cycle), _moves(plan, cycle, move, between)))
    return RedirectResponse(f"/jobs/{job_id}/tools/order?setup={seen}&move={move}", 303)


def _cycle_seen(plan: Plan, setup: str | None) -> tuple[Seen, Press | None]:
    """The setup that is looked at, and the cycle it is cut in; None while there is no setup."""
    seen = setup_chosen(plan, setup)
    return seen, next((one for one in plan.all_cycles if seen.key in one.setups), None)


def _moves(plan: Plan, cycle: Press, typed: str, between: tuple[tuple[str, str, float], ...]) -> Moves:
    """How long moves take: as typed, else as the order that was taken says, else by the table, else the usual."""
    taken = plan.taken_order(cycle.key)
    if typed or (taken is None and not between):
        return Moves(read_move(typed))
    return Moves(taken.move_s, taken.pairs) if taken is not None else Moves(pairs=between)


def _choices(there: CycleTools) -> list[tuple[str, str]]:
    """What a rule can speak of, as it is sent and in words: stations, tools, steps."""
    visits = there.visits().values()
    stations = {f"station {station.label}": f"station {station.label}" for station, _ in visits}
    tools = {f"tool {step.name}": f"tool {step.name}" for _, step in visits if step.tool}
    steps = {f"step {step.key}": f"{step.name} {step.does}" for _, step in visits}
    return list((stations | tools | steps).items())


def _searched(desk: Desk, weave: Weave) -> tuple[Woven | None, BeingWorkedOut | None, NotNow | None]:
    """The shortest order, or how far it is, or why there is none."""
    try:
        return woven_soon(desk, weave), None, None
    except BeingWorkedOut as progress:
        return None, progress, None
    except NotNow as refusal:
        return None, None, refusal


def _moved(weave: Weave, asked: LookedAt, by: int) -> LookedAt:
    """What is asked, with the picked visit moved so many places; an order for other visits is none."""
    numbers = by_id(weave)
    if sorted(asked.order) != sorted(numbers):
        return LookedAt(asked.name, (), min(asked.at, len(numbers)))
    order, at = [*asked.order], min(asked.at, len(numbers))
    if at and by:
        to = min(max(at + by, 1), len(order))
        order.insert(to - 1, order.pop(at - 1))
        at = to
    return LookedAt(asked.name, tuple(order), at)


def _orders(
    plan: Plan, cycle: Press, weave: Weave, found: Woven | None, asked: LookedAt
) -> tuple[list[Shown], Shown, int]:
    """Every order there is to look at, each once, shortest last; the one that is looked at, and its picked visit."""
    numbers = by_id(weave)
    taken = plan.taken_order(cycle.key)
    orders: dict[str, Order] = {**habit_orders(weave)}
    if found is not None and found.order is not None and found.order not in orders.values():
        orders[BEST] = found.order
    if taken is not None and sorted(taken.order) == sorted(numbers):
        orders[TAKEN] = tuple(numbers[name] for name in taken.order)
    shortest = next(
        (name for name, order in orders.items() if found is not None and order == found.order), "back"
    )
    if asked.order:
        orders[MOVED] = tuple(numbers[name] for name in asked.order)
    given = sum(s.finished for s in weave.stations) or sum(s.pieces for s in weave.stations)
    shown = []
    for name, order in orders.items():
        cost = cost_of(weave, order)
        shown.append(Shown(name, order, cost, (cost.cycle_ms + weave.load_ms) / 1000 / given))
    wanted = MOVED if asked.order else asked.name if asked.name in orders else ""
    chosen = wanted or (TAKEN if TAKEN in orders else shortest)
    return shown, next(one for one in shown if one.name == chosen), asked.at


def _longer(found: Woven | None, chosen: WeaveCost) -> str:
    """How much longer than the shortest order one that keeps all rules takes, in words; empty for nothing."""
    if found is None or found.cost is None or chosen.broken:
        return ""
    more_ms = chosen.cycle_ms - found.cost.cycle_ms
    return spoken(more_ms) if more_ms > 0 else ""


def _saved(plan: Plan, weave: Weave, each: WeaveCost, chosen: WeaveCost) -> str:
    """What an order saves over the batch against finishing each station, in words; empty for nothing."""
    given = sum(s.finished for s in weave.stations) or sum(s.pieces for s in weave.stations)
    loads = -(-plan.heading.quantity // given)
    saved_s = (each.cycle_ms - chosen.cycle_ms) / 1000 * loads
    return span_text(saved_s) if saved_s >= 60 else ""  # noqa: PLR2004 - a minute
