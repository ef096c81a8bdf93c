"""The order of visits in one cycle as JSON: the best one, what an order takes and breaks, and what the habits would take."""

from collections.abc import Mapping
from typing import Annotated, Any, Literal

from fastapi import APIRouter
from pydantic import BaseModel, Field

from ditto_run.core.errors import BadEntry
from ditto_run.core.tools.weave.cost import WeaveCost, cost_of
from ditto_run.core.tools.weave.habits import HABITS, habit_costs
from ditto_run.core.tools.weave.problem import Weave, by_id
from ditto_run.core.tools.weave.reading import MOST_OPS, WrongWeave, read_weave
from ditto_run.core.tools.weave.solve import USUAL_S
from ditto_run.core.tools.weave.words import sentence_of
from ditto_run.desk.weaving import woven
from ditto_run.web.api.errors import ERRORS
from ditto_run.web.api.strict import Sent
from ditto_run.web.dependencies import DeskDep

router = APIRouter(prefix="/api/v1/weave", tags=["tools"], responses=ERRORS)

MOST_STATIONS = 60
MOST_RULES = 200
MOST_SECONDS = 30
Name = Annotated[str, Field(min_length=1, max_length=60)]
Plain = Annotated[float, Field(allow_inf_nan=False)]
Place = Annotated[float, Field(ge=-10_000, le=10_000)]
Names = Annotated[list[Name], Field(max_length=MOST_OPS)]
Selector = Name | Names | dict[Literal["op", "station", "tool", "tag"], Name | Names]
Table = Annotated[list[Annotated[list[Plain], Field(max_length=MOST_OPS)]], Field(max_length=MOST_OPS)]


class WeaveOpIn(Sent):
    """One operation: the tool it needs and how long it cuts, in seconds."""

    id: Name
    tool: Name
    cut: Plain = 0
    tags: Annotated[list[Name], Field(default_factory=list, max_length=20)]


class WeaveStationIn(Sent):
    """One station: its operations in order, as a chain or as pairs; pieces sitting there and given finished."""

    id: Name
    ops: Annotated[list[WeaveOpIn], Field(max_length=MOST_OPS)]
    order: (
        Literal["chain"]
        | Annotated[list[Annotated[list[Name], Field(min_length=2, max_length=2)]], Field(max_length=2000)]
    ) = "chain"
    face: Annotated[int, Field(ge=0, le=MOST_STATIONS)] | None = None
    pieces: Annotated[int, Field(ge=1, le=10_000)] = 1
    finished: Annotated[int, Field(ge=0, le=10_000)] | None = None


class WeaveToolIn(Sent):
    """One tool: its place in the turret, ring or on the plate, and seconds added whenever it is put in."""

    id: Name
    place: Place | None = None
    fit: Plain = 0


class WeaveBetweenIn(Sent):
    """Time from one place to another, in seconds: constant, round a ring, along a line, or a table."""

    kind: Literal["constant", "ring", "line", "table"] = "constant"
    seconds: Plain | Table = 0.0
    per_place: Annotated[float, Field(ge=0, le=10_000)] = 0
    places: Annotated[int, Field(ge=1, le=1000)] | None = None
    direction: Literal["shortest", "up", "down"] = "shortest"


class WeaveChangeIn(WeaveBetweenIn):
    """Time of a tool change; the way to where alone it can be made, or that it is made while the table moves."""

    away: Annotated[dict[Name, Plain], Field(max_length=MOST_STATIONS)] | None = None
    at_once: bool = False


class WeaveMovesIn(Sent):
    """Time from station to station, in seconds: one for all, or a table of the stations named."""

    constant: Plain | None = None
    stations: Names = Field(default_factory=list)
    seconds: Table = Field(default_factory=list)


