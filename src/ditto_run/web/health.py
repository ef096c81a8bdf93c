"""Whether the application answers; alone, since whoever starts it asks for nothing else at first."""

from typing import Literal

from fastapi import APIRouter, Request
from pydantic import BaseModel

from ditto_run import __version__

router = APIRouter(tags=["shop"])


class Health(BaseModel):
    """That the application is up, and which one it is."""

    status: Literal["ok"] = "ok"
    version: str = __version__


@router.get("/healthz")
def healthz(request: Request) -> Health:
    """Say that the application and its database answer."""
    request.app.state.desk.shop.load()
    return Health()
