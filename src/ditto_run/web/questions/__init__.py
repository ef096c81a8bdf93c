"""How the questions of the plan are said: the question itself, and where its figures come from."""

from ditto_run.web.questions.hold import HOLD_WORDS
from ditto_run.web.questions.method import METHOD_WORDS
from ditto_run.web.questions.part import PART_WORDS
from ditto_run.web.questions.said import Opened, Row, address_of, asks, opened, origin_words, rows_of
from ditto_run.web.questions.stock import STOCK_WORDS
from ditto_run.web.questions.tools import TOOL_WORDS

__all__ = [
    "HOLD_WORDS",
    "METHOD_WORDS",
    "PART_WORDS",
    "STOCK_WORDS",
    "TOOL_WORDS",
    "Opened",
    "Row",
    "address_of",
    "asks",
    "opened",
    "origin_words",
    "rows_of",
]
