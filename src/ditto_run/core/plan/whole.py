"""Whether a plan that came from a file holds together."""

from collections.abc import Sequence
from typing import Any

from ditto_run.core.errors import BadEntry
from ditto_run.core.place import Station
from ditto_run.core.place.station import MOST_PIECES
from ditto_run.core.plan.document import LISTS, Plan
from ditto_run.core.sheet_kinds import sheet_of

AGAIN = "Export it again."


def check_whole(plan: Plan) -> None:
    """Raise NotFound or BadEntry if a plan refers to something that is not in it, or uses a number twice.

    Edits keep a plan whole; a plan that comes from a file may be anything.
    """
    parts = [one.key for one in plan.all_parts]
    if len(set(parts)) != len(parts) or any(one.plan.companions for one in plan.companions):
        raise BadEntry("A part of the plan stands in it twice.", AGAIN)
    for where, _, _ in LISTS.values():
        numbers = [thing.key for one in plan.all_parts for thing in getattr(one.plan, where)]
        if any(not 0 < number < plan.next_number for number in numbers) or len(set(numbers)) != len(numbers):
            raise BadEntry("A number of the plan is used twice, or out of its row.", AGAIN)
    for one in plan.all_parts:
        _check_part(plan.seen_from(one.key))


def _check_part(plan: Plan) -> None:
    """Raise NotFound or BadEntry if what is planned for one part refers to something that is not in the job."""
    belong: tuple[Sequence[Any], ...] = (plan.stations, plan.tool_steps, plan.placed, plan.layouts)
    for group in belong:
        for thing in group:
            plan.setup(thing.setup)
    for station in plan.stations:
        _check_station(plan, station)
    for sheet in plan.sheets:
        sheet_of(sheet.kind)


def _check_station(plan: Plan, station: Station) -> None:
    if not 1 <= station.pieces <= MOST_PIECES:
        raise BadEntry(f"Station {station.label[:10]} takes {station.pieces} pieces.", AGAIN)
    if station.placed:
        plan.holder(station.placed)
    if station.cycle and not plan.is_declared(station.cycle):
        raise BadEntry(f"Station {station.label[:10]} is in a cycle that is not there.", AGAIN)
