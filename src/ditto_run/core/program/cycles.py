"""Cycles: of a mill drilled and tapped down Z, of a lathe turned, faced and threaded."""

from math import ceil

from ditto_run.core.program.mover import Mover, Place

MOST_REPEATS = 10_000
OUT_AT_FEED = frozenset({"85", "89"})
TAPS = frozenset({"74", "84"})
PECKS = frozenset({"73", "83"})
DWELLS = frozenset({"82", "89"})
HOLES = frozenset({"73", "74", "76", "81", "82", "83", "84", "85", "86", "87", "88", "89"})
NOTHING_MM = 1e-9


def hole(mover: Mover, code: str, at: Place) -> None:
    """Make one hole: up to R, over it, down to R, the strokes of the cycle, out.

    Args:
        mover: with the cycle's words.
        code: of the cycle.
        at: X and Y of it.
    """
    words = mover.modes.cycle
    if words.r is None or words.z is None:
        return
    z = mover.at[2]
    if z is not None and z < words.r:
        mover.rapid([mover.at[0], mover.at[1], words.r])
    mover.rapid([at[0], at[1], mover.at[2]])
    mover.rapid([at[0], at[1], words.r])
    _strokes(mover, code, words.r, words.z)
    if code in DWELLS:
        mover.clock.wait(words.p)
        mover.end_air()
    out = words.r
    if mover.modes.to_level and words.level is not None:
        out = max(words.level, words.r)
    if code in OUT_AT_FEED | TAPS:
        _down(mover, words.r, tap=code in TAPS)
    if mover.at[2] != out:
        mover.rapid([at[0], at[1], out], checked=False)
    mover.tally.hole(mover.modes.offset, f"G{code}", words.r, words.z, 1)
    mover.tally.stands(mover.line, mover.modes.offset, at[0], at[1])


def _strokes(mover: Mover, code: str, r: float, z: float) -> None:
    """Down to the bottom: at once, or peck by peck."""
    peck = mover.modes.cycle.q
    if code not in PECKS or not peck:
        _down(mover, z, tap=code in TAPS)
        return
    dialect = mover.given.dialect
    gap = dialect.chip_gap_mm if code == "73" else dialect.peck_gap_mm
    x, y = mover.at[0], mover.at[1]
    bottom = r
    while bottom > z + NOTHING_MM:
        bottom = max(bottom - peck, z)
        _down(mover, bottom)
        if bottom <= z + NOTHING_MM:
            break
        if code == "73":
            mover.rapid([x, y, bottom + gap], checked=False)
        else:
            mover.rapid([x, y, r], checked=False)
            mover.rapid([x, y, min(bottom + gap, r)], checked=False)


def _down(mover: Mover, z: float, *, tap: bool = False) -> None:
    """One stroke at feed; of a tap in step with the spindle."""
    to: Place = [mover.at[0], mover.at[1], z]
    if not tap:
        mover.feed(mover.known_line(to), to, stroke=True)
        return
    path, rate = mover.known_line(to), mover.modes.rate()
    seconds = rate.seconds(path) if path.length > 0 else 0.0
    mover.in_step(path, to, seconds)


def pecks_of(depth: float, peck: float) -> int:
    """Return how many pecks a depth takes.

    Args:
        depth: from R to the bottom. [mm]
        peck: above 0. [mm]
    """
    return ceil(depth / peck - NOTHING_MM)


# of a lathe


def turn_cycle(mover: Mover, x: float, z: float) -> None:
    """Turn once: to the diameter at rapid, along, back to the diameter it began at, back at rapid.

    Args:
        mover: where it begins.
        x: radius that is turned. [mm]
        z: where it ends. [mm]
    """
    begin = list(mover.at)
    taper = mover.modes.cycle.taper
    mover.rapid([x + taper, begin[1], begin[2]])
    for to in ([x, begin[1], z], [begin[0], begin[1], z]):
        mover.feed(mover.known_line(to), to, stroke=True)
    mover.rapid(begin, checked=False)


def face_cycle(mover: Mover, x: float, z: float) -> None:
    """Face once: along to the face at rapid, in, back along, out at rapid.

    Args:
        mover: where it begins.
        x: radius to which it faces. [mm]
        z: of the face. [mm]
    """
    begin = list(mover.at)
    mover.rapid([begin[0], begin[1], z])
    for to in ([x, begin[1], z], [x, begin[1], begin[2]]):
        mover.feed(mover.known_line(to), to, stroke=True)
    mover.rapid(begin, checked=False)


def thread_pass(mover: Mover, x: float, z: float, lead: float) -> None:
    """Cut one pass of a thread: in at rapid, along in step with the spindle, out and back at rapid.

    Args:
        mover: where the pass begins.
        x: radius of the pass. [mm]
        z: where it ends. [mm]
        lead: of the thread. [mm]
    """
    begin = list(mover.at)
    mover.rapid([x, begin[1], begin[2]], checked=False)
    threaded(mover, [x, begin[1], z], lead)
    mover.rapid([begin[0], begin[1], z], checked=False)
    mover.rapid(begin, checked=False)


def threaded(mover: Mover, to: Place, lead: float) -> None:
    """Move along a thread in step with the spindle: length over lead and speed.

    Args:
        mover: where it begins.
        to: where it ends.
        lead: of the thread. [mm]
    """
    path = mover.known_line(to)
    modes = mover.modes
    if modes.held:
        mover.tally.fault(mover.line, "css_while_threading")
    speed = 0.0 if modes.held or not modes.turns else modes.speed or 0.0
    seconds = path.length / (lead * speed) * 60 if lead > 0 and speed > 0 else None
    mover.in_step(path, to, seconds)


def two_block_depths(high: float, first: float, least: float, finish: float, spring: int) -> list[float]:
    """Return the depth of each pass of a thread in two blocks: d√n, a step at least, the last at full height.

    Args:
        high: of the thread. [mm]
        first: depth of the first pass. [mm]
        least: of a step. [mm]
        finish: left for the last passes. [mm]
        spring: passes at full height.
    """
    found: list[float] = []
    rough = high - finish
    while len(found) < MOST_REPEATS and (not found or found[-1] < rough - NOTHING_MM):
        before = found[-1] if found else 0.0
        found.append(min(max(first * (len(found) + 1) ** 0.5, before + least), rough))
        if found[-1] <= before:
            break
    return found + [high] * spring


def one_block_depths(full: float, first: float, degression: float, spring: int) -> list[float]:
    """Return the depth of each pass of a thread in one block: J n^(1/R) until K, then some more.

    Args:
        full: K. [mm]
        first: J. [mm]
        degression: R, 1 for even steps.
        spring: H.
    """
    many = ceil((full / first) ** degression - NOTHING_MM)
    depths = [min(first * n ** (1 / degression), full) for n in range(1, max(many, 1) + 1)]
    return depths + [full] * spring
