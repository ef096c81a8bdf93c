"""Even figures for the scales of drawings."""

from math import floor, log10


def nice_step(span: float, wanted: int) -> float:
    """Return a step of 1, 2 or 5 times a power of ten that parts a span into about so many pieces."""
    raw = span / max(wanted, 1)
    power = 10 ** floor(log10(raw)) if raw > 0 else 1.0
    return next(power * m for m in (1, 2, 5, 10) if power * m >= raw)


def svg(width: int, height: int, says: str, body: str, view: str = "") -> str:
    """Return an SVG at its real size that says what it shows; its contents are hidden from a reader."""
    return (
        f'<svg role="img" aria-label="{says}" width="{width}" height="{height}" viewBox="{view or f"0 0 {width} {height}"}">'
        f'<g aria-hidden="true">{body}</g></svg>'
    )
