"""Turns errors into answers: a page for a person, a line at the field for htmx, JSON for a program."""

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse, Response
from pydantic import BaseModel, ValidationError
from starlette.exceptions import HTTPException
from starlette.requests import ClientDisconnect

from ditto_run.core.errors import (
    BadEntry,
    CannotKeep,
    ChangedMeanwhile,
    DittoError,
    FileNotRead,
    NeedsAnswer,
    NotFound,
    NotNow,
    TwoReadings,
)

STATUS: tuple[tuple[type[DittoError], int], ...] = (
    (NotFound, 404),
    (ChangedMeanwhile, 409),
    (NotNow, 409),
    (NeedsAnswer, 422),
    (FileNotRead, 422),
    (CannotKeep, 507),
    (BadEntry, 422),
)
NOT_FOUND = 404
PLAIN_WORDS = {
    NOT_FOUND: ("There is no such page.", "Go back to the list of jobs."),
    405: ("That cannot be done here.", "Go back to the list of jobs."),
}


class Problem(BaseModel):
    """What an error looks like to a program."""

    name: str
    problem: str
    remedy: str
    field: str | None = None
    choices: dict[str, str] = {}
    can_keep: bool = False
    version: int | None = None


def status_of(error: DittoError) -> int:
    """Return the HTTP status of an error."""
    return next((status for kind, status in STATUS if isinstance(error, kind)), 422)


def problem_of(error: DittoError) -> Problem:
    """Return the error as a value for JSON."""
    asks = isinstance(error, NeedsAnswer)
    choices = error.choices if isinstance(error, NeedsAnswer) else {}
    version = error.version if isinstance(error, ChangedMeanwhile) else None
    return Problem(
        name=NeedsAnswer.__name__ if asks else type(error).__name__,
        problem=error.problem,
        remedy=error.remedy,
        field=error.field,
        choices=choices,
        can_keep=asks and not isinstance(error, TwoReadings),
        version=version,
    )


def answer(request: Request, problem: Problem, status: int) -> Response:
    """Return the problem in the form that the asker can use."""
    if request.url.path.startswith(("/api/", "/openapi", "/healthz")):
        return JSONResponse(problem.model_dump(), status)
    from ditto_run.web.dependencies import templates  # noqa: PLC0415 - a start draws nothing

    name = "_problem.html" if "hx-request" in request.headers else "problem_page.html"
    return templates.TemplateResponse(request, name, {"problem": problem}, status)


def from_validation(errors: list[dict[str, object]]) -> Problem:
    """Return what a refused form or JSON body says, in plain words, at its first field."""
    first = errors[0]
    where = [str(part) for part in first.get("loc", ()) if part not in {"body", "query", "path"}]  # type: ignore[attr-defined]
    field = where[-1] if where else None
    name = (field or "entry").replace("_", " ")
    kind = str(first.get("type", ""))
    if kind in {"missing", "string_too_short"} or first.get("input") == "":
        return Problem(
            name="BadEntry",
            problem=f"The {name} is missing.",
            remedy="Choose or type it, then save again.",
            field=field,
        )
    if kind == "extra_forbidden":
        return Problem(
            name="BadEntry", problem=f"Nothing here is called {name}.", remedy="Leave it out.", field=field
        )
    wanted = (
        "a whole number"
        if kind.startswith("int")
        else "a plain number"
        if kind.startswith(("decimal", "float"))
        else "something else"
        if kind.startswith("literal")
        else "another form"
    )
    shown = str(first.get("input", ""))[:40]
    return Problem(
        name="BadEntry",
        problem=f"“{shown}” does not fit {name}: it wants {wanted}.",
        remedy="Change it, then save again.",
        field=field,
    )


def add_problem_pages(app: FastAPI) -> None:
    """Answer every error in one place; no stack trace leaves the house."""

    @app.exception_handler(DittoError)
    def _show_problem(request: Request, error: DittoError) -> Response:
        return answer(request, problem_of(error), status_of(error))

    @app.exception_handler(ClientDisconnect)
    def _nobody_listens(_request: Request, _error: ClientDisconnect) -> Response:
        """The browser asked again before this was answered, as it does while somebody types: no fault."""
        return Response(status_code=400)

    @app.exception_handler(OverflowError)
    def _show_too_large(request: Request, _error: OverflowError) -> Response:
        """A number too large for the database is the number of nothing that is there."""
        problem, remedy = PLAIN_WORDS[NOT_FOUND]
        return answer(request, Problem(name="NotFound", problem=problem, remedy=remedy), NOT_FOUND)

    @app.exception_handler(RequestValidationError)
    def _show_refusal(request: Request, error: RequestValidationError) -> Response:
        return answer(request, from_validation(list(error.errors())), 422)

    @app.exception_handler(ValidationError)
    def _show_form_refusal(request: Request, error: ValidationError) -> Response:
        return answer(request, from_validation([dict(e) for e in error.errors()]), 422)

    @app.exception_handler(HTTPException)
    def _show_plain(request: Request, error: HTTPException) -> Response:
        problem, remedy = PLAIN_WORDS.get(error.status_code, (str(error.detail), "Go back and try again."))
        return answer(
            request,
            Problem(
                name="NotFound" if error.status_code == NOT_FOUND else "Refused",
                problem=problem,
                remedy=remedy,
            ),
            error.status_code,
        )

    @app.exception_handler(UnicodeError)
    def _show_strange_sign(request: Request, _error: UnicodeError) -> Response:
        """A text with half a sign in it, which no file could hold."""
        problem = Problem(
            name="BadEntry",
            problem="A text holds a sign that cannot be kept.",
            remedy="Type it again, without pasting.",
        )
        return answer(request, problem, 422)
