"""Wraps the application: request ids, one log line a request, and who may ask at all.

Pure ASGI, because the usual wrapper costs more than the work of a small answer.
"""

import itertools
import logging
import time
from urllib.parse import urlsplit

from starlette.datastructures import Headers, MutableHeaders
from starlette.responses import PlainTextResponse
from starlette.types import ASGIApp, Message, Receive, Scope, Send

log = logging.getLogger("ditto_run")
LOOPBACK = {"127.0.0.1", "localhost", "[::1]", "testserver"}
SAFE = {"GET", "HEAD", "OPTIONS"}
POLICY = (
    "default-src 'self'; img-src 'self' data: blob:; style-src 'self' 'unsafe-inline'; frame-ancestors 'none'; "
    "form-action 'self'; base-uri 'none'; object-src 'self'"
)


def host_of(value: str) -> str:
    """Return the host of a Host header or an Origin, without its port."""
    netloc = urlsplit(value).netloc if "//" in value else value
    return netloc.rsplit(":", 1)[0] if not netloc.endswith("]") else netloc


class Guard:
    """Refuses strange hosts and origins, gives each request a number and a line in the log."""

    def __init__(self, app: ASGIApp) -> None:
        self.app = app
        self._numbers = itertools.count(1)

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass the request on, or refuse it."""
        if scope["type"] != "http":
            await self.app(scope, receive, send)
            return
        request_id = f"{next(self._numbers):06d}"
        scope["request_id"] = request_id
        headers = Headers(scope=scope)
        started = time.perf_counter()
        status = 0

        async def send_named(message: Message) -> None:
            nonlocal status
            if message["type"] == "http.response.start":
                status = message["status"]
                named = MutableHeaders(scope=message)
                named["X-Request-Id"] = request_id
                named["X-Content-Type-Options"] = "nosniff"
                named.setdefault("Content-Security-Policy", POLICY)
            await send(message)

        refusal = self._refusal(scope, headers)
        if refusal:
            await PlainTextResponse(refusal, 403)(scope, receive, send_named)
        else:
            await self.app(scope, receive, send_named)
        took_ms = (time.perf_counter() - started) * 1000
        log.info("request=%s %s %s %s %.1f ms", request_id, scope["method"], scope["path"], status, took_ms)

    @staticmethod
    def _refusal(scope: Scope, headers: Headers) -> str:
        if host_of(headers.get("host", "")) not in LOOPBACK:
            return "Ditto Run answers on this machine only. Open it as 127.0.0.1."
        origin = headers.get("origin")
        if scope["method"] not in SAFE and origin and host_of(origin) not in LOOPBACK:
            return "Another site tried to change something here. Open Ditto Run itself and do it there."
        return ""
