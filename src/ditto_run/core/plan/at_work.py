"""Each tool step at work: its questions, each resting on the answers before it."""

from collections.abc import Iterable, Mapping
from dataclasses import replace
from itertools import takewhile
from typing import Literal

from ditto_run.core.hold import Setup
from ditto_run.core.hold.heights import Contact
from ditto_run.core.part.features import Named
from ditto_run.core.part.shape.measures import MEASURES
from ditto_run.core.plan.document import Plan
from ditto_run.core.plan.held import contacts, material_of
from ditto_run.core.plan.once import Once
from ditto_run.core.plan.worked import Worked
from ditto_run.core.questions import Asked, Figure, Question, ask
from ditto_run.core.shop.shop_tools import ShopTool
from ditto_run.core.shop.taught import taught_for
from ditto_run.core.times import read_seconds
from ditto_run.core.tools import ToolStep
from ditto_run.core.tools.cutting.work import OF_KIND
from ditto_run.core.tools.order_rules import kinds_of
from ditto_run.core.tools.questions import (
    CUT_QUESTIONS,
    CUTTING_ASKED,
    SPEED_ASKED,
    STICKOUT_ASKED,
    StepGround,
)
from ditto_run.core.tools.questions.cutters import is_field
from ditto_run.core.tools.questions.spindle import deepest_mm

AS_NOW = ("cut", "change")
HOLES = frozenset({"hole", "bore", "tapped hole", "cross hole"})
OF_KINDS: tuple[
    tuple[frozenset[str], frozenset[str]], ...
] = (  # what words say, and the features that may be meant
    (frozenset({"tap"}), frozenset({"tapped hole"})),
    (frozenset({"ream", "bore"}), frozenset({"bore", "hole"})),
    (frozenset({"spot", "drill"}), HOLES),
    (frozenset({"face"}), frozenset({"face"})),
    (frozenset({"groove"}), frozenset({"groove", "undercut"})),
    (frozenset({"thread"}), frozenset({"outside thread"})),
    (frozenset({"chamfer"}), frozenset({"chamfer", "broken edge"})),
)
MOST_CUTTERS = 4  # that are looked at beside the one a step has


def tool_thing(step: ToolStep) -> str:
    """Return how a tool step is called as the thing a question is about."""
    return f"tool {step.key}"


def step_asked(worked: Worked, step: ToolStep) -> tuple[Asked, ...]:
    """Return the questions of one tool step, each with the answers before it.

    Args:
        worked: the plan worked out.
        step: which.
    """
    return tuple(asked for _, _, asked in _chain(worked, step))


def step_question(
    worked: Worked,
    step: ToolStep,
    question: Question[StepGround],
    typed: Mapping[str, str] | None = None,
) -> Asked:
    """Return one question of a tool step, whether it applies or not.

    Args:
        worked: the plan worked out.
        step: which.
        question: one of CUT_QUESTIONS.
        typed: figures that are only typed yet.
    """
    ground = next((here for one, here, _ in _chain(worked, step) if one is question), None)
    if ground is None:
        ground = step_ground(worked, step)
    return _asked(worked, step, question, ground, typed)


@Once
def all_steps_asked(worked: Worked) -> dict[int, tuple[Asked, ...]]:
    """Return the questions of every tool step of the part in front, by its key."""
    return {step.key: step_asked(worked, step) for step in worked.plan.tool_steps}


def times_wanted(worked: Worked, setup_key: int) -> tuple[tuple[int, Literal["cut", "change"], float], ...]:
    """Return the times that come out for tool steps which have none: key, cut or change, and how long, [s].

    Args:
        worked: the plan worked out.
        setup_key: of the setup.
    """
    found: list[tuple[int, Literal["cut", "change"], float]] = []
    for step in worked.plan.tools_of(setup_key):
        gives = {name: text for one in all_steps_asked(worked)[step.key] for name, text in one.gives}
        if not step.cut_s and "cut" in gives:
            found.append((step.key, "cut", read_seconds(gives["cut"], "cut")))
        if not step.change_s and "change" in gives:
            found.append((step.key, "change", read_seconds(gives["change"], "change")))
    return tuple(found)


