"""What a form has done, said once by the page it leads to."""

from urllib.parse import quote, unquote

from fastapi.responses import Response
from starlette.requests import Request

NAME = "told"
SECONDS = 20  # a page that comes later than that is not the answer to the form
LONGEST = 200


def told(response: Response, words: str) -> Response:
    """Return the response with a sentence for the next page: “Added zinc plate.” is one."""
    response.set_cookie(NAME, quote(words[:LONGEST]), max_age=SECONDS, samesite="strict", httponly=True)
    return response


def what_was_told(request: Request) -> str:
    """Return the sentence a form left for this page; empty without one."""
    return unquote(request.cookies.get(NAME, ""))[:LONGEST]


def say_no_more(response: Response) -> None:
    """Forget the sentence: it has been said."""
    response.delete_cookie(NAME)
