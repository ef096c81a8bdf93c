"""The questions of a plan as JSON: each figure with where it comes from, the answer, what it gives back."""

from typing import Annotated

from fastapi import APIRouter
from pydantic import BaseModel, Field

from ditto_run.core.plan.asked import (
    QUESTIONS,
    asked_of,
    hold_asked,
    method_asked,
    part_asked,
    stock_asked,
    tools_asked,
)
from ditto_run.core.plan.held import contacts
from ditto_run.core.questions import Asked
from ditto_run.web.api.errors import ERRORS, Number
from ditto_run.web.api.planning import AnswerOut, answered
from ditto_run.web.api.strict import Sent
from ditto_run.web.dependencies import DeskDep
from ditto_run.web.questions import asks
from ditto_run.web.questions.words import form_of

router = APIRouter(prefix="/api/v1/jobs/{job_id}/questions", tags=["questions"], responses=ERRORS)


class FigureOut(BaseModel):
    """One figure: the text that counts, and where it comes from; `replaced` is what the job says where it was said otherwise."""

    name: str
    label: str
    text: str
    origin: str
    of: str
    replaced: str
    why: str
    who: str


class AskedOut(BaseModel):
    """One question of one thing; `unknown` names the figure nobody knows where there is no answer for it."""

    question: str
    step: str
    thing: str
    asks: str
    figures: list[FigureOut]
    answer: AnswerOut | None
    unknown: str
    problem: str
    gives: dict[str, str]
    given: bool


class FiguresIn(Sent):
    """A question of a thing: part, size 5, setup 3. The figures go before what the job says; nothing is kept."""

    question: Annotated[str, Field(max_length=40)]
    thing: Annotated[str, Field(max_length=40)]
    figures: Annotated[
        dict[str, Annotated[str, Field(max_length=2000)]], Field(default_factory=dict, max_length=60)
    ]


@router.get("")
def questions(job_id: Number, desk: DeskDep) -> list[AskedOut]:
    """Return every question that applies: of the sizes, of the part's material, then setup by setup, in the order of the work."""
    worked = desk.worked_out(desk.jobs.load(job_id))
    asked = (
        *part_asked(worked),
        *method_asked(worked),
        *stock_asked(worked),
        *hold_asked(worked, contacts(worked)),
        *tools_asked(worked),
    )
    return [_out(one) for one in asked]


@router.post("")
def work_out(job_id: Number, sent: FiguresIn, desk: DeskDep) -> AskedOut:
    """Work a question out with other figures; nothing is kept. An edit `set_figure` keeps one."""
    worked = desk.worked_out(desk.jobs.load(job_id))
    return _out(asked_of(worked, sent.question, sent.thing, sent.figures))


def _out(one: Asked) -> AskedOut:
    labels = {entry.name: entry.label for entry in form_of(QUESTIONS[one.question].sheet.kind)}
    return AskedOut(
        question=one.question,
        step=one.step,
        thing=one.thing,
        asks=asks(one.question),
        figures=[
            FigureOut(
                name=f.name,
                label=labels[f.name],
                text=f.text,
                origin="yours" if f.yours is not None else f.found.origin if f.found is not None else "",
                of=f.found.of if f.found is not None and f.yours is None else "",
                replaced=f.found.text if f.found is not None and f.yours is not None else "",
                why=f.yours.why if f.yours is not None else "",
                who=f.yours.who if f.yours is not None else "",
            )
            for f in one.figures
        ],
        answer=answered(one.answer) if one.answer is not None else None,
        unknown=one.unknown,
        problem=one.refusal.problem if one.refusal is not None else "",
        gives=dict(one.gives),
        given=one.given,
    )
