"""A first plan: whole plans side by side, each choice with its reason; taken by one key, or chosen first and told after."""

import re
from dataclasses import dataclass
from math import isfinite
from typing import Annotated

from fastapi import APIRouter, Form, Query, Request
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from ditto_run.core.errors import DittoError, NotFound
from ditto_run.core.method.chance import draw
from ditto_run.core.method.verdict import amount_text
from ditto_run.core.propose.beside import beside_own
from ditto_run.core.propose.choices import (
    OpenChoice,
    checked,
    choices_of,
    more_text,
    picked,
    weighed,
)
from ditto_run.core.propose.drafts import OWN, none_for
from ditto_run.core.propose.said import said_of
from ditto_run.core.propose.take_whole import adds, take_whole
from ditto_run.core.propose.whole import WholePlan, figured, left_open, without_rate
from ditto_run.core.units import span_text
from ditto_run.desk.proposing import WholeName, WholeProposed
from ditto_run.web.dependencies import DeskDep, RenderDep, WhoDep
from ditto_run.web.pages.planning import step_page
from ditto_run.web.told import told

router = APIRouter(prefix="/jobs/{job_id}/method/proposed")
MOST_PICKS = 200
PICK = re.compile(r"with|pick\d{1,3}")
WORDS: dict[WholeName, str] = {
    "quick": "Quick",
    "thorough": "Thorough",
    "bought": "If bought",
    "yours": "As it is",
}
ALONE = "The best there is"
Name = Annotated[WholeName | None, Query()]


@dataclass(frozen=True, slots=True)
class ShownPlan:
    """One whole plan as it is shown.

    Args:
        name, word: which, and what it is called.
        plan: it.
        total, low, high: of the batch, in words; not known as a sentence in `total`.
        each: money or minutes of a piece, in words.
        first: until the first piece, in words.
        unrated: its machines without a rate, in words.
        wins: of ten cases, how often it takes least of those shown; None while one has no time.
    """

    name: WholeName
    word: str
    plan: WholePlan
    total: str
    low: str
    high: str
    each: str
    first: str
    unrated: str
    wins: int | None


@dataclass(frozen=True, slots=True)
class ToldAfter:
    """A choice that was made first: it, what was picked, what is proposed, and what that pick costs alone, in words."""

    choice: OpenChoice
    yours: str
    same: bool
    costs: str


@dataclass(frozen=True, slots=True)
class Looked:
    """What is looked at: a proposal with what was picked on top of it, its choices, the opened one, and what was refused."""

    name: WholeName
    plan: WholePlan
    texts: list[str]
    choices: tuple[OpenChoice, ...]
    opened: OpenChoice
    wrong: str


def _picks_in(request: Request) -> list[str]:
    sent = [text for name, text in request.query_params.multi_items() if PICK.fullmatch(name) and text]
    return sent[:MOST_PICKS]


def _with(found: WholeProposed, name: WholeName, texts: list[str]) -> WholePlan:
    """A proposal with picks on top of it; one that no longer fits is refused."""
    ground, picks = found.ground_of(name), found.named(name).picks
    for text in texts:
        picks = picked(picks, text)
    return figured(ground, checked(ground, picks)) if texts else found.named(name)


@router.get("", name="first_plan")
def show_first_plan(
    request: Request,
    job_id: int,
    desk: DeskDep,
    render: RenderDep,
    name: Name = None,
    ask: Annotated[str, Query(max_length=40)] = "",
    learn: bool = False,
    told_now: Annotated[bool, Query(alias="told")] = False,
) -> HTMLResponse:
    """Show whole plans side by side; `name` chooses one, `with` changes a choice of it, `ask` opens one, `learn` hides the reasons."""
    job = desk.jobs.load(job_id)
    found = desk.proposing.of(desk, job)
    context: dict[str, object] = {"found": found, "learning": learn}
    if not learn:
        context["keys_here"] = [("← →", "proposal"), ("↑ ↓", "choice"), ("F", "another"), ("Z", "undo")]
    if not found.names:
        context["stopped"] = none_for(desk.worked_out(job))
    else:
        looked = _looked_at(found, name, _picks_in(request), ask)
        context |= _shown(found, looked)
        if learn:
            context |= _learning(found, looked, told_now=told_now)
        else:
            ground = found.ground_of(looked.name)
            own = found.own if looked.name != "yours" else None
            context |= {
                "down": weighed(ground, looked.plan, looked.opened, found.measure),
                "opens": left_open(ground, looked.plan),
                "adds": adds(job.plan, ground.with_stations(looked.plan.picks, placed=False)),
                "beside": beside_own(job.plan, looked.plan, own.changes) if own is not None else (),
            }
    return step_page(
        "method",
        job_id,
        desk,
        render,
        template="method/first_plan.html",
        view="proposed",
        alone=True,
        **context,
    )


def _looked_at(found: WholeProposed, name: WholeName | None, texts: list[str], ask: str) -> Looked:
    chosen = name if name in found.names else "thorough" if "thorough" in found.names else found.names[0]
    wrong = ""
    try:
        plan = _with(found, chosen, texts)
    except DittoError as refusal:
        wrong, texts = f"{refusal.problem} {refusal.remedy}", []
        plan = found.named(chosen)
    choices = choices_of(found.ground_of(chosen), plan)
    opened = next((choice for choice in choices if choice.key == ask), choices[0])
    return Looked(chosen, plan, texts, choices, opened, wrong)


