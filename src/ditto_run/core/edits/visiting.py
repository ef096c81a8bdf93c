"""The order of visits of a cycle, taken or given up, what it has to keep, and how the machine goes from station to station."""

from dataclasses import dataclass, field, replace
from typing import Literal

from ditto_run.core.edits.base import PlanRegisters, apply_edit
from ditto_run.core.errors import BadEntry, NotFound, NotNow
from ditto_run.core.plan import Changed, Plan
from ditto_run.core.plan.cycles import Press
from ditto_run.core.plan.woven import CycleTools, Moves, weave_of
from ditto_run.core.sheets import Entries
from ditto_run.core.tools.visits import MOVE_S, Going, Meant, RuleKind, VisitRule, Visits
from ditto_run.core.tools.weave.problem import by_id

MOST_MOVE_S = 3600
MOST_RULES = 40
Pair = tuple[str, str, float]
LABELS = {
    "move": "From station to station",
    "seconds": "Seconds",
    "index": "From face to face",
    "away": "To where tools are changed",
}
NO_CYCLE = "Choose one of the cycles of this job."


@dataclass(frozen=True, slots=True)
class SetVisits:
    """Take an order of visits for a cycle; an empty one is given up, and each tool goes round all again.

    Args:
        cycle: its key.
        order: every visit once, station and tool step: A.12.
        move: from station to station, as typed; the usual one if empty.
        pairs: from one station to another by name, where the table says so; they count where no move is typed. [s]
    """

    cycle: int
    order: tuple[str, ...] = ()
    move: str = ""
    pairs: tuple[Pair, ...] = field(default=())
    kind: Literal["set_visits"] = "set_visits"


@dataclass(frozen=True, slots=True)
class SetVisitRule:
    """Say what an order of visits has to keep.

    Args:
        cycle: its key.
        rule: its kind.
        first, then: what it speaks of: station A, tool T03, step 12; `then` is empty where it speaks of some alone.
        seconds: of rest and cool, as typed.
        at_each: only within one station.
        why: its reason.
    """

    cycle: int
    rule: RuleKind
    first: str = ""
    then: str = ""
    seconds: str = ""
    at_each: bool = False
    why: str = ""
    kind: Literal["set_visit_rule"] = "set_visit_rule"


@dataclass(frozen=True, slots=True)
class RemoveVisitRule:
    """Take a rule out."""

    key: int
    kind: Literal["remove_visit_rule"] = "remove_visit_rule"


@dataclass(frozen=True, slots=True)
class SetGoing:
    """Say how the machine goes from station to station.

    Args:
        cycle: its key.
        on_faces: the stations on each face, as typed: A B / C D; empty for one face.
        index: from face to face, as typed.
        away: from a station to where tools are changed, as typed; empty where they are changed anywhere.
        runs_on: it is loaded while it cuts.
    """

    cycle: int
    on_faces: str = ""
    index: str = ""
    away: str = ""
    runs_on: bool = False
    kind: Literal["set_going"] = "set_going"


def _cycle(plan: Plan, key: int) -> Press:
    found = next((one for one in plan.all_cycles if one.key == key), None)
    if found is None:
        raise NotFound("cycle", key, NO_CYCLE)
    return found


def read_seconds(name: str, text: str) -> float:
    """Return a time of at most an hour as typed, [s].

    Raises:
        BadEntry: at that field.
    """
    seconds = Entries({name: text}, "mm", LABELS).seconds(name)
    if seconds > MOST_MOVE_S:
        raise BadEntry(
            f"{LABELS[name]}: more than an hour is not possible.", "Type seconds, such as 3.", name
        )
    return round(seconds, 3)


def read_move(text: str) -> float:
    """Return the time from station to station as typed, [s]; the usual one if empty.

    Raises:
        BadEntry: at the field `move`.
    """
    if not text.strip():
        return MOVE_S
    return read_seconds("move", text)


@apply_edit.register
def _set_visits(edit: SetVisits, plan: Plan, _shop: PlanRegisters) -> Changed:
    cycle = _cycle(plan, edit.cycle)
    others = tuple(one for one in plan.visits if one.key != edit.cycle)
    if not edit.order:
        return Changed(replace(plan, visits=others), f"each tool goes round all stations of {cycle.name}")
    pairs = () if edit.move.strip() else edit.pairs
    if any(not 0 <= seconds <= MOST_MOVE_S for _, _, seconds in pairs):  # also what is no number
        raise BadEntry("A move of that time is not possible.", "Open the order of visits again.", "pairs")
    move_s = read_move(edit.move)
    weave = weave_of(plan.cycle_tools(cycle), Moves(move_s, pairs))
    if sorted(edit.order) != sorted(by_id(weave)):
        raise BadEntry(
            "The order is for other stations or tools than there are now.",
            "Open the order of visits again.",
            "order",
        )
    visits = Visits(edit.cycle, edit.order, move_s, pairs)
    return Changed(replace(plan, visits=(*others, visits)), f"order of visits of {cycle.name}")


