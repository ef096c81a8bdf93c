"""What stands how high in a setup, and what is known of the jaws.

Heights are above what the parallels stand on: the bed of a vise, the face of a plate.
"""

from dataclasses import dataclass

from ditto_run.core.findings import Finding
from ditto_run.core.hold.pieces import InSetup
from ditto_run.core.hold.setup import Setup
from ditto_run.core.part.faces import OPPOSITE
from ditto_run.core.part.shape.block import NORMAL
from ditto_run.core.part.shape.body import AXES, Axis, Solid
from ditto_run.core.shop.steps_cut import JawStep

NEST, ANGLE_PLATE, FACE_PLATE, ARBOR = "nest", "angle plate", "face plate", "arbor"  # kinds of the register


@dataclass(frozen=True)
class Vise:
    """Two jaws as far as they are known.

    Args:
        high: top of the jaws above the bed; None while not known. [mm]
        wide: of the jaws; None for as wide as the piece. [mm]
        opens: the widest piece they take; None while not known. [mm]
        name: of the holder.
        steps: steps cut into the jaws.
        least: the smallest piece they take; None while not known. [mm]
        kind: of the holder, such as vise or vacuum; empty where neither the register nor its name says it.
    """

    high: float | None = None
    wide: float | None = None
    opens: float | None = None
    name: str = ""
    steps: tuple[JawStep, ...] = ()
    kind: str = ""
    least: float | None = None


@dataclass(frozen=True)
class Heights:
    """What stands how high in a setup, above the bed.

    Args:
        seat: where the piece sits: the parallels.
        jaw: top of the jaws; None where nothing is known of them.
        raw: top of the piece as it goes in.
        finished: top of it as it comes out.
        deepest: how deep the deepest tool reaches, its point below the seat counted; None where nothing is cut from above.
        deepest_name: the feature it makes.
        grip: how deep the jaws grip; None where nothing is known of them.
        floors: heights of the floor of each cut from above, by feature.
    """

    seat: float
    jaw: float | None
    raw: float
    finished: float
    deepest: float | None
    deepest_name: str
    grip: float | None
    floors: tuple[tuple[str, float], ...] = ()

    @property
    def stands(self) -> float | None:
        """What stands above the jaws as it goes in, [mm]."""
        return None if self.jaw is None else self.raw - self.jaw


@dataclass(frozen=True)
class Contact:
    """One setup as it is held.

    Args:
        piece: the piece in and out.
        up: face that is up.
        vise: the jaws.
        heights: None for a turned part, whose reach is along the axis.
        zone: of a turned part, from where to where along the axis the jaws grip; None while not known. [mm]
        findings: what is wrong or has to be asked.
        judged: True where sizes say what the jaws meet, so that names need not.
    """

    piece: InSetup
    up: str
    vise: Vise
    heights: Heights | None
    zone: tuple[float, float] | None
    findings: tuple[Finding, ...]
    judged: bool

    @property
    def lying(self) -> tuple[float, float, float]:
        """The piece as it goes in: along the jaws, across them, up; of a turned part along its axis and across it, [mm]."""
        if self.heights is None:
            return self.piece.before.size
        sizes = dict(zip(AXES, self.piece.before.size, strict=True))
        along, across, up = self.lying_axes
        return sizes[along], sizes[across], sizes[up]

    @property
    def lying_axes(self) -> tuple[Axis, Axis, Axis]:
        """The part's directions as it lies in the setup: along the jaws, across them, up."""
        up = NORMAL[self.up][0]
        across = jaw_axis(self.setup)
        if across is None or across == up:
            across = "y" if up != "y" else "z"
        along = next(axis for axis in AXES if axis not in {up, across})
        return along, across, up

    @property
    def setup(self) -> Setup:
        """The setup."""
        return self.piece.setup


def strap_box(before: Solid, face: str, reach_mm: float) -> tuple[list[float], list[float]]:
    """Return the stretch of a piece that a clamp at one of its faces reaches over: least and largest x, y and z, [mm].

    Args:
        before: the piece as it goes in.
        face: where the clamp stands.
        reach_mm: how far it reaches. [mm]
    """
    low, high = list(before.low), list(before.high)
    axis, inward = NORMAL[face]
    index = AXES.index(axis)
    if inward > 0:
        high[index] = low[index] + reach_mm
    else:
        low[index] = high[index] - reach_mm
    return low, high


def up_of(setup: Setup) -> str:
    """Return the face that is up: as said, else opposite to what the piece sits on, else the top."""
    seat = setup.locates_on[0] if setup.locates_on else ""
    found = setup.held.up or OPPOSITE.get(seat, "")
    return found if found in NORMAL else "top"


def walls_of(setup: Setup, kind: str) -> tuple[str, ...]:
    """Return the faces of the piece that the holder stands at: two of a vise, one of an angle plate, four of a nest.

    Args:
        setup: the setup.
        kind: of its holder.
    """
    through = NORMAL[up_of(setup)][0]
    beside = [face for face, (axis, _) in NORMAL.items() if axis != through]
    if kind == NEST:
        return tuple(beside)
    if kind == ANGLE_PLATE:
        against = [face for face in setup.locates_on[1:] if face in beside]
        pressed = [OPPOSITE[face] for face in setup.clamps_on if face in beside]
        return tuple((against or pressed)[:1])
    axis = jaw_axis(setup)
    return tuple(face for face in beside if NORMAL[face][0] == axis)


def jaw_axis(setup: Setup) -> Axis | None:
    """Return the direction two jaws press in; None where nothing of it is said."""
    pressed = next((face for face in setup.clamps_on if face in NORMAL), None)
    return None if pressed is None else NORMAL[pressed][0]
