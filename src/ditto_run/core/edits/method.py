"""Changes to the ways of making the part, and the choice among them."""

from dataclasses import dataclass, replace
from typing import Any, Literal

from ditto_run.core.edits.base import PlanRegisters, apply_edit
from ditto_run.core.errors import BadEntry, NotFound
from ditto_run.core.method import (
    Choice,
    Guess,
    Ready,
    Way,
    check_way,
    draw,
    line_of,
    piece_times,
    read_guess,
)
from ditto_run.core.method.starting import BY_KIND, FIELDS
from ditto_run.core.method.way import MOST_PER_LOAD, MOST_SCRAP, MOST_WAIT_DAYS, Attended, SecondCut
from ditto_run.core.money import read_cents
from ditto_run.core.plan import Changed, Plan
from ditto_run.core.plan.ways import PLANNED, followed, planned_way, started_way
from ditto_run.core.sheets import Entries
from ditto_run.core.units import counted

MOST_WAYS = 6
MOST_READY = 12
MOST_TRIED = 20
LABELS = {
    "name": "Name",
    "trials": "Trial pieces",
    "pieces_per_load": "Pieces to a load",
    "scrap": "Expected scrap",
    "wait_days": "Wait",
}


@dataclass(frozen=True, slots=True)
class AddWays:
    """Add ways from starting points, with the shop's rates."""

    kinds: tuple[str, ...]
    labour: str = ""
    machine: str = ""
    cut: str = ""
    kind: Literal["add_ways"] = "add_ways"


@dataclass(frozen=True, slots=True)
class SetWay:
    """Add a way, or change the one of that key. Times, counts and money are as typed; ready lines column by column."""

    name: str
    way_kind: str = "own"
    ready_what: tuple[str, ...] = ()
    ready_time: tuple[str, ...] = ()
    ready_money: tuple[str, ...] = ()
    ready_lasting: tuple[str, ...] = ()
    trials: str = ""
    load: str = ""
    locate: str = ""
    cut: str = ""
    unload: str = ""
    deburr: str = ""
    gauge: str = ""
    per_load: str = ""
    pieces_per_load: str = "1"
    second_cut: str = ""
    second_runs: SecondCut = "after"
    scrap: str = ""
    attended: Attended = "all the time"
    labour: str = ""
    machine: str = ""
    material: str = ""
    bought: str = ""
    order: str = ""
    wait_days: str = ""
    machine_id: int | None = None
    end_first: str = ""
    second_machine: str = ""
    tried: str = ""
    key: int | None = None
    kind: Literal["set_way"] = "set_way"


@dataclass(frozen=True, slots=True)
class RemoveWay:
    """Take a way away."""

    key: int
    kind: Literal["remove_way"] = "remove_way"


@dataclass(frozen=True, slots=True)
class ChooseWay:
    """Choose a way, with the reason."""

    key: int
    reason: str = ""
    kind: Literal["choose_way"] = "choose_way"


