"""Part and Method of a job as JSON: sheets, what to ask, finishes, kits, ways and the verdict."""

from typing import Annotated, Any

from fastapi import APIRouter, Query
from pydantic import BaseModel, Field
from pydantic_core import to_jsonable_python

from ditto_run.core.errors import NotNow
from ditto_run.core.hold import matrix
from ditto_run.core.hold.picker import Marks, holders_for_blank
from ditto_run.core.method import Measure
from ditto_run.core.part import complete_sets, missing, questions_text, sets_wanted
from ditto_run.core.part.coated import before_and_after, window_of
from ditto_run.core.sheet_kinds import SHEETS
from ditto_run.core.sheets import Answer
from ditto_run.desk.gate import what_is_open
from ditto_run.desk.kits import kit_of, made_by_jobs
from ditto_run.desk.ways import compare, happened
from ditto_run.web.api.errors import ERRORS, Number
from ditto_run.web.api.strict import Sent
from ditto_run.web.dependencies import DeskDep
from ditto_run.web.questions.words import does_of, form_of

router = APIRouter(prefix="/api/v1", tags=["part and method"], responses=ERRORS)
LONGEST_TEXT = 200_000


class EntryOut(BaseModel):
    """One field of a sheet."""

    name: str
    label: str
    hint: str
    choices: list[str]


class SheetOut(BaseModel):
    """One kind of sheet: what it answers and the fields it takes."""

    kind: str
    step: str
    word: str
    does: str
    entries: list[EntryOut]


class TextsIn(Sent):
    """What is typed into a sheet, by field."""

    texts: dict[str, Annotated[str, Field(max_length=LONGEST_TEXT)]]


class FactOut(BaseModel):
    """One figure in words."""

    label: str
    value: str
    note: str


class AnswerOut(BaseModel):
    """The answer of a sheet: in words, and as figures under `result`."""

    say: str
    why: str
    facts: list[FactOut]
    findings: list[dict[str, str]]
    offers: list[dict[str, str]]
    result: Any
    source: str


@router.get("/sheets")
def sheets() -> list[SheetOut]:
    """Return every kind of sheet with its fields."""
    return [
        SheetOut(
            kind=s.kind,
            step=s.step,
            word=s.word,
            does=does_of(s.kind),
            entries=[
                EntryOut(
                    name=e.name,
                    label=e.label,
                    hint=e.words.hints.get(e.name, ""),
                    choices=[value for value, _ in e.choices],
                )
                for e in form_of(s.kind)
            ],
        )
        for s in SHEETS
    ]


@router.post("/jobs/{job_id}/sheets/{kind}")
def work_out(job_id: Number, kind: str, sent: TextsIn, desk: DeskDep) -> AnswerOut:
    """Work a sheet out with what the job and the shop know; nothing is kept."""
    return answered(desk.worked.answer(kind, sent.texts, desk.worked_out(desk.jobs.load(job_id)).known))


def answered(answer: Answer) -> AnswerOut:
    """Return an answer as JSON has it."""
    return AnswerOut(
        say=answer.say,
        why=answer.why,
        facts=[FactOut(label=f.label, value=f.value, note=f.note) for f in answer.facts],
        findings=[
            {"weight": f.weight, "code": f.code, "problem": f.problem, "remedy": f.remedy}
            for f in answer.findings
        ],
        offers=[{"name": o.name, "size": o.size} for o in answer.offers],
        result=to_jsonable_python(answer.result),
        source=answer.source,
    )


class QuestionOut(BaseModel):
    """One thing to ask before starting."""

    code: str
    ask: str
    why: str
    about: int


class MissingOut(BaseModel):
    """What to ask before starting, and the same as a text to send."""

    questions: list[QuestionOut]
    text: str


@router.get("/jobs/{job_id}/missing")
def to_ask(job_id: Number, desk: DeskDep) -> MissingOut:
    """Return what to ask before starting."""
    plan = desk.jobs.load(job_id).plan
    found = missing(plan.heading, plan.characteristics, plan.finishes)
    questions = [QuestionOut(code=q.code, ask=q.ask, why=q.why, about=q.about) for q in found]
    return MissingOut(questions=questions, text=questions_text(plan.heading.part, found))


class WindowOut(BaseModel):
    """A size before and after its finish."""

    number: int
    name: str
    finished: str
    as_machined: str
    possible: bool


