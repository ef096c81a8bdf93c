"""Holders owned, ranked for a part with the reasons."""

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal
from typing import Literal

from ditto_run.core.hold.heights import ARBOR
from ditto_run.core.part.shape.measures import MEASURES
from ditto_run.core.sheets import Known
from ditto_run.core.shop.drawers import Holder
from ditto_run.core.shop.steps_cut import LOOSEST
from ditto_run.core.stock.blank import BLANK_FOUND
from ditto_run.core.units import LengthUnit, length_text, small_mm_text

Marks = Literal["none", "light", "deep"]
DEPTH = {"none": 0, "light": 1, "deep": 2}
MANY = 20  # pieces from which a quick and repeatable holder matters; common practice, no source
REPEATS_WELL = Decimal("0.02")


@dataclass(frozen=True, slots=True)
class Ask:
    """What is to be held.

    Args:
        shape: round or flat.
        across_mm: size between the jaws. [mm]
        marks: what the face may bear.
        thin: True if the wall gives under a jaw.
        quantity: pieces.
        machine: machine it goes on; empty for any.
        other_mm: the other size it could be gripped across; None for round work. [mm]
        unit: unit of the job, for the reasons.
        bores_mm: diameters an arbor may sit in. [mm]
    """

    shape: Literal["round", "flat"]
    across_mm: Decimal
    marks: Marks = "light"
    thin: bool = False
    quantity: int = 1
    machine: str = ""
    other_mm: Decimal | None = None
    unit: LengthUnit = "mm"
    bores_mm: tuple[Decimal, ...] = ()


@dataclass(frozen=True, slots=True)
class Ranked:
    """One holder with what speaks for and against it.

    Args:
        holder: the holder.
        fits: False if something rules it out.
        reasons: in short sentences, those against it first.
        score: higher is better.
    """

    holder: Holder
    fits: bool
    reasons: tuple[str, ...]
    score: int


def rank_holders(ask: Ask, holders: Sequence[Holder]) -> list[Ranked]:
    """Return the holders of the register, best first.

    Ruled out is what does not span the size, does not suit the shape, marks deeper than allowed, or stands on
    another machine. Among the others a repeatable one leads for many pieces, one that spares thin walls for a
    thin part; of equals the one that repeats better, one never tried last.

    Args:
        ask: what is to be held.
        holders: owned.

    Source:
        Common practice, no source: the fixed jaw repeats, self-centring repeats less; nests spare thin walls.
    """
    return sorted(
        (_ranked(ask, holder) for holder in holders),
        key=lambda found: (
            not found.fits,
            -found.score,
            found.holder.repeat_mm is None,
            found.holder.repeat_mm or Decimal(0),
            found.holder.name,
        ),
    )


def holders_for_blank(
    known: Known, holders: Sequence[Holder], machine: str = "", marks: Marks = "light", *, thin: bool = False
) -> list[Ranked]:
    """Return the holders of the register ranked for the job's blank; none while no blank says how large it is.

    Args:
        known: what the job knows.
        holders: owned.
        machine: machine it goes on; empty for any.
        marks: what the face may bear.
        thin: True if the wall gives under a jaw.
    """
    blank = known.of(BLANK_FOUND)
    if blank is None:
        return []
    shape: Literal["round", "flat"] = "round" if blank.shape == "bar" else "flat"
    other = None if blank.shape == "bar" else max(blank.blank_mm[1:])
    part = known.of(MEASURES)
    bores = tuple(Decimal(repr(round(bore, 4))) for bore in (part.bores if part is not None else ()))
    ask = Ask(shape, blank.across_mm, marks, thin, known.quantity, machine, other, known.unit, bores)
    return rank_holders(ask, holders)


def _ranked(ask: Ask, holder: Holder) -> Ranked:
    against = _against(ask, holder)
    praise, score = _praise(ask, holder)
    return Ranked(holder, not against, (*against, *praise), score)


def _against(ask: Ask, holder: Holder) -> list[str]:
    """Return what rules a holder out."""
    against = []
    if holder.kind == ARBOR:
        if _seat_in(ask, holder) is None:
            against.append("has no seat for a bore of this part")
    elif not holder.low_mm <= ask.across_mm <= holder.high_mm:
        span = " to ".join(length_text(end, ask.unit, 1) for end in (holder.low_mm, holder.high_mm))
        against.append(f"spans {span}")
    if holder.shape not in {ask.shape, "any"}:
        against.append(f"is for {holder.shape} work")
    if DEPTH[holder.marks] > DEPTH[ask.marks]:
        against.append(f"leaves {holder.marks} marks")
    if ask.machine and holder.machine and holder.machine.lower() != ask.machine.lower():
        against.append(f"stands on {holder.machine}")
    return against


def _seat_in(ask: Ask, holder: Holder) -> Decimal | None:
    """Return the bore an arbor sits in: by its seats, or where it expands by its span; None without one, [mm]."""
    return next(
        (
            bore
            for bore in ask.bores_mm
            if any(0 <= bore - seat.across_mm <= LOOSEST for seat in holder.steps)
            or (not holder.steps and holder.low_mm <= bore <= holder.high_mm)
        ),
        None,
    )


def _made_for(ask: Ask, holder: Holder) -> str:
    """Return what of a holder was made for a part like this: a seat of an arbor, a step in the jaws; empty for nothing."""
    if holder.kind == ARBOR:
        bore = _seat_in(ask, holder)
        return "" if bore is None else f"sits in the bore of {length_text(bore, ask.unit, 2)}"
    step = next(
        (s for s in holder.steps if s.takes(ask.across_mm) and s.is_round == (ask.shape == "round")), None
    )
    if step is None:
        return ""
    across, deep = (length_text(size, ask.unit, 2) for size in (step.across_mm, step.deep_mm))
    return f"a step of {across}, {deep} deep, is cut in it"


def _praise(ask: Ask, holder: Holder) -> tuple[list[str], int]:
    """Return what else there is to say of a holder, and its score."""
    said, score = [], 0
    if ask.other_mm is not None and ask.other_mm > holder.high_mm >= ask.across_mm:
        across, other = (length_text(size, ask.unit, 1) for size in (ask.across_mm, ask.other_mm))
        said.append(f"only across {across}: it does not open {other}")
    if ask.quantity >= MANY and holder.repeat_mm is not None and holder.repeat_mm <= REPEATS_WELL:
        said.append(
            f"repeats within {small_mm_text(holder.repeat_mm, ask.unit)}, worth it for {ask.quantity}"
        )
        score += 2
    made = _made_for(ask, holder)
    if made:
        said.append(made)
        score += 2
    if ask.thin and holder.kind in {"nest", "soft jaws", "vacuum", "collet"}:
        said.append("spares a thin wall")
        score += 3
    if ask.thin and holder.kind in {"chuck", "biting jaws"}:
        said.append("squeezes a thin wall at few points")
        score -= 3
    if holder.marks == "none":
        said.append("leaves no mark")
        score += 1
    if holder.next_time:
        said.append(f"next time: {holder.next_time}")
    return said, score
