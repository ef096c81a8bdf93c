"""Sizes as they are said across the shop: "six thou under five eighths", "one and a quarter", "two tenths over half"."""

import re

ONES = (
    *(
        "zero",
        "one",
        "two",
        "three",
        "four",
        "five",
        "six",
        "seven",
        "eight",
        "nine",
        "ten",
        "eleven",
        "twelve",
    ),
    *("thirteen", "fourteen", "fifteen", "sixteen", "seventeen", "eighteen", "nineteen"),
)
TENS = ("twenty", "thirty", "forty", "fifty", "sixty", "seventy", "eighty", "ninety")
VALUES = {word: value for value, word in enumerate(ONES)} | {
    word: 10 * value for value, word in enumerate(TENS, 2)
}
PARTS = {
    r"half|halves": 2,
    r"quarters?": 4,
    r"eighths?": 8,
    r"sixteenths?": 16,
    r"thirty[- ]seconds?": 32,
    r"sixty[- ]fourths?": 64,
}
UNITS = r"thou|thousandths?|tenths?|hundredths?|inch|in|mm|microns?|degrees?"
HUNDRED, TEN, TENS_FROM = 100, 10, 20
LIMITS = (  # what says a limit in words, and the word it is read by
    (r"(?:between|from) (.+?) (?:and|to) (.+)", r"\1 to \2"),
    (r"(?:at least|not less than|no less than|not under|>=|>) ?(.+)", r"min \1"),
    (r"(?:at most|no more than|not more than|not over|up to|<=|<) ?(.+)", r"max \1"),
    (r"(.+?) (?:or more|or over|minimum)", r"min \1"),
    (r"(.+?) (?:or less|or under|maximum)", r"max \1"),
    (r"minimum (.+)", r"min \1"),
    (r"maximum (.+)", r"max \1"),
)

NAMED_PARTS = [(re.compile(rf"\b(?:{part})\b", re.IGNORECASE), f"@{below}") for part, below in PARTS.items()]
SAID_LIMITS = [(re.compile(rf"^{said}$", re.IGNORECASE), written) for said, written in LIMITS]


def words_to_digits(text: str) -> str:
    """Return what is said in words written with digits and signs; other text unchanged.

    Example:
        >>> words_to_digits("half a thou over one and a quarter")
        '1/2 thou over 1 1/4'
    """
    if not re.search(r"[A-Za-z<>]{2}|[<>]", text):
        return text
    for part, below in NAMED_PARTS:
        text = part.sub(below, text)
    text = _digits(text)
    text = re.sub(
        r"(\d+)? ?\bpoint((?: ?\d)+)\b",
        lambda m: f"{m[1] or ''}.{m[2].replace(' ', '')}",
        text,
        flags=re.IGNORECASE,
    )
    text = re.sub(
        r"(?<![\d.])(\d+|\ban?) @(\d+)",
        lambda m: f"{m[1] if m[1].isdigit() else 1}/{m[2]}",
        text,
        flags=re.IGNORECASE,
    )
    text = re.sub(r"@(\d+)", r"1/\1", text)
    text = re.sub(rf"(\d) an? (?={UNITS})", r"\1 ", text, flags=re.IGNORECASE)
    text = re.sub(rf"\ban? (?={UNITS})", "1 ", text, flags=re.IGNORECASE)
    text = re.sub(r"(\d+)(?: in(?:ch(?:es)?)?)? and (\d+/\d+)(?!\d)", r"\1 \2", text, flags=re.IGNORECASE)
    for said, written in SAID_LIMITS:
        found, times = said.subn(written, text)
        if times:
            text = found
            break
    text = re.sub(r"\bplus (?=[\d.])", "+", text, flags=re.IGNORECASE)
    return re.sub(r"\b(?:minus|less) (?=[\d.])", "-", text, flags=re.IGNORECASE)


def _digits(text: str) -> str:
    """Return a text with the whole numbers said in it written in digits; words that are no number together stay apart."""
    found: list[str] = []
    total: int | None = None
    last = HUNDRED
    for word in re.split(r"(?<=[a-z])-(?=[a-z])| ", text, flags=re.IGNORECASE):
        low = word.lower()
        if low == "hundred":
            if total is None and found and found[-1].lower() in {"a", "1"}:
                found.pop()
            total, last = (total or 1) * HUNDRED, HUNDRED
        elif low in VALUES:
            value = VALUES[low]
            joins = total is not None and (last == HUNDRED or (TENS_FROM <= last > value and value < TEN))
            if total is not None and not joins:
                found.append(str(total))
                total = None
            total, last = (total or 0) + value, value
        elif low == "and" and total is not None and last == HUNDRED and total:
            continue
        else:
            if total is not None:
                found.append(str(total))
            found.append(word)
            total, last = None, HUNDRED
    return " ".join([*found, str(total)] if total is not None else found)
