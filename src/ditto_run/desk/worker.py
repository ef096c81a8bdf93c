"""Long work in a process of its own: no database, values in and out, one at a time, a limit, and a sentence.

The process is spawned when it is first wanted. What comes while it is busy waits for its turn and can be told how many
are before it; what takes longer than its limit, or is stopped by hand, is ended with its process, and the next piece of
work gets a new one. What was solved is kept by what was asked, so the same question is answered at once.
"""

import signal
from collections import OrderedDict, deque
from collections.abc import Callable
from dataclasses import dataclass, field
from hashlib import sha256
from multiprocessing import get_context
from multiprocessing.connection import Connection
from multiprocessing.process import BaseProcess
from threading import Condition, Event, Thread
from time import monotonic
from typing import Any, ParamSpec, TypeVar

from ditto_run.core.errors import BeingWorkedOut, NotNow

P = ParamSpec("P")
R = TypeVar("R")
LIMIT_S = 20.0
PATIENCE_S = 60.0  # for one's turn
LOOK_S = 0.05  # how soon a piece of work that is stopped by hand ends
MOST_KEPT = 200  # answers in memory; the oldest is forgotten first
STOPPED = ("It was stopped by hand.", "Change an entry, or try it again.")


@dataclass(slots=True, eq=False)
class Task:
    """A piece of work on its way.

    Args:
        work: a function of a module.
        values: what it is given.
        named: the same, by name.
        limit_s: how long it may take. [s]
        since: when it was begun; None while it waits for its turn. [s, of the process's own clock]
        stopped: True once somebody wants it no longer.
        typed: True while nobody wants it but a hand that is typing.
        done: set when it has an answer or a fault.
    """

    work: Callable[..., Any]
    values: tuple[Any, ...]
    named: dict[str, Any] = field(default_factory=dict)
    limit_s: float = LIMIT_S
    since: float | None = None
    stopped: bool = False
    typed: bool = False
    done: Event = field(default_factory=Event)
    answer: Any = None
    fault: Exception | None = None

    def result(self) -> Any:  # noqa: ANN401 - whatever the work gives
        """Return what it gave, or raise what it refused."""
        if self.fault is not None:
            raise self.fault
        return self.answer


