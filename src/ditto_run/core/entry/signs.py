"""One way of writing each sign, and decimal points only."""

import re

from ditto_run.core.errors import SizeNotRead, TwoReadings

MOST_DIGITS = 9
LONGEST = 200
SIGNS = str.maketrans(
    {
        **dict.fromkeys("−–—‐‑‒﹣", "-"),
        **dict.fromkeys("″”“„", '"'),
        **dict.fromkeys("′’‘´`", "'"),
        **dict.fromkeys("ø⌀φΦϕ∅", "Ø"),
        **dict.fromkeys("×✕⨯", "x"),
        **dict.fromkeys("\u00a0\u202f\u2009\t", " "),
        **dict.fromkeys("º˚", "°"),
        "μ": "µ",
        "…": "...",
        "⁄": "/",
        "½": " 1/2",
        "¼": " 1/4",
        "¾": " 3/4",
        "⅛": " 1/8",
        "⅜": " 3/8",
        "⅝": " 5/8",
        "⅞": " 7/8",
        "≤": " max ",
        "≥": " min ",
        "⊥": " perpendicular ",
        "∥": " parallel ",
        "⌖": " position ",
        "◎": " concentric ",
        "⏥": " flat ",
        "↗": " runout ",
    }
)
GROUPED = re.compile(r"\d{1,3}(?:\.\d{3})+,\d+|\d{1,3}(?:,\d{3})+\.\d*|[\d.]+,|,[\d.]+")
PLUS_MINUS = re.compile(r"\s*(?:\+\s*/\s*-|\+-|±|plus or minus|plus/minus)\s*", re.IGNORECASE)


def normalised(text: str) -> str:
    """Return the text with one way of writing each sign, and decimal points only.

    Raises:
        NeedsAnswer: if a comma may part thousands or decimals.
        SizeNotRead: if there is nothing, or far too much.
    """
    if len(text) > LONGEST:
        raise SizeNotRead(text[:30] + " …", f"{len(text)} signs are too many")
    text = text.translate(SIGNS).replace("''", '"').strip()
    if not text:
        raise SizeNotRead(text)
    text = re.sub(r"\s+", " ", PLUS_MINUS.sub(" ±", text)).strip()
    for digits in re.findall(r"\d+", text):
        if len(digits) > MOST_DIGITS:
            raise SizeNotRead(text, f"{len(digits)} digits in a row are no size; {MOST_DIGITS} are the most")
    return _points_only(text)


def _points_only(text: str) -> str:
    found = re.findall(r"[\d.,]*,[\d.,]*\d", text)
    if not found:
        return text
    plain = [number for number in found if "." not in number]
    doubtful = [number for number in plain if re.fullmatch(r"[1-9]\d{0,2},\d{3}", number)]
    thousands = any(re.fullmatch(r"[1-9]\d{0,2}(,\d{3}){2,}", number) for number in plain)
    mixed = [number for number in found if "." in number]
    if odd := [number for number in mixed if not GROUPED.fullmatch(number)]:
        raise SizeNotRead(text, f"“{odd[0]}” could be one figure or two")
    point_decides = thousands or any(n.rindex(".") > n.rindex(",") for n in mixed)
    comma_decides = any(n.rindex(",") > n.rindex(".") for n in mixed) or (
        not thousands and len(plain) > len(doubtful)
    )
    as_points = text.replace(".", "").replace(",", ".") if mixed else text.replace(",", ".")
    without = text.replace(",", "")
    if comma_decides and not point_decides:
        return as_points
    if point_decides or (doubtful and re.search(r"\d\.\d|(?<!\d)\.\d", text)):
        return without
    raise TwoReadings(
        f"“{doubtful[0] if doubtful else text}” can be read in two ways.",
        "Choose the one you mean.",
        "size",
        {as_points: as_points, without: without},
    )