def times_clocked(
    plan: Plan, setup_key: int, ratio: float
) -> tuple[tuple[int, Literal["cut", "change"], float], ...]:
    """Return the times of a setup's tool steps as the clock has the whole, each in proportion: key, cut or change, how long, [s].

    Args:
        plan: with the tool steps.
        setup_key: of the setup.
        ratio: what the clock says over what is planned. [-]
    """
    found: list[tuple[int, Literal["cut", "change"], float]] = []
    for step in plan.tools_of(setup_key):
        found += [(step.key, "cut", round(step.cut_s * ratio, 1))] if step.cut_s else []
        found += [(step.key, "change", round(step.change_s * ratio, 1))] if step.change_s else []
    return tuple(found)


def _chain(worked: Worked, step: ToolStep) -> list[tuple[Question[StepGround], StepGround, Asked]]:
    ground, found = step_ground(worked, step), []
    for question in CUT_QUESTIONS:
        if not question.applies(ground):
            continue
        asked = _asked(worked, step, question, ground)
        found.append((question, ground, asked))
        result = asked.answer.result if asked.answer is not None else None
        if question.name == "speed":
            ground = replace(ground, turning=result, deepest_mm=deepest_mm(replace(ground, turning=result)))
        elif question.name == "spindle":
            ground = replace(ground, spent=result)
        elif question.name == "cutting" and result is not None and is_field(ground):
            ground = replace(ground, others=_cutters(worked, step, ground, result.seconds))
    return found


def _cutters(
    worked: Worked, step: ToolStep, ground: StepGround, seconds: float
) -> tuple[tuple[str, float], ...]:
    """The cutter of a step with its time, and larger ones of the register that reach and do the same, the widest few."""
    machine, mine = ground.machine, ground.across_mm
    if mine is None:
        return ()
    wider: dict[float, ShopTool] = {}
    for row in (one for rows in worked.shop.tools.values() for one in rows):
        across = float(row.across_mm or 0)
        near = not row.machine or (machine is not None and row.machine.lower() == machine.name.lower())
        if near and OF_KIND.get(row.kind) == "mill" and across > mine:
            wider.setdefault(across, row)
    name = ground.row.name if ground.row is not None else f"{step.name} {step.does}"
    name = name.replace(";", ",")
    found = [(name, seconds)]
    for across in sorted(wider, reverse=True)[:MOST_CUTTERS]:
        took = _with(worked, step, ground, wider[across])
        if took is not None and wider[across].name.lower() != name.lower():
            found.append((wider[across].name.replace(";", ","), took))
    return tuple(found)


def _with(worked: Worked, step: ToolStep, ground: StepGround, row: ShopTool) -> float | None:
    """How long a step takes with another cutter, [s]; None where that is not known or it does not reach."""
    bare = replace(step, across_mm=None, reach_mm=None)
    other = replace(ground, step=bare, row=row, turning=None, spent=None, deepest_mm=None, learned=None)
    known = worked.known
    fast = ask(SPEED_ASKED, "", other, known).answer
    if fast is None:
        return None
    other = replace(other, turning=fast.result)
    other = replace(other, deepest_mm=deepest_mm(other))
    reach, took = ask(STICKOUT_ASKED, "", other, known).answer, ask(CUTTING_ASKED, "", other, known).answer
    if took is None or (reach is not None and (reach.result.reach.spare_mm or 0.0) < 0):
        return None
    return float(took.result.seconds)


def _asked(
    worked: Worked,
    step: ToolStep,
    question: Question[StepGround],
    ground: StepGround,
    typed: Mapping[str, str] | None = None,
) -> Asked:
    asked = ask(question, tool_thing(step), ground, worked.known, _yours(worked.plan, step), typed)
    as_now = {"cut": step.cut_s, "change": step.change_s}
    wanted = [text for name, text in asked.gives if name in AS_NOW and text != f"{as_now[name]:g} s"]
    return replace(asked, given=bool(asked.gives) and not wanted)


def _yours(plan: Plan, step: ToolStep) -> list[Figure]:
    thing = tool_thing(step)
    return [figure for figure in plan.figures if figure.thing == thing]


