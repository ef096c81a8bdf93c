"""The questions of a plan, each asked of the things it is about and answered as far as the job says."""

from collections.abc import Iterable, Mapping
from dataclasses import replace
from typing import Any

from ditto_run.core.errors import NotFound
from ditto_run.core.findings import Finding
from ditto_run.core.hold import Feature, Setup
from ditto_run.core.hold.chain import pieces_before
from ditto_run.core.hold.heights import Contact
from ditto_run.core.hold.questions import HOLD_QUESTIONS
from ditto_run.core.method.order import OPERATIONS
from ditto_run.core.method.questions import METHOD_QUESTIONS
from ditto_run.core.part import Characteristic
from ditto_run.core.part.questions import FEATURE_QUESTIONS, SIZE_QUESTIONS
from ditto_run.core.plan.at_work import all_steps_asked, step_question
from ditto_run.core.plan.document import Plan
from ditto_run.core.plan.grounds import (
    feature_ground,
    features_of,
    ground_of,
    maker_of,
    method_ground,
    size_ground,
    stock_ground,
    tools_ground,
)
from ditto_run.core.plan.held import contacts
from ditto_run.core.plan.worked import PART, Worked, is_about, operations_by, thing_of
from ditto_run.core.questions import Asked, AskedFigure, Figure, Question, ask
from ditto_run.core.sheet_kinds import sheet_of
from ditto_run.core.sheets import Answer, KeptSheet, Known
from ditto_run.core.stock.blank import BLANK_FOUND
from ditto_run.core.stock.questions import STOCK_QUESTIONS, StockGround
from ditto_run.core.tools import ToolStep
from ditto_run.core.tools.order_rules import kinds_of
from ditto_run.core.tools.questions import CUT_QUESTIONS, TOOL_QUESTIONS, TOOLING_QUESTIONS

BY_THING: tuple[tuple[type, tuple[Question[Any], ...]], ...] = (
    (Characteristic, SIZE_QUESTIONS),
    (Feature, FEATURE_QUESTIONS),
    (Feature, TOOL_QUESTIONS),
    (type(None), METHOD_QUESTIONS),
    (type(None), STOCK_QUESTIONS),
    (Setup, HOLD_QUESTIONS),
    (Setup, TOOLING_QUESTIONS),
    (ToolStep, CUT_QUESTIONS),
)
QUESTIONS: Mapping[str, Question[Any]] = {one.name: one for _, asked in BY_THING for one in asked}
ABOUT: Mapping[str, type] = {one.name: kind for kind, asked in BY_THING for one in asked}
"""What each question is about: a size, a feature, a setup, a tool step, or the part itself."""
Thing = Setup | Characteristic | Feature | ToolStep
OF_PART = frozenset({"method", "stock"})


def thing_at(plan: Plan, thing: str) -> Thing | None:
    """Return the setup, size, feature or tool step a thing is; None for the part itself.

    Raises:
        NotFound: if there is no such thing.
    """
    what, _, key = thing.rpartition(" ")
    if thing == PART:
        return None
    number = int(key) if key.isdigit() else 0
    if what == "setup" and plan.position(number):
        return plan.setup(number)
    found: Characteristic | Feature | ToolStep | None = None
    if what == "size":
        found = next((c for c in plan.characteristics if c.number == number), None)
    elif what == "feature":
        found = next((f for f in plan.features if f.key == number), None)
    elif what == "tool":
        found = next((one for one in plan.tool_steps if one.key == number), None)
    if found is None:
        raise NotFound(
            "thing",
            thing,
            "Choose part, a setup such as setup 3, a size such as size 5, a feature such as feature 7, or a tool step such as tool 9.",
        )
    return found


