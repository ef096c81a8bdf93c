"""The speed sheet: how fast a tool turns and is fed, on one scale with the handbook and the machine's end."""

from dataclasses import dataclass

from ditto_run.core.entry.quantity import in_system, mark_of, quantity_text
from ditto_run.core.findings import Finding
from ditto_run.core.sheets import Answer, Entries, Entry, Fact, Known, SheetKind
from ditto_run.core.shop.abilities import read_speeds
from ditto_run.core.shop.groups import GROUP_NAMES, group_named
from ditto_run.core.tools.cutting.speed import Speed, Spindle, band_of, take_speed, usual_feed_mm
from ditto_run.core.tools.cutting.work import WORKS, Work
from ditto_run.core.units import LengthUnit, bare_length, length_text

EDGES = ("HSS", "carbide")
MOST_RPM = 200_000
WHOLE_FROM = 100  # rev/min; a slower one is told to a tenth
UNEVEN = 0.5  # of the feed a tooth, from which runout is worth a question; own judgement
BEYOND = 1.5  # times the handbook's fastest, from which a speed is worth a word; own judgement


@dataclass(frozen=True, slots=True)
class CutSpeed:
    """How fast a tool turns and is fed.

    Args:
        work: kind of cutting.
        across_mm: of the tool, or of the work that turns. [mm]
        speed: of the spindle.
        feed_mm: a tooth when milling, else a turn. [mm]
        teeth: of a milling cutter; 1 for others.
    """

    work: Work
    across_mm: float
    speed: Speed
    feed_mm: float
    teeth: int

    @property
    def feed_mm_min(self) -> float:
        """How fast it moves, [mm/min]."""
        return self.feed_mm * self.teeth * self.speed.rpm


def compute(entries: Entries, known: Known) -> Answer:
    """Return the answer of the speed sheet.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    work = WORKS[WORKS.index(_chosen(entries, "work", WORKS))]
    across = float(entries.mm("across", "12"))
    group = group_named(_chosen(entries, "group", GROUP_NAMES))
    band = band_of(group, work, carbide=entries.choice("edge", EDGES) == "carbide")
    spindle = Spindle(
        float(entries.number("most", 1, MOST_RPM)) if entries.has("most") else None,
        tuple(float(one) for one in read_speeds(entries.text("speeds"))),
    )
    rpm = float(entries.whole("rpm", 1, MOST_RPM)) if entries.has("rpm") else None
    own = float(entries.quantity("own", 0.1, 5000)) if entries.has("own") else None
    speed = take_speed(band, across, spindle, own_m_min=own, own_rpm=rpm)
    feed, teeth = _feed(entries, work, across, soft=group.soft)
    turning = CutSpeed(work, across, speed, feed, teeth)
    unit, runout = known.unit, float(entries.maybe_mm("runout", above=False) or 0)
    return Answer(
        f"{_rpm(speed.rpm)}.",
        _why(speed, turning, unit),
        (
            Fact("Cutting speed", quantity_text("speed", speed.speed_m_min, unit)),
            Fact("Feed a tooth" if work == "mill" else "Feed a turn", length_text(feed, unit)),
            Fact("Feed a minute", length_text(turning.feed_mm_min, unit, 0)),
            Fact("Handbook", f"{_rpm(speed.band_rpm[0], bare=True)} to {_rpm(speed.band_rpm[1])}"),
            *_runs_out(runout, turning, unit),
        ),
        findings=tuple(_findings(speed, spindle) + _uneven(runout, turning, unit)),
        picture=speed,
        picture_says=_picture_says(speed),
        result=turning,
        source="handbook speeds from memory, orders only; the tool maker’s go before them, the machine’s manual before all",
    )


def _chosen(entries: Entries, name: str, allowed: tuple[str, ...]) -> str:
    """A choice that somebody made: the first one is nobody's."""
    entries.need(name, allowed[0])
    return entries.choice(name, allowed)


def _feed(entries: Entries, work: Work, across: float, *, soft: bool) -> tuple[float, int]:
    """Feed a tooth or a turn, and how many teeth share it, [mm]."""
    if work in {"tap", "thread"}:
        return float(entries.mm("pitch", "1.25")), 1
    feed = entries.maybe_mm("feed")
    teeth = entries.whole("teeth", 1, 200, 2) if work == "mill" else 1
    return (float(feed) if feed is not None else usual_feed_mm(work, across, soft=soft)), teeth


def _rpm(value: float, *, bare: bool = False) -> str:
    shown = f"{value:,.0f}" if value >= WHOLE_FROM else f"{value:.1f}".removesuffix(".0")
    return shown if bare else f"{shown} rev/min"


