"""Threads of other forms: parallel pipe threads with their limits; trapezoidal and Whitworth ones by their basic sizes."""

from decimal import Decimal

from ditto_run.core.errors import BadEntry
from ditto_run.core.threads.metric_tables import EXTERNAL_MAJOR, INTERNAL_MINOR
from ditto_run.core.threads.thread import Band, Side, Thread, ThreadLimits
from ditto_run.core.units import rounded

WHITWORTH_DEPTH = Decimal("0.640327")  # depth of a 55° thread over its pitch
UM = Decimal("0.001")
# By pitch in threads to the inch: pitch diameter (A and inside), major diameter outside, minor inside. [µm]
PIPE_UM: dict[int, tuple[int, int, int]] = {  # [iso228], from memory
    28: (107, 214, 282),
    19: (125, 250, 445),
    14: (142, 284, 541),
    11: (180, 360, 640),
}
LARGE_PIPE_UM = (217, 434, 640)  # from 2-1/4 up
LARGEST_SMALL_MM = 60
CREST_GAPS_MM = (
    (Decimal("1.5"), "0.15"),
    (Decimal(5), "0.25"),
    (Decimal(12), "0.5"),
    (Decimal(44), "1"),
)  # [iso2904]


def parallel_pipe_limits(thread: Thread, side: Side, tolerance_class: str = "") -> ThreadLimits:
    """Return the limits of a parallel pipe thread, G.

    Args:
        thread: of family bspp.
        side: internal or external.
        tolerance_class: A or B outside, none inside; A if empty.

    Raises:
        BadEntry: if the class is unknown.

    Source:
        [iso228]: 55° form, depth 0.640327 P, tolerances from memory.
    """
    name = (tolerance_class or ("A" if side == "external" else "")).upper()
    if name not in ({"A", "B"} if side == "external" else {""}):
        raise BadEntry(
            f"“{tolerance_class[:20]}” is no class of a G thread on that side.",
            "Known are A and B outside; inside there is one.",
            "tolerance_class",
        )
    large = thread.major > LARGEST_SMALL_MM
    pitch_um, major_um, minor_um = LARGE_PIPE_UM if large else PIPE_UM[int(rounded(thread.per_inch, 0))]
    depth = WHITWORTH_DEPTH * thread.pitch
    pitch, minor = rounded(thread.major - depth, 3), rounded(thread.major - 2 * depth, 3)
    if side == "internal":
        return ThreadLimits(
            side,
            name,
            "mm",
            Band(thread.major, None),
            Band(pitch, pitch + pitch_um * UM),
            Band(minor, minor + minor_um * UM),
        )
    width = pitch_um * (2 if name == "B" else 1) * UM
    major = Band(thread.major - major_um * UM, thread.major)
    return ThreadLimits(side, name, "mm", major, Band(pitch - width, pitch), Band(None, minor))


def trapezoidal_limits(thread: Thread, side: Side) -> ThreadLimits:
    """Return the basic sizes of a trapezoidal thread, with the limits of its crests where a table of ours has them.

    Args:
        thread: of family trapezoidal.
        side: internal or external.

    Returns:
        Basic pitch diameter d − P/2; crests by grade 4; root d − P − 2 ac outside, d + 2 ac inside. The limits of the
        pitch diameter are not in our tables, and it says so.

    Source:
        [iso2904] basic profile and [iso965] crest tolerances of grade 4 for the same pitch, from memory.
    """
    gap = next((Decimal(gap) for most, gap in CREST_GAPS_MM if thread.pitch <= most), Decimal(1))
    key = f"{thread.pitch.normalize():f}"
    pitch, minor = thread.major - thread.pitch / 2, thread.major - thread.pitch
    if side == "internal":
        row = INTERNAL_MINOR.get(key)
        top = minor + row[0] * UM if row else None
        return ThreadLimits(
            side,
            "",
            "mm",
            Band(thread.major + 2 * gap, None),
            Band(pitch, None),
            Band(minor, top),
            basic=True,
        )
    row = EXTERNAL_MAJOR.get(key)
    least = thread.major - row[0] * UM if row else None
    return ThreadLimits(
        side, "", "mm", Band(least, thread.major), Band(None, pitch), Band(None, minor - 2 * gap), basic=True
    )


def whitworth_limits(thread: Thread, side: Side) -> ThreadLimits:
    """Return the basic sizes of a thread of 55° form, BSW, BSF or custom; its limits are not in our tables, and it says so.

    Args:
        thread: of 55° form.
        side: internal or external.

    Source:
        [bs84] form: depth 0.640327 P with rounded crest and root.
    """
    places = 4 if thread.unit == "in" else 3
    depth = WHITWORTH_DEPTH * thread.pitch
    major, pitch, minor = (rounded(thread.major - times * depth, places) for times in (0, 1, 2))
    if side == "internal":
        return ThreadLimits(
            side, "", thread.unit, Band(major, None), Band(pitch, None), Band(minor, None), basic=True
        )
    return ThreadLimits(
        side, "", thread.unit, Band(None, major), Band(None, pitch), Band(None, minor), basic=True
    )
