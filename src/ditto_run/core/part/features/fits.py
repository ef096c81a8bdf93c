"""Whether the features of a block fit into it and leave each other alone, as far as their lines say where they are.

Straight boxes and circles on the six faces; what is not said is not judged.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from itertools import combinations
from math import hypot

from ditto_run.core.findings import Finding
from ditto_run.core.part.features.described import Described
from ditto_run.core.part.features.kinds import Role
from ditto_run.core.units import LengthUnit, length_text

AXES = {  # a face: what lies along it, across it, and behind it; and from which faces its places are counted
    "top": (Role.LENGTH, Role.WIDTH, Role.HEIGHT),
    "bottom": (Role.LENGTH, Role.WIDTH, Role.HEIGHT),
    "front": (Role.LENGTH, Role.HEIGHT, Role.WIDTH),
    "back": (Role.LENGTH, Role.HEIGHT, Role.WIDTH),
    "left": (Role.WIDTH, Role.HEIGHT, Role.LENGTH),
    "right": (Role.WIDTH, Role.HEIGHT, Role.LENGTH),
}
COUNTED = {
    "left": (Role.LENGTH, 1), "right": (Role.LENGTH, -1), "front": (Role.WIDTH, 1), "back": (Role.WIDTH, -1),
    "bottom": (Role.HEIGHT, 1), "top": (Role.HEIGHT, -1),
}  # fmt: skip
ROUND = {"hole", "bore", "tapped hole"}
TINY = 1e-9


@dataclass(frozen=True, slots=True)
class Named:
    """A feature with its key and name in the job."""

    key: int
    name: str
    feature: Described


def block_size(features: Sequence[Named]) -> dict[Role, float]:
    """Return length, width and height of the block as far as its outline says them, [mm]."""
    outline = next((one.feature for one in features if one.feature.kind == "outline"), None)
    if outline is None:
        return {}
    return {
        role: float(outline.sizes[role].nominal_base)
        for role in (Role.LENGTH, Role.WIDTH, Role.HEIGHT)
        if role in outline.sizes
    }


def feature_findings(features: Sequence[Named], unit: LengthUnit) -> list[Finding]:
    """Return what does not fit into the block, breaks out of it, or runs into another feature of its face.

    Args:
        features: those of a block that are described by a line. [mm or inch, as said]
        unit: in which lengths are said.
    """
    block = block_size(features)
    found = [
        Finding(
            "hold",
            "ask",
            code,
            f"{one.name}: {problem}",
            remedy,
            f"feature {one.key}",
            f"{problem} {one.name}",
        )
        for one in features
        if one.feature.face in AXES
        for code, problem, remedy in _misfits(one.feature, block, unit)
    ]
    return found + [
        Finding(
            "hold",
            "ask",
            "features-touch",
            f"{a.name} and {b.name} {'touch' if wall > -TINY else 'run into each other'} on the {a.feature.face}.",
            "Check where they stand, or let it stand where that is meant.",
            f"features {a.key} {b.key}",
            f"{a.name} {b.name} {wall:.4f}",
        )
        for (a, one), (b, other) in combinations([(f, disc(f.feature, block)) for f in features], 2)
        if one is not None and other is not None and a.feature.face == b.feature.face
        if (wall := wall_between(one, other)) <= TINY
    ]


Disc = tuple[float, float, float]
"""Where a round feature stands on its face, along and across it, and its radius. [mm]"""


def disc(feature: Described, block: dict[Role, float]) -> Disc | None:
    """Return the disc of one round feature, [mm]; None where it is not round, not one, or not known where it stands."""
    half = radius(feature)
    if half is None or feature.count > 1 or feature.face not in AXES:
        return None
    along, across, _ = AXES[feature.face]
    places = _places(feature, block)
    return (places[along], places[across], half) if {along, across} <= places.keys() else None


def wall_between(one: Disc, other: Disc) -> float:
    """Return the wall between two discs of one face, [mm]; below nought they overlap."""
    return hypot(one[0] - other[0], one[1] - other[1]) - one[2] - other[2]


def radius(feature: Described) -> float | None:
    """Return the largest radius of a round feature on its face, its counterbore too, [mm]; None where it is not round or not known."""
    if feature.kind not in ROUND:
        return None
    across = [feature.sizes.get(Role.DIAMETER), feature.sizes.get(Role.THREAD)]
    across += [own.get(Role.DIAMETER) for own in feature.parts.values()]
    known = [float(size.nominal_base) / 2 for size in across if size is not None]
    return max(known, default=None)


def _places(feature: Described, block: dict[Role, float]) -> dict[Role, float]:
    """Where it stands, counted from left, front and bottom, [mm]."""
    found: dict[Role, float] = {}
    flat = AXES[feature.face][:2]
    for at in feature.places:
        if at.distance is None:
            found |= {role: block[role] / 2 for role in flat if role in block}
            continue
        if at.face not in COUNTED or COUNTED[at.face][0] not in flat:
            continue
        role, sign = COUNTED[at.face]
        away = float(at.distance.nominal_base)
        if sign > 0:
            found[role] = away
        elif role in block:
            found[role] = block[role] - away
    return found


def _misfits(
    feature: Described, block: dict[Role, float], unit: LengthUnit
) -> Iterator[tuple[str, str, str]]:
    *flat, behind = AXES[feature.face]
    depth = feature.sizes.get(Role.DEPTH)
    if depth is not None and behind in block and float(depth.nominal_base) >= block[behind] - TINY:
        yield (
            "feature-too-deep",
            f"{length_text(depth.nominal_base, unit)} deep, and the part is {length_text(block[behind], unit)} there.",
            "Say through, or check the depth.",
        )
    half = radius(feature) if feature.count == 1 else None
    for role, at in _places(feature, block).items():
        if role not in block:
            continue
        if not -TINY <= at <= block[role] + TINY:
            yield (
                "feature-outside",
                f"it stands {length_text(at, unit)} along {length_text(block[role], unit)} of {role}: beside the part.",
                "Check the distance, and from which face it is.",
            )
        elif half is not None and not half - TINY <= at <= block[role] - half + TINY:
            yield (
                "feature-breaks-out",
                f"it breaks out of the side: {length_text(2 * half, unit)} across, {length_text(min(at, block[role] - at), unit)} from the edge.",
                "Check the distance, or let it stand where that is meant.",
            )
    if feature.kind == "pocket":
        yield from _pocket(feature, [block[role] for role in flat if role in block], unit)


def _pocket(feature: Described, face: list[float], unit: LengthUnit) -> Iterator[tuple[str, str, str]]:
    """A pocket that is as large as its face whichever way it lies."""
    sides = sorted(
        float(feature.sizes[role].nominal_base) for role in (Role.LENGTH, Role.WIDTH) if role in feature.sizes
    )
    if len(face) == len(sides) == 2 and any(a >= b for a, b in zip(sides, sorted(face), strict=True)):  # noqa: PLR2004
        said, whole = (" by ".join(length_text(x, unit) for x in pair) for pair in (sides, sorted(face)))
        yield (
            "feature-too-large",
            f"it is {said}, and the face is {whole}.",
            "Check its sizes, or say step or slot.",
        )
