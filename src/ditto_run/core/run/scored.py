"""What became of the turns that were advised in a run: made or left, and whether they helped."""

from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass

from ditto_run.core.run.judge.followed import Outcome, scored
from ditto_run.core.run.judge.history import TurnKnob
from ditto_run.core.run.judge.reasons import Ground, Reason
from ditto_run.core.run.judged import Keeper
from ditto_run.core.run.state import RunState
from ditto_run.core.shop import Gauge, Machine
from ditto_run.core.units import counted

WHY = Reason(Ground.OFF_TARGET)  # of every turn


@dataclass(frozen=True, slots=True)
class AdviceScore:
    """Turns that were advised, [turns].

    Args:
        made: as advised.
        left: not made, or otherwise.
        helped, harmed: of those made, nine chances in ten.
        unsure: of those made, too few readings to say.
    """

    made: int = 0
    left: int = 0
    helped: int = 0
    harmed: int = 0
    unsure: int = 0

    @property
    def words(self) -> str:
        """It in a sentence; empty where none was advised."""
        if not self.made + self.left:
            return ""
        parts = [
            f"{count} {word}"
            for count, word in (
                (self.helped, "helped"),
                (self.harmed, "harmed"),
                (self.unsure, "not to say yet"),
                (self.left, "left"),
            )
            if count
        ]
        return f"{counted(self.made + self.left, 'turn')} advised: {', '.join(parts)}."


def advice_score(state: RunState, machine: Machine | None, gauges: Mapping[int, Gauge]) -> AdviceScore:
    """Return what became of the turns advised in the cycle that is looked at, all of its setups together.

    Args:
        state: the run.
        machine: it is cut on.
        gauges: of the register, by number.

    Source:
        `judge.followed`.
    """
    total: Counter[str] = Counter()
    if not state.here.turns_advised:
        return AdviceScore()
    for setup in state.here.setups:
        history = Keeper(setup).history(state, machine, gauges)
        if history is None:
            continue
        knobs = {(one.what.lower(), one.label): one.name for one in history.job.knobs}
        advised = []
        for one in state.here.turns_advised:
            name = knobs.get((one.what.lower(), one.station))
            if name is not None:
                after = sum(load.number < one.load for load in state.here.loads)
                cut = sum(place[0] <= after for place in history.places.values())
                advised.append((cut, TurnKnob(name, one.amount_mm, WHY)))
        total.update(one.outcome for one in scored(history, advised))
    made = total[Outcome.HELPED] + total[Outcome.HARMED] + total[Outcome.UNSURE]
    left = total[Outcome.NOT_FOLLOWED] + total[Outcome.OTHERWISE]
    return AdviceScore(made, left, total[Outcome.HELPED], total[Outcome.HARMED], total[Outcome.UNSURE])
