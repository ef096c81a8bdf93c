"""What the judgement says of a run now, remembered until something is written down."""

import logging
from collections import OrderedDict
from dataclasses import dataclass, field
from decimal import Decimal

from ditto_run.core.run.advised import Advised, Mind
from ditto_run.core.run.events import Command, LeftTurn, StartCycle
from ditto_run.core.run.state import RunState
from ditto_run.core.run.when_due import GaugeWhen
from ditto_run.desk.values import Registers

LOG = logging.getLogger("ditto_run")
SHORT = 400  # readings that are read while a page waits
MOST_KEPT = 8  # runs and setups that are remembered
ORDER = ("recheck", "hold", "stop", "check_gauge", "gauge", "turn", "leave")  # the most pressing first


@dataclass(slots=True)
class _Minded:
    """The judgement of a setup, the line of the log and version of the registers it spoke of last, and what it said."""

    mind: Mind
    of: tuple[int, int] = (-1, -1)
    said: Advised | None = None


@dataclass
class Advisers:
    """The judgements of the runs that were looked at last, each remembering what it has worked out."""

    _kept: "OrderedDict[tuple[int, int], _Minded]" = field(default_factory=OrderedDict)

    def of(self, run_id: int, state: RunState, shop: Registers, version: int) -> Advised | None:
        """Return the most pressing thing to do now at the cycle that is looked at; None where nothing is judged.

        Args:
            run_id: of the run.
            state: it, looked at from the cycle.
            shop: its machines and gauges.
            version: number that changes with the registers.
        """
        found = [one for setup in state.here.setups if (one := self._at(run_id, setup, state, shop, version))]
        return min(found, key=lambda one: ORDER.index(one.kind), default=None)

    def gauging(self, run_id: int, state: RunState, shop: Registers) -> tuple[GaugeWhen, ...]:
        """Return when each dimension is worth a reading at each station of the cycle that is looked at.

        Args:
            run_id: of the run.
            state: it, looked at from the cycle.
            shop: its machines and gauges.
        """
        machine = shop.machines.get(state.plan.cycle(state.cycle).machine_id or 0)
        found: tuple[GaugeWhen, ...] = ()
        for setup in state.here.setups:
            kept = self._take((run_id, setup))
            try:
                found += kept.mind.gauging(state, machine, shop.gauges, shop.costs)
            except (ArithmeticError, LookupError, ValueError):
                LOG.exception("the gauging intervals failed on run %d", run_id)
                kept.mind, kept.of = Mind(setup), (-1, -1)
        return found

    def with_what_was_left(self, run_id: int, state: RunState, command: Command, version: int) -> Command:
        """Return a start with the turn that was shown as advised and was not made; any other command as it is.

        Args:
            run_id: of the run.
            state: it, looked at from the cycle.
            command: what a person wants.
            version: number that changes with the registers.
        """
        if not isinstance(command, StartCycle):
            return command
        for setup in state.here.setups:
            kept = self._kept.get((run_id, setup))
            if kept is not None and kept.said is not None and kept.of == (state.seq, version):
                said = kept.said
                if said.kind == "turn":
                    return StartCycle(LeftTurn(said.what, Decimal(said.amount), said.unit, said.station))
        return command

    def is_long(self, run_id: int, state: RunState) -> bool:
        """True where a long log would have to be read before anything could be said: a page is drawn first."""
        new = any(
            (run_id, setup) not in self._kept for setup in state.here.setups if setup in state.here.masters
        )
        return new and len(state.gaugings) > SHORT

    def _at(self, run_id: int, setup: int, state: RunState, shop: Registers, version: int) -> Advised | None:
        if setup not in state.here.masters:
            return None
        kept, of = self._take((run_id, setup)), (state.seq, version)
        if kept.of != of:
            machine = shop.machines.get(state.plan.cycle(state.cycle).machine_id or 0)
            try:
                kept.said = kept.mind.advise(state, machine, shop.gauges, shop.costs)
            except (ArithmeticError, LookupError, ValueError):  # a reading is recorded all the same
                LOG.exception("the judgement failed on run %d", run_id)
                kept.mind, kept.said = Mind(setup), None
            kept.of = of
        return kept.said

    def _take(self, key: tuple[int, int]) -> _Minded:
        kept = self._kept.pop(key, None) or _Minded(Mind(key[1]))
        self._kept[key] = kept
        while len(self._kept) > MOST_KEPT:
            self._kept.popitem(last=False)
        return kept
