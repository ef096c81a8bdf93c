"""Stations whose work offset was set again since the first piece was accepted, and not gauged since."""

from collections.abc import Mapping
from dataclasses import dataclass

from ditto_run.core.place.offsets import Offset
from ditto_run.core.run.events.adjustment import FOLLOWED
from ditto_run.core.run.state import RunState


@dataclass(frozen=True, slots=True)
class MovedStation:
    """One station that wants a look: its offset was set again since the proof."""

    label: str
    offset: Offset

    @property
    def say(self) -> str:
        """What happened, in one sentence."""
        return f"{self.offset.code} at {self.label} was set again."


def moved_since_proof(state: RunState, offsets: Mapping[str, Offset]) -> tuple[MovedStation, ...]:
    """Return the stations of the running setup whose offset was changed in the register since its proof.

    A change made through the run has its own notch and is left out; a station is clear again once a piece that was
    started after the change has been gauged.

    Args:
        state: the run.
        offsets: the register of the setup's machine.
    """
    run = state.here
    if not run.proven:
        return ()
    found = []
    for station in state.plan.cycle(state.cycle).stations:
        offset = offsets.get(station.offset or "")
        if (
            offset is None
            or offset.at is None
            or offset.at <= run.proven.get(station.setup, offset.at)
            or offset.how.startswith(FOLLOWED)
        ):
            continue
        fresh = {
            piece
            for load in run.loads
            if load.started_at and load.started_at > offset.at
            for piece in load.pieces
        }
        mine = {number for _, number in run.at_station.get(station.label, ())} & fresh
        if not any(key[0] == station.setup for number in mine for key in state.pieces[number].gaugings):
            found.append(MovedStation(station.label, offset))
    return tuple(found)
