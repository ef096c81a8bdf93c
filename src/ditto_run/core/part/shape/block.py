"""A block or plate from its features: how large it is, and what each feature takes from which face."""

from collections.abc import Iterable, Sequence
from dataclasses import replace

from ditto_run.core.part.features.described import Described, Named
from ditto_run.core.part.features.kinds import Role
from ditto_run.core.part.shape.bent import bend_line
from ditto_run.core.part.shape.body import FAR, FLAT, Axis, Prism, Solid
from ditto_run.core.part.shape.holes import ROUND, bored, depth_of, spots_of
from ditto_run.core.part.shape.laid import Lying, NotSaid, Shaped, known_mm, mm, of_kind
from ditto_run.core.part.shape.plane import Contour, Disc, Oblong, Shape

NORMAL: dict[str, tuple[Axis, int]] = {  # a face: the direction through it, and the way inward, as places are counted from it
    "top": ("z", -1), "bottom": ("z", 1), "front": ("y", 1), "back": ("y", -1), "left": ("x", 1), "right": ("x", -1),
}  # fmt: skip
RUNS: dict[str, Axis] = {"length": "x", "width": "y", "height": "z"}
MOST_CUTS = 1000
NOTHING = {"face", "outline", "by hand", "bend", "chamfer", "broken edge"}


def block(features: Sequence[Named]) -> Shaped:
    """Return a block as its features describe it.

    Args:
        features: those that a line describes.

    Source:
        Own derivation. Holes, slots and rows of them are placed by their middle, pockets by their near edge, a row by
        the one nearest to the face it is measured from.
    """
    body, missing = _whole(features)
    if body is None:
        return Shaped(None, tuple(Lying(f.key, f.name, f.feature) for f in features), missing)
    laid = _not_too_many(_lay(one, body) for one in features)
    return Shaped(replace(body, cuts=tuple(cut for one in laid for cut in one.cuts)), laid, missing)


def _not_too_many(laid: Iterable[Lying]) -> tuple[Lying, ...]:
    """Leave out what would be more cuts than are drawn; it is said of the feature."""
    found, many = [], 0
    for one in laid:
        many += len(one.cuts)
        too_many = many > MOST_CUTS and bool(one.cuts)
        found.append(
            replace(one, cuts=(), missing=(f"fewer: {MOST_CUTS:,} cuts are the most that are drawn",))
            if too_many
            else one
        )
    return tuple(found)


def _whole(features: Sequence[Named]) -> tuple[Solid | None, tuple[str, ...]]:
    """The body before its features, and what has to be said of it."""
    outline = of_kind(features, "outline")
    if outline is None:
        return None, ("an outline: length x width x height",)
    said = outline.feature
    high = known_mm(said.sizes, Role.HEIGHT)
    if high is None:
        faces = [
            f.feature for f in features if f.feature.kind == "face" and f.feature.face in {"top", "bottom"}
        ]
        high = next((h for f in faces if (h := known_mm(f.sizes, Role.HEIGHT)) is not None), None)
    try:
        shape = _outline(said)
    except NotSaid as asked:
        return None, tuple(f"{what} of the outline" for what in asked.what)
    if high is None:
        return None, ("height of the outline",)
    x0, y0, x1, y1 = shape.bounds
    shape = shape.moved(-x0, -y0)
    body = Solid((0.0, 0.0, 0.0), (x1 - x0, y1 - y0, high))
    if isinstance(shape, Oblong) and not shape.r:
        return body, ()
    return body.with_cuts(Prism(outline.key, outline.name, "z", shape, -FAR, FAR, keeps=True)), ()


def _outline(said: Described) -> Shape:
    if said.corners is not None:
        return Contour(said.corners.mm)
    if (across := known_mm(said.sizes, Role.DIAMETER)) is not None:
        return Disc(across / 2, across / 2, across / 2)
    long, wide = mm(said.sizes, Role.LENGTH), mm(said.sizes, Role.WIDTH)
    round_r = min(long, wide) / 2 if said.extent == "round ends" else known_mm(said.sizes, Role.RADIUS) or 0.0
    return Oblong(0, 0, long, wide, min(round_r, min(long, wide) / 2))