def read_way(edit: SetWay, key: int) -> Way:
    """Return the way that was typed.

    Args:
        edit: what was typed.
        key: number it gets.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    typed: dict[str, str] = {
        name: getattr(edit, name) for name in ("trials", "pieces_per_load", "scrap", "wait_days")
    }
    entries = Entries(typed, "mm", LABELS)
    guesses: dict[str, Any] = {
        name: read_guess(getattr(edit, name), name) for name in (*FIELDS, "second_cut")
    }
    return Way(
        key,
        edit.name.strip()[:60],
        edit.way_kind if edit.way_kind in {*BY_KIND, PLANNED} else "own",
        _ready(edit),
        entries.whole("trials", 0, MOST_PER_LOAD, 0),
        pieces_per_load=entries.whole("pieces_per_load", 1, MOST_PER_LOAD, 1),
        second_runs=edit.second_runs,
        scrap=entries.percent("scrap", 0, MOST_SCRAP, 0),
        attended=edit.attended,
        labour_cents=read_cents(edit.labour, "labour"),
        machine_cents=read_cents(edit.machine, "machine"),
        material_cents=read_cents(edit.material, "material"),
        bought_cents=read_cents(edit.bought, "bought"),
        order_cents=read_cents(edit.order, "order"),
        wait_days=entries.number("wait_days", 0, MOST_WAIT_DAYS, 0),
        machine_id=edit.machine_id,
        end_first=edit.end_first.strip()[:200],
        second_cents=read_cents(edit.second_machine, "second_machine"),
        tried=_tried(edit.tried),
        **guesses,
    )


def _tried(text: str) -> tuple[str, ...]:
    lines = tuple(line.strip()[:200] for line in text.splitlines() if line.strip())
    if len(lines) > MOST_TRIED:
        raise BadEntry(
            f"{len(lines)} lines of what was tried are too many.", f"Type {MOST_TRIED} at most.", "tried"
        )
    return lines


def _ready(edit: SetWay) -> tuple[Ready, ...]:
    count = len(edit.ready_what)
    if count > MOST_READY:
        raise BadEntry(
            f"{count} lines of getting ready are too many.", f"Type {MOST_READY} at most.", "ready_what"
        )
    found = []
    for i, what in enumerate(edit.ready_what):
        time, money = _column(edit.ready_time, i), _column(edit.ready_money, i)
        if not what.strip() and not time.strip() and not money.strip():
            continue
        if not what.strip():
            raise BadEntry(
                f"Line {i + 1} of getting ready has no name.",
                "Type what it is, such as fixture.",
                "ready_what",
            )
        lasting = _column(edit.ready_lasting, i).strip().lower() in {"yes", "true", "on"}
        found.append(
            Ready(
                what.strip()[:40],
                read_guess(time, "ready_time", "min"),
                read_cents(money, "ready_money"),
                lasting,
            )
        )
    return tuple(found)


def _column(values: tuple[str, ...], index: int) -> str:
    return values[index] if index < len(values) else ""


@apply_edit.register
def _add_ways(edit: AddWays, plan: Plan, shop: PlanRegisters) -> Changed:
    if not edit.kinds:
        raise BadEntry("No starting point is chosen.", "Choose two or more to compare.", "kinds")
    if len(plan.ways) + len(edit.kinds) > MOST_WAYS:
        raise BadEntry(
            f"{MOST_WAYS} ways are the most to compare.", "Choose fewer, or remove one first.", "kinds"
        )
    rates = read_cents(edit.labour, "labour"), read_cents(edit.machine, "machine")
    says = shop.says_of(plan)
    for kind in edit.kinds:
        key = plan.number_for(Way, None)
        way = planned_way(says, key) if kind == PLANNED else None
        if kind == PLANNED and way is None:
            raise BadEntry(
                "The plan does not say yet what a piece takes.",
                "Give each setup its tools and their times, or choose another starting point.",
                "kinds",
            )
        if way is None and kind not in BY_KIND:
            raise BadEntry(f"“{kind[:30]}” is no starting point.", "Choose one of the list.", "kinds")
        way = way or started_way(kind, key, says, rates, edit.cut)
        taken = {other.name for other in plan.ways}
        number, word = 2, way.name
        while way.name in taken:
            way = replace(way, name=f"{word} {number}")
            number += 1
        plan = plan.put(way)
    return Changed(plan, f"{counted(len(edit.kinds), 'way')} to compare")


@apply_edit.register
def _set_way(edit: SetWay, plan: Plan, shop: PlanRegisters) -> Changed:
    if edit.machine_id is not None and edit.machine_id not in shop.machines:
        raise NotFound("machine", edit.machine_id, "Choose one from Shop.")
    others = tuple(way for way in plan.ways if way.key != edit.key)
    new = check_way(read_way(edit, plan.number_for(Way, edit.key)), others)
    if edit.key is not None:
        new = _still_resting(new, followed(plan.way(edit.key), shop.says_of(plan)))
    if edit.key is None and len(plan.ways) >= MOST_WAYS:
        raise BadEntry(f"{MOST_WAYS} ways are the most to compare.", "Remove one first.", "name")
    return Changed(plan.put(new), f"way {new.name}")


def _still_resting(new: Way, old: Way) -> Way:
    """A way that was typed over another: what is as it was rests on what it did."""
    same = tuple(rest for rest in old.rests if _figure(new, rest.field) == _figure(old, rest.field))
    return replace(new, rests=same)


def _figure(way: Way, field: str) -> object:
    value = getattr(way, field)
    if field == "ready":
        return [(line.what, line.time.text, line.cents, line.lasting) for line in way.ready]
    return value.text if isinstance(value, Guess) else value


@apply_edit.register
def _remove_way(edit: RemoveWay, plan: Plan, _shop: PlanRegisters) -> Changed:
    gone = plan.way(edit.key)
    choice = None if plan.choice is not None and plan.choice.way == edit.key else plan.choice
    return Changed(replace(plan.without(gone), choice=choice), f"removed {gone.name}")


@apply_edit.register
def _choose_way(edit: ChooseWay, plan: Plan, shop: PlanRegisters) -> Changed:
    way = followed(plan.way(edit.key), shop.says_of(plan))
    if not edit.reason.strip():
        raise BadEntry(
            "The choice has no reason.",
            "One sentence is enough; it is read again when the job comes back.",
            "reason",
        )
    quantity = plan.heading.quantity
    low, high = (0.0, 0.0) if way.is_bought else _piece_range(way, quantity)
    choice = Choice(
        way.key,
        way.name,
        edit.reason.strip()[:300],
        quantity,
        0.0 if way.is_bought else piece_times(way).elapsed_s,
        low,
        high,
        float(line_of(way, "time").at(quantity)),
    )
    return Changed(replace(plan, choice=choice), f"chose {way.name}")


def _piece_range(way: Way, quantity: int) -> tuple[float, float]:
    """Return the 80 % range of the time of one piece, [s]."""
    only_pieces = replace(way, ready=(), trials=0, scrap=way.scrap * 0)
    low, high = draw([only_pieces], "time", quantity).totals[0]
    return low / quantity, high / quantity
