"""Reads one size as a machinist writes or says it."""

import re
from collections.abc import Callable
from dataclasses import replace
from decimal import Decimal

from ditto_run.core.entry.numbers import NUMBER, UNIT, number
from ditto_run.core.entry.signs import normalised
from ditto_run.core.entry.spoken import words_to_digits
from ditto_run.core.errors import BadEntry, NeedsAnswer, SizeNotRead, TwoReadings
from ditto_run.core.sizes import names
from ditto_run.core.sizes.angles import angle_of, chamfer_of, taper_of
from ditto_run.core.sizes.drawing_words import words_off
from ditto_run.core.sizes.forms import PLAIN, length_of, one_deviation, plain, two_sided
from ditto_run.core.sizes.geometry import geometry_of
from ditto_run.core.sizes.size import Size
from ditto_run.core.threads import Thread
from ditto_run.core.threads.designation import thread_of
from ditto_run.core.units import LengthUnit, Unit, convert, decimals_of, tidy, to_base

DRILL = re.compile(
    r"(?:#|no\.? ?|number |letter )?([a-z]|\d{1,2}) drill|#(\d{1,2})(?: drill)?|letter ([a-z])|drill (?:#|no\.? ?|number |letter )?([a-z]|\d{1,2})",
    re.IGNORECASE,
)
RULE_DRILL = re.compile(rf"({NUMBER} ?(?:{UNIT})?) drill|drill ({NUMBER} ?(?:{UNIT})?)", re.IGNORECASE)
BESIDE = re.compile(r"(.+?) ?[\(\[]([^()\[\]]+)[\)\]]")
BARE_PAIR = re.compile(r"(\d{1,2})-(\d{1,2})")
LARGEST_MM = 100_000
KNOWN_WORD = re.compile(
    rf"(?:{UNIT}|{NUMBER}|max|min|to|over|under|drill|[±+/().,:;#°'\"\-Øx ])", re.IGNORECASE
)


def read_size(text: str, job_unit: LengthUnit) -> Size:
    """Return what a typed size means.

    Args:
        text: as typed, such as `12 H7`, `.500 +.000/-.001`, `1-1/4`, `six thou under five eighths` or `M6`.
        job_unit: unit of the drawing, for numbers typed without one.

    Returns:
        The size with its limits in the unit it was typed in; its text is what was typed.

    Raises:
        NeedsAnswer: if it can be read in two ways; `choices` holds both.
        SizeNotRead: if it cannot be read; it names the word that was not understood.
        BadEntry: if it can be read but makes no sense, as when limits are crossed.
    """
    typed = text.strip()
    said = words_to_digits(normalised(typed))
    try:
        found = _whole(said, job_unit)
    except (BadEntry, NeedsAnswer) as refusal:
        refusal.field = "size"  # a thread names its own
        raise
    if found is None:
        raise SizeNotRead(typed, _unknown_word(said))
    return _checked(replace(found, text=typed, nominal=tidy(found.nominal)))


def _whole(said: str, job_unit: LengthUnit) -> Size | None:
    """Return a size of any kind, with the words of the drawing around it."""
    if (found := plain(said, job_unit)) is not None:  # most of what is typed
        return found
    _mils(said)
    for read in WHOLE:
        if (found := read(said, job_unit)) is not None:
            return found
    bare, words = words_off(said)
    if not bare:
        return None
    found = _thread(bare) or _drill(bare) or _size_of(bare, job_unit)
    if found is None:
        return None
    kind = "diameter" if words.diameter else "radius" if words.radius else found.kind
    note = ", ".join(filter(None, (found.note, *words.notes)))
    limits = (None, None) if words.is_open else (found.lower, found.upper)
    kept = kind if found.kind == "length" else found.kind
    return replace(found, kind=kept, note=note, lower=limits[0], upper=limits[1])


WHOLE: tuple[Callable[[str, LengthUnit], Size | None], ...] = (  # what the words of a drawing would break
    lambda said, _: _pair(said),
    lambda said, _: _drill(said),
    lambda said, _: taper_of(said),
    geometry_of,
    chamfer_of,
    lambda said, _: _thread(said),
)


def _size_of(bare: str, job_unit: LengthUnit) -> Size | None:
    """Return an angle, a chamfer, or a length with what stands in brackets behind it."""
    found = chamfer_of(bare, job_unit) or angle_of(bare) or length_of(bare, job_unit)
    if found is not None:
        return found
    match = BESIDE.fullmatch(bare)
    return _with_beside(match[1], match[2].strip(), job_unit) if match else None


