"""The registers and sizes as JSON."""

from decimal import Decimal
from typing import Annotated, Literal

from fastapi import APIRouter, Query
from pydantic import BaseModel

from ditto_run.core.errors import NotFound
from ditto_run.core.part.faces import Form
from ditto_run.core.part.features import feature_text, read_feature
from ditto_run.core.sheets.reader import KINDS, Measure, read_as, said_back
from ditto_run.core.shop import Ability, Gauge, Machine, MachineKind, Wear, codes_text, read_codes
from ditto_run.core.sizes import Size, read_size, size_text, understood
from ditto_run.core.units import LengthUnit
from ditto_run.web.api.errors import ERRORS, Number
from ditto_run.web.api.strict import Sent
from ditto_run.web.dependencies import DeskDep

router = APIRouter(tags=["shop"], responses=ERRORS)


class MachineIn(Sent):
    """A machine as sent: codes as a person writes them."""

    name: str
    kind: MachineKind = "mill"
    offset_codes: str = ""
    wear: Wear = Wear()
    ability: Ability = Ability()


class GaugeIn(Sent):
    """A gauge as sent."""

    name: str
    resolution: Decimal
    unit: LengthUnit
    repeats: Decimal | None = None


class ShopOut(BaseModel):
    """The registers."""

    unit: str
    machines: list[Machine]
    gauges: list[Gauge]
    people: list[str]
    data_folder: str


class SizeOut(BaseModel):
    """How a size is understood."""

    size: Size
    understood: str
    canonical: str


class Made(BaseModel):
    """The number of what was made."""

    id: int


@router.get("/api/v1/shop")
def shop(desk: DeskDep) -> ShopOut:
    """Return the registers."""
    found = desk.shop.load()
    return ShopOut(
        unit=found.unit,
        machines=[*found.machines.values()],
        gauges=[*found.gauges.values()],
        people=[person.initials for person in found.people],
        data_folder=str(desk.settings.folder),
    )


@router.post("/api/v1/shop/machines", status_code=201)
def add_machine(machine: MachineIn, desk: DeskDep) -> Made:
    """Add a machine."""
    codes = read_codes(machine.offset_codes)
    return Made(
        id=desk.shop.save_machine(
            Machine(0, machine.name, machine.kind, codes, machine.wear, machine.ability)
        )
    )


@router.post("/api/v1/shop/gauges", status_code=201)
def add_gauge(gauge: GaugeIn, desk: DeskDep) -> Made:
    """Add a gauge."""
    return Made(id=desk.shop.save_gauge(Gauge(0, gauge.name, gauge.resolution, gauge.unit, gauge.repeats)))


@router.put("/api/v1/shop/machines/{number}")
def change_machine(number: Number, machine: MachineIn, desk: DeskDep) -> Made:
    """Change a machine."""
    if number not in desk.shop.load().machines:
        raise NotFound("machine", number, "Choose one from the shop.")
    codes = read_codes(machine.offset_codes)
    return Made(
        id=desk.shop.save_machine(
            Machine(number, machine.name, machine.kind, codes, machine.wear, machine.ability)
        )
    )


@router.put("/api/v1/shop/gauges/{number}")
def change_gauge(number: Number, gauge: GaugeIn, desk: DeskDep) -> Made:
    """Change a gauge."""
    if number not in desk.shop.load().gauges:
        raise NotFound("gauge", number, "Choose one from the shop.")
    return Made(
        id=desk.shop.save_gauge(Gauge(number, gauge.name, gauge.resolution, gauge.unit, gauge.repeats))
    )


@router.put("/api/v1/shop/people/{initials}")
def add_person(initials: str, desk: DeskDep) -> ShopOut:
    """Add somebody's initials; a second time changes nothing."""
    desk.shop.save_person(initials)
    return shop(desk)


@router.put("/api/v1/shop/unit/{unit}")
def set_unit(unit: LengthUnit, desk: DeskDep) -> ShopOut:
    """Set the unit new jobs start with."""
    desk.shop.save_setting("unit", unit)
    return shop(desk)


