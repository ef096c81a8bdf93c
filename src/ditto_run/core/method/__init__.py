"""Which way of making it: ways side by side, break-even, how sure, and why."""

from ditto_run.core.method.chance import draw
from ditto_run.core.method.crossings import break_even, ladder
from ditto_run.core.method.findings import method_findings
from ditto_run.core.method.guess import Guess, read_guess
from ditto_run.core.method.starting import STARTS, starting_way
from ditto_run.core.method.totals import CostLine, Measure, line_of, piece_times
from ditto_run.core.method.verdict import MethodVerdict, MethodWanted, amount_text, judge, measure_of
from ditto_run.core.method.way import Choice, Ready, Way, check_way

__all__ = [
    "STARTS",
    "Choice",
    "CostLine",
    "Guess",
    "Measure",
    "MethodVerdict",
    "MethodWanted",
    "Ready",
    "Way",
    "amount_text",
    "break_even",
    "check_way",
    "draw",
    "judge",
    "ladder",
    "line_of",
    "measure_of",
    "method_findings",
    "piece_times",
    "read_guess",
    "starting_way",
]
