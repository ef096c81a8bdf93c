"""A question as one row of a page: what is asked, the answer, its origins; and each figure with its own."""

from collections.abc import Iterable
from dataclasses import dataclass

from ditto_run.core.findings import Finding
from ditto_run.core.plan import Plan
from ditto_run.core.plan.asked import QUESTIONS, figure_findings
from ditto_run.core.questions import Asked, AskedFigure
from ditto_run.core.units import LengthUnit
from ditto_run.web.questions.hold import HOLD_WORDS
from ditto_run.web.questions.method import METHOD_WORDS
from ditto_run.web.questions.part import PART_WORDS
from ditto_run.web.questions.stock import STOCK_WORDS
from ditto_run.web.questions.tools import TOOL_WORDS
from ditto_run.web.questions.words import FormEntry, form_of

WORDS = PART_WORDS | METHOD_WORDS | STOCK_WORDS | HOLD_WORDS | TOOL_WORDS
HEAVY = {"stop": 0, "ask": 1}
MOST_ORIGINS = 3


@dataclass(frozen=True, slots=True)
class Row:
    """One question as it stands in the list.

    Args:
        asked: the question.
        asks: it in words.
        answer: in words; what is not known where there is none.
        why: its reason, or where the missing figure may come from.
        origins: where its figures come from, the telling ones first.
        weight: of the heaviest finding; empty where it is right, unknown where it has no answer.
    """

    asked: Asked
    asks: str
    answer: str
    why: str
    origins: str
    weight: str

    @property
    def address(self) -> str:
        """What the address of the page bears to open it."""
        return f"{address_of(self.asked.thing)}ask={self.asked.question}"


@dataclass(frozen=True, slots=True)
class Opened:
    """A question that is looked into: each figure with its field and where it comes from.

    Args:
        asked: the question.
        asks: it in words.
        figures: field, figure, origin.
        picked: the field that is being changed: the one chosen, else the one that is missing; empty for none.
    """

    asked: Asked
    asks: str
    figures: list[tuple[FormEntry, AskedFigure, str]]
    picked: str


def address_of(thing: str) -> str:
    """Return what an address bears of the thing a question is about: setup=3& of setup 3, nothing of the part."""
    what, _, key = thing.rpartition(" ")
    return f"{what}={key}&" if what else ""


def opened(asked: Asked, figure: str) -> Opened:
    """Return a question to be looked into.

    Args:
        asked: the question.
        figure: field that was chosen; empty for the one that is missing, a word that is no field for none.
    """
    figures = [(entry_of(asked, one.name), one, origin_words(one)) for one in asked.figures]
    chosen = figure if asked.figure(figure) is not None else ""
    return Opened(asked, asks(asked.question), figures, chosen if figure else asked.unknown)


def asks(name: str) -> str:
    """Return a question in words."""
    return WORDS[name]


def rows_of(asked: Iterable[Asked], plan: Plan) -> list[Row]:
    """Return questions as rows, heaviest first, then in the order of the work, those without an answer last."""
    rows = [_row(one, plan) for one in asked]
    order = {"stop": 0, "ask": 1, "": 2, "unknown": 3}
    return sorted(rows, key=lambda row: order[row.weight])


def _row(asked: Asked, plan: Plan) -> Row:
    unit = plan.heading.unit
    if asked.answer is None:
        return Row(
            asked,
            asks(asked.question),
            _unknown(asked, unit),
            _from_where(asked, unit),
            _origins(asked),
            "unknown",
        )
    told = (*asked.answer.findings, *figure_findings(asked))
    open_ones = (f for f in told if f.weight in HEAVY and not _stands(asked, f, plan))
    heavy = sorted((f.weight for f in open_ones), key=HEAVY.__getitem__)
    weight = heavy[0] if heavy else ""
    return Row(asked, asks(asked.question), asked.answer.say, asked.answer.why, _origins(asked), weight)


def _unknown(asked: Asked, unit: LengthUnit) -> str:
    if asked.unknown:
        entry = entry_of(asked, asked.unknown)
        label = entry.label_in(unit) if entry.entry.quantity is None else entry.label
        return f"Not known: {label[:1].lower()}{label[1:]}."
    return asked.refusal.problem if asked.refusal is not None else "Not known."


def _stands(asked: Asked, finding: Finding, plan: Plan) -> bool:
    """True if a finding of an answer was let stand, as the question's or as that of a sheet kept about the same thing."""
    return any(
        override.code == finding.code and finding.problem in override.problem
        for override in plan.overrides
        if override.thing in {asked.thing, finding.thing}
        or not override.thing.startswith(("setup ", "size ", "feature ", "tool "))
    )


def _from_where(asked: Asked, unit: LengthUnit) -> str:
    """Where a figure nobody knows may come from: the words below its field, else what to do."""
    hint = entry_of(asked, asked.unknown).hint_in(unit) if asked.unknown else ""
    return hint or (asked.refusal.remedy if asked.refusal is not None else "")


def entry_of(asked: Asked, name: str) -> FormEntry:
    """Return a field of a question."""
    return next(entry for entry in form_of(QUESTIONS[asked.question].sheet.kind) if entry.name == name)


def _origins(asked: Asked) -> str:
    """Where the figures come from, what was said first, practice last; each once."""
    told = [one for one in asked.figures if one.text]
    told.sort(key=lambda one: (one.found is not None and one.found.origin == "practice", one.yours is None))
    words = list(dict.fromkeys(origin_words(one) for one in told))
    return ", ".join(words[:MOST_ORIGINS]) + (" …" if len(words) > MOST_ORIGINS else "")


def origin_words(figure: AskedFigure) -> str:
    """Return where a figure comes from, in a word or two."""
    if figure.yours is not None and figure.yours.origin:
        return "a guess, planned" if figure.yours.origin == "guess" else f"{figure.yours.origin}, planned"
    if figure.yours is not None:
        return f"yours, {figure.yours.who}" if figure.yours.who else "yours"
    if figure.found is None:
        return ""
    if figure.found.origin in {"practice", "guess"}:
        return f"{figure.found.origin}: {figure.found.of}" if figure.found.of else figure.found.origin
    return figure.found.of or figure.found.origin
