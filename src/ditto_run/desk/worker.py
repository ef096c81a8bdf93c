"""Long work in a process of its own: no database, values in and out, one at a time, a limit, and a sentence.

The process is spawned when it is first wanted. Whoever comes while it is busy waits for its turn; whatever takes longer
than its limit is ended with its process, and the next piece of work gets a new one.
"""

import signal
from collections.abc import Callable
from multiprocessing import get_context
from multiprocessing.connection import Connection
from multiprocessing.process import BaseProcess
from threading import Lock
from typing import Any, ParamSpec, TypeVar

from ditto_run.core.errors import NotNow

P = ParamSpec("P")
R = TypeVar("R")
LIMIT_S = 20.0
PATIENCE_S = 60.0  # for one's turn


class Worker:
    """One process for long work."""

    def __init__(self) -> None:
        self._turn = Lock()
        self._process: BaseProcess | None = None
        self._pipe: Connection | None = None

    def run(self, work: Callable[P, R], *values: P.args, **named: P.kwargs) -> R:
        """Return what a piece of work gives, done in the other process.

        Args:
            work: a function of a module; it and its values are pickled.
            values: what it is given.
            named: the same, by name.

        Raises:
            DittoError: what the work refuses.
            NotNow: if it took too long, fell over, or its turn did not come.
        """
        if not self._turn.acquire(timeout=PATIENCE_S):
            raise NotNow("Other long work is still going on.", "Try again in a moment.")
        try:
            return self._ask(work, values, named)  # type: ignore[no-any-return]
        finally:
            self._turn.release()

    def close(self) -> None:
        """End the process."""
        with self._turn:
            self._end()

    def _ask(self, work: Callable[..., Any], values: tuple[Any, ...], named: dict[str, Any]) -> Any:  # noqa: ANN401 - whatever the work gives
        try:
            pipe = self._started()
            pipe.send((work, values, named))
            if not pipe.poll(LIMIT_S):
                self._end()
                raise NotNow(
                    f"This was not done within {LIMIT_S:g} s, so it was stopped.",
                    "Make it smaller: fewer rows, fewer shapes, a shorter file.",
                )
            done, answer = pipe.recv()
        except (EOFError, OSError):
            self._end()
            raise NotNow(
                "This was too much for this machine, so it was stopped.", "Make it smaller, then try again."
            ) from None
        if not done:
            raise answer
        return answer

    def _started(self) -> Connection:
        if self._pipe is None or self._process is None or not self._process.is_alive():
            self._end()
            context = get_context("spawn")
            self._pipe, other = context.Pipe()
            process = context.Process(target=_work, args=(other,), name="ditto-run work", daemon=True)
            try:
                process.start()
            finally:
                other.close()
            self._process = process
        return self._pipe

    def _end(self) -> None:
        if self._process is not None:
            self._process.kill()
            self._process.join()
        if self._pipe is not None:
            self._pipe.close()
        self._process = self._pipe = None


def _work(pipe: Connection) -> None:
    """Do what comes through the pipe until nobody holds its other end."""
    signal.signal(signal.SIGINT, signal.SIG_IGN)  # the server ends it
    while True:
        try:
            work, values, named = pipe.recv()
        except (EOFError, OSError):
            return
        try:
            answer = True, work(*values, **named)
        except Exception as fault:  # noqa: BLE001 - whatever it is, it is raised where it was asked for
            answer = False, fault
        pipe.send(answer)
