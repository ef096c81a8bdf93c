"""A whole job as one JSON file: plans, revisions, log, drawings and what of the shop it refers to.

Read back into an empty shop it gives the same job again. See docs/formats.md.
"""

import base64
import io
import json
from collections.abc import Mapping, Sequence
from dataclasses import fields, is_dataclass, replace
from datetime import date
from decimal import Decimal
from math import isfinite
from typing import Annotated, Literal

from pydantic import AwareDatetime, BaseModel, ConfigDict, Field, ValidationError

from ditto_run.core.close import report
from ditto_run.core.errors import DittoError, FileNotRead
from ditto_run.core.part.heading import MOST_PIECES, check_heading
from ditto_run.core.plan import Plan, ShopKnown, check_whole, plan_findings
from ditto_run.core.run import Body, Event, fold
from ditto_run.core.run.board import board
from ditto_run.core.run.events import Loaded, sentence
from ditto_run.core.shop import Gauge, Machine
from ditto_run.formats.old_sheets import FORCES, SPEEDS, Marks, with_metric_marks
from ditto_run.formats.pictures import picture_kind

FORMAT: Literal["ditto-run job"] = "ditto-run job"
VERSION = 4
MOST_BYTES = 64_000_000
MOST_EVENTS = 300_000


Number = Annotated[int, Field(ge=1, le=10_000_000)]
Initials = Annotated[str, Field(max_length=10)]


class Strict(BaseModel):
    """No field may come that we do not know."""

    model_config = ConfigDict(extra="forbid", defer_build=True)


class BundleVersion(Strict):
    """One version of the plan."""

    version: Number
    parent: Number | None
    what: Annotated[str, Field(max_length=400)]
    who: Initials
    at: AwareDatetime
    plan: Plan
    step: Annotated[str, Field(max_length=20)] = ""
    same_as: Number | None = None
    redo_from: Number | None = None


class BundleRevision(Strict):
    """One frozen revision."""

    revision: Number
    version: Number
    reason: Annotated[str, Field(max_length=2000)]
    shop: ShopKnown | None = None


class BundleEvent(Strict):
    """One line of the log."""

    seq: Number
    at: AwareDatetime
    who: Initials
    client_key: Annotated[str, Field(min_length=1, max_length=120)]
    body: Annotated[Body, Field(discriminator="kind")]

    def as_event(self) -> Event:
        """Return the line as the core knows it."""
        return Event(self.seq, self.at, self.who, self.client_key, self.body)


class BundleRun(Strict):
    """One batch: the log of its run."""

    batch: Number
    events: Annotated[list[BundleEvent], Field(min_length=1)]


class BundleDrawing(Strict):
    """One drawing or photo."""

    name: Annotated[str, Field(max_length=200)]
    media_type: Annotated[str, Field(max_length=100)]
    content: str

    @property
    def raw(self) -> bytes:
        """The file's own bytes."""
        return base64.b64decode(self.content, validate=True)


class Bundle(Strict):
    """One job with everything that belongs to it."""

    format: Literal["ditto-run job"] = FORMAT
    version: int = VERSION
    versions: Annotated[list[BundleVersion], Field(min_length=1, max_length=100_000)]
    head: Number
    revisions: list[BundleRevision] = []
    runs: list[BundleRun] = []
    drawings: list[BundleDrawing] = []
    machines: list[Machine] = []
    gauges: list[Gauge] = []


def write_bundle(bundle: Bundle) -> bytes:
    """Return the bundle as JSON, indented so that a person can read and compare it."""
    parts = bundle.model_copy(update={"runs": [], "versions": []}).model_dump(mode="json")
    # one by one: thousands at once would hold everybody up
    parts["versions"] = [one.model_dump(mode="json") for one in bundle.versions]
    parts["runs"] = [
        {"batch": run.batch, "events": [one.model_dump(mode="json") for one in run.events]}
        for run in bundle.runs
    ]
    out = io.StringIO()
    for piece in json.JSONEncoder(ensure_ascii=False, indent=1).iterencode(parts):
        out.write(piece)
    return out.getvalue().encode()


