"""What is gone through before the first load of a cycle, made from the plan, the machine and its register of offsets.

Each item rests on a ground: where that moves, only that item is asked again.
"""

import re
from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from typing import Literal

from ditto_run.core.hold import Setup
from ditto_run.core.place.offsets import Offset
from ditto_run.core.plan.cycles import Press
from ditto_run.core.plan.document import Plan
from ditto_run.core.prove.hazards import hazards_of
from ditto_run.core.shop import Machine
from ditto_run.core.shop.forgotten import Forgotten
from ditto_run.core.units import capital, length_text

Part = Literal["ladder", "forgotten", "start list"]
VISE = re.compile(r"\b(?:vises?|jaws?)\b", re.IGNORECASE)
MOST_TOOLS = 40  # that are named one by one


@dataclass(frozen=True, slots=True)
class ProofItem:
    """One thing that is looked at before the first load.

    Args:
        key: its lasting name.
        part: of the ladder, of what was forgotten before, or of the start list.
        words: what it is.
        why: what may happen else; empty where it says itself.
        ground: what it rests on.
    """

    key: str
    part: Part
    words: str
    why: str = ""
    ground: str = ""


def proof_items(
    plan: Plan,
    cycle: Press,
    machine: Machine | None,
    offsets: Mapping[str, Offset],
    forgotten: Iterable[Forgotten] = (),
) -> tuple[ProofItem, ...]:
    """Return what is gone through before the first load of a cycle, in order.

    Args:
        plan: as it is run.
        cycle: which.
        machine: it is cut on; None while nobody said it.
        offsets: of the machine as the register has them, by code.
        forgotten: what this shop forgot before; those that became habit, or are of another machine, are left out.

    Source:
        Common practice, no source; the machine's own manual and local rules go before it.
    """
    name = machine.name if machine is not None else ""
    missed = sorted((one for one in forgotten if one.is_for(name)), key=lambda one: -one.times)
    return (
        *_ladder(plan, cycle, machine),
        *(ProofItem(one.key, "forgotten", _sentence(one.words), one.why, one.why) for one in missed),
        *_start_list(plan, cycle, machine, offsets),
    )


def _sentence(words: str) -> str:
    return f"{capital(words)}{'' if words.endswith('.') else '.'}"


def _ladder(plan: Plan, cycle: Press, machine: Machine | None) -> Iterator[ProofItem]:
    if machine is None or machine.is_manual:
        words = "Dials and stops gone through once without cutting."
        yield ProofItem("dry", "ladder", words, ground=_tools_ground(plan, cycle))
        return
    choice = next((one for one in plan.programs if one.key == cycle.key), None)
    ground = choice.seal if choice is not None else _tools_ground(plan, cycle)
    if choice is not None:
        words = f"The machine holds {choice.file}, seal {choice.seal}, and it was read."
        yield ProofItem("program", "ladder", words, "Another revision may be in the machine.", ground)
    else:
        words = "The program was read line by line; none was chosen on Tools."
        yield ProofItem("program", "ladder", words, "Tools, Program reads it with you.", ground)
    yield ProofItem(
        "air",
        "ladder",
        "Air cut over the piece, every tool to its end.",
        "Offsets and signs show there.",
        ground,
    )
    words = "Single block at low override, a hand on the stop, each tool’s first move watched."
    yield ProofItem("single", "ladder", words, "The first move down is the one that hits.", ground)


def _start_list(
    plan: Plan, cycle: Press, machine: Machine | None, offsets: Mapping[str, Offset]
) -> Iterator[ProofItem]:
    manual = machine is None or machine.is_manual
    turns = machine.turns if machine is not None else plan.form == "turned"
    if not manual:
        yield ProofItem("homed", "start list", "Homed, at low override.")
        yield from _offsets(cycle, offsets)
    if turns:
        yield ProofItem(
            "key",
            "start list",
            "Chuck key out, nothing loose in the chuck.",
            "It is thrown when the spindle starts.",
        )
    else:
        yield ProofItem("key", "start list", "Spindle lock off, wrench out of the drawbar.")
    if machine is not None and machine.ability.speeds_rpm:
        yield ProofItem("gear", "start list", "Belt or gear set for the first speed, lever home.")
    for key in cycle.setups:
        yield from _of_setup(plan, plan.setup(key), machine)
    said: set[str] = set()
    for key in cycle.setups:
        for hazard in hazards_of(plan, plan.setup(key), machine, "prove"):
            if hazard.key not in said:
                said.add(hazard.key)
                yield ProofItem(f"hazard {hazard.key}", "start list", hazard.words, ground=hazard.words)
    yield from _tools(plan, cycle)
    yield from _gauges(plan, cycle)
    clear = (
        "Turret and tools clear chuck, jaws and centre."
        if turns
        else "Nose and holders clear jaws and clamps."
    )
    yield ProofItem("clear", "start list", clear)
    yield ProofItem("coolant", "start list", "Coolant level, its line open and pointed.")
    yield ProofItem(
        "guards",
        "start list",
        "Guards closed, glasses on; no gloves, sleeves, rings or hair near what turns.",
    )


