"""The forms of every sheet: what they answer, labels, words below the fields, choices in words."""

from ditto_run.core.sheet_kinds import sheet_of
from ditto_run.web.questions.words.form import FormEntry, SheetWords
from ditto_run.web.questions.words.hold import HOLD_FORMS
from ditto_run.web.questions.words.method import METHOD_FORMS
from ditto_run.web.questions.words.part import PART_FORMS
from ditto_run.web.questions.words.place import PLACE_FORMS
from ditto_run.web.questions.words.stock import STOCK_FORMS
from ditto_run.web.questions.words.tools import TOOL_FORMS

FORMS: dict[str, SheetWords] = {
    **PART_FORMS,
    **METHOD_FORMS,
    **STOCK_FORMS,
    **HOLD_FORMS,
    **PLACE_FORMS,
    **TOOL_FORMS,
}

__all__ = ["FORMS", "FormEntry", "SheetWords", "does_of", "form_of"]


def form_of(kind: str) -> tuple[FormEntry, ...]:
    """Return the fields of a sheet's form, in order.

    Args:
        kind: of the sheet.
    """
    return tuple(FormEntry(entry, FORMS[kind]) for entry in sheet_of(kind).entries)


def does_of(kind: str) -> str:
    """Return what a sheet answers, in one sentence."""
    return FORMS[kind].does
