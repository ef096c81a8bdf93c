"""Taper pipe threads: 1 in 16 on the diameter, so that depth makes the size."""

from dataclasses import dataclass
from decimal import Decimal

from ditto_run.core.errors import BadEntry
from ditto_run.core.threads.thread import Thread
from ditto_run.core.units import rounded

TAPER = Decimal("0.0625")
WHITWORTH_DEPTH = Decimal("0.640327")  # depth of a 55° thread over its pitch
NPT_DEPTH = Decimal("0.8")
MAKE_UP_THREADS = 3  # L3: threads a wrench takes up past hand tight, up to 2 inch

# Nominal size: threads per inch, outside diameter of the pipe, hand-tight length L1. [in]
NPT: dict[str, tuple[str, str, str]] = {
    "1/16": ("27", "0.3125", "0.1600"),
    "1/8": ("27", "0.405", "0.1615"),
    "1/4": ("18", "0.540", "0.2278"),
    "3/8": ("18", "0.675", "0.2400"),
    "1/2": ("14", "0.840", "0.3200"),
    "3/4": ("14", "1.050", "0.3390"),
    "1": ("11.5", "1.315", "0.4000"),
    "1-1/4": ("11.5", "1.660", "0.4200"),
    "1-1/2": ("11.5", "1.900", "0.4200"),
    "2": ("11.5", "2.375", "0.4360"),
}
# Nominal size: threads per inch, major diameter at the gauge plane, gauge length, wrenching allowance. [mm]
BSPT: dict[str, tuple[str, str, str, str]] = {
    "1/16": ("28", "7.723", "4.0", "2.5"),
    "1/8": ("28", "9.728", "4.0", "2.5"),
    "1/4": ("19", "13.157", "6.0", "3.7"),
    "3/8": ("19", "16.662", "6.4", "3.7"),
    "1/2": ("14", "20.955", "8.2", "5.0"),
    "3/4": ("14", "26.441", "9.5", "5.0"),
    "1": ("11", "33.249", "10.4", "6.4"),
    "1-1/4": ("11", "41.910", "12.7", "6.4"),
    "1-1/2": ("11", "47.803", "12.7", "6.4"),
    "2": ("11", "59.614", "15.9", "7.5"),
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
        outside, hand = Decimal(NPT[size][1]), Decimal(NPT[size][2])
        small = outside - (Decimal("0.05") * outside + Decimal("1.1")) * thread.pitch
        make_up = MAKE_UP_THREADS * thread.pitch
        hole = small - make_up * TAPER - NPT_DEPTH * thread.pitch
        return PipeThread(rounded(small + hand * TAPER, 4), hand, rounded(make_up, 4), rounded(hole, 4), "in")
    if thread.family == "bspt":
        major, hand, make_up = (Decimal(text) for text in BSPT[size][1:])
        depth = WHITWORTH_DEPTH * thread.pitch
        hole = major - 2 * depth - (hand + make_up) * TAPER
        return PipeThread(rounded(major - depth, 3), hand, make_up, rounded(hole, 3), "mm")
    raise BadEntry(f"{thread.name} is no taper pipe thread.", "Type it as 1/4 NPT or Rc 1/4.", "thread")
