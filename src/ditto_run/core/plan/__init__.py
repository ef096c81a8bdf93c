"""The plan of a job: the document, what follows from it, and what is open."""

from ditto_run.core.plan.differences import differences
from ditto_run.core.plan.document import Override, Plan
from ditto_run.core.plan.open import layout_findings, plan_findings, sheet_findings
from ditto_run.core.plan.whole import check_whole
from ditto_run.core.plan.worked import known_of

__all__ = [
    "Override",
    "Plan",
    "check_whole",
    "differences",
    "known_of",
    "layout_findings",
    "plan_findings",
    "sheet_findings",
]