@router.delete("/api/v1/shop/{register}/{key}")
def remove(register: Literal["machine", "gauge", "person"], key: str, desk: DeskDep) -> ShopOut:
    """Take a machine, gauge or person out of the lists; what refers to it keeps it."""
    desk.shop.remove(register, key)
    return shop(desk)


@router.get("/api/v1/size")
def size(text: Annotated[str, Query(max_length=200)], unit: LengthUnit = "mm") -> SizeOut:
    """Return how a size in shop language is understood."""
    found = read_size(text, unit)
    return SizeOut(size=found, understood=understood(found), canonical=size_text(found))


class ReadOut(BaseModel):
    """How an entry is understood.

    Args:
        understood: in words.
        value: in the unit of its kind; a row has several, a size or a thread none.
        unit: unit of the value.
    """

    understood: str
    value: str | list[str] | None
    unit: str


@router.get("/api/v1/read")
def read_entry(
    kind: Measure, text: Annotated[str, Query(max_length=400)], unit: LengthUnit = "mm"
) -> ReadOut:
    """Return how an entry of a kind is understood: the same reader that stands behind every field."""
    found = read_as(kind, text, unit, "text")
    value: str | list[str] | None = None
    if isinstance(found, Decimal):
        value = f"{found:f}"
    elif isinstance(found, list):
        value = [f"{one:f}" for one in found]
    return ReadOut(understood=said_back(kind, found, unit), value=value, unit=KINDS[kind].base)


class LinePieceOut(BaseModel):
    """A piece of a line: as typed, how it was read, and what it is taken for."""

    typed: str
    read: str
    word: str


class PlaceOut(BaseModel):
    """How far it stands from a face."""

    distance: Size | None
    face: str


class FeatureOut(BaseModel):
    """How a line about a feature is understood.

    Args:
        kind: its kind; empty where it was not said and does not follow.
        count: how many alike.
        sizes: by what each is.
        through: it goes all the way through.
        face: the face it lies on; empty where it was not said.
        extent: full length, all round, both ends; else empty.
        places: where it stands: how far from which face; without either in the middle.
        turn: how far round the axis of a turned part, from the top; null where nothing says it.
        arrangement: how several stand to each other: line, grid or circle; empty where it was not said.
        by: spacing of the line, the two of the grid, or the diameter of the circle.
        parts: what belongs to it, such as its counterbore, with its sizes.
        geometry: what the drawing says of form and position.
        words: what is done by hand, as said.
        pieces: the line piece by piece.
        open: what has to be asked.
        canonical: the line as we write it; it reads the same.
    """

    kind: str
    count: int
    sizes: dict[str, Size]
    through: bool
    face: str
    extent: str
    places: list[PlaceOut]
    turn: Size | None
    arrangement: str
    by: list[Size]
    parts: dict[str, dict[str, Size]]
    geometry: list[Size]
    words: str
    pieces: list[LinePieceOut]
    open: list[str]
    canonical: str


@router.get("/api/v1/feature")
def feature(
    text: Annotated[str, Query(max_length=400)], form: Form = "block", unit: LengthUnit = "mm"
) -> FeatureOut:
    """Return how a feature in shop language is understood, piece by piece, and what has to be asked."""
    found = read_feature(text, form, unit)
    return FeatureOut(
        kind=found.kind,
        count=found.count,
        sizes={str(role): size for role, size in found.sizes.items()},
        through=found.through,
        face=found.face,
        extent=found.extent,
        places=[PlaceOut(distance=at.distance, face=at.face) for at in found.places],
        turn=found.turn,
        arrangement=found.pattern.arrangement if found.pattern else "",
        by=list(found.pattern.by) if found.pattern else [],
        parts={word: {str(role): size for role, size in own.items()} for word, own in found.parts.items()},
        geometry=list(found.geometry),
        words=found.words,
        pieces=[LinePieceOut(typed=p.typed, read=p.read, word=p.word) for p in found.pieces],
        open=list(found.open),
        canonical=feature_text(found),
    )


@router.get("/api/v1/offset-codes")
def offset_codes(text: Annotated[str, Query(max_length=400)]) -> list[str]:
    """Return every work offset code that a list with ranges names; what `codes_text` writes reads back."""
    codes = read_codes(text)
    return list(read_codes(codes_text(codes)))
