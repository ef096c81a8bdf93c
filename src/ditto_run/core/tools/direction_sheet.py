"""The direction sheet: climb or conventional milling, by what drives the table, what the skin is, how the piece stands."""

from dataclasses import dataclass

from ditto_run.core.findings import Finding
from ditto_run.core.sheets import Answer, Entries, Entry, Grid, Known, SheetKind

SKINS = ("clean", "scale")
WALLS = ("stiff", "thin")


@dataclass(frozen=True, slots=True)
class Direction:
    """How a wall is milled.

    Args:
        climb: True where the teeth go with the feed.
        first_against: True where only the first pass goes against it.
    """

    climb: bool
    first_against: bool = False


def direction_of(*, dials: bool, scale: bool) -> Direction:
    """Return which way a wall is milled.

    Args:
        dials: True for screws with play: a machine that is worked by hand.
        scale: True for a rolled, forged, cast or flame-cut skin.

    Source:
        Common practice, no source.
    """
    return Direction(climb=not dials, first_against=scale and not dials)


def compute(entries: Entries, _known: Known) -> Answer:
    """Return the answer of the direction sheet.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    dials = entries.choice("control", ("control", "dials")) == "dials"
    scale = entries.choice("skin", SKINS) == "scale"
    thin = entries.choice("wall", WALLS) == "thin"
    found = direction_of(dials=dials, scale=scale)
    return Answer(
        "Conventional." if not found.climb else "Climb; the first pass conventional." if found.first_against else "Climb.",
        _why(found),
        grids=(_grid(),),
        findings=tuple(_findings(found, thin=thin)),
        result=found,
        source="common practice, no source",
    )  # fmt: skip


def _why(found: Direction) -> str:
    if not found.climb:
        return (
            "The screws have play, and a climbing cutter pulls the table through it. Others climb on a hand machine for the last "
            "hair of a finish, with the table lock dragging."
        )
    if found.first_against:
        return "Teeth that come from below break the skin off instead of meeting it. Others climb at once, with a tough grade."
    return (
        "The chip begins thick and ends thin: less rubbing, a better wall, longer life. Others finish soft stuff conventional, "
        "where a climbing cutter pulls itself in and cuts under size."
    )


def _grid() -> Grid:
    rows = (
        ("climb", "begins thick, ends at nothing", "down, and with the feed", "screws without play, a clean skin"),
        ("conventional", "begins at nothing, rubs first", "up, and against the feed", "play in the screws, scale, sand"),
    )  # fmt: skip
    return Grid("Both ways", ("Way", "The chip", "It pushes the piece", "Is for"), rows)


def _findings(found: Direction, *, thin: bool) -> list[Finding]:
    if found.climb or not thin:
        return []
    return [
        Finding(
            "tools",
            "note",
            "lifts-thin",
            "Conventional milling lifts a thin piece out of its jaws.",
            "Hold it down as well as sideways, take light cuts, feed toward the fixed jaw.",
        )
    ]


DIRECTION = SheetKind(
    "direction",
    "tools",
    "Climb or conventional",
    (
        Entry("control", "It is worked by", kind="choose", choices=("control", "dials")),
        Entry("skin", "Its skin", kind="choose", choices=SKINS),
        Entry("wall", "The piece", kind="choose", choices=WALLS),
    ),
    compute,
)