def read_bundle(content: bytes) -> Bundle:
    """Return the bundle in a file, checked whole: it folds, and it refers to nothing that is not in it.

    Raises:
        FileNotRead: if it is cut off, too large, from a newer version, or does not hold together.
    """
    data, version = _opened(content)
    try:
        bundle = Bundle.model_validate(data)
    except ValidationError as fault:
        first = fault.errors()[0]
        place = " → ".join(str(part) for part in first["loc"][:4])
        raise FileNotRead(
            f"The bundle does not hold together at {place}.", "Nothing was changed. Export it again."
        ) from None
    for since, were in SINCE_UNITS:
        if version < since:
            for entry in bundle.versions:
                entry.plan = _with_metric_marks(entry.plan, were)
    _check(bundle)
    return bundle


def _opened(content: bytes) -> tuple[dict[str, object], int]:
    """Return what stands in the file, as this version writes it, and the version it was written by."""
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
    except (RecursionError, ValueError):
        raise FileNotRead("That file is no job bundle.") from None
    if not isinstance(data, dict) or data.get("format") != FORMAT:
        raise FileNotRead("That file is no job bundle.", "Choose a file that Ditto Run exported on Close.")
    version = data.get("version")
    if not isinstance(version, int) or not 1 <= version <= VERSION:
        raise FileNotRead(
            f"That bundle is of version {str(version)[:20]}, this Ditto Run reads 1 to {VERSION}.",
            "Import it with the Ditto Run that wrote it.",
        )
    if version < SINCE_BATCHES:  # a job had one run
        events = data.pop("events", [])
        data["runs"] = [{"batch": 1, "events": events}] if events else []
    return data, version


SINCE_BATCHES = 4
SINCE_UNITS = ((2, FORCES), (3, SPEEDS))  # from here on a figure typed alone is in the job's own unit


def _with_metric_marks(plan: Plan, were: Marks) -> Plan:
    if plan.heading.unit != "in":
        return plan
    sheets = tuple(
        replace(sheet, texts=with_metric_marks(sheet.kind, sheet.texts, were)) for sheet in plan.sheets
    )
    return replace(plan, sheets=sheets)


DAMAGED = "Nothing was changed. Export it again."
FARTHEST = 12  # digits before or after the point of any number; far beyond a workshop's


def _check(bundle: Bundle) -> None:
    """Refuse a bundle that would not hold together in the shop, or that a page could not show."""
    _check_numbers(bundle)
    _check_plans(bundle)
    _check_logs(bundle)
    for drawing in bundle.drawings:
        try:
            kind = picture_kind(drawing.raw)
        except ValueError:
            kind = ""
        if not kind:
            raise FileNotRead(f"The drawing {drawing.name[:60]} is neither a picture nor a PDF.", DAMAGED)
        drawing.media_type = kind


def _check_numbers(bundle: Bundle) -> None:
    versions = [entry.version for entry in bundle.versions]
    known = set(versions)
    named = {bundle.head, *(entry.version for entry in bundle.revisions)}
    for entry in bundle.versions:
        named |= {n for n in (entry.parent, entry.same_as, entry.redo_from) if n is not None}
        if entry.parent is not None and entry.parent >= entry.version:
            raise FileNotRead("The bundle's plan versions run in a circle.", DAMAGED)
    if not named <= known or len(known) != len(versions):
        raise FileNotRead("The bundle names a plan version that is not in it.", DAMAGED)
    if [entry.revision for entry in bundle.revisions] != [*range(1, len(bundle.revisions) + 1)]:
        raise FileNotRead("The bundle's revisions are not numbered 1, 2, 3 …", DAMAGED)
    if [run.batch for run in bundle.runs] != [*range(1, len(bundle.runs) + 1)]:
        raise FileNotRead("The bundle's batches are not numbered 1, 2, 3 …", DAMAGED)
    for run in bundle.runs:
        _check_lines(run.events)
    if not _sound(bundle):
        raise FileNotRead("The bundle holds a number that no workshop needs.", DAMAGED)


def _check_lines(lines: Sequence[BundleEvent]) -> None:
    keys = {event.client_key for event in lines}
    if [event.seq for event in lines] != [*range(1, len(lines) + 1)] or len(keys) != len(lines):
        raise FileNotRead("The bundle's log has lines missing, or one twice.", DAMAGED)
    before = getattr(lines[0].body, "after", 0)
    biggest = max((_pieces(event.body) for event in lines), default=0)
    if len(lines) > MOST_EVENTS or biggest - before > MOST_PIECES:
        raise FileNotRead(
            f"The bundle holds more pieces than a batch may have, {MOST_PIECES:,}.", "Nothing was changed."
        )


