"""After a reading only what it changed is sent: the call, the answer, the counts, and a few marks.

So the thousandth piece is answered as quickly as the first. Whatever changes the shape of the strip
(a load, a revision, another setup) is answered with the whole board instead.
"""

from typing import Any

from fastapi.responses import HTMLResponse, Response

from ditto_run.core.run import Body, RunState
from ditto_run.core.run import events as ev
from ditto_run.core.run.board import board
from ditto_run.core.run.due import due_pieces
from ditto_run.core.run.events import redoable, undoable
from ditto_run.core.run.loads import held
from ditto_run.core.run.moved import moved_since_proof
from ditto_run.core.run.resumed import AWAY
from ditto_run.core.run.strip import changed_marks, frame
from ditto_run.core.run.where import are_unlike
from ditto_run.desk import Desk
from ditto_run.web.cycle import looked_at
from ditto_run.web.dependencies import Render, still_to_prove
from ditto_run.web.drawings import strip_size

SMALL = (ev.Reading, ev.Correction, ev.Disposition, ev.Hold, ev.Note)
LAYOUTS = {"wide", "tall"}
ADVISED = frozenset({"start", "close", "decide"})


def layout_of(render: Render) -> str:
    """Return wide or tall as the browser said, or both while it has not."""
    found = render.request.cookies.get("layout", "")
    return found if found in LAYOUTS else "both"


def seen(state: RunState) -> str:
    """Return what a page must know of the run to be brought up to date in parts."""
    return f"{state.seq}:{frame(state)[3]}:{held(state)}:{state.cycle}"


def of_machine(desk: Desk, state: RunState, run_id: int, wanted: str) -> dict[str, Any]:
    """Return the machine of the running setup, the stations whose offset was set again since its proof, and what is advised.

    Args:
        desk: the shop.
        state: the run.
        run_id: its number.
        wanted: what is to do next; nothing is advised while a reading is asked for or a load is cut.
    """
    shop = desk.shop.load()
    machine = shop.machines.get(state.plan.cycle(state.cycle).machine_id or 0)
    proven = machine is not None and bool(state.here.proven)
    moved = moved_since_proof(state, shop.register.of(machine.id)) if machine is not None and proven else ()
    asks = state.running is None and wanted in ADVISED
    later = asks and desk.advisers.is_long(run_id, state)
    advice = desk.advisers.of(run_id, state, shop, desk.version[0]) if asks and not later else None
    first = any(setup not in state.here.masters for setup in state.here.setups)
    away_s = (desk.now - state.last_at).total_seconds() if state.last_at else 0.0
    to_prove = still_to_prove(desk, state) if first else 0
    return {
        "machine": machine,
        "moved": moved,
        "advice": advice,
        "causes": ev.CAUSES,
        "advice_later": later,
        "to_prove": to_prove,
        "shop_gauges": shop.gauges,
        "warmth": state.here.warmth,
        "of_run": run_id,
        "away_s": away_s if away_s > AWAY.total_seconds() and state.closed_at is None else 0,
    }


def take_back(state: RunState, who: str) -> dict[str, Any]:
    """Return what a person's undo would take back and their redo would bring back, in words; empty for nothing."""
    undo, redo = undoable(state, who), redoable(state, who)
    return {"undo": undo[1] if undo else "", "redo": redo[1] if redo else ""}


def _only_small_since(state: RunState, seq: int) -> bool:
    """Return True if nobody recorded anything after that line which the parts leave out, such as a notch."""
    kept = state.recent_events
    if kept and kept[0].seq > seq + 1 and seq > 0:
        return False
    return all(isinstance(event.body, SMALL) for event in kept if event.seq > seq)


def show_changed(
    desk: Desk, render: Render, job_id: int, run_id: int, body: Body, known: str
) -> Response | None:
    """Return the answer in parts, or None if the whole board is wanted.

    Args:
        desk: the shop.
        render: draws for the request at hand.
        job_id: which job.
        run_id: its run.
        body: what was recorded.
        known: what the page knew before, from `seen`.
    """
    layout = layout_of(render)
    if not isinstance(body, SMALL) or layout == "both" or known.count(":") != 3:  # noqa: PLR2004 - its four parts
        return None
    seq, shape = known.split(":", 1)
    changed = desk.shop_changed(job_id)
    with desk.runs.folded(run_id) as lent:
        state = looked_at(lent, render.request)
        now_seen = seen(state)
        if not seq.isdigit() or now_seen.split(":", 1)[1] != shape or not _only_small_since(state, int(seq)):
            return None
        lanes, loads, _, last = frame(state)
        picture = board(state, desk.now, strip=False, day=desk.shop.load().day)
        marks = changed_marks(state, int(seq), due_pieces(state))
        cells = (marks, lanes, loads, *strip_size(layout, whole=len(loads) == last))
        answer: HTMLResponse = render(
            "run/_changed.html",
            job_id=job_id,
            plan=state.plan,
            state=state,
            board=picture,
            now=desk.now,
            ahead=desk.runs.ahead(run_id),
            shop_changed=changed,
            layout=layout,
            seen=now_seen,
            cells=cells,
            sided=are_unlike(state),
            fresh=True,
            **of_machine(desk, state, run_id, picture.call.next),
            **take_back(state, render.who),
        )
    answer.headers["HX-Retarget"] = "#board-top"
    return answer
