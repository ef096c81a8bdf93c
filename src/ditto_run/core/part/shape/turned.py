"""A turned part from its features: its outside and what is bored along its axis as profiles, milled cuts beside them."""

from collections.abc import Sequence
from dataclasses import replace
from functools import reduce
from math import cos as cosine
from math import pi, radians, sin, sqrt, tan

from ditto_run.core.part.features.described import ENDS, Described, Named
from ditto_run.core.part.features.kinds import Role
from ditto_run.core.part.shape.body import (
    FAR,
    Prism,
    Profile,
    Solid,
    higher_of,
    lower_of,
    radius_at,
    turned_by,
)
from ditto_run.core.part.shape.holes import ROUND, bored, depth_of, radii, spots_of
from ditto_run.core.part.shape.laid import POINT, Lying, NotSaid, Shaped, known_mm, mm, of_kind
from ditto_run.core.part.shape.plane import Contour, Oblong, Shape

OUTSIDE = {"shoulder", "taper", "groove", "undercut", "outside thread"}
CHAMFERS = {"chamfer", "broken edge"}
SIDED = {"hexagon": 6, "square": 4}
FREE, CHUCK = ENDS


def turned(features: Sequence[Named]) -> Shaped:
    """Return a turned part as its features describe it.

    Args:
        features: those that a line describes.

    Source:
        Own derivation. Distances are from the free end where no other end is named; a taper's diameter is its larger
        end and its angle the whole one.
    """
    profile, missing = _whole(features)
    if not profile:
        return Shaped(None, tuple(Lying(f.key, f.name, f.feature) for f in features), missing)
    long, r = profile[-1][0], max(r for _, r in profile)
    first = [_lay(one, profile) for one in features if one.feature.kind not in CHAMFERS]
    outside = reduce(lower_of, (one.outer for one in first if one.outer), profile)
    bare: Profile = ()
    inside = reduce(higher_of, (one.inner for one in first if one.inner), bare)
    edges = [_edges(one, outside) for one in features if one.feature.kind in CHAMFERS]
    outside = reduce(lower_of, (one.outer for one in edges if one.outer), outside)
    milled = [_mill(one, outside) for one in first]
    by_key = {one.key: one for one in (*milled, *edges)}
    laid = tuple(by_key[one.key] for one in features)
    cuts = tuple(cut for one in laid for cut in one.cuts)
    return Shaped(Solid((0.0, -r, -r), (long, r, r), cuts, outside, inside), laid, missing)


def _whole(features: Sequence[Named]) -> tuple[Profile, tuple[str, ...]]:
    """The outside before its features; empty with what has to be said."""
    body = of_kind(features, "body")
    if body is not None and body.feature.corners is not None:
        spots = body.feature.corners.mm
        start = spots[0][0]
        return tuple((z - start, across / 2) for z, across in spots), ()
    sizes = body.feature.sizes if body is not None else {}
    across, long = known_mm(sizes, Role.DIAMETER), known_mm(sizes, Role.LENGTH)
    if across is None:
        said = [f.feature.sizes for f in features if f.feature.kind in OUTSIDE]
        found = [
            d for s in said for role in (Role.DIAMETER, Role.THREAD) if (d := known_mm(s, role)) is not None
        ]
        across = max(found, default=None)
    long = long if long is not None else _long(features)
    missing = [
        what for what, known in (("largest diameter", across), ("whole length", long)) if known is None
    ]
    if across is None or long is None:
        return (), (f"{' and '.join(missing)}: say body Ø20 x 86",)
    return ((0.0, across / 2), (long, across / 2)), ()


def _long(features: Sequence[Named]) -> float | None:
    """The length where no body says it: where it is parted off, else the farthest end measured from the free end."""
    off = of_kind(features, "part off")
    if off is not None:
        places = [float(p.distance.nominal_base) for p in off.feature.places if p.distance is not None]
        said = known_mm(off.feature.sizes, Role.LENGTH)
        return said if said is not None else places[0] if places else None
    ends = []
    for one in features:
        if one.feature.kind not in OUTSIDE:
            continue
        if one.feature.face == CHUCK:
            return None
        try:
            ends.append(_stretch(one.feature, 0.0)[1])
        except NotSaid:
            continue
    return max(ends, default=None)


def _stretch(feature: Described, whole: float) -> tuple[float, float]:
    """From where to where it lies along the axis, [mm]."""
    role = Role.WIDTH if feature.kind in {"groove", "undercut"} else Role.LENGTH
    if feature.extent == "full length":
        return 0.0, whole
    long = mm(feature.sizes, role)
    place = next((p for p in feature.places if p.distance is not None), None)
    end = place.face if place is not None and place.face in ENDS else feature.face
    away = float(place.distance.nominal_base) if place is not None and place.distance is not None else None
    if away is None and role is Role.WIDTH:
        raise NotSaid("where")
    away = away or 0.0
    return (whole - away - long, whole - away) if end == CHUCK else (away, away + long)


