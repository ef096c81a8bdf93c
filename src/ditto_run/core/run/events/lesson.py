"""What a batch taught and where it was put, so that it is put there once."""

from dataclasses import dataclass
from typing import Literal

from ditto_run.core.run.events.base import LogLine, Now, apply, decide, sentence
from ditto_run.core.run.require import require_text
from ditto_run.core.run.state import LessonPut, RunState

PlaceName = Literal["start list", "holder", "tool", "machine", "supplier", "left"]
PLACES: dict[PlaceName, str] = {
    "start list": "the start list",
    "holder": "the holder's note",
    "tool": "the tool's note",
    "machine": "Maintenance",
    "supplier": "Whom to ask",
    "left": "nowhere",
}
LONGEST = 120


@dataclass(frozen=True, slots=True)
class PutLesson:
    """Put a lesson where it will be seen next time: its key, its words, the place, and of what; left: it is none."""

    key: str
    words: str
    place: PlaceName
    of: str = ""
    kind: Literal["put_lesson"] = "put_lesson"


@dataclass(frozen=True, slots=True)
class LessonKept:
    """A lesson was put in its place."""

    key: str
    words: str
    place: PlaceName
    of: str = ""
    kind: Literal["lesson_kept"] = "lesson_kept"


@decide.register
def _decide(command: PutLesson, _state: RunState, _now: Now) -> LessonKept:
    words = require_text(command.words, "words", "the lesson in one sentence")[:LONGEST]
    key = " ".join(command.key.split())[:80] or f"said {words}"[:80]
    return LessonKept(key, words, command.place, " ".join(command.of.split())[:80])


@apply.register
def _apply(body: LessonKept, state: RunState, line: LogLine) -> None:
    state.lessons[body.key] = LessonPut(line.at, line.who, body.words, body.place, body.of)


@sentence.register
def _say(body: LessonKept, _state: RunState, _seq: int) -> str:
    if body.place == "left":
        return f"No lesson: {body.words.rstrip('.')}."
    of = f", {body.of}" if body.of else ""
    return f"{body.words.rstrip('.')}: to {PLACES[body.place]}{of}."
