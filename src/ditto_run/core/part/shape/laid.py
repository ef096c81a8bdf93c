"""Where each feature lies on the part, and what it takes away. What is not said is asked, not guessed."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from ditto_run.core.part.features.described import Described, Named
from ditto_run.core.part.features.kinds import Role
from ditto_run.core.part.shape.body import Prism, Profile, Solid

POINT = 0.3004  # length of a 118° drill point over its diameter: half the tangent of 31°
NAMES = {"x": "length", "y": "width", "z": "height"}


@dataclass(frozen=True)
class Lying:
    """One feature as it lies on the part.

    Args:
        key, name: of the feature.
        feature: as it was said.
        cuts: what it takes away by straight cuts.
        outer: of a turned part, the outside it leaves where it is; empty for none. [mm]
        inner: of a turned part, what it bores out along the axis; empty for none. [mm]
        missing: what has to be said before it can be placed.
        usual: what was taken as usual because nothing else was said.
    """

    key: int
    name: str
    feature: Described
    cuts: tuple[Prism, ...] = ()
    outer: Profile = ()
    inner: Profile = ()
    missing: tuple[str, ...] = ()
    usual: tuple[str, ...] = ()

    @property
    def is_placed(self) -> bool:
        """True if it stands on the part."""
        return bool(self.cuts or self.outer or self.inner)


@dataclass(frozen=True)
class Shaped:
    """The part as it is described.

    Args:
        body: as finished; None while its size is not said.
        features: each as it lies.
        missing: what has to be said before it can be drawn.
    """

    body: Solid | None
    features: tuple[Lying, ...] = ()
    missing: tuple[str, ...] = ()

    def laid(self, key: int) -> Lying | None:
        """Return one feature; None where no line describes it."""
        return next((one for one in self.features if one.key == key), None)


class NotSaid(Exception):
    """What has to be said of a feature before it can be placed."""

    def __init__(self, *what: str) -> None:
        self.what = what


def mm(sizes: Mapping[Role, object], role: Role) -> float:
    """Return a size of a feature, [mm].

    Raises:
        NotSaid: it is not there.
    """
    if (size := known_mm(sizes, role)) is None:
        raise NotSaid(str(role))
    return size


def known_mm(sizes: Mapping[Role, object], role: Role) -> float | None:
    """Return a size of a feature, [mm]; None where nobody said it."""
    size = sizes.get(role)
    return None if size is None else float(size.nominal_base)  # type: ignore[attr-defined]


def of_kind(features: Sequence[Named], kind: str) -> Named | None:
    """Return the first feature of a kind."""
    return next((one for one in features if one.feature.kind == kind), None)
