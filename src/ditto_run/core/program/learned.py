"""A machine's rapid, acceleration and tool change, learned from programs whose cycles were clocked."""

from collections.abc import Sequence
from dataclasses import dataclass
from math import sqrt

from ditto_run.core.program.choice import TimeParts
from ditto_run.core.program.reader import ProgramRead

MOST_ALIKE = 50.0  # condition of the programs, from which they do not tell two figures apart; own judgement
RAPIDS, ACCELS, CHANGES = (0.5, 200.0), (0.05, 30.0), (0.1, 600.0)  # what a machine may have; own judgement
M_MIN = 60 / 1000  # m/min of a mm/s


@dataclass(frozen=True, slots=True)
class ClockedProgram:
    """A program whose cycle was clocked.

    Args:
        name: job and program, as it is listed.
        loads: that were timed.
        clock_s: the middle one of them. [s]
        parts: of its time.
    """

    name: str
    loads: int
    clock_s: float
    parts: TimeParts


@dataclass(frozen=True, slots=True)
class Learned:
    """What programs and clock say of a machine.

    Args:
        change_s: a tool change; None where they do not say it. [s]
        rapid_m_min: None where they do not say it. [m/min]
        accel_m_s2: None where they do not say it. [m/s²]
        off_s: how far the clock and the sum still are apart, root mean square. [s]
    """

    change_s: float | None = None
    rapid_m_min: float | None = None
    accel_m_s2: float | None = None
    off_s: float = 0.0

    @property
    def says(self) -> bool:
        """True if anything was learned."""
        return any(one is not None for one in (self.change_s, self.rapid_m_min, self.accel_m_s2))


def parts_of(read: ProgramRead) -> TimeParts:
    """Return what the time of a program is made of.

    Args:
        read: what was taken from it.

    Source:
        Gathering speed costs a time in proportion to one over the acceleration while moves are long enough; own derivation.
    """
    slides = read.given.slides
    gather = 0.0
    if read.trapezoid_s is not None and slides.accel_mm_s2 is not None:
        gather = (read.trapezoid_s - read.simple_s) * slides.accel_mm_s2
    rates = slides.rapid_mm_min
    rapid_mm = read.rapid_s / 60 * max(rates) if rates is not None else read.tally.rapid_mm
    feed = read.simple_s - read.change_s - read.rapid_s
    return TimeParts(round(feed, 2), read.tally.changes, round(rapid_mm, 1), round(gather, 1))


def learn(programs: Sequence[ClockedProgram], rapid_m_min: float | None, accel_m_s2: float | None) -> Learned:
    """Return what clocked programs say of a machine: as many of its figures as they tell apart.

    Args:
        programs: at least one.
        rapid_m_min: as the machine has it now; None while not known. [m/min]
        accel_m_s2: the same. [m/s²]

    Source:
        clock = feed + changes · n + rapids / rate + gathering / acceleration, by non-negative least squares (scipy); own
        derivation. What the clock has beyond the program's moves, doors and spindle starts too, counts as tool changes.
    """
    pace = 1 / (rapid_m_min / M_MIN) if rapid_m_min else None
    slack = 1 / (accel_m_s2 * 1000) if accel_m_s2 else None
    known = {"change": None, "rapid": pace, "accel": slack}
    for wanted in (("change", "rapid", "accel"), ("change", "rapid"), ("change",), ("rapid",)):
        rest = {
            name: value for name, value in known.items() if name not in wanted and _needed(programs, name)
        }
        if len(programs) < len(wanted):
            continue
        told = {name: value for name, value in rest.items() if value is not None}
        found = _solved(programs, wanted, told) if len(told) == len(rest) else None
        if found is not None:
            return found
    return Learned()


def _needed(programs: Sequence[ClockedProgram], name: str) -> bool:
    """True if a figure that is not asked for plays a part."""
    return any(_column(one, name) > 0 for one in programs)


def _column(one: ClockedProgram, name: str) -> float:
    parts = one.parts
    return {"change": float(parts.changes), "rapid": parts.rapid_mm, "accel": parts.gather_mm_s}[name]


def _solved(
    programs: Sequence[ClockedProgram], wanted: tuple[str, ...], known: dict[str, float]
) -> Learned | None:
    """The wanted figures; None where the programs do not tell them apart or what comes out is no machine's."""
    import numpy as np  # noqa: PLC0415 - numpy takes 0.1 s, and few pages need it
    from scipy.optimize import nnls  # noqa: PLC0415 - the same

    rows = np.array([[_column(one, name) for name in wanted] for one in programs])
    rest = np.array(
        [
            one.clock_s - one.parts.feed_s - sum(_column(one, name) * value for name, value in known.items())
            for one in programs
        ]
    )
    sizes = np.sqrt((rows**2).sum(axis=0))
    if (sizes <= 0).any() or np.linalg.cond(rows / sizes) > MOST_ALIKE:
        return None
    values, off = nnls(rows / sizes, rest)
    by_name = dict(zip(wanted, (values / sizes).tolist(), strict=True))
    change = by_name.get("change")
    rapid = _inverse(by_name.get("rapid"), M_MIN)
    accel = _inverse(by_name.get("accel"), 1 / 1000)
    for name, value, (low, high) in (
        ("change", change, CHANGES),
        ("rapid", rapid, RAPIDS),
        ("accel", accel, ACCELS),
    ):
        if name in wanted and (value is None or not low <= value <= high):
            return None
    return Learned(change, rapid, accel, float(off) / sqrt(len(programs)))


def _inverse(value: float | None, by: float) -> float | None:
    return None if not value else by / value
