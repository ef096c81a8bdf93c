"""Files that leave the application."""

from fastapi.responses import Response

from ditto_run.desk.values import Attachment
from ditto_run.formats.pictures import picture_kind


def download(content: bytes, name: str, media_type: str) -> Response:
    """Return the content as a file to be kept."""
    return Response(
        content, media_type=media_type, headers={"Content-Disposition": f'attachment; filename="{name}"'}
    )


CLOSED = "default-src 'none'; sandbox"  # what was uploaded is looked at, and never does anything


def kept_file(found: Attachment) -> Response:
    """Return a picture or PDF that somebody uploaded: as a file, by its own content, and shut off from the application."""
    kind = picture_kind(found.content) or "application/octet-stream"
    end = kind.rsplit("/", 1)[-1].replace("octet-stream", "bin")
    headers = {
        "Content-Disposition": f'attachment; filename="drawing-{found.id}.{end}"',
        "Content-Security-Policy": CLOSED,
    }
    return Response(found.content, media_type=kind, headers=headers)
