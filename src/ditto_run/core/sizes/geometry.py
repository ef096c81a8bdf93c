"""What a drawing says of form and position: perpendicular 0.003 to A, true position 0.2, .001 TIR."""

import re
from dataclasses import replace

from ditto_run.core.entry.numbers import UNIT
from ditto_run.core.sizes.forms import plain
from ditto_run.core.sizes.size import Size
from ditto_run.core.units import LengthUnit

SAID = {
    r"perpendicular(?:ity)?|squareness": "perpendicular",
    r"parallel(?:ism)?": "parallel",
    r"flat(?:ness)?": "flat",
    r"straight(?:ness)?": "straight",
    r"round(?:ness)?|circular(?:ity)?": "round",
    r"cylindric(?:al|ity)": "cylindrical",
    r"(?:true )?position": "position",
    r"concentric(?:ity)?|coaxial(?:ity)?": "concentric",
    r"symmetr(?:ical|y)": "symmetrical",
    r"angular(?:ity)?": "angular",
    r"profile": "profile",
    r"total run-?out": "total runout",
    r"run-?out|tir|t\.i\.r\.|fim": "runout",
}
WORDS = "|".join(SAID)
BEFORE = re.compile(
    rf"({WORDS})(?: within| of| max| to within|:)? ?(?:max )?(?:Ø ?)?(.+?(?: ?{UNIT}\b)?)(?: max| TIR| FIM)?(?: (?:to|with|of|wrt|from)? ?(.{{1,30}}))?",
    re.IGNORECASE,
)
BEHIND = re.compile(rf"(?:max )?(.+?) ?(?:max )?({WORDS})(?: max)?", re.IGNORECASE)


def geometry_of(text: str, job_unit: LengthUnit) -> Size | None:
    """Return what form or position may be off by, from nothing up to the limit; None if the text says no such thing.

    Example:
        >>> geometry_of("perpendicular 0.003 to A", "in").name
        'perpendicular'
    """
    if match := BEFORE.fullmatch(text):
        word, value, to = match[1], match[2], match[3] or ""
    elif match := BEHIND.fullmatch(text):
        value, word, to = match[1], match[2], ""
    else:
        return None
    size = plain(value.strip(), job_unit)
    if size is None:
        return None
    name = next(said for words, said in SAID.items() if re.fullmatch(words, word, re.IGNORECASE))
    return replace(
        size, nominal=size.nominal * 0, upper=size.nominal, name=name, note=f"to {to}" if to else ""
    )
