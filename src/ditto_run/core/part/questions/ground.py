"""What the questions of Part may look at: one size with the line of the feature that carries it, or one feature."""

from collections.abc import Sequence
from dataclasses import dataclass

from ditto_run.core.part.characteristic import Characteristic
from ditto_run.core.part.faces import Form
from ditto_run.core.part.features import Described, Named


@dataclass(frozen=True)
class SizeGround:
    """One size of the part with what is known of it.

    Args:
        size: the characteristic.
        feature: the feature that carries it, as its line says it; None where no line does.
        form: block or turned.
        partner: size of another part of this job that goes into it or over it; None where none does.
        partner_of: name of that part.
        is_cut: True if a setup makes it, so that its tools have a place.
        drift: what batches taught on the machine that makes it, in 100 pieces, and how many they were; None for nothing. [mm]
        pieces: of a load at one station of the setup that makes it, at most; 0 while not known. [pieces]
    """

    size: Characteristic
    feature: Described | None
    form: Form
    partner: Characteristic | None = None
    partner_of: str = ""
    is_cut: bool = False
    drift: tuple[float, str] | None = None
    pieces: int = 0


@dataclass(frozen=True)
class FeatureGround:
    """One feature of the part as its line says it.

    Args:
        key: of the feature.
        feature: it.
        form: block or turned.
        bends: every bend of the part, in the order of the features.
        thick_mm: thickness of a part that is bent; None while not known. [mm]
        long_mm: length of its flat; None while not known. [mm]
        name: what the job calls it.
        size_mm: of the part along x, y and z; None while not known. [mm]
        is_cut: True if a setup makes it, so that its tools have a place.
        machined: faces that a setup machines.
    """

    key: int
    feature: Described
    form: Form
    bends: Sequence[Named] = ()
    thick_mm: float | None = None
    long_mm: float | None = None
    name: str = ""
    size_mm: tuple[float, float, float] | None = None
    is_cut: bool = False
    machined: frozenset[str] = frozenset()
