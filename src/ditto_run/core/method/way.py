"""One way of making the part, with what it costs to get ready and for each piece."""

from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

from ditto_run.core.errors import BadEntry
from ditto_run.core.method.guess import NOTHING, Guess

Attended = Literal["all the time", "start and stop", "runs alone"]
SecondCut = Literal["after", "at the same time"]
MOST_SCRAP = 90
MOST_PER_LOAD = 1000
MOST_WAIT_DAYS = 1000


@dataclass(frozen=True, slots=True)
class Ready:
    """One line of getting ready.

    Args:
        what: fixture, jaws, programming, tooling, setting up, or any other word.
        time: how long it takes.
        cents: what is bought for it. [cents]
        lasting: True if it is there for the next batch too.
    """

    what: str
    time: Guess = NOTHING
    cents: int = 0
    lasting: bool = False

    @property
    def is_setting_up(self) -> bool:
        """True if the machine stands still during it."""
        return self.what.startswith(SETTING_UP)


SETTING_UP = "setting up"  # the lines of getting ready during which the machine stands still begin so


@dataclass(frozen=True, slots=True)
class Rest:
    """What one figure of a way rests on, where nobody typed it for this job.

    Args:
        field: of the way; ready for its lines of getting ready.
        origin: computed from the plan, which it then follows; learned from batches; register; practice.
        of: where it comes from, in a word or two.
    """

    field: str
    origin: Literal["computed", "learned", "register", "practice"]
    of: str = ""


@dataclass(frozen=True, slots=True)
class Way:
    """One way of making the part.

    Args:
        key: its lasting number in the job.
        name: what the shop calls it.
        kind: the starting point it came from, such as fixture.
        ready: lines of getting ready.
        trials: trial pieces. [pieces]
        load, locate, cut, unload, deburr, gauge: times of one piece.
        per_load: tool changes, moves and door, once a load.
        pieces_per_load: pieces one cycle makes. [pieces]
        second_cut: time of one piece in a second operation or at a second spindle.
        second_runs: after the first, or at the same time: then the longer one sets the pace.
        scrap: share that comes out bad. [%]
        attended: what the hands do while it cuts.
        labour_cents: an hour of a pair of hands. [cents/h]
        machine_cents: an hour of the machine. [cents/h]
        second_cents: an hour of a second machine for the second cut; 0 where the first one makes it. [cents/h]
        material_cents: material of one piece. [cents]
        bought_cents: price of one piece made elsewhere. [cents]
        order_cents: once for the order. [cents]
        wait_days: until it comes. [days]
        machine_id: machine it runs on; None while open.
        end_first: which end or spindle is done first, and why.
        rests: what its figures rest on; those not named were typed.
        tried: what was tried beside it and what came of it, one a line.
    """

    key: int
    name: str
    kind: str = "own"
    ready: tuple[Ready, ...] = ()
    trials: int = 0
    load: Guess = NOTHING
    locate: Guess = NOTHING
    cut: Guess = NOTHING
    unload: Guess = NOTHING
    deburr: Guess = NOTHING
    gauge: Guess = NOTHING
    per_load: Guess = NOTHING
    pieces_per_load: int = 1
    second_cut: Guess = NOTHING
    second_runs: SecondCut = "after"
    scrap: Decimal = Decimal(0)
    attended: Attended = "all the time"
    labour_cents: int = 0
    machine_cents: int = 0
    material_cents: int = 0
    bought_cents: int = 0
    order_cents: int = 0
    wait_days: Decimal = Decimal(0)
    machine_id: int | None = None
    end_first: str = ""
    second_cents: int = 0
    rests: tuple[Rest, ...] = ()
    tried: tuple[str, ...] = ()

    def rest_of(self, field: str) -> Rest | None:
        """Return what a figure of it rests on; None where it was typed."""
        return next((rest for rest in self.rests if rest.field == field), None)

    @property
    def is_bought(self) -> bool:
        """True if the piece is made elsewhere."""
        return self.kind == "buy"

    @property
    def has_money(self) -> bool:
        """True if its cost says something: a rate or a price is known."""
        return bool(self.labour_cents or self.machine_cents or self.bought_cents)

    @property
    def lacks(self) -> str:
        """What it cannot be compared without: its price, or its times; empty if nothing."""
        if self.is_bought:
            return "" if self.bought_cents or self.order_cents else "its price"
        guesses = (self.load, self.locate, self.cut, self.unload, self.deburr, self.gauge, self.per_load)
        return "" if any(guess.likely_s for guess in (*guesses, self.second_cut)) else "its times"

    @property
    def yield_share(self) -> float:
        """Share of the started pieces that come out good, [-]."""
        return 1 - float(self.scrap) / 100


@dataclass(frozen=True, slots=True)
class Choice:
    """The way chosen, what was expected of it, and why; kept to be held beside what happened.

    Args:
        way: its key.
        name: its name then.
        reason: in one sentence.
        quantity: pieces it was chosen for. [pieces]
        piece_s: expected time of one piece, load to load. [s]
        piece_low_s, piece_high_s: its 80 % range. [s]
        total_s: expected time of the whole batch. [s]
    """

    way: int
    name: str
    reason: str
    quantity: int
    piece_s: float
    piece_low_s: float
    piece_high_s: float
    total_s: float


def check_way(way: Way, others: tuple[Way, ...]) -> Way:
    """Return the way if it can be compared.

    Args:
        way: the way.
        others: the other ways of the job.

    Raises:
        BadEntry: without a name or with one twice, without any time or price, or with a count out of range.
    """
    if not way.name:
        raise BadEntry("The way has no name.", "Type what the shop calls it, such as three vises.", "name")
    if any(other.name.lower() == way.name.lower() for other in others):
        raise BadEntry(f"There is a way {way.name} already.", "Choose another name.", "name")
    if not 1 <= way.pieces_per_load <= MOST_PER_LOAD:
        raise BadEntry(
            f"{way.pieces_per_load:,} pieces to a load are not possible.",
            f"Type 1 to {MOST_PER_LOAD:,}.",
            "pieces_per_load",
        )
    if not 0 <= way.trials <= MOST_PER_LOAD:
        raise BadEntry(
            f"{way.trials:,} trial pieces are not possible.",
            "Type how many are cut before the first good one.",
            "trials",
        )
    if way.is_bought:
        if not way.bought_cents:
            raise BadEntry("Buying has no price.", "Type the price of one piece.", "bought")
        return way
    if not (way.cut.likely_s or way.second_cut.likely_s):
        raise BadEntry("The cut has no time.", "A guess will do, such as 4 min or 3/4/6 min.", "cut")
    return way
