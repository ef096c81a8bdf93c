"""The judgement of a run: when to gauge, what to dial, what is suspect, when it will be done.

Pure functions of what has been written down: `decide(history)`, `contain(case)`, `finish(case)`.
"""

from ditto_run.core.run.judge.decide import Decider, decide
from ditto_run.core.run.judge.finish import finish
from ditto_run.core.run.judge.recheck import HoldThese, RecheckOne, contain

__all__ = ["Decider", "HoldThese", "RecheckOne", "contain", "decide", "finish"]