class Worker:
    """One process for long work, and the queue before it."""

    def __init__(self) -> None:
        self._changed = Condition()
        self._waiting: deque[Task] = deque()
        self._running: Task | None = None
        self._kept: OrderedDict[str, Task] = OrderedDict()
        self._thread: Thread | None = None
        self._closing = False
        self._process: BaseProcess | None = None
        self._pipe: Connection | None = None

    def run(self, work: Callable[P, R], *values: P.args, **named: P.kwargs) -> R:
        """Return what a piece of work gives, done in the other process; nothing of it is kept.

        Args:
            work: a function of a module; it and its values are pickled.
            values: what it is given.
            named: the same, by name.

        Raises:
            DittoError: what the work refuses.
            NotNow: if it took too long, fell over, or its turn did not come.
        """
        return self._done(Task(work, values, named))  # type: ignore[no-any-return]

    def run_within(self, limit_s: float, work: Callable[P, R], *values: P.args, **named: P.kwargs) -> R:
        """Return the same of work that may take longer than other work, [s]."""
        return self._done(Task(work, values, named, limit_s))  # type: ignore[no-any-return]

    def solve(
        self,
        work: Callable[..., R],
        *values: object,
        wait_s: float | None = None,
        typed: bool = False,
        patient: bool = True,
    ) -> R:
        """Return the answer to a question, which is kept: asked again it is there at once, be it a refusal.

        Args:
            work: a function of a module that gives the same for the same values.
            values: what it is given; their texts tell one question from another.
            wait_s: how long to wait for it; None as long as it may take. [s]
            typed: True if it is asked by a hand that is still typing.
            patient: False if what is under way already is not waited for: of many pages only the first one waits.

        Raises:
            BeingWorkedOut: if it is not there yet by then.
            DittoError: what the work refuses.
            NotNow: if it took too long, was stopped, or fell over.
        """
        key = _key(work, values)
        with self._changed:
            task = self._kept.get(key)
            waits = task is None or patient
            if task is None:
                task = self._kept[key] = Task(work, values, typed=typed)
                self._trim()
                self._push(task)
            task.typed = task.typed and typed
            self._kept.move_to_end(key)
        if wait_s is None:
            return self._waited(task)  # type: ignore[no-any-return]
        if not task.done.wait(wait_s if waits else 0):
            raise self.progress(task)
        return task.result()  # type: ignore[no-any-return]

    def stop(self, work: Callable[..., object], *values: object) -> None:
        """Stop working on a question; it stays refused until it is asked `again`."""
        with self._changed:
            task = self._kept.get(_key(work, values))
            if task is not None:
                self._drop(task)

    def leave(self, work: Callable[..., object], *values: object) -> None:
        """Give up a question that a hand which typed on wants no longer, unless somebody else asked it too."""
        key = _key(work, values)
        with self._changed:
            task = self._kept.get(key)
            if task is not None and task.typed and not task.done.is_set():
                self._drop(task)
                del self._kept[key]

    def again(self, work: Callable[..., object], *values: object) -> None:
        """Forget that a question was refused because it took too long or was stopped, so that it is tried once more."""
        key = _key(work, values)
        with self._changed:
            task = self._kept.get(key)
            if task is not None and task.done.is_set() and isinstance(task.fault, NotNow):
                del self._kept[key]

    def progress(self, task: Task) -> BeingWorkedOut:
        """Return how far a piece of work is, as what is said instead of its answer."""
        with self._changed:
            since, before = task.since, 0
            if since is None:
                before = (self._running is not None) + (
                    self._waiting.index(task) if task in self._waiting else 0
                )
        return BeingWorkedOut(0.0 if since is None else monotonic() - since, before, task.limit_s)

    def close(self) -> None:
        """End the process; what was under way or waits is refused."""
        with self._changed:
            self._closing = True
            for task in [*self._waiting, *([self._running] if self._running else [])]:
                self._drop(task)
            self._changed.notify_all()
            thread = self._thread
        if thread is not None:
            thread.join()
        self._end()
        with self._changed:
            self._closing, self._thread = False, None

    def _waited(self, task: Task) -> Any:  # noqa: ANN401 - whatever the work gives
        if not task.done.wait(PATIENCE_S):
            with self._changed:
                if task.since is None:
                    self._drop(task)
                    raise NotNow("Other long work is still going on.", "Try again in a moment.")
            task.done.wait()  # begun: its limit ends it
        return task.result()

    def _done(self, task: Task) -> Any:  # noqa: ANN401 - whatever the work gives
        with self._changed:
            self._push(task)
        return self._waited(task)

    def _push(self, task: Task) -> None:
        self._waiting.append(task)
        if self._thread is None:
            self._thread = Thread(target=self._serve, name="ditto-run queue", daemon=True)
            self._thread.start()
        self._changed.notify_all()

    def _drop(self, task: Task) -> None:
        """Want a task no longer; the one that runs ends a moment later."""
        task.stopped = True
        if task in self._waiting:
            self._waiting.remove(task)
            task.fault = NotNow(*STOPPED)
            task.done.set()

    def _trim(self) -> None:
        for key in [key for key, task in self._kept.items() if task.done.is_set()]:
            if len(self._kept) <= MOST_KEPT:
                break
            del self._kept[key]

    def _serve(self) -> None:
        """Do what waits, one after the other, until the worker is closed."""
        while True:
            with self._changed:
                self._changed.wait_for(lambda: self._waiting or self._closing)
                if self._closing:
                    return
                task = self._running = self._waiting.popleft()
                task.since = monotonic()
            try:
                task.answer = self._ask(task)
            except Exception as fault:  # noqa: BLE001 - whatever it is, it is raised where it was asked for
                task.fault = fault
            with self._changed:
                self._running = None
            task.done.set()

    def _ask(self, task: Task) -> Any:  # noqa: ANN401 - whatever the work gives
        try:
            pipe = self._started()
            pipe.send((task.work, task.values, task.named))
            end = monotonic() + task.limit_s
            while not pipe.poll(LOOK_S):
                if task.stopped:
                    self._end()
                    raise NotNow(*STOPPED)
                if monotonic() > end:
                    self._end()
                    raise NotNow(
                        f"This was not done within {task.limit_s:g} s, so it was stopped.",
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


def _key(work: Callable[..., object], values: tuple[object, ...]) -> str:
    """Return what tells one question from another, whatever it is asked for."""
    return sha256(repr((work.__module__, work.__qualname__, values)).encode()).hexdigest()


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
        try:
            pipe.send(answer)
        except OSError:  # the server was killed meanwhile
            return
