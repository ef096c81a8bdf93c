"""The piece as it goes into each setup and as it comes out: the blank less what was cut so far."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import reduce

from ditto_run.core.hold.feature import Feature
from ditto_run.core.hold.setup import Setup
from ditto_run.core.part.faces import BAR, SIDES
from ditto_run.core.part.shape.block import NORMAL
from ditto_run.core.part.shape.body import AXES, FAR, Prism, Profile, Solid, higher_of, lower_of, trimmed
from ditto_run.core.part.shape.laid import Shaped
from ditto_run.core.part.shape.plane import Oblong
from ditto_run.core.stock.blank import Blank

BAR_BEHIND = 200.0  # bar behind the part that is looked at, where it is turned from bar; [mm]
Spot = tuple[float, float, float]


@dataclass(frozen=True)
class Raw:
    """What a piece is cut from, lying on the part's own coordinates.

    Args:
        low, high: of a block the box; of a turned part its ends and radius. [mm]
        known: False where nothing says the blank and the part's own size stands in.
    """

    low: Spot
    high: Spot
    known: bool


@dataclass(frozen=True)
class InSetup:
    """A setup with the piece as it goes in and as it comes out.

    Args:
        setup: the setup.
        before: the piece as it goes in.
        after: as it comes out.
        steps: each feature it makes, in order, with what it takes away.
    """

    setup: Setup
    before: Solid
    after: Solid
    steps: tuple["Removed", ...]


@dataclass(frozen=True)
class Removed:
    """What one feature takes away in a setup.

    Args:
        feature: the feature.
        cuts: by straight cuts.
        outer: of a turned part, the outside it leaves. [mm]
        inner: of a turned part, what it bores. [mm]
    """

    feature: Feature
    cuts: tuple[Prism, ...] = ()
    outer: Profile = ()
    inner: Profile = ()


def raw_of(shaped: Shaped, blank: Blank | None, *, on_bar: bool = False) -> Raw | None:
    """Return what the pieces are cut from, on the part's coordinates; None while the part's size is not said.

    Args:
        shaped: the part.
        blank: as Stock has it; None without one.
        on_bar: True where the bar itself is held, so that there is bar behind the part.

    Source:
        Own derivation: the same allowance on both faces of a direction, the grip below the part or behind it.
    """
    body = shaped.body
    if body is None:
        return None
    if body.profile:
        return _raw_bar(body, blank, on_bar=on_bar)
    if blank is None or blank.shape != "block":
        return Raw(body.low, body.high, known=False)
    grip = float(blank.grip_mm)
    sizes = [float(size) for size in blank.blank_mm]
    x, y, z = (
        (size - part) / 2 for size, part in zip((sizes[0], sizes[1], sizes[2] - grip), body.size, strict=True)
    )
    low = (body.low[0] - x, body.low[1] - y, body.low[2] - z - grip)
    return Raw(low, (body.high[0] + x, body.high[1] + y, body.high[2] + z), known=True)


def _raw_bar(body: Solid, blank: Blank | None, *, on_bar: bool) -> Raw:
    long, r = body.size[0], body.high[1]
    behind = BAR_BEHIND if on_bar else 0.0
    if blank is None or blank.shape != "bar":
        return Raw((0.0, -r, -r), (long + behind, r, r), known=False)
    grip = float(blank.grip_mm)
    front = max((float(blank.blank_mm[1]) - grip - long) / 2, 0.0)
    r = max(float(blank.blank_mm[0]) / 2, r)
    return Raw((-front, -r, -r), (long + (behind or front + grip), r, r), known=True)


def pieces_in(
    shaped: Shaped, raw: Raw, features: Sequence[Feature], setups: Sequence[Setup]
) -> tuple[InSetup, ...]:
    """Return each setup with the piece as it goes in and comes out.

    Args:
        shaped: the part as described.
        raw: what it is cut from.
        features: of the part.
        setups: in order.
    """
    by_key = {feature.key: feature for feature in features}
    turned = shaped.body is not None and bool(shaped.body.profile)
    now = Solid(raw.low, raw.high)
    if turned:
        now = replace(now, profile=((raw.low[0], raw.high[1]), (raw.high[0], raw.high[1])))
    now = reduce(without_step, (_taken(one, shaped) for one in features if one.supplied), now)
    found = []
    for setup in setups:
        steps = tuple(_taken(by_key[key], shaped) for key in setup.cuts if key in by_key)
        after = reduce(without_step, steps, now)
        found.append(InSetup(setup, now, after, steps))
        now = after
    return tuple(found)


def without_step(body: Solid, step: Removed) -> Solid:
    """Return a piece once a feature is made."""
    if not body.profile:
        return _faced(body, step)
    body = body.with_cuts(*step.cuts)
    if step.outer and body.profile:
        body = replace(body, profile=lower_of(body.profile, step.outer))
    if step.inner:
        inside = trimmed(step.inner, body.low[0], body.high[0])
        body = replace(body, inner=higher_of(inside, body.inner) if body.inner else inside)
    return _shortened(body, step)


def _faced(body: Solid, step: Removed) -> Solid:
    """A block once a feature is made; what takes a whole side off makes it smaller, so that its faces are where they are."""
    low, high, cuts = list(body.low), list(body.high), list(body.cuts)
    for cut in step.cuts:
        index = AXES.index(cut.axis)
        whole = cut.key is None and all(
            a <= low[i] and b >= high[i] for i, (a, b) in enumerate(cut.box) if i != index
        )
        if whole and cut.high > FAR / 2:
            high[index] = min(high[index], cut.low)
        elif whole:
            low[index] = max(low[index], cut.high)
        else:
            cuts.append(cut)
    return Solid((low[0], low[1], low[2]), (high[0], high[1], high[2]), tuple(cuts))


def _shortened(body: Solid, step: Removed) -> Solid:
    """A turned piece that a face or a part-off makes shorter."""
    ends = {face: cut for cut in step.cuts for face in [cut.face] if cut.key is None}
    if not ends:
        return body
    low = max((c.high for c in ends.values() if c.face == "free end"), default=body.low[0])
    high = min((c.low for c in ends.values() if c.face == "chuck end"), default=body.high[0])
    cuts = tuple(c for c in body.cuts if c.key is not None)
    inner = trimmed(body.inner, low, high) if body.inner else ()
    return Solid((low, *body.low[1:]), (high, *body.high[1:]), cuts, trimmed(body.profile, low, high), inner)


def _taken(feature: Feature, shaped: Shaped) -> Removed:
    """What a feature takes away: its own cuts, and of a face, an outline and a part-off the stock beside the part."""
    body = shaped.body
    if body is None:
        return Removed(feature)
    laid = shaped.laid(feature.key)
    slabs = _slabs(feature, body)
    if laid is None:
        return Removed(feature, slabs)
    return Removed(feature, (*laid.cuts, *slabs), laid.outer, laid.inner)


def _slabs(feature: Feature, body: Solid) -> tuple[Prism, ...]:
    """Stock beside the part that a face, an outline or a part-off takes away."""
    if body.profile:
        if feature.kind == "face" and feature.face == "free end":
            return (_slab("free end", feature.name, -FAR, 0.0),)
        if (feature.kind == "face" and feature.face == "chuck end") or (
            feature.kind == "cut off" and feature.face in {BAR, "chuck end"}
        ):
            return (_slab("chuck end", feature.name, body.size[0], FAR),)
        return ()
    if feature.kind == "face" and feature.face in NORMAL:
        return (_beside(feature.face, feature.name, body, -FAR),)
    if feature.kind == "outline":
        return tuple(_beside(face, feature.name, body, 0.0) for face in SIDES)
    return ()


def _slab(face: str, name: str, low: float, high: float) -> Prism:
    return Prism(None, name, "x", Oblong(-FAR, -FAR, FAR, FAR), low, high, face)


def _beside(face: str, name: str, body: Solid, floor: float) -> Prism:
    """All that lies beyond a face of the part; an outline's down to the part's own bottom alone, so that a stub stays."""
    axis, inward = NORMAL[face]
    index = "xyz".index(axis)
    low, high = (-FAR, body.low[index]) if inward > 0 else (body.high[index], FAR)
    shape = Oblong(-FAR, floor if axis != "z" else -FAR, FAR, FAR)
    return Prism(None, name, axis, shape, low, high, face)
