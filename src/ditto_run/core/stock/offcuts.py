"""Which offcuts of the shelf a job can be cut from, before a bar is bought."""

import re
from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal

from ditto_run.core.entry.numbers import UNIT
from ditto_run.core.errors import DittoError
from ditto_run.core.shop.drawers import Offcut
from ditto_run.core.sizes import read_size
from ditto_run.core.stock.bars import bar_room, bars_for
from ditto_run.core.stock.blank import Blank
from ditto_run.core.stock.cuts_sheet import Cuts
from ditto_run.core.units import LengthUnit, counted, length_text

WASTEFUL = Decimal("1.25")  # an offcut so many times thicker is left for other work; own judgement


@dataclass(frozen=True, slots=True)
class Shelf:
    """What the shelf holds for a job.

    Args:
        fitting: offcuts of its grade and section with the pieces each gives, the shortest first.
        others: the rest, each with why not.
        bars_less: bars that need not be bought if the fitting ones are cut first.
    """

    fitting: tuple[tuple[Offcut, int], ...]
    others: tuple[tuple[Offcut, str], ...]
    bars_less: int = 0

    @property
    def say(self) -> str:
        """What to do, in one sentence; empty where no offcut fits."""
        if not self.fitting:
            return ""
        names = ", ".join(offcut.name for offcut, _ in self.fitting)
        pieces = counted(sum(count for _, count in self.fitting), "piece")
        saved = f": {counted(self.bars_less, 'bar')} less to buy" if self.bars_less else ""
        return f"Cut {names} first, {pieces}{saved}."


def grade_of(text: str) -> str:
    """Return a material as it is compared: what stands before a comma, letters and figures only, small."""
    return re.sub(r"[^a-z0-9]", "", text.partition(",")[0].lower())


def shelf_for(
    offcuts: Sequence[Offcut],
    material: str,
    blank: Blank | None,
    cuts: Cuts | None,
    units: tuple[LengthUnit, LengthUnit],
) -> Shelf:
    """Return which offcuts a job can be cut from, and what they save.

    An offcut fits if its grade is the job's, its section holds the blank's without being far larger, and its length
    gives a piece by the rule of Bars and cuts. Unknown grades are not guessed to be the same.

    Args:
        offcuts: on the shelf.
        material: grade of the job.
        blank: what is cut; None while it is not described.
        cuts: how the bars are cut; None while they are not planned.
        units: of the job, for the words, and of the shop, for a section written without one.
    """
    if blank is None or cuts is None:
        return Shelf((), tuple((offcut, "not known yet") for offcut in offcuts))
    fitting: list[tuple[Offcut, int]] = []
    others: list[tuple[Offcut, str]] = []
    for offcut in sorted(offcuts, key=lambda one: (one.length_mm, one.name)):
        room = bar_room(offcut.length_mm, cuts.full.kerf_mm, cuts.remnant_mm, cuts.full.facing_mm)
        count = int(room // (cuts.full.piece_mm + cuts.full.kerf_mm)) if room > 0 else 0
        why = _against(offcut, material, blank, units[1])
        if not why and count < 1:
            why = f"gives no piece of {length_text(cuts.full.piece_mm, units[0], 1)}"
        if why:
            others.append((offcut, why))
        elif sum(n for _, n in fitting) < cuts.start:
            fitting.append((offcut, min(count, cuts.start - sum(n for _, n in fitting))))
        else:
            others.append((offcut, "fits, and is not needed"))
    rest = cuts.start - sum(count for _, count in fitting)
    still = bars_for(rest, cuts.per_bar) if rest > 0 else 0
    return Shelf(tuple(fitting), tuple(others), cuts.bars - still)


def _against(offcut: Offcut, material: str, blank: Blank, unit: LengthUnit) -> str:
    """Return why an offcut is not for a job; empty if nothing speaks against it."""
    if not grade_of(material):
        return "the job has no grade"
    if grade_of(offcut.material) != grade_of(material):
        return f"is {offcut.material}" if offcut.material else "is of no known grade"
    return _thickness(_section(offcut.section, unit), blank)


def _thickness(section: list[Decimal] | None, blank: Blank) -> str:
    """Return why a section is not for a blank; empty if it is."""
    if section is None:
        return "has a section that cannot be read"
    wanted = sorted((blank.across_mm,) if blank.shape == "bar" else blank.blank_mm[1:])
    if len(section) != len(wanted):
        return "is of another shape"
    if any(have < want for have, want in zip(section, wanted, strict=True)):
        return "is too thin"
    thick = any(have > want * WASTEFUL for have, want in zip(section, wanted, strict=True))
    return "is far thicker than needed" if thick else ""


def section_text(blank: Blank) -> str:
    """Return the section of a blank as the shelf's list has it, its unit with each size."""
    if blank.shape == "bar":
        return f"Ø{blank.across_mm.normalize():f} mm"
    return " x ".join(f"{side.normalize():f} mm" for side in blank.blank_mm[1:])


def _section(text: str, unit: LengthUnit) -> list[Decimal] | None:
    """Return the sizes of a section, smallest first: one of a round or square bar, two of a flat one; None if unreadable."""
    found = []
    parts = re.split(r"\s*[x×*]\s*", text.strip())
    mark = re.search(rf"{UNIT}$", parts[-1])  # 45 x 35 mm: the unit is that of both
    for part in (f"{part} {mark[0]}" if mark and not re.search(UNIT, part) else part for part in parts):
        try:
            found.append(read_size(part, unit).nominal_base)
        except DittoError:
            return None
    return sorted(found) if 1 <= len(found) <= 2 else None  # noqa: PLR2004 - width and thickness
