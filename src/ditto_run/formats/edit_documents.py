"""Changes of a plan as JSON documents; apart from the others, because a start needs none of them."""

from typing import Annotated

from pydantic import Field, TypeAdapter

from ditto_run.core.edits import Edit
from ditto_run.formats.documents import LATER

EDIT: TypeAdapter[Edit] = TypeAdapter(Annotated[Edit, Field(discriminator="kind")], config=LATER)
