"""What lies on the shelf: offcuts for a job, what is left of its last bar, and where the pallets are."""

from itertools import count
from typing import Literal

from ditto_run.core.errors import NotFound, NotNow
from ditto_run.core.place.pallets import ON_MACHINE, pallet_there
from ditto_run.core.stock.blank import BLANK_FOUND
from ditto_run.core.stock.cuts_sheet import CUTS_FOUND
from ditto_run.core.stock.offcuts import Shelf, section_text, shelf_for
from ditto_run.desk.desk import Desk

PalletState = Literal["at the bench", "ready", "on the machine", "away"]


def shelf_of(desk: Desk, job_id: int) -> Shelf:
    """Return the offcuts of the shop with what each is good for in a job."""
    job = desk.jobs.load(job_id)
    known = desk.worked_out(job).known
    offcuts = [row.value for row in desk.drawers.rows("offcuts")]
    return shelf_for(
        offcuts,
        job.plan.heading.material,
        known.of(BLANK_FOUND),
        known.of(CUTS_FOUND),
        (known.unit, desk.shop.load().length_unit),
    )


def shelve_rest(desk: Desk, job_id: int) -> str:
    """Put what is left of a job's last bar on the list of offcuts. Returns what it is called there.

    Raises:
        NotNow: if nothing is left, or it lies there already.
    """
    job = desk.jobs.load(job_id)
    known = desk.worked_out(job).known
    blank, cuts = known.of(BLANK_FOUND), known.of(CUTS_FOUND)
    if blank is None or cuts is None:
        raise NotNow("Nobody knows yet what is left of the last bar.", "Plan Bars and cuts first.")
    if not cuts.last.left_mm:
        raise NotNow("Nothing is left of the last bar.", "The last piece takes all of it.")
    rows = [row.value for row in desk.drawers.rows("offcuts")]
    own = [row for row in rows if row.name.startswith(f"Job {job_id}, rest")]
    if any(row.length_mm == cuts.last.left_mm for row in own):
        raise NotNow(f"It lies on the shelf already, as {own[-1].name}.", "Change it on Shop, Offcuts.")
    names = (f"Job {job_id}, rest{f' {n}' if n > 1 else ''}" for n in count(1))
    name = next(name for name in names if name not in {row.name for row in rows})
    texts = {
        "name": name,
        "material": job.plan.heading.material,
        "section": section_text(blank),
        "length": f"{cuts.last.left_mm.normalize():f} mm",
    }
    desk.drawers.save("offcuts", 0, texts)
    return name


def move_pallet(desk: Desk, row_id: int, state: PalletState) -> str:
    """Say where a pallet is now. Returns what it is called.

    Raises:
        NotFound: if there is no such pallet.
        NotNow: if another one sits on its base.
    """
    rows = desk.drawers.rows("pallets")
    row = next((row for row in rows if row.id == row_id), None)
    if row is None:
        raise NotFound("pallet", row_id, "Choose one of the list.")
    other = pallet_there([one.value for one in rows], row.value.base, row.value.name)
    if state == ON_MACHINE and other is not None:
        raise NotNow(
            f"Pallet {other.name} sits on {other.base} already.",
            f"Take {other.name} off first: say where it is now.",
        )
    desk.drawers.save("pallets", row.id, row.texts | {"state": state})
    return str(row.value.name)
