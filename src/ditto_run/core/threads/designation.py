"""Reads how a thread is written. The order of the forms is the order of `FORMS`."""

import re
from collections.abc import Callable
from dataclasses import replace
from decimal import Decimal

from ditto_run.core.entry.numbers import NUMBER, UNIT, number
from ditto_run.core.entry.signs import normalised
from ditto_run.core.errors import BadEntry, SizeNotRead, TwoReadings
from ditto_run.core.threads.series import (
    COARSE_PITCH_MM,
    NPT,
    PIPE_55,
    TRAPEZOIDAL_MM,
    WHITWORTH,
    number_screw_in,
    unified_series,
)
from ditto_run.core.threads.thread import Thread
from ditto_run.core.units import MM_PER_INCH

KNOWN = (
    "Known are M6, M10x1 6g, 1/4-20 UNC 2B, #10-32, 1/8 NPT, G1/4, Rc 1/4, Tr20x4, 1/4 BSW; any other as major and "
    "pitch, such as 10.3 x 1.1 mm, .250 x 22 tpi, or 12 x 1.5 mm 55°."
)
FINEST_PER_INCH = 100
SMALLEST_NUMBER_PITCH = (
    18  # from so many threads to the inch 5 and up is a number screw, not inches; own derivation
)
FINE_NUMBER_PITCH = 36  # the same for 1 to 3, where the inch has 32 at most
LEAST_INCH_NUMBER = 4
LARGEST_UN_IN = 6  # the series end there; [b1.1], from memory
FORMS_OF = {55, 60, 30, 29}
SIZE = r"(\d+[ -]\d+/\d+|\d+/\d+|\d+)"  # of a pipe: 1/4, 1 1/4, 2
CLASS_M = r"(\d[a-hA-H](?:\d[a-hA-H])?(?:/\d[a-h](?:\d[a-h])?)?)"
METRIC = re.compile(rf"[Mm] ?(\d+(?:\.\d+)?)(?: ?[xX*/-] ?(\d*\.?\d+)(?![a-hA-H\d]))?(?: ?-? ?{CLASS_M})?")
UNIFIED = re.compile(
    rf"(#|no\.? ?|number )?({NUMBER})(?: ?(\"|in\.?|inch))? ?(?:-| |x ?(?=\d+(?:\.\d+)? ?un)) ?(\d{{1,3}}(?:\.\d)?)?"
    r"(?: ?-? ?(UNC|UNF|UNEF|UNS|UN))?(?: ?-? ?([123][AB]))?",
    re.IGNORECASE,
)
SERIES_ONLY = re.compile(
    rf"(#|no\.? ?)?({NUMBER})(?: ?(\"|in\.?))? ?-? ?(UNC|UNF|UNEF)(?: ?-? ?([123][AB]))?", re.IGNORECASE
)
TAPER_NPT = re.compile(rf"{SIZE}\"?(?: ?- ?\d+(?:\.\d)?)? ?NPT[FR]?", re.IGNORECASE)
TAPER_BSPT = re.compile(
    rf"Rc ?{SIZE}\"?(?: ?BSPT)?|R ?(\d+[ -]\d+/\d+|\d+/\d+)\"?(?: ?BSPT)?|{SIZE}\"? ?-? ?(?:\d\d ?)?BSPT"
)
PARALLEL = re.compile(
    rf"G ?{SIZE}\"?(?: ?-? ?([ABab]))?|{SIZE}\"? ?-? ?(?:\d\d ?)?(?:BSPP?|bspp?)(?: ?([ABab]))?|BSPP? {SIZE}\"?|Rp ?{SIZE}"
)
TRAPEZOIDAL = re.compile(r"[Tt][Rr] ?(\d+(?:\.\d+)?)(?: ?[xX*] ?(\d*\.?\d+))?(?: ?-? ?(\d[eEcCHh]))?")
WHIT = re.compile(rf"{SIZE}\"?(?: ?-? ?(\d{{1,2}}(?:\.\d)?))? ?-? ?(BSW|BSF|Whit(?:worth)?)", re.IGNORECASE)
CUSTOM_METRIC = re.compile(
    rf"Ø?({NUMBER})(?: ?mm)? ?x ?({NUMBER}) ?mm(?: ?(?:pitch ?)?(\d\d) ?°)?", re.IGNORECASE
)
CUSTOM_INCH = re.compile(
    rf"Ø?({NUMBER})(?: ?{UNIT})? ?[x-] ?(\d{{1,3}}(?:\.\d)?) ?t\.?p\.?i\.?(?: ?(\d\d) ?°)?", re.IGNORECASE
)
BARE = re.compile(r"[\d.]+ ?- ?[\d.]+")  # two figures and nothing else
HAND = re.compile(r"[ ,-]+(LH|RH|left[- ]?hand(?:ed)?|right[- ]?hand(?:ed)?)\b", re.IGNORECASE)
DEEP = re.compile(
    rf"[ ,-]+(?:x ?|tapped |tap )?(?:(thru|through)|({NUMBER}(?: ?{UNIT})?) (?:deep|dp|long|full thread)\.?)$",
    re.IGNORECASE,
)
LONG = re.compile(rf"([Mm] ?\d+(?:\.\d+)? ?[xX*-] ?\d*\.?\d+) ?[xX*] ?({NUMBER}(?: ?{UNIT})?)")  # M6 x 1 x 20
SAID = re.compile(r"[ ,-]+(?:threads?|tap(?:ped)?)$|^(?:thread|tap) +", re.IGNORECASE)


