"""What follows from a plan: what its sheets may use, and the times of its setups."""

from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from ditto_run.core.errors import DittoError
from ditto_run.core.method.order import Operation
from ditto_run.core.place.worth import Cycle
from ditto_run.core.plan.document import Plan
from ditto_run.core.sheet_kinds import SHEETS
from ditto_run.core.sheets import Known
from ditto_run.core.shop import Machine


def known_of(
    plan: Plan, machines: Mapping[int, Machine] | None = None, materials: Mapping[str, Any] | None = None
) -> Known:
    """Return what a plan knows for its sheets; the shop's drawers are added where a page asks for them.

    The sheets a job has one of are worked out in their order, each with the results of those before it.
    """
    way = next((way for way in plan.ways if plan.choice is not None and way.key == plan.choice.way), None)
    heading = plan.heading
    trials = way.trials if way else 0
    known = Known(
        heading.unit,
        heading.quantity,
        {size.key: size for size in plan.stock},
        materials=dict(materials or {}),
        machines=dict(machines or {}),
        operations=_operations(plan),
        spares=heading.spares,
        trials=trials,
        scrap=float(way.scrap) if way else 0.0,
        start=heading.quantity + heading.spares + trials,
        cycles=_cycles(plan),
        layouts={layout.setup: layout for layout in plan.layouts},
        placed={setup.key: plan.on_table(setup.key) for setup in plan.setups},
    )
    by_kind = {sheet.kind: sheet for sheet in plan.sheets}
    for kind in SHEETS:
        if kind.single and kind.kind in by_kind:
            try:
                result = kind.answer(by_kind[kind.kind].texts, known).result
            except DittoError:
                continue  # its own page says why; what depends on it goes on without it
            known = replace(
                known, kept={**known.kept, kind.kind: result}, start=getattr(result, "start", known.start)
            )
    return known


def _cycles(plan: Plan) -> tuple[Cycle, ...]:
    """Return the times of each setup whatever its number of stations: cutting a piece, changes a load, handling a piece."""
    return tuple(
        Cycle(
            setup.key,
            setup.name,
            setup.machine_id,
            sum(step.cut_s for step in plan.tools_of(setup.key)),
            sum(step.change_s for step in plan.tools_of(setup.key)),
            setup.handling_s,
        )
        for setup in plan.setups
    )


def _operations(plan: Plan) -> tuple[Operation, ...]:
    """Return the setups as operations: cutting and changing tools a piece, handling a piece, machine."""
    found = []
    for number, setup in enumerate(plan.setups, 1):
        times = plan.cycle(setup.key)
        cut_s = times.per_piece_s - setup.handling_s
        found.append(
            Operation(
                f"{number} {setup.name}",
                cut_s,
                setup.handling_s,
                0.0,
                str(setup.machine_id or f"own {number}"),
            )
        )
    return tuple(found)
