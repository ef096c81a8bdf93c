"""How smooth an edge with a round nose leaves a turned face, by its feed."""

from math import sqrt

RA_OF_RZ = 4 / (9 * sqrt(3))  # of a row of even arcs: mean distance from their mean line over their height
STANDARD_NOSES_MM = (0.2, 0.4, 0.8, 1.2, 1.6, 2.4)


def turned_ra_um(feed_mm: float, nose_mm: float) -> float:
    """Return the arithmetic mean roughness that feed and nose leave, [µm]; what shakes, builds up or is worn comes on top.

    Args:
        feed_mm: a turn. [mm]
        nose_mm: radius of the nose. [mm]

    Source:
        Arcs of height f² / 8 r, of which 4 / (9 √3) is the mean distance; own derivation.

    Example:
        >>> round(turned_ra_um(0.2, 0.8), 2)
        1.6
    """
    return 1000 * feed_mm**2 / (8 * nose_mm) * RA_OF_RZ


def feed_for_ra_mm(ra_um: float, nose_mm: float) -> float:
    """Return the feed at which feed and nose leave so much, [mm].

    Args:
        ra_um: arithmetic mean roughness. [µm]
        nose_mm: radius of the nose. [mm]

    Source:
        The same, turned round.
    """
    return sqrt(ra_um / 1000 * 8 * nose_mm / RA_OF_RZ)
