"""A block that turns with the spindle, on a face plate or in a four-jaw: what it swings and how far it is out of balance."""

from dataclasses import dataclass
from math import hypot, pi, sqrt

from ditto_run.core.entry.quantity import quantity_text
from ditto_run.core.findings import Finding
from ditto_run.core.hold.heights import Contact, up_of
from ditto_run.core.hold.strength import counterweight_kg
from ditto_run.core.part.shape.block import NORMAL
from ditto_run.core.part.shape.body import AXES, FLAT
from ditto_run.core.part.shape.plane import Disc, Spot
from ditto_run.core.units import LengthUnit, length_text

GRAVITY = 9.80665  # standard fall; [m/s²]
BALANCED = 1.0  # off the axis that is let go; own judgement. [mm]


@dataclass(frozen=True)
class Spinning:
    """A block on a spindle.

    Args:
        about: the feature that runs true.
        at: where it lies, in the order x, y, z of the directions that are level. [mm]
        swing: the circle its farthest corner describes, a diameter. [mm]
        off: from the spindle to the centre of its mass. [mm]
        volume: of the piece as it goes in. [mm³]
    """

    about: str
    at: Spot
    swing: float
    off: float
    volume: float

    @property
    def own_weight_rpm(self) -> float:
        """The speed at which it pulls outward as hard as it weighs, [rev/min].

        Source:
            r ω² = g; own derivation.
        """
        return 30 / pi * sqrt(GRAVITY * 1000 / self.off)


def spinning(held: Contact) -> Spinning | None:
    """Return how a block turns about the first round feature its setup makes from above; None where it makes none.

    Args:
        held: the setup as it is held.
    """
    if held.heights is None:
        return None
    through = NORMAL[up_of(held.setup)][0]
    found = next(
        (
            (step.feature.name, cut.shape)
            for step in held.piece.steps
            for cut in step.cuts
            if cut.axis == through and isinstance(cut.shape, Disc) and not cut.keeps
        ),
        None,
    )
    if found is None:
        return None
    name, disc = found
    before = held.piece.before
    first, second = (AXES.index(axis) for axis in FLAT[through])
    swing = 2 * max(
        hypot(x - disc.x, y - disc.y)
        for x in (before.low[first], before.high[first])
        for y in (before.low[second], before.high[second])
    )
    (x, y), volume = before.centre(through)
    return Spinning(name, (disc.x, disc.y), swing, hypot(x - disc.x, y - disc.y), volume)


def balance_findings(
    held: Contact, density: float | None, plate_mm: float | None, unit: LengthUnit
) -> list[Finding]:
    """Return that a block turns out of balance, with what balances it and the speed at which it pulls its own weight.

    Args:
        held: the setup as it is held.
        density: of the material; None while not known. [g/cm³]
        plate_mm: diameter of the face plate; None while not known. [mm]
        unit: in which lengths are said.
    """
    found = spinning(held)
    if found is None or found.off < BALANCED:
        return []
    off = length_text(found.off, unit, 1)
    pulls = f"above {found.own_weight_rpm:.0f} rev/min it pulls harder than it weighs"
    if density is None:
        problem = f"the middle of its mass lies {off} off {found.about}, which runs true: {pulls}."
    else:
        mass = found.volume / 1e6 * density
        at = (plate_mm or found.swing) / 2
        weight = quantity_text("mass", counterweight_kg(mass, found.off, at), unit, fine=True)
        problem = (
            f"{quantity_text('mass', mass, unit, fine=True)} lies {off} off {found.about}, which runs true: "
            f"{weight} opposite, {length_text(at, unit, 1)} out, balances it; without, {pulls}."
        )
    return [
        Finding(
            "hold",
            "ask",
            "out-of-balance",
            f"{held.setup.name}: {problem}",
            "Balance it with its clamps on, turn it by hand first, start slow; the plate's and the machine's manual come first.",
            f"setup {held.setup.key}",
            f"{found.about} {found.off:.3f}",
        )
    ]
