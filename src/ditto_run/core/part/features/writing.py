"""Writes a feature back in one line that reads the same."""

from ditto_run.core.part.features.described import At, Described
from ditto_run.core.part.features.kinds import KINDS, Role, plural
from ditto_run.core.sizes import Size, size_text

BEHIND = {
    Role.WIDTH: "wide",
    Role.LENGTH: "long",
    Role.DEPTH: "deep",
    Role.HEIGHT: "high",
    Role.ACROSS: "across flats",
    Role.PITCH: "pitch",
}


def feature_text(feature: Described) -> str:
    """Return the feature in one line of shop language; `read_feature` reads the same from it."""
    if feature.kind == "by hand":
        return feature.words
    many = f"{feature.count}x " if feature.count > 1 else ""
    if many and not feature.kind and not feature.sizes:
        many = f"{feature.count} "
    name = plural(feature.kind) if feature.kind and feature.count > 1 else feature.kind
    order = [*KINDS[feature.kind].order, *(role for role in Role)] if feature.kind else list(Role)
    sizes = [_said(role, feature.sizes[role]) for role in dict.fromkeys(order) if role in feature.sizes]
    bottom = next((s for s in sizes if s.startswith("to ")), "")
    corners = f"{feature.corners.text}," if feature.corners else ""
    head = " ".join(filter(None, (many + name, corners, " x ".join(s for s in sizes if s != bottom), bottom)))
    parts = [
        " ".join((word, " x ".join(_said(role, size) for role, size in own.items()))).strip()
        for word, own in feature.parts.items()
    ]
    return ", ".join(
        filter(
            None,
            (
                head,
                "through" if feature.through else "",
                *parts,
                *(f"{size_text(size)} {size.note}".strip() for size in feature.geometry),
                *(_place(at) for at in feature.places),
                f"at {size_text(feature.turn)}" if feature.turn else "",
                _pattern(feature),
                feature.extent,
                f"open {feature.open_at}" if feature.open_at else "",
                f"along {feature.run}" if feature.run else "",
                feature.face,
                "supplied" if feature.supplied else "",
            ),
        )
    )


def _said(role: Role, size: Size) -> str:
    if role is Role.BOTTOM:
        return f"to {size_text(size)}"
    behind = BEHIND.get(role, "")
    return f"{size_text(size)} {behind}".strip()


def _place(at: At) -> str:
    if at.distance is None:
        return "in the middle"
    return f"{size_text(at.distance)} from {at.face}" if at.face else f"at {size_text(at.distance)}"


def _pattern(feature: Described) -> str:
    if feature.pattern is None:
        return ""
    by = " x ".join(size_text(size) for size in feature.pattern.by)
    return f"on a {by} circle" if feature.pattern.arrangement == "circle" else f"on {by} centres"
