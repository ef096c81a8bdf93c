"""Questions that a plan answers by itself, each figure with where it comes from."""

from ditto_run.core.questions.asking import Asked, AskedFigure, Figure, ask
from ditto_run.core.questions.question import ORIGINS, Origin, Question, Source, Sourced, first, practice

__all__ = [
    "ORIGINS",
    "Asked",
    "AskedFigure",
    "Figure",
    "Origin",
    "Question",
    "Source",
    "Sourced",
    "ask",
    "first",
    "practice",
]