def _shown(found: WholeProposed, looked: Looked) -> dict[str, object]:
    """What the page shows of the proposals and of the one that is looked at."""
    plans = {key: found.named(key) for key in found.names} | {looked.name: looked.plan}
    say, why = said_of([*found.plans.values()], found.measure, found.ground.shop.money)
    at, columns = found.names.index(looked.name), _columns(found, plans)
    mine = next(one for one in columns if one.name == looked.name)
    opened = looked.opened
    return {
        "said_here": f"{_figures_said(mine)} {opened.asks} {opened.said} {opened.why}",
        "chosen": looked.name,
        "one": looked.plan,
        "choices": looked.choices,
        "opened": looked.opened,
        "texts": looked.texts,
        "wrong": looked.wrong,
        "columns": columns,
        "say": say,
        "why_said": why,
        "before": found.names[at - 1] if at else "",
        "after": found.names[at + 1] if at + 1 < len(found.names) else "",
    }


def _figures_said(one: ShownPlan) -> str:
    """A plan's figures as they are said."""
    if one.plan.time is None:
        return f"{one.word}, chosen: its time is not known."
    return f"{one.word}, chosen: {one.total}, {one.each} each; first piece after {one.first}."


def _learning(found: WholeProposed, looked: Looked, *, told_now: bool) -> dict[str, object]:
    """What is chosen first; and, once it is, where that differs."""
    base = found.named(looked.name)
    choices = choices_of(found.ground_of(looked.name), base)
    return {
        "proposed": [one for one in choices if one.next_pick],
        "learned": _learned(found, looked, base, choices) if told_now else (),
        "whole_costs": _costs(found, base, looked.plan) if told_now else "",
    }


def _columns(found: WholeProposed, shown: dict[WholeName, WholePlan]) -> list[ShownPlan]:
    plans = list(shown.values())
    quantity = max(plans[0].drafted.plan.heading.quantity, 1)
    mark, ways = found.ground.shop.money, [one.way for one in plans]
    timed = [way for way in ways if way is not None]
    times = draw(timed, "time", quantity) if timed else None
    sought = draw(timed, found.measure, quantity) if len(timed) == len(ways) > 1 else None
    columns: list[ShownPlan] = []
    for name, one in shown.items():
        place = sum(way is not None for way in ways[: len(columns)])
        low, high = times.totals[place] if times is not None and one.way is not None else (0.0, 0.0)
        total = one.total(quantity, "time")
        alone = len(found.plans) == 1 and name == "thorough"
        columns.append(
            ShownPlan(
                name,
                ALONE if alone else WORDS[name],
                one,
                span_text(total) if isfinite(total) else "not known",
                span_text(low) if low else "",
                span_text(high) if high else "",
                _each(one, quantity, mark),
                span_text(one.first_s) if one.first_s is not None else "not known",
                ", ".join(without_rate(found.ground, [one], of_all=True)),
                round(sought.wins[place] * 10) if sought is not None else None,
            )
        )
    return columns


def _each(one: WholePlan, quantity: int, mark: str) -> str:
    if one.cost is not None:
        return amount_text(one.total(quantity, "cost") / quantity, "cost", mark)
    total = one.total(quantity, "time")
    return f"{total / quantity / 60:.1f} min" if isfinite(total) else "not known"


def _costs(found: WholeProposed, base: WholePlan, other: WholePlan) -> str:
    quantity = max(base.drafted.plan.heading.quantity, 1)
    more = other.total(quantity, found.measure) - base.total(quantity, found.measure)
    return more_text(more, found.measure, found.ground.shop.money) if isfinite(more) else "not known"


def _learned(
    found: WholeProposed, looked: Looked, base: WholePlan, choices: tuple[OpenChoice, ...]
) -> list[ToldAfter]:
    """Each choice that could be made, with what was picked in its place and what that alone costs."""
    ground, texts = found.ground_of(looked.name), looked.texts
    told_of: list[ToldAfter] = []
    for choice in choices:
        if not choice.next_pick:
            continue
        down = next((down for down in choice.down if down.pick and down.pick in texts), None)
        costs = ""
        if down is not None:
            costs = _costs(found, base, figured(ground, checked(ground, picked(base.picks, down.pick))))
        told_of.append(
            ToldAfter(
                choice, down.words if down is not None else choice.short or choice.said, down is None, costs
            )
        )
    return told_of


@router.post("", name="first_plan_take")
def take_first_plan(
    job_id: int,
    desk: DeskDep,
    who: WhoDep,
    version: Annotated[int, Form(ge=0, le=2**31)],
    name: Annotated[WholeName, Form()],
    picks: Annotated[list[str], Form(alias="with", max_length=MOST_PICKS)] = [],  # noqa: B006 - read only
) -> Response:
    """Take a whole plan: setups, stations, tools and times come into the job as one change."""
    job = desk.jobs.load(job_id)
    found = desk.proposing.of(desk, job)
    one = _with(found, name, picks)
    ground = found.ground_of(name)
    say, _ = said_of([found.plans[key] for key in found.plans], found.measure, ground.shop.money)
    if name == "bought":
        raise NotFound(
            "tool",
            ", ".join(found.bought.names if found.bought else ()),
            "Enter what was bought on Shop first.",
        )
    desk.jobs.edit(
        job_id, version, who, lambda plan: take_whole(plan, ground, one, f"Proposed: {say}"), "method"
    )
    words = "The plan is completed as proposed." if one.picks.chain == OWN else "The proposed plan is taken."
    return told(RedirectResponse(f"/jobs/{job_id}/open", 303), words)
