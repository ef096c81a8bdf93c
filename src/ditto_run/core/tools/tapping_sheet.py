"""The tapping sheet: which way of tapping, by torque, depth and what the machine can do; and whether the tap may break."""

from dataclasses import dataclass
from decimal import Decimal
from math import pi
from typing import Literal

from ditto_run.core.entry.quantity import quantity_text
from ditto_run.core.findings import Finding
from ditto_run.core.method.ability import TAP_DIVISOR
from ditto_run.core.sheets import Answer, Entries, Entry, Fact, Grid, Known, SheetKind
from ditto_run.core.threads import Thread, read_thread, relative_torque
from ditto_run.core.units import LengthUnit, length_text

Tapping = Literal["rigid", "floating", "hand on the chuck", "by hand"]
CAN = ("floating", "rigid", "no")
USUAL_PERCENT = Decimal(75)  # of thread, for which the torque's formula stands
SHEARS_N_MM2 = 900.0  # of high-speed steel; from memory, orders only
FLUTED = 0.4  # of the twisting strength of a round bar of the thread's core; from memory, orders only
WORN = 3.0  # times the torque of a sharp tap, once chips pack or it is dull; common practice, no source
HAND_NM = 3.0  # a hand round a chuck holds about so much; common practice, no source
SIXTY = Decimal(60)
SIXTY_DEGREES = 60


@dataclass(frozen=True, slots=True)
class Tapped:
    """How a thread is tapped.

    Args:
        way: that is taken.
        torque_nm: a sharp tap asks. [N·m]
        breaks_nm: the tap breaks at about that. [N·m]
        at_sixty: torque at 60 % of thread over that at its own share; None for another form than 60°. [-]
    """

    way: Tapping
    torque_nm: float
    breaks_nm: float
    at_sixty: float | None

    @property
    def share(self) -> float:
        """Of what breaks the tap, that a sharp one asks, [-]."""
        return self.torque_nm / self.breaks_nm


def tap_torque_nm(thread: Thread, percent: Decimal, kc11: float) -> float:
    """Return the torque of a sharp tap, [N·m].

    Args:
        thread: the thread.
        percent: share of thread, 1 to 100. [%]
        kc11: of the material. [N/mm²]

    Returns:
        P² D kc / 8000 at 75 % of thread, and in proportion to the chip's area and radius at another share.

    Source:
        Common practice, no source; its change with the share of thread is own derivation.
    """
    pitch, across = float(thread.mm(thread.pitch)), float(thread.mm(thread.major))
    at_usual = pitch * pitch * across * kc11 / TAP_DIVISOR
    if thread.form != SIXTY_DEGREES:
        return at_usual
    return at_usual * relative_torque(thread, percent, USUAL_PERCENT)


def tap_breaks_nm(thread: Thread) -> float:
    """Return the torque at which a tap of high-speed steel breaks, [N·m]: 0.4 π d³ τ / 16 of its core.

    Args:
        thread: the thread.

    Source:
        Torsion of a round bar, own derivation; share of the flutes and strength from memory, orders only.
    """
    core = float(thread.mm(thread.major)) - 1.082532 * float(thread.mm(thread.pitch))
    return FLUTED * pi * core**3 / 16 * SHEARS_N_MM2 / 1000


def way_to_tap(can: str, torque_nm: float, *, by_dials: bool) -> Tapping:
    """Return the way of tapping that is taken.

    Args:
        can: what the machine can do: rigid, floating or no.
        torque_nm: of a sharp tap. [N·m]
        by_dials: True for a machine without a control.

    Source:
        Common practice, no source.
    """
    if can == "rigid" and not by_dials:
        return "rigid"
    if can != "no":
        return "floating"
    return "hand on the chuck" if by_dials and torque_nm * WORN <= HAND_NM else "by hand"


