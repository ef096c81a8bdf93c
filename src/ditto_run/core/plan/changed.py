"""A changed plan."""

from dataclasses import dataclass

from ditto_run.core.plan.document import Plan


@dataclass(frozen=True, slots=True)
class Changed:
    """A changed plan, and what was changed in a few words for the history."""

    plan: Plan
    what: str