def part_asked(worked: Worked) -> tuple[Asked, ...]:
    """Return the questions of Part, size by size, then feature by feature.

    Args:
        worked: the plan worked out.
    """
    plan = worked.plan
    grounds = [(size, size_ground(worked, size)) for size in plan.characteristics]
    sizes = tuple(
        _taken(
            ask(question, size_thing(size), ground, worked.known, _figures(plan, size_thing(size))),
            plan,
            size,
        )
        for size, ground in grounds
        for question in SIZE_QUESTIONS
        if question.applies(ground)
    )
    described = [(named.key, feature_ground(worked, named)) for named in plan.described]
    features = tuple(
        ask(question, feature_thing(key), here, worked.known, _figures(plan, feature_thing(key)))
        for key, here in described
        for question in FEATURE_QUESTIONS
        if question.applies(here)
    )
    return sizes + features


def tools_asked(worked: Worked, setup: Setup | None = None) -> tuple[Asked, ...]:
    """Return the questions of Tools: tool step by tool step, hole by hole, then setup by setup.

    Args:
        worked: the plan worked out.
        setup: only of what it cuts; None for all.
    """
    plan = worked.plan
    cut = {key for one in plan.setups if setup in {None, one} for key in one.cuts}
    of = {feature.key: feature for feature in plan.features}
    setups = tuple(
        ask(question, thing_of(one), ground, worked.known, _yours(plan, one))
        for one in plan.setups
        if setup in {None, one}
        for question in TOOLING_QUESTIONS
        if question.applies(ground := tools_ground(worked, one))
    )
    holes = tuple(
        _taken(ask(question, thing, here, worked.known, _figures(plan, thing)), plan, of[named.key])
        for named in plan.described
        if named.key in cut and (thing := feature_thing(named.key))
        for question in TOOL_QUESTIONS
        if question.applies(here := feature_ground(worked, named))
    )
    at_work = all_steps_asked(worked)
    steps = tuple(
        one for s in plan.tool_steps if setup is None or s.setup == setup.key for one in at_work[s.key]
    )
    return steps + holes + setups


def feature_thing(key: int) -> str:
    """Return how a feature is called as the thing a question is about."""
    return f"feature {key}"


def size_thing(size: Characteristic) -> str:
    """Return how a size is called as the thing a question is about."""
    return f"size {size.number}"


def _figures(plan: Plan, thing: str) -> list[Figure]:
    return [figure for figure in plan.figures if figure.thing == thing]


def hold_asked(worked: Worked, held: Iterable[Contact]) -> tuple[Asked, ...]:
    """Return the questions of Hold, setup by setup in the order of the work.

    Args:
        worked: the plan worked out.
        held: its setups by size.
    """
    by_setup = {one.setup.key: one for one in held}
    pieces = {setup.key: piece for setup, piece in pieces_before(worked.plan.chain)}
    found = []
    for setup in worked.plan.setups:
        ground = ground_of(worked, setup, by_setup.get(setup.key), pieces[setup.key])
        yours = _yours(worked.plan, setup)
        found += [
            _given(ask(question, thing_of(setup), ground, worked.known, yours), setup)
            for question in HOLD_QUESTIONS
            if question.applies(ground)
        ]
    return tuple(found)


def method_asked(worked: Worked) -> tuple[Asked, ...]:
    """Return the questions of Method.

    Args:
        worked: the plan worked out.
    """
    ground, known = method_ground(worked), _weighed(worked)
    return tuple(
        ask(question, PART, ground, known, _yours(worked.plan, None))
        for question in METHOD_QUESTIONS
        if question.applies(ground) or any(sheet.kind == question.name for sheet in worked.plan.sheets)
    )


def _weighed(worked: Worked) -> Known:
    """What is known for the questions of Method: while no way is chosen, setting up is that of the best one."""
    way = method_ground(worked).way
    return worked.known.knowing(OPERATIONS, operations_by(worked.plan, way))


def stock_asked(worked: Worked) -> tuple[Asked, ...]:
    """Return the questions of Stock in the order of the work; each rests on the answers before it, kept or not.

    Args:
        worked: the plan worked out.
    """
    ground, found, known = stock_ground(worked), [], worked.known
    for question in STOCK_QUESTIONS:
        asked = _stock_one(worked, question, ground, known)
        if asked.given or question.applies(ground):
            known = _with_answer(known, asked)
            found.append(asked)
    return tuple(found)


