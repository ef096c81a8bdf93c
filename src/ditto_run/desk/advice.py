"""What the judgement says of a run now, remembered until something is written down."""

import logging
from collections import OrderedDict
from dataclasses import dataclass, field

from ditto_run.core.run.advised import Advised, Mind
from ditto_run.core.run.state import RunState
from ditto_run.desk.values import Registers

LOG = logging.getLogger("ditto_run")
SHORT = 400  # readings that are read while a page waits
MOST_KEPT = 8  # runs and setups that are remembered
ORDER = ("recheck", "hold", "stop", "check_gauge", "gauge", "turn", "leave")  # the most pressing first


@dataclass
class Advisers:
    """The judgements of the runs that were looked at last, each remembering what it has worked out."""

    _minds: "OrderedDict[tuple[int, int], Mind]" = field(default_factory=OrderedDict)
    _said: dict[tuple[int, int], tuple[int, int, Advised | None]] = field(default_factory=dict)

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

    def is_long(self, run_id: int, state: RunState) -> bool:
        """True where a long log would have to be read before anything could be said: a page is drawn first."""
        new = any(
            (run_id, setup) not in self._minds for setup in state.here.setups if setup in state.here.masters
        )
        return new and len(state.gaugings) > SHORT

    def _at(self, run_id: int, setup: int, state: RunState, shop: Registers, version: int) -> Advised | None:
        key = (run_id, setup)
        known = self._said.get(key)
        if known is not None and known[:2] == (state.seq, version):
            return known[2]
        machine = shop.machines.get(state.plan.cycle(state.cycle).machine_id or 0)
        found: Advised | None = None
        if setup in state.here.masters:
            try:
                found = self._mind(key).advise(state, machine, shop.gauges)
            except (ArithmeticError, LookupError, ValueError):  # a reading is recorded all the same
                LOG.exception("the judgement failed on run %d", run_id)
                self._minds.pop(key, None)
        self._said[key] = (state.seq, version, found)
        return found

    def _mind(self, key: tuple[int, int]) -> Mind:
        mind = self._minds.pop(key, None) or Mind(key[1])
        self._minds[key] = mind
        while len(self._minds) > MOST_KEPT:
            old, _ = self._minds.popitem(last=False)
            self._said.pop(old, None)
        return mind
