"""Packs large answers for the way, in a thread: the event loop does not stand still meanwhile."""

from asyncio import to_thread
from gzip import compress

from starlette.datastructures import Headers, MutableHeaders
from starlette.types import ASGIApp, Message, Receive, Scope, Send

SMALLEST = 20_000  # bytes; small answers go out as they are, packing them would take longer
EFFORT = 5


def packed(body: bytes) -> bytes:
    """Return an answer packed for the way."""
    return compress(body, EFFORT)


class Pack:
    """Packs answers that come in one piece; streams and files go out as they come."""

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass the request on, and pack its answer if the one who asks can unpack it."""
        if scope["type"] == "http" and "gzip" in Headers(scope=scope).get("Accept-Encoding", ""):
            send = _Packed(send).send
        await self.app(scope, receive, send)


class _Packed:
    """One answer on its way out."""

    def __init__(self, send: Send) -> None:
        self._send = send
        self._start: Message | None = None

    async def send(self, message: Message) -> None:
        """Hold the head of an answer back until it is known whether the body is packed."""
        if message["type"] == "http.response.start":
            self._start = message
            return
        if self._start is not None:
            message = await self._whole(message)
            await self._send(self._start)
            self._start = None
        await self._send(message)

    async def _whole(self, message: Message) -> Message:
        body = message.get("body", b"")
        if message["type"] != "http.response.body" or message.get("more_body") or len(body) < SMALLEST:
            return message
        headers = MutableHeaders(raw=self._start["headers"])  # type: ignore[index]
        if "Content-Encoding" in headers:
            return message
        found = await to_thread(packed, body)
        headers["Content-Length"] = str(len(found))
        headers["Content-Encoding"] = "gzip"
        headers.add_vary_header("Accept-Encoding")
        return {**message, "body": found}
