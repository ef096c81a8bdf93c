"""A feature as it was said: what is known of it, what is not, and how each piece of the line was read."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Literal

from ditto_run.core.part.features.corners import Corners
from ditto_run.core.part.features.kinds import KINDS, Role
from ditto_run.core.sizes import Size

ENDS = ("free end", "chuck end")
SPREAD = {"both ends", "both sides", "all round"}  # extents that say how several stand to each other
Extent = Literal["", "full length", "full width", "all round", "both ends", "both sides", "round ends"]
Run = Literal["", "length", "width", "height"]
Arrangement = Literal["line", "grid", "circle"]


@dataclass(frozen=True, slots=True)
class Arranged:
    """How several alike stand to each other.

    Args:
        arrangement: line, grid or circle.
        by: spacing of the line, the two of the grid, or the diameter of the circle.
    """

    arrangement: Arrangement
    by: tuple[Size, ...]


@dataclass(frozen=True, slots=True)
class At:
    """Where it stands: so far from a face; with no face, from where the part is counted from; with neither, in the middle."""

    distance: Size | None
    face: str = ""


@dataclass(frozen=True, slots=True)
class ReadPiece:
    """A piece of the line: as typed, as read, and what it is taken for."""

    typed: str
    read: str
    word: str


@dataclass(frozen=True, slots=True)
class Described:
    """A feature.

    Args:
        kind: its name in `KINDS`; empty where it was not said and does not follow.
        count: how many alike.
        sizes: by what each is.
        through: it goes through.
        face: the face it lies on; empty where it was not said.
        extent: full length, all round, both ends, round ends …
        open_at: the face it is open towards; a step runs along it.
        run: which way a row of several, or a slot, lies.
        places: where it stands.
        pattern: how several stand to each other.
        parts: what belongs to it, such as its counterbore: word and sizes.
        geometry: what the drawing says of form and position.
        words: what is done by hand, as said.
        corners: of an outline or a turned body, where the line says them.
        called: the name it is given, where the line begins with one.
        turn: how far round the axis of a turned part it stands; None for the top.
        supplied: True if it is there when the blank comes; its limits are then the spread it comes with.
        pieces: the line piece by piece.
    """

    kind: str
    count: int = 1
    sizes: Mapping[Role, Size] = field(default_factory=dict)
    through: bool = False
    face: str = ""
    extent: Extent = ""
    open_at: str = ""
    run: Run = ""
    places: tuple[At, ...] = ()
    pattern: Arranged | None = None
    parts: Mapping[str, Mapping[Role, Size]] = field(default_factory=dict)
    geometry: tuple[Size, ...] = ()
    words: str = ""
    corners: Corners | None = None
    called: str = ""
    supplied: bool = False
    pieces: tuple[ReadPiece, ...] = ()
    turn: Size | None = None

    @property
    def open(self) -> tuple[str, ...]:
        """What has to be asked: what was not said and does not follow."""
        if not self.kind:
            return ("what it is",)
        kind = KINDS[self.kind]
        sides = {Role.LENGTH: "full length", Role.WIDTH: "full width"}
        wanted = [
            str(role)
            for role in kind.wants
            if role not in self.sizes
            and not (role is Role.DEPTH and self.through)
            and sides.get(role) != self.extent
            and not (role is Role.LENGTH and self.kind in {"slot", "slit"} and self.face in ENDS)  # across it
            and not (role is Role.BOTTOM and Role.DEPTH in self.sizes)
            and not (
                self.corners
                or (
                    self.kind in {"outline", "pocket"}
                    and Role.DIAMETER in self.sizes
                    and role is not Role.DEPTH
                )
            )
        ]
        if "depth" in wanted and kind.through:
            wanted[wanted.index("depth")] = "how deep, or through"
        if kind.faces and not self.face and self.extent not in SPREAD:
            wanted.append("on which face")
        if self.count > 1 and self.pattern is None and self.extent not in SPREAD:
            wanted.append("how they stand to each other")
        if (
            kind.placed
            and not self.places
            and not self.open_at
            and not self.extent
            and not (self.pattern and self.pattern.arrangement == "circle")
            and not (self.count == 1 and self.face in ENDS)  # on the axis
        ):
            wanted.append("where")
        return tuple(wanted)


@dataclass(frozen=True, slots=True)
class Named:
    """A feature with its key and name in the job."""

    key: int
    name: str
    feature: Described