def _stock_one(
    worked: Worked,
    question: Question[StockGround],
    ground: StockGround,
    known: Known,
    typed: Mapping[str, str] | None = None,
) -> Asked:
    """One question of Stock. What is planned is shown as it counts: an empty field of a kept sheet is not filled, but as the sheet does."""
    kept = next((sheet for sheet in worked.plan.sheets if sheet.kind == question.name), None)
    live = question.finds | kept.taken.keys() if kept is not None else question.sources.keys()
    sources = {name: found for name, found in question.sources.items() if name in live}
    ground = replace(ground, blank=known.of(BLANK_FOUND), start=known.start)
    asked = ask(replace(question, sources=sources), PART, ground, known, _yours(worked.plan, None), typed)
    moved = any(one.yours is not None and one.yours.origin and one.is_shaky for one in asked.figures)
    return replace(asked, given=kept is not None and not moved)


def _with_answer(known: Known, asked: Asked) -> Known:
    """What is known once a question is answered: the ones after it may rest on that."""
    if asked.answer is None or known.has(asked.question):
        return known
    start = getattr(asked.answer.result, "start", known.start) if asked.question == "starts" else known.start
    return replace(known.with_result(asked.question, asked.answer.result), start=start)


def asked_of(worked: Worked, name: str, thing: str, typed: Mapping[str, str] | None = None) -> Asked:
    """Return one question asked of a thing, whether it applies or not.

    Args:
        worked: the plan worked out.
        name: of the question.
        thing: part, or a setup such as setup 3.
        typed: figures that are only typed yet.

    Raises:
        NotFound: if there is no such question or thing.
    """
    question = QUESTIONS.get(name)
    if question is None:
        raise NotFound("question", name, f"Choose one of {', '.join(QUESTIONS)}.")
    about = thing_at(worked.plan, thing)
    if not isinstance(about, ABOUT[name]):
        raise NotFound("question", f"{name} of {thing}", "Ask it of what it is about.")
    if isinstance(about, Characteristic):
        ground = size_ground(worked, about)
        asked = ask(question, thing, ground, worked.known, _figures(worked.plan, thing), typed)
        return _taken(asked, worked.plan, about)
    if isinstance(about, Feature):
        return _of_feature(worked, question, about, typed)
    if isinstance(about, ToolStep):
        return step_question(worked, about, question, typed)
    if isinstance(about, Setup):
        return _of_setup(worked, question, about, typed)
    if question.step == "method":
        yours = _yours(worked.plan, None)
        return ask(question, thing, method_ground(worked), _weighed(worked), yours, typed)
    known = worked.known
    for one in stock_asked(worked):
        if one.question == name:
            break
        known = _with_answer(known, one)
    return _stock_one(worked, question, stock_ground(worked), known, typed)


def _of_feature(
    worked: Worked, question: Question[Any], feature: Feature, typed: Mapping[str, str] | None
) -> Asked:
    """A question asked of a feature that a line describes."""
    thing = feature_thing(feature.key)
    named = next((one for one in worked.plan.described if one.key == feature.key), None)
    if named is None:
        raise NotFound("question", f"{question.name} of {thing}", "Describe it by a line first.")
    here = feature_ground(worked, named)
    asked = ask(question, thing, here, worked.known, _figures(worked.plan, thing), typed)
    return _taken(asked, worked.plan, feature)


def _of_setup(
    worked: Worked, question: Question[Any], setup: Setup, typed: Mapping[str, str] | None
) -> Asked:
    """A question asked of a setup."""
    if question.step == "tools":
        yours, tools = _yours(worked.plan, setup), tools_ground(worked, setup)
        return ask(question, thing_of(setup), tools, worked.known, yours, typed)
    contact = next((one for one in contacts(worked) if one.setup.key == setup.key), None)
    pieces = {one.key: piece for one, piece in pieces_before(worked.plan.chain)}
    held = ground_of(worked, setup, contact, pieces[setup.key])
    yours = _yours(worked.plan, setup)
    return _given(ask(question, thing_of(setup), held, worked.known, yours, typed), setup)


