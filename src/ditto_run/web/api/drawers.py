"""The shop's drawers as JSON and CSV."""

from typing import Annotated

from fastapi import APIRouter, Body
from fastapi.responses import Response
from pydantic import BaseModel, Field

from ditto_run.core.errors import BadEntry
from ditto_run.core.shop.drawers import DRAWERS, DrawerName, drawer_of
from ditto_run.formats.csv_tables import MOST_BYTES
from ditto_run.formats.drawer_table import rehearse_drawer, write_drawer
from ditto_run.web.api.errors import ERRORS, Number
from ditto_run.web.api.shop import Made
from ditto_run.web.dependencies import DeskDep

router = APIRouter(prefix="/api/v1/shop/drawers", tags=["drawers"], responses=ERRORS)
Texts = dict[str, Annotated[str, Field(max_length=200)]]


class ColumnOut(BaseModel):
    """One column of a drawer."""

    name: str
    label: str
    choices: list[str]


class DrawerOut(BaseModel):
    """One drawer: its columns."""

    name: str
    word: str
    columns: list[ColumnOut]


class DrawerRowOut(BaseModel):
    """One row as it was typed."""

    id: int
    texts: dict[str, str]


class Added(BaseModel):
    """How many rows were added."""

    added: int


@router.get("")
def drawers() -> list[DrawerOut]:
    """Return the drawers with their columns."""
    return [
        DrawerOut(
            name=d.name,
            word=d.word,
            columns=[ColumnOut(name=c.name, label=c.label, choices=[*c.choices]) for c in d.columns],
        )
        for d in DRAWERS
    ]


@router.get("/{name}")
def rows(name: DrawerName, desk: DeskDep) -> list[DrawerRowOut]:
    """Return the rows of a drawer."""
    return [
        DrawerRowOut(id=row.id, texts=row.texts)
        for row in desk.drawers.rows(name, desk.shop.load().length_unit)
    ]


@router.post("/{name}", status_code=201)
def add_row(name: DrawerName, texts: Texts, desk: DeskDep) -> Made:
    """Add a row."""
    return Made(id=desk.drawers.save(name, 0, texts, desk.shop.load().length_unit))


@router.put("/{name}/{row_id}")
def change_row(name: DrawerName, row_id: Number, texts: Texts, desk: DeskDep) -> Made:
    """Change a row."""
    return Made(id=desk.drawers.save(name, row_id, texts, desk.shop.load().length_unit))


@router.delete("/{name}/{row_id}")
def remove_row(name: DrawerName, row_id: Number, desk: DeskDep) -> list[DrawerRowOut]:
    """Take a row out."""
    desk.drawers.remove(name, row_id)
    return rows(name, desk)


@router.post("/{name}/standard", status_code=201)
def add_standard(name: DrawerName, desk: DeskDep) -> Added:
    """Add the usual set; rows that are there stay as they are."""
    return Added(added=desk.drawers.replace(name, drawer_of(name).standard()))


@router.get("/{name}/csv", response_class=Response, responses={200: {"content": {"text/csv": {}}}})
def as_csv(name: DrawerName, desk: DeskDep) -> Response:
    """Return a drawer as CSV."""
    found = (row.texts for row in desk.drawers.rows(name, desk.shop.load().length_unit))
    return Response(write_drawer(drawer_of(name), found), media_type="text/csv")


@router.post("/{name}/csv", status_code=201)
def bring_in(
    name: DrawerName, text: Annotated[str, Body(max_length=MOST_BYTES)], desk: DeskDep, whole: bool = False
) -> Added:
    """Take rows in from a CSV table sent as a JSON text: all of them, or none and the first fault."""
    found = rehearse_drawer(text, drawer_of(name), desk.shop.load().length_unit)
    if found.faults:
        first = found.faults[0]
        raise BadEntry(f"Row {first.row}, {first.field}: {first.message}", "Nothing was changed.", "file")
    return Added(added=desk.drawers.replace(name, found.rows, desk.shop.load().length_unit, keep=not whole))
