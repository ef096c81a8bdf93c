"""What a cut takes of its machine, and the lighter cuts that do the same work."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass, replace
from math import sqrt

from ditto_run.core.method.ability import PILOT_SHARE, Cut, Demand, demand

MOST_PASSES = 50
IDLE = 0.4  # of the current at full load, that an idle motor draws; from memory, orders only
LEAST_SHARE = 0.2  # of feed or speed, below which it is no way out; own judgement


@dataclass(frozen=True, slots=True)
class Spent:
    """What a cut takes of a machine.

    Args:
        asked: force, torque, power.
        power_kw: that the machine has; None while not known. [kW]
        torque_nm: the same. [N·m]
    """

    asked: Demand
    power_kw: float | None
    torque_nm: float | None

    @property
    def share(self) -> float | None:
        """The larger share of power or torque it takes; None where neither is known, [-]."""
        pairs = ((self.asked.power_kw, self.power_kw), (self.asked.torque_nm, self.torque_nm))
        return max((need / has for need, has in pairs if has), default=None)

    @property
    def by_torque(self) -> bool:
        """True if it is nearer to the torque than to the power."""
        if self.torque_nm is None or self.power_kw is None:
            return self.power_kw is None
        return self.asked.torque_nm / self.torque_nm > self.asked.power_kw / self.power_kw


def motor_amps(full_a: float, share: float) -> float:
    """Return what the ammeter of an induction motor shows about, [A].

    Args:
        full_a: at full load. [A]
        share: of its power that is asked. [-]

    Source:
        Magnetising and working current stand square to each other; how much an idle motor draws is from memory, orders only.
    """
    return full_a * sqrt(IDLE**2 + (1 - IDLE**2) * share**2)


@dataclass(frozen=True, slots=True)
class LighterCut:
    """The same work, cut lighter.

    Args:
        by: passes, feed, speed or a pilot.
        amount: number of passes, feed [mm], speed [rev/min] or pilot [mm].
        spent: what it takes then.
        times: as long as before; a pilot's own time not counted. [-]
    """

    by: str
    amount: float
    spent: Spent
    times: float


@dataclass(frozen=True, slots=True)
class Limits:
    """A material and a machine.

    Args:
        kc11, mc: of the material. [N/mm², -]
        power_kw, torque_nm: of the machine; None while not known. [kW, N·m]
    """

    kc11: float
    mc: float
    power_kw: float | None
    torque_nm: float | None

    def spent(self, cut: Cut, rpm: float) -> Spent:
        """Return what a cut takes.

        Args:
            cut: which.
            rpm: of the spindle. [rev/min]
        """
        return Spent(demand(cut, self.kc11, self.mc, rpm), self.power_kw, self.torque_nm)


def lighter_cuts(cut: Cut, rpm: float, limits: Limits) -> Iterator[LighterCut]:
    """Give cuts that the machine does where one is too heavy for it: passes, feed, speed, a pilot.

    Args:
        cut: the one that is too heavy.
        rpm: of the spindle. [rev/min]
        limits: material and machine.

    Source:
        Own derivation from the force of each; a pilot of a third of the drill is common practice, no source.
    """
    if cut.cutting in {"turn", "mill"}:
        for passes in range(2, MOST_PASSES + 1):
            spent = limits.spent(replace(cut, depth_mm=cut.depth_mm / passes), rpm)
            if _goes(spent):
                yield LighterCut("passes", passes, spent, passes)
                break
    if cut.cutting == "drill":
        pilot = PILOT_SHARE * cut.diameter_mm
        whole = limits.spent(cut, rpm)
        left = 1 - PILOT_SHARE**2
        eased = replace(
            whole.asked, torque_nm=whole.asked.torque_nm * left, power_kw=whole.asked.power_kw * left
        )
        spent = replace(whole, asked=eased)
        if _goes(spent):
            yield LighterCut("pilot", pilot, spent, 1.0)
    if cut.cutting != "tap":
        share = _share(lambda part: limits.spent(replace(cut, feed_mm=cut.feed_mm * part), rpm))
        if share is not None:
            feed = cut.feed_mm * share
            yield LighterCut("feed", feed, limits.spent(replace(cut, feed_mm=feed), rpm), 1 / share)
    share = _share(lambda part: limits.spent(cut, rpm * part))
    if share is not None:
        yield LighterCut("speed", rpm * share, limits.spent(cut, rpm * share), 1 / share)


def _goes(spent: Spent) -> bool:
    return spent.share is not None and spent.share <= 1


def _share(at: Callable[[float], Spent]) -> float | None:
    """The largest share of a feed or speed the machine does, found by halving; None where even a fifth is too much."""
    if not _goes(at(LEAST_SHARE)):
        return None
    low, high = LEAST_SHARE, 1.0
    for _ in range(30):
        middle = (low + high) / 2
        low, high = (middle, high) if _goes(at(middle)) else (low, middle)
    return low