def _yours(plan: Plan, setup: Setup | None) -> list[Figure]:
    """What was said instead of a thing: its figures, and those of sheets kept about it, which may be older than the questions."""
    thing = thing_of(setup) if setup is not None else PART
    found = {
        (sheet.kind, name): _kept_figure(sheet, thing, name, text)
        for sheet in plan.sheets
        if _is_of(plan, sheet, setup)
        for name, text in sheet.texts.items()
    }
    found |= {(figure.question, figure.name): figure for figure in plan.figures if figure.thing == thing}
    return [*found.values()]


def _kept_figure(sheet: KeptSheet, thing: str, name: str, text: str) -> Figure:
    origin = sheet.taken.get(name, "")
    return Figure(
        sheet.kind, thing, name, text, f"kept as {sheet.name}", ground=text if origin else "", origin=origin
    )


def _is_of(plan: Plan, sheet: KeptSheet, setup: Setup | None) -> bool:
    """True if a kept sheet is about a thing: the first of its kind about the part, those of Hold about their setup."""
    question = QUESTIONS.get(sheet.kind)
    if question is None or question.step == "part" or (setup is None) != (question.step in OF_PART):
        return False
    if setup is not None:
        return is_about(plan, sheet, setup)
    return sheet == next(one for one in plan.sheets if one.kind == sheet.kind)


def _given(asked: Asked, setup: Setup) -> Asked:
    has = {"stop": setup.stop, "proof": setup.proof, "torque": setup.torque}
    given = bool(asked.gives) and all(has.get(name, "") == text for name, text in asked.gives)
    return replace(asked, given=given)


def _taken(asked: Asked, plan: Plan, thing: Characteristic | Feature) -> Asked:
    """A question of a size or feature, with whether it has what it gives: its setup the tools, the size itself the rest."""
    wanted = [
        name
        for name, text in asked.gives
        if (tools_wanted(asked, plan, thing) if name == "tools" else text != f"{getattr(thing, name) or ''}")
    ]
    return replace(asked, given=bool(asked.gives) and not wanted)


def tools_wanted(asked: Asked, plan: Plan, thing: Characteristic | Feature) -> list[str]:
    """Return the tool lines an answer gives that the setup which makes its thing does not have yet, by their words or their kind of work.

    Args:
        asked: a question of the size or feature.
        plan: with the setups.
        thing: the size or feature.
    """
    setup = maker_of(plan, thing)
    steps = plan.tools_of(setup.key) if setup is not None else ()
    there, mine = {step.does.lower() for step in steps}, {*features_of(plan, thing)}
    done = {kind for step in steps if mine & {*step.makes} for kind in kinds_of(step.does)}
    lines = dict(asked.gives).get("tools", "").splitlines()
    return [line for line in lines if line.lower() not in there and not kinds_of(line) & done]


def held_answers(worked: Worked, asked: Iterable[Asked], setup: Setup) -> tuple[tuple[str, Answer], ...]:
    """Return what Hold answers for a setup, by name, as it is printed and shown: its questions, then other sheets kept about it.

    Args:
        worked: the plan worked out.
        asked: the questions of Hold.
        setup: which; what was put into it already is not said again.
    """
    thing = thing_of(setup)
    mine = [one for one in asked if one.thing == thing and one.answer is not None]
    names = {sheet.kind: sheet.name for sheet in worked.plan.sheets if is_about(worked.plan, sheet, setup)}
    found = [
        (names.get(one.question, sheet_of(one.question).word), one.answer)
        for one in mine
        if one.answer is not None and not one.given
    ]
    answered = {one.question for one in mine}
    others = [
        (sheet.name, worked.answers[sheet.key])
        for sheet in worked.plan.sheets
        if is_about(worked.plan, sheet, setup) and sheet.key in worked.answers and sheet.kind not in answered
    ]
    return (*found, *others)


