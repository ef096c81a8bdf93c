"""What features there are: the words for each, its sizes in the order in which they are said, and what has to be known of it."""

from dataclasses import dataclass
from enum import StrEnum

from ditto_run.core.part.faces import Form


class Role(StrEnum):
    """What a size of a feature is."""

    DIAMETER = "diameter"
    WIDTH = "width"
    LENGTH = "length"
    DEPTH = "depth"
    HEIGHT = "height"
    RADIUS = "radius"
    ANGLE = "angle"
    ACROSS = "across flats"
    THREAD = "thread"
    SIZE = "size"
    PITCH = "pitch"
    BOTTOM = "bottom diameter"


@dataclass(frozen=True, slots=True)
class ShopKind:
    """A kind of feature.

    Args:
        name: what we call it; it reads back.
        words: what else it is called, the plural of each too.
        order: its sizes in the order in which they are said where nothing says which is which.
        wants: those that have to be known.
        forms: on which parts it stands.
        through: it may go through instead of having a depth.
        placed: it stands somewhere on its face, which has to be said.
        faces: it lies on a face, which has to be said.
    """

    name: str
    words: tuple[str, ...]
    order: tuple[Role, ...]
    wants: tuple[Role, ...]
    forms: tuple[Form, ...] = ("block", "turned")
    through: bool = False
    placed: bool = True
    faces: bool = True


R = Role
BLOCK: tuple[Form, ...] = ("block",)
TURNED: tuple[Form, ...] = ("turned",)
KINDS: dict[str, ShopKind] = {
    kind.name: kind
    for kind in (
        ShopKind("hole", ("drilled hole",), (R.DIAMETER, R.DEPTH), (R.DIAMETER, R.DEPTH), through=True),
        ShopKind(
            "bore", ("bored hole", "reamed hole"), (R.DIAMETER, R.DEPTH), (R.DIAMETER, R.DEPTH), through=True
        ),
        ShopKind("tapped hole", ("tap", "tapped"), (R.THREAD, R.DEPTH), (R.THREAD, R.DEPTH), through=True),
        ShopKind(
            "cross hole",
            ("cross drilled hole",),
            (R.DIAMETER, R.DEPTH),
            (R.DIAMETER, R.DEPTH),
            through=True,
            faces=False,
        ),
        ShopKind("centre hole", ("center hole", "centre drill"), (R.DIAMETER,), (), TURNED, placed=False),
        ShopKind("face", ("facing",), (R.HEIGHT,), (), placed=False),
        ShopKind("step", ("rebate",), (R.WIDTH, R.DEPTH, R.LENGTH), (R.WIDTH, R.DEPTH), BLOCK),
        ShopKind(
            "outline",
            ("profile", "block", "plate"),
            (R.LENGTH, R.WIDTH, R.HEIGHT),
            (R.LENGTH, R.WIDTH),
            BLOCK,
            placed=False,
            faces=False,
        ),
        ShopKind(
            "body",
            ("overall",),
            (R.DIAMETER, R.LENGTH),
            (R.DIAMETER, R.LENGTH),
            TURNED,
            placed=False,
            faces=False,
        ),
        ShopKind(
            "pocket",
            ("cavity",),
            (R.LENGTH, R.WIDTH, R.DEPTH),
            (R.LENGTH, R.WIDTH, R.DEPTH),
            BLOCK,
            through=True,
        ),
        ShopKind(
            "slot", ("keyway",), (R.WIDTH, R.DEPTH, R.LENGTH), (R.WIDTH, R.DEPTH, R.LENGTH), through=True
        ),
        ShopKind("slit", ("saw cut",), (R.WIDTH, R.DEPTH), (R.WIDTH, R.DEPTH), through=True),
        ShopKind("chamfer", (), (R.SIZE, R.ANGLE), (R.SIZE,), placed=False, faces=False),
        ShopKind(
            "broken edge", ("break edge", "edge break"), (R.SIZE,), (R.SIZE,), placed=False, faces=False
        ),
        ShopKind(
            "shoulder",
            ("turned diameter", "turn", "stem", "shank", "journal", "spigot"),
            (R.DIAMETER, R.LENGTH),
            (R.DIAMETER, R.LENGTH),
            TURNED,
            placed=False,
            faces=False,
        ),
        ShopKind(
            "taper",
            (),
            (R.ANGLE, R.DIAMETER, R.LENGTH),
            (R.ANGLE, R.DIAMETER, R.LENGTH),
            TURNED,
            placed=False,
            faces=False,
        ),
        ShopKind("groove", (), (R.WIDTH, R.BOTTOM), (R.WIDTH, R.BOTTOM), TURNED, faces=False),
        ShopKind("undercut", ("relief",), (R.WIDTH, R.BOTTOM), (R.WIDTH, R.BOTTOM), TURNED, faces=False),
        ShopKind(
            "outside thread", ("thread", "threaded"), (R.THREAD, R.LENGTH), (R.THREAD, R.LENGTH), placed=False
        ),
        ShopKind("knurl", ("knurled",), (R.LENGTH, R.PITCH), (R.LENGTH,), TURNED, faces=False),
        ShopKind("part off", ("parting off", "cut off"), (R.LENGTH,), (), TURNED, placed=False, faces=False),
        ShopKind("flat", (), (R.WIDTH, R.LENGTH), (R.WIDTH,)),
        ShopKind("hexagon", ("hex",), (R.ACROSS, R.LENGTH), (R.ACROSS,), placed=False, faces=False),
        ShopKind("square", (), (R.ACROSS, R.LENGTH), (R.ACROSS,), placed=False, faces=False),
        ShopKind("bend", (), (R.ANGLE, R.RADIUS), (R.ANGLE, R.RADIUS), BLOCK, faces=False),
        ShopKind("by hand", (), (), (), placed=False, faces=False),
    )
}
MAIN_SIZE: dict[str, Role] = {kind.name: kind.order[0] for kind in KINDS.values() if kind.order}
"""The size that a feature is named by."""

BY_HAND = (
    "weld",
    "braze",
    "solder",
    "press in",
    "glue",
    "deburr",
    "file",
    "polish",
    "stamp",
    "mark",
    "engrave",
    "fit",
)
"""Words that begin what is done by hand and only said."""


WHOLE = {"block": "outline", "turned": "body"}
"""The kind that says how large the part is, by its form."""


def kind_words() -> dict[str, str]:
    """Return every word for a kind, plurals too, and the kind it names."""
    found: dict[str, str] = {}
    for kind in KINDS.values():
        if kind.name != "by hand":
            for word in (kind.name, *kind.words):
                found[word] = found[plural(word)] = kind.name
    return found


def plural(word: str) -> str:
    """Return the plural as it is said."""
    return (
        word
        if word.endswith(("ed", "off", "tap", "turn", "outside"))
        else word + ("es" if word.endswith("x") else "s")
    )
