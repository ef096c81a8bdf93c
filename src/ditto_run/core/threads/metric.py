"""Limits of metric threads."""

import re
from decimal import ROUND_HALF_EVEN, Decimal
from math import log10, sqrt

from ditto_run.core.errors import BadEntry
from ditto_run.core.threads import metric_tables as tables
from ditto_run.core.threads.thread import Band, Side, Thread, ThreadLimits
from ditto_run.core.units import rounded

PITCH_DEPTH = Decimal("0.649519053")  # 3/8 of √3 of the pitch: major to pitch diameter
MINOR_DEPTH = Decimal("1.082531755")  # 5/8 of √3: major to minor diameter
ROOT_DEPTH = Decimal("1.226869322")  # 17/24 of √3: major to the root of an external thread
UM = Decimal("0.001")
KNOWN = "4h, 6g, 6h, 6e, 6f, 8g or 5g6g outside; 4H5H, 5H, 6H, 6G or 7H inside"
SMALLEST_FINE_PITCH = Decimal("0.8")
INSIDE_STEPS = 5  # of the R 40 series, from a bolt's pitch tolerance to a nut's
R40 = (
    *(100, 106, 112, 118, 125, 132, 140, 150, 160, 170, 180, 190, 200, 212, 224, 236, 250, 265, 280, 300),
    *(315, 335, 355, 375, 400, 425, 450, 475, 500, 530, 560, 600, 630, 670, 710, 750, 800, 850, 900, 950),
)


def metric_limits(thread: Thread, side: Side, tolerance_class: str = "") -> ThreadLimits:
    """Return the limits of a metric thread.

    Args:
        thread: of family metric or custom in millimetres, 60° form.
        side: internal or external.
        tolerance_class: such as 6H, 4H5H, 6g or 5g6g; the usual one if empty.

    Returns:
        The limits, to the micrometre. [mm]

    Raises:
        BadEntry: if the class is unknown or on the wrong side.

    Source:
        [iso965] tables; where they carry no such pitch, the formulas of ISO 965-1, and it is said.

    Example:
        >>> from ditto_run.core.threads import read_thread
        >>> metric_limits(read_thread("M6"), "internal").minor
        Band(low=Decimal('4.917'), high=Decimal('5.153'))
    """
    first, second = _grades(tolerance_class or ("6H" if side == "internal" else "6g"), side)
    pitch_um, formula = _pitch_tolerance(thread, side, first[0])
    shift = _deviation(thread, first[1], first[0])
    basic_pitch = thread.major - PITCH_DEPTH * thread.pitch
    basic_minor = thread.major - MINOR_DEPTH * thread.pitch
    name = tolerance_class or ("6H" if side == "internal" else "6g")
    if side == "internal":
        minor_um, also = _crest_tolerance(thread, "internal", second[0])
        return ThreadLimits(
            side,
            name,
            "mm",
            Band(_mm(thread.major + shift), None),
            _above(basic_pitch + shift, pitch_um),
            _above(basic_minor + shift, minor_um),
            formula or also,
        )
    major_um, also = _crest_tolerance(thread, "external", second[0])
    root = thread.major - ROOT_DEPTH * thread.pitch - shift
    return ThreadLimits(
        side,
        name,
        "mm",
        _below(thread.major - shift, major_um),
        _below(basic_pitch - shift, pitch_um),
        Band(None, _mm(root)),
        formula or also,
    )


def _mm(value: Decimal) -> Decimal:
    return rounded(value, 3)


def _above(low: Decimal, width_um: Decimal) -> Band:
    return Band(_mm(low), _mm(low) + width_um * UM)


def _below(high: Decimal, width_um: Decimal) -> Band:
    return Band(_mm(high) - width_um * UM, _mm(high))


def _grades(text: str, side: Side) -> tuple[tuple[int, str], tuple[int, str]]:
    letters = "GH" if side == "internal" else "efgh"
    match = re.fullmatch(rf"(\d)([{letters}])(?:(\d)([{letters}]))?", text.strip())
    if match is None or (match[4] and match[4] != match[2]):
        raise BadEntry(
            f"“{text[:20]}” is no class of a metric thread on that side.",
            f"Known are {KNOWN}.",
            "tolerance_class",
        )
    return (int(match[1]), match[2]), (int(match[3] or match[1]), match[2])


def _key(pitch: Decimal) -> str:
    return f"{pitch.normalize():f}"


def _range(major: Decimal) -> int | None:
    ends = tables.DIAMETERS_MM
    inside = [i for i in range(len(ends) - 1) if ends[i] < major <= ends[i + 1]]
    return inside[0] if inside else None


def _of_grade(row: tuple[int, ...] | None, grades: tuple[int, ...], grade: int) -> Decimal | None:
    if row is None or grade not in grades or grades.index(grade) >= len(row):
        return None
    return Decimal(row[grades.index(grade)])


