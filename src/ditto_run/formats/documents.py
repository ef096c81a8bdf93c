"""The core's values as JSON documents, checked on the way in."""

from functools import cached_property
from typing import Generic, TypeVar

from pydantic import ConfigDict, TypeAdapter

from ditto_run.core.place.offsets import Offset
from ditto_run.core.plan import Plan, ShopKnown
from ditto_run.core.shop import Ability, Bed, Dialect

T = TypeVar("T")


class Document(Generic[T]):
    """One kind of value as JSON; how it is checked is worked out when it is first needed, so the server starts sooner."""

    def __init__(self, kind: type[T]) -> None:
        self._kind = kind

    @cached_property
    def _adapter(self) -> TypeAdapter[T]:
        return TypeAdapter(self._kind)

    def validate_json(self, text: str | bytes) -> T:
        """Return the value that a text holds."""
        return self._adapter.validate_json(text)

    def validate_python(self, value: object) -> T:
        """Return the value that plain values hold."""
        return self._adapter.validate_python(value)

    def dump_json(self, value: T, indent: int | None = None) -> bytes:
        """Return a value as text."""
        return self._adapter.dump_json(value, indent=indent)


LATER = ConfigDict(defer_build=True)
PLAN = Document(Plan)
ABILITY = Document(Ability)
BED = Document(Bed)
DIALECT = Document(Dialect)
OFFSET = Document(Offset)
SHOP = Document(ShopKnown)
TEXTS = Document(dict[str, str])
