"""A whole job as one JSON file: plans, revisions, log, drawings and what of the shop it refers to.

Read back into an empty shop it gives the same job again. See docs/formats.md.
"""

import base64
import json
from datetime import datetime
from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, Field, ValidationError

from ditto_run.core.errors import DittoError, FileNotRead
from ditto_run.core.part.heading import MOST_PIECES
from ditto_run.core.plan import Plan
from ditto_run.core.run import Body, Event, fold
from ditto_run.core.shop import Gauge, Machine

FORMAT: Literal["ditto-run job"] = "ditto-run job"
VERSION = 1
MOST_BYTES = 64_000_000
MOST_EVENTS = 300_000


class Strict(BaseModel):
    """No field may come that we do not know."""

    model_config = ConfigDict(extra="forbid", defer_build=True)


class BundleVersion(Strict):
    """One version of the plan."""

    version: int
    parent: int | None
    what: str
    who: str
    at: datetime
    plan: Plan


class BundleRevision(Strict):
    """One frozen revision."""

    revision: int
    version: int
    reason: str


class BundleEvent(Strict):
    """One line of the log."""

    seq: int
    at: datetime
    who: Annotated[str, Field(max_length=10)]
    client_key: Annotated[str, Field(max_length=120)]
    body: Annotated[Body, Field(discriminator="kind")]

    def as_event(self) -> Event:
        """Return the line as the core knows it."""
        return Event(self.seq, self.at, self.who, self.client_key, self.body)


class BundleDrawing(Strict):
    """One drawing or photo."""

    name: str
    media_type: str
    content: str

    @property
    def raw(self) -> bytes:
        """The file's own bytes."""
        return base64.b64decode(self.content)


class Bundle(Strict):
    """One job with everything that belongs to it."""

    format: Literal["ditto-run job"] = FORMAT
    version: int = VERSION
    versions: list[BundleVersion]
    head: int
    revisions: list[BundleRevision] = []
    events: list[BundleEvent] = []
    drawings: list[BundleDrawing] = []
    machines: list[Machine] = []
    gauges: list[Gauge] = []


def write_bundle(bundle: Bundle) -> bytes:
    """Return the bundle as JSON, indented so that a person can read and compare it."""
    return json.dumps(bundle.model_dump(mode="json"), ensure_ascii=False, indent=1).encode()


def read_bundle(content: bytes) -> Bundle:
    """Return the bundle in a file, checked whole: it folds, and it refers to nothing that is not in it.

    Raises:
        FileNotRead: if it is cut off, too large, from a newer version, or does not hold together.
    """
    if len(content) > MOST_BYTES:
        raise FileNotRead(
            "That file is larger than 64 MB.", "A job bundle is far smaller. Choose another file."
        )
    try:
        data = json.loads(content)
    except (UnicodeDecodeError, json.JSONDecodeError) as fault:
        where = f" at line {fault.lineno}" if isinstance(fault, json.JSONDecodeError) else ""
        raise FileNotRead(
            f"That file is no whole job bundle: it breaks off or is damaged{where}.",
            "Export it again, then import it.",
        ) from None
    except RecursionError:
        raise FileNotRead("That file is no job bundle.") from None
    if not isinstance(data, dict) or data.get("format") != FORMAT:
        raise FileNotRead("That file is no job bundle.", "Choose a file that Ditto Run exported on Close.")
    if not isinstance(data.get("version"), int) or data["version"] > VERSION:
        raise FileNotRead(
            f"That bundle is of version {data.get('version')}, this Ditto Run reads up to {VERSION}.",
            "Import it with the newer Ditto Run that wrote it.",
        )
    try:
        bundle = Bundle.model_validate(data)
    except ValidationError as fault:
        first = fault.errors()[0]
        place = " → ".join(str(part) for part in first["loc"][:4])
        raise FileNotRead(
            f"The bundle does not hold together at {place}.", "Nothing was changed. Export it again."
        ) from None
    _check(bundle)
    return bundle


def _check(bundle: Bundle) -> None:
    numbers = {entry.version for entry in bundle.versions}
    wanted = {bundle.head, *(entry.version for entry in bundle.revisions)}
    if not wanted <= numbers or len(numbers) != len(bundle.versions):
        raise FileNotRead(
            "The bundle names a plan version that is not in it.", "Nothing was changed. Export it again."
        )
    biggest = max(_pieces(event.body) for event in bundle.events) if bundle.events else 0
    if len(bundle.events) > MOST_EVENTS or biggest > MOST_PIECES:
        raise FileNotRead(
            f"The bundle holds more pieces than a batch may have, {MOST_PIECES:,}.", "Nothing was changed."
        )
    plans = {entry.version: entry.plan for entry in bundle.versions}
    revisions = {entry.revision: plans[entry.version] for entry in bundle.revisions}
    try:
        fold([event.as_event() for event in bundle.events], revisions)
        for drawing in bundle.drawings:
            _ = drawing.raw
    except (KeyError, IndexError, StopIteration, ValueError, DittoError):
        raise FileNotRead(
            "The bundle's log does not fit its plan.", "Nothing was changed. Export it again."
        ) from None


def _pieces(body: Body) -> int:
    stations = getattr(body, "stations", ()) if body.kind == "cycle_started" else ()
    if body.kind == "loads_entered":
        stations = tuple(loaded for load in body.loads for loaded in load)
    return max((piece for loaded in stations for piece in loaded.pieces), default=0)
