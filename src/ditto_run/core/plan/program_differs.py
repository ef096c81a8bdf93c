"""Where a program differs from the plan of the cycle it cuts: depths and places of holes, speeds and feeds of tools."""

import re
from collections.abc import Iterator, Mapping

from ditto_run.core.hold.heights import Contact
from ditto_run.core.part.shape.block import NORMAL
from ditto_run.core.part.shape.body import AXES, FLAT
from ditto_run.core.part.shape.plane import Disc
from ditto_run.core.plan.at_work import all_steps_asked, made_by, step_ground
from ditto_run.core.plan.cycles import Press
from ditto_run.core.plan.held import contacts
from ditto_run.core.plan.program_room import ACROSS, ProgramZero, lying_across
from ditto_run.core.plan.worked import Worked
from ditto_run.core.program.tally import ProgramFault, Tally
from ditto_run.core.tools import ToolStep
from ditto_run.core.tools.speed_sheet import CutSpeed
from ditto_run.core.units import LengthUnit, length_text

OFF_MM, THROUGH_MM = 0.5, 5.0  # a depth may be off by, and deeper where it goes through; own judgement
PLACE_MM = 0.1 + 1e-9  # a hole may be off its place by, and what adding places costs; own judgement
OVER_BAND, UNDER_BAND, FEED_TIMES = (
    1.25,
    0.5,
    2.0,
)  # of what is usual, from which it is asked about; own judgement
RPM = re.compile(r"([0-9.e+]+) rpm$")
Spot = tuple[float, float]


def differences(worked: Worked, cycle: Press, zero: ProgramZero, tally: Tally) -> list[ProgramFault]:
    """Return where a program differs from its plan in more than tools, their order and offsets, which its reading says.

    Args:
        worked: the plan worked out.
        cycle: that the program cuts.
        zero: where its zero stands; while that is not said, depths and places are not compared.
        tally: what was taken from the program.

    Source:
        Depth, place and speed as Part and Tools work them out, own derivation; how far off is worth a word, own judgement.
    """
    there = zero.across in ACROSS
    return [
        *(_depths(worked, cycle, zero, tally) if there else ()),
        *(_places(worked, cycle, zero, tally) if there else ()),
        *_speeds(worked, cycle, tally),
    ]


def speeds_of(worked: Worked) -> dict[int, CutSpeed]:
    """Return how fast each tool turns and is fed by the plan, of its first step whose speed is known."""
    steps = {step.key: step for one in worked.plan.all_parts for step in one.plan.tool_steps}
    found: dict[int, CutSpeed] = {}
    for key, asked in all_steps_asked(worked).items():
        answer = next((one.answer for one in asked if one.question == "speed"), None)
        if answer is not None and key in steps:
            found.setdefault(steps[key].tool, answer.result)
    return found


def _first_lines(tally: Tally) -> Mapping[int, int]:
    return {use.tool: use.line for use in reversed(tally.tools)}


def _depths(worked: Worked, cycle: Press, zero: ProgramZero, tally: Tally) -> Iterator[ProgramFault]:
    """Holes that go to another depth."""
    held = {one.setup.key: one.heights for one in contacts(worked)}
    lines, unit = _first_lines(tally), worked.plan.heading.unit
    for setup in cycle.setups:
        heights = held.get(setup)
        above = heights.raw - heights.finished if heights is not None and zero.top == "raw" else 0.0
        for step in worked.plan.tools_of(setup):
            wanted = _deep(worked, step)
            bottoms = [-z for (tool, _, _, _, z) in tally.holes if tool == step.tool and step.tool]
            if wanted is None or not bottoms or step.tool not in lines:
                continue
            deep, through = wanted
            over = THROUGH_MM if through else OFF_MM
            wrong = next((one for one in bottoms if not deep - OFF_MM <= one - above <= deep + over), None)
            if wrong is not None:
                goes, planned = (length_text(one, unit, 1) for one in (wrong - above, deep))
                said = f"{step.name} goes {goes} deep, and {planned} is planned"
                yield ProgramFault(lines[step.tool], "depth_differs", said)


def _deep(worked: Worked, step: ToolStep) -> tuple[float, bool] | None:
    """How deep a tool's tip goes under the finished top, [mm], and whether it goes through; None where it is not known."""
    ground = step_ground(worked, step)
    if ground.work not in {"drill", "ream", "tap"} or ground.deep_mm is None:
        return None
    return ground.deep_mm + ground.point_mm, any(one.through for one in ground.made)


def _places(worked: Worked, cycle: Press, zero: ProgramZero, tally: Tally) -> Iterator[ProgramFault]:
    """Holes that stand elsewhere, or are left out; at offsets under which one piece lies."""
    held = {one.setup.key: one for one in contacts(worked)}
    left, front = ACROSS[zero.across]
    across_codes = lying_across(worked, cycle)
    for setup in cycle.setups:
        contact = held.get(setup)
        stations = cycle.stations_of(setup)
        codes = {one.offset for one in stations if one.offset} - across_codes
        alone = all(one.pieces == 1 and not any(one.shift) for one in stations) and len(
            {one.offset for one in stations}
        ) == len(stations)
        if contact is None or contact.heights is None or not codes or not alone:
            continue
        along, across, _ = contact.lying
        drilled: dict[tuple[int, str], list[tuple[int, Spot]]] = {}
        for one in tally.hole_at:
            if one.offset in codes:
                spot = (one.x + left * along, one.y + front * across)
                drilled.setdefault((one.tool, one.offset), []).append((one.line, spot))
        planned = _planned_holes(worked, contact)
        ways = [
            {tool: [_as_it_lies(contact, spot, way) for spot in spots] for tool, spots in planned.items()}
            for way in (1, -1)
        ]
        best = max(ways, key=lambda way: _meets(way, drilled))
        for (tool, code), spots in drilled.items():
            if tool in best:
                yield from _of_tool(worked, tool, code, spots, best[tool])


