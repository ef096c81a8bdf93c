"""Lines of a run, and what a person wants of it, as JSON documents."""

from typing import Annotated

from pydantic import Field, TypeAdapter

from ditto_run.core.run import Body, Command
from ditto_run.formats.documents import LATER

BODY: TypeAdapter[Body] = TypeAdapter(Annotated[Body, Field(discriminator="kind")], config=LATER)
BODIES: TypeAdapter[list[Body]] = TypeAdapter(
    list[Annotated[Body, Field(discriminator="kind")]], config=LATER
)
COMMAND: TypeAdapter[Command] = TypeAdapter(Annotated[Command, Field(discriminator="kind")], config=LATER)
