"""How the questions of the plan are said: the question itself, and where its figures come from."""

from ditto_run.web.questions.hold import HOLD_WORDS
from ditto_run.web.questions.said import Row, asks, origin_words, rows_of

__all__ = ["HOLD_WORDS", "Row", "asks", "origin_words", "rows_of"]