def _lay(one: Named, profile: Profile) -> Lying:
    """What one feature leaves of the outside, or bores out; the rest waits for the outside to be known."""
    feature, plain = one.feature, Lying(one.key, one.name, one.feature)
    try:
        if feature.kind == "body":
            return replace(plain, outer=profile)
        if feature.kind in OUTSIDE:
            return replace(plain, outer=_outer(feature, profile))
        if feature.kind in ROUND and feature.face in ENDS and feature.count == 1 and _on_axis(feature):
            return replace(plain, inner=_inner(feature, profile[-1][0]))
    except NotSaid as asked:
        return replace(plain, missing=asked.what)
    return plain


def _on_axis(feature: Described) -> bool:
    return all(place.distance is None for place in feature.places)


def _outer(feature: Described, profile: Profile) -> Profile:
    a, b = _stretch(feature, profile[-1][0])
    if feature.kind == "taper":
        large = mm(feature.sizes, Role.DIAMETER) / 2
        angle = feature.sizes.get(Role.ANGLE)
        small = known_mm(feature.sizes, Role.BOTTOM)
        if angle is None and small is None:
            raise NotSaid("angle")
        drop = (b - a) * tan(radians(float(angle.nominal_base) / 3600 / 2)) if angle is not None else 0.0
        least = small / 2 if small is not None else large - drop
        return ((a, large), (b, least)) if feature.face == CHUCK else ((a, least), (b, large))
    if feature.kind in {"groove", "undercut"}:
        bottom = known_mm(feature.sizes, Role.BOTTOM)
        if bottom is None:
            bottom = 2 * (radius_at(profile, (a + b) / 2) - depth_of(feature))
        return (a, bottom / 2), (b, bottom / 2)
    across = known_mm(feature.sizes, Role.DIAMETER)
    if across is None:
        across = mm(feature.sizes, Role.THREAD)
    return (a, across / 2), (b, across / 2)


def _inner(feature: Described, whole: float) -> Profile:
    """A hole on the axis with what belongs to it, from its end, [mm]."""
    r, _ = radii(feature)
    depth = min(depth_of(feature), whole)
    found: Profile = ((0.0, r), (depth, r))
    for part, sizes in feature.parts.items():
        across, deep = known_mm(sizes, Role.DIAMETER), known_mm(sizes, Role.DEPTH)
        if across is None or part == "drill":
            continue
        if part == "countersink":
            angle = sizes.get(Role.ANGLE)
            half = float(angle.nominal_base) / 3600 / 2 if angle is not None else 45.0
            found = higher_of(((0.0, across / 2), ((across / 2 - r) / tan(radians(half)), r)), found)
        elif deep is not None:
            found = higher_of(((0.0, across / 2), (deep, across / 2)), found)
    if feature.face == CHUCK:
        found = tuple((whole - z, radius) for z, radius in reversed(found))
    return found


def tip_of(one: Lying) -> float:
    """Return how far the point of a drill runs on beyond a hole on the axis, [mm]."""
    feature = one.feature
    if not one.inner or feature.kind == "bore" or feature.through:
        return 0.0
    return 2 * radii(feature)[0] * POINT


def _edges(one: Named, outside: Profile) -> Lying:
    """A chamfer on the ends it names, or on both."""
    feature, plain = one.feature, Lying(one.key, one.name, one.feature)
    size = known_mm(feature.sizes, Role.SIZE)
    if size is None:
        return replace(plain, missing=("size",))
    angle = feature.sizes.get(Role.ANGLE)
    along = size * (tan(radians(float(angle.nominal_base) / 3600)) if angle is not None else 1.0)
    whole, found = outside[-1][0], []
    for end in [feature.face] if feature.face in ENDS else ENDS:
        r = radius_at(outside, 0.0 if end == FREE else whole)
        if r <= size:
            return replace(plain, missing=(f"a chamfer that leaves something of Ø{2 * r:g}",))
        piece = ((0.0, r - size), (along, r))
        found.append(piece if end == FREE else tuple((whole - z, x) for z, x in reversed(piece)))
    if len(found) > 1:
        low, high = found
        flat = max(radius_at(outside, low[1][0]), radius_at(outside, high[0][0]), *(r for _, r in outside))
        return replace(plain, outer=(*low, (low[1][0], flat), (high[0][0], flat), *high))
    return replace(plain, outer=tuple(found[0]))


def _mill(laid: Lying, outside: Profile) -> Lying:
    """Add what is milled into it: cross holes, flats, hexagons, slots, holes beside the axis."""
    feature = laid.feature
    one = Named(laid.key, laid.name, feature)
    if laid.is_placed or laid.missing:
        return laid
    try:
        cuts = _cuts(one, outside)
    except NotSaid as asked:
        return replace(laid, missing=asked.what)
    return replace(laid, cuts=tuple(cuts))