def read_thread(text: str) -> Thread:
    """Return the thread that a designation names.

    Args:
        text: such as M6, M10x1 6g, 1/4-20 UNC 2B, #10-32, 1/8 NPT, G1/4, Rc 1/4, Tr20x4, 1/4 BSW LH, or for any other
            thread its major diameter and pitch, with its form where that is not 60°: 10.3 x 1.1 mm, .250 x 22 tpi.

    Returns:
        The thread in the unit of its standard.

    Raises:
        BadEntry: if no such thread is known; it says which are.
        NeedsAnswer: if a length stands where the pitch does, as in M6x20.

    Source:
        Series: [b1.1], [iso261], [iso228], [iso2904] and [bs84], from memory.

    Example:
        >>> read_thread("1/4-20 2B").series
        'UNC'
    """
    try:
        found = thread_of(normalised(text), sure=True)
    except SizeNotRead as refusal:
        raise BadEntry(refusal.problem if text.strip() else "No thread is typed.", KNOWN, "thread") from None
    if found is None:
        raise BadEntry(f"“{text.strip()[:30]}” is no thread we know.", KNOWN, "thread")
    return found


def thread_of(plain: str, *, sure: bool = False) -> Thread | None:
    """Return the thread that a text with one way of writing each sign names; None if it names none.

    Args:
        plain: the text.
        sure: True where only a thread can stand; else two bare figures are one only if the standard has it.

    Raises:
        BadEntry: if it is written as a thread that cannot be.
        NeedsAnswer: if a length stands where the pitch does.
    """
    bare, left, deep = _words_off(plain)
    doubtful = not sure and BARE.fullmatch(bare)
    for form in FORMS:
        try:
            found = form(bare)
        except BadEntry:
            if doubtful:
                return None
            raise
        if found is not None:
            return None if doubtful and not _known(found) else replace(found, left=left, deep=deep)
    return None


def _words_off(text: str) -> tuple[str, bool, str]:
    """Return a designation without its hand and depth, whether it is left hand, and the depth as typed."""
    deep = ""
    if match := LONG.fullmatch(text):
        text, deep = match[1], f"{match[2]} deep"
    for _ in range(3):
        if match := DEEP.search(text):
            deep = (match[1] and "through") or f"{match[2]} deep"
            text = text[: match.start()].strip()
        text = SAID.sub("", text).strip()
    hand = HAND.search(text)
    left = bool(hand and hand[1][0] in "Ll")
    return (HAND.sub("", text).strip() if hand else text), left, deep


def _metric(text: str) -> Thread | None:
    match = METRIC.fullmatch(text)
    if match is None:
        return None
    size = f"{Decimal(match[1]).normalize():f}"
    coarse = COARSE_PITCH_MM.get(size)
    pitch = match[2] or coarse
    if pitch is None:
        raise BadEntry(f"M{size} has no coarse pitch.", f"Add it, as in M{size}x1.", "thread")
    if coarse is not None and match[2] and Decimal(pitch) > max(Decimal(coarse) * 2, Decimal(1)):
        raise TwoReadings(
            f"{match[2]} mm is no pitch of M{size}; it looks like a length.",
            f"M{size} has a pitch of {Decimal(coarse):f} mm. Type the pitch, or the length in words.",
            "thread",
            {f"M{size}, {match[2]} mm deep": f"M{size} {match[2]} deep"},
        )
    name = f"M{size}×{Decimal(pitch).normalize():f}"
    return _checked(Thread(name, "metric", "mm", Decimal(match[1]), Decimal(pitch), match[3] or ""))


