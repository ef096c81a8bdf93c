"""The shop's drawers: rows, CSV in and out, usual sets to start from."""

from collections import Counter
from collections.abc import Mapping, Sequence
from typing import Annotated

from fastapi import APIRouter, File, Form, Query, UploadFile
from fastapi.responses import HTMLResponse, RedirectResponse, Response

from ditto_run.core.errors import BadEntry
from ditto_run.core.shop.drawers import DRAWERS, drawer_of
from ditto_run.core.shop.shop_tools import MOST_NUMBER, ShopTool
from ditto_run.core.units import counted
from ditto_run.formats.csv_tables import decode
from ditto_run.formats.drawer_table import rehearse_drawer, write_drawer
from ditto_run.web.dependencies import DeskDep, RenderDep, SentDep
from ditto_run.web.files import download, kept_file
from ditto_run.web.told import told

router = APIRouter(prefix="/shop/drawers/{name}")
MOST_SHOWN = 400
FEW = 12  # rows that are seen at a glance


def _back(name: str, words: str) -> Response:
    return told(RedirectResponse(f"/shop/drawers/{name}", 303), words)


@router.get("", name="drawer_page")
def show_page(
    name: str,
    desk: DeskDep,
    render: RenderDep,
    row: int = 0,
    begin: Annotated[str, Query(max_length=80)] = "",
    find: Annotated[str, Query(max_length=80)] = "",
) -> HTMLResponse:
    """Show one drawer; `row` opens a row, `begin` begins a new one with its name, `find` shows those with all of its words."""
    drawer = drawer_of(name)
    whole = desk.drawers.rows(name, desk.shop.load().length_unit)
    opened = next((found for found in whole if found.id == row), None)
    words = find.lower().split()
    rows = [one for one in whole if _has(one.texts, words)] if words else whole
    if name == "tools" and words:
        rows.sort(key=lambda one: one.value.number if one.value.number is not None else MOST_NUMBER + 1)
    return render(
        "shop/drawer.html",
        drawer=drawer,
        drawers=DRAWERS,
        rows=rows[:MOST_SHOWN],
        made_up={found.id for found in rows[:MOST_SHOWN] if drawer.is_made_up(found.texts)},
        made_up_words=", ".join(c.label.lower() for c in drawer.columns if c.name in drawer.made_up),
        total=len(whole),
        matching=len(rows),
        find=find.strip(),
        may_find=len(whole) > FEW,
        machines=_machines([one.value for one in whole]) if name == "tools" else [],
        opened=opened,
        begin=begin,
        shop=desk.shop.load(),
    )


def _machines(tools: Sequence[ShopTool]) -> list[tuple[str, int]]:
    """Machines that tools of the register stand in, and how many."""
    return sorted(Counter(tool.machine for tool in tools if tool.machine).items())


def _has(texts: Mapping[str, str], words: list[str]) -> bool:
    """True if each word stands somewhere in a row."""
    whole = " ".join(texts.values()).lower()
    return all(word in whole for word in words)


@router.post("", name="drawer_save")
def save_row(form: SentDep, name: str, desk: DeskDep) -> Response:
    """Keep a row."""
    sent = {key: value.strip() for key, value in form.items()}
    number = sent.pop("row_id", "0")
    row = int(number) if number.isdigit() else 0
    desk.drawers.save(name, row, sent, desk.shop.load().length_unit)
    return _back(name, f"{'Changed' if row else 'Added'} {sent.get(drawer_of(name).columns[0].name, '')}.")


@router.post("/standard", name="drawer_standard")
def add_standard(name: str, desk: DeskDep) -> Response:
    """Add the usual set; rows that are there stay as they are."""
    added = desk.drawers.replace(name, drawer_of(name).standard(), desk.shop.load().length_unit)
    return _back(name, _added(name, added))


def _added(name: str, rows: int) -> str:
    return f"Added {counted(rows, drawer_of(name).one)}." if rows else "They are there already."


@router.post("/remove", name="drawer_remove")
def remove_row(name: str, row_id: Annotated[int, Form()], desk: DeskDep) -> Response:
    """Take a row out."""
    gone = next((row for row in desk.drawers.rows(name) if row.id == row_id), None)
    desk.drawers.remove(name, row_id)
    return _back(name, f"Removed {gone.texts[drawer_of(name).columns[0].name]}." if gone else "It was gone.")


@router.get("/csv", name="drawer_csv")
def as_csv(name: str, desk: DeskDep) -> Response:
    """Download a drawer as CSV."""
    drawer = drawer_of(name)
    rows = desk.drawers.rows(name, desk.shop.load().length_unit)
    return download(
        write_drawer(drawer, (row.texts for row in rows)).encode(), f"{name}.csv", "text/csv; charset=utf-8"
    )


@router.post("/csv", name="drawer_import")
def bring_in(
    name: str, desk: DeskDep, file: Annotated[UploadFile, File()], whole: Annotated[bool, Form()] = False
) -> Response:
    """Take rows in from a CSV file: all of them or, with a faulty row named, none."""
    drawer = drawer_of(name)
    found = rehearse_drawer(decode(file.file.read()), drawer, desk.shop.load().length_unit)
    if found.faults:
        first = found.faults[0]
        rest = len(found.faults) - 1
        more = f" {counted(rest, 'more row')} {'has' if rest == 1 else 'have'} a fault." if rest else ""
        raise BadEntry(
            f"Row {first.row}, {first.field}: {first.message}{more}",
            "Nothing was changed. Mend the file, then choose it again.",
            "file",
        )
    if not found.rows:
        raise BadEntry(
            "That file has no rows.", f"Its columns are {', '.join(c.name for c in drawer.columns)}.", "file"
        )
    added = desk.drawers.replace(name, found.rows, desk.shop.load().length_unit, keep=not whole)
    return _back(name, _added(name, added))


@router.get("/{row_id}/photo", name="drawer_photo")
def show_photo(name: str, row_id: int, desk: DeskDep) -> Response:
    """Return the photo of a row."""
    found = desk.drawers.photo(name, row_id)
    return kept_file(found)


@router.post("/{row_id}/photo", name="drawer_photo_save")
def keep_photo(name: str, row_id: int, photo: Annotated[UploadFile, File()], desk: DeskDep) -> Response:
    """Keep a photo of a row."""
    content = photo.file.read()
    desk.drawers.set_photo(name, row_id, photo.filename or "", content)
    return told(RedirectResponse(f"/shop/drawers/{name}?row={row_id}", 303), "The photo is kept.")


@router.post("/{row_id}/photo/remove", name="drawer_photo_remove")
def drop_photo(name: str, row_id: int, desk: DeskDep) -> Response:
    """Take the photo of a row away."""
    desk.drawers.remove_photo(name, row_id)
    return told(RedirectResponse(f"/shop/drawers/{name}?row={row_id}", 303), "The photo is gone.")