def _planned_holes(worked: Worked, contact: Contact) -> dict[int, list[dict[str, float]]]:
    """Middle of each hole that each tool makes from above, on the part; no tool of which one step's holes are not known."""
    plan, setup = worked.plan, contact.setup
    up = NORMAL[contact.up][0]
    cuts = {one.feature.key: one.cuts for one in contact.piece.steps}
    found: dict[int, list[dict[str, float]]] = {}
    unknown: set[int] = set()
    for step in plan.tools_of(setup.key):
        spots = {
            (round(cut.shape.x, 4), round(cut.shape.y, 4))
            for one in made_by(plan, setup, step)
            for cut in cuts.get(one.key, ())
            if cut.axis == up and isinstance(cut.shape, Disc)
        }
        if not spots:
            unknown.add(step.tool)
        found.setdefault(step.tool, []).extend(dict(zip(FLAT[up], spot, strict=True)) for spot in spots)
    return {tool: spots for tool, spots in found.items() if tool and tool not in unknown}


def _as_it_lies(contact: Contact, spot: Mapping[str, float], way: int) -> Spot:
    """A place from the left front corner of the piece as it lies, seen from above, [mm]; the other way it is turned half round."""
    along, across, up = contact.lying_axes
    indexes = [AXES.index(axis) for axis in (along, across, up)]
    even = indexes in ([0, 1, 2], [1, 2, 0], [2, 0, 1])
    outward = -NORMAL[contact.up][1]
    signs = (way, way * outward * (1 if even else -1))
    low, high = contact.piece.before.low, contact.piece.before.high
    x, y = (
        spot[axis] - low[AXES.index(axis)] if sign > 0 else high[AXES.index(axis)] - spot[axis]
        for axis, sign in zip((along, across), signs, strict=True)
    )
    return x, y


def _near(one: Spot, other: Spot) -> bool:
    return abs(one[0] - other[0]) <= PLACE_MM and abs(one[1] - other[1]) <= PLACE_MM


def _meets(
    planned: Mapping[int, list[Spot]], drilled: Mapping[tuple[int, str], list[tuple[int, Spot]]]
) -> int:
    return sum(
        any(_near(spot, one) for one in planned.get(tool, ()))
        for (tool, _), spots in drilled.items()
        for _, spot in spots
    )


def _of_tool(
    worked: Worked, tool: int, code: str, spots: list[tuple[int, Spot]], planned: list[Spot]
) -> Iterator[ProgramFault]:
    """What differs of one tool under one offset: the first hole that is not planned, and how many are left out."""
    strange = [(line, spot) for line, spot in spots if not any(_near(spot, one) for one in planned)]
    left_out = [one for one in planned if not any(_near(spot, one) for _, spot in spots)]
    name, unit = f"T{tool:02d}", worked.plan.heading.unit
    if strange:
        line, (x, y) = strange[0]
        many = f" and {len(strange) - 1} more" if len(strange) > 1 else ""
        said = f"{length_text(x, unit, 2)} from the left and {length_text(y, unit, 2)} from the front{many}"
        yield ProgramFault(
            line, "place_differs", f"{name} makes a hole under {code} where none is planned: {said}"
        )
    if left_out:
        many = f"{len(left_out)} of {len(planned)} planned holes"
        yield ProgramFault(spots[0][0], "place_differs", f"{name} leaves out {many} under {code}")


def _speeds(worked: Worked, cycle: Press, tally: Tally) -> Iterator[ProgramFault]:
    """Tools that turn or are fed far from what is usual for them, or what the shop says."""
    mine = {step.tool for setup in cycle.setups for step in worked.plan.tools_of(setup) if step.tool}
    known = {tool: one for tool, one in speeds_of(worked).items() if tool in mine}
    material = worked.plan.heading.material
    asked: set[int] = set()
    for use in tally.tools:
        planned = known.get(use.tool)
        turns = [float(found[1]) for said in use.spindle if (found := RPM.search(said))]
        if planned is None or use.tool in asked or not turns:
            continue
        low = min(planned.speed.band_rpm[0], planned.speed.rpm)
        high = max(planned.speed.band_rpm[1], planned.speed.rpm)
        wrong = next((rpm for rpm in turns if not UNDER_BAND * low <= rpm <= OVER_BAND * high), None)
        if wrong is not None:
            asked.add(use.tool)
            usual = f"{low:.0f} to {high:.0f}" if round(low) != round(high) else f"{low:.0f}"
            said = f"T{use.tool:02d} turns {wrong:.0f} rpm, and {usual} is usual for it in {material}"
            yield ProgramFault(use.line, "speed_differs", said)
    yield from _feeds(known, worked.plan.heading.unit, tally)


def _feeds(known: Mapping[int, CutSpeed], unit: LengthUnit, tally: Tally) -> Iterator[ProgramFault]:
    for (tool, mode), (line, fed) in tally.fed.items():
        planned = known.get(tool)
        if planned is None or mode not in {"94", "95"} or planned.feed_mm <= 0 or planned.work == "tap":
            continue
        usual = planned.feed_mm_min if mode == "94" else planned.feed_mm * planned.teeth
        if not usual / FEED_TIMES / 2 <= fed <= FEED_TIMES * usual:
            per, digits = ("a minute", 0) if mode == "94" else ("a turn", 3)
            goes, plan = (length_text(one, unit, digits) for one in (fed, usual))
            said = f"T{tool:02d} is fed {goes} {per}, and about {plan} is planned"
            yield ProgramFault(line, "speed_differs", said)
