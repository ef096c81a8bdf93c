"""The words a drawing puts beside a size: how many, through, across flats, for reference; and what they mean."""

import re
from dataclasses import dataclass, field

from ditto_run.core.entry.numbers import NUMBER, UNIT

COUNT = re.compile(r"^(\d{1,3}) ?(?:x(?= ?[ØRMC#(])|off\b|places?\b|times\b) ?(?=[ØRMC#(\d.])", re.IGNORECASE)
GLUED = re.compile(
    r"^(\d{1,3})x (?=[\d.])", re.IGNORECASE
)  # 4x 6.5; with a space on both sides it is a thread
TAILS = (  # what stands behind a size, and how we say it
    (r"(?:(\d{1,3}) ?(?:x|off|places?|plcs?|pl|holes?|times))", "{0} ×"),
    (r"(?:thru(?: all)?|through)", "through"),
    (r"(?:typ(?:ical)?)", "typical"),
    (r"(?:ref(?:erence)?)", "reference"),
    (r"(?:bsc|basic)", "basic"),
    (r"(?:a/?f|across flats|hex(?:agon)?(?: a/?f)?)", "across flats"),
    (r"(?:sq(?:uare)?)", "square"),
    (r"(?:c/?c|centres|centers)", "between centres"),
    (r"(?:deep|dp|depth)", "deep"),
    (r"(?:both (?:ends|sides)|each (?:end|side))", "both ends"),
    (r"(?:p\.?c\.?d\.?|b\.?c\.?)", "bolt circle"),
    (r"(?:chamfer|cham\.?|chfr)", "chamfer"),
    (r"(?:drill(?:ed)?)", "drilled"),
    (r"(?:ream(?:ed)?)", "reamed"),
    (rf"(?:x ?)?({NUMBER}(?: ?{UNIT})?) (?:deep|dp|depth)", "{0} deep"),
)
TAIL = [
    (re.compile(rf"[ ,]+{words}\.?$|(?<=[\d\"]){words}\.?$", re.IGNORECASE), said) for words, said in TAILS
]
AROUND = re.compile(r"\(([^()]+)\)|\[([^\[\]]+)\]")
BEFORE = (  # what stands before a size, and what it says of it
    (re.compile(r"^(?:about|approx(?:imately|\.)?|circa|ca\.?|nom(?:inal)?\.?|~) ?", re.IGNORECASE), "about"),
    (
        re.compile(
            r"^(?:Ø|dia(?:m(?:eter)?)?\.?) ?(?=[\d.])|(?<=[\d\"m]) ?dia(?:m(?:eter)?)?\.?$", re.IGNORECASE
        ),
        "diameter",
    ),
    (re.compile(r" ?\bdia(?:m(?:eter)?)?\.?$", re.IGNORECASE), "diameter"),
    (re.compile(r"^(?:R|rad(?:ius)?) ?(?=[\d.])|(?<=[\d\"m]) ?R$", re.IGNORECASE), "radius"),
)
KINDS = {"diameter", "radius"}
MAKES_ROUND = {"diameter", "drilled", "reamed"}
OPEN = {"reference", "basic"}  # sizes that nothing is held to


@dataclass(frozen=True, slots=True)
class Words:
    """What stood beside a size.

    Args:
        notes: in our words, in the order typed.
        diameter: True if the words make it a diameter: drilled or reamed.
        radius: True if R stood before it.
    """

    notes: tuple[str, ...] = field(default=())
    diameter: bool = False
    radius: bool = False

    @property
    def is_open(self) -> bool:
        """True if no limits belong to it: for reference, or basic."""
        return any(note in OPEN for note in self.notes)


def words_off(text: str) -> tuple[str, Words]:
    """Return a size without the words of the drawing, and those words.

    Example:
        >>> words_off("4x Ø6.5 THRU")
        ('6.5', Words(notes=('4 ×', 'through'), diameter=True, radius=False))
    """
    notes: list[str] = []
    before = ""
    if match := COUNT.match(text) or GLUED.match(text):
        notes.append(f"{match[1]} ×")
        text = text[match.end() :].strip()
    while text != before:
        before = text
        if match := AROUND.fullmatch(text):
            text = (match[1] or match[2]).strip()
            notes.append("reference")
        for pattern, said in (*TAIL, *BEFORE):
            match = pattern.search(text)
            rest = (text[: match.start()] + text[match.end() :]).strip(" ,") if match else ""
            if match and re.search(r"\d", rest):
                notes.append(said.format(*filter(None, match.groups())))
                text = rest
    said_of = dict.fromkeys(notes)
    shown = tuple(note for note in said_of if note not in KINDS)
    return text, Words(shown, bool(MAKES_ROUND & said_of.keys()), "radius" in said_of)
