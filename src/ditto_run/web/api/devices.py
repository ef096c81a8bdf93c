"""What devices send: a gauge its line, a machine its document. Each brings the key of its row on Shop, Devices."""

from secrets import compare_digest
from typing import Annotated

from fastapi import APIRouter, Header
from pydantic import BaseModel, Field

from ditto_run.core.errors import NotFound, NotNow
from ditto_run.core.shop.devices import Device, DeviceKind
from ditto_run.desk import Desk
from ditto_run.devices.listening import listen, take_reading
from ditto_run.formats.gauge_lines import read_line
from ditto_run.formats.mtconnect import MOST_CHARACTERS, read_streams
from ditto_run.web.api.errors import ERRORS
from ditto_run.web.api.strict import Sent
from ditto_run.web.dependencies import DeskDep

router = APIRouter(prefix="/api/v1/devices", tags=["devices"], responses=ERRORS)
KeyDep = Annotated[str, Header(alias="X-Device-Key", max_length=200)]


class LineIn(Sent):
    """A line of a gauge; `run` 0 is the one written to last."""

    line: str = Field(max_length=200)
    client_key: str = Field(min_length=1, max_length=80)
    run: int = Field(0, ge=0, le=2**31)
    cycle: int = Field(0, ge=0, le=2**31)


class LineTaken(BaseModel):
    """What was said about a reading; empty where it was known already."""

    said: str


class DocumentIn(Sent):
    """A document of streams; the run is the open one that is cut on this machine."""

    document: str = Field(max_length=MOST_CHARACTERS)


class DocumentTaken(BaseModel):
    """How many lines were written, what the run did not take, and what to ask the agent for next."""

    written: int
    refused: list[str]
    next_sequence: int


def device_of(desk: Desk, key: str, kind: DeviceKind) -> Device:
    """Return the device that a key belongs to.

    Raises:
        NotFound: if it is none of that kind.
    """
    for row in desk.drawers.rows("devices"):
        found: Device = row.value
        if found.kind == kind and compare_digest(found.key.encode(), key.encode()):
            return found
    raise NotFound("device with that key", "", "List it on Shop, Devices, and send its key as X-Device-Key.")


@router.post("/reading")
def reading(sent: LineIn, desk: DeskDep, key: KeyDep = "") -> LineTaken:
    """Write what a gauge sent as the reading that is asked for."""
    device = device_of(desk, key, "gauge")
    gauges = desk.shop.load().gauges
    gauge = next((one.id for one in gauges.values() if one.name.lower() == device.of.lower()), 0)
    run_id = sent.run or desk.runs.last_used()
    if not run_id:
        raise NotNow("No run is open.", "Start one on Run.")
    line = read_line(sent.line)
    return LineTaken(
        said=take_reading(desk, run_id, sent.cycle, line, gauge, f"gauge-{sent.client_key}"[:80])
    )


@router.post("/machine")
def machine(sent: DocumentIn, desk: DeskDep, key: KeyDep = "") -> DocumentTaken:
    """Write what a machine said into the run that is cut on it."""
    device = device_of(desk, key, "machine")
    streams = read_streams(sent.document)
    shop = desk.shop.load()
    number = next((one.id for one in shop.machines.values() if one.name.lower() == device.of.lower()), 0)
    for run_id in dict.fromkeys((desk.runs.last_used(), *desk.runs.of_jobs().values())):
        if not run_id or not number:
            continue
        with desk.runs.folded(run_id) as state:
            here = [key for key in state.cycles if state.plan.cycle(key).machine_id == number]
            is_open = state.closed_at is None
        if is_open and here:
            heard = listen(desk, run_id, here[-1], streams)
            return DocumentTaken(
                written=heard.written, refused=list(heard.refused), next_sequence=heard.next_sequence
            )
    raise NotNow(f"No open run is cut on {device.of}.", "Start one on Run, in a cycle of that machine.")
