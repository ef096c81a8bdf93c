"""A rehearsal in which a person decides: the same batch as the advice had, load by load, and what came of it."""

import re
from dataclasses import dataclass
from datetime import datetime
from typing import Literal

from ditto_run.core.errors import BadEntry, DittoError
from ditto_run.core.plan import Plan
from ditto_run.core.rehearse.rehearsal import MOST_LOADS, PlayedBatch, PlayedOn, PlayingHand
from ditto_run.core.run.advised import Advised
from ditto_run.core.run.judged import KnobHere
from ditto_run.core.run.loads import next_load
from ditto_run.core.run.state import RunState

Choose = Literal["go", "turn", "master", "look", "gauge"]
CHOICES: dict[str, Choose] = {"g": "go", "t": "turn", "m": "master", "l": "look", "a": "gauge"}
MOST_CHOICES = 600
WORDS = re.compile(r"([gtmla])(\d{0,3})([+-]\d{1,4})?", re.ASCII)
WHOLE = re.compile(rf"(?:{WORDS.pattern})*", re.ASCII)


@dataclass(frozen=True, slots=True)
class Decision:
    """What a person decided at a load.

    Args:
        kind: cut on, turn a knob, try the gauge on its master, look at what holds, or gauge all of the load.
        which: number of the knob, dimension or station, from 0.
        steps: of a turn, in the knob's own.
    """

    kind: Choose
    which: int = 0
    steps: int = 0


@dataclass(frozen=True, slots=True)
class Practised:
    """How far a practice is.

    Args:
        state: the run as it stands.
        so_far: what it came to so far.
        done: True once the last load was decided on.
        knobs: that can be turned.
        told: what the last decision showed; empty for nothing.
    """

    state: RunState
    so_far: PlayedBatch
    done: bool
    knobs: tuple[KnobHere, ...]
    told: str


def read_choices(text: str) -> tuple[Decision, ...]:
    """Return decisions from their short text: g, t0+3, t1-2, m1, l0, a; without anything between.

    Raises:
        BadEntry: if it is no such text.
    """
    if not WHOLE.fullmatch(text):
        raise BadEntry("The decisions cannot be read.", "Begin the practice again.", "did")
    words = WORDS.findall(text)
    found = [Decision(CHOICES[kind], int(which or 0), int(steps or 0)) for kind, which, steps in words]
    if len(found) > MOST_CHOICES:
        raise BadEntry(f"Over {MOST_CHOICES} decisions are too many.", "Begin the practice again.", "did")
    return tuple(found)


def practise(plan: Plan, cycle: int, at: datetime, on: PlayedOn, choices: tuple[Decision, ...]) -> Practised:
    """Return a practice as far as it was decided; its next decision stands after the load cut last.

    Args:
        plan: as it stands.
        cycle: key of the cycle.
        at: when it begins.
        on: what it is played on.
        choices: so far.
    """
    hand = PlayingHand(plan, cycle, at, on)
    hand.begin()
    knobs = tuple({one.name: one for of in hand.knobs.values() for one in of}.values())
    hand.cut_and_gauge()
    told, loads, ended = "", 1, False
    for choice in choices:
        if ended:
            break
        told = ""
        if choice.kind != "go":
            told = _decided(hand, knobs, choice)
            hand.settle_all()
        elif loads < MOST_LOADS and next_load(hand.state):
            loads += 1
            hand.cut_and_gauge()
        else:
            ended = True
    return Practised(hand.state, hand.sum_up(whole=not next_load(hand.state), began=at), ended, knobs, told)


def _decided(hand: PlayingHand, knobs: tuple[KnobHere, ...], choice: Decision) -> str:
    """Do what was decided. Returns what it showed."""
    setup = hand.state.here.setups[0]
    numbers, labels = list(hand.names), list(hand.state.here.composition)
    try:
        if choice.kind == "turn" and choice.which < len(knobs) and choice.steps:
            knob = knobs[choice.which]
            amount = f"{knob.increment * choice.steps:.6f}"
            hand.obey(
                Advised("turn", "", "", setup, what=knob.what, amount=amount, unit="mm", station=knob.label)
            )
        elif choice.kind == "master" and choice.which < len(numbers):
            hand.obey(Advised("check_gauge", "", "", setup, characteristic=numbers[choice.which]))
            off = bool(getattr(hand.log[-1].body, "error", 0))
            return "The gauge was off; it is right now." if off else "The gauge reads true."
        elif choice.kind == "look":
            label = labels[choice.which - 1] if 0 < choice.which <= len(labels) else ""
            before = len(hand.log)
            hand.obey(Advised("stop", "", "", setup, station=label))
            loose = any(getattr(event.body, "loose", False) for event in hand.log[before:])
            return "It was loose, and is tight again." if loose else "It holds."
        elif choice.kind == "gauge":
            pieces = hand.state.here.loads[-1].pieces
            what = tuple(
                (piece, number) for piece in pieces for number in numbers if (piece, number) in hand.truth
            )
            hand.obey(Advised("gauge", "", "", setup, gauge=what))
    except DittoError as refused:
        return f"{refused.problem} {refused.remedy}"
    return ""
