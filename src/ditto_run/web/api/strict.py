"""What a program sends is read whole: a field nobody knows is refused, not dropped."""

from collections.abc import Callable
from dataclasses import fields
from typing import Any, get_args

from pydantic import BaseModel, ConfigDict


class Sent(BaseModel):
    """A body as it is sent; no field may come that is not described."""

    model_config = ConfigDict(extra="forbid")


def only_known(union: Any) -> Callable[[Any], Any]:  # noqa: ANN401 - a union of commands or edits
    """Return a check that refuses fields which the kind that is meant does not have.

    Args:
        union: the kinds there are, each a dataclass with its `kind`.
    """
    known = {kind.kind: {field.name for field in fields(kind)} for kind in get_args(union)}

    def check(sent: Any) -> Any:  # noqa: ANN401 - JSON
        if isinstance(sent, dict) and sent.get("kind") in known:
            strange = sorted(set(sent) - known[sent["kind"]])
            if strange:
                raise ValueError(f"{sent['kind']} has no field {strange[0]}")
        return sent

    return check
