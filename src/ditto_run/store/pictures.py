"""Pictures kept in the database: drawings and photos beside a job, photos of a holder."""

from dataclasses import dataclass

from ditto_run.core.errors import BadEntry

MOST_BYTES = 20_000_000
PICTURES = {"image/png": "PNG", "image/jpeg": "JPEG", "image/webp": "WebP"}
DRAWINGS = PICTURES | {"application/pdf": "PDF"}


@dataclass(frozen=True, slots=True)
class Attachment:
    """A drawing or photo; `content` is empty where only its name is wanted."""

    id: int
    name: str
    media_type: str
    content: bytes = b""


def check_picture(name: str, media_type: str, content: bytes, field: str, *, drawing: bool = False) -> None:
    """Refuse what is no picture, empty or too large; with `drawing` a PDF is welcome too.

    Raises:
        BadEntry: at the field.
    """
    welcome = DRAWINGS if drawing else PICTURES
    if media_type not in welcome:
        *first, last = welcome.values()
        raise BadEntry(
            f"{name[:60] or 'That file'} is {'neither a picture nor a PDF' if drawing else 'no picture'}.",
            f"Choose a {', '.join(first)} or {last} file.",
            field,
        )
    if not 0 < len(content) <= MOST_BYTES:
        raise BadEntry(f"{name[:60]} is empty or over 20 MB.", "Choose a smaller file.", field)
