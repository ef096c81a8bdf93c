"""Sheets: small computations that take what the job knows and give their result back to it.

A sheet is kept with the job as what was typed; its answer is worked out afresh whenever it is shown, so that it
follows when something it depends on changes.
"""

from ditto_run.core.sheets.answer import (
    Answer,
    Entry,
    Fact,
    Grid,
    KeptSheet,
    Known,
    Knows,
    Offer,
    SheetKind,
    Solve,
    StockSize,
    Zero,
    directly,
)
from ditto_run.core.sheets.entries import Entries

__all__ = [
    "Answer",
    "Entries",
    "Entry",
    "Fact",
    "Grid",
    "KeptSheet",
    "Known",
    "Knows",
    "Offer",
    "SheetKind",
    "Solve",
    "StockSize",
    "Zero",
    "directly",
]
