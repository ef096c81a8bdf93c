"""A feature said by a form: its fields put into the line a machinist would say, which is then read as any other."""

from collections.abc import Mapping

from ditto_run.core.errors import BadEntry

BEHIND = {"width": "wide", "depth": "deep", "height": "high", "across": "across flats"}
FACES = ("left", "right", "front", "back", "bottom", "top", "free end", "chuck end")
SIZES = ("thread", "diameter", "width", "length", "depth", "height", "across", "radius", "size")


def line_of_form(fields: Mapping[str, str]) -> str:
    """Return the line that says what a form says.

    Args:
        fields: kind, face, count, by (centres or a circle), arranged, through, turn (degrees round from
            the top), and sizes by what they are; from_left and the like are places. Empty ones say nothing.

    Raises:
        BadEntry: if it says no kind.

    Example:
        >>> line_of_form({"kind": "hole", "count": "4", "diameter": "6.6", "through": "on", "by": "50", "arranged": "circle", "face": "top"})
        '4x hole Ø6.6, through, on a 50 circle, top'
    """
    said = {name: text.strip() for name, text in fields.items() if text.strip()}
    if "kind" not in said:
        raise BadEntry("The form does not say what it is.", "Choose hole, slot or what else it is.", "kind")
    count = said.get("count", "1")
    head = f"{count}x {said['kind']}" if count != "1" else said["kind"]
    sizes = [_size(name, said[name]) for name in SIZES if name in said]
    parts = [" ".join([head, *sizes[:1]]), *sizes[1:]]
    if "through" in said:
        parts.append("through")
    if said.get("arranged") == "all round":
        parts.append("all round")
    elif "by" in said:
        parts.append(
            f"on a {said['by']} circle" if said.get("arranged") == "circle" else f"on {said['by']} centres"
        )
    places = (f"from_{face.replace(' ', '_')}" for face in FACES)
    parts.extend(f"{said[name]} {name.replace('_', ' ')}" for name in places if name in said)
    if "turn" in said:
        parts.append(f"at {said['turn'].removesuffix('°')}°")
    return ", ".join([*parts, *([said["face"]] if "face" in said else [])])


def _size(name: str, text: str) -> str:
    if name == "diameter":
        return text if text[0] in "Øø⌀#" else f"Ø{text}"
    if name == "radius":
        return f"R{text}"
    if name in {"thread", "size"}:
        return text
    return f"{text} {BEHIND.get(name, 'long')}"
