"""Figures of questions that a person says otherwise, and answers given back to their setup."""

from dataclasses import dataclass, replace
from typing import Literal

from ditto_run.core.edits.base import PlanRegisters, apply_edit
from ditto_run.core.errors import BadEntry, NotFound
from ditto_run.core.part.gauging_sheet import MOST_LOADS
from ditto_run.core.plan import Changed, Plan
from ditto_run.core.plan.asked import QUESTIONS, thing_at
from ditto_run.core.plan.worked import PART
from ditto_run.core.questions import Figure
from ditto_run.core.sheets import Entries

LONGEST_FIGURE = 2_000
LONGEST_WHY = 200
LONGEST_SAID = 400
MOST_SECONDS = 1e6


@dataclass(frozen=True, slots=True)
class SetFigure:
    """Say a figure of a question otherwise; an empty text takes what is worked out again.

    Args:
        thing: what it is about: part, or a setup such as setup 3.
        question: name of the question.
        name: field of it.
        text: as typed.
        why: the reason.
        ground: what the job says there, so that a change of it is asked about.
        who: whose it is.
    """

    thing: str
    question: str
    name: str
    text: str = ""
    why: str = ""
    ground: str = ""
    who: str = ""
    kind: Literal["set_figure"] = "set_figure"


@dataclass(frozen=True, slots=True)
class GiveBack:
    """Put what a question answered into its setup.

    Args:
        setup: which.
        name: stop, proof or torque.
        text: what is put there.
    """

    setup: int
    name: Literal["stop", "proof", "torque"]
    text: str
    kind: Literal["give_back"] = "give_back"


@dataclass(frozen=True, slots=True)
class GiveBackSize:
    """Put what a question answered into its size.

    Args:
        number: of the size.
        name: why it matters, or every how many loads it is gauged.
        text: what is put there; empty takes it out.
    """

    number: int
    name: Literal["why", "every"]
    text: str
    kind: Literal["give_back_size"] = "give_back_size"


@dataclass(frozen=True, slots=True)
class GiveBackTimes:
    """Put times that were worked out, clocked, or read from a program into their tool steps.

    Args:
        times: key of a tool step, cut or change, and how long. [s]
        by: what found them.
    """

    times: tuple[tuple[int, Literal["cut", "change"], float], ...]
    by: Literal["computed", "clocked", "program"] = "computed"
    kind: Literal["give_back_times"] = "give_back_times"


@apply_edit.register
def _set_figure(edit: SetFigure, plan: Plan, _shop: PlanRegisters) -> Changed:
    about = thing_at(plan, edit.thing)
    question = QUESTIONS.get(edit.question)
    if question is None:
        raise NotFound("question", edit.question, f"Choose one of {', '.join(QUESTIONS)}.")
    entry = next((e for e in question.sheet.entries if e.name == edit.name), None)
    if entry is None:
        raise NotFound("figure", edit.name, "Choose one of the question's.")
    text, what = (
        edit.text.strip(),
        f"{entry.term} of {about.name if about is not None else question.sheet.word.lower()}",
    )
    if len(text) > LONGEST_FIGURE:
        raise BadEntry(f"{entry.term} is too long.", f"{LONGEST_FIGURE:,} signs are the most.", edit.name)
    new = Figure(
        question.name,
        edit.thing,
        edit.name,
        text,
        edit.why.strip()[:LONGEST_WHY],
        edit.who.strip()[:4].upper(),
        edit.ground.strip(),
    )
    kept = tuple(figure for figure in plan.figures if figure.place != new.place)
    if not text:
        return Changed(_as_worked_out(replace(plan, figures=kept), new), f"{what} as worked out")
    if entry.choices and text not in entry.choices:
        raise BadEntry(
            f"“{text[:30]}” cannot be chosen here.", f"Choose {', '.join(entry.choices)}.", edit.name
        )
    return Changed(replace(plan, figures=(*kept, new)), f"{what}: {text[:40]}")


def _as_worked_out(plan: Plan, figure: Figure) -> Plan:
    """A plan in which the job's figure counts again, also where it was planned before and the job says another one now."""
    sheet = next((one for one in plan.sheets if one.kind == figure.question), None)
    if sheet is None or figure.thing != PART or figure.name not in sheet.taken or not figure.ground:
        return plan
    return plan.put(replace(sheet, texts={**sheet.texts, figure.name: figure.ground}))


@apply_edit.register
def _give_back(edit: GiveBack, plan: Plan, _shop: PlanRegisters) -> Changed:
    setup = plan.setup(edit.setup)
    text = edit.text.strip()[:LONGEST_SAID]
    new = {
        "stop": replace(setup, stop=text),
        "proof": replace(setup, proof=text),
        "torque": replace(setup, torque=text),
    }[edit.name]
    return Changed(plan.put(new), f"{edit.name} of {setup.name}")


@apply_edit.register
def _give_back_size(edit: GiveBackSize, plan: Plan, _shop: PlanRegisters) -> Changed:
    size = plan.characteristic(edit.number)
    if edit.name == "why":
        return Changed(plan.put(replace(size, why=edit.text.strip()[:LONGEST_SAID])), f"why of {size.name}")
    entries = Entries({"every": edit.text}, plan.heading.unit, {"every": "Every so many loads"})
    every = entries.whole("every", 1, MOST_LOADS) if edit.text.strip() else None
    return Changed(plan.put(replace(size, every=every)), f"how often {size.name} is gauged")


@apply_edit.register
def _give_back_times(edit: GiveBackTimes, plan: Plan, _shop: PlanRegisters) -> Changed:
    changed = []
    for key, name, seconds in edit.times:
        step = plan.tool_step(key)
        if not 0 <= seconds <= MOST_SECONDS:
            raise BadEntry(
                f"{seconds:g} s is no time of a tool step.", "Type it in seconds or minutes.", name
            )
        step = replace(step, cut_s=seconds) if name == "cut" else replace(step, change_s=seconds)
        plan = plan.put(replace(step, time_by=edit.by))
        changed.append(step.name)
    names = list(dict.fromkeys(changed))
    return Changed(plan, f"{edit.by} {'time' if len(names) == 1 else 'times'} of {', '.join(names)}")
