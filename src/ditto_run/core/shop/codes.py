"""Work offset codes a machine has, as typed: `G54-G59, G59.1-G59.3, G54.1 P1-P48`."""

import re
from functools import lru_cache

from ditto_run.core.errors import BadEntry

BASIC = tuple(f"G{n}" for n in range(54, 60))
FINE = tuple(f"G59.{n}" for n in range(1, 4))
MOST_EXTENDED, MOST_OWN = 300, 99
OWN = ("preset", "stop")  # what a machine without work offsets has: presets of its read-out, and stops


def _one(text: str) -> str:
    own = re.fullmatch(rf"({'|'.join(OWN)})\s*(\d{{1,2}})", text.strip().lower())
    if own and int(own[2]) >= 1:
        return f"{own[1]} {int(own[2])}"
    code = re.sub(r"\s*P", " P", text.strip().upper()).strip()
    if re.fullmatch(r"P\d{1,3}", code):
        code = f"G54.1 {code}"  # the far end of a range, as in G54.1 P1-P48
    plain = code in BASIC or code in FINE
    extended = re.fullmatch(r"G54\.1 P(\d{1,3})", code)
    if not plain and not (extended and 1 <= int(extended[1]) <= MOST_EXTENDED):
        raise BadEntry(
            f"“{text.strip()[:20]}” is not a work offset code.",
            "Codes are G54 to G59, G59.1 to G59.3 and G54.1 P1 to P300. A machine without them has preset 1-preset 9 of its read-out, or stop 1-stop 4.",
            "offset_codes",
        )
    return code


def read_code(text: str) -> str:
    """Return one code in its usual spelling.

    Raises:
        BadEntry: if there is no such code.

    Example:
        >>> read_code("g54.1p7")
        'G54.1 P7'
    """
    return _one(text)


def read_codes(text: str) -> tuple[str, ...]:
    """Return every code that a list with ranges names, in order, each once.

    Raises:
        BadEntry: if a part is no code, or a range runs backwards.
    """
    found: list[str] = []
    for part in filter(str.strip, re.split(r"[,;\n]", text)):
        ends = [_one(end) for end in re.split(r"\s*(?:-|–|to)\s*", part.strip(), flags=re.IGNORECASE)]
        if len(ends) == 1:
            found.append(ends[0])
            continue
        family = _family(ends[0])
        if len(ends) > 2 or ends[1] not in family or family.index(ends[0]) > family.index(ends[1]):  # noqa: PLR2004
            raise BadEntry(
                f"“{part.strip()[:30]}” is not a range of codes.", "Write it as G54-G59.", "offset_codes"
            )
        found += family[family.index(ends[0]) : family.index(ends[1]) + 1]
    return tuple(dict.fromkeys(found))


def _family(code: str) -> tuple[str, ...]:
    word = code.split(maxsplit=1)[0]
    if word in OWN:
        return tuple(f"{word} {n}" for n in range(1, MOST_OWN + 1))
    if "P" in code:
        return tuple(f"G54.1 P{n}" for n in range(1, MOST_EXTENDED + 1))
    return (*BASIC, *FINE)


@lru_cache(maxsize=64)
def codes_text(codes: tuple[str, ...]) -> str:
    """Return the codes as a person writes them, runs joined; reads back the same."""
    runs: list[list[str]] = []
    for code in codes:
        family = _family(code)
        last = runs[-1][-1] if runs else ""
        if last in family and family.index(last) + 1 == family.index(code):
            runs[-1].append(code)
        else:
            runs.append([code])
    return ", ".join(
        run[0] if len(run) == 1 else f"{run[0]}-{run[-1].removeprefix('G54.1 ')}" for run in runs
    )
