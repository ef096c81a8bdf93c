"""What is worked out once for a value that never changes, and kept while it is likely to be asked again."""

from collections import OrderedDict
from collections.abc import Callable
from threading import Lock
from typing import Generic, TypeVar

V = TypeVar("V")
R = TypeVar("R")
MOST_KEPT = 32


class Once(Generic[V, R]):
    """A function that works once for each of the last few values it was given, told apart by identity and not by content.

    Args:
        work: what is done with a value; neither the value nor what comes out may be changed.
    """

    def __init__(self, work: Callable[[V], R]) -> None:
        self._work, self._lock = work, Lock()
        self._kept: OrderedDict[int, tuple[V, R]] = (
            OrderedDict()
        )  # the value is held, so its identity stays its own
        self.__doc__ = work.__doc__

    def __call__(self, value: V) -> R:
        """Return what comes out for a value."""
        with self._lock:
            found = self._kept.get(id(value))
            if found is not None:
                self._kept.move_to_end(id(value))
                return found[1]
        result = self._work(value)
        with self._lock:
            self._kept[id(value)] = value, result
            while len(self._kept) > MOST_KEPT:
                self._kept.popitem(last=False)
        return result
