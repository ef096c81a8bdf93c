"""What is said of whole plans in two sentences: which takes less and which comes sooner, and what they make."""

from collections.abc import Sequence
from math import isfinite

from ditto_run.core.method.totals import Measure
from ditto_run.core.method.verdict import amount_text
from ditto_run.core.propose.choices import SAME_S
from ditto_run.core.propose.whole import WholePlan
from ditto_run.core.units import counted, span_text


def said_of(pair: Sequence[WholePlan], measure: Measure, mark: str) -> tuple[str, str]:
    """Return what is said of the proposals, and what they make.

    Args:
        pair: quick and thorough, or one.
        measure: what they were sought by.
        mark: before a sum of money.
    """
    if not pair:
        return "", ""
    quantity = max(pair[0].drafted.plan.heading.quantity, 1)
    totals = [one.total(quantity, measure) for one in pair]
    if len(pair) == 1:
        known = (
            amount_text(totals[0], measure, mark) if isfinite(totals[0]) else "a time that is not known yet"
        )
        return f"One way to make it: {known} for all.", _made(pair)
    quick, thorough = pair
    if not all(map(isfinite, totals)) or quick.first_s is None or thorough.first_s is None:
        return f"Two ways to make it; {_untimed(pair)}", _made(pair)
    saved, sooner = totals[0] - totals[1], thorough.first_s - quick.first_s
    much = amount_text(abs(saved), measure, mark)
    if sooner < SAME_S:
        more = "more" if saved > 0 else "less"
        return f"Quick takes {much} {more}; both cut their first piece as soon.", _made(pair)
    if saved > 0:
        return f"Thorough saves {much}; quick cuts its first piece {span_text(sooner)} sooner.", _made(pair)
    return f"Quick takes {much} less, and cuts its first piece {span_text(sooner)} sooner.", _made(pair)


def _untimed(pair: Sequence[WholePlan]) -> str:
    """Why no time comes out, in the rest of a sentence."""
    if not pair[0].drafted.plan.heading.material.strip():
        return "no time comes out until Part says the material."
    return "the time of a setup is not known yet."


def _made(pair: Sequence[WholePlan]) -> str:
    """What they make of the features, or which they do not."""
    bare = list(dict.fromkeys(name for one in pair for name in one.drafted.bare))
    names = [name for one in pair for name in one.drafted.unmade if name not in bare]
    if names:
        return f"Not made by what is here: {', '.join(dict.fromkeys(names))}."
    if bare:
        return f"No line says yet what {', '.join(bare)} {'is' if len(bare) == 1 else 'are'}."
    many = sum(one.whole for one in pair[0].drafted.tools if one is not None)
    makes = "Both make" if len(pair) > 1 else "It makes"
    if many == 1:
        return f"{makes} the feature within its limits."
    return f"{makes} all {counted(many, 'feature')} within their limits."