def _sound(thing: object) -> bool:
    """Return False if anywhere in a value is a number out of all reach, or a text no page could send."""
    match thing:
        case None | bool() | date():
            sound = True
        case Decimal():
            exponent = thing.as_tuple().exponent
            sound = isinstance(exponent, int) and exponent >= -FARTHEST and thing.adjusted() <= FARTHEST
        case float():
            sound = isfinite(thing) and abs(thing) < 10.0**FARTHEST
        case int():
            sound = abs(thing) < 10**FARTHEST
        case str():
            sound = not any("\ud800" <= letter <= "\udfff" or letter == "\0" for letter in thing)
        case Mapping():
            sound = all(_sound(key) and _sound(value) for key, value in thing.items())
        case list() | tuple() | set() | frozenset():
            sound = all(_sound(value) for value in thing)
        case BaseModel():
            sound = all(_sound(getattr(thing, name)) for name in type(thing).model_fields)
        case _:
            named = fields(thing) if is_dataclass(thing) else ()
            sound = is_dataclass(thing) and all(_sound(getattr(thing, field.name)) for field in named)
    return sound


def _check_plans(bundle: Bundle) -> None:
    machines = {machine.id: machine for machine in bundle.machines}
    for entry in bundle.versions:
        try:
            check_heading(entry.plan.heading)
            check_whole(entry.plan)
            if entry.version == bundle.head:
                plan_findings(entry.plan, machines)
        except (DittoError, ArithmeticError, LookupError, TypeError, ValueError) as fault:
            problem = fault.problem if isinstance(fault, DittoError) else "It does not hold together."
            raise FileNotRead(f"Plan version {entry.version} of the bundle: {problem}", DAMAGED) from None


def _check_logs(bundle: Bundle) -> None:
    """Play every log, and draw every page's picture of it once."""
    plans = {entry.version: entry.plan for entry in bundle.versions}
    revisions = {entry.revision: plans[entry.version] for entry in bundle.revisions}
    for run in bundle.runs:
        _check_log([event.as_event() for event in run.events], revisions)


def _check_log(log: Sequence[Event], revisions: Mapping[int, Plan]) -> None:
    try:
        _check_start([event.body.kind for event in log])
        for event in log:
            _check_line(event.body, revisions)
        state = fold(log, revisions)
        board(state, log[-1].at)
        report(state)
        for event in log:
            sentence(event.body, state, event.seq)
    except (LookupError, StopIteration, ArithmeticError, TypeError, ValueError, AttributeError, DittoError):
        raise FileNotRead("The bundle's log does not fit its plan.", DAMAGED) from None


def _check_start(kinds: Sequence[str]) -> None:
    if kinds[0] != "run_started" or kinds.count("run_started") != 1:
        raise ValueError(kinds[0])


def _check_line(body: Body, revisions: Mapping[int, Plan]) -> None:
    """Raise ValueError if a line names a revision, setup or cycle that is not there, or loads a piece twice."""
    setups = {setup.key for plan in revisions.values() for one in plan.all_parts for setup in one.plan.setups}
    setups |= {cycle.key for plan in revisions.values() for cycle in plan.cycles}
    if getattr(body, "revision", 1) not in revisions or getattr(body, "setup", min(setups)) not in setups:
        raise ValueError(body)
    loads: tuple[tuple[Loaded, ...], ...] = getattr(body, "loads", ()) if body.kind == "loads_entered" else ()
    for stations in (
        (getattr(body, "stations", ()), *loads) if body.kind in {"cycle_started", "loads_entered"} else ()
    ):
        pieces = [number for loaded in stations for number in loaded.pieces]
        if len(set(pieces)) != len(pieces) or any(number < 1 for number in pieces):
            raise ValueError(body)
    if not 0 <= getattr(body, "decimals", 0) <= FARTHEST:
        raise ValueError(body)


def _pieces(body: Body) -> int:
    stations = getattr(body, "stations", ()) if body.kind == "cycle_started" else ()
    if body.kind == "loads_entered":
        stations = tuple(loaded for load in body.loads for loaded in load)
    return max((piece for loaded in stations for piece in loaded.pieces), default=0)
