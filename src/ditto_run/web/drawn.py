"""What many devices ask for at once is drawn once: a board after a line, for each layout."""

from collections import OrderedDict
from collections.abc import Callable, Hashable
from dataclasses import dataclass
from threading import Lock

from fastapi import Request
from fastapi.responses import HTMLResponse

from ditto_run.web.pack import packed

MOST_KEPT = 32


@dataclass(frozen=True, slots=True)
class Drawing:
    """Something drawn, plain and packed."""

    plain: bytes
    packed: bytes

    def answer(self, request: Request) -> HTMLResponse:
        """Return it as an answer, packed for who can unpack it."""
        if "gzip" not in request.headers.get("Accept-Encoding", ""):
            return HTMLResponse(self.plain)
        return HTMLResponse(self.packed, headers={"Content-Encoding": "gzip", "Vary": "Accept-Encoding"})


class Drawn:
    """Drawings in memory by what they show; whoever asks for one that is under way waits for it."""

    def __init__(self) -> None:
        self._lock = Lock()
        self._kept: OrderedDict[Hashable, Drawing] = OrderedDict()
        self._busy: dict[Hashable, Lock] = {}

    def of(self, key: Hashable, draw: Callable[[], bytes]) -> Drawing:
        """Return the drawing of a key, drawn now if nobody did.

        Args:
            key: everything that the drawing depends on.
            draw: draws it.
        """
        with self._lock:
            found = self._kept.get(key)
            if found is not None:
                return found
            busy = self._busy.setdefault(key, Lock())
        with busy:
            with self._lock:
                found = self._kept.get(key)
            if found is None:
                plain = draw()
                found = Drawing(plain, packed(plain))
            with self._lock:
                self._kept[key] = found
                self._busy.pop(key, None)
                while len(self._kept) > MOST_KEPT:
                    self._kept.popitem(last=False)
        return found
