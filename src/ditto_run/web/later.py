"""Routes that are loaded when they are first asked for: a start, and each page, pays for no other."""

import gc
import re
from asyncio import to_thread
from importlib import import_module
from threading import Lock

from fastapi import APIRouter, FastAPI
from starlette.routing import BaseRoute, Match
from starlette.types import Receive, Scope, Send


class Later(BaseRoute):
    """The routes of some modules, behind a pattern of their addresses.

    Args:
        app: the application they belong to.
        pattern: what the addresses begin with, a regular expression.
        modules: where the routers are, by full name.
    """

    def __init__(self, app: FastAPI, pattern: str, *modules: str) -> None:
        self._app = app
        self._modules = modules
        self._loaded: APIRouter | None = None
        self._lock = Lock()
        self.pattern = re.compile(rf"(?:{pattern})(?:/|$)")

    def load(self) -> APIRouter:
        """Return the routes, loaded now if they were not."""
        with self._lock:
            if self._loaded is None:
                router = APIRouter()
                router.dependency_overrides_provider = self._app
                for name in self._modules:
                    router.include_router(import_module(name).router)
                self._loaded = router
                gc.freeze()  # what was imported stays for good: the collector need not walk it again
            return self._loaded

    def matches(self, scope: Scope) -> tuple[Match, Scope]:
        """Return whether an address is one of these."""
        ours = scope["type"] == "http" and self.pattern.match(scope["path"])
        return (Match.FULL if ours else Match.NONE), {}

    async def handle(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Answer a request; the first one loads the routes, beside the event loop."""
        if self._loaded is None:
            await to_thread(self.load)
        await self.load()(scope, receive, send)
