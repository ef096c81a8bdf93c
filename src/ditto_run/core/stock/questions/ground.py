"""What the questions of Stock may look at: the part, what was ordered, what was measured."""

from collections.abc import Collection
from dataclasses import dataclass
from decimal import Decimal

from ditto_run.core.part.faces import Form
from ditto_run.core.part.shape.measures import Measures
from ditto_run.core.questions import Source, Sourced
from ditto_run.core.stock.blank import Blank
from ditto_run.core.stock.incoming import Order
from ditto_run.core.units import LengthUnit


@dataclass(frozen=True)
class StockGround:
    """The part with what is known of its material.

    Args:
        form: block or turned.
        unit: of the drawing.
        part: its size by its features; None while they do not say it.
        material: as the head of the job names it.
        materials: names of the register.
        order: what was ordered; None while nothing was.
        bar_mm: a bar that was bought, as measured or as sold; None without one. [mm]
        whole_is_cut: True if a setup cuts the outline or the body; False where the blank has its size, as far as the setups say.
        parts_off: True if a setup parts it off.
        has_setups: True once a setup says what it cuts.
        trials, scrap: of the chosen way; None where none is chosen. [pieces, %]
        blank: as answered before this question; None while it is not.
        start: pieces to start, as answered before this question. [pieces]
        history: what the shop's batches on its first machine made of this material: good, made, and how many batches they
            were; None where nothing was taught. [pieces]
    """

    form: Form
    unit: LengthUnit
    part: Measures | None
    material: str
    materials: Collection[str]
    order: Order | None
    bar_mm: Decimal | None
    whole_is_cut: bool
    parts_off: bool
    has_setups: bool
    trials: int | None
    scrap: float | None
    blank: Blank | None = None
    start: int = 0
    history: tuple[int, int, str] | None = None


def size_of(index: int, form: Form) -> Source[StockGround]:
    """Return a source that looks for a size of the part, where it has that form.

    Args:
        index: along x, y or z; length or diameter of a turned part.
        form: the form that has such a size.
    """

    def find(ground: StockGround) -> Sourced | None:
        if ground.part is None or ground.form != form:
            return None
        size = Decimal(repr(round(ground.part.size[index], 5)))
        return Sourced(f"{size.normalize():f} mm", "computed", "features")

    return find


def usual(millimetres: str, inches: str) -> Source[StockGround]:
    """Return a source that is common practice, in round figures of the drawing's unit.

    Args:
        millimetres: the figure in a drawing in millimetres.
        inches: the figure in a drawing in inches.
    """

    def find(ground: StockGround) -> Sourced:
        return Sourced(f"{inches} in" if ground.unit == "in" else f"{millimetres} mm", "practice")

    return find
