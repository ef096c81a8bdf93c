"""A rehearsal of the planned batch, played back load by load, and a practice in which a person decides."""

from collections.abc import Mapping
from typing import Annotated, Any

from fastapi import APIRouter, Query
from fastapi.responses import HTMLResponse

from ditto_run.core.entry.plain import read_count
from ditto_run.core.errors import BadEntry, DittoError
from ditto_run.core.plan import Plan
from ditto_run.core.rehearse.floor import MOST_HANDS
from ditto_run.core.rehearse.practice import read_choices
from ditto_run.core.rehearse.process import FAULTS, Fault
from ditto_run.core.rehearse.rehearsal import PlayedBatch, costs_min
from ditto_run.core.run import RunState, fold
from ditto_run.core.run.events import CycleStarted
from ditto_run.core.run.strip import build
from ditto_run.core.shop.costs import ShopCosts
from ditto_run.core.steps import BY_NAME
from ditto_run.core.units import span_text
from ditto_run.desk.gate import what_is_open
from ditto_run.devices.rehearsing import begin_of, on_the_floor, practised, rehearsed
from ditto_run.web.dependencies import DeskDep, RenderDep, head_of
from ditto_run.web.drawings.floor_lanes import drawn_until

router = APIRouter(prefix="/jobs/{job_id}/prove")
SpeedDep = Annotated[int, Query(ge=0, le=4)]
SEEDS = 999
FIGURES = (
    "cut",
    "out of limits in truth",
    "of those not found",
    "scrapped or held",
    "readings",
    "turns",
    "looks at what holds",
    "time",
    "lost by all that",
)
SPEEDS = {1: ("slowly", 2000), 2: ("", 900), 3: ("fast", 300)}


def _first_cycle(plan: Plan, asked: int) -> int:
    keys = [cycle.key for cycle in plan.all_cycles]
    return asked if asked in keys else next(iter(keys), 0)


def starts_of(played: PlayedBatch) -> list[int]:
    """Return where each load ends in a log: the last line before the next one begins."""
    begins = [event.seq for event in played.log if isinstance(event.body, CycleStarted)]
    return [*(seq - 1 for seq in begins[1:]), played.log[-1].seq]


@router.get("/rehearse", name="prove_rehearse")
def show_page(
    job_id: int,
    desk: DeskDep,
    render: RenderDep,
    cycle: Annotated[int, Query(ge=0, le=2**31)] = 0,
    fault: Fault = "none",
    seed: Annotated[int, Query(ge=1, le=SEEDS)] = 1,
    load: Annotated[int, Query(ge=0, le=2**31)] = 0,
    play: Annotated[int, Query(ge=0, le=3)] = 0,
) -> HTMLResponse:
    """Show the planned batch as it is played with the advice, up to a load; beside it as many do."""
    job = desk.jobs.load(job_id)
    key = _first_cycle(job.plan, cycle)
    context: dict[str, Any] = {"played": None, "refused": None}
    try:
        played = rehearsed(desk, job.plan, key, (fault, seed, True))
        habit = rehearsed(desk, job.plan, key, (fault, seed, False))
        ends = starts_of(played)
        at = min(load or (1 if play else len(ends)), len(ends))
        state = fold(played.log[: ends[at - 1]], {1: job.plan})
        context |= {
            "played": played,
            "rows": _rows(
                job.plan, key, {"with the advice": played, "as many do": habit}, desk.shop.load().costs
            ),
            "loads": len(ends),
            "at": at,
            "state": state,
            "strip": build(state),
            "said": [one for one in played.said if one.seq <= ends[at - 1] and one.kind != "leave"][-8:],
            "clock": played.log[ends[at - 1] - 1].at,
            "play": play if at < len(ends) else 0,
            "delay": SPEEDS[play][1] if play else 0,
        }
    except DittoError as refused:
        context["refused"] = refused
    return render(
        "prove/rehearse.html",
        head=head_of(desk, job, what_is_open(desk, job)),
        job=job,
        plan=job.plan,
        step=BY_NAME["prove"],
        faults=FAULTS,
        fault=fault,
        seed=seed,
        next_seed=seed % SEEDS + 1,
        cycle=key,
        now=desk.now,
        **context,
    )


def _rows(
    plan: Plan, cycle: int, of: Mapping[str, PlayedBatch], shop: ShopCosts
) -> list[tuple[str, list[str]]]:
    """The figures of batches played, a row a figure."""

    def told(one: PlayedBatch) -> tuple[str, ...]:
        counts = (one.cut, one.bad, one.shipped, one.scrap, one.readings, one.turns, one.looks)
        return (*map(str, counts), span_text(one.took_s), span_text(60 * costs_min(plan, cycle, one, shop)))

    columns = [told(one) for one in of.values()]
    return [("", list(of)), *((name, [column[n] for column in columns]) for n, name in enumerate(FIGURES))]


def _pairs(text: str) -> int:
    """Return how many pairs of hands are meant.

    Raises:
        BadEntry: if it is no number, or too many.
    """
    pairs = read_count(text, "hands")
    if not 1 <= pairs <= MOST_HANDS:
        raise BadEntry(f"{pairs} pairs of hands cannot be.", f"Type 1 to {MOST_HANDS}.", "hands")
    return pairs