def step_ground(worked: Worked, step: ToolStep) -> StepGround:
    """Return what is known of a tool step for its questions.

    Args:
        worked: the plan worked out.
        step: which.
    """
    plan = worked.plan
    setup = plan.setup(step.setup)
    machine = worked.machines.get(setup.machine_id or 0)
    part = worked.known.of(MEASURES)
    named = made_by(plan, setup, step)
    contact = next((one for one in contacts(worked) if one.setup.key == setup.key), None)
    name = machine.name if machine is not None else ""
    faced = contact is not None and _is_faced(plan, setup, step, contact.up)
    return StepGround(
        step,
        worked.shop.tool_of(step.tool, name) if step.tool else None,
        machine,
        machine.turns if machine is not None else plan.form == "turned",
        plan.heading.material,
        material_of(plan.heading.material, worked.shop.materials.values()),
        plan.heading.unit,
        [one.feature for one in named],
        part.size if part is not None else None,
        _raw(contact, named) if contact is not None else None,
        _tip(contact, named, later=faced) if contact is not None else None,
        _learned(worked, name, step),
        over_mm=_over(contact, later=faced) if contact is not None else None,
        pieces=worked.known.start,
    )


def made_by(plan: Plan, setup: Setup, step: ToolStep) -> list[Named]:
    """Return the features a step makes that a line describes: as it says, else those of its setup whose name its words say.

    Where they say no name, the one feature of the setup of the kind they say: face, slot, tapped hole.

    Args:
        plan: with the features.
        setup: of the step.
        step: which.
    """
    words = step.does.lower()
    mine = [one for one in plan.described if one.key in setup.cuts]
    if step.makes:
        return [one for one in mine if one.key in step.makes]
    named = [one for one in mine if one.name.lower() in words]
    if named:
        return named
    kinds = next((kinds for said, kinds in OF_KINDS if said & kinds_of(step.does)), frozenset(words.split()))
    alike = [one for one in mine if one.feature.kind in kinds]
    return alike if len(alike) == 1 else []


def _raw(contact: Contact, named: list[Named]) -> float | None:
    """What a setup has before it cuts: the diameter at what is turned, or what it takes off the face that is up, [mm]."""
    before = contact.piece.before
    if before.profile:
        return 2 * max((radius for _, radius in before.profile), default=0.0) or None
    heights = contact.heights
    if heights is None or not faces(named, contact.up) or heights.raw - heights.finished <= 0:
        return None
    return heights.raw - heights.finished


def faces(made: Iterable[Named], face: str) -> bool:
    """Return whether features machine the whole of a face.

    Args:
        made: features.
        face: which.
    """
    return any(one.feature.kind == "face" and one.feature.face == face for one in made)


def _is_faced(plan: Plan, setup: Setup, step: ToolStep, up: str) -> bool:
    """True if an earlier step of the setup faces the piece, so that the raw top is gone by then."""
    before = takewhile(lambda one: one.key != step.key, plan.tools_of(setup.key))
    return any(faces(made_by(plan, setup, one), up) for one in before)


def _tip(contact: Contact, named: list[Named], *, later: bool) -> float | None:
    """From what is highest in the setup down to the tip of the tool, its point counted, [mm]; None while heights are not known."""
    heights = contact.heights
    if heights is None or not named:
        return None
    names = {one.name for one in named}
    floors = [at for name, at in heights.floors if name in names]
    if faces(named, contact.up):
        floors.append(heights.finished)
    if not floors:
        return None
    top = heights.finished if later else heights.raw
    return max(top, heights.jaw or 0.0) - min(floors)


def _over(contact: Contact, *, later: bool) -> float | None:
    """What stands above the finished top, [mm]; None while heights are not known."""
    heights = contact.heights
    if heights is None:
        return None
    top = heights.finished if later else heights.raw
    return max(top, heights.jaw or 0.0) - heights.finished


def _learned(worked: Worked, machine: str, step: ToolStep) -> tuple[float, str] | None:
    """A speed that closed batches proved for this tool, machine and material; None where they proved none."""
    if not machine or not step.tool:
        return None
    material = worked.plan.heading.material
    row = taught_for(worked.shop.taught, "speed", step.name, machine, material)
    return None if row is None else (row.value, row.rests_on)
