"""The plan of a job: the document, what follows from it, and what is open."""

from ditto_run.core.plan.changed import Changed
from ditto_run.core.plan.differences import differences
from ditto_run.core.plan.document import FIRST_PART, Override, Plan
from ditto_run.core.plan.frozen import changed_since, shop_used
from ditto_run.core.plan.open import OpenThing, layout_findings, open_things, plan_findings, sheet_findings
from ditto_run.core.plan.shop_known import ShopKnown
from ditto_run.core.plan.whole import check_whole
from ditto_run.core.plan.worked import Worked, known_of, work_out

__all__ = [
    "FIRST_PART",
    "Changed",
    "OpenThing",
    "Override",
    "Plan",
    "ShopKnown",
    "Worked",
    "changed_since",
    "check_whole",
    "differences",
    "known_of",
    "layout_findings",
    "open_things",
    "plan_findings",
    "sheet_findings",
    "shop_used",
    "work_out",
]
