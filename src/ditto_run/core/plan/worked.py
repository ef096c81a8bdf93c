"""What follows from a plan: what its sheets may use, and the times of its setups."""

from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

from ditto_run.core.errors import BeingWorkedOut, DittoError
from ditto_run.core.hold import Setup
from ditto_run.core.method.order import OPERATIONS, Operation
from ditto_run.core.method.way import Ready, Way
from ditto_run.core.part.shape.measures import MEASURES, known_measures
from ditto_run.core.place.placed import LAYOUTS, PLACED
from ditto_run.core.place.worth import CYCLES, Cycle
from ditto_run.core.plan.document import Plan
from ditto_run.core.plan.shop_known import ShopKnown
from ditto_run.core.plan.ways import WaySays, compared_lines
from ditto_run.core.sheet_kinds import SHEETS, sheet_of
from ditto_run.core.sheets import Answer, KeptSheet, Known, Solve, directly
from ditto_run.core.shop import Machine
from ditto_run.core.shop.drawers import Material
from ditto_run.core.shop.looked_up import HOLDERS, MACHINES, MATERIALS
from ditto_run.core.stock.blank import Blank
from ditto_run.core.stock.mass import MASS_FOUND

PART = "part"
"""How the part in front is called as the thing a question is about."""


@dataclass(frozen=True, slots=True)
class Worked:
    """A plan worked out: what it knows, and every kept sheet's answer or why it has none.

    Args:
        plan: the plan.
        shop: what of the shop it was worked out with.
        known: what its sheets may use.
        answers: sheet key to its answer.
        refusals: sheet key to why it has none.
    """

    plan: Plan
    shop: ShopKnown
    known: Known
    answers: Mapping[int, Answer]
    refusals: Mapping[int, DittoError]

    @property
    def is_whole(self) -> bool:
        """True unless a long answer is still under way."""
        return not any(isinstance(refusal, BeingWorkedOut) for refusal in self.refusals.values())

    def result_of(self, kind: str) -> Any:  # noqa: ANN401 - each kind has its own
        """Return the result of the first kept sheet of a kind that has an answer; None without one."""
        return next(
            (
                self.answers[s.key].result
                for s in self.plan.sheets
                if s.kind == kind and s.key in self.answers
            ),
            None,
        )

    @property
    def machines(self) -> Mapping[int, Machine]:
        """The machines it was worked out with, by number."""
        return self.shop.machines


def work_out(plan: Plan, shop: ShopKnown | None = None, solve: Solve = directly) -> Worked:
    """Return a plan worked out: each kept sheet once, those a job has one of first, each with what came before it.

    Args:
        plan: the plan.
        shop: what of the shop it may use.
        solve: has long work done.
    """
    shop = shop or ShopKnown()
    known, answers, refusals = _singles(plan, shop, solve)
    known = replace(known, ways=compared_lines(WaySays(plan, shop, known.of(MASS_FOUND))))
    for sheet in plan.sheets:
        if sheet.key in answers or sheet.key in refusals:
            continue
        try:
            answers[sheet.key] = sheet_of(sheet.kind).answer(texts_of(plan, sheet), known)
        except DittoError as refusal:
            refusals[sheet.key] = refusal
    return Worked(plan, shop, known, answers, refusals)


def _singles(
    plan: Plan, shop: ShopKnown, solve: Solve = directly
) -> tuple[Known, dict[int, Answer], dict[int, DittoError]]:
    """Return what a plan knows once the sheets it has one of are worked out, with their answers and refusals."""
    known = replace(_given(plan, shop), solve=solve)
    answers: dict[int, Answer] = {}
    refusals: dict[int, DittoError] = {}
    by_kind = {sheet.kind: sheet for sheet in plan.sheets}
    for kind in SHEETS:
        sheet = by_kind.get(kind.kind) if kind.single else None
        if sheet is None:
            continue
        try:
            answer = kind.answer(texts_of(plan, sheet), known)
        except DittoError as refusal:  # what depends on it goes on without it
            refusals[sheet.key] = refusal
            continue
        answers[sheet.key] = answer
        start = getattr(answer.result, "start", known.start)
        known = replace(known.with_result(kind.kind, answer.result), start=start)
    return known, answers, refusals


def says_of(worked: Worked) -> WaySays:
    """Return what speaks about the ways of a plan that is worked out."""
    return WaySays(worked.plan, worked.shop, worked.result_of("mass"))


def blank_of(plan: Plan) -> Blank | None:
    """Return the blank as Stock has it; None without one, or while it cannot be worked out."""
    sheet = next((one for one in plan.sheets if one.kind == "blank"), None)
    if sheet is None:
        return None
    try:
        found: Blank = sheet_of("blank").answer(texts_of(plan, sheet), _given(plan, ShopKnown())).result
    except DittoError:
        return None
    return found


