"""What the judgement is given and what it may answer. Only the names of the fields count; any object with them will do.

Sizes in mm, times in minutes, pieces, loads and stations numbered from 1.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Protocol

from ditto_run.core.run.judge.reasons import Reason, sentence

# ruff: noqa: D101, D102 - the module says what they are


class JudgedDimension(Protocol):
    @property
    def name(self) -> str: ...
    @property
    def lower(self) -> float: ...
    @property
    def upper(self) -> float: ...
    @property
    def target(self) -> float: ...
    @property
    def resolution(self) -> float: ...
    @property
    def repeatability(self) -> float: ...


class Knob(Protocol):
    @property
    def name(self) -> str: ...
    @property
    def kind(self) -> str: ...
    @property
    def station(self) -> int | None: ...
    @property
    def gains(self) -> Mapping[str, float]: ...
    @property
    def increment(self) -> float: ...


class Costs(Protocol):
    @property
    def scrap(self) -> float: ...
    @property
    def escape(self) -> float: ...
    @property
    def turn(self) -> float: ...
    @property
    def gauge(self) -> float: ...
    @property
    def check_gauge(self) -> float: ...
    @property
    def stop(self) -> float: ...


class JudgedJob(Protocol):
    @property
    def pieces(self) -> int: ...
    @property
    def stations(self) -> int: ...
    @property
    def dimensions(self) -> Sequence[JudgedDimension]: ...
    @property
    def knobs(self) -> Sequence[Knob]: ...
    @property
    def costs(self) -> Costs: ...


class PastReading(Protocol):
    @property
    def piece(self) -> int: ...
    @property
    def dimension(self) -> str: ...
    @property
    def value(self) -> float: ...
    @property
    def after_piece(self) -> int: ...
    @property
    def recheck(self) -> bool: ...


class PastTurn(Protocol):
    @property
    def after_piece(self) -> int: ...
    @property
    def knob(self) -> str: ...
    @property
    def amount(self) -> float: ...


class PastEvent(Protocol):
    @property
    def after_piece(self) -> int: ...
    @property
    def kind(self) -> str: ...


class PastMaster(Protocol):
    @property
    def after_piece(self) -> int: ...
    @property
    def dimension(self) -> str: ...
    @property
    def error(self) -> float: ...


class PastStop(Protocol):
    @property
    def after_piece(self) -> int: ...
    @property
    def station(self) -> int | None: ...
    @property
    def found(self) -> bool: ...


class Past(Protocol):
    @property
    def job(self) -> JudgedJob: ...
    @property
    def pieces_done(self) -> int: ...
    @property
    def readings(self) -> Sequence[PastReading]: ...
    @property
    def turns(self) -> Sequence[PastTurn]: ...
    @property
    def events(self) -> Sequence[PastEvent]: ...
    @property
    def master_checks(self) -> Sequence[PastMaster]: ...
    @property
    def stops(self) -> Sequence[PastStop]: ...


class _Advised:
    """What every advice has."""

    __slots__ = ()
    reason: Reason

    @property
    def why(self) -> str:
        """One sentence for the person."""
        return sentence(self.reason)


@dataclass(frozen=True, slots=True)
class GaugeThese(_Advised):
    """Take these readings now: pairs of piece and dimension name."""

    what: tuple[tuple[int, str], ...]
    reason: Reason
    kind: str = "gauge"


@dataclass(frozen=True, slots=True)
class TurnKnob(_Advised):
    """Turn one knob by a whole number of its increments."""

    knob: str
    amount: float
    reason: Reason
    kind: str = "turn"


@dataclass(frozen=True, slots=True)
class LeaveIt(_Advised):
    """Leave it; ask again when the load with this piece is done."""

    next_check: int
    reason: Reason
    kind: str = "leave"


@dataclass(frozen=True, slots=True)
class TryGauge(_Advised):
    """Try the gauges on their masters and set them right."""

    reason: Reason
    kind: str = "check_gauge"


@dataclass(frozen=True, slots=True)
class StopAndLook(_Advised):
    """Stop, look at what holds at this station (None: at all), gauge the suspects."""

    station: int | None
    suspects: tuple[int, ...]
    reason: Reason
    kind: str = "stop"


Advice = GaugeThese | TurnKnob | LeaveIt | TryGauge | StopAndLook
