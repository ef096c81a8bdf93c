"""The order of tool steps against the piece as it stands by then: stock above, walls and stems that lose their support."""

from collections.abc import Iterator, Sequence

from ditto_run.core.findings import Finding
from ditto_run.core.hold import Setup
from ditto_run.core.hold.heights import Contact
from ditto_run.core.part.features import Named, Role
from ditto_run.core.part.shape.block import NORMAL
from ditto_run.core.part.shape.body import AXES
from ditto_run.core.part.shape.laid import known_mm
from ditto_run.core.part.shape.measures import MEASURES
from ditto_run.core.plan.at_work import faces, made_by
from ditto_run.core.plan.worked import Worked, thing_of
from ditto_run.core.tools import ToolStep
from ditto_run.core.units import length_text

STARTS = frozenset({"hole", "bore", "tapped hole", "chamfer"})
AXIAL_HOLES = frozenset({"hole", "bore", "tapped hole"})
OUTSIDES = frozenset({"shoulder", "body", "taper"})
SLENDER = 3.0  # of its diameter, from which a stem gives under a thread; common practice, no source
HOLLOW = 0.5  # of its diameter, from which a hole takes its stiffness; common practice, no source
THIN = 0.1  # wall over outside diameter, from which the outside loses its support; common practice, no source
WORTH_MM = 0.01  # a thinner layer is none

Makes = list[tuple[ToolStep, list[Named]]]


def order_on_piece(worked: Worked, setup: Setup, contact: Contact | None) -> list[Finding]:
    """Return what the piece as it stands by then says of the order of a setup's tool steps.

    Args:
        worked: the plan worked out.
        setup: which.
        contact: it by size; None while that is not known.

    Source:
        Common practice, no source; the layer that is above by own derivation.
    """
    plan = worked.plan
    makes: Makes = [
        (step, made_by(plan, setup, step)) for step in plan.tools_of(setup.key) if step.tool or step.makes
    ]
    found = [*_stock_above(worked, setup, contact, makes)]
    if plan.form == "turned":
        found += [*_stems(worked, setup, makes), *_walls(worked, setup, makes)]
    return found


def _ask(setup: Setup, code: str, problem: str, remedy: str, ground: str) -> Finding:
    return Finding("tools", "ask", code, f"{setup.name}: {problem}", remedy, thing_of(setup), ground)


def _named(step: ToolStep) -> str:
    return f"{step.name} {step.does}"


def _stock_above(worked: Worked, setup: Setup, contact: Contact | None, makes: Makes) -> Iterator[Finding]:
    """A hole or chamfer from a face that is raw by then: its depth counts from above what is still there."""
    part = worked.known.of(MEASURES)
    if contact is None or contact.heights is None or part is None or contact.up not in NORMAL:
        return
    axis, inward = NORMAL[contact.up]
    index = AXES.index(axis)
    before = contact.piece.before
    above = before.high[index] - part.size[index] if inward < 0 else -before.low[index]
    if above <= WORTH_MM:
        return
    for step, made in makes:
        if faces(made, contact.up):
            return  # from here on the face is there
        start = next((o for o in made if o.feature.kind in STARTS and o.feature.face == contact.up), None)
        if start is not None and not start.feature.supplied:
            layer = length_text(above, worked.plan.heading.unit, 2)
            yield _ask(
                setup,
                "stock-above",
                f"{_named(step)} starts on the raw {contact.up}: {layer} is still above {start.name}.",
                "Face it first, or count the depth from the raw face, with a note.",
                f"{step.key} {start.key} {above:.3f}",
            )


def _at(makes: Makes, key: int) -> int | None:
    """The last step that makes a feature; None where none does."""
    return max((at for at, (_, made) in enumerate(makes) if any(o.key == key for o in made)), default=None)


def _inside(described: Sequence[Named], face: str) -> list[Named]:
    return [one for one in described if one.feature.kind in AXIAL_HOLES and one.feature.face == face]


def _stems(worked: Worked, setup: Setup, makes: Makes) -> Iterator[Finding]:
    """A thread on a slender stem that is drilled hollow before it is cut."""
    for thread in worked.plan.described:
        across = known_mm(thread.feature.sizes, Role.THREAD)
        long = known_mm(thread.feature.sizes, Role.LENGTH)
        late = _at(makes, thread.key)
        if thread.feature.kind != "outside thread" or late is None or not across or not long:
            continue
        for hole in _inside(worked.plan.described, thread.feature.face):
            wide = known_mm(hole.feature.sizes, Role.DIAMETER) or known_mm(hole.feature.sizes, Role.THREAD)
            early = _at(makes, hole.key)
            if (
                wide is None
                or early is None
                or early >= late
                or long < SLENDER * across
                or wide < HOLLOW * across
            ):
                continue
            yield _ask(
                setup,
                "hollow-stem",
                f"{_named(makes[early][0])} drills the stem hollow before {_named(makes[late][0])}; a hollow stem gives under the thread.",
                "Thread it first, support it by a centre, or let it stand with a note.",
                f"{makes[early][0].key} {makes[late][0].key}",
            )


def _walls(worked: Worked, setup: Setup, makes: Makes) -> Iterator[Finding]:
    """A bore that is cut after the outside round it was turned down to a thin wall."""
    outer = [
        one
        for one in worked.plan.described
        if one.feature.kind in OUTSIDES and _at(makes, one.key) is not None
    ]
    for hole in worked.plan.described:
        wide = known_mm(hole.feature.sizes, Role.DIAMETER)
        late = _at(makes, hole.key)
        if hole.feature.kind not in AXIAL_HOLES or wide is None or late is None:
            continue
        for one in outer:
            across, early = known_mm(one.feature.sizes, Role.DIAMETER), _at(makes, one.key)
            if across is None or early is None or early >= late or not wide < across:
                continue
            if (across - wide) / 2 >= THIN * across:
                continue
            wall = length_text((across - wide) / 2, worked.plan.heading.unit, 2)
            yield _ask(
                setup,
                "thin-outside-first",
                f"{_named(makes[late][0])} bores after {_named(makes[early][0])} took the outside down to a wall of {wall}.",
                "Bore it first, while the stock is still round it, or support it from outside.",
                f"{makes[early][0].key} {makes[late][0].key}",
            )
            break
