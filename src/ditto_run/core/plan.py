"""The plan of a job: everything decided before the first cut, as one value."""

from collections.abc import Mapping
from dataclasses import dataclass

from ditto_run.core.errors import NotFound
from ditto_run.core.findings import Finding
from ditto_run.core.hold import Setup, hold_findings
from ditto_run.core.part import Characteristic, Heading, part_findings
from ditto_run.core.place import Station, place_findings
from ditto_run.core.shop import Machine
from ditto_run.core.tools import CycleTime, ToolStep, cycle_time, tool_findings


@dataclass(frozen=True, slots=True)
class Plan:
    """One plan. Changing it gives a new one.

    Args:
        heading: part, customer, quantity, unit.
        characteristics: what must come out the same, in strip order.
        setups: in the order they are run.
        stations: of all setups.
        tool_steps: of all setups, in order.
        next_number: next number for a characteristic, setup or tool step; none is used twice.
    """

    heading: Heading
    characteristics: tuple[Characteristic, ...] = ()
    setups: tuple[Setup, ...] = ()
    stations: tuple[Station, ...] = ()
    tool_steps: tuple[ToolStep, ...] = ()
    next_number: int = 1

    def characteristic(self, number: int) -> Characteristic:
        """Return the characteristic of that number.

        Raises:
            NotFound: if there is none.
        """
        for characteristic in self.characteristics:
            if characteristic.number == number:
                return characteristic
        raise NotFound("dimension", number, "Choose one of the dimensions on Part.")

    def setup(self, key: int) -> Setup:
        """Return the setup of that key.

        Raises:
            NotFound: if there is none.
        """
        for setup in self.setups:
            if setup.key == key:
                return setup
        raise NotFound("setup", key, "Choose one of the setups on Hold.")

    def tool_step(self, key: int) -> ToolStep:
        """Return the tool step of that key.

        Raises:
            NotFound: if there is none.
        """
        for step in self.tool_steps:
            if step.key == key:
                return step
        raise NotFound("tool step", key, "Choose one of the steps on Tools.")

    def position(self, setup_key: int) -> int:
        """Return the place of a setup in the chain, from 1; 0 if it is gone."""
        return next((i for i, setup in enumerate(self.setups, 1) if setup.key == setup_key), 0)

    def stations_of(self, setup_key: int) -> tuple[Station, ...]:
        """Return the stations of one setup."""
        return tuple(station for station in self.stations if station.setup == setup_key)

    def tools_of(self, setup_key: int) -> tuple[ToolStep, ...]:
        """Return the tool steps of one setup, in order."""
        return tuple(step for step in self.tool_steps if step.setup == setup_key)

    def gauged_in(self, setup_key: int) -> tuple[Characteristic, ...]:
        """Return the characteristics gauged in one setup; free ones come last."""
        mine = [c for c in self.characteristics if c.setup in {None, setup_key}]
        return tuple(sorted(mine, key=lambda c: c.grade == "free"))

    def cycle(self, setup_key: int, pieces: int | None = None) -> CycleTime:
        """Return the planned times of one load of a setup; a full load if not said."""
        full = sum(station.pieces for station in self.stations_of(setup_key))
        return cycle_time(self.tools_of(setup_key), pieces or max(full, 1), self.setup(setup_key).handling_s)


def plan_findings(plan: Plan, machines: Mapping[int, Machine]) -> list[Finding]:
    """Return everything the plan still wants, in the order of the steps."""
    found = part_findings(plan.heading, plan.characteristics) + hold_findings(plan.setups, machines)
    for setup in plan.setups:
        machine = machines.get(setup.machine_id or 0)
        found += place_findings(setup.key, setup.name, plan.stations, machine)
        found += tool_findings(setup.key, setup.name, plan.tool_steps)
    return found
