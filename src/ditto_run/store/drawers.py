"""The shop's drawers between the core and the database: rows as they were typed."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from sqlalchemy import Connection, delete, insert, select, update

from ditto_run.core.errors import BadEntry, NotFound
from ditto_run.core.shop.drawers import Drawer, Texts, drawer_of
from ditto_run.core.units import LengthUnit
from ditto_run.formats.documents import TEXTS
from ditto_run.store import tables
from ditto_run.store.database import Database
from ditto_run.store.pictures import Attachment, check_picture

MOST_ROWS = 10_000
ROW, PHOTO = tables.drawer_row.c, tables.drawer_photo.c


@dataclass(frozen=True, slots=True)
class DrawerRow:
    """One row of a drawer.

    Args:
        id: its number.
        texts: what was typed, column by column.
        value: the typed value.
        photo: True if it has a photo.
    """

    id: int
    texts: dict[str, str]
    value: Any
    photo: bool = False


@lru_cache(maxsize=12_000)
def _read(name: str, body: str, unit: LengthUnit) -> tuple[dict[str, str], Any]:
    """What a row holds: read once, as it stands in the database, and not again for every page."""
    texts = TEXTS.validate_json(body)
    return texts, drawer_of(name).value(texts, unit)


def rows_in(connection: Connection, name: str) -> list[DrawerRow]:
    """Return the rows of a drawer within a session of the caller, without their photos."""
    found = connection.execute(select(ROW.id, ROW.texts).where(ROW.drawer == name).order_by(ROW.id)).all()
    rows = []
    for row in found:
        texts, value = _read(name, row.texts, "mm")
        rows.append(DrawerRow(row.id, dict(texts), value))
    return rows


def write_row(connection: Connection, row_id: int, texts: Texts) -> None:
    """Write a row anew within a session of the caller."""
    body = TEXTS.dump_json(dict(texts)).decode()
    connection.execute(update(tables.drawer_row).where(ROW.id == row_id).values(texts=body))


class Drawers:
    """The shop's drawers."""

    def __init__(self, database: Database) -> None:
        self._database = database

    def rows(self, name: str, unit: LengthUnit = "mm") -> list[DrawerRow]:
        """Return the rows of a drawer, in the order they were added."""
        drawer_of(name)
        with self._database.reading() as connection:
            found = connection.execute(
                select(tables.drawer_row, PHOTO.row_id.label("photo"))
                .outerjoin(tables.drawer_photo)
                .where(ROW.drawer == name)
                .order_by(ROW.id)
            ).all()
        rows = []
        for row in found:
            texts, value = _read(name, row.texts, unit)
            rows.append(DrawerRow(row.id, dict(texts), value, row.photo is not None))
        return rows

    def save(self, name: str, row_id: int, texts: Texts, unit: LengthUnit = "mm") -> int:
        """Keep a row; number 0 makes a new one. Returns its number.

        Raises:
            BadEntry: at the column that cannot be read, or if the row is there already.
            NotFound: if there is no such row.
        """
        drawer = drawer_of(name)
        drawer.value(texts, unit)
        texts = drawer.as_kept(texts, unit)
        with self._database.writing(shop=True) as connection:
            self._refuse_twice(connection, drawer, row_id, texts)
            body = TEXTS.dump_json(dict(texts)).decode()
            if not row_id:
                made = connection.execute(
                    insert(tables.drawer_row).values(drawer=name, texts=body)
                ).inserted_primary_key
                return int(made[0]) if made else 0
            mine = (ROW.id == row_id) & (ROW.drawer == name)
            if not connection.execute(update(tables.drawer_row).where(mine).values(texts=body)).rowcount:
                raise NotFound(drawer.one, row_id, "Choose one of the list.")
            return row_id

    def _refuse_twice(self, connection: Connection, drawer: Drawer, row_id: int, texts: Texts) -> None:
        # a tap is known by its thread and lead, everything else by its name
        names = ("lead", "thread") if drawer.name == "taps" else (drawer.columns[0].name,)
        found = connection.execute(select(ROW.id, ROW.texts).where(ROW.drawer == drawer.name)).all()
        if len(found) >= MOST_ROWS and not row_id:
            raise BadEntry(f"{MOST_ROWS:,} rows are the most.", "Remove some first.", names[-1])
        wanted = [texts.get(name, "").strip().lower() for name in names]
        for row in found:
            other = TEXTS.validate_json(row.texts)
            if row.id != row_id and [other.get(name, "").strip().lower() for name in names] == wanted:
                raise BadEntry(
                    f"There is a {drawer.one} {texts.get(names[-1], '')} already.",
                    "Change that one instead.",
                    names[-1],
                )

    def replace(self, name: str, rows: Sequence[Texts], unit: LengthUnit = "mm", *, keep: bool = True) -> int:
        """Add many rows, those of the same first column once; with `keep` false they replace what is there.

        Returns:
            How many were added. [rows]
        """
        drawer = drawer_of(name)
        for texts in rows:
            drawer.value(texts, unit)
        rows = [drawer.as_kept(texts, unit) for texts in rows]
        first = drawer.columns[0].name
        with self._database.writing(shop=True) as connection:
            if not keep:
                connection.execute(delete(tables.drawer_row).where(ROW.drawer == name))
            there = connection.execute(select(ROW.texts).where(ROW.drawer == name)).scalars().all()
            taken = {TEXTS.validate_json(text).get(first, "").lower() for text in there}
            new = [texts for texts in rows if texts.get(first, "").lower() not in taken]
            if len(there) + len(new) > MOST_ROWS:
                raise BadEntry(
                    f"{len(there) + len(new):,} rows are too many.",
                    f"A register holds {MOST_ROWS:,}.",
                    "file",
                )
            if new:
                values = [{"drawer": name, "texts": TEXTS.dump_json(dict(texts)).decode()} for texts in new]
                connection.execute(insert(tables.drawer_row), values)
            return len(new)

    def remove(self, name: str, row_id: int) -> None:
        """Take a row out."""
        with self._database.writing(shop=True) as connection:
            connection.execute(delete(tables.drawer_row).where((ROW.id == row_id) & (ROW.drawer == name)))

    def set_photo(self, name: str, row_id: int, file: str, content: bytes) -> None:
        """Keep the photo of a row in the place of the one it had.

        Raises:
            BadEntry: if it is empty, too large or no picture, or this register has no photos.
            NotFound: if there is no such row.
        """
        drawer = drawer_of(name)
        if not drawer.photos:
            raise BadEntry(f"{drawer.word} have no photos.", "Keep it on the job's first page.", "photo")
        media_type = check_picture(file, content, "photo")
        with self._database.writing(shop=True) as connection:
            mine = (ROW.id == row_id) & (ROW.drawer == name)
            if connection.execute(select(ROW.id).where(mine)).first() is None:
                raise NotFound(drawer.one, row_id, "Choose one of the list.")
            connection.execute(delete(tables.drawer_photo).where(PHOTO.row_id == row_id))
            values = {"row_id": row_id, "name": file[:120], "media_type": media_type, "content": content}
            connection.execute(insert(tables.drawer_photo).values(**values))

    def photo(self, name: str, row_id: int) -> Attachment:
        """Return the photo of a row.

        Raises:
            NotFound: if it has none.
        """
        with self._database.reading() as connection:
            row = connection.execute(
                select(tables.drawer_photo)
                .join(tables.drawer_row)
                .where((ROW.id == row_id) & (ROW.drawer == name))
            ).first()
        if row is None:
            raise NotFound("photo", row_id, "Add one on Shop.")
        return Attachment(row_id, row.name, row.media_type, row.content)

    def remove_photo(self, name: str, row_id: int) -> None:
        """Take the photo of a row away."""
        mine = select(ROW.id).where((ROW.id == row_id) & (ROW.drawer == name))
        with self._database.writing(shop=True) as connection:
            connection.execute(delete(tables.drawer_photo).where(PHOTO.row_id.in_(mine)))