def _lay(one: Named, body: Solid) -> Lying:
    """Place one feature, or say what is missing."""
    feature, plain = one.feature, Lying(one.key, one.name, one.feature)
    if feature.kind == "bend":
        try:
            bend_line(feature, one.key, body.size[0])
        except NotSaid as asked:
            return replace(plain, missing=asked.what)
    if feature.kind in NOTHING or not feature.kind:
        outline = tuple(c for c in body.cuts if c.key == one.key)
        return replace(plain, cuts=outline)
    try:
        if feature.kind == "cross hole" and not feature.face:
            one = replace(
                one, feature=replace(feature, face="front", through=Role.DEPTH not in feature.sizes)
            )
        usual: list[str] = []
        cuts = _holes(one, body, usual) if feature.kind in ROUND else [_milled(one, body, usual)]
    except NotSaid as asked:
        return replace(plain, missing=asked.what)
    return replace(plain, cuts=tuple(cuts), usual=tuple(usual))


def _face(feature: Described, body: Solid) -> tuple[Axis, int, float, tuple[Axis, Axis], tuple[float, float]]:
    """Direction and side of its face, where the face is, and the face's own directions and size."""
    if feature.face not in NORMAL:
        raise NotSaid("on which face")
    axis, inward = NORMAL[feature.face]
    index = "xyz".index(axis)
    first, second = FLAT[axis]
    sizes = body.size["xyz".index(first)], body.size["xyz".index(second)]
    return axis, inward, body.low[index] if inward > 0 else body.high[index], (first, second), sizes


def _holes(one: Named, body: Solid, usual: list[str]) -> list[Prism]:
    feature = one.feature
    axis, inward, start, flat, (wide, deep) = _face(feature, body)
    run = RUNS.get(feature.run)
    if run is not None and run in flat:
        wide, deep = (2.0, 1.0) if run == flat[0] else (1.0, 2.0)
    offsets = spots_of(feature, wide, deep)
    at = [_middle(feature, body, along, [o[i] for o in offsets], usual) for i, along in enumerate(flat)]
    spots = [(at[0] + x, at[1] + y) for x, y in offsets]
    return bored(one, axis, spots, start, inward, feature.face)


def _middle(
    feature: Described, body: Solid, along: Axis, offsets: Sequence[float], usual: list[str]
) -> float:
    """Where the middle of a feature lies along one direction of its face, [mm].

    Args:
        feature: with its places.
        body: the block.
        along: the direction.
        offsets: of its members, or of its two edges, from the middle. [mm]
        usual: takes what was taken as usual.

    Raises:
        NotSaid: where it stands along that direction.
    """
    index = "xyz".index(along)
    low, high = body.low[index], body.high[index]
    for place in feature.places:
        if place.distance is None or place.face not in NORMAL:
            continue
        axis, sign = NORMAL[place.face]
        if axis != along:
            continue
        away = float(place.distance.nominal_base)
        return low + away - min(offsets) if sign > 0 else high - away - max(offsets)
    if any(place.distance is None for place in feature.places):
        return (low + high) / 2
    said_other = any(place.face in NORMAL for place in feature.places)
    if said_other and max(offsets) == min(offsets):
        raise NotSaid(f"where along the {_word(along)}")
    if said_other or feature.pattern is not None or feature.extent:
        usual.append(f"in the middle of the {_word(along)}")
        return (low + high) / 2
    raise NotSaid("where")


def _word(axis: Axis) -> str:
    return {"x": "length", "y": "width", "z": "height"}[axis]


def _milled(one: Named, body: Solid, usual: list[str]) -> Prism:
    """A slot, slit, step, pocket or flat as one straight cut."""
    feature = one.feature
    axis, inward, start, _, _ = _face(feature, body)
    shape, keeps = _shape(feature, body, usual)
    depth = depth_of(feature)
    low, high = (start - FAR, start + depth) if inward > 0 else (start - depth, start + FAR)
    return Prism(one.key, one.name, axis, shape, low, high, feature.face, keeps=keeps)


def _shape(feature: Described, body: Solid, usual: list[str]) -> tuple[Shape, bool]:
    if feature.kind == "pocket":
        return _pocket(feature, body, usual), False
    if feature.kind == "step":
        return _step(feature, body)
    if feature.kind in {"slot", "slit"}:
        return _slot(feature, body, usual), False
    raise NotSaid(f"a {feature.kind} as it is cut: say step, slot or pocket")


def _pocket(feature: Described, body: Solid, usual: list[str]) -> Shape:
    _, _, _, flat, _ = _face(feature, body)
    if (across := known_mm(feature.sizes, Role.DIAMETER)) is not None:
        half = across / 2
        x, y = (_middle(feature, body, along, [0.0], usual) for along in flat)
        return Disc(x, y, half)
    sides = [mm(feature.sizes, Role.LENGTH), mm(feature.sizes, Role.WIDTH)]
    if RUNS.get(feature.run) == flat[1]:
        sides.reverse()
    middle = [
        _middle(feature, body, along, [-side / 2, side / 2], usual)
        for along, side in zip(flat, sides, strict=True)
    ]
    r = known_mm(feature.sizes, Role.RADIUS)
    if r is None:
        usual.append("drawn with sharp corners: no corner radius is said")
    return _oblong(middle, sides, min(r or 0.0, min(sides) / 2))


