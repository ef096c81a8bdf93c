"""Reads how a thread is written."""

import re
from decimal import Decimal

from ditto_run.core.errors import BadEntry, SizeNotRead
from ditto_run.core.sizes.names import COARSE_PITCH_MM, number_screw_in
from ditto_run.core.sizes.numbers import NUMBER, normalised, number
from ditto_run.core.threads.pipe import BSPT, NPT
from ditto_run.core.threads.thread import Thread
from ditto_run.core.units import MM_PER_INCH

KNOWN = (
    "Known are M6, M10x1 6g, 1/4-20 UNC 2B, #10-32, 1/8 NPT, Rc 1/4; any other 60° thread as major and pitch, "
    "such as 10.3 x 1.1 mm or .250 x 22 tpi."
)
METRIC = re.compile(r"[Mm]\s?(\d+(?:\.\d+)?)(?:\s*x\s*(\d*\.?\d+))?(?:\s*-?\s*(\d[e-hGH](?:\d[e-hGH])?))?")
UNIFIED = re.compile(
    rf"(#?)({NUMBER})\s*-\s*(\d{{1,2}}(?:\.\d)?)(?:\s*(UNC|UNF|UNEF|UN|UNS))?(?:\s*-?\s*([123][AB]))?",
    re.IGNORECASE,
)
TAPER_NPT = re.compile(r"(\d(?:[ -]\d/\d)?|\d/\d{1,2})(?:\s*-\s*\d+(?:\.\d)?)?\s*NPTF?", re.IGNORECASE)
TAPER_BSPT = re.compile(
    r"(?:Rc|R)\s*(\d(?:[ -]\d/\d)?|\d/\d{1,2})|(\d(?:[ -]\d/\d)?|\d/\d{1,2})\s*BSPT", re.IGNORECASE
)
CUSTOM_METRIC = re.compile(rf"Ø?({NUMBER})\s*x\s*({NUMBER})\s*mm", re.IGNORECASE)
CUSTOM_INCH = re.compile(rf"Ø?({NUMBER})\s*(?:in)?\s*x\s*(\d{{1,2}}(?:\.\d)?)\s*tpi", re.IGNORECASE)
FINEST_PER_INCH = 100
COARSE_UN: dict[str, int] = {  # coarse and fine series: major to threads per inch
    "#1": 64,
    "#2": 56,
    "#3": 48,
    "#4": 40,
    "#5": 40,
    "#6": 32,
    "#8": 32,
    "#10": 24,
    "#12": 24,
    "1/4": 20,
    "5/16": 18,
    "3/8": 16,
    "7/16": 14,
    "1/2": 13,
    "9/16": 12,
    "5/8": 11,
    "3/4": 10,
    "7/8": 9,
    "1": 8,
    "1-1/8": 7,
    "1-1/4": 7,
    "1-3/8": 6,
    "1-1/2": 6,
}
FINE_UN: dict[str, int] = {
    "#0": 80,
    "#1": 72,
    "#2": 64,
    "#3": 56,
    "#4": 48,
    "#5": 44,
    "#6": 40,
    "#8": 36,
    "#10": 32,
    "#12": 28,
    "1/4": 28,
    "5/16": 24,
    "3/8": 24,
    "7/16": 20,
    "1/2": 20,
    "9/16": 18,
    "5/8": 18,
    "3/4": 16,
    "7/8": 14,
    "1": 12,
    "1-1/8": 12,
    "1-1/4": 12,
    "1-3/8": 12,
    "1-1/2": 12,
}


def read_thread(text: str) -> Thread:
    """Return the thread that a designation names.

    Args:
        text: such as M6, M10x1 6g, 1/4-20 UNC 2B, #10-32, 1/8 NPT, Rc 1/4, or for any other thread of 60° form
            its major diameter and pitch: 10.3 x 1.1 mm, .250 x 22 tpi.

    Returns:
        The thread in the unit of its standard.

    Raises:
        BadEntry: if no such thread is known; it says which are.

    Source:
        Series: [b1.1] and [iso261], from memory.

    Example:
        >>> read_thread("1/4-20 2B").series
        'UNC'
    """
    try:
        plain = re.sub(r"\s*thread$", "", normalised(text), flags=re.IGNORECASE)
    except SizeNotRead:
        raise BadEntry("No thread is typed.", KNOWN, "thread") from None
    for form in (_metric, _npt, _bspt, _custom, _unified):
        found = form(plain)
        if found is not None:
            return found
    raise BadEntry(f"“{text.strip()[:30]}” is no thread we know.", KNOWN, "thread")


