"""What a question is: what it is about, when it applies, where each of its figures comes from, what it gives back."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from typing import Generic, Literal, TypeVar, get_args

from ditto_run.core.sheets import Answer, Entries, SheetKind

Origin = Literal[
    "yours", "said", "drawing", "measured", "register", "computed", "learned", "practice", "guess"
]
ORIGINS: tuple[Origin, ...] = get_args(Origin)
G = TypeVar("G")


@dataclass(frozen=True, slots=True)
class Sourced:
    """A figure as it would be typed, and where it comes from.

    Args:
        text: with its unit, so that it reads the same in every job.
        origin: what kind of source it is; a guess counts as open.
        of: the thing it comes from: a holder, a setup, a sheet.
    """

    text: str
    origin: Origin
    of: str = ""


Source = Callable[[G], Sourced | None]
"""Looks for a figure in what the job and the shop know of a thing; None where it is not there."""


@dataclass(frozen=True)
class Question(Generic[G]):
    """One question of a step.

    Args:
        name: in addresses and documents.
        step: that asks it.
        applies: whether a thing is so that it is asked at all.
        sources: field to where it is looked for, the nearest first.
        sheet: works the answer out of its figures.
        gives: what the answer gives back to the thing: field of it to text; None where it gives nothing.
        finds: fields that its sheet finds in the job by itself where they are empty.
        needs: choices without which there is no answer: its sheet would take the first one, which nobody said.
        leaves_out: fields that mean nothing for what the others say, given those; not asked unless somebody said them.
    """

    name: str
    step: str
    applies: Callable[[G], bool]
    sources: Mapping[str, tuple[Source[G], ...]]
    sheet: SheetKind
    gives: Callable[[G, Answer, Entries], Mapping[str, str]] | None = None
    finds: frozenset[str] = frozenset()
    needs: tuple[str, ...] = ()
    leaves_out: Callable[[Mapping[str, str]], frozenset[str]] | None = None


def first(sources: tuple[Source[G], ...], ground: G) -> Sourced | None:
    """Return the first of some sources that has a figure; None where none has."""
    for source in sources:
        found = source(ground)
        if found is not None and found.text:
            return found
    return None


def practice(text: str) -> Callable[[object], Sourced]:
    """Return a source that is common practice, whatever the thing.

    Args:
        text: the figure.
    """
    found = Sourced(text, "practice")
    return lambda _ground: found