def known_of(
    plan: Plan,
    machines: Mapping[int, Machine] | None = None,
    materials: Mapping[str, Material] | None = None,
    solve: Solve = directly,
) -> Known:
    """Return what a plan knows for its sheets, without the rest of the shop's drawers; no other sheet is worked out."""
    return _singles(plan, ShopKnown(machines or {}, materials or {}, has_drawers=False), solve)[0]


def _given(plan: Plan, shop: ShopKnown) -> Known:
    way = plan.chosen_way
    heading = plan.heading
    trials = way.trials if way else 0
    return Known(
        heading.unit,
        heading.quantity,
        {size.key: size for size in plan.stock},
        drills=shop.drills,
        reamers=shop.reamers,
        taps=shop.taps,
        spares=heading.spares,
        trials=trials,
        scrap=float(way.scrap) if way else 0.0,
        start=heading.quantity + heading.spares + trials,
        money=shop.money,
        part_form=plan.form,
        whole_drawer=shop.whole_drawer,
        hand_work=tuple((step.does, step.cut_s) for step in plan.tool_steps if not step.tool and step.cut_s),
        told={
            MATERIALS.name: dict(shop.materials),
            MACHINES.name: dict(shop.machines),
            HOLDERS.name: dict(shop.holders),
            OPERATIONS.name: _operations(plan),
            CYCLES.name: _cycles(plan),
            LAYOUTS.name: {layout.setup: layout for layout in plan.layouts},
            PLACED.name: {setup.key: plan.on_table(setup.key) for setup in plan.setups},
            MEASURES.name: known_measures(plan.described, plan.form),
        },
    )


def _cycles(plan: Plan) -> tuple[Cycle, ...]:
    """Return the times of each setup whatever its number of stations: cutting a piece, changes a load, handling a piece."""
    return tuple(
        Cycle(
            setup.key,
            setup.name,
            setup.machine_id,
            sum(step.cut_s * plan.share_of(step) for step in plan.tools_of(setup.key)),
            sum(step.change_s for step in plan.tools_of(setup.key)),
            setup.handling_s,
        )
        for setup in plan.setups
    )


def _operations(plan: Plan) -> tuple[Operation, ...]:
    return operations_by(plan, plan.chosen_way)


def operations_by(plan: Plan, way: Way | None) -> tuple[Operation, ...]:
    """Return the setups as operations: cutting and changing tools a piece, handling a piece, setting up, machine.

    Setting up is what the way says: of each setup where it has a line for each, else shared alike by them; 0 while
    no way says anything.
    """
    found = []
    setting_s = _setting_up(
        [line for line in way.ready if line.is_setting_up] if way else [], len(plan.setups)
    )
    for number, setup in enumerate(plan.setups, 1):
        times = plan.times(setup.key)
        cut_s = times.per_piece_s - setup.handling_s
        found.append(
            Operation(
                f"{number} {setup.name}",
                cut_s,
                setup.handling_s,
                setting_s[number - 1],
                str(setup.machine_id or f"own {number}"),
            )
        )
    return tuple(found)


def _setting_up(lines: list[Ready], setups: int) -> list[float]:
    """Time to set up each setup, [s]."""
    times = [line.time.likely_s for line in lines]
    return times if len(times) == setups else [sum(times) / max(setups, 1)] * setups


def thing_of(setup: Setup) -> str:
    """Return how a setup is called as the thing a question is about."""
    return f"setup {setup.key}"


def texts_of(plan: Plan, sheet: KeptSheet) -> dict[str, str]:
    """Return what counts of a kept sheet: as typed, and before it what was said otherwise of the thing it is about.

    Args:
        plan: with the figures.
        sheet: one of its kept sheets; of several of a kind about the part, the first is the one that is asked about.
    """
    if not plan.figures:
        return sheet.texts
    things = {thing_of(setup) for setup in plan.setups if is_about(plan, sheet, setup)}
    if sheet == next(one for one in plan.sheets if one.kind == sheet.kind):
        things.add(PART)
    said = {f.name: f.text for f in plan.figures if f.question == sheet.kind and f.thing in things}
    return {**sheet.texts, **said}


def is_about(plan: Plan, sheet: KeptSheet, setup: Setup) -> bool:
    """Return True if a sheet of Hold was kept about a setup: said so, by its name, or because there is one setup alone."""
    if sheet_of(sheet.kind).step != "hold":
        return False
    if len(plan.setups) == 1:
        return True
    return sheet.setup == setup.key if sheet.setup else setup.name.lower() in sheet.name.lower()