def compute(entries: Entries, known: Known) -> Answer:
    """Return the answer of the tapping sheet.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    unit = known.unit
    thread = read_thread(entries.need("thread", "M6"))
    percent = entries.percent("percent", 1, 100, float(USUAL_PERCENT))
    torque = tap_torque_nm(thread, percent, float(entries.quantity("kc11", 1, 20_000)))
    by_dials = entries.choice("control", ("control", "dials")) == "dials"
    way = way_to_tap(entries.choice("can", CAN), torque, by_dials=by_dials)
    sixty = thread.form == SIXTY_DEGREES
    found = Tapped(
        way, torque, tap_breaks_nm(thread), relative_torque(thread, SIXTY, percent) if sixty else None
    )
    return Answer(
        SAYS[way],
        WHY[way],
        tuple(_facts(found, percent, unit)),
        (_ways(thread, found, unit),),
        findings=tuple(_findings(found, percent, unit)),
        result=found,
        source="common practice; what breaks a tap is from memory, orders only: the tap maker’s figures go before it",
    )


SAYS: dict[Tapping, str] = {
    "rigid": "Rigid.",
    "floating": "In a floating holder.",
    "hand on the chuck": "By power, the hand on the chuck.",
    "by hand": "By hand, guided by the spindle.",
}
WHY: dict[Tapping, str] = {
    "rigid": "Spindle and feed keep step, and depth is held. Others keep a floating holder for small taps: it gives before they break.",
    "floating": "It makes up for a feed that does not keep step. Depth holds to about a turn, so leave room below.",
    "hand on the chuck": "The chuck slips in the hand before the tap breaks. Others turn it by wrench: slower, and felt better. "
    "Slowest speed, no gloves or sleeves, and only where the shop’s rules allow it.",
    "by hand": "The hand feels when it binds; a centre in the spindle keeps it upright. Half a turn back breaks the chip.",
}


def _facts(found: Tapped, percent: Decimal, unit: LengthUnit) -> list[Fact]:
    facts = [
        Fact("Torque, sharp", quantity_text("torque", found.torque_nm, unit), f"at {percent:f} % of thread"),
        Fact(
            "Breaks at about", quantity_text("torque", found.breaks_nm, unit), "high-speed steel; orders only"
        ),
        Fact("Of that", f"{found.share:.0%}", f"dull or packed with chips up to {WORN:g} times as much"),
    ]
    if found.at_sixty is not None and percent > SIXTY:
        less = 1 - found.at_sixty
        facts.append(
            Fact(
                "At 60 %",
                f"{less:.0%} less torque",
                "in steel the thread is usually still stronger than the screw",
            )
        )
    return facts  # fmt: skip


def _ways(thread: Thread, found: Tapped, unit: LengthUnit) -> Grid:
    turn = length_text(thread.mm(thread.pitch), unit, 2)
    hand = "yes" if found.torque_nm * WORN <= HAND_NM else "no: more than a hand holds"
    rows = (
        ("rigid", "0.1 mm" if unit == "mm" else "0.004 in", "at once, when it bottoms", "a spindle that keeps step"),
        ("floating holder", f"about a turn, {turn}", "when its travel is used up", "a spindle that reverses"),
        ("hand on the chuck", "a turn or two", "rarely: the chuck slips", hand),
        ("by hand", "as felt", "when it is leaned on", "yes"),
    )  # fmt: skip
    return Grid("Ways of tapping", ("Way", "Depth holds to", "It breaks", "Wants"), rows)


def _findings(found: Tapped, percent: Decimal, unit: LengthUnit) -> list[Finding]:
    if found.share * WORN < 1:
        return []

    def said(torque: float) -> str:
        return quantity_text("torque", torque, unit)

    sixty = ", or 60 % of thread" if found.at_sixty is not None and percent > SIXTY else ""
    return [
        Finding(
            "tools",
            "ask",
            "tap-may-break",
            f"A sharp tap asks {said(found.torque_nm)}, and it breaks at about {said(found.breaks_nm)}: dull, it would.",
            f"Take a larger drill{sixty}, a compound for that material, a spiral or forming tap, or mill the thread; change the tap early.",
            ground=f"{found.torque_nm:.3g} {found.breaks_nm:.3g}",
        )
    ]


TAPPING = SheetKind(
    "tapping",
    "tools",
    "Way of tapping",
    (
        Entry("thread", "Thread"),
        Entry("percent", "Thread wanted, %"),
        Entry("kc11", "kc1.1", quantity="stress"),
        Entry("can", "The machine taps", kind="choose", choices=CAN),
        Entry("control", "It is worked by", kind="choose", choices=("control", "dials")),
    ),
    compute,
)
