"""What the shop's own batches have shown: the grade a way held on a machine, over so many pieces; it goes before the table."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass, replace
from decimal import Decimal
from statistics import stdev

from ditto_run.core.propose.ways import How, WayToMake
from ditto_run.core.run.state import RunState
from ditto_run.core.tools.hole import grade_of
from ditto_run.core.units import to_base

FEWEST_PIECES = 25  # of a size in a batch, from which it shows something; own judgement
SIGMAS = 6  # of the spread, that have to lie within a grade; common practice, no source


@dataclass(frozen=True, slots=True)
class ShownGrade:
    """What batches showed: kind of feature, how it was made, the machine, the widest grade that was needed, pieces."""

    kind: str
    how: How
    machine_id: int
    grade: int
    pieces: int


def shown_by(state: RunState) -> tuple[ShownGrade, ...]:
    """Return what a batch has shown of the ways its features were made: six standard deviations as a grade.

    Features whose size is a length that was gauged on 25 pieces or more count, where the tool steps say what they make.

    Args:
        state: the run.

    Source:
        [iso286-1] for the grades; own derivation. Where a size was adjusted meanwhile its spread is that of the batch as made.
    """
    plan = state.plan
    sizes = {c.number: c for c in plan.characteristics if c.is_measured_length}
    kinds = {one.key: one.feature.kind for one in plan.described}
    found = []
    for setup in plan.setups:
        steps = plan.tools_of(setup.key)
        for feature in plan.features:
            c = sizes.get(feature.characteristic or 0)
            makers = [step.tool for step in steps if feature.key in step.makes]
            if c is None or feature.key not in setup.cuts or not makers or setup.machine_id is None:
                continue
            values = [
                float(to_base(gauging.value, c.size.unit))
                for piece in state.pieces.values()
                if (gauging := piece.left_with(c.number)) is not None and gauging.value is not None
            ]
            if len(values) < FEWEST_PIECES or feature.key not in kinds:
                continue
            grade = grade_of(abs(c.size.nominal_base), Decimal(repr(SIGMAS * stdev(values))))
            if grade is None:
                continue
            how: How = "once" if len(makers) == 1 else "same" if len(set(makers)) == 1 else "other"
            found.append(ShownGrade(kinds[feature.key], how, setup.machine_id, grade + 1, len(values)))
    return tuple(found)


def together(shown: Iterable[ShownGrade], machine_id: int | None) -> Mapping[tuple[str, How], ShownGrade]:
    """Return what batches showed on a machine, one for each kind and way: the widest grade of them, over all their pieces.

    Args:
        shown: of the batches.
        machine_id: which machine; None for none.
    """
    found: dict[tuple[str, How], ShownGrade] = {}
    for one in shown:
        if one.machine_id != machine_id:
            continue
        old = found.get((one.kind, one.how))
        found[one.kind, one.how] = (
            one
            if old is None
            else replace(old, grade=max(old.grade, one.grade), pieces=old.pieces + one.pieces)
        )
    return found


def as_shown(way: WayToMake, kind: str, shown: Mapping[tuple[str, How], ShownGrade]) -> WayToMake:
    """Return a way with the grade the shop's batches showed in place of the table's, where they showed one.

    Args:
        way: of making it.
        kind: of the feature.
        shown: on its machine.
    """
    mine = shown.get((kind, way.how)) if way.how is not None else None
    return way if mine is None else replace(way, grade=mine.grade, shown_on=mine.pieces)
