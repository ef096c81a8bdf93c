"""What Method still wants."""

from collections.abc import Sequence

from ditto_run.core.findings import Finding
from ditto_run.core.method.way import Choice, Way
from ditto_run.core.units import counted

FAR = 2  # times the quantity it was chosen for, or a half


def method_findings(ways: Sequence[Way], choice: Choice | None, quantity: int) -> list[Finding]:
    """Return what Method still wants: a choice among the ways, renewed if the quantity has moved far.

    Args:
        ways: ways side by side.
        choice: the way chosen.
        quantity: good pieces wanted. [pieces]
    """
    if choice is None and not ways:
        return []
    if choice is None:
        return [
            Finding(
                "method",
                "ask",
                "no-choice",
                "No way is chosen yet.",
                "Look at the verdict, then keep a way with its reason.",
            )
        ]
    if not choice.quantity <= quantity * FAR or not quantity <= choice.quantity * FAR:
        return [
            Finding(
                "method",
                "ask",
                "quantity-moved",
                f"{choice.name} was chosen for {counted(choice.quantity, 'piece')}; now {quantity} are wanted.",
                "Look at the verdict again.",
            )
        ]
    return []
