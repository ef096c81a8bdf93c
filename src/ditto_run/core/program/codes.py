"""Which codes are known in a dialect, and which of them are of one group."""

from collections.abc import Iterable
from dataclasses import dataclass
from functools import lru_cache

from ditto_run.core.program.cycles import HOLES
from ditto_run.core.program.dialect import Meanings

PLAIN_OFFSETS = ("54", "55", "56", "57", "58", "59")
FINE_OFFSETS = ("59.1", "59.2", "59.3")
MOST_EXTENDED = 300
STRAIGHT = frozenset({"0", "1"})
ARCS = frozenset({"2", "3"})
LATHE_A = {"90": "A90", "92": "A92", "94": "A94"}
NOT_FOLLOWED = frozenset({"70", "71", "72", "73", "74", "75", "65", "66", "67"})
AXIS_USERS = frozenset({"10", "28", "30", "92", "52", "4", "50"})
"""Codes that take the axis words of their block for themselves."""
KNOWN_M = frozenset({"0", "1", "2", "3", "4", "5", "6", "7", "8", "9", "30", "60", "99"})
ENDS = frozenset({"2", "30", "99"})
STOPS = frozenset({"0", "1", "60"})
GROUPS: tuple[frozenset[str], ...] = (
    frozenset({"17", "18", "19"}),
    frozenset({"20", "21", "70", "71"}),
    frozenset({"40", "41", "42"}),
    frozenset({"43", "43.1", "49"}),
    frozenset({*PLAIN_OFFSETS, *FINE_OFFSETS, "54.1"}),
    frozenset({"90.1", "91.1"}),
    frozenset({"96", "97"}),
)
PLAIN_GROUPS = (frozenset({"90", "91"}), frozenset({"93", "94", "95"}), frozenset({"98", "99"}))
A_GROUPS = (frozenset({"98", "99"}),)


@lru_cache(maxsize=32)
def motions(dialect: Meanings) -> frozenset[str]:
    """Return the codes of the group of motions, as they are written."""
    found = {"0", "1", "2", "3", "80"}
    if dialect.codes == "A":
        return frozenset(found | {"32", "76", *LATHE_A})
    holes = set(HOLES) - ({"76"} if dialect.g76 != "fine bore" else set())
    if dialect.turns:
        holes -= {"74", "76"}
        found |= {"33"} | ({"76"} if dialect.g76 == "one block" else set())
    return frozenset(found | holes | {"33"})


@lru_cache(maxsize=32)
def known_g(dialect: Meanings) -> frozenset[str]:
    """Return the codes that are understood."""
    units = {"20", "21"} if dialect.units == "G20/G21" else {"70", "71"}
    found = {"4", "10", "17", "18", "19", "28", "30", "40", "41", "42", "53", "61", "64", *PLAIN_OFFSETS}
    found |= units | motions(dialect) | {"96", "97", "98", "99"}
    if dialect.codes == "A":
        return frozenset(found | {"50"})
    found |= {"90", "91", "90.1", "91.1", "92", "92.1", "92.2", "92.3", "93", "94", "95", "43", "49", "52"}
    found |= (
        {"7", "8"}
        if dialect.turns
        else {"43.1", "61.1", "64.1", "54.1"}
        if dialect.l20 == "extended"
        else {"43.1", "61.1"}
    )
    return frozenset(found | set(FINE_OFFSETS) if dialect.fine else found)


@dataclass(frozen=True, slots=True)
class CodesMean:
    """What the codes of a block mean; each the last of its group, empty where there is none.

    Args:
        clash: two of one group.
        two_motions: and both are motions.
        unknown: G and M codes that are not understood, with their letter.
        not_followed: of them those that stand for moves which are not followed.
        units, feed_mode, held, plane, wear, length, distance, centres, level, offset, own, motion, diameter: codes of their groups.
        switches: whether it has M codes.
        turns: M3, M4 or M5.
        stops, end: M codes that stop or end.
        own: code that takes the axis words for itself.
        machine: G53 stands in it.
        dwells: G4 stands in it.
        clears: G92.1 or G92.2 stands in it.
        plain: it says a straight move or an arc and nothing else.
    """

    clash: bool
    two_motions: bool
    unknown: tuple[str, ...]
    not_followed: bool
    units: str
    feed_mode: str
    held: str
    plane: str
    wear: str
    length: str
    distance: str
    centres: str
    level: str
    offset: str
    own: str
    motion: str
    diameter: str
    switches: bool
    turns: str
    stops: tuple[str, ...]
    end: str
    machine: bool
    dwells: bool
    clears: bool
    plain: bool


@lru_cache(maxsize=4096)
def meant(g: tuple[str, ...], m: tuple[str, ...], dialect: Meanings) -> CodesMean:
    """Return what the codes of a block mean.

    Args:
        g: its G codes.
        m: its M codes.
        dialect: table of meanings.
    """
    a, known = dialect.codes == "A", known_g(dialect)
    clash, two_motions = _clashes(g, dialect)
    unknown = [f"G{one}" for one in g if one not in known and f"G{one}" not in dialect.known]
    lost = any(one in NOT_FOLLOWED and one not in known for one in g) or bool({"98", "97", "198"} & set(m))
    unknown += [f"M{one}" for one in m if one not in KNOWN_M and f"M{one}" not in dialect.known]
    motion = last_of(g, motions(dialect))
    if motion == "80" and STRAIGHT & set(g):
        motion = last_of(g, STRAIGHT)
    own = last_of(g, AXIS_USERS)
    offset = last_of(g, (*PLAIN_OFFSETS, *FINE_OFFSETS, "54.1"))
    return CodesMean(
        clash,
        two_motions,
        tuple(unknown),
        lost,
        last_of(g, ("20", "21") if dialect.units == "G20/G21" else ("70", "71")),
        last_of(g, ("98", "99") if a else ("93", "94", "95")),
        last_of(g, ("96", "97")),
        last_of(g, ("17", "18", "19")),
        last_of(g, ("41", "42")),
        last_of(g, ("43", "43.1", "49")),
        "" if a else last_of(g, ("90", "91")),
        "" if a else last_of(g, ("90.1", "91.1")),
        "" if a else last_of(g, ("98", "99")),
        offset if offset in known else "",
        "" if a and own == "92" else own,
        motion,
        last_of(g, ("7", "8")) if dialect.turns and not a else "",
        bool(m),
        last_of(m, ("3", "4", "5")),
        tuple(one for one in m if one in STOPS),
        last_of(m, ENDS),
        "53" in g,
        "4" in g,
        bool({"92.1", "92.2"} & set(g)),
        len(g) == 1 and g[0] in STRAIGHT | ARCS and not m,
    )


def _clashes(g: tuple[str, ...], dialect: Meanings) -> tuple[bool, bool]:
    """Whether two codes of one group stand in a block, and whether both are motions; G80 beside G0 or G1 is usual."""
    moving = [one for one in g if one in motions(dialect)]
    if "80" in moving and len(moving) == 2 and STRAIGHT & set(moving):  # noqa: PLR2004 - the pair
        moving.remove("80")
    two_motions = len(set(moving)) > 1
    groups = GROUPS + (A_GROUPS if dialect.codes == "A" else PLAIN_GROUPS)
    return two_motions or any(len(set(g) & group) > 1 for group in groups), two_motions


def last_of(codes: Iterable[str], group: Iterable[str]) -> str:
    """Return the last code of a group; empty where there is none."""
    wanted = set(group)
    return next((one for one in reversed([*codes]) if one in wanted), "")
