"""The core's values as JSON documents, checked on the way in."""

from typing import Annotated

from pydantic import ConfigDict, Field, TypeAdapter

from ditto_run.core.edits import Edit
from ditto_run.core.place.offsets import Offset
from ditto_run.core.plan import Plan
from ditto_run.core.run import Body, Command
from ditto_run.core.shop import Ability, Bed, Dialect

LATER = ConfigDict(defer_build=True)  # worked out when first needed: the server starts sooner
PLAN: TypeAdapter[Plan] = TypeAdapter(Plan)
BODY: TypeAdapter[Body] = TypeAdapter(Annotated[Body, Field(discriminator="kind")], config=LATER)
EDIT: TypeAdapter[Edit] = TypeAdapter(Annotated[Edit, Field(discriminator="kind")], config=LATER)
ABILITY: TypeAdapter[Ability] = TypeAdapter(Ability)
BED: TypeAdapter[Bed] = TypeAdapter(Bed)
DIALECT: TypeAdapter[Dialect] = TypeAdapter(Dialect)
OFFSET: TypeAdapter[Offset] = TypeAdapter(Offset)
TEXTS: TypeAdapter[dict[str, str]] = TypeAdapter(dict[str, str])
COMMAND: TypeAdapter[Command] = TypeAdapter(Annotated[Command, Field(discriminator="kind")], config=LATER)
