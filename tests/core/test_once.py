"""What is worked out once is told apart by identity, and forgotten when it is old."""

from dataclasses import replace

from ditto_run.core.part import Heading
from ditto_run.core.plan import Plan
from ditto_run.core.plan.once import MOST_KEPT, Once


def test_the_same_value_is_worked_on_once_and_an_equal_one_again() -> None:
    seen: list[str] = []

    def work(plan: Plan) -> str:
        seen.append(plan.heading.part)
        return plan.heading.part.upper()

    once = Once(work)
    plan = Plan(Heading("Pin", 4))
    assert once(plan) == once(plan) == "PIN"
    assert seen == ["Pin"]
    other = replace(plan, heading=Heading("Cap", 4))
    assert (once(other), once(plan)) == ("CAP", "PIN")  # a changed plan is another value
    assert seen == ["Pin", "Cap"]


def test_the_oldest_is_forgotten_first() -> None:
    seen: list[int] = []
    once = Once(lambda plan: seen.append(plan.next_number))
    plans = [Plan(Heading("Pin", 4), next_number=n) for n in range(MOST_KEPT + 1)]
    for plan in plans:
        once(plan)
    once(plans[-1])
    once(plans[0])
    assert seen == [*range(MOST_KEPT + 1), 0]
