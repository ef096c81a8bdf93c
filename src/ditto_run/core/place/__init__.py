"""Stations and their work offsets, and the layout of holders on a machine's table."""

from ditto_run.core.place.clashes import Clash, clashes, swing_ring
from ditto_run.core.place.placed import Layout, Placed, Seat, Standing, expected_mm, ring, stand
from ditto_run.core.place.station import Station, check_station, place_findings, together_findings

__all__ = [
    "Clash",
    "Layout",
    "Placed",
    "Seat",
    "Standing",
    "Station",
    "check_station",
    "clashes",
    "expected_mm",
    "place_findings",
    "ring",
    "stand",
    "swing_ring",
    "together_findings",
]
