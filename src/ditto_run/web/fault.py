"""What a fault of our own looks like: a sentence and a number, never a trace."""

from starlette.requests import Request
from starlette.responses import Response
from starlette.types import Scope

from ditto_run.web.problems import Problem, answer

FAULT = 500


def fault_response(scope: Scope, request_id: str) -> Response:
    """Return the answer to a request that something of ours failed at."""
    problem = Problem(
        name="Fault",
        problem="Something went wrong in Ditto Run itself.",
        remedy=f"What was recorded before is safe. Try again; if it stays, look in the log for {request_id}.",
    )
    return answer(Request(scope), problem, FAULT)