def _why(speed: Speed, turning: CutSpeed, unit: LengthUnit) -> str:
    low, high = (in_system("speed", one, unit) for one in speed.band_m_min)
    across = bare_length(turning.across_mm, unit)
    ends = "" if speed.end_rpm is None else f" The machine ends at {_rpm(speed.end_rpm)}."
    return f"Handbook {low} to {high} {mark_of('speed', unit)} at Ø{across}.{ends}"


def _picture_says(speed: Speed) -> str:
    ends = "" if speed.end_rpm is None else f", the machine ends at {_rpm(speed.end_rpm, bare=True)}"
    low, high = (_rpm(one, bare=True) for one in speed.band_rpm)
    return f"Speeds on one scale: handbook {low} to {high}{ends}, taken {_rpm(speed.rpm)}."


def _runs_out(runout: float, turning: CutSpeed, unit: LengthUnit) -> list[Fact]:
    """What a cutter that runs out does: one tooth takes more, a hole comes out larger."""
    if not runout or turning.work not in {"mill", "drill", "ream"}:
        return []
    if turning.work == "mill":
        return [
            Fact("Thickest tooth", length_text(turning.feed_mm + runout, unit), "feed and runout, at worst")
        ]
    return [Fact("Hole larger by", length_text(runout, unit), "at worst, where nothing guides it")]


def _uneven(runout: float, turning: CutSpeed, unit: LengthUnit) -> list[Finding]:
    if turning.work != "mill" or turning.teeth < 2 or runout <= UNEVEN * turning.feed_mm:  # noqa: PLR2004 - one tooth is even
        return []
    return [
        Finding(
            "tools",
            "ask",
            "runs-out",
            f"It runs out by {length_text(runout, unit)}, and a tooth is fed {length_text(turning.feed_mm, unit)}.",
            "One tooth does the work of several: clean taper and collet, or turn it in the collet.",
            ground=f"{runout:.4f} {turning.feed_mm:.4f}",
        )
    ]


def _findings(speed: Speed, spindle: Spindle) -> list[Finding]:
    found = []
    if speed.end_rpm is not None and speed.rpm > speed.end_rpm * (1 + 1e-9):
        found.append(
            Finding(
                "tools",
                "ask",
                "over-speed",
                f"{_rpm(speed.rpm)} is said, and the machine turns {_rpm(speed.end_rpm)} at most.",
                "Say a speed it has, or correct the machine on Shop.",
                ground=f"{speed.rpm:.6g} {speed.end_rpm:.6g}",
            )
        )
    elif spindle.speeds_rpm and all(abs(speed.rpm - one) > 0.01 * one for one in spindle.speeds_rpm):
        near = min(spindle.speeds_rpm, key=lambda one: abs(one - speed.rpm))
        found.append(
            Finding(
                "tools",
                "ask",
                "no-such-speed",
                f"{_rpm(speed.rpm)} is said, and the machine has no such speed; the nearest is {_rpm(near)}.",
                "Say one of its speeds, or correct the machine on Shop.",
                ground=f"{speed.rpm:.6g} {near:.6g}",
            )
        )
    if speed.rpm > BEYOND * speed.band_rpm[1]:
        found.append(
            Finding(
                "tools",
                "note",
                "over-handbook",
                f"{_rpm(speed.rpm)} is over {BEYOND:g} times the handbook’s fastest.",
                "Right where the tool’s maker says so.",
            )
        )
    if speed.end_rpm is not None and speed.end_rpm < speed.band_rpm[0]:
        found.append(
            Finding(
                "tools",
                "note",
                "slow-machine",
                "The machine ends below the handbook’s slowest: the cut takes longer, and the tool lasts.",
                "A machine that turns faster would be quicker.",
            )
        )
    return found


SPEED = SheetKind(
    "speed",
    "tools",
    "Speed and feed",
    (
        Entry("rpm", "Speed of the spindle"),
        Entry("work", "Cut", kind="choose", choices=WORKS),
        Entry("across", "Tool, or work that turns, Ø"),
        Entry("group", "Material", kind="choose", choices=GROUP_NAMES),
        Entry("edge", "Cuts with", kind="choose", choices=EDGES),
        Entry("own", "The shop’s cutting speed", quantity="speed"),
        Entry("most", "The machine’s fastest"),
        Entry("speeds", "Speeds of belts or gears"),
        Entry("feed", "Feed, a tooth or a turn"),
        Entry("teeth", "Teeth"),
        Entry("pitch", "Pitch"),
        Entry("runout", "Its runout"),
    ),
    compute,
)
