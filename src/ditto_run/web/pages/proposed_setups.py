"""Setups that are proposed for a part: fewest, and calmest where that is another; taken with one key."""

from typing import Annotated, Literal

from fastapi import APIRouter, Form
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from ditto_run.core.errors import NotFound
from ditto_run.core.propose.drafts import none_for
from ditto_run.core.propose.judged import JudgedChain
from ditto_run.core.propose.setups import form_words
from ditto_run.core.propose.taking import take_setups
from ditto_run.desk.proposing import setups_proposed
from ditto_run.web.dependencies import DeskDep, RenderDep, WhoDep
from ditto_run.web.pages.planning import step_page
from ditto_run.web.told import told

router = APIRouter(prefix="/jobs/{job_id}/hold/proposed")
ChainName = Literal["fewest", "calmest", "by hole"]
TITLES: dict[ChainName, str] = {
    "fewest": "Fewest setups",
    "calmest": "Fewer questions",
    "by hole": "Held by a hole",
}


@router.get("", name="hold_proposed")
def show_setups(job_id: int, desk: DeskDep, render: RenderDep) -> HTMLResponse:
    """Show the chains of setups that are proposed, beside those there are."""
    job = desk.jobs.load(job_id)
    chains = setups_proposed(desk, job)
    return step_page(
        "hold",
        job_id,
        desk,
        render,
        template="hold/proposed.html",
        view="proposed",
        chains=_named(chains),
        stopped=none_for(desk.worked_out(job)) if not chains else (),
        titles=TITLES,
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
    chosen = dict(_named(setups_proposed(desk, desk.jobs.load(job_id)))).get(name)
    if chosen is None:
        raise NotFound("proposal", name, "Look at what is proposed now.")
    desk.jobs.edit(
        job_id,
        version,
        who,
        lambda plan: take_setups(plan, chosen.chain, chosen.parallels_mm, chosen.stop_at),
        "hold",
    )
    return told(RedirectResponse(f"/jobs/{job_id}/hold", 303), "The proposed setups are taken.")


def _named(chains: tuple[JudgedChain, ...]) -> list[tuple[ChainName, JudgedChain]]:
    """The chains with their names: the first has the fewest setups; another asks less, or is held by a hole."""
    first, *others = chains or (None,)
    if first is None:
        return []
    named: list[tuple[ChainName, JudgedChain]] = [("fewest", first)]
    return named + [("by hole" if len(one.asks) >= len(first.asks) else "calmest", one) for one in others]