def _with_beside(main: str, beside: str, job_unit: LengthUnit) -> Size | None:
    """Return a size with its deviations in brackets, or with the same length in the other unit there."""
    size = length_of(main, job_unit)
    if size is None or size.unit == "arcsec":
        return None
    if beside[0] in "+-0" and (
        found := two_sided(f"{main} {beside}", job_unit) or one_deviation(f"{main} {beside}", job_unit)
    ):
        return found
    other_unit: LengthUnit = "in" if size.unit == "mm" else "mm"
    same = length_of(beside, other_unit)
    if same is None:
        return None
    off = abs(size.nominal_base - same.nominal_base)
    near = max(to_base(Decimal(1).scaleb(-one.decimals), one.unit) for one in (size, same))
    if off > near:
        shown = convert(size.nominal, size.unit, other_unit)
        raise BadEntry(
            f"{size.nominal:f} {size.unit} is {shown:.4f} {other_unit}, and {same.nominal:f} {same.unit} stands beside it.",
            "Check which of the two is wrong, and type that one alone.",
            "size",
        )
    return size


def read_value(text: str, unit: Unit) -> tuple[Decimal, int, Unit]:
    """Return one measured value: number, decimals typed, and its unit.

    A value typed with a unit keeps it; one without is in `unit`.

    Raises:
        SizeNotRead: if it is not one plain number.
        NeedsAnswer: if it can be read in two ways.
    """
    typed = normalised(text)
    sign = -1 if typed.startswith("-") else 1
    bare = re.sub(r"^[+-]", "", typed).strip()
    if unit == "arcsec":
        size = angle_of(bare if "°" in bare or "'" in bare else f"{bare}°")
        if size is None or size.has_limits:
            raise SizeNotRead(text, "it is not an angle such as 44.5 or 44°30'")
        return size.nominal * sign, 0, "arcsec"
    match = PLAIN.fullmatch(bare)
    if match is None:
        raise SizeNotRead(text, "it is not one plain number")
    value = number(match[1], match[2])
    return value.value * sign, value.decimals, value.own(unit)


def _checked(size: Size) -> Size:
    if size.kind != "angle" and abs(size.nominal_base) > LARGEST_MM:
        raise BadEntry(f"{size.text} is more than 100 m.", "Check the decimal point and the unit.", "size")
    if size.kind in {"diameter", "radius", "drill", "thread"} and size.nominal <= 0:
        raise BadEntry(f"{size.text} is not above zero.", "Type the size from the drawing.", "size")
    return size


def _pair(text: str) -> Size | None:
    """Ask about two bare whole numbers that may be a thread or two limits: 10-32, 3-48, 1-8."""
    match = BARE_PAIR.fullmatch(text)
    if match is None or not int(match[1]):
        return None
    thread = thread_of(text)
    if thread is None:
        return None
    raise TwoReadings(
        f"“{text}” can be a thread or a range.",
        "Choose the one you mean.",
        "size",
        {f"thread {thread.name}": thread.name, f"from {match[1]} to {match[2]}": f"{match[1]} to {match[2]}"},
    )


def _mils(text: str) -> None:
    """Ask about a mil: a millimetre in one shop, a thou in another."""
    match = re.search(r"([\d./]+) ?mils?\b", text, re.IGNORECASE)
    if match is not None:
        metric, inch = (
            f"{text[: match.start()]}{match[1]} {unit}{text[match.end() :]}" for unit in ("mm", "thou")
        )
        raise TwoReadings(
            f"“{text}”: a mil is a millimetre to one and a thou to another.",
            "Choose the one you mean.",
            "size",
            {metric: metric, inch: inch},
        )


def _thread(text: str) -> Size | None:
    found = thread_of(text)
    return None if found is None else thread_size(found)


def thread_size(thread: Thread) -> Size:
    """Return a thread as a size: its major diameter under its name; it is gauged GO and NO-GO."""
    decimals = max(decimals_of(thread.major), 3 if thread.unit == "in" else 0)
    return Size("", thread.unit, decimals, thread.major, kind="thread", name=thread.called, note=thread.deep)


def _drill(text: str) -> Size | None:
    match = DRILL.fullmatch(text)
    if match is None:
        rule = RULE_DRILL.fullmatch(text)
        if rule is None:
            return None
        size = plain((rule[1] or rule[2]).strip(), "in" if "/" in text else "mm")
        return None if size is None or "." in text else replace(size, kind="diameter", note="drilled")
    name = next(group for group in match.groups() if group)
    value = names.drill_in(name)
    if value is None:
        raise SizeNotRead(text, "number drills run from 1 to 80, letter drills from A to Z")
    shown = f"#{name}" if name.isdigit() else name.upper()
    return Size("", "in", decimals_of(value), value, kind="drill", name=f"{shown} drill")


def _unknown_word(text: str) -> str:
    """Return which word of a text is none we know; empty if each is."""
    words = re.findall(r"[^\W\d_]{2,}", re.sub(UNIT, " ", text))
    strange = [word for word in words if not KNOWN_WORD.fullmatch(word)]
    if match := re.search(r"\d ?([A-Za-z]{1,2} ?\d{1,2})$", text):
        return f"“{match[1]}” is no tolerance class we know"
    return f"“{strange[0]}” is no word we know" if strange else ""
