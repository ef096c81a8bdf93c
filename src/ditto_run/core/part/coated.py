"""Characteristics through a finish: what is gauged at the machine is worked back from what the drawing says."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from decimal import Decimal

from ditto_run.core.errors import BadEntry
from ditto_run.core.findings import Finding
from ditto_run.core.part.characteristic import Characteristic
from ditto_run.core.part.finish import FACTOR, Finish, Window, window_before
from ditto_run.core.sizes import Size, limits_text
from ditto_run.core.threads import read_thread, thread_limits
from ditto_run.core.units import LengthUnit, bare_text, small_text

SIXTY = 60  # the form whose pitch diameter grows by four build-ups
THREADS = {"outside thread", "inside thread"}


def finish_of(c: Characteristic, finishes: Sequence[Finish]) -> Finish | None:
    """Return the finish a characteristic gets, or None."""
    return next((finish for finish in finishes if finish.key == c.finish), None)


def held_limits(c: Characteristic) -> tuple[Decimal | None, Decimal | None, LengthUnit] | None:
    """Return the limits a finish has to respect, and their unit: the drawing's, of a thread those of its pitch diameter.

    None where there are none, or no table of ours carries those of the thread on that side.
    """
    drawn = c.drawing
    if drawn.kind == "thread":
        try:
            thread = read_thread(drawn.name)
            if thread.taper or thread.form != SIXTY or c.face not in THREADS:
                return None
            pitch = thread_limits(thread, "external" if c.face == "outside thread" else "internal").pitch
        except BadEntry:  # a class of the other side, or no thread of ours
            return None
        return pitch.low, pitch.high, thread.unit
    if drawn.unit == "arcsec" or not drawn.has_limits:
        return None
    return drawn.lower, drawn.upper, "in" if drawn.unit == "in" else "mm"


def window_of(c: Characteristic, finishes: Sequence[Finish]) -> Window | None:
    """Return the window before the finish, or None where the finish does not change what is gauged.

    Args:
        c: the characteristic.
        finishes: finishes of the part.
    """
    finish, held = finish_of(c, finishes), held_limits(c)
    if finish is None or held is None or not FACTOR[c.face] or c.limits_hold != "finished":
        return None
    lower, upper, unit = held
    decimals = max(c.drawing.decimals if c.drawing.kind != "thread" else 0, 3 if unit == "mm" else 4)
    return window_before((lower, upper), unit, FACTOR[c.face], finish.build_up_um(c.face), decimals)


def before_and_after(c: Characteristic, window: Window) -> tuple[str, str]:
    """Return the limits as machined and as finished, in words; the first is empty where the finish eats them."""
    held = held_limits(c)
    if held is None or c.drawing.kind != "thread":
        return (limits_text(c.size) if window.possible else ""), limits_text(c.drawing)
    unit = held[2]
    before, after = (
        f"pitch diameter {bare_text(low, unit, places)} to {bare_text(high, unit, places)} {unit}"
        for low, high in ((window.low, window.high), held[:2])
        if low is not None and high is not None
        for places in (3 if unit == "mm" else 4,)
    )
    return (before if window.possible else ""), after


def as_machined(c: Characteristic, finishes: Sequence[Finish]) -> Characteristic:
    """Return the characteristic with the size that is gauged before the finish, the drawing's kept beside it.

    Where the finish's own range eats the tolerance there is no such size; the drawing's stays, and
    `finish_findings` says so.
    """
    window, drawn = window_of(c, finishes), c.drawing
    if window is None or not window.possible or drawn.kind == "thread":  # a thread is gauged GO and NO-GO
        return replace(c, size=drawn, finished=None)
    ends = [end for end in (window.low, window.high) if end is not None]
    aim = window.aim if window.aim is not None else ends[0]
    decimals = max(drawn.decimals, 3 if drawn.unit == "mm" else 4)
    before = Size(drawn.text, drawn.unit, decimals, aim, window.low, window.high, drawn.kind)
    return replace(c, size=before, finished=drawn)


@dataclass(frozen=True, slots=True)
class FinishWeighed:
    """A finish that could be chosen: its name, the size it takes most of, and how much of that size's tolerance, 1 for all of it."""

    name: str
    size: str
    share: float

    @property
    def words(self) -> str:
        """How much it takes, in a sentence."""
        if self.share >= 1:
            return f"{self.name} takes all of the tolerance of {self.size}."
        return f"{self.name} takes {100 * self.share:.0f} % of the tolerance of {self.size}."


def finishes_weighed(
    characteristics: Sequence[Characteristic], finishes: Sequence[Finish]
) -> tuple[FinishWeighed, ...]:
    """Return what each finish would take of the part's tolerances, the least first; nothing where no size says how it changes.

    Args:
        characteristics: of the part; those that say how a finish changes them and have two limits count.
        finishes: that could be chosen.

    Source:
        Range of the build-up over the width between the limits, own derivation; see window_before.
    """
    found = []
    for finish in finishes:
        worst: tuple[float, str] | None = None
        for c in characteristics:
            window, held = window_of(replace(c, finish=finish.key), (finish,)), held_limits(c)
            if window is None or held is None or held[0] is None or held[1] is None or held[1] <= held[0]:
                continue
            share = float(window.eaten / (held[1] - held[0]))
            if worst is None or share > worst[0]:
                worst = share, c.name
        if worst is not None:
            found.append(FinishWeighed(finish.name, worst[1], worst[0]))
    return tuple(sorted(found, key=lambda one: (one.share, one.name)))


def finish_findings(characteristics: Sequence[Characteristic], finishes: Sequence[Finish]) -> list[Finding]:
    """Return what a finish makes impossible: its own range is wider than the tolerance."""
    found = []
    for c in characteristics:
        window = window_of(c, finishes)
        finish = finish_of(c, finishes)
        if window is not None and finish is not None and not window.possible:
            lower, upper, unit = held_limits(c) or (None, None, "mm")
            width = (upper or Decimal(0)) - (lower or Decimal(0))
            found.append(
                Finding(
                    "part",
                    "ask",
                    "finish-eats-tolerance",
                    f"{c.name}: the {finish.name} alone varies by {small_text(window.eaten, unit)}, "
                    f"the tolerance is {small_text(width, unit)}.",
                    "Ask for a narrower film, mask the face, or agree limits before the finish.",
                )
            )
    return found