def _offsets(cycle: Press, offsets: Mapping[str, Offset]) -> Iterator[ProofItem]:
    for code in dict.fromkeys(station.offset for station in cycle.stations if station.offset):
        there = offsets.get(code)
        if there is None or not there.axes:
            yield ProofItem(
                f"offset {code}",
                "start list",
                f"{code} set; the register does not have it.",
                ground="not set",
            )
            continue
        ground = " ".join(f"{axis}{there.axes[axis]:f}" for axis in sorted(there.axes))
        kept = f", kept as “{there.name}”" if there.kept else ""
        words = f"{code} looked at over a known feature{kept}."
        yield ProofItem(f"offset {code}", "start list", words, ground=ground)


def _of_setup(plan: Plan, setup: Setup, machine: Machine | None) -> Iterator[ProofItem]:
    name = f"{setup.name}: " if len(plan.setups) > 1 else ""
    stop = setup.stop or setup.locates
    if stop:
        words = f"{name}stop checked: {stop}."
        yield ProofItem(f"stop {setup.key}", "start list", capital(words), ground=stop)
    if setup.torque:
        words = f"{name}tightened to {setup.torque}."
        yield ProofItem(f"torque {setup.key}", "start list", capital(words), ground=setup.torque)
    if setup.held.parallels_mm:
        high = length_text(setup.held.parallels_mm, plan.heading.unit, 1)
        words = f"{name}parallels of {high} under the piece, none loose when it is tight."
        yield ProofItem(f"parallels {setup.key}", "start list", capital(words), ground=high)
    turns = machine.turns if machine is not None else plan.form == "turned"
    if not turns and VISE.search(setup.holds):
        words = f"{name}fixed jaw swept by indicator, at two places."
        yield ProofItem(f"true {setup.key}", "start list", capital(words), ground=setup.holds)
    if not turns and setup.holds:
        words = f"{name}piece pushed by hand against an indicator: it does not move."
        yield ProofItem(f"push {setup.key}", "start list", capital(words), ground=setup.holds)
    if setup.proof:
        words = f"{name}cannot be loaded the wrong way round: {setup.proof}."
        yield ProofItem(f"proof {setup.key}", "start list", capital(words), ground=setup.proof)
    if "vacuum" in setup.holds.lower():
        yield ProofItem(
            f"vacuum {setup.key}",
            "start list",
            "Vacuum up, its reading in sight.",
            "A loss lets the piece go.",
        )


def _gauges(plan: Plan, cycle: Press) -> Iterator[ProofItem]:
    """The gauge of each critical size tried on its master; GO and NO-GO looked at."""
    for key in cycle.setups:
        for c in plan.gauged_in(key):
            if c.grade != "critical":
                continue
            words = (
                f"GO and NO-GO of the {c.name} clean, their marks right."
                if c.by_gauge_only
                else (f"Gauge of the {c.name} tried on its master, read from both sides, repeated.")
            )
            yield ProofItem(f"gauge {c.number}", "start list", words, ground=f"{c.gauge_id} {c.size.text}")


def _tools(plan: Plan, cycle: Press) -> Iterator[ProofItem]:
    """Each tool in its place with its length; many as one."""
    steps = {step.tool: step for key in cycle.setups for step in plan.tools_of(key) if step.tool}
    if len(steps) > MOST_TOOLS:
        words = f"{len(steps)} tools in their places, each length measured."
        yield ProofItem("tools", "start list", words, ground=_tools_ground(plan, cycle))
        return
    for number, step in sorted(steps.items()):
        out = ""
        if step.reach_mm is not None:
            out = f", {length_text(step.reach_mm, plan.heading.unit, 1)} out of its holder"
        words = f"{step.name} {step.does} in its place, its length measured{out}."
        ground = f"{step.does} {step.reach_mm}"
        yield ProofItem(f"tool {number}", "start list", words, ground=ground)


def _tools_ground(plan: Plan, cycle: Press) -> str:
    steps = [step for key in cycle.setups for step in plan.tools_of(key)]
    return " ".join(f"{step.name} {step.does}" for step in steps)
