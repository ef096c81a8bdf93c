"""Setups that are proposed for a part: fewest, and calmest where that is another; taken with one key."""

from dataclasses import replace
from decimal import Decimal
from typing import Annotated, Literal

from fastapi import APIRouter, Form
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from ditto_run.core.errors import NotFound
from ditto_run.core.plan.held import as_it_comes
from ditto_run.core.propose.judged import JudgedChain, judged
from ditto_run.core.propose.setups import HoldsThere, form_words, propose_setups
from ditto_run.core.propose.taking import take_setups
from ditto_run.desk import Desk
from ditto_run.desk.values import Job
from ditto_run.web.dependencies import DeskDep, RenderDep, WhoDep
from ditto_run.web.pages.planning import step_page
from ditto_run.web.told import told

router = APIRouter(prefix="/jobs/{job_id}/hold/proposed")
ChainName = Literal["fewest", "calmest"]
NAMES: tuple[ChainName, ...] = ("fewest", "calmest")


@router.get("", name="hold_proposed")
def show_setups(job_id: int, desk: DeskDep, render: RenderDep) -> HTMLResponse:
    """Show the chains of setups that are proposed, beside those there are."""
    job = desk.jobs.load(job_id)
    chains = chains_for(desk, job)
    return step_page(
        "hold",
        job_id,
        desk,
        render,
        template="hold/proposed.html",
        view="proposed",
        chains=_named(chains),
        names={one.key: one.name for one in job.plan.features},
        rests_on=form_words(job.plan.form),
    )


@router.post("", name="hold_take_proposed")
def take_proposed_setups(
    job_id: int,
    desk: DeskDep,
    who: WhoDep,
    version: Annotated[int, Form(ge=0, le=2**31)],
    name: Annotated[ChainName, Form()],
) -> Response:
    """Take a proposed chain: its setups are those of the job."""
    chosen = dict(_named(chains_for(desk, desk.jobs.load(job_id)))).get(name)
    if chosen is None:
        raise NotFound("proposal", name, "Look at what is proposed now.")
    desk.jobs.edit(
        job_id, version, who, lambda plan: take_setups(plan, chosen.chain, chosen.parallels_mm), "hold"
    )
    return told(RedirectResponse(f"/jobs/{job_id}/hold", 303), "The proposed setups are taken.")


def _named(chains: tuple[JudgedChain, ...]) -> list[tuple[ChainName, JudgedChain]]:
    return [*zip(NAMES, chains, strict=False)]


def chains_for(desk: Desk, job: Job) -> tuple[JudgedChain, ...]:
    """Return the chains that are proposed for a job, held to all checks of Hold where it has no setup yet.

    Args:
        desk: the desk.
        job: which, as it is looked at.
    """
    plan, worked = job.plan, desk.worked_out(job)
    machines = sorted(worked.machines.values(), key=lambda one: (one.is_manual, one.id))
    mill, lathe = (next((m.id for m in machines if m.turns is turns), None) for turns in (False, True))
    there = HoldsThere(mill, lathe, tuple(worked.shop.holders.values()))
    chain = plan.chain
    comes = as_it_comes(plan, worked.result_of("blank"))
    found = propose_setups(replace(chain, setups=(), as_it_comes=comes), plan.described, there)
    if plan.setups:  # beside setups that are there, by the checks of the chain alone
        return tuple(JudgedChain(one, Decimal(0), (), one.asks) for one in found)
    return tuple(judged(plan, one, desk.worked.tried) for one in found)
