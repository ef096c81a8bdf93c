"""What every event of a run shares: its moment, what a decision may look at, and the three things it must answer.

An event is one module: what a person wants, the line that records it, the decision between them, what the line does
to the state, and its sentence. `tests/core/run/test_events.py` holds that none is missing.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field
from datetime import datetime
from functools import singledispatch
from typing import Any, Protocol

from ditto_run.core.place.offsets import Offset
from ditto_run.core.plan import Plan
from ditto_run.core.run.state import RunState
from ditto_run.core.shop import Machine
from ditto_run.core.shop.forgotten import Forgotten


@dataclass(frozen=True, slots=True)
class Now:
    """The moment of a decision, and what it may look at besides the run.

    Args:
        at: when, with the shop's time zone.
        who: initials.
        draft: the plan as it stands on the planning pages.
        draft_revision: the number the draft would get.
        machine: the machine of the setup being run; None where nobody said.
        offsets: that machine's register of work offsets.
        forgotten: what this shop forgot before a first load.
    """

    at: datetime
    who: str
    draft: Plan | None = None
    draft_revision: int = 0
    machine: Machine | None = None
    offsets: Mapping[str, Offset] = field(default_factory=dict)
    forgotten: tuple[Forgotten, ...] = ()


class LogLine(Protocol):
    """One line of a log as the state takes it in."""

    @property
    def seq(self) -> int:
        """Its number in the run, from 1."""

    @property
    def at(self) -> datetime:
        """When, with time zone."""

    @property
    def who(self) -> str:
        """Initials."""


@singledispatch
def decide(command: Any, _state: RunState, _now: Now) -> Any:  # noqa: ANN401 - one of Command, gives one of Body
    """Return the line of the log that records what a person did.

    Args:
        command: what they want; its type says which.
        _state: the run so far.
        _now: when and who, and what it may look at.

    Raises:
        BadEntry: if an entry cannot be used; `field` names it.
        NeedsAnswer: if it is doubtful and was not said twice.
        NotFound: if a piece, dimension or station is not there.
        NotNow: if it is not possible at this moment.
    """
    raise TypeError(command)


@singledispatch
def apply(body: Any, _state: RunState, _line: LogLine) -> None:  # noqa: ANN401 - one of Body
    """Change the state by one line of the log."""
    raise TypeError(body)


@singledispatch
def sentence(body: Any, _state: RunState, _seq: int) -> str:  # noqa: ANN401 - one of Body
    """Return the sentence for one line of the log, as it is spoken, shown at the foot, and listed.

    Args:
        body: what happened.
        _state: the run it happened in.
        _seq: number of the line.
    """
    raise TypeError(body)
