"""How fast a tool turns and is fed: handbook band, the shop's own, what the machine has."""

from dataclasses import dataclass
from math import sqrt

from ditto_run.core.method.ability import spindle_rpm
from ditto_run.core.shop.groups import Band, MaterialGroup
from ditto_run.core.tools.cutting.work import Work

SHARE: dict[Work, float] = {  # of the speed of turning and milling; common practice, no source
    "turn": 1.0,
    "mill": 1.0,
    "bore": 0.8,
    "drill": 0.8,
    "spot": 0.8,
    "part": 0.6,
    "thread": 0.5,
    "ream": 0.4,
    "knurl": 0.3,
    "tap": 0.25,
}
DRILL_FEED = (0.0125, 0.02)  # a turn, of the drill's diameter: hard and soft; common practice, no source
TOOTH_FEED = (0.005, 0.008)  # a tooth, of the cutter's diameter; the same
TURN_FEED: dict[Work, float] = {
    "turn": 0.2,
    "bore": 0.1,
    "part": 0.05,
    "knurl": 0.3,
}  # a turn; common practice. [mm]
FINISH_FEED = 0.08  # a turn, where the words say finish; common practice. [mm]
LEAST_FEED, MOST_DRILL_FEED, MOST_TOOTH_FEED = 0.005, 0.4, 0.12  # common practice. [mm]
REAM_OVER_DRILL = 2.0  # a reamer is fed about twice as fast as a drill; common practice
THIN_BELOW = 0.5  # of the diameter engaged: from here on the chip is thinner than the feed


@dataclass(frozen=True, slots=True)
class Spindle:
    """Speeds a machine has.

    Args:
        most_rpm: None while not known. [rev/min]
        speeds_rpm: of its belts or gears, the slowest first; empty where any can be set. [rev/min]
    """

    most_rpm: float | None = None
    speeds_rpm: tuple[float, ...] = ()

    @property
    def end_rpm(self) -> float | None:
        """The fastest it turns; None while not known, [rev/min]."""
        return min((*self.speeds_rpm[-1:], *([self.most_rpm] if self.most_rpm else ())), default=None)

    def nearest(self, wanted: float) -> float:
        """Return the speed it is set to: not above what is wanted, as far as it has one so slow, [rev/min]."""
        within = min(wanted, self.end_rpm or wanted)
        slower = [one for one in self.speeds_rpm if one <= within * (1 + 1e-9)]
        return max(slower) if slower else min(self.speeds_rpm, default=within)


@dataclass(frozen=True, slots=True)
class Speed:
    """How fast a tool turns.

    Args:
        band_m_min: cutting speed of the handbook. [m/min]
        band_rpm: the same at this diameter. [rev/min]
        rpm: what the machine is set to. [rev/min]
        speed_m_min: cutting speed at that. [m/min]
        end_rpm: the fastest the machine turns; None while not known. [rev/min]
    """

    band_m_min: Band
    band_rpm: Band
    rpm: float
    speed_m_min: float
    end_rpm: float | None


def band_of(group: MaterialGroup, work: Work, *, carbide: bool) -> Band:
    """Return the handbook's cutting speeds for a kind of work, from and to, [m/min].

    Source:
        Groups from memory; the share of each kind of work is common practice, no source.
    """
    low, high = group.carbide_m_min if carbide else group.hss_m_min
    return low * SHARE[work], high * SHARE[work]


def take_speed(
    band_m_min: Band,
    across_mm: float,
    spindle: Spindle,
    *,
    own_m_min: float | None = None,
    own_rpm: float | None = None,
) -> Speed:
    """Return how fast a tool turns.

    Args:
        band_m_min: cutting speeds of the handbook, from and to. [m/min]
        across_mm: of the cutter, or of the work that turns; above 0. [mm]
        spindle: of the machine.
        own_m_min: cutting speed the shop takes for this material; None for the handbook's. [m/min]
        own_rpm: what somebody says for this tool; goes before all. [rev/min]

    Returns:
        The shop's own where there is one, else the geometric mean of the band, which lies in its lower half; set to
        the next slower speed the machine has.

    Source:
        n = 1000 v / (π D), own derivation; where in the band to begin is common practice, no source.
    """
    low, high = (spindle_rpm(v, across_mm) for v in band_m_min)
    aimed = own_m_min if own_m_min is not None else sqrt(band_m_min[0] * band_m_min[1])
    rpm = own_rpm if own_rpm is not None else spindle.nearest(spindle_rpm(aimed, across_mm))
    return Speed(band_m_min, (low, high), rpm, rpm / spindle_rpm(1, across_mm), spindle.end_rpm)


def usual_feed_mm(work: Work, across_mm: float, *, soft: bool, finish: bool = False) -> float:
    """Return a usual feed: a tooth when milling, else a turn; of a thread or tap 0, which is fed by its pitch, [mm].

    Args:
        work: kind of cutting.
        across_mm: of the tool. [mm]
        soft: True for aluminium, brass and plastics.
        finish: True for a finishing cut of a lathe.

    Source:
        Common practice, no source.
    """
    if work in {"tap", "thread"}:
        return 0.0
    if work == "mill":
        return min(max(TOOTH_FEED[soft] * across_mm, LEAST_FEED), MOST_TOOTH_FEED)
    if work in TURN_FEED:
        return FINISH_FEED if finish and work in {"turn", "bore"} else TURN_FEED[work]
    feed = min(max(DRILL_FEED[soft] * across_mm, LEAST_FEED), MOST_DRILL_FEED)
    return feed * REAM_OVER_DRILL if work == "ream" else feed / 2 if work == "spot" else feed


def thinned(feed_mm: float, width_mm: float, across_mm: float) -> float:
    """Return the largest thickness of a milled chip, [mm]: less than the feed where less than half the cutter engages.

    Args:
        feed_mm: a tooth. [mm]
        width_mm: of the cutter that engages. [mm]
        across_mm: of the cutter. [mm]

    Source:
        h = f sin φ with cos φ = 1 − 2 ae / D, own derivation; [speeds].

    Example:
        >>> round(0.1 / thinned(0.1, 1, 10), 3)
        1.667
    """
    share = width_mm / across_mm
    if share >= THIN_BELOW:
        return feed_mm
    return feed_mm * 2 * sqrt(share * (1 - share))