def _refuse(grade: int, what: str) -> BadEntry:
    return BadEntry(
        f"The standard has no grade {grade} for the {what}.", f"Known are {KNOWN}.", "tolerance_class"
    )


def _pitch_tolerance(thread: Thread, side: Side, grade: int) -> tuple[Decimal, bool]:
    grades = tables.INTERNAL_GRADES if side == "internal" else tables.EXTERNAL_PITCH_GRADES
    table = tables.INTERNAL_PITCH if side == "internal" else tables.EXTERNAL_PITCH
    if grade not in grades:
        raise _refuse(grade, "pitch diameter")
    index = _range(thread.major)
    row = table[index].get(_key(thread.pitch)) if index is not None else None
    found = _of_grade(row, grades, grade)
    if found is not None:
        return found, False
    formula = pitch_formula_um(_middle(index) if index is not None else thread.major, thread.pitch)
    return preferred_um(formula, 4 * (grade - 6) + (INSIDE_STEPS if side == "internal" else 0)), True


def _crest_tolerance(thread: Thread, side: Side, grade: int) -> tuple[Decimal, bool]:
    """Return the tolerance of the crest (minor of a nut, major of a bolt) and whether it is by formula, [µm]."""
    grades: tuple[int, ...]
    if side == "internal":
        grades, table, formula = tables.INTERNAL_GRADES, tables.INTERNAL_MINOR, minor_formula_um
    else:
        grades, table, formula = tables.EXTERNAL_MAJOR_GRADES, tables.EXTERNAL_MAJOR, major_formula_um
    if grade not in grades:
        raise _refuse(grade, "minor diameter" if side == "internal" else "major diameter")
    found = _of_grade(table.get(_key(thread.pitch)), grades, grade)
    if found is not None:
        return found, False
    return preferred_um(formula(thread.pitch), 4 * (grade - 6)), True


def _middle(index: int) -> Decimal:
    """Return the geometric mean of a range of diameters, [mm]."""
    return Decimal(repr(sqrt(tables.DIAMETERS_MM[index] * tables.DIAMETERS_MM[index + 1])))


def preferred_um(value_um: Decimal, steps: int = 0) -> Decimal:
    """Return the preferred number of the R 40 series nearest to a value, so many steps on, [µm].

    Source: the standard rounds its tolerances to the series; 4 steps from grade to grade. R 40 rounded, ISO 3, from memory.
    """
    decade, place = divmod(round(40 * log10(float(value_um))) + steps, 40)
    return rounded_even(Decimal(R40[place]) * Decimal(10) ** decade / 100)


def rounded_even(value: Decimal) -> Decimal:
    """Return a whole number, halves to the even one as the standard's tables have them, [any unit]."""
    return value.quantize(Decimal(1), ROUND_HALF_EVEN)


def _deviation(thread: Thread, letter: str, grade: int) -> Decimal:
    """Return how far the profile lies from the basic one, away from the mating part, [mm]."""
    small = letter.lower()
    if small == "h":
        return Decimal(0)
    found = tables.DEVIATIONS[small].get(_key(thread.pitch))
    if found is not None:
        return Decimal(found) * UM
    if small == "g":
        return rounded(deviation_formula_um(thread.pitch), 0) * UM
    raise BadEntry(
        f"The standard gives no position {letter} at a pitch of {_key(thread.pitch)} mm.",
        f"Type {grade}h or {grade}g.",
        "tolerance_class",
    )


def pitch_formula_um(middle_mm: Decimal, pitch_mm: Decimal) -> Decimal:
    """Return the pitch diameter tolerance of grade 6 outside, 90 P^0.4 d^0.1; before rounding, [µm].

    Args:
        middle_mm: geometric mean of the range the size lies in.
        pitch_mm: the pitch.

    Source: [iso965] formulas. Inside it is 1.32 times as much: five steps of the series.
    """
    return Decimal(repr(90 * float(pitch_mm) ** 0.4 * float(middle_mm) ** 0.1))


def minor_formula_um(pitch_mm: Decimal) -> Decimal:
    """Return the minor diameter tolerance of grade 6 before rounding, [µm]. Source: [iso965] formulas."""
    pitch = float(pitch_mm)
    value = 230 * pitch**0.7 if pitch_mm > SMALLEST_FINE_PITCH else 433 * pitch - 190 * pitch**1.22
    return Decimal(repr(value))


def major_formula_um(pitch_mm: Decimal) -> Decimal:
    """Return the major diameter tolerance of grade 6 before rounding, [µm]. Source: [iso965] formulas."""
    pitch = float(pitch_mm)
    return Decimal(repr(180 * pitch ** (2 / 3) - 3.15 / pitch**0.5))


def deviation_formula_um(pitch_mm: Decimal) -> Decimal:
    """Return the distance of position g and G from the basic profile, 15 + 11 P, [µm]. Source: [iso965] formulas."""
    return 15 + 11 * pitch_mm
