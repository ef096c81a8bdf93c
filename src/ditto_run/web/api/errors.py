"""The errors every JSON answer may have, for the description of the API."""

from typing import Annotated, Any

from pydantic import Field

from ditto_run.web.problems import Problem

Number = Annotated[int, Field(ge=1, le=2**31)]

ERRORS: dict[int | str, dict[str, Any]] = {
    404: {"model": Problem, "description": "NotFound: there is no such thing."},
    409: {"model": Problem, "description": "NotNow or ChangedMeanwhile: right, but not in this state."},
    422: {
        "model": Problem,
        "description": "BadEntry, SizeNotRead, NeedsAnswer or FileNotRead: the entry cannot be used.",
    },
    400: {"model": Problem, "description": "Refused: the request itself cannot be read."},
}
