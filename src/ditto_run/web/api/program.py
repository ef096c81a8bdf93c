"""A program read as JSON: what is taken from it, how long it takes, what in it may hurt."""

from typing import Annotated, Any

from fastapi import APIRouter
from pydantic import Field

from ditto_run.core.program.blocks import MOST_BYTES
from ditto_run.core.program.given import read_given
from ditto_run.desk.programs import program_read
from ditto_run.web.api.errors import ERRORS
from ditto_run.web.api.strict import Sent
from ditto_run.web.dependencies import DeskDep

router = APIRouter(prefix="/api/v1/program", tags=["tools"], responses=ERRORS)


class ProgramIn(Sent):
    """A program's text, and what is told beside it: dialect, machine, offsets, blanks, plan, start, air_s."""

    text: Annotated[str, Field(max_length=MOST_BYTES)]
    given: Annotated[dict[str, Any], Field(default_factory=dict)]


@router.post("/read")
def read(sent: ProgramIn, desk: DeskDep) -> dict[str, Any]:
    """Return what is taken from a program: tools, offsets, stops, boxes, holes, lengths, times, and its faults with their lines."""
    return program_read(desk, sent.text, read_given(sent.given)).as_document()
