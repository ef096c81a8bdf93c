"""The judgement through the log: batches played by commands, each line decided by the core, beside dialling what is out.

    python -m bench.judge.played --cases 16

Every eighth advice is asked again of a fresh judgement that reads the log from its first line; it must say the same.
"""

import argparse
from datetime import UTC, datetime
from functools import partial

from ditto_run.core.edits import (
    PlanRegisters,
    SetCharacteristic,
    SetSetup,
    SetStation,
    SetToolStep,
    apply_edit,
)
from ditto_run.core.part import Heading
from ditto_run.core.plan import Plan
from ditto_run.core.rehearse.process import FAULTS
from ditto_run.core.rehearse.rehearsal import PlayedOn, costs_min, rehearse
from ditto_run.core.run import fold
from ditto_run.core.run.advised import Mind
from ditto_run.core.shop import Machine, read_codes
from ditto_run.devices.process import SimulatedProcess

MILL = Machine(1, "Mill 2", "mill", read_codes("G54-G59"))
AT = datetime(2026, 5, 12, 7, 0, tzinfo=UTC)
PIECES = 90


def block() -> Plan:
    """Return a block at three vises: a slot and a height, both gauged."""
    shop, plan = PlanRegisters({1: MILL}), Plan(Heading("Clamp block", PIECES, "mm"))
    for edit in (
        SetSetup("first side", 1, "vises", "stop", "45"),
        SetCharacteristic("slot", "20 ±0.03 mm", "critical"),
        SetCharacteristic("height", "31.5 ±0.05 mm"),
    ):
        plan = apply_edit(edit, plan, shop).plan
    key = plan.setups[0].key
    steps = [SetStation(key, label, "vise", f"G{54 + n}") for n, label in enumerate("ABC")]
    for edit in (*steps, SetToolStep(key, 3, "finish slot and height", "180", "20")):
        plan = apply_edit(edit, plan, shop).plan
    return plan


def main() -> None:
    """Print the table."""
    asked = argparse.ArgumentParser(description=__doc__)
    asked.add_argument("--cases", type=int, default=16)
    cases = asked.parse_args().cases
    plan = block()
    cycle, setup = plan.all_cycles[0].key, plan.setups[0].key
    differs = compared = 0
    print(
        f"{'what goes wrong':30}{'bad, advice':>13}{'as many do':>12}{'lost, advice':>14}{'as many do':>12}   min in {PIECES} pieces"
    )
    for fault, words in FAULTS.items():
        totals = {follows: [0, 0.0] for follows in (True, False)}
        for seed in range(1, cases + 1):
            for follows, total in totals.items():
                on = PlayedOn(partial(SimulatedProcess, fault=fault, seed=seed), MILL, follows=follows)
                played = rehearse(plan, cycle, AT, on)
                total[0] += played.bad
                total[1] += costs_min(plan, cycle, played)
                for one in played.said[::8]:
                    fresh = Mind(setup).advise(fold(played.log[: one.seq], {1: plan}), MILL, {})
                    compared += 1
                    differs += fresh is None or (fresh.kind, fresh.say, fresh.why) != (
                        one.kind,
                        one.say,
                        one.why,
                    )
        ours, habit = totals[True], totals[False]
        print(
            f"{words:30}{ours[0] / cases:13.1f}{habit[0] / cases:12.1f}{ours[1] / cases:14.0f}{habit[1] / cases:12.0f}"
        )
    print(f"{compared} advices asked again of a fresh judgement: {differs} differ.")
    if differs:
        raise SystemExit(1)


if __name__ == "__main__":
    main()
