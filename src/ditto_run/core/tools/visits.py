"""The order in which the tools of a cycle visit its stations, as somebody chose it."""

from collections.abc import Iterable
from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

from ditto_run.core.units import number_text

RuleKind = Literal["before", "rest", "together", "once", "cool", "first", "last"]

MOVE_S = 3.0  # from station to station, while nobody said it; a guess


@dataclass(frozen=True, slots=True)
class Visits:
    """The order of visits of one cycle.

    Args:
        key: of the cycle; that of the setup where it is cut alone.
        order: every visit once, station and tool step: A.12.
        move_s: from one station to another. [s]
        pairs: from one station to another by name, where the table says so; the same both ways. [s]
    """

    key: int
    order: tuple[str, ...]
    move_s: float = MOVE_S
    pairs: tuple[tuple[str, str, float], ...] = ()

    @property
    def name(self) -> str:
        """What it is called where a change of it is told."""
        return "order of visits"


@dataclass(frozen=True, slots=True)
class Meant:
    """Visits that a rule speaks of.

    Args:
        by: station, tool or step.
        name: its label, its T number as the control shows it, or its key.
    """

    by: Literal["station", "tool", "step"]
    name: str


@dataclass(frozen=True, slots=True)
class VisitRule:
    """What an order of visits has to keep, besides the order of the steps at each station.

    Args:
        key: its lasting number in the job.
        cycle: key of the cycle it is for.
        kind: before: all of `first` before all of `then`; rest: so many seconds between them; together: nothing comes between;
            once: the tool is put in once; cool: so many seconds between two uses of the tool; first, last: the cycle begins or ends so.
        first, then: visits it speaks of; `then` is None where it speaks of some alone.
        seconds: of rest and cool. [s]
        at_each: of before and rest: only within one station.
        why: its reason; empty where nobody said it.
    """

    key: int
    cycle: int
    kind: RuleKind
    first: Meant
    then: Meant | None = None
    seconds: float = 0.0
    at_each: bool = False
    why: str = ""

    @property
    def name(self) -> str:
        """What it is called where a change of it is told."""
        return f"rule {self.says(self.first.name, self.then.name if self.then is not None else '')}"

    def says(self, first: str, then: str) -> str:
        """Return it in words.

        Args:
            first: what it speaks of, in words.
            then: what it speaks of after that; empty where there is none.
        """
        time = f"{number_text(Decimal(repr(self.seconds)), 1)} s"
        words = {
            "before": f"{first} before {then}",
            "rest": f"{time} between {first} and {then}",
            "together": f"nothing between the visits of {first}",
            "once": f"{first} put in once",
            "cool": f"{first} cools {time} between two uses",
            "first": f"{first} first",
            "last": f"{first} last",
        }[self.kind]
        return f"{words} at each station" if self.at_each else words


@dataclass(frozen=True, slots=True)
class Going:
    """How the machine goes from station to station in a cycle, where a table does not say it.

    Args:
        key: of the cycle.
        faces: labels of the stations on each face of a pallet or an indexer; empty for one face.
        index_s: from face to face, besides the move. [s]
        away_s: from a station to where tools are changed, and the same back; None where they are changed anywhere. [s]
        runs_on: True where it is loaded while it cuts, so that the last visit goes on to the first.
    """

    key: int
    faces: tuple[tuple[str, ...], ...] = ()
    index_s: float = 0.0
    away_s: float | None = None
    runs_on: bool = False

    @property
    def name(self) -> str:
        """What it is called where a change of it is told."""
        return "ways between the stations"

    def face_of(self, label: str) -> int:
        """Return the number of the face a station is on, from 0; the first where nobody said it."""
        return next((n for n, face in enumerate(self.faces) if label in face), 0)


def visits_say(visits: Iterable[tuple[str, str]]) -> str:
    """Return an order in words: T01 at A, B, C; T02 at C, B, A.

    Args:
        visits: tool and station of each, in order.
    """
    said: list[tuple[str, list[str]]] = []
    for tool, station in visits:
        if not said or said[-1][0] != tool:
            said.append((tool, []))
        said[-1][1].append(station)
    return "; ".join(f"{tool} at {', '.join(at)}" for tool, at in said) + "."