def _cuts(one: Named, outside: Profile) -> list[Prism]:
    feature, whole = one.feature, outside[-1][0]
    if feature.kind in ROUND:
        return _holes(one, outside)
    if feature.kind in SIDED:
        a, b = (0.0, whole) if Role.LENGTH not in feature.sizes else _stretch(feature, whole)
        return [Prism(one.key, one.name, "x", _sided(feature), a, b, feature.face, keeps=True)]
    if feature.kind == "flat":
        return _all_round(feature, _flats(one, outside))
    if feature.kind in {"slot", "slit"}:
        return _slots(one, outside)
    return []


def _turns(feature: Described, whole: float = 360) -> list[float]:
    """How far round each of several stands, from the top, [degrees]; evenly over the whole, half of it for what runs across."""
    first = float(feature.turn.nominal_base) / 3600 if feature.turn is not None else 0.0
    if feature.count == 1 or feature.extent != "all round":
        return [first]
    return [first + whole * i / feature.count for i in range(feature.count)]


def _all_round(feature: Described, cuts: Sequence[Prism]) -> list[Prism]:
    """Cuts at the top, once for each place round the axis."""
    return [replace(cut, turn=turn % 360) for turn in _turns(feature) for cut in cuts]


def _only_round(feature: Described) -> None:
    """Several of what is milled into the outside stand evenly round it; nothing else is said of them."""
    if feature.count > 1 and feature.extent != "all round":
        raise NotSaid("how they stand to each other: say all round")


def _holes(one: Named, outside: Profile) -> list[Prism]:
    feature, whole = one.feature, outside[-1][0]
    if feature.face in ENDS:
        r = radius_at(outside, 0.0 if feature.face == FREE else whole)
        spots = spots_of(feature, 2 * r, r)
        return (
            bored(one, "x", spots, 0.0, 1, FREE)
            if feature.face == FREE
            else bored(one, "x", spots, whole, -1, CHUCK)
        )
    place = next((p for p in feature.places if p.distance is not None), None)
    if place is None or place.distance is None:
        raise NotSaid("how far from an end")
    away = float(place.distance.nominal_base)
    at = whole - away if place.face == CHUCK else away
    through = feature.through or Role.DEPTH not in feature.sizes
    crossed = replace(one, feature=replace(feature, through=through))
    by = [float(size.nominal_base) for size in feature.pattern.by] if feature.pattern else [0.0]
    many = 1 if feature.extent == "all round" else feature.count
    if many > 1 and feature.pattern is None:
        raise NotSaid("how they stand to each other: on 10 centres, or all round")
    spots = [(at + (-i if place.face == CHUCK else i) * by[0], 0.0) for i in range(many)]
    return _all_round(feature, bored(crossed, "z", spots, radius_at(outside, at), -1, "outside"))


def _sided(feature: Described) -> Contour:
    half, many = mm(feature.sizes, Role.ACROSS) / 2, SIDED[feature.kind]
    r = half / cosine(pi / many)
    first = radians(_turns(feature)[0])
    turns = [first + pi / many + 2 * pi * i / many for i in range(many)]
    return Contour(tuple((r * cosine(a), r * sin(a)) for a in turns))


def _flats(one: Named, outside: Profile) -> list[Prism]:
    feature, whole = one.feature, outside[-1][0]
    a, b = (0.0, whole) if Role.LENGTH not in feature.sizes else _stretch(feature, whole)
    r, half = radius_at(outside, (a + b) / 2), mm(feature.sizes, Role.WIDTH) / 2
    if half >= r:
        raise NotSaid(f"a width below Ø{2 * r:g}, where it lies")
    high = sqrt(r * r - half * half)
    if feature.extent != "both sides":
        _only_round(feature)
    sides = [(high, FAR), (-FAR, -high)] if feature.extent == "both sides" else [(high, FAR)]
    return [Prism(one.key, one.name, "z", Oblong(a, -FAR, b, FAR), low, top, "outside") for low, top in sides]


def _slots(one: Named, outside: Profile) -> list[Prism]:
    feature, whole = one.feature, outside[-1][0]
    half, depth = mm(feature.sizes, Role.WIDTH) / 2, depth_of(feature)
    _only_round(feature)
    if feature.face in ENDS:
        low, high = (-FAR, depth) if feature.face == FREE else (whole - depth, FAR)
        return [
            Prism(one.key, one.name, "x", _across_end(half, turn), low, high, feature.face)
            for turn in _turns(feature, 180)
        ]
    a, b = _stretch(feature, whole)
    top = radius_at(outside, (a + b) / 2)
    inner = min(half, (b - a) / 2) if feature.extent != "full length" else 0.0
    slot = Prism(one.key, one.name, "z", Oblong(a, -half, b, half, inner), top - depth, FAR, "outside")
    return _all_round(feature, [slot])


def _across_end(half: float, turn: float) -> Shape:
    """A slot across an end, upright or turned."""
    if not turn:
        return Oblong(-half, -FAR, half, FAR)
    corners = [(-half, -FAR), (half, -FAR), (half, FAR), (-half, FAR)]
    return Contour(tuple(turned_by(turn, spot) for spot in corners))
