"""A speed, feed or other setting was changed."""

from dataclasses import dataclass
from typing import Literal

from ditto_run.core.run.effects import note_change
from ditto_run.core.run.events.base import LogLine, Now, apply, decide, sentence
from ditto_run.core.run.require import require_text
from ditto_run.core.run.state import RunState

LONGEST = 80


@dataclass(frozen=True, slots=True)
class ChangeSetting:
    """A speed, feed or other setting was changed."""

    what: str
    before: str = ""
    after: str = ""
    kind: Literal["change_setting"] = "change_setting"


@dataclass(frozen=True, slots=True)
class SettingChanged:
    """A speed, feed or other setting was changed."""

    setup: int
    what: str
    before: str
    after: str
    kind: Literal["setting_changed"] = "setting_changed"


@decide.register
def _decide(command: ChangeSetting, state: RunState, _now: Now) -> SettingChanged:
    what = require_text(command.what, "what", "what was changed, such as T03 feed")
    before, after = command.before.strip()[:LONGEST], command.after.strip()[:LONGEST]
    return SettingChanged(state.cycle, what, before, after)


@apply.register
def _apply(body: SettingChanged, state: RunState, line: LogLine) -> None:
    note_change(state, line.seq, "setting", f"{body.what} changed", body.setup)


@sentence.register
def _say(body: SettingChanged, _state: RunState, _seq: int) -> str:
    change = f" from {body.before} to {body.after}" if body.before and body.after else ""
    return f"{body.what} changed{change}."
