"""What is open about the programs that were chosen for cycles: what was said of each, and whether it is still for what is planned."""

from ditto_run.core.findings import Finding
from ditto_run.core.plan.cycles import Press
from ditto_run.core.plan.document import Plan
from ditto_run.core.program.choice import ProgramChoice
from ditto_run.core.program.said import said_of
from ditto_run.core.program.tally import ProgramFault

READ = "Look at the program on Tools again."


def planned_of(plan: Plan, cycle: Press) -> tuple[tuple[int, ...], tuple[str, ...]]:
    """Return the tools and the offsets that a cycle's program is compared with, each once, in order."""
    steps = [step for setup in cycle.setups for step in plan.tools_of(setup) if step.tool]
    return (
        tuple(dict.fromkeys(step.tool for step in steps)),
        tuple(dict.fromkeys(station.offset for station in cycle.stations if station.offset)),
    )


def program_findings(plan: Plan) -> list[Finding]:
    """Return what is open about the programs that were chosen, told with the part of each cycle's first setup.

    Args:
        plan: the job, seen from any of its parts.
    """
    found: list[Finding] = []
    mine = {setup.key for setup in plan.setups}
    cycles = {cycle.key: cycle for cycle in plan.all_cycles}
    for choice in plan.programs:
        cycle = cycles.get(choice.key)
        if cycle is not None and cycle.setups[0] in mine:
            found += _of_cycle(plan, cycle, choice)
    for trouble in plan.troubles:
        cycle = cycles.get(trouble.cycle)
        if not trouble.mended and cycle is not None and cycle.setups[0] in mine:
            where = f"{cycle.name}, {trouble.file}" if trouble.file else cycle.name
            problem = f"{where}: {trouble.what}, and nothing says what mended it."
            remedy = "Say it in the log on Tools, Program."
            found.append(
                Finding("tools", "ask", "program-trouble", problem, remedy, f"trouble {trouble.key}")
            )
    return found


def _of_cycle(plan: Plan, cycle: Press, choice: ProgramChoice) -> list[Finding]:
    thing = f"program {choice.key}"
    if planned_of(plan, cycle) != (choice.tools, choice.offsets):
        problem = f"{cycle.name}: {choice.file} was read for other tools or offsets than are planned now."
        return [Finding("tools", "ask", "program-moved", problem, READ, thing, choice.seal)]
    if choice.drawing != plan.heading.drawing_revision:
        was, now = (
            f"drawing revision {one}" if one else "a drawing without a revision"
            for one in (choice.drawing, plan.heading.drawing_revision)
        )
        problem = f"{cycle.name}: {choice.file} was chosen for {was}; it is {now} now."
        ground = f"{choice.seal} {plan.heading.drawing_revision}"
        return [Finding("tools", "ask", "program-moved", problem, READ, thing, ground)]
    found = []
    for fault in choice.faults:
        said = said_of(
            ProgramFault(
                fault.line, fault.kind, fault.word, {"seconds": fault.seconds} if fault.seconds else {}
            )
        )
        if said.weight != "note":
            ground = f"{choice.seal} {fault.line} {fault.kind} {fault.word}"
            problem = f"{cycle.name}, {choice.file}: {said.problem[:1].lower()}{said.problem[1:]}"
            found.append(
                Finding("tools", said.weight, f"program-{said.kind}", problem, said.remedy, thing, ground)
            )
    if not choice.is_whole:
        problem = f"{cycle.name}: {choice.file} has words or moves that were not understood."
        remedy = "Look at each on Tools, Program; its time is at least what is said."
        found.append(Finding("tools", "ask", "program-not-whole", problem, remedy, thing, choice.seal))
    return found