def _unified(text: str) -> Thread | None:
    match = UNIFIED.fullmatch(text) or SERIES_ONLY.fullmatch(text)
    if match is None:
        return None
    sign, typed, mark = match[1], match[2], match[3]
    if match.re is SERIES_ONLY:
        per_text, series, fit = None, match[4].upper(), (match[5] or "").upper()
    else:
        per_text, series, fit = match[4], (match[5] or "").upper(), (match[6] or "").upper()
    if per_text is None and series not in {"UNC", "UNF", "UNEF"}:
        return None
    if per_text is not None and " " in text and "-" not in text and not series:
        return None  # two figures side by side are no thread
    key = _key_of(typed, per_text, sign=bool(sign), inches=bool(mark))
    per_inch = Decimal(per_text) if per_text is not None else _usual(key, series, text)
    if per_inch <= 0 or per_inch > FINEST_PER_INCH:
        raise BadEntry(f"{per_text} threads to the inch are not possible.", KNOWN, "thread")
    major = number_screw_in(int(key[1:])) if key.startswith("#") else number(key).value
    series = series or unified_series(key, per_inch)
    name = f"{key}-{per_inch.normalize():f} {series}"
    return _checked(Thread(name, "unified", "in", major, 1 / per_inch, fit, series))


def _usual(key: str, series: str, text: str) -> Decimal:
    """Return the threads to the inch of a size in a series."""
    for per_inch in range(1, FINEST_PER_INCH):
        for half in (Decimal(0), Decimal("0.5")):
            if unified_series(key, per_inch + half) == series:
                return per_inch + half
    raise BadEntry(f"{text} is in no table of ours.", "Add the threads to the inch, as in 1/4-20.", "thread")


def _key_of(typed: str, per_inch: str | None, *, sign: bool, inches: bool) -> str:
    """Return what a unified size is called: #10, 1/4 or 1-1/8. Its threads to the inch tell a number from inches."""
    if "/" in typed:
        return re.sub(r"[ ]", "-", typed)
    if "." in typed:
        return _named(Decimal(typed))
    count = int(typed)
    fine = Decimal(per_inch) if per_inch else Decimal(0)
    if sign or count == 0:
        return f"#{count}"
    if inches or not per_inch:
        return typed if inches or count < LEAST_INCH_NUMBER else f"#{count}"
    limit = FINE_NUMBER_PITCH if count < LEAST_INCH_NUMBER else SMALLEST_NUMBER_PITCH
    return f"#{count}" if fine >= limit else typed


def _named(major: Decimal) -> str:
    """Return the standard name of a major diameter typed in decimals, else the decimals, [in]."""
    for count in (*range(7), 8, 10, 12):
        if major == number_screw_in(count):
            return f"#{count}"
    for sixteenths in range(2, 97):
        if major == Decimal(sixteenths) / 16:
            whole, rest = divmod(sixteenths, 16)
            below = 16
            while rest and rest % 2 == 0:
                rest, below = rest // 2, below // 2
            part = f"{rest}/{below}" if rest else ""
            return f"{whole}-{part}" if whole and part else part or str(whole)
    return f"{major:f}"


def _known(thread: Thread) -> bool:
    """Return whether two bare figures are a thread of the standard, not two limits such as 10-12."""
    numbered = thread.name.startswith("#")
    return thread.series != "UNS" and (numbered or thread.major <= LARGEST_UN_IN)


def _npt(text: str) -> Thread | None:
    match = TAPER_NPT.fullmatch(text)
    if match is None:
        return None
    size = _pipe_size(match[1], NPT, f"{match[1]} NPT")
    return Thread(f"{size} NPT", "npt", "in", Decimal(NPT[size][1]), 1 / Decimal(NPT[size][0]))


def _bspt(text: str) -> Thread | None:
    match = TAPER_BSPT.fullmatch(text)
    return _pipe_55(match[1] or match[2] or match[3], "Rc ", "bspt") if match else None


