"""Files that leave the application."""

from fastapi.responses import Response


def download(content: bytes, name: str, media_type: str) -> Response:
    """Return the content as a file to be kept."""
    return Response(
        content, media_type=media_type, headers={"Content-Disposition": f'attachment; filename="{name}"'}
    )