class WeaveCycleIn(Sent):
    """How the cycle begins and ends, and how long the machine stands still while it is loaded, in seconds."""

    kind: Literal["load", "loop", "once"] = "load"
    start_tool: Name | None = None
    end_tool: Name | None = None
    from_park: Annotated[dict[Name, Plain], Field(default_factory=dict, max_length=MOST_STATIONS)]
    to_park: Annotated[dict[Name, Plain], Field(default_factory=dict, max_length=MOST_STATIONS)]
    load: Plain = 0


class WeaveRuleIn(Sent):
    """One rule with its reason: before, rest, together, once, cool, first or last."""

    rule: Literal["before", "rest", "together", "once", "cool", "first", "last"]
    id: Name
    why: Annotated[str, Field(max_length=300)] = ""
    a: Selector | None = None
    b: Selector | None = None
    ops: Selector | None = None
    tool: Name | None = None
    same: Literal["station"] | None = None
    seconds: Plain = 0


class WeaveIn(Sent):
    """A cycle of several stations on one machine; all times in seconds with three decimals at most."""

    format: Literal["weave/1"]
    stations: Annotated[list[WeaveStationIn], Field(max_length=MOST_STATIONS)]
    tools: Annotated[list[WeaveToolIn], Field(max_length=MOST_OPS)]
    change: WeaveChangeIn | None = None
    moves: WeaveMovesIn | None = None
    index: WeaveBetweenIn | None = None
    cycle: WeaveCycleIn | None = None
    rules: Annotated[list[WeaveRuleIn], Field(default_factory=list, max_length=MOST_RULES)]

    def weave(self) -> Weave:
        """Return the problem it holds."""
        return read_weave(self.model_dump(exclude_none=True, exclude={"order"}))


class WeaveAskedIn(WeaveIn):
    """The same, and how much work may go into it, in seconds; the same request gives the same answer on any machine."""

    seconds: Annotated[float, Field(gt=0, le=MOST_SECONDS, allow_inf_nan=False)] = USUAL_S

    def weave(self) -> Weave:
        """Return the problem it holds."""
        return read_weave(self.model_dump(exclude_none=True, exclude={"seconds"}))


class WeaveOrderIn(WeaveIn):
    """The same with an order: every operation once, by its id."""

    order: Names


class WeaveBrokenOut(BaseModel):
    """A rule that is broken, and two operations that break it."""

    rule: str
    a: str
    b: str


class WeaveVisitOut(BaseModel):
    """One operation in its order; change, move, index and wait come before its start. Times in seconds."""

    n: int
    op: str
    station: str
    tool: str
    change: float
    move: float
    index: float
    wait: float
    start: float
    end: float


class WeaveFiguresOut(BaseModel):
    """What an order takes, in seconds: the cycle, until the first finished piece, a piece; where the time goes."""

    cycle: float
    first: float
    at_risk: int
    changes: int
    per_piece: float
    totals: dict[str, float]
    closing: dict[str, float]
    visits: list[WeaveVisitOut]
    broken: list[WeaveBrokenOut]


class WeaveHabitOut(WeaveFiguresOut):
    """What a habit would take, and what it breaks."""

    name: str
    says: str


class WeaveCostOut(WeaveFiguresOut):
    """What an order takes, beside the three habits."""

    habits: list[WeaveHabitOut]


class WovenOut(BaseModel):
    """The best order: proven, best found, impossible, or wrong where the problem cannot be read. Times in seconds.

    `bound`: no allowed order takes less; `gap`: how far it is from that, of the cycle. `ties` is proven where of the shortest
    orders none has a station done sooner, or risks fewer pieces. `rules` are those that cannot be kept together, or make a
    circle of `ring`.
    """

    status: Literal["proven", "best", "impossible", "wrong"]
    sentence: str
    method: str = ""
    seconds: float = 0
    cycle: float | None = None
    bound: float | None = None
    gap: float | None = None
    ties: Literal["proven", "not proven"] = "not proven"
    first: float | None = None
    at_risk: int | None = None
    changes: int | None = None
    per_piece: float | None = None
    totals: dict[str, float] = Field(default_factory=dict)
    visits: list[WeaveVisitOut] = Field(default_factory=list)
    closing: dict[str, float] = Field(default_factory=dict)
    broken: list[WeaveBrokenOut] = Field(default_factory=list)
    habits: list[WeaveHabitOut] = Field(default_factory=list)
    rules: list[str] = Field(default_factory=list)
    ring: list[str] = Field(default_factory=list)


