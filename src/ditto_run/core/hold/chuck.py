"""A turned part in a chuck or collet, looked at by size: how far it is gripped, and what is turned there."""

from collections.abc import Iterator

from ditto_run.core.findings import Finding, Weight
from ditto_run.core.hold.heights import Vise
from ditto_run.core.hold.pieces import InSetup, Removed
from ditto_run.core.hold.setup import Setup
from ditto_run.core.part.faces import BAR
from ditto_run.core.part.shape.body import TINY, radius_at
from ditto_run.core.part.shape.laid import Shaped
from ditto_run.core.units import LengthUnit, length_text

NEAR_END = 0.001  # just inside an end, where nothing says how far it is gripped; [mm]


def held_end(setup: Setup) -> str:
    """Return the end that is held: where it is clamped or sits, else the chuck end; the bar's is the chuck end."""
    named = [
        surface for surface in (*setup.clamps_on, *setup.locates_on) if surface in {"free end", "chuck end"}
    ]
    return named[0] if named and BAR not in setup.clamps_on else "chuck end"


def zone_of(piece: InSetup, jaws: float | None = None) -> tuple[float, float] | None:
    """Return from where to where along the axis the piece is gripped, as it goes in, [mm]; None while nothing says it.

    Args:
        piece: the piece in and out.
        jaws: how deep the chuck grips, as the register has it; what is typed on the setup goes before it. [mm]
    """
    held, before = piece.setup.held, piece.before
    start, end = before.low[0], before.high[0]
    free = held_end(piece.setup) == "free end"
    if held.stick_out_mm is not None:
        out = float(held.stick_out_mm)
        return (start, end - out) if free else (start + out, end)
    grip = float(held.grip_mm) if held.grip_mm is not None else jaws
    if grip is not None and BAR not in piece.setup.clamps_on:
        return (start, start + grip) if free else (end - grip, end)
    return None


def span_findings(
    piece: InSetup, zone: tuple[float, float] | None, vise: Vise, unit: LengthUnit
) -> tuple[Finding, ...]:
    """Return that a chuck or collet does not take the diameter it is to grip, as the register has its span.

    Args:
        piece: the piece in and out.
        zone: where it is gripped; None while not known, then the held end. [mm]
        vise: the holder, with what it spans.
        unit: in which lengths are said.
    """
    before, setup = piece.before, piece.setup
    ends = (before.low[0] + NEAR_END, before.high[0] - NEAR_END)
    at = sum(zone) / 2 if zone is not None else ends[held_end(setup) != "free end"]
    across = 2 * radius_at(before.profile, at)
    small = vise.least is not None and across < vise.least - TINY
    large = vise.opens is not None and across > vise.opens + TINY
    if not across or not (small or large):
        return ()
    limit = vise.least if small else vise.opens
    takes = f"{vise.name} takes {length_text(limit or 0.0, unit)} at {'least' if small else 'most'}"
    problem = f"{takes}, and the piece is {length_text(across, unit)} there."
    return (
        Finding(
            "hold",
            "stop",
            "does-not-span",
            f"{setup.name}: {problem}",
            "Take another holder, or another size of collet.",
            f"setup {setup.key}",
            problem,
        ),
    )


def sawn_findings(piece: InSetup, shaped: Shaped) -> tuple[Finding, ...]:
    """Return that a piece sits in its chuck on an end that is still as it was sawn.

    Args:
        piece: the piece in and out.
        shaped: the part; stock beyond its end says that the end is not faced yet.
    """
    setup, before, body = piece.setup, piece.before, shaped.body
    end = held_end(setup)
    if body is None or BAR in setup.clamps_on or end not in setup.locates_on:
        return ()
    beyond = before.high[0] - body.high[0] if end == "chuck end" else body.low[0] - before.low[0]
    if beyond <= TINY:
        return ()
    problem = f"it sits on its sawn {end}, which is seldom square: short jaws let it tilt."
    return (
        Finding(
            "hold",
            "note",
            "sawn-end",
            f"{setup.name}: {problem}",
            "Leave a gap behind it, or put a small stop in the middle, and tap it true before it is tightened; common practice.",
            f"setup {setup.key}",
            problem,
        ),
    )


def chuck_findings(piece: InSetup, zone: tuple[float, float], unit: LengthUnit) -> Iterator[Finding]:
    """Return what is wrong with how a turned piece is held, and what is turned where it is gripped."""
    setup = piece.setup

    def ask(code: str, problem: str, remedy: str, weight: Weight = "ask") -> Finding:
        return Finding(
            "hold", weight, code, f"{setup.name}: {problem}", remedy, f"setup {setup.key}", problem
        )

    if zone[1] - zone[0] <= TINY:
        yield ask("no-grip", "nothing of the piece is in the jaws.", "Let less stick out.", "stop")
        return
    for step in piece.steps:
        reach = (
            [(step.outer[0][0], step.outer[-1][0])] if step.outer and _cuts_there(piece, step, zone) else []
        )
        reach += [cut.reach("x") for cut in step.cuts if cut.key is not None and cut.axis != "x"]
        # a part-off or a facing of the held end is inside the jaws as far as they reach beyond it
        reach += [
            (zone[0], cut.low)
            for cut in step.cuts
            if cut.key is None and cut.face == "chuck end" and cut.low < zone[1]
        ]
        deep = max((min(b, zone[1]) - max(a, zone[0]) for a, b in reach), default=0.0)
        if deep > TINY:
            yield ask(
                "cut-meets-jaws",
                f"{step.feature.name} runs {length_text(deep, unit)} into the jaws.",
                "Let more stick out, grip less, or make it in another setup.",
                "stop",
            )
    stick = (
        zone[0] - piece.before.low[0] if held_end(setup) == "chuck end" else piece.before.high[0] - zone[1]
    )
    r = radius_at(piece.before.profile, sum(zone) / 2)
    if r > 0 and not setup.centres and stick > 6 * r + TINY:
        yield ask(
            "stick-out-long",
            f"{length_text(stick, unit)} sticks out, {stick / (2 * r):.1f} times its diameter; 3 is usual without a centre.",
            "Support it with a centre or a steady, or cut it in stretches; common practice.",
        )


def _cuts_there(piece: InSetup, step: Removed, zone: tuple[float, float]) -> bool:
    """True where the outside a feature leaves is smaller than the piece in the gripped stretch."""
    a, b = max(step.outer[0][0], zone[0]), min(step.outer[-1][0], zone[1])
    if b - a <= TINY:
        return False
    at = (a + b) / 2
    return radius_at(step.outer, at) < radius_at(piece.before.profile, at) - TINY
