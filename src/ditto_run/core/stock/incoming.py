"""Incoming check: what was ordered against what came."""

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal

from ditto_run.core.errors import BadEntry
from ditto_run.core.findings import Finding
from ditto_run.core.units import LengthUnit, length_text


@dataclass(frozen=True, slots=True)
class Received:
    """One size of what came.

    Args:
        name: such as across or length.
        needed_mm: least size the blank wants. [mm]
        measured_mm: smallest measured. [mm]
    """

    name: str
    needed_mm: Decimal
    measured_mm: Decimal


def incoming_findings(sizes: Sequence[Received], unit: LengthUnit) -> list[Finding]:
    """Return a finding for each size that came too small, and one for those far too large.

    Args:
        sizes: what came against what is needed. [mm]
        unit: the drawing's unit.

    Source:
        Rule of the Stock step.
    """
    found = []
    for size in sizes:
        short = size.needed_mm - size.measured_mm
        if short > 0:
            found.append(
                Finding(
                    "stock",
                    "ask",
                    f"short-{size.name}",
                    f"The {size.name} is {length_text(short, unit)} short of the blank.",
                    "Send it back, or take less allowance if every face still cleans up.",
                )
            )
        elif size.needed_mm and size.measured_mm > size.needed_mm * Decimal("1.25"):
            found.append(
                Finding(
                    "stock",
                    "note",
                    f"large-{size.name}",
                    f"The {size.name} is {length_text(-short, unit)} over: more to cut away.",
                    "Count the extra time.",
                )
            )
    return found


@dataclass(frozen=True, slots=True)
class Order:
    """What was ordered for the job, and what came.

    Args:
        what: material and section.
        supplier: where it comes from.
        bars: how many. [bars or blanks]
        length: of each, as typed.
        cents: price of all of it. [cents]
        expected: day it is expected, as YYYY-MM-DD; empty if not said.
        came: True once it is in the shop.
        grade: grade ordered.
        grade_came: grade on the certificate.
        heat: heat and certificate number.
    """

    what: str
    supplier: str = ""
    bars: int = 0
    length: str = ""
    cents: int = 0
    expected: str = ""
    came: bool = False
    grade: str = ""
    grade_came: str = ""
    heat: str = ""

    @property
    def waits(self) -> str:
        """What the job waits for, in words; empty once it came."""
        if self.came or not self.what:
            return ""
        return f"{self.what}{f', expected {self.expected}' if self.expected else ''}"


def check_order(order: Order) -> Order:
    """Return the order if it can be used.

    Raises:
        BadEntry: without what was ordered, or with a count below zero.
    """
    if not order.what.strip():
        raise BadEntry(
            "Nothing says what is ordered.", "Type material and section, such as 12 mm bar 316.", "what"
        )
    if not 0 <= order.bars <= 10_000:  # noqa: PLR2004 - far beyond a shop
        raise BadEntry(f"{order.bars:,} bars are not possible.", "Type how many.", "bars")
    return order


def order_findings(order: Order | None, *, wants_trace: bool, due: str = "") -> list[Finding]:
    """Return what the order still wants: its arrival, in time, the right grade, a certificate where people can come to harm.

    Args:
        order: what was ordered; None without one.
        wants_trace: True for a part with a consequence.
        due: day the job is due, as YYYY-MM-DD; empty if not said.
    """
    if order is None:
        return []
    found = []
    if order.waits:
        found.append(
            Finding(
                "stock", "ask", "waits-for-material", f"Waits for {order.waits}.", "Mark it when it has come."
            )
        )
    if not order.came and due and order.expected and order.expected >= due:
        when = "the day" if order.expected == due else "after"
        found.append(
            Finding(
                "stock",
                "ask",
                "material-late",
                f"The material is expected on {order.expected}, {when} the job is due{'' if when == 'the day' else f', {due}'}.",
                "Ask for it sooner, cut offcuts first, or tell the customer.",
            )
        )
    if order.came and order.grade and order.grade_came and order.grade.lower() != order.grade_came.lower():
        found.append(
            Finding(
                "stock",
                "stop",
                "wrong-grade",
                f"{order.grade} was ordered, {order.grade_came} came.",
                "Set it apart and ask; speeds, strength and finish differ.",
            )
        )
    if order.came and wants_trace and not order.heat:
        found.append(
            Finding(
                "stock",
                "ask",
                "no-certificate",
                "The certificate of this material is not noted.",
                "Type heat and number; the part has a consequence.",
            )
        )
    return found
