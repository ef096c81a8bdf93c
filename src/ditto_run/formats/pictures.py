"""What kind of picture a file is, by its first bytes and never by what somebody says."""

PICTURES = {"image/png": "PNG", "image/jpeg": "JPEG", "image/webp": "WebP"}
DRAWINGS = PICTURES | {"application/pdf": "PDF"}
STARTS = ((b"\x89PNG\r\n\x1a\n", "image/png"), (b"\xff\xd8\xff", "image/jpeg"), (b"%PDF-", "application/pdf"))


def picture_kind(content: bytes) -> str:
    """Return the media type of a picture or a PDF; empty if it is none of those we show."""
    if content[:4] == b"RIFF" and content[8:12] == b"WEBP":
        return "image/webp"
    return next((kind for start, kind in STARTS if content.startswith(start)), "")
