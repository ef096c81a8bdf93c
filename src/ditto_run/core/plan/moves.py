"""How long a tool takes from one station of a cycle to another, by where they stand and how fast the machine moves."""

from itertools import combinations

from ditto_run.core.plan.cycles import Press
from ditto_run.core.plan.held import standings
from ditto_run.core.plan.worked import Worked
from ditto_run.core.tools.cutting.motion import MM_PER_M, move_s

LIFT_MM = 30.0  # up from a piece and down to the next, clear of jaws and clamps; common practice, no source


def between_s(worked: Worked, cycle: Press) -> float | None:
    """Return how long a move between two stations of a cycle takes, the mean of all pairs, [s]; None while it does not follow.

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
        return None
    rapid = float(machine.ability.rapid_m_min) * MM_PER_M
    accel = float(machine.ability.accel_m_s2) if machine.ability.accel_m_s2 is not None else None
    spots = {
        seat.label: (float(seat.zero_mm[0]), float(seat.zero_mm[1]))
        for setup in cycle.setups
        for standing in standings(plan, setup, machine.bed, cycle.key)
        for seat in standing.seats
    }
    if len(spots) < 2 or any(station.label not in spots for station in cycle.stations):  # noqa: PLR2004 - a pair
        return None
    lift = 2 * move_s(LIFT_MM, rapid, accel)
    moves = [
        max(move_s(abs(a - b), rapid, accel) for a, b in zip(one, other, strict=True)) + lift
        for one, other in combinations(spots.values(), 2)
    ]
    return round(sum(moves) / len(moves), 1)