def _oblong(middle: Sequence[float], sides: Sequence[float], r: float) -> Oblong:
    (x, y), (a, b) = middle, sides
    return Oblong(x - a / 2, y - b / 2, x + a / 2, y + b / 2, r)


def _step(feature: Described, body: Solid) -> tuple[Shape, bool]:
    _, _, _, flat, (wide, deep) = _face(feature, body)
    into = mm(feature.sizes, Role.WIDTH)
    if feature.extent == "all round":
        return Oblong(into, into, wide - into, deep - into), True
    edge = feature.open_at or next((p.face for p in feature.places if p.face in NORMAL), "")
    if not edge or NORMAL[edge][0] not in flat:
        raise NotSaid("along which edge")
    axis, sign = NORMAL[edge]
    first = axis == flat[0]
    span = (-FAR, into) if sign > 0 else ((wide if first else deep) - into, FAR)
    return (Oblong(span[0], -FAR, span[1], FAR) if first else Oblong(-FAR, span[0], FAR, span[1])), False


def _slot(feature: Described, body: Solid, usual: list[str]) -> Shape:
    """A slot by its middle line; its length from an open end, else by its near end."""
    _, _, _, flat, (wide, deep) = _face(feature, body)
    across = mm(feature.sizes, Role.WIDTH)
    run = _run(feature, flat, wide, deep)
    other = flat[1] if run == flat[0] else flat[0]
    middle = (
        _middle(feature, body, other, [0.0], usual)
        if not _only_run(feature, run)
        else _in_the_middle(body, other, usual)
    )
    full = feature.extent == ("full length" if run == "x" else "full width")
    long = known_mm(feature.sizes, Role.LENGTH)
    r = known_mm(feature.sizes, Role.RADIUS)
    if feature.kind == "slit" or full or (feature.extent and long is None):
        along = (-FAR, FAR)
        r = 0.0
    elif long is None:
        raise NotSaid("length")
    else:
        if r is None:
            usual.append("ends round, as an end mill of its width leaves them")
        r = min(across / 2 if r is None else r, across / 2)
        along = _along(feature, body, run, long, usual)
    rest = (middle - across / 2, middle + across / 2)
    (a, b), (c, d) = (along, rest) if run == flat[0] else (rest, along)
    return Oblong(a, c, b, d, r)


def _run(feature: Described, flat: tuple[Axis, Axis], wide: float, deep: float) -> Axis:
    """Which way a slot lies: as said, else towards its open end, else across from where it is measured, else the longer side."""
    said = RUNS.get(feature.run or {"full length": "length", "full width": "width"}.get(feature.extent, ""))
    if said is not None and said in flat:
        return said
    if feature.open_at in NORMAL:
        return NORMAL[feature.open_at][0]
    placed = {NORMAL[p.face][0] for p in feature.places if p.face in NORMAL}
    if feature.kind == "slit" and len(placed) == 1:
        return flat[1] if placed == {flat[0]} else flat[0]
    return flat[0] if wide >= deep else flat[1]


def _only_run(feature: Described, run: Axis) -> bool:
    """True if nothing says where it lies across, and its end or length says where it lies along."""
    placed = {NORMAL[p.face][0] for p in feature.places if p.face in NORMAL}
    middle = any(p.distance is None for p in feature.places)
    return not middle and (placed <= {run}) and bool(feature.open_at or feature.extent)


def _in_the_middle(body: Solid, along: Axis, usual: list[str]) -> float:
    usual.append(f"in the middle of the {_word(along)}")
    index = "xyz".index(along)
    return (body.low[index] + body.high[index]) / 2


def _along(feature: Described, body: Solid, run: Axis, long: float, usual: list[str]) -> tuple[float, float]:
    index = "xyz".index(run)
    low, high = body.low[index], body.high[index]
    if feature.open_at in NORMAL and NORMAL[feature.open_at][0] == run:
        return (-FAR, low + long) if NORMAL[feature.open_at][1] > 0 else (high - long, FAR)
    middle = _middle(feature, body, run, [-long / 2, long / 2], usual)
    return middle - long / 2, middle + long / 2
