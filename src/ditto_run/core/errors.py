"""Every error that a person at the machine can put right.

DittoError
├── BadEntry            what was typed cannot be used; `field` says where
│   └── SizeNotRead     a size is not written in a way we can read
├── NeedsAnswer         readable but doubtful: say again to keep it
│   └── TwoReadings     what is typed can mean several things: one has to be chosen
├── NotFound            there is no such job, run, piece, machine …
├── NotNow              right, but not at this moment or in this state
│   └── ChangedMeanwhile  somebody else saved the same plan first
├── FileNotRead         an uploaded file cannot be used; nothing was changed
└── CannotKeep          the disk is full, or another program holds the shop's file
"""

from collections.abc import Iterator, Mapping
from contextlib import contextmanager


class DittoError(Exception):
    """What is wrong, with which value, and what to do about it.

    Args:
        problem: one sentence: which value, which rule.
        remedy: one sentence: what to do.
        field: name of the entry field it belongs to, if there is one.
    """

    def __init__(self, problem: str, remedy: str, field: str | None = None) -> None:
        super().__init__(f"{problem} {remedy}")
        self.problem = problem
        self.remedy = remedy
        self.field = field

    def __reduce__(self) -> tuple[object, ...]:
        """Let it travel between processes, whatever its own words were made of."""
        return _again, (type(self), dict(self.__dict__))


@contextmanager
def standing_at(field: str) -> Iterator[None]:
    """Let whatever is refused meanwhile stand at an entry field, whoever refused it."""
    try:
        yield
    except DittoError as refusal:
        refusal.field = field
        raise


def _again(kind: type[DittoError], state: dict[str, object]) -> DittoError:
    error = kind.__new__(kind, f"{state['problem']} {state['remedy']}")
    error.__dict__.update(state)
    return error


class BadEntry(DittoError, ValueError):
    """What was typed cannot be used."""


class SizeNotRead(BadEntry):
    """A size is not written in a way we can read."""

    def __init__(self, text: str, why: str = "") -> None:
        super().__init__(
            f"“{text[:60]}” cannot be read as a size{': ' + why if why else ''}."
            if text.strip()
            else "No size is typed.",
            "Write it as on the drawing, for example 12 H7, 20 ±0.03, .500 +.000/-.001 or 1 1/4.",
            "size",
        )


class NeedsAnswer(DittoError, ValueError):
    """Readable but doubtful. The same entry, said again, is kept.

    Args:
        choices: what it may mean: label to the text that says so without doubt.
    """

    def __init__(
        self, problem: str, remedy: str, field: str | None = None, choices: Mapping[str, str] | None = None
    ) -> None:
        super().__init__(problem, remedy, field)
        self.choices = dict(choices or {})


class TwoReadings(NeedsAnswer):
    """What is typed can mean several things; saying it again would not tell which."""


class NotFound(DittoError, LookupError):
    """There is no such thing."""

    def __init__(self, what: str, name: object, remedy: str = "Choose one from the list of jobs.") -> None:
        super().__init__(f"There is no {what} {name}.", remedy)


class NotNow(DittoError):
    """Right, but not at this moment or in this state."""


class BeingWorkedOut(NotNow):
    """A long answer is under way: for so many seconds already, after so many others, within a limit, [s]."""

    def __init__(self, for_s: float, before: int, limit_s: float) -> None:
        self.for_s, self.before, self.limit_s = for_s, before, limit_s
        others = f" {before} before it." if before else ""
        super().__init__(
            f"Being worked out{f' for {for_s:.0f} s' if for_s >= 1 else ''}.{others}",
            f"It takes {limit_s:g} s at most; look again in a moment.",
        )


class ChangedMeanwhile(NotNow):
    """Somebody else saved the same plan first; `version` is the one they left, `theirs` what they changed in words."""

    def __init__(self, who: str, what: str, version: int = 0, theirs: str = "") -> None:
        self.version = version
        shown = f" Theirs: {theirs}." if theirs else ""
        super().__init__(
            f"{who} changed this plan while you had it open: {what}.{shown}",
            "Your entry is still here; saving it again puts yours on top.",
        )


class FileNotRead(DittoError, ValueError):
    """An uploaded file cannot be used; nothing was changed."""

    def __init__(self, why: str, remedy: str = "Nothing was changed. Choose another file.") -> None:
        super().__init__(why, remedy, "file")


class CannotKeep(DittoError, OSError):
    """The disk is full, or another program holds the shop's file; nothing was recorded."""