@router.post("", response_model_exclude_none=True)
def best_order(sent: WeaveAskedIn, desk: DeskDep) -> WovenOut:
    """Return the order of visits with the shortest cycle that keeps all rules, and whether that is proven; beside it the habits."""
    try:
        weave = sent.weave()
    except WrongWeave as wrong:
        said = f"{wrong.problem} {wrong.remedy}"
        return WovenOut(status="wrong", sentence=said, rules=[*wrong.rules], ring=[*wrong.ring])
    found, took = woven(desk, weave, sent.seconds)
    habits = habit_costs(weave)
    figures: dict[str, Any] = {}
    if found.cost is not None:
        cycle = found.cost.cycle_ms
        figures = _figures(weave, found.cost) | {
            "bound": found.bound_ms / 1000,
            "gap": round((cycle - found.bound_ms) / cycle, 6) if cycle else 0,
            "ties": "proven" if found.ties_proven else "not proven",
        }
    return WovenOut(
        status=found.status,
        sentence=sentence_of(found, habits),
        method="search through layers of done operations",
        seconds=round(took, 3),
        habits=_habits(weave, habits),
        rules=[*found.clash],
        **figures,
    )


@router.post("/cost")
def cost(sent: WeaveOrderIn) -> WeaveCostOut:
    """Return what an order of visits takes and which rules it breaks; one pass over it, nothing is searched or kept."""
    weave = sent.weave()
    numbers = by_id(weave)
    if sorted(sent.order) != sorted(numbers):
        amiss = sorted(set(numbers) ^ set(sent.order)) or [
            name for name in sent.order if sent.order.count(name) > 1
        ]
        raise BadEntry(
            f"The order does not hold every operation once: {amiss[0]}.", "Name each once.", "order"
        )
    figures = _figures(weave, cost_of(weave, [numbers[name] for name in sent.order]))
    return WeaveCostOut(habits=_habits(weave, habit_costs(weave)), **figures)


def _habits(weave: Weave, found: Mapping[str, WeaveCost]) -> list[WeaveHabitOut]:
    return [
        WeaveHabitOut(name=name, says=HABITS[name], **_figures(weave, cost)) for name, cost in found.items()
    ]


def _figures(weave: Weave, found: WeaveCost) -> dict[str, Any]:
    parts = ("cut", "change", "move", "index", "wait")
    return {
        "cycle": found.cycle_ms / 1000,
        "first": found.first_ms / 1000,
        "at_risk": found.at_risk,
        "changes": found.changes,
        "per_piece": found.per_piece_ms / 1000,
        "totals": {part: ms / 1000 for part, ms in zip(parts, found.totals, strict=True)},
        "closing": {part: ms / 1000 for part, ms in zip(parts[1:4], found.closing, strict=True)},
        "visits": [
            WeaveVisitOut(
                n=n,
                op=weave.ops[visit.op].id,
                station=weave.stations[weave.ops[visit.op].station].id,
                tool=weave.tools[weave.ops[visit.op].tool],
                change=visit.change_ms / 1000,
                move=visit.move_ms / 1000,
                index=visit.index_ms / 1000,
                wait=visit.wait_ms / 1000,
                start=visit.start_ms / 1000,
                end=visit.end_ms / 1000,
            )
            for n, visit in enumerate(found.visits, 1)
        ],
        "broken": [WeaveBrokenOut(rule=one.rule, a=one.a, b=one.b) for one in found.broken],
    }
