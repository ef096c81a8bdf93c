"""The tools of a setup as one list: what each does, how far it stands out, how fast it turns, whether it is in the machine."""

from dataclasses import dataclass
from decimal import Decimal
from typing import Any

from ditto_run.core.findings import Finding
from ditto_run.core.hold import Setup
from ditto_run.core.plan.at_work import all_steps_asked
from ditto_run.core.plan.worked import Worked, thing_of
from ditto_run.core.questions import Asked
from ditto_run.core.shop.shop_tools import ShopTool
from ditto_run.core.tools import ToolStep
from ditto_run.core.tools.cutting.work import ON_AN_EDGE
from ditto_run.core.tools.speed_sheet import CutSpeed
from ditto_run.core.tools.stickout_sheet import ToolOut
from ditto_run.core.units import LengthUnit, length_text


@dataclass(frozen=True, slots=True)
class ToolLine:
    """One tool step of a setup with what is known of its tool.

    Args:
        step: the tool step.
        row: of the register; None where it has none.
        made: names of the features it makes.
        out: how far it has to stand out, and does; None while not known.
        speed: how fast it turns; None while not known.
        in_machine: whether it stands in the machine; None where the register says of none what does.
        wrong: what is wrong with it.
    """

    step: ToolStep
    row: ShopTool | None
    made: tuple[str, ...]
    out: ToolOut | None
    speed: CutSpeed | None
    in_machine: bool | None
    wrong: tuple[str, ...]

    @property
    def across_mm(self) -> Decimal | None:
        """Its diameter, as the step, the register or its words say it, [mm]; None while nothing does."""
        said = self.step.across_mm or (self.row.across_mm if self.row is not None else None)
        if said is None and self.speed is not None and self.speed.work not in ON_AN_EDGE:
            return Decimal(repr(self.speed.across_mm))
        return said


def tool_lines(worked: Worked, setup: Setup) -> tuple[ToolLine, ...]:
    """Return the tools of a setup in the order they cut.

    Args:
        worked: the plan worked out.
        setup: which.
    """
    machine = worked.machines.get(setup.machine_id or 0)
    name = machine.name if machine is not None else ""
    names = {feature.key: feature.name for feature in worked.plan.features}
    loaded = _loaded(worked, name)
    return tuple(
        ToolLine(
            step,
            worked.shop.tool_of(step.tool, name) if step.tool else None,
            tuple(names[key] for key in step.makes if key in names),
            _result(all_steps_asked(worked)[step.key], "stickout"),
            _result(all_steps_asked(worked)[step.key], "speed"),
            step.tool in loaded if loaded and step.tool else None,
            tuple(
                finding.problem
                for one in all_steps_asked(worked)[step.key]
                if one.answer is not None
                for finding in one.answer.findings
                if finding.weight != "note"
            ),
        )
        for step in worked.plan.tools_of(setup.key)
    )


def _loaded(worked: Worked, machine: str) -> frozenset[int]:
    """Numbers of the tools that the register has in a machine."""
    if not machine:
        return frozenset()
    return frozenset(
        number
        for number, rows in worked.shop.tools.items()
        if any(row.machine.lower() == machine.lower() for row in rows)
    )


def _result(asked: tuple[Asked, ...], question: str) -> Any:  # noqa: ANN401 - each has its own
    answer = next((one.answer for one in asked if one.question == question), None)
    return answer.result if answer is not None else None


def to_load(lines: tuple[ToolLine, ...]) -> tuple[str, ...]:
    """Return the tools that do not stand in the machine yet, each once; none where nobody says what does."""
    return tuple(dict.fromkeys(line.step.name for line in lines if line.in_machine is False))


def pocket_findings(worked: Worked, setup: Setup) -> list[Finding]:
    """Return the question about each T number that is two tools: in the register of the machine, or in the steps of a setup.

    Args:
        worked: the plan worked out.
        setup: which.
    """
    machine = worked.machines.get(setup.machine_id or 0)
    name, unit = machine.name if machine is not None else "", worked.plan.heading.unit
    steps = [step for step in worked.plan.tools_of(setup.key) if step.tool]
    found = []
    for number in dict.fromkeys(step.tool for step in steps):
        mine = [step for step in steps if step.tool == number]
        rows = [
            row.name
            for row in worked.shop.tools.get(number, ())
            if name and row.machine.lower() == name.lower()
        ]
        sizes = sorted({step.across_mm for step in mine if step.across_mm is not None})
        called = mine[0].name
        if len(rows) > 1:
            found.append(
                _twice(
                    setup,
                    called,
                    f"{called} stands in {name} as {' and as '.join(rows)}.",
                    "Take the one that is out off its machine on Shop, Tools.",
                    " ".join(rows),
                )
            )
        if len(sizes) > 1:
            found.append(
                _twice(
                    setup,
                    called,
                    f"{called} is {' and '.join(_said(size, unit) for size in sizes)} across in {setup.name}.",
                    "Give one of them another number, or correct its diameter.",
                    " ".join(map(str, sizes)),
                )
            )
    return found


def _said(size: Decimal, unit: LengthUnit) -> str:
    return f"Ø{length_text(size, unit)}"


def _twice(setup: Setup, called: str, problem: str, remedy: str, ground: str) -> Finding:
    return Finding("tools", "ask", "pocket-twice", problem, remedy, thing_of(setup), f"{called} {ground}")