def to_keep(asked: Asked) -> dict[str, str]:
    """Return what is kept of an answered question of Stock: all of its figures but those its sheet finds in the job by itself."""
    finds = QUESTIONS[asked.question].finds
    return {
        one.name: one.found.text if one.found is not None and _is_jobs(one) else one.text
        for one in asked.figures
        if one.text and (one.yours or one.name not in finds)
    }


def taken_over(asked: Asked) -> dict[str, str]:
    """Return which figures of an answered question are the job's and not a person's, with what kind of source they have."""
    return {one.name: one.found.origin for one in asked.figures if one.found is not None and _is_jobs(one)}


def _is_jobs(figure: AskedFigure) -> bool:
    """True for a figure the job found, now or when it was planned so."""
    return figure.yours is None or bool(figure.yours.origin)


def asked_findings(worked: Worked, asked: tuple[Asked, ...]) -> list[Finding]:
    """Return what the answers find wrong, and the figures that were said on another ground than stands now.

    Args:
        worked: the plan worked out.
        asked: its questions.
    """
    found = []
    for one in asked:
        about = thing_at(worked.plan, one.thing)
        name = f"{about.name}: " if about is not None else ""
        told = (
            _told_by_sheets(worked, one.question, about)
            if about is None or isinstance(about, Setup)
            else set()
        )
        said = one.answer.findings if one.answer is not None else ()
        found += [
            Finding(f.step, f.weight, f.code, f"{name}{f.problem}", f.remedy, one.thing, f.ground)
            for f in said
            if f.weight != "note" and f.code not in told
        ]
        found += figure_findings(one, name)
    return found


def figure_findings(asked: Asked, name: str = "") -> list[Finding]:
    """Return what is open about the figures of a question: guesses, and what was said or planned on another ground.

    Args:
        asked: the question.
        name: of its thing, before each sentence.
    """
    moved = [
        _moved(asked, name, figure)
        for figure in asked.figures
        if figure.yours and (figure.yours.who or figure.yours.origin) and figure.is_shaky
    ]
    if asked.answer is None:
        return moved
    return moved + [_guessed(asked, name, figure) for figure in asked.figures if figure.is_guess]


def _guessed(asked: Asked, name: str, figure: AskedFigure) -> Finding:
    label = _label(asked, figure)
    return Finding(
        asked.step,
        "ask",
        "guess",
        f"{name}{label}, {figure.text}, is a guess.",
        "Say what it really is, or let it stand.",
        f"{asked.thing} {asked.question} {figure.name}",
        figure.text,
    )


def _label(asked: Asked, figure: AskedFigure) -> str:
    return next(e.term for e in QUESTIONS[asked.question].sheet.entries if e.name == figure.name)


def _told_by_sheets(worked: Worked, question: str, setup: Setup | None) -> set[str]:
    """Codes of what sheets kept about a thing say themselves, so that nothing is said twice."""
    return {
        finding.code
        for sheet in worked.plan.sheets
        if sheet.kind == question and _is_of(worked.plan, sheet, setup) and sheet.key in worked.answers
        for finding in worked.answers[sheet.key].findings
    }


def _moved(asked: Asked, name: str, figure: AskedFigure) -> Finding:
    """The question whether a figure that somebody said otherwise is still right, now that the job says something else."""
    label = _label(asked, figure)
    now = figure.found.text if figure.found is not None else "nothing"
    was = figure.yours.ground or "nothing" if figure.yours is not None else ""
    place = f"{asked.thing} {asked.question} {figure.name}"
    if figure.yours is not None and figure.yours.origin:
        problem = f"{name}{label} is planned as {was}; the job says {now} now."
        return Finding(
            asked.step, "ask", "figure-moved", problem, "Plan it so again, or say it yourself.", place, now
        )
    return Finding(
        asked.step,
        "ask",
        "figure-moved",
        f"{name}{label} is yours, {figure.text}; the job said {was} then and says {now} now.",
        "Say it again if it is still right, or empty it to take the job's.",
        place,
        now,
    )
