"""How long a tool takes from one station of a cycle to another, by where they stand and how fast the machine moves."""

from itertools import combinations

from ditto_run.core.plan.cycles import Press
from ditto_run.core.plan.held import standings
from ditto_run.core.plan.worked import Worked
from ditto_run.core.tools.cutting.motion import MM_PER_M, move_s

LIFT_MM = 30.0  # up from a piece and down to the next, clear of jaws and clamps; common practice, no source


def between_s(worked: Worked, cycle: Press) -> tuple[tuple[str, str, float], ...]:
    """Return how long a move between each two stations of a cycle takes, by their names, [s]; nothing while it does not follow.

    It follows where each station stands on a table that is measured, and the machine's rapid is known: both axes move at
    once, the tool goes up before and down after.

    Args:
        worked: the plan worked out.
        cycle: which.

    Source:
        Own derivation from moves in closed form; how far it is lifted is common practice, no source.
    """
    plan = worked.plan
    machine = worked.machines.get(cycle.machine_id or plan.setup(cycle.setups[0]).machine_id or 0)
    if machine is None or machine.bed is None or machine.ability.rapid_m_min is None:
        return ()
    rapid = float(machine.ability.rapid_m_min) * MM_PER_M
    accel = float(machine.ability.accel_m_s2) if machine.ability.accel_m_s2 is not None else None
    labels = {station.label for station in cycle.stations}
    spots = {
        seat.label: (float(seat.zero_mm[0]), float(seat.zero_mm[1]))
        for setup in cycle.setups
        for standing in standings(plan, setup, machine.bed, cycle.key)
        for seat in standing.seats
        if seat.label in labels
    }
    if len(spots) < max(len(labels), 2):  # a pair at least
        return ()
    lift = 2 * move_s(LIFT_MM, rapid, accel)
    return tuple(
        (one, other, round(max(_along(spots[one], spots[other], rapid, accel)) + lift, 1))
        for one, other in combinations(spots, 2)
    )


def _along(
    one: tuple[float, float], other: tuple[float, float], rapid: float, accel: float | None
) -> list[float]:
    """How long each axis takes, [s]."""
    return [move_s(abs(a - b), rapid, accel) for a, b in zip(one, other, strict=True)]
