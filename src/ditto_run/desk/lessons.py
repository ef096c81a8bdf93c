"""A lesson put where it will be seen next time, and written into the log that it was."""

from ditto_run.core.close.lessons import Suggested, suggested
from ditto_run.core.errors import BadEntry
from ditto_run.core.run.events import PutLesson
from ditto_run.desk.desk import Desk
from ditto_run.desk.forgetting import forgot

NOTED = 200  # letters a note of the registers holds


def lessons_left(desk: Desk, run_id: int) -> tuple[Suggested, ...]:
    """Return the lessons a batch suggests that nobody put anywhere yet."""
    with desk.runs.folded(run_id) as state:
        return suggested(state, desk.shop.load().machines)


def put_lesson(desk: Desk, run_id: int, command: PutLesson, who: str, client_key: str) -> None:
    """Put a lesson in its place, and write that it was; one that stands there already is not put twice.

    Args:
        desk: the desk.
        run_id: of the batch.
        command: the lesson and its place.
        who: initials.
        client_key: chosen by the sender.

    Raises:
        BadEntry: if nothing is said, or what it is of is not in the register.
    """
    words = " ".join(command.words.split())
    if not words:
        raise BadEntry("Nothing is said.", "Type the lesson in one sentence.", "words")
    with desk.runs.folded(run_id) as state:
        known = command.key in state.lessons
    if not known:
        _put(desk, command, words)
    desk.runs.record(run_id, command, who, client_key)


def _put(desk: Desk, command: PutLesson, words: str) -> None:
    if command.place == "start list":
        forgot(desk, words, command.of)
    elif command.place == "machine":
        _row(
            desk,
            "maintenance",
            {"what": words[:NOTED], "machine": command.of, "noticed": desk.now.date().isoformat()},
        )
    elif command.place == "supplier":
        _noted(desk, "to_ask", command.of, words, {"name": command.of})
    elif command.place == "holder":
        _noted(desk, "holders", command.of, words, None, "next_time")
    elif command.place == "tool":
        _noted(desk, "tools", command.of, words, {"name": command.of})


def _row(desk: Desk, drawer: str, texts: dict[str, str]) -> None:
    """Add a row, unless one that says the same is there."""
    there = [{name: row.texts.get(name, "") for name in texts} for row in desk.drawers.rows(drawer)]
    if not any(one.get("what") == texts["what"] and one.get("machine") == texts["machine"] for one in there):
        desk.drawers.save(drawer, 0, texts)


def _noted(
    desk: Desk, drawer: str, of: str, words: str, new: dict[str, str] | None, column: str = "note"
) -> None:
    """Put words behind the note of a row; a new row where there is none and one may be made."""
    wanted = of.strip().lower()
    row = next(
        (
            one
            for one in desk.drawers.rows(drawer)
            if wanted
            and wanted in {one.texts.get("name", "").lower(), one.texts.get("name", "").lower().split(" ")[0]}
        ),
        None,
    )
    if row is None:
        if new is None or not wanted:
            raise BadEntry(f"“{of[:40]}” is not on Shop.", "Choose another place, or add it there.", "of")
        desk.drawers.save(drawer, 0, {**new, column: words[:NOTED]})
        return
    before = row.texts.get(column, "")
    if words in before:
        return
    joined = f"{words}; {before}" if before else words
    desk.drawers.save(drawer, row.id, {**row.texts, column: joined[:NOTED]})
