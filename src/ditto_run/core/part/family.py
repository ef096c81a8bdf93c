"""Families: one job makes siblings with a few sizes changed."""

from dataclasses import dataclass

from ditto_run.core.errors import BadEntry

FORM = "name; quantity; then each changed size as its name = the size"
MOST_SIBLINGS = 100


@dataclass(frozen=True, slots=True)
class Sibling:
    """One sibling to be made.

    Args:
        row: line it was typed on.
        name: what the part is called.
        quantity: good pieces wanted. [pieces]
        sizes: characteristic's name in lower case to its new size as typed.
    """

    row: int
    name: str
    quantity: int
    sizes: dict[str, str]


def read_siblings(text: str, names: list[str]) -> list[Sibling]:
    """Return the siblings of a typed table, such as `Pin 10; 40; shank = 9.95 0/-0.04; length = 70 ±0.1`.

    Args:
        text: one sibling a line, parts by semicolons.
        names: names of the characteristics there are.

    Raises:
        BadEntry: at the first line that cannot be used; the line is named.
    """
    lines = [line for line in text.splitlines() if line.strip()]
    if not lines:
        raise BadEntry("No sibling is typed.", f"Type a line for each: {FORM}.", "siblings")
    if len(lines) > MOST_SIBLINGS:
        raise BadEntry(
            f"{len(lines):,} siblings are too many at once.", f"Type {MOST_SIBLINGS} at most.", "siblings"
        )
    known = {name.lower() for name in names}
    return [_sibling(row, line, known) for row, line in enumerate(lines, 1)]


def _sibling(row: int, line: str, known: set[str]) -> Sibling:
    parts = [part.strip() for part in line.split(";") if part.strip()]
    if len(parts) < 2 or not parts[1].isdigit() or "=" in parts[0]:  # noqa: PLR2004 - name and quantity
        raise BadEntry(
            f"Line {row}, “{line.strip()[:30]}”, has no name and quantity.", f"Type {FORM}.", "siblings"
        )
    sizes = {}
    for part in parts[2:]:
        name, sign, size = part.partition("=")
        key = name.strip().lower()
        if not sign or key not in known:
            raise BadEntry(
                f"Line {row}: there is no size called “{name.strip()[:30]}”.",
                f"The part has {', '.join(sorted(known)) or 'no sizes yet'}.",
                "siblings",
            )
        sizes[key] = size.strip()
    return Sibling(row, parts[0][:80], int(parts[1]), sizes)