def _metric(text: str) -> Thread | None:
    match = METRIC.fullmatch(text)
    if match is None:
        return None
    pitch = match[2] or COARSE_PITCH_MM.get(f"{Decimal(match[1]).normalize():f}")
    if pitch is None:
        raise BadEntry(f"M{match[1]} has no coarse pitch.", f"Add it, as in M{match[1]}x1.", "thread")
    return _checked(
        Thread(
            f"M{match[1]}×{Decimal(pitch).normalize():f}",
            "metric",
            "mm",
            Decimal(match[1]),
            Decimal(pitch),
            match[3] or "",
        )
    )


def _unified(text: str) -> Thread | None:
    match = UNIFIED.fullmatch(text)
    if match is None:
        return None
    typed, per_inch = match[2], Decimal(match[3])
    numbered = bool(match[1]) or (typed.isdigit() and int(typed) > 2)  # noqa: PLR2004 - #3 up; 1 and 2 are inches
    if per_inch <= 0 or per_inch > FINEST_PER_INCH:
        raise BadEntry(f"{match[3]} threads to the inch are not possible.", KNOWN, "thread")
    major = number_screw_in(int(typed)) if numbered and typed.isdigit() else number(typed).value
    key = f"#{typed}" if numbered else re.sub(r"[ ]", "-", typed)
    series = (match[4] or _series(key, per_inch)).upper()
    return _checked(
        Thread(
            f"{key}-{per_inch.normalize():f} {series}",
            "unified",
            "in",
            major,
            Decimal(1) / per_inch,
            (match[5] or "").upper(),
            series,
        )
    )


def _series(key: str, per_inch: Decimal) -> str:
    if COARSE_UN.get(key) == per_inch:
        return "UNC"
    return "UNF" if FINE_UN.get(key) == per_inch else "UNS"


def _npt(text: str) -> Thread | None:
    match = TAPER_NPT.fullmatch(text)
    if match is None:
        return None
    size = match[1].replace(" ", "-")
    if size not in NPT:
        raise BadEntry(f"There is no {size} NPT in our table.", f"We carry {', '.join(NPT)}.", "thread")
    return Thread(f"{size} NPT", "npt", "in", Decimal(NPT[size][1]), Decimal(1) / Decimal(NPT[size][0]))


def _bspt(text: str) -> Thread | None:
    match = TAPER_BSPT.fullmatch(text)
    if match is None:
        return None
    size = (match[1] or match[2]).replace(" ", "-")
    if size not in BSPT:
        raise BadEntry(f"There is no Rc {size} in our table.", f"We carry {', '.join(BSPT)}.", "thread")
    return Thread(f"Rc {size}", "bspt", "mm", Decimal(BSPT[size][1]), MM_PER_INCH / Decimal(BSPT[size][0]))


def _custom(text: str) -> Thread | None:
    if match := CUSTOM_METRIC.fullmatch(text):
        major, pitch = number(match[1]).value, number(match[2]).value
        return _checked(Thread(f"{major:f} × {pitch:f} mm", "custom", "mm", major, pitch))
    if match := CUSTOM_INCH.fullmatch(text):
        major, per_inch = number(match[1]).value, Decimal(match[2])
        if not per_inch:
            raise BadEntry("0 threads to the inch are not possible.", KNOWN, "thread")
        return _checked(
            Thread(
                f"{major:f} × {per_inch.normalize():f} tpi", "custom", "in", major, 1 / per_inch, series="UNS"
            )
        )
    return None


def _checked(thread: Thread) -> Thread:
    if thread.major <= 0 or thread.pitch <= 0 or thread.pitch * Decimal("1.3") >= thread.major:
        raise BadEntry(
            f"{thread.name} cannot be: the thread would be deeper than the rod is thick.",
            "Check the diameter and the pitch.",
            "thread",
        )
    return thread
