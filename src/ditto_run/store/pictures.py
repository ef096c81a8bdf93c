"""Pictures kept in the database: drawings and photos beside a job, photos of a holder."""

from dataclasses import dataclass

from ditto_run.core.errors import BadEntry
from ditto_run.formats.pictures import DRAWINGS, PICTURES, picture_kind

MOST_BYTES = 20_000_000


@dataclass(frozen=True, slots=True)
class Attachment:
    """A drawing or photo; `content` is empty where only its name is wanted."""

    id: int
    name: str
    media_type: str
    content: bytes = b""


def check_picture(name: str, content: bytes, field: str, *, drawing: bool = False) -> str:
    """Return the media type of a picture, by its content; with `drawing` a PDF is welcome too.

    Raises:
        BadEntry: at the field, if it is no picture, empty or too large.
    """
    welcome = DRAWINGS if drawing else PICTURES
    if not 0 < len(content) <= MOST_BYTES:
        raise BadEntry(f"{name[:60]} is empty or over 20 MB.", "Choose a smaller file.", field)
    kind = picture_kind(content)
    if kind not in welcome:
        *first, last = welcome.values()
        raise BadEntry(
            f"{name[:60] or 'That file'} is {'neither a picture nor a PDF' if drawing else 'no picture'}.",
            f"Choose a {', '.join(first)} or {last} file.",
            field,
        )
    return kind
