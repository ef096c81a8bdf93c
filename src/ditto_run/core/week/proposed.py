"""A better order of the week: least late first, then soonest done; the same for the same jobs."""

from collections.abc import Iterator, Mapping, Sequence

from ditto_run.core.week.laid_out import FULL, WeekTask, lay_out, worth

EFFORT = 0.2  # of the solver, deterministic seconds
MOST_TASKS = 120


def propose(tasks: Sequence[WeekTask], now: Sequence[str], pairs: int = 1) -> tuple[str, ...]:
    """Return the order in which least is late, and of such the one in which each is done soonest; that of now where none is better.

    Args:
        tasks: of all machines; beyond the first hundred and twenty the order stays.
        now: the order as it is.
        pairs: of hands.

    Source:
        Constraint programming; held to trying every order by a test.
    """
    some = list(tasks)[:MOST_TASKS]
    as_now = lay_out(tasks, now, pairs)
    begins = {one.key: one.start for one in as_now}
    found = _solved(
        some, pairs, begins, sum(task.minutes for task in some) + max((t.release for t in some), default=0)
    )
    if not found:
        return tuple(now)
    better = lay_out(tasks, found, pairs)
    return found if worth(better) < worth(as_now) else tuple(now)


def _solved(tasks: Sequence[WeekTask], pairs: int, begins: Mapping[str, int], end: int) -> tuple[str, ...]:
    """Keys by the starts that were found, looked for from those of now; empty where none were."""
    from ortools.sat.python import cp_model  # noqa: PLC0415 - start-up stays quick

    if not tasks:
        return ()
    model = cp_model.CpModel()
    starts = {task.key: model.new_int_var(task.release, end, f"s{task.key}") for task in tasks}
    spans = {
        task.key: model.new_fixed_size_interval_var(starts[task.key], task.minutes, f"i{task.key}")
        for task in tasks
    }
    for machine in sorted({task.machine for task in tasks}):
        model.add_no_overlap([spans[task.key] for task in tasks if task.machine == machine])
    shared = [task for task in tasks if task.hands]
    model.add_cumulative([spans[t.key] for t in shared], _wanted(shared, pairs), FULL * pairs)
    for before, after in _firsts(tasks):
        model.add(starts[after.key] >= starts[before.key] + before.minutes)
    lates = []
    for task in tasks:
        if task.due is not None:
            late = model.new_int_var(0, end + task.minutes, f"l{task.key}")
            model.add(late >= starts[task.key] + task.minutes - task.due)
            lates.append(late)
    model.minimize((end + 1) * len(tasks) * sum(lates) + sum(starts.values()))  # late first, whatever else
    for task in tasks:
        model.add_hint(starts[task.key], min(begins[task.key], end))
    solver = cp_model.CpSolver()
    solver.parameters.num_workers = 1
    solver.parameters.random_seed = 1
    solver.parameters.max_deterministic_time = EFFORT
    if solver.solve(model) not in {cp_model.OPTIMAL, cp_model.FEASIBLE}:
        return ()
    at = {task.key: solver.value(starts[task.key]) for task in tasks}
    return tuple(task.key for task in sorted(tasks, key=lambda one: (at[one.key], one.machine, one.key)))


def _wanted(tasks: Sequence[WeekTask], pairs: int) -> list[int]:
    """Hands each task takes: what runs goes on with those there are, in hundredths."""
    running = sum(task.hands for task in tasks if task.runs)
    share = min(1.0, FULL * pairs / running) if running else 1.0
    return [int(task.hands * share) if task.runs else task.hands for task in tasks]


def _firsts(tasks: Sequence[WeekTask]) -> Iterator[tuple[WeekTask, WeekTask]]:
    """Pairs of which the first has to end before the second begins: of one job, and what runs on a machine already."""
    known = {task.key: task for task in tasks}
    for task in tasks:
        if task.after in known:
            yield known[task.after], task
        if not task.runs:
            yield from ((one, task) for one in tasks if one.runs and one.machine == task.machine)


def moved(order: Sequence[str], key: str, by: int, machine_of: "dict[str, str]") -> tuple[str, ...]:
    """Return the order with a task moved before or behind its neighbour on the same machine.

    Args:
        order: keys.
        key: which is moved.
        by: −1 earlier, 1 later.
        machine_of: key to its machine.
    """
    mine = [one for one in order if machine_of.get(one) == machine_of.get(key)]
    if key not in mine:
        return tuple(order)
    at = mine.index(key)
    to = at + by
    if not 0 <= to < len(mine):
        return tuple(order)
    mine[at], mine[to] = mine[to], mine[at]
    rest = iter(mine)
    return tuple(next(rest) if machine_of.get(one) == machine_of.get(key) else one for one in order)
