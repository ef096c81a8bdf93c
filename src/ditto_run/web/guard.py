"""Wraps the application: request ids, one log line a request, who may ask at all, and what a fault looks like.

Pure ASGI, because the usual wrapper costs more than the work of a small answer.
"""

import itertools
import logging
import time
from urllib.parse import urlsplit

from starlette.datastructures import Headers, MutableHeaders
from starlette.responses import PlainTextResponse
from starlette.types import ASGIApp, Message, Receive, Scope, Send

from ditto_run.web.fault import fault_response

log = logging.getLogger("ditto_run")
LOOPBACK = {"127.0.0.1", "localhost", "[::1]"}
SAFE = {"GET", "HEAD", "OPTIONS"}
OWN_SITES = {"same-origin", "none"}  # none: typed into the address line, or a bookmark
MOST_BYTES = 80_000_000  # of one request; a backup is far smaller
A_YEAR_S = 365 * 24 * 3600
POLICY = (
    "default-src 'self'; img-src 'self' data: blob:; style-src 'self'; script-src 'self'; frame-ancestors 'none'; "
    "form-action 'self'; base-uri 'none'; object-src 'self'"
)


def host_of(value: str) -> str:
    """Return the host of a Host header or an Origin, without its port."""
    netloc = urlsplit(value).netloc if "//" in value else value
    return netloc.rsplit(":", 1)[0] if not netloc.endswith("]") else netloc


class _Asked:
    """One request on its way: its number, and the status it was answered with."""

    def __init__(self, scope: Scope, number: str, send: Send) -> None:
        self.number, self.status = number, 0
        self._scope, self._send = scope, send

    async def send(self, message: Message) -> None:
        """Pass an answer on, with the headers that every answer bears."""
        if message["type"] == "http.response.start":
            self.status = message["status"]
            named = MutableHeaders(scope=message)
            named["X-Request-Id"] = self.number
            named["X-Content-Type-Options"] = "nosniff"
            named["Referrer-Policy"] = "same-origin"
            named.setdefault("Content-Security-Policy", POLICY)
            lasting = self._scope["path"].startswith("/static/v-")
            named.setdefault("Cache-Control", f"max-age={A_YEAR_S}, immutable" if lasting else "no-store")
        await self._send(message)


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
        asked = _Asked(scope, f"{next(self._numbers):06d}", send)
        scope["request_id"] = asked.number
        started = time.perf_counter()
        refusal = self._refusal(scope, Headers(scope=scope))
        try:
            if refusal:
                await PlainTextResponse(refusal, 403)(scope, receive, asked.send)
            else:
                await self.app(scope, receive, asked.send)
        except Exception:
            log.exception("fault request=%s", asked.number)
            if asked.status:  # the answer has begun; it can only break off
                raise
            await fault_response(scope, asked.number)(scope, receive, asked.send)
        took_ms = (time.perf_counter() - started) * 1000
        log.info(
            "request=%s %s %s %s %.1f ms", asked.number, scope["method"], scope["path"], asked.status, took_ms
        )

    @staticmethod
    def _refusal(scope: Scope, headers: Headers) -> str:
        """Return why a request is not answered; empty if it is.

        A page of another site, another port or an extension sends its Origin or Sec-Fetch-Site with a change; a script
        of this machine sends neither.
        """
        host = headers.get("host", "")
        if host_of(host) not in LOOPBACK:
            return "Ditto Run answers on this machine only. Open it as 127.0.0.1."
        if scope["method"] in SAFE:
            return ""
        origin, site = headers.get("origin"), headers.get("sec-fetch-site")
        if (origin is not None and origin != f"http://{host}") or (
            site is not None and site not in OWN_SITES
        ):
            return "Another site tried to change something here. Open Ditto Run itself and do it there."
        length = headers.get("content-length", "0")
        if not length.isascii() or not length.isdigit() or int(length) > MOST_BYTES:
            return "That is more than Ditto Run takes at once."
        return ""
