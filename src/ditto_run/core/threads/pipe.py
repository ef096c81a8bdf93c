"""Taper pipe threads: 1 in 16 on the diameter, so that depth makes the size."""

from dataclasses import dataclass
from decimal import Decimal

from ditto_run.core.errors import BadEntry
from ditto_run.core.threads.other_forms import WHITWORTH_DEPTH
from ditto_run.core.threads.thread import Thread
from ditto_run.core.units import rounded

TAPER = Decimal("0.0625")
NPT_DEPTH = Decimal("0.8")
MAKE_UP_THREADS = 3  # L3: threads a wrench takes up past hand tight, up to 2 inch

# Hand-tight length L1. [in]
NPT_L1_IN = {
    "1/16": "0.1600",
    "1/8": "0.1615",
    "1/4": "0.2278",
    "3/8": "0.2400",
    "1/2": "0.3200",
    "3/4": "0.3390",
    "1": "0.4000",
    "1-1/4": "0.4200",
    "1-1/2": "0.4200",
    "2": "0.4360",
}
# Gauge length, wrenching allowance. [mm]
BSPT_LENGTHS_MM = {
    "1/16": ("4.0", "2.5"),
    "1/8": ("4.0", "2.5"),
    "1/4": ("6.0", "3.7"),
    "3/8": ("6.4", "3.7"),
    "1/2": ("8.2", "5.0"),
    "3/4": ("9.5", "5.0"),
    "1": ("10.4", "6.4"),
    "1-1/4": ("12.7", "6.4"),
    "1-1/2": ("12.7", "6.4"),
    "2": ("15.9", "7.5"),
}


@dataclass(frozen=True, slots=True)
class PipeThread:
    """A taper pipe hole.

    Args:
        pitch_at_face: pitch diameter at the face of the hole, where it is hand tight.
        hand_tight: engagement by hand, L1.
        make_up: further engagement by wrench, L3.
        hole: straight drilled hole: the minor diameter where the engagement ends.
        unit: unit of all of them, mm or in.
    """

    pitch_at_face: Decimal
    hand_tight: Decimal
    make_up: Decimal
    hole: Decimal
    unit: str

    @property
    def engaged(self) -> Decimal:
        """Length engaged once made up, L1 + L3, [unit]."""
        return self.hand_tight + self.make_up


def pipe_thread(thread: Thread) -> PipeThread:
    """Return what a taper pipe hole needs.

    Args:
        thread: of family npt or bspt.

    Returns:
        Diameters and lengths in the unit of its standard.

    Raises:
        BadEntry: if it is no pipe thread.

    Source:
        NPT: [b1.20.1], E0 = D − (0.05 D + 1.1) P, E1 = E0 + L1/16; BSPT: [iso7]; 1/16 to 2 inch, from memory.

    Example:
        >>> from ditto_run.core.threads import read_thread
        >>> pipe_thread(read_thread("1/8 NPT")).pitch_at_face
        Decimal('0.3736')
    """
    size = thread.name.split()[-1] if thread.family == "bspt" else thread.name.split()[0]
    if thread.family == "npt":
        outside, hand = thread.major, Decimal(NPT_L1_IN[size])
        small = outside - (Decimal("0.05") * outside + Decimal("1.1")) * thread.pitch
        make_up = MAKE_UP_THREADS * thread.pitch
        hole = small - make_up * TAPER - NPT_DEPTH * thread.pitch
        return PipeThread(rounded(small + hand * TAPER, 4), hand, rounded(make_up, 4), rounded(hole, 4), "in")
    if thread.family == "bspt" and size in BSPT_LENGTHS_MM:
        major, (hand, make_up) = thread.major, map(Decimal, BSPT_LENGTHS_MM[size])
        depth = WHITWORTH_DEPTH * thread.pitch
        hole = major - 2 * depth - (hand + make_up) * TAPER
        return PipeThread(rounded(major - depth, 3), hand, make_up, rounded(hole, 3), "mm")
    raise BadEntry(
        f"{thread.name} is no taper pipe thread of our tables.",
        "We carry 1/16 to 2 inch, such as 1/4 NPT or Rc 1/4.",
        "thread",
    )