@router.get("/floor", name="prove_floor")
def floor_page(
    job_id: int,
    desk: DeskDep,
    render: RenderDep,
    hands: Annotated[str, Query(max_length=20)] = "1",
) -> HTMLResponse:
    """Show the whole batch on the floor: machines, hands, waits, tools that come up, when it is done."""
    job = desk.jobs.load(job_id)
    context: dict[str, Any] = {"floor": None, "refused": None, "wrong": None}
    try:
        pairs = _pairs(hands)
    except BadEntry as wrong:
        context["wrong"], pairs = wrong, 1
    try:
        floor = on_the_floor(desk, job.plan, pairs)
        more = on_the_floor(desk, job.plan, pairs + 1) if pairs < MOST_HANDS else None
        day, begin = desk.shop.load().day, begin_of(desk)
        ends = [day.after(begin, span) for span in (floor.likely_s, floor.low_s, floor.high_s)]
        context |= {
            "floor": floor,
            "begin": begin,
            "ends": ends,
            "more_ends": day.after(begin, more.likely_s) if more is not None else None,
            "sooner_s": floor.likely_s - more.likely_s if more is not None else 0.0,
            "tool_ends": [(up, day.after(begin, up.at)) for up in floor.tools],
            "drawn_s": drawn_until(floor),
        }
    except DittoError as refused:
        context["refused"] = refused
    return render(
        "prove/floor.html",
        head=head_of(desk, job, what_is_open(desk, job)),
        job=job,
        plan=job.plan,
        step=BY_NAME["prove"],
        hands=hands,
        pairs=pairs,
        now=desk.now,
        **context,
    )


@router.get("/practise", name="prove_practise")
def practise_page(
    job_id: int,
    desk: DeskDep,
    render: RenderDep,
    cycle: Annotated[int, Query(ge=0, le=2**31)] = 0,
    fault: Annotated[str, Query(max_length=12)] = "",
    seed: Annotated[int, Query(ge=1, le=SEEDS)] = 1,
    did: Annotated[str, Query(max_length=4000)] = "",
    do: Annotated[str, Query(max_length=8)] = "",
    knob: Annotated[int, Query(ge=0, le=40)] = 0,
    steps: Annotated[str, Query(max_length=12)] = "",
    which: Annotated[int, Query(ge=0, le=40)] = 0,
) -> HTMLResponse:
    """Show a practice: the batch as it stands, what can be decided, and at its end what came of it."""
    job = desk.jobs.load(job_id)
    key = _first_cycle(job.plan, cycle)
    kinds: list[Fault] = [name for name in FAULTS if name != "none"]
    hidden: Fault = fault if fault in FAULTS else kinds[seed % len(kinds)]  # type: ignore[assignment]
    context: dict[str, Any] = {"found": None, "refused": None, "wrong": None, "did": did, "steps": steps}
    try:
        added = ""
        try:
            added = _decision(do, knob, which, steps)
        except BadEntry as wrong:
            context["wrong"] = wrong
        found = practised(desk, job.plan, key, (hidden, seed), read_choices(did + added))
        context |= {
            "found": found,
            "did": did + added,
            "steps": "" if added else steps,
            "state": found.state,
            "strip": build(found.state),
            "readings": _last_readings(found.state),
        }
        if found.done:
            with_it = rehearsed(desk, job.plan, key, (hidden, seed, True))
            habit = rehearsed(desk, job.plan, key, (hidden, seed, False))
            batches = {"you": found.so_far, "the advice": with_it, "as many do": habit}
            context["rows"] = _rows(job.plan, key, batches, desk.shop.load().costs)
    except DittoError as refused:
        context["refused"] = refused
    return render(
        "prove/practise.html",
        head=head_of(desk, job, what_is_open(desk, job)),
        job=job,
        plan=job.plan,
        step=BY_NAME["prove"],
        seed=seed,
        fault=fault,
        next_seed=seed % SEEDS + 1,
        cycle=key,
        knob=knob,
        **context,
    )


def _decision(do: str, knob: int, which: int, steps: str) -> str:
    """Return the short text of a decision; empty for none.

    Raises:
        BadEntry: if the steps of a turn are no whole number.
    """
    if do == "turn":
        text = steps.replace("−", "-").replace(" ", "")
        try:
            count = int(text)
        except ValueError:
            count = 0
        if not count or abs(count) > 999:  # noqa: PLR2004 - of any knob
            raise BadEntry(f"“{steps[:12]}” is not a number of steps.", "Type it as +3 or −2.", "steps")
        return f"t{knob}{'+' if count > 0 else '-'}{abs(count)}"
    return {"go": "g", "master": f"m{which}", "look": f"l{which}", "gauge": "a"}.get(do, "")


def _last_readings(state: RunState) -> list[tuple[int, str, str, str]]:
    """Piece, dimension, reading and verdict of the load cut last."""
    found = []
    for number in state.here.loads[-1].pieces:
        piece = state.pieces[number]
        for gaugings in piece.gaugings.values():
            for one in gaugings:
                plan = state.plan_of(piece, one.setup)
                name = plan.characteristic(one.characteristic).name
                found.append(
                    (number, name, one.text or ("GO" if one.go else "NO-GO"), "" if one.inside else "out")
                )
    return found
