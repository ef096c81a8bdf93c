"""The questions of Stock, asked of the part in the order of the work: each may rest on the answer before it."""

from ditto_run.core.questions import Question
from ditto_run.core.stock.questions.bars import CUTS_ASKED
from ditto_run.core.stock.questions.blank import BLANK_ASKED
from ditto_run.core.stock.questions.ground import StockGround
from ditto_run.core.stock.questions.mass import MASS_ASKED
from ditto_run.core.stock.questions.starts import STARTS_ASKED

STOCK_QUESTIONS: tuple[Question[StockGround], ...] = (BLANK_ASKED, STARTS_ASKED, CUTS_ASKED, MASS_ASKED)

__all__ = ["STOCK_QUESTIONS", "StockGround"]
