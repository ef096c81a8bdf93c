"""What was said last, for the eye at the foot of the page and for the ear."""

from ditto_run.core.run.events import sentence
from ditto_run.core.run.state import RunState


def last_said(state: RunState) -> str:
    """Return the sentence for the newest line, an undo among them; with what the clock did if it was set back."""
    event = state.newest
    if event is None:
        return "Nothing is recorded yet."
    said = sentence(event.body, state, event.seq)
    if state.set_back_at == event.seq:
        said += " The clock was set back before this line; times across it are not known."
    return said