@apply_edit.register
def _set_visit_rule(edit: SetVisitRule, plan: Plan, _shop: PlanRegisters) -> Changed:
    there = plan.cycle_tools(_cycle(plan, edit.cycle))
    two, timed = edit.rule in {"before", "rest"}, edit.rule in {"rest", "cool"}
    first = _chosen(there, "first", edit.first)
    then = _chosen(there, "then", edit.then) if two else None
    if edit.rule in {"once", "cool"} and first.by != "tool":
        raise BadEntry("This rule is about a tool.", "Choose one of the tools.", "first")
    if timed and not edit.seconds.strip():
        raise BadEntry("Seconds are missing.", "Type how long, such as 30.", "seconds")
    seconds = read_seconds("seconds", edit.seconds) if timed else 0.0
    if timed and not seconds:
        raise BadEntry("A rest of 0 s keeps nothing apart.", "Type how long, such as 30.", "seconds")
    rule = VisitRule(
        plan.next_number,
        edit.cycle,
        edit.rule,
        first,
        then,
        seconds,
        edit.at_each and two,
        edit.why.strip()[:200],
    )
    if any(replace(one, key=rule.key, why=rule.why) == rule for one in there.rules):
        raise BadEntry("That rule is there already.", "Take it out first, or choose another.", "first")
    if len(there.rules) >= MOST_RULES:
        raise NotNow(f"A cycle holds {MOST_RULES} rules at most.", "Take one out first.")
    words = there.says(rule)
    try:
        weave_of(replace(there, rules=(*there.rules, rule)), Moves())
    except NotNow as refusal:
        raise BadEntry(refusal.problem, "Choose others, or take the other rule out.", "first") from None
    return Changed(plan.put(rule), f"rule {words}")


def _chosen(there: CycleTools, name: str, text: str) -> Meant:
    """What a rule speaks of, as it was chosen.

    Raises:
        BadEntry: if nothing is chosen, or it is not there.
    """
    by, _, which = text.partition(" ")
    if by in {"station", "tool", "step"} and which:
        chosen = Meant(by, which)  # type: ignore[arg-type] # one of the three, just above
        if there.chosen(chosen):
            return chosen
    raise BadEntry("No visit is meant by it.", "Choose a station, a tool or a step.", name)


@apply_edit.register
def _remove_visit_rule(edit: RemoveVisitRule, plan: Plan, _shop: PlanRegisters) -> Changed:
    gone = plan.find(VisitRule, edit.key)
    cycle = next((one for one in plan.all_cycles if one.key == gone.cycle), None)
    words = plan.cycle_tools(cycle).says(gone) if cycle is not None else gone.kind
    return Changed(plan.without(gone), f"took out rule {words}")


@apply_edit.register
def _set_going(edit: SetGoing, plan: Plan, _shop: PlanRegisters) -> Changed:
    cycle = _cycle(plan, edit.cycle)
    labels = [station.label for station in cycle.stations]
    faces = tuple(
        tuple(face.upper().replace(",", " ").split()) for face in edit.on_faces.split("/") if face.strip()
    )
    named = [label for face in faces for label in face]
    strange = next((label for label in named if label not in labels or named.count(label) > 1), None)
    if strange is not None:
        what = "is named twice" if strange in labels else "is no station of this cycle"
        raise BadEntry(f"{strange} {what}.", f"Type the faces as {_example(labels)}.", "on_faces")
    left = [label for label in labels if label not in named]
    if faces and left:
        raise BadEntry(
            f"{', '.join(left)} stands on no face.", f"Type the faces as {_example(labels)}.", "on_faces"
        )
    index_s = read_seconds("index", edit.index) if edit.index.strip() else 0.0
    if len(faces) > 1 and not index_s:
        raise BadEntry("How long from face to face is missing.", "Type it, such as 9.", "index")
    if index_s and len(faces) < 2:  # noqa: PLR2004 - from one to another
        raise BadEntry(
            "There are no two faces to turn between.", f"Type them as {_example(labels)}.", "on_faces"
        )
    away_s = read_seconds("away", edit.away) if edit.away.strip() else None
    others = tuple(one for one in plan.goings if one.key != edit.cycle)
    going = Going(edit.cycle, faces, index_s, away_s, edit.runs_on)
    mine = () if going == Going(edit.cycle) else (going,)
    return Changed(replace(plan, goings=(*others, *mine)), f"the ways between the stations of {cycle.name}")


def _example(labels: list[str]) -> str:
    """The stations on two faces: A B / C D."""
    half = (len(labels) + 1) // 2
    return f"{' '.join(labels[:half])} / {' '.join(labels[half:])}"
