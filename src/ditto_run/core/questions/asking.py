"""Asks one question of one thing: figures found or overridden, the answer, what is not known."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from typing import TypeVar

from ditto_run.core.errors import BadEntry, BeingWorkedOut, DittoError
from ditto_run.core.questions.question import Question, Sourced, first
from ditto_run.core.sheets import Answer, Known

G = TypeVar("G")


@dataclass(frozen=True, slots=True)
class Figure:
    """A figure of a question that somebody said otherwise for this job: it goes before what is worked out.

    Args:
        question: name of the question.
        thing: what it is about, such as setup 3.
        name: field of the question.
        text: as typed.
        why: the reason.
        who: whose it is.
        ground: what stood there when it was said; when that changes it is asked about.
        origin: what kind of source it had where it was taken over from the job as it stood; empty where a person said it.
    """

    question: str
    thing: str
    name: str
    text: str
    why: str = ""
    who: str = ""
    ground: str = ""
    origin: str = ""

    @property
    def place(self) -> tuple[str, str, str]:
        """Which figure it is."""
        return self.question, self.thing, self.name


@dataclass(frozen=True, slots=True)
class AskedFigure:
    """One figure of a question as it counts.

    Args:
        name: field of the question.
        text: as typed, or as it would be.
        found: what the job says; None where it says nothing.
        yours: what somebody said instead; None where nobody did.
    """

    name: str
    text: str
    found: Sourced | None = None
    yours: Figure | None = None

    @property
    def is_shaky(self) -> bool:
        """True if what it was said instead of is no longer what the job says."""
        return self.yours is not None and self.yours.ground != (self.found.text if self.found else "")

    @property
    def is_guess(self) -> bool:
        """True if nobody knows better than a guess."""
        if self.yours is not None:
            return self.yours.origin == "guess" and not self.is_shaky
        return self.found is not None and self.found.origin == "guess"


@dataclass(frozen=True, slots=True)
class Asked:
    """One question of one thing, answered as far as the job says.

    Args:
        question: its name.
        step: that asks it.
        thing: what it is about, such as setup 3.
        figures: each as it counts, in the order of the question's fields; those nobody knows have no text.
        answer: None where something is missing or cannot be.
        unknown: field that nobody knows and that is wanted for an answer; empty where none is.
        refusal: why there is no answer, where what is there cannot be.
        gives: what it gives back to its thing: field to text.
        given: True if the thing has that already.
    """

    question: str
    step: str
    thing: str
    figures: tuple[AskedFigure, ...]
    answer: Answer | None = None
    unknown: str = ""
    refusal: DittoError | None = None
    gives: tuple[tuple[str, str], ...] = ()
    given: bool = False

    def figure(self, name: str) -> AskedFigure | None:
        """Return a figure by its field; None if the question has none of it."""
        return next((one for one in self.figures if one.name == name), None)

    @property
    def texts(self) -> dict[str, str]:
        """Everything that counts, as it would be typed."""
        return {one.name: one.text for one in self.figures if one.text}


def ask(
    question: Question[G],
    thing: str,
    ground: G,
    known: Known,
    yours: Iterable[Figure] = (),
    typed: Mapping[str, str] | None = None,
) -> Asked:
    """Return a question asked of a thing.

    Args:
        question: which.
        thing: what it is about, such as setup 3.
        ground: what is known of that thing.
        known: what the job and the shop know besides.
        yours: what was said instead, for this thing.
        typed: figures that are only typed yet; they go before all others.
    """
    mine = {
        figure.name: figure for figure in yours if (figure.question, figure.thing) == (question.name, thing)
    }
    figures = []
    for entry in question.sheet.entries:
        found = first(question.sources.get(entry.name, ()), ground)
        figure = mine.get(entry.name)
        text = figure.text if figure is not None else found.text if found is not None else ""
        figures.append(AskedFigure(entry.name, (typed or {}).get(entry.name, text), found, figure))
    if question.leaves_out is not None:
        empty = question.leaves_out({one.name: one.text for one in figures}) - {*mine, *(typed or {})}
        figures = [one for one in figures if one.name not in empty]
    asked = Asked(question.name, question.step, thing, tuple(figures))
    return _answered(question, asked, ground, known)


def _require(question: Question[G], asked: Asked) -> None:
    for name in question.needs:
        if name not in asked.texts:
            entry = next(entry for entry in question.sheet.entries if entry.name == name)
            raise BadEntry(f"{entry.term} is missing.", "Nobody has said it yet.", name)


def _answered(question: Question[G], asked: Asked, ground: G, known: Known) -> Asked:
    answer, unknown = None, ""
    refusal: DittoError | None = None
    try:
        _require(question, asked)
        answer = question.sheet.answer(asked.texts, known)
    except BeingWorkedOut as waits:
        refusal = waits
    except BadEntry as wrong:
        if wrong.field and not asked.texts.get(wrong.field):
            unknown = wrong.field
        refusal = wrong
    except DittoError as wrong:
        refusal = wrong
    gives: tuple[tuple[str, str], ...] = ()
    if answer is not None and question.gives is not None:
        gives = tuple(question.gives(ground, answer, question.sheet.entries_of(asked.texts, known)).items())
    return Asked(asked.question, asked.step, asked.thing, asked.figures, answer, unknown, refusal, gives)
