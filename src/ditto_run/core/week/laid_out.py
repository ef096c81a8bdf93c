"""Jobs laid out one after another on machines, with as many hands as there are; times of work from now on."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

FULL = 100  # of one pair of hands, in hundredths


@dataclass(frozen=True, slots=True)
class WeekTask:
    """One cycle of a job, or what is left of it.

    Args:
        key: its lasting name: job and cycle.
        machine: it runs on.
        minutes: of work, setting up with it, 1 or more. [min]
        hands: share of a pair of hands it takes meanwhile, in hundredths, 0 to 100.
        release: it cannot begin before. [min]
        due: it is wanted by; None where nobody said it. [min]
        after: key of the one that has to end first; empty for none.
        runs: True if it is on the machine already: it goes on.
        low, high: what it takes in 8 of 10 cases, as shares of its minutes. [-]
    """

    key: str
    machine: str
    minutes: int
    hands: int
    release: int = 0
    due: int | None = None
    after: str = ""
    runs: bool = False
    low: float = 0.95
    high: float = 1.15


@dataclass(frozen=True, slots=True)
class LaidOut:
    """A task in its place: start and end. [min]."""

    key: str
    machine: str
    start: int
    end: int
    late: int = 0


def lay_out(
    tasks: Sequence[WeekTask], order: Sequence[str], pairs: int = 1, takes: Mapping[str, int] | None = None
) -> tuple[LaidOut, ...]:
    """Return the tasks laid out in an order: each as early as its machine, the hands, its release and the one before it allow.

    On a machine nothing overtakes what comes before it in the order; what runs already comes first whatever the order says, and
    goes on also where there are not hands for all of it.

    Args:
        tasks: of all machines.
        order: keys, the first one first; what is not named comes last, as it stands.
        pairs: of hands.
        takes: minutes of a task where they are not its own, by key. [min]

    Source:
        Serial schedule generation, textbook; own derivation.
    """
    known = {task.key: task for task in tasks}
    place = {key: n for n, key in enumerate(dict.fromkeys([*order, *known]))}
    waiting = sorted(tasks, key=lambda task: (not task.runs, place[task.key]))
    free: dict[str, int] = {}
    done: dict[str, LaidOut] = {}
    while waiting:
        task = next(
            (one for one in waiting if not one.after or one.after in done or one.after not in known),
            waiting[0],
        )
        waiting.remove(task)
        minutes = max((takes or {}).get(task.key, task.minutes), 1)
        earliest = max(task.release, free.get(task.machine, 0))
        if task.after in done:
            earliest = max(earliest, done[task.after].end)
        start = earliest  # what runs goes on, whoever looks after it
        if not task.runs:
            start = _with_hands(earliest, minutes, task.hands, [*done.values()], known, pairs)
        end = start + minutes
        late = 0 if task.due is None else max(end - task.due, 0)
        done[task.key] = LaidOut(task.key, task.machine, start, end, late)
        free[task.machine] = max(end, free.get(task.machine, 0))
    return tuple(done.values())


def _with_hands(
    earliest: int,
    minutes: int,
    share: int,
    placed: Sequence[LaidOut],
    known: Mapping[str, WeekTask],
    pairs: int,
) -> int:
    """The first moment from which on there are hands enough to the end."""
    if not share:
        return earliest
    for start in sorted({earliest, *(one.end for one in placed if one.end > earliest)}):
        if all(
            sum(known[one.key].hands for one in placed if one.start <= at < one.end) + share <= FULL * pairs
            for at in {start, *(one.start for one in placed if start < one.start < start + minutes)}
        ):
            return start
    return max(one.end for one in placed)


def worth(found: Sequence[LaidOut]) -> tuple[int, int]:
    """Return what an order is worth: minutes late in all, then minutes until each is done; less is better. [min]."""
    return sum(one.late for one in found), sum(one.end for one in found)
