"""Whether the features of a part fit into it and leave each other alone, as far as their lines say where they are."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import lru_cache
from math import hypot

from ditto_run.core.findings import Finding
from ditto_run.core.part.faces import Form
from ditto_run.core.part.features.described import ENDS, Named
from ditto_run.core.part.features.kinds import WHOLE, Role
from ditto_run.core.part.shape.bent import bent
from ditto_run.core.part.shape.block import NORMAL
from ditto_run.core.part.shape.body import AXES, FAR, FLAT, TINY, Prism, Solid, radius_at
from ditto_run.core.part.shape.boxes import gaps_of
from ditto_run.core.part.shape.laid import Lying, Shaped, known_mm
from ditto_run.core.part.shape.measures import FeaturesKey, features_key, shape_of
from ditto_run.core.part.shape.plane import Disc
from ditto_run.core.part.shape.walls import between
from ditto_run.core.units import LengthUnit, length_text, to_base

NAMES = ("length", "width", "height")


@dataclass(frozen=True, slots=True)
class Misfit:
    """What is wrong with one feature: a code, a sentence without its subject, a way out."""

    code: str
    problem: str
    remedy: str


def feature_findings(features: Sequence[Named], form: Form, unit: LengthUnit) -> list[Finding]:
    """Return what does not fit into the part, breaks out of it, or runs into another feature.

    Args:
        features: those that are described by a line.
        form: block or turned.
        unit: in which lengths are said.
    """
    return list(_found(features_key(features), form, unit))


@lru_cache(maxsize=256)
def _found(features: FeaturesKey, form: Form, unit: LengthUnit) -> tuple[Finding, ...]:
    shaped = shape_of(features, form)
    if shaped.body is None:
        return ()
    found = [
        Finding(
            "part",
            "ask",
            misfit.code,
            f"{one.name}: {misfit.problem}",
            misfit.remedy,
            f"feature {one.key}",
            f"{misfit.problem} {one.name}",
        )
        for one in shaped.features
        for misfit in _misfits(one, shaped.body, unit)
    ]
    bodies = _bodies(shaped, form, unit)
    return (*bodies, *found, *_meetings(shaped, form), *_not_cleaned(shaped, unit), *_too_close(shaped))


def _bodies(shaped: Shaped, form: Form, unit: LengthUnit) -> Iterator[Finding]:
    """A part that has its size twice, and one whose size is said in two units."""
    whole = [one for one in shaped.features if one.feature.kind == WHOLE[form]]
    if len(whole) > 1:
        names = " and ".join(one.name for one in whole)
        problem = (
            f"The size of the part is said {len(whole)} times: {names}; it is worked out with the first."
        )
        thing, ground = f"feature {whole[1].key}", " ".join(str(one.key) for one in whole)
        yield Finding("part", "ask", "size-twice", problem, "Take away the one that is wrong.", thing, ground)
    for one in whole[:1]:
        lengths = [size for size in one.feature.sizes.values() if size.kind in {"length", "diameter"}]
        odd = [size for size in lengths if size.unit != unit]
        if odd and len(odd) < len(lengths):
            said = f"{one.name}: {odd[0].text} stands beside sizes in {'inches' if unit == 'in' else 'millimetres'}."
            remedy = "Say the unit behind each size, or note that it is so."
            yield Finding("part", "ask", "size-mixed", said, remedy, f"feature {one.key}", odd[0].text)


def _misfits(one: Lying, body: Solid, unit: LengthUnit) -> Iterator[Misfit]:
    if body.profile:
        yield from _of_turned(one, body, unit)
        return
    seen: set[str] = set()
    for cut in one.cuts:
        if cut.keeps or not cut.shown:
            continue
        for misfit in _of_cut(cut, body, unit):
            if misfit.code not in seen:
                seen.add(misfit.code)
                yield misfit
    if one.feature.kind == "pocket":
        yield from _pocket(one, body, unit)


def _of_cut(cut: Prism, body: Solid, unit: LengthUnit) -> Iterator[Misfit]:
    index = AXES.index(cut.axis)
    thick = body.size[index]
    through = min(-cut.low, cut.high) > FAR / 2
    ends = cut.low <= body.low[index] + TINY and cut.high >= body.high[index] - TINY
    if ends and not through:
        deep = min(body.high[index] - cut.low, cut.high - body.low[index])
        yield Misfit(
            "feature-too-deep",
            f"{length_text(deep, unit)} deep, and the part is {length_text(thick, unit)} there.",
            "Say through, or check the depth.",
        )
    bounds, flat = cut.shape.bounds, [AXES.index(one) for one in FLAT[cut.axis]]
    for i, axis in enumerate(flat):
        low, high = bounds[i], bounds[i + 2]
        if high - low > FAR / 2:
            continue
        middle, long = (low + high) / 2, body.size[axis]
        if not -TINY <= middle <= long + TINY:
            yield Misfit(
                "feature-outside",
                f"it stands {length_text(middle, unit)} along {length_text(long, unit)} of {NAMES[axis]}: beside the part.",
                "Check the distance, and from which face it is.",
            )
        elif cut.is_round and not (low >= -TINY and high <= long + TINY):
            edge = min(middle, long - middle)
            yield Misfit(
                "feature-breaks-out",
                f"it breaks out of the side: {length_text(high - low, unit)} across, its middle {length_text(edge, unit)} from the edge.",
                "Check the distance, or let it stand where that is meant.",
            )
    yield from _of_outline(cut, body)


def _of_outline(cut: Prism, body: Solid) -> Iterator[Misfit]:
    """A cut through a plate of another outline than a rectangle."""
    index = AXES.index(cut.axis)
    keeper = next(
        (c for c in body.cuts if c.keeps and c.axis == cut.axis and c.high - c.low > body.size[index]), None
    )
    if keeper is None or not cut.is_round:
        return
    inside, mine = keeper.shape.polygon, cut.shape.polygon
    if not inside.intersects(mine):
        yield Misfit(
            "feature-outside", "it stands beside the part.", "Check the distance, and from which face it is."
        )
    elif not inside.buffer(1e-6).contains(mine):
        yield Misfit(
            "feature-breaks-out",
            "it breaks out of the outline.",
            "Check the distance, or let it stand where that is meant.",
        )


def _pocket(one: Lying, body: Solid, unit: LengthUnit) -> Iterator[Misfit]:
    """A pocket that is as large as its face whichever way it lies."""
    known = [known_mm(one.feature.sizes, role) for role in (Role.LENGTH, Role.WIDTH)]
    sides = sorted(side for side in known if side is not None)
    if one.feature.face not in NORMAL or len(sides) != len(known):
        return
    face = sorted(body.size[AXES.index(axis)] for axis in FLAT[NORMAL[one.feature.face][0]])
    if any(a >= b for a, b in zip(sides, face, strict=True)):
        said, whole = (" by ".join(length_text(x, unit) for x in pair) for pair in (sides, face))
        yield Misfit(
            "feature-too-large",
            f"it is {said}, and the face is {whole}.",
            "Check its sizes, or say step or slot.",
        )


def _of_turned(one: Lying, body: Solid, unit: LengthUnit) -> Iterator[Misfit]:
    whole, widest = body.size[0], body.high[1]
    reach = [z for z, _ in one.outer] + [
        x for cut in one.cuts for x in cut.box[0] if cut.axis != "x" and abs(x) < FAR / 2
    ]
    if reach and (min(reach) < -TINY or max(reach) > whole + TINY):
        over = max(-min(reach), max(reach) - whole)
        yield Misfit(
            "feature-outside",
            f"it runs {length_text(over, unit)} beyond the part, which is {length_text(whole, unit)} long.",
            "Check its length, and from which end it is.",
        )
    across = max((r for _, r in one.outer), default=0.0)
    if across > widest + TINY:
        yield Misfit(
            "feature-outside",
            f"it is {length_text(2 * across, unit)} across, and the body {length_text(2 * widest, unit)}.",
            "Check the two diameters.",
        )
    depth = known_mm(one.feature.sizes, Role.DEPTH)
    if one.feature.face in ENDS and depth is not None and depth >= whole - TINY:
        yield Misfit(
            "feature-too-deep",
            f"{length_text(depth, unit)} deep, and the part is {length_text(whole, unit)} long.",
            "Say through, or check the depth.",
        )
    thin = [(z, r) for z, r in one.inner if radius_at(body.profile, z) <= r + TINY and 0 <= z <= whole]
    if thin:
        z, r = thin[0]
        yield Misfit(
            "feature-breaks-out",
            f"it is {length_text(2 * r, unit)} across where the outside is {length_text(2 * radius_at(body.profile, z), unit)}.",
            "Check the diameters, or let it stand where that is meant.",
        )


def _meetings(shaped: Shaped, form: Form) -> Iterator[Finding]:
    """Features whose cuts meet, each pair once, and those of one that meet each other."""
    body = shaped.body
    if body is None:
        return
    flat = [(n, c) for n, one in enumerate(shaped.features) for c in one.cuts if c.shown and not c.keeps]
    met: dict[tuple[int, int], float] = {}
    for _, i, j in gaps_of([cut.box for _, cut in flat], TINY):
        (n, a), (m, b) = flat[i], flat[j]
        if (form == "turned" and (a.axis, a.turn) != (b.axis, b.turn)) or _nested(a, b):
            continue
        wall = between(body, a, b)
        if wall is not None and wall <= TINY:
            pair = (min(n, m), max(n, m))
            met[pair] = min(wall, met.get(pair, wall))
    for (n, m), wall in sorted(met.items()):
        one, other = shaped.features[n], shaped.features[m]
        how = "touch" if wall > -TINY else "run into each other"
        thing = f"feature {one.key}" if n == m else f"features {one.key} {other.key}"
        yield _meeting(one, other, how, thing, f" {wall:.4f}")


def _not_cleaned(shaped: Shaped, unit: LengthUnit) -> Iterator[Finding]:
    """Supplied holes that a hole made later in the same place does not clean up at their largest and farthest off."""
    supplied = [(one, c) for one in shaped.features if one.feature.supplied for c in one.cuts]
    made = [(one, c) for one in shaped.features if not one.feature.supplied for c in one.cuts]
    for one, hole in supplied:
        for other, cut in made:
            if not (isinstance(hole.shape, Disc) and isinstance(cut.shape, Disc)) or hole.axis != cut.axis:
                continue
            away = hypot(hole.shape.x - cut.shape.x, hole.shape.y - cut.shape.y)
            if away >= cut.shape.r:
                continue
            margin = cut.shape.r - away - hole.shape.r
            spread = _spread(one)
            if margin < spread - TINY:
                yield Finding(
                    "part",
                    "ask",
                    "supplied-not-cleaned",
                    f"{other.name} leaves {length_text(max(margin, 0.0), unit)} a side to clean up {one.name}, which comes within {length_text(spread, unit)}.",
                    "Have it supplied smaller, or dial each piece in.",
                    f"features {one.key} {other.key}",
                    f"{margin:.4f} {spread:.4f}",
                )


def _too_close(shaped: Shaped) -> Iterator[Finding]:
    """Bends whose arcs run into the one before, or beyond an end of the flat."""
    found = bent(shaped)
    names = {one.key: one.name for one in shaped.features}
    for key in found.short if found is not None else ():
        yield Finding(
            "part",
            "ask",
            "bend-too-close",
            f"{names[key]} has no straight part beside it: its arc runs into the one before, or beyond the end.",
            "Move it, or take a smaller radius.",
            f"feature {key}",
            names[key],
        )


def _spread(one: Lying) -> float:
    """How far a supplied hole may be from where it should be, on the side: half of its size's spread, [mm]."""
    size = one.feature.sizes.get(Role.DIAMETER)
    if size is None or size.lower is None or size.upper is None:
        return 0.0
    return float(to_base(size.upper - size.lower, size.unit)) / 2


def _meeting(one: Lying, other: Lying, how: str, thing: str, ground: str = "") -> Finding:
    names = f"The {one.feature.count} of {one.name}" if one is other else f"{one.name} and {other.name}"
    return Finding(
        "part",
        "ask",
        "features-touch",
        f"{names} {how}.",
        "Check where they stand, or let it stand where that is meant.",
        thing,
        f"{one.feature.pieces} {other.feature.pieces}{ground}",
    )


def _nested(one: Prism, other: Prism) -> bool:
    """True where one is meant to be in the other: a hole in a pocket's floor, a bolt's hole across a slit."""
    if one.axis == other.axis:
        if (
            one.face != other.face
            and one.face
            and other.face
            and min(one.high, other.high) < max(one.low, other.low)
        ):
            return False
        inside, around = one.shape.polygon, other.shape.polygon
        return bool(inside.buffer(TINY).contains(around) or around.buffer(TINY).contains(inside))
    shared = next(i for i, axis in enumerate(AXES) if axis not in {one.axis, other.axis})
    (a, b), (c, d) = one.box[shared], other.box[shared]
    return a <= (c + d) / 2 <= b or c <= (a + b) / 2 <= d
