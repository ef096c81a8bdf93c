"""What holds from block to block while a program is read."""

from dataclasses import dataclass, field

from ditto_run.core.program.clock import FeedRate
from ditto_run.core.program.dialect import Meanings

MM_PER_IN = 25.4
M_PER_FT = 0.3048


@dataclass(slots=True)
class CycleWords:
    """Words of a cycle that hold until it ends: retract level and bottom [mm], peck [mm], dwell [s], and the level before it."""

    r: float | None = None
    z: float | None = None
    q: float | None = None
    p: float = 0.0
    level: float | None = None
    x: float | None = None  # of a lathe's cycle
    taper: float = 0.0


@dataclass(slots=True)
class Modes:
    """What holds.

    Args:
        motion: code of the motion; empty while none holds.
        plane: 17, 18 or 19.
        absolute: False in G91.
        unit: in which numbers are.
        feed_mode: 93, 94 or 95.
        feed: as said in that mode [mm/min, mm or 1/min]; None while none is.
        turns: direction of the spindle, 3 or 4; empty where it stands.
        speed: S as said [rev/min or m/min]; None while none is.
        held: True where the surface speed is held.
        cap: of a held speed; 0 for none. [rev/min]
        mist, flood: coolant that is on.
        next_tool: that is prepared; None while none is.
        diameter: True where X is a diameter.
        offset: code of the work offset.
        offset_said: True once a word said it.
        to_level: True for G98: out to the level before the cycle.
        absolute_arcs: True in G90.1.
        length_said: True once G43 was said with the tool that is in.
        cycle: its words.
    """

    motion: str
    plane: str
    unit: str
    feed_mode: str
    diameter: bool
    absolute: bool = True
    feed: float | None = None
    turns: str = ""
    speed: float | None = None
    held: bool = False
    cap: float = 0.0
    mist: bool = False
    flood: bool = False
    next_tool: int | None = None
    offset: str = "G54"
    offset_said: bool = False
    to_level: bool = True
    absolute_arcs: bool = False
    length_said: bool = False
    cycle: CycleWords = field(default_factory=CycleWords)
    _rated: tuple[object, ...] = ()
    _rate: FeedRate = field(default_factory=FeedRate)

    @property
    def scale(self) -> float:
        """Millimetres of a unit, [mm]."""
        return MM_PER_IN if self.unit == "in" else 1.0

    @property
    def by_diameter(self) -> float:
        """What a number of X is divided by, [-]."""
        return 2.0 if self.diameter else 1.0

    def rate(self) -> FeedRate:
        """Return how fast a cut is fed; in G93 each block says it for itself."""
        now = (self.feed_mode, self.feed, self.turns, self.speed, self.held, self.cap)
        if now != self._rated:
            self._rated, self._rate = now, self._new_rate()
        return self._rate

    def _new_rate(self) -> FeedRate:
        if self.feed_mode == "93" or self.feed is None or self.feed <= 0:
            return FeedRate()
        if self.feed_mode == "94":
            return FeedRate(mm_min=self.feed)
        speed = self.speed or 0.0
        if not self.turns or speed <= 0:
            return FeedRate()
        if self.held:
            return FeedRate(mm_rev=self.feed, m_min=speed, cap_rpm=self.cap)
        return FeedRate(mm_rev=self.feed, rpm=speed)


def modes_of(dialect: Meanings) -> Modes:
    """Return what holds when the power comes on."""
    return Modes(
        motion="",
        plane="18" if dialect.turns else "17",
        unit=dialect.start_unit,
        feed_mode=dialect.feed.removeprefix("G"),
        diameter=dialect.turns and dialect.x == "diameter",
    )
