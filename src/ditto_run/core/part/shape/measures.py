"""What follows from the part as it is described: envelope, volume, mass, slenderness, thinnest wall, faces there are."""

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal
from functools import lru_cache
from math import radians, tan

from ditto_run.core.part.faces import FACES, Form
from ditto_run.core.part.features.described import Named
from ditto_run.core.part.features.kinds import Role
from ditto_run.core.part.shape.block import block
from ditto_run.core.part.shape.body import Profile, Solid
from ditto_run.core.part.shape.laid import Lying, Shaped, known_mm
from ditto_run.core.part.shape.turned import turned
from ditto_run.core.part.shape.walls import Wall, thinnest_wall
from ditto_run.core.sheets import Knows

LEAST_FACE = 1.0  # a smaller one is none to locate or clamp on; own judgement. [mm²]


@dataclass(frozen=True)
class Measures:
    """What follows from a part's body.

    Args:
        size: along x, y and z; of a turned part length and twice the largest diameter. [mm]
        volume: [mm³]
        about: True where arcs across each other or broken edges make the volume one within 1 %.
        wall: the thinnest; None where nothing leaves one.
        slenderness: length over the least of the other two. [-]
        faces: those that are left, largest first.
        bores: of a turned part the diameters bored along its axis, an arbor may sit in. [mm]
        outline: of a turned part its outside from the free end, place and radius of each corner. [mm]
    """

    size: tuple[float, float, float]
    volume: float
    about: bool
    wall: Wall | None
    slenderness: float
    faces: tuple[str, ...]
    bores: tuple[float, ...] = ()
    outline: Profile = ()

    def mass_g(self, density: Decimal | float) -> float:
        """Return the mass, [g].

        Args:
            density: of the material. [g/cm³]
        """
        return self.volume / 1000 * float(density)


NOT_SAID: Measures | None = None
MEASURES = Knows("part", NOT_SAID)
"""What follows from the part's features; None while they do not say its size."""


def shape_part(features: Sequence[Named], form: Form) -> Shaped:
    """Return the part as its features describe it.

    Args:
        features: those that a line describes.
        form: block or turned.
    """
    return shape_of(features_key(features), form)


class _ByLine:
    """A feature to be told from others by its line: what it was read from is always the same."""

    def __init__(self, one: Named) -> None:
        self.one = one

    def __hash__(self) -> int:
        return hash((self.one.feature.kind, self.one.feature.pieces))

    def __eq__(self, other: object) -> bool:
        return isinstance(other, _ByLine) and self.one.feature == other.one.feature


FeaturesKey = tuple[tuple[int, str, _ByLine], ...]


def features_key(features: Sequence[Named]) -> FeaturesKey:
    """Return features as a key that stays the same while their lines do."""
    return tuple((one.key, one.name, _ByLine(one)) for one in features)


@lru_cache(maxsize=256)
def shape_of(features: FeaturesKey, form: Form) -> Shaped:
    """Return the part of features by their key.

    Args:
        features: from `features_key`.
        form: block or turned.
    """
    named = [Named(key, name, kept.one.feature) for key, name, kept in features]
    return turned(named) if form == "turned" else block(named)


def known_measures(features: Sequence[Named], form: Form) -> Measures | None:
    """Return what follows from a part, kept for as long as its lines stay the same; None while its size is not said.

    Args:
        features: those that a line describes.
        form: block or turned.
    """
    return _measured(features_key(features), form)


@lru_cache(maxsize=256)
def _measured(features: FeaturesKey, form: Form) -> Measures | None:
    return measure(shape_of(features, form), form)


def measure(shaped: Shaped, form: Form) -> Measures | None:
    """Return what follows from a part; None while its size is not said.

    Args:
        shaped: the part.
        form: block or turned.
    """
    body = shaped.body
    if body is None:
        return None
    edges = sum(_chamfered(one, body) for one in shaped.features) if form == "block" else 0.0
    curved = bool(body.profile and body.cuts) or edges > 0
    long, *rest = sorted(body.size, reverse=True) if form == "block" else body.size
    return Measures(
        body.size,
        body.volume() - edges,
        curved or any(c.axis != "z" and c.is_round for c in body.cuts),
        thinnest_wall(body),
        long / min(rest),
        faces_left(body, form),
        tuple(2 * min(r for _, r in one.inner) for one in shaped.features if one.inner),
        body.profile,
    )


def _chamfered(one: Lying, body: Solid) -> float:
    """What the chamfers of a block take away, [mm³]: half the square of their size along the edges they name."""
    if one.feature.kind not in {"chamfer", "broken edge"}:
        return 0.0
    size = known_mm(one.feature.sizes, Role.SIZE)
    if size is None:
        return 0.0
    angle = one.feature.sizes.get(Role.ANGLE)
    lean = tan(radians(float(angle.nominal_base) / 3600)) if angle is not None else 1.0
    x, y, z = body.size
    around = {
        "top": 2 * (x + y), "bottom": 2 * (x + y), "front": 2 * (x + z), "back": 2 * (x + z), "left": 2 * (y + z), "right": 2 * (y + z),
    }  # fmt: skip
    return size * size * lean / 2 * around.get(one.feature.face, 4 * (x + y + z))


def faces_left(body: Solid, form: Form) -> tuple[str, ...]:
    """Return the faces that are there to locate and clamp on, largest first.

    Args:
        body: the part.
        form: block or turned.
    """
    if form == "turned":
        return FACES["turned"][:3]
    areas = {
        face: body.section(axis, at).area  # type: ignore[arg-type]
        for face, axis, at in (
            ("left", "x", body.low[0] + 1e-6), ("right", "x", body.high[0] - 1e-6), ("front", "y", body.low[1] + 1e-6),
            ("back", "y", body.high[1] - 1e-6), ("bottom", "z", body.low[2] + 1e-6), ("top", "z", body.high[2] - 1e-6),
        )
    }  # fmt: skip
    return tuple(sorted((face for face, area in areas.items() if area > LEAST_FACE), key=lambda f: -areas[f]))
