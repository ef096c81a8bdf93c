"""The questions of a plan, each asked of the things it is about and answered as far as the job says."""

from collections.abc import Iterable, Mapping
from dataclasses import replace

from ditto_run.core.errors import NotFound
from ditto_run.core.findings import Finding
from ditto_run.core.hold import Setup
from ditto_run.core.hold.chain import pieces_before
from ditto_run.core.hold.heights import Contact
from ditto_run.core.hold.questions import HOLD_QUESTIONS, SetupGround
from ditto_run.core.plan.document import Plan
from ditto_run.core.plan.held import contacts, vise_of
from ditto_run.core.plan.worked import Worked, is_about
from ditto_run.core.questions import Asked, AskedFigure, Figure, Question, ask

QUESTIONS: Mapping[str, Question[SetupGround]] = {one.name: one for one in HOLD_QUESTIONS}


def thing_of(setup: Setup) -> str:
    """Return how a setup is called as the thing a question is about."""
    return f"setup {setup.key}"


def hold_asked(worked: Worked, held: Iterable[Contact]) -> tuple[Asked, ...]:
    """Return the questions of Hold, setup by setup in the order of the work.

    Args:
        worked: the plan worked out.
        held: its setups by size.
    """
    by_setup = {one.setup.key: one for one in held}
    sided = {setup.key: piece.one_sided for setup, piece in pieces_before(worked.plan.chain)}
    found = []
    for setup in worked.plan.setups:
        ground = ground_of(worked, setup, by_setup.get(setup.key), one_sided=sided[setup.key])
        yours = _yours(worked.plan, setup)
        found += [
            _given(ask(question, thing_of(setup), ground, worked.known, yours), setup)
            for question in HOLD_QUESTIONS
            if question.applies(ground)
        ]
    return tuple(found)


def asked_of(worked: Worked, name: str, setup_key: int, typed: Mapping[str, str] | None = None) -> Asked:
    """Return one question of Hold asked of a setup, whether it applies or not.

    Args:
        worked: the plan worked out.
        name: of the question.
        setup_key: of the setup.
        typed: figures that are only typed yet.

    Raises:
        NotFound: if there is no such question or setup.
    """
    if name not in QUESTIONS:
        raise NotFound("question", name, f"Choose one of {', '.join(QUESTIONS)}.")
    setup = worked.plan.setup(setup_key)
    contact = next((one for one in contacts(worked) if one.setup.key == setup_key), None)
    sided = {one.key: piece.one_sided for one, piece in pieces_before(worked.plan.chain)}
    ground = ground_of(worked, setup, contact, one_sided=sided.get(setup_key, False))
    return _given(
        ask(QUESTIONS[name], thing_of(setup), ground, worked.known, _yours(worked.plan, setup), typed), setup
    )


def ground_of(worked: Worked, setup: Setup, contact: Contact | None, *, one_sided: bool) -> SetupGround:
    """Return what is known of a setup for its questions.

    Args:
        worked: the plan worked out.
        setup: which.
        contact: it by size; None while the part's size is not said.
        one_sided: True if the piece has a side by then.
    """
    plan = worked.plan
    vise = contact.vise if contact is not None else vise_of(setup, plan, worked.shop.holders)
    position = plan.position(setup.key) or 1
    made = [feature for feature in plan.features if feature.key in setup.cuts]
    sizes = {c.number: c for c in plan.characteristics}
    sides = tuple(dict.fromkeys(s.stop for s in plan.stations_of(setup.key) if s.stop))
    return SetupGround(
        setup,
        contact,
        worked.shop.holders.get(vise.name),
        vise.kind,
        worked.machines.get(setup.machine_id or 0),
        plan.form,
        plan.heading.material,
        [(f, sizes[f.characteristic]) for f in made if f.characteristic in sizes],
        [named.feature for named in plan.described if named.key in setup.cuts],
        one_sided,
        position == 1,
        _cutting(worked),
        {kind: worked.result_of(kind) for kind in ("blank", "cuts")},
        sides,
    )


def _cutting(worked: Worked) -> tuple[float, str] | None:
    """The largest cutting force that a kept sheet of Method worked out, with its name."""
    found = [
        (float(answer.result.force_n), sheet.name)
        for sheet in worked.plan.sheets
        if sheet.kind == "machine"
        and (answer := worked.answers.get(sheet.key)) is not None
        and answer.result.force_n
    ]
    return max(found, default=None)


def _yours(plan: Plan, setup: Setup) -> list[Figure]:
    """What was said instead for a setup: its figures, and those of sheets kept about it before there were questions."""
    thing = thing_of(setup)
    found = {
        (sheet.kind, name): Figure(sheet.kind, thing, name, text, f"kept as {sheet.name}")
        for sheet in plan.sheets
        if sheet.kind in QUESTIONS and is_about(plan, sheet, setup)
        for name, text in sheet.texts.items()
    }
    found |= {(figure.question, figure.name): figure for figure in plan.figures if figure.thing == thing}
    return [*found.values()]


def _given(asked: Asked, setup: Setup) -> Asked:
    has = {"stop": setup.stop, "proof": setup.proof}
    given = bool(asked.gives) and all(has.get(name, "") == text for name, text in asked.gives)
    return replace(asked, given=given)


def asked_findings(worked: Worked, asked: tuple[Asked, ...]) -> list[Finding]:
    """Return what the answers find wrong, and the figures that were said on another ground than stands now.

    Args:
        worked: the plan worked out.
        asked: its questions.
    """
    found = []
    for one in asked:
        setup = worked.plan.setup(int(one.thing.rpartition(" ")[2]))
        told = _told_by_sheets(worked, one.question, setup)
        said = one.answer.findings if one.answer is not None else ()
        found += [
            Finding(f.step, f.weight, f.code, f"{setup.name}: {f.problem}", f.remedy, one.thing, f.ground)
            for f in said
            if f.weight != "note" and f.code not in told
        ]
        found += [
            _moved(one, setup, figure)
            for figure in one.figures
            if figure.yours and figure.yours.who and figure.is_shaky
        ]
    return found


def _told_by_sheets(worked: Worked, question: str, setup: Setup) -> set[str]:
    """Codes of what sheets kept about a setup say themselves, so that nothing is said twice."""
    return {
        finding.code
        for sheet in worked.plan.sheets
        if sheet.kind == question and is_about(worked.plan, sheet, setup) and sheet.key in worked.answers
        for finding in worked.answers[sheet.key].findings
    }


def _moved(asked: Asked, setup: Setup, figure: AskedFigure) -> Finding:
    """The question whether a figure that somebody said otherwise is still right, now that the job says something else."""
    entry = next(e for e in QUESTIONS[asked.question].sheet.entries if e.name == figure.name)
    now = figure.found.text if figure.found is not None else "nothing"
    was = figure.yours.ground or "nothing" if figure.yours is not None else ""
    return Finding(
        asked.step,
        "ask",
        "figure-moved",
        f"{setup.name}: {entry.label} is yours, {figure.text}; the job said {was} then and says {now} now.",
        "Say it again if it is still right, or empty it to take the job's.",
        f"{asked.thing} {asked.question} {figure.name}",
        now,
    )