@router.get("/jobs/{job_id}/finish")
def before_the_finish(job_id: Number, desk: DeskDep) -> list[WindowOut]:
    """Return the sizes that a finish changes, before and after it."""
    plan = desk.jobs.load(job_id).plan
    found = []
    for c in plan.characteristics:
        window = window_of(c, plan.finishes)
        if window is not None:
            before, after = before_and_after(c, window)
            found.append(
                WindowOut(
                    number=c.number,
                    name=c.name,
                    finished=after,
                    as_machined=before,
                    possible=window.possible,
                )
            )
    return found


class KitLineOut(BaseModel):
    """One part of the kit with what there is."""

    name: str
    wanted: int
    have: int
    short: int


class KitOut(BaseModel):
    """The kit: whole sets that can be packed now, and every part."""

    sets: int
    wanted: int
    lines: list[KitLineOut]


@router.get("/jobs/{job_id}/kit")
def kit(job_id: Number, desk: DeskDep) -> KitOut:
    """Return the kit of a job and what it is short of."""
    plan = desk.jobs.load(job_id).plan
    lines = kit_of(plan, job_id, made_by_jobs(desk), desk.jobs.find())
    out = [
        KitLineOut(name=line.part.name, wanted=line.wanted, have=line.have, short=line.short)
        for line in lines
    ]
    wanted = sets_wanted(plan.kit, plan.heading.quantity)
    return KitOut(sets=complete_sets(lines), wanted=wanted, lines=out)


class MethodOut(BaseModel):
    """The comparison: the verdict in words, and its figures."""

    winner: str
    say: str
    why: str
    measure: Measure
    not_worth_it: bool
    ways: list[str]
    lacking: dict[str, str]
    figures: Any
    actual_piece_s: float | None


@router.get("/jobs/{job_id}/method")
def compare_ways(
    job_id: Number,
    desk: DeskDep,
    quantity: Annotated[int, Query(ge=0, le=20_000)] = 0,
    by: Measure | None = None,
) -> MethodOut:
    """Return which way wins at the job's quantity, or at another one."""
    job = desk.jobs.load(job_id)
    if not job.plan.ways:
        raise NotNow("No way is there to compare.", "Add two, with the edit add_ways or set_way.")
    found = compare(desk.worked_out(job), quantity, by)
    verdict = found.verdict
    if verdict is None:
        lacks = ", ".join(f"{way.name} lacks {way.lacks}" for way in found.lacking)
        raise NotNow(f"No way can be compared: {lacks}.", "Fill it in, with the edit set_way.")
    return MethodOut(
        winner=found.ways[verdict.winner].name,
        say=verdict.say,
        why=verdict.why,
        measure=verdict.measure,
        not_worth_it=verdict.not_worth_it,
        ways=[way.name for way in found.ways],
        lacking={way.name: way.lacks for way in found.lacking},
        figures=to_jsonable_python(verdict),
        actual_piece_s=happened(desk, job_id),
    )


class ChainOut(BaseModel):
    """The chain of setups: what each does with every surface, and what is wrong with it."""

    form: str
    setups: list[str]
    matrix: dict[str, list[list[str]]]
    findings: list[dict[str, str]]


@router.get("/jobs/{job_id}/chain")
def chain(job_id: Number, desk: DeskDep) -> ChainOut:
    """Return the chain of setups as it is checked; what was overridden is left out."""
    job = desk.jobs.load(job_id)
    plan, things = job.plan, what_is_open(desk, job).things
    found = [thing.finding for thing in things if thing.stands is None and thing.finding.step == "hold"]
    return ChainOut(
        form=plan.form,
        setups=[setup.name for setup in plan.setups],
        matrix={surface: [[*cell] for cell in cells] for surface, cells in matrix(plan.chain)},
        findings=[
            {"weight": f.weight, "code": f.code, "problem": f.problem, "remedy": f.remedy} for f in found
        ],
    )


class HolderOut(BaseModel):
    """One holder owned, with what speaks for and against it."""

    name: str
    fits: bool
    reasons: list[str]


@router.get("/jobs/{job_id}/holders")
def holders(job_id: Number, desk: DeskDep, marks: Marks = "light", thin: bool = False) -> list[HolderOut]:
    """Return the holders owned, ranked for the blank of a job; none while no blank says how large it is."""
    job = desk.jobs.load(job_id)
    owned = [row.value for row in desk.drawers.rows("holders")]
    ranked = holders_for_blank(desk.worked_out(job).known, owned, marks=marks, thin=thin)
    return [HolderOut(name=found.holder.name, fits=found.fits, reasons=[*found.reasons]) for found in ranked]
