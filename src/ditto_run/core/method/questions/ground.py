"""What the questions of Method may look at: the part, its setups, and the way that is chosen, else the one that wins."""

from collections.abc import Sequence
from dataclasses import dataclass

from ditto_run.core.method.way import Way
from ditto_run.core.part.faces import Form
from ditto_run.core.part.features import Described
from ditto_run.core.part.shape.measures import Measures


@dataclass(frozen=True)
class MethodGround:
    """The part with what is known of making it.

    Args:
        form: block or turned.
        described: its features as their lines say them.
        part: its size by its features; None while they do not say it.
        setups: how many it goes through.
        operations_timed: True if each setup has its times, so that their order can be weighed.
        way: the way chosen, else the one that wins; None without one.
        is_chosen: True if somebody chose it.
        ways: how many ways have their times.
        hurried: True if the job is meant to hurry.
        machines: those of the job that have times: name, what a load runs, what the hands do at it. [s]
        centred: True if a setup holds an end by a centre.
    """

    form: Form
    described: Sequence[Described]
    part: Measures | None
    setups: int
    operations_timed: bool
    way: Way | None
    is_chosen: bool
    ways: int
    hurried: bool
    centred: bool
    machines: tuple[tuple[str, float, float], ...] = ()
