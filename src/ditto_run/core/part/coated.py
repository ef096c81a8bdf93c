"""Characteristics through a finish: what is gauged at the machine is worked back from what the drawing says."""

from collections.abc import Sequence
from dataclasses import replace
from decimal import Decimal

from ditto_run.core.findings import Finding
from ditto_run.core.part.characteristic import Characteristic
from ditto_run.core.part.finish import FACTOR, Finish, Window, window_before
from ditto_run.core.sizes import Size
from ditto_run.core.units import LengthUnit, small_text


def finish_of(c: Characteristic, finishes: Sequence[Finish]) -> Finish | None:
    """Return the finish a characteristic gets, or None."""
    return next((finish for finish in finishes if finish.key == c.finish), None)


def window_of(c: Characteristic, finishes: Sequence[Finish]) -> Window | None:
    """Return the window before the finish, or None where the finish does not change what is gauged.

    Args:
        c: the characteristic.
        finishes: finishes of the part.
    """
    finish, drawn = finish_of(c, finishes), c.drawing
    changes = finish is not None and FACTOR[c.face] and c.limits_hold == "finished" and drawn.has_limits
    if not changes or finish is None or drawn.unit == "arcsec" or drawn.kind == "thread":
        return None
    unit: LengthUnit = "in" if drawn.unit == "in" else "mm"
    decimals = max(drawn.decimals, 3 if unit == "mm" else 4)
    return window_before(
        (drawn.lower, drawn.upper), unit, FACTOR[c.face], finish.build_up_um(c.face), decimals
    )


def as_machined(c: Characteristic, finishes: Sequence[Finish]) -> Characteristic:
    """Return the characteristic with the size that is gauged before the finish, the drawing's kept beside it.

    Where the finish's own range eats the tolerance there is no such size; the drawing's stays, and
    `finish_findings` says so.
    """
    window, drawn = window_of(c, finishes), c.drawing
    if window is None or not window.possible:
        return replace(c, size=drawn, finished=None)
    ends = [end for end in (window.low, window.high) if end is not None]
    aim = window.aim if window.aim is not None else ends[0]
    decimals = max(drawn.decimals, 3 if drawn.unit == "mm" else 4)
    before = Size(drawn.text, drawn.unit, decimals, aim, window.low, window.high, drawn.kind)
    return replace(c, size=before, finished=drawn)


def finish_findings(characteristics: Sequence[Characteristic], finishes: Sequence[Finish]) -> list[Finding]:
    """Return what a finish makes impossible: its own range is wider than the tolerance."""
    found = []
    for c in characteristics:
        window = window_of(c, finishes)
        finish = finish_of(c, finishes)
        if window is not None and finish is not None and not window.possible:
            width = (c.drawing.upper or Decimal(0)) - (c.drawing.lower or Decimal(0))
            found.append(
                Finding(
                    "part",
                    "ask",
                    "finish-eats-tolerance",
                    f"{c.name}: the {finish.name} alone varies by {small_text(window.eaten, c.drawing.unit)}, "
                    f"the tolerance is {small_text(width, c.drawing.unit)}.",
                    "Ask for a narrower film, mask the face, or agree limits before the finish.",
                )
            )
    return found
