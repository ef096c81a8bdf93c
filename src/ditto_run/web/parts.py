"""An address with a part in it, /jobs/12-2/part: the same pages over the same job, seen from another of its parts."""

import re

from starlette.datastructures import MutableHeaders
from starlette.types import ASGIApp, Message, Receive, Scope, Send

ADDRESS = re.compile(r"((?:/api/v1)?/jobs/)(\d+)-(\d+)((?:/([^/]*))?.*)")
BY_PART = {"part", "method", "stock", "hold", "place", "tools", "plan", "size", "sheets"}
LEADS = ("location", "hx-location", "hx-redirect", "hx-push-url", "hx-replace-url")


class Parts:
    """Takes the part out of an address, and puts it back into where the answer leads."""

    def __init__(self, app: ASGIApp) -> None:
        self.app = app

    async def __call__(self, scope: Scope, receive: Receive, send: Send) -> None:
        """Pass a request on with its part beside it."""
        found = ADDRESS.fullmatch(scope["path"]) if scope["type"] == "http" else None
        if found is None:
            await self.app(scope, receive, send)
            return
        before, job, part, rest, step = found.groups()
        path = f"{before}{job}{rest}"
        own = int(part) if step in BY_PART or (before.startswith("/api") and not step) else 1
        inner = {**scope, "path": path, "raw_path": path.encode(), "part": own}

        async def back(message: Message) -> None:
            if message["type"] == "http.response.start" and own > 1:
                headers = MutableHeaders(scope=message)
                for name in LEADS:
                    if name in headers:
                        headers[name] = _with_part(headers[name], job, part)
            await send(message)

        await self.app(inner, receive, back)


def _with_part(address: str, job: str, part: str) -> str:
    """Return where an answer leads, with the part where that page has one."""
    found = re.match(rf"/jobs/{job}/([^/?]+)", address)
    return (
        address.replace(f"/jobs/{job}/", f"/jobs/{job}-{part}/", 1)
        if found and found[1] in BY_PART
        else address
    )
