"""Features of the part: what the setups make, on which face, and what each refers to."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

from ditto_run.core.errors import BadEntry
from ditto_run.core.part.faces import BAR, FACES, SIDES, Form

FeatureKind = Literal[
    "face",
    "outline",
    "turned",
    "hole",
    "pocket",
    "slot",
    "thread",
    "chamfer",
    "centre hole",
    "cut off",
    "by hand",
]
Centre = Literal["wanted", "allowed", "forbidden", "cut away"]


@dataclass(frozen=True, slots=True)
class Feature:
    """One feature of the part.

    Args:
        key: its lasting number in the job.
        name: what the shop calls it; other setups may locate or clamp on it by that name.
        face: face it lies on, or that it makes.
        kind: face machines the whole face, outline the four sides, turned the outside, cut off takes the face away.
        refers: faces its position is measured from; they come first.
        one_sided: True if the piece can no longer be turned round unnoticed once it is there.
        characteristic: number of the size it carries; None for none.
        line: what it is in one line of shop language; empty where it is known by name alone.
        supplied: True if it is there when the blank comes; no setup makes it.
    """

    key: int
    name: str
    face: str
    kind: FeatureKind = "face"
    refers: tuple[str, ...] = ()
    one_sided: bool = False
    characteristic: int | None = None
    line: str = ""
    supplied: bool = False

    @property
    def machines(self) -> frozenset[str]:
        """Faces that are machined once it is made."""
        if self.kind == "outline":
            return frozenset(SIDES)
        if self.kind == "turned":
            return frozenset({"outside"})
        if self.kind == "cut off" and self.face == BAR:
            return frozenset({"chuck end"})
        return frozenset({self.face}) if self.kind == "face" else frozenset()

    @property
    def touches(self) -> frozenset[str]:
        """Surfaces that are cut while it is made: its own, and the whole faces it machines or takes away."""
        # the blade cuts beside what holds the bar, so a bar may be held while its part is parted off
        gone = frozenset({self.face}) if self.kind == "cut off" and self.face != BAR else frozenset()
        return self.machines | gone | {self.name.lower()}


def check_feature(feature: Feature, others: Sequence[Feature], form: Form) -> Feature:
    """Return the feature if it can be planned.

    Args:
        feature: the feature.
        others: the other features of the part.
        form: block or turned.

    Raises:
        BadEntry: without a name, with one twice, on no face of the part, or if references run in a circle.
    """
    if not feature.name:
        raise BadEntry(
            "The feature has no name.", "Type what the shop calls it, such as bore or top face.", "name"
        )
    taken = {other.name.lower() for other in others} | set(FACES[form])
    if feature.name.lower() in taken:
        raise BadEntry(f"There is a feature or face {feature.name} already.", "Choose another name.", "name")
    for face in (feature.face, *feature.refers):
        if face not in FACES[form]:
            raise BadEntry(
                f"A {form} part has no face “{face[:20]}”.",
                f"Its faces are {', '.join(FACES[form])}.",
                "face",
            )
    circle = _circle((*others, feature))
    if circle:
        raise BadEntry(
            f"The references run in a circle: {' needs '.join(circle)}.",
            "One of them must refer to a raw face, or to none.",
            "refers",
        )
    return feature


def _circle(features: Sequence[Feature]) -> list[str]:
    """Return the names along a circle of references, or nothing: a feature needs those that machine its faces."""
    needs = {
        f.key: [g.key for g in features if g.key != f.key and g.machines & set(f.refers)] for f in features
    }
    names = {f.key: f.name for f in features}
    done: set[int] = set()

    def walk(key: int, path: tuple[int, ...]) -> list[str]:
        if key in path:
            return [names[k] for k in (*path[path.index(key) :], key)]
        if key in done:
            return []
        for other in needs[key]:
            found = walk(other, (*path, key))
            if found:
                return found
        done.add(key)
        return []

    return next((found for key in needs if (found := walk(key, ()))), [])