def _bspp(text: str) -> Thread | None:
    match = PARALLEL.fullmatch(text)
    if match is None:
        return None
    size = match[1] or match[3] or match[5] or match[6]
    return replace(_pipe_55(size, "G", "bspp"), tolerance_class=(match[2] or match[4] or "").upper())


def _pipe_55(typed: str, mark: str, family: str) -> Thread:
    size = _pipe_size(typed, PIPE_55, f"{mark}{typed}")
    per_inch, major = PIPE_55[size]
    pitch = MM_PER_INCH / Decimal(per_inch)
    return Thread(
        f"{mark}{size}", "bspt" if family == "bspt" else "bspp", "mm", Decimal(major), pitch, form=55
    )


def _pipe_size(typed: str, table: dict[str, tuple[str, str]], called: str) -> str:
    size = typed.replace(" ", "-")
    if size not in table:
        raise BadEntry(f"There is no {called} in our table.", f"We carry {', '.join(table)}.", "thread")
    return size


def _trapezoidal(text: str) -> Thread | None:
    match = TRAPEZOIDAL.fullmatch(text)
    if match is None:
        return None
    pitch = match[2] or TRAPEZOIDAL_MM.get(match[1])
    if pitch is None:
        raise BadEntry(f"Tr{match[1]} needs its pitch.", f"Add it, as in Tr{match[1]}x4.", "thread")
    name = f"Tr{match[1]}×{Decimal(pitch).normalize():f}"
    major = Decimal(match[1])
    return _checked(Thread(name, "trapezoidal", "mm", major, Decimal(pitch), match[3] or "", form=30))


def _whitworth(text: str) -> Thread | None:
    match = WHIT.fullmatch(text)
    if match is None:
        return None
    size = match[1].replace(" ", "-")
    series = "BSF" if match[3].upper() == "BSF" else "BSW"
    row = WHITWORTH.get(size, ())
    usual = row[1] if series == "BSF" and len(row) > 1 else row[0] if row and series == "BSW" else None
    if match[2] is None and usual is None:
        raise BadEntry(
            f"There is no {size} {series} in our table.",
            f"Add the threads, as in {size}-20 {series}.",
            "thread",
        )
    per_inch = Decimal(match[2]) if match[2] else Decimal(repr(usual))
    if not per_inch:
        raise BadEntry("0 threads to the inch are not possible.", KNOWN, "thread")
    name = f"{size}-{per_inch.normalize():f} {series}"
    major = number(size).value
    return _checked(Thread(name, "whitworth", "in", major, 1 / per_inch, series=series, form=55))


def _custom(text: str) -> Thread | None:
    if match := CUSTOM_METRIC.fullmatch(text):
        major, pitch = number(match[1]).value, number(match[2]).value
        form = _form(match[3])
        name = f"{major:f} × {pitch:f} mm" + (f" {form}°" if form != 60 else "")  # noqa: PLR2004 - the usual form
        return _checked(Thread(name, "custom", "mm", major, pitch, form=form))
    if match := CUSTOM_INCH.fullmatch(text):
        major, per_inch = number(match[1]).value, Decimal(match[2])
        if not per_inch:
            raise BadEntry("0 threads to the inch are not possible.", KNOWN, "thread")
        form = _form(match[3])
        name = f"{major:f} × {per_inch.normalize():f} tpi" + (f" {form}°" if form != 60 else "")  # noqa: PLR2004
        return _checked(Thread(name, "custom", "in", major, 1 / per_inch, series="UNS", form=form))
    return None


def _form(typed: str | None) -> int:
    form = int(typed or 60)
    if form not in FORMS_OF:
        raise BadEntry(
            f"A thread of {form}° is no form we know.", "Known are 60°, 55°, 30° and 29°.", "thread"
        )
    return form


def _checked(thread: Thread) -> Thread:
    depth = Decimal("1.3") if thread.form != 30 else Decimal(1)  # noqa: PLR2004 - trapezoidal threads are shallower
    if thread.major <= 0 or thread.pitch <= 0 or thread.pitch * depth >= thread.major:
        raise BadEntry(
            f"{thread.name} cannot be: the thread would be deeper than the rod is thick.",
            "Check the diameter and the pitch.",
            "thread",
        )
    return thread


FORMS: tuple[Callable[[str], Thread | None], ...] = (
    _metric,
    _npt,
    _bspt,
    _bspp,
    _trapezoidal,
    _whitworth,
    _custom,
    _unified,
)
