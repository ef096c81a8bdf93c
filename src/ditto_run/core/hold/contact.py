"""A setup as it is held, by size: heights, what is gripped, and what its cuts meet."""

from ditto_run.core.hold.arbor import OnArbor
from ditto_run.core.hold.chuck import chuck_findings, sawn_findings, span_findings, zone_of
from ditto_run.core.hold.heights import ARBOR, Contact, Vise
from ditto_run.core.hold.jaws import BetweenJaws
from ditto_run.core.hold.pieces import InSetup
from ditto_run.core.part.shape.laid import Shaped
from ditto_run.core.units import LengthUnit


def contact_of(piece: InSetup, shaped: Shaped, vise: Vise, unit: LengthUnit) -> Contact:
    """Return how a piece is held in a setup, and what its cuts meet.

    Args:
        piece: the piece in and out.
        shaped: the part.
        vise: the jaws, as the register or the setup has them.
        unit: in which lengths are said.

    Source:
        Rules of the Hold step: clamp and cut surfaces apart, grip to cut height, something to sit on; own derivation of
        the overlaps.
    """
    if piece.before.profile:
        return _on_a_lathe(piece, shaped, vise, unit)
    look = BetweenJaws(piece, shaped, vise, unit)
    heights = look.heights()
    return Contact(
        piece,
        look.up,
        vise,
        heights,
        None,
        tuple(look.findings(heights)),
        heights.grip is not None and look.axis is not None,
    )


def _on_a_lathe(piece: InSetup, shaped: Shaped, vise: Vise, unit: LengthUnit) -> Contact:
    """A turned part: how far it is gripped along the axis, and what is turned there; or how its bore sits on an arbor."""
    if vise.kind == ARBOR:
        look = OnArbor(piece, shaped, vise, unit)
        return Contact(
            piece, "free end", vise, None, look.zone, tuple(look.findings()), look.zone is not None
        )
    zone = zone_of(piece, vise.high)
    found = span_findings(piece, zone, vise, unit)
    found += tuple(chuck_findings(piece, zone, unit)) if zone is not None else ()
    found += sawn_findings(piece, shaped)
    return Contact(piece, "free end", vise, None, zone, found, zone is not None)
