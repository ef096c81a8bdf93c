"""What both pictures of a part share: scale, dimension lines, numbered names of features, the bar of the scale."""

from collections.abc import Sequence
from dataclasses import dataclass, field
from decimal import Decimal
from typing import TYPE_CHECKING

from markupsafe import escape

from ditto_run.core.part.shape.laid import Lying, Shaped
from ditto_run.core.units import LengthUnit, convert, number_text
from ditto_run.web.drawings.scale import nice_step

if TYPE_CHECKING:
    from shapely.geometry.base import BaseGeometry

WIDTH = 764
LABEL_STEP = 25
MM_PER_INCH = 25.4
MOST_SIGNS = 26
MOST_WAITING = 60
FLAT_SIGNS = 6


@dataclass(frozen=True)
class PartPicture:
    """What is drawn of a part.

    Args:
        shaped: the part.
        unit: the drawing's unit.
        numbers: number of the size each feature carries, by its key.
        sizes: that size as the drawing says it, by key of the feature.
        picked: key of the feature that is looked at; 0 for none.
        angle: first or third: how the shop reads three views.
        typed: the feature that is being typed, drawn with round dots; None for none.
        whole: number and words of a size of the whole part, by what it is: length, width, height, diameter.
    """

    shaped: Shaped
    unit: LengthUnit
    numbers: dict[int, int] = field(default_factory=dict)
    sizes: dict[int, str] = field(default_factory=dict)
    picked: int = 0
    angle: str = "third"
    typed: Lying | None = None
    whole: dict[str, tuple[int, str]] = field(default_factory=dict)

    def label(self, one: Lying) -> str:
        """Return what stands beside a feature."""
        return f"{one.name} {self.sizes[one.key]}" if one.key in self.sizes else one.name


@dataclass(frozen=True)
class View:
    """Millimetres to pixels: where a view's own origin lies, and its scale; a flipped one runs to the left."""

    left: float
    base: float
    scale: float
    flipped: float = 0.0

    def x(self, at: float) -> float:
        """Pixels from the left."""
        return self.left + (self.flipped - at if self.flipped else at) * self.scale

    def y(self, at: float) -> float:
        """Pixels from the top; millimetres run up."""
        return self.base - at * self.scale

    def box(self, a: float, b: float, c: float, d: float) -> str:
        """Return the path of a rectangle from a,b to c,d."""
        return f"M{self.x(a):.1f},{self.y(b):.1f}H{self.x(c):.1f}V{self.y(d):.1f}H{self.x(a):.1f}Z"

    def path(self, shape: "BaseGeometry") -> str:
        """Return the path of an area, its holes too."""
        found = ""
        for part in getattr(shape, "geoms", [shape]):
            if part.geom_type != "Polygon" or part.is_empty:
                continue
            for ring in (part.exterior, *part.interiors):
                spots = "L".join(f"{self.x(x):.1f},{self.y(y):.1f}" for x, y in list(ring.coords)[:-1])
                found += f"M{spots}Z"
        return found


def whole_of(picture: PartPicture, what: str, value_mm: float) -> tuple[str, int | None]:
    """Return a size of the whole part as the drawing says it, with its number; else the figure alone."""
    number, words = picture.whole.get(what, (None, ""))
    return words or figure(value_mm, picture.unit), number


def figure(value_mm: float, unit: LengthUnit) -> str:
    """Return a length in the drawing's unit without its name, no more decimals than it has."""
    value = convert(Decimal(repr(round(value_mm, 5))), "mm", unit)
    text = number_text(value, 4 if unit == "in" else 3)
    return text.rstrip("0").rstrip(".") if "." in text else text


def text(x: float, y: float, words: str, *classes: str, anchor: str = "middle") -> str:
    """Return a text."""
    return f'<text class="tx {" ".join(classes)}" x="{x:.1f}" y="{y:.1f}" text-anchor="{anchor}">{escape(words)}</text>'


def across(x1: float, x2: float, y: float, words: str, foot: float, number: int | None = None) -> str:
    """Return a dimension that lies level, with its extension lines down or up to `foot`, and its number in a box."""
    body = f'<path class="hair" d="M{x1:.1f},{foot:.1f}V{y:.1f}M{x2:.1f},{foot:.1f}V{y:.1f}M{x1:.1f},{y:.1f}H{x2:.1f}"/>'
    body += _heads((x1, y, 1, 0), (x2, y, -1, 0))
    return body + numbered((x1 + x2) / 2, y + 5, words, number)


def upright(y1: float, y2: float, x: float, words: str, foot: float, number: int | None = None) -> str:
    """Return a dimension that stands upright, its words level beside it."""
    body = f'<path class="hair" d="M{foot:.1f},{y1:.1f}H{x:.1f}M{foot:.1f},{y2:.1f}H{x:.1f}M{x:.1f},{y1:.1f}V{y2:.1f}"/>'
    body += _heads((x, min(y1, y2), 0, 1), (x, max(y1, y2), 0, -1))
    turned = f'<g transform="rotate(-90 {x:.1f} {(y1 + y2) / 2:.1f})">'
    if len(words) > FLAT_SIGNS:
        return body + turned + numbered(x, (y1 + y2) / 2 + 5, words, number) + "</g>"
    return body + numbered(x, (y1 + y2) / 2 + 5, words, number)


def numbered(x: float, y: float, words: str, number: int | None) -> str:
    """Return the figure of a dimension, with its number in a box before it."""
    if number is None:
        return text(x, y, words, "b", "on-line", "mk")
    wide = 9.7 * len(words)
    left = x - (wide + 30) / 2
    box = f'<rect class="ruled" x="{left:.1f}" y="{y - 17:.1f}" width="23" height="22"/>'
    return (
        box
        + text(left + 11.5, y, str(number), "b")
        + text(left + 30, y, words, "b", "on-line", "mk", anchor="start")
    )


def _heads(*ends: tuple[float, float, int, int]) -> str:
    found = ""
    for x, y, dx, dy in ends:
        a, b = (x + 8 * dx - 3 * dy, y + 8 * dy - 3 * dx), (x + 8 * dx + 3 * dy, y + 8 * dy + 3 * dx)
        found += f"M{x:.1f},{y:.1f}L{a[0]:.1f},{a[1]:.1f}L{b[0]:.1f},{b[1]:.1f}Z"
    return f'<path class="fill" d="{found}"/>'


def bar(x: float, y: float, scale: float, unit: LengthUnit) -> str:
    """Return the bar of the scale: an even length, about 60 px."""
    per_unit = scale * (MM_PER_INCH if unit == "in" else 1.0)
    step = nice_step(60 / per_unit * 10, 10)
    long = step * per_unit
    body = f'<path class="sc-h" d="M{x:.1f},{y - 5:.1f}v10M{x:.1f},{y:.1f}h{long:.1f}M{x + long:.1f},{y - 5:.1f}v10"/>'
    return body + text(x + long + 8, y + 5, f"{step:g} {unit}", "mk", anchor="start")


def spread(wanted: Sequence[float], low: float, high: float) -> list[float]:
    """Return heights near those wanted, in the same order, a line apart, within the room there is, [px]."""
    room = max((high - low) / max(len(wanted) - 1, 1), 1.0)
    step = min(LABEL_STEP, room)
    found: list[float] = []
    for want in wanted:
        found.append(max(want, found[-1] + step if found else low))
    over = (found[-1] if found else low) - high
    if over > 0:
        found = [max(at - over, low + i * step) for i, at in enumerate(found)]
        for i in range(len(found) - 2, -1, -1):
            found[i] = min(found[i], found[i + 1] - step)
    return found


def named(picture: PartPicture, one: Lying, x: float, y: float) -> str:
    """Return a feature's name with the box of its number."""
    number = picture.numbers.get(one.key)
    strong = "b" if one.key == picture.picked or number is not None else "dim"
    body = ""
    if number is not None:
        body += f'<rect class="ruled" x="{x:.1f}" y="{y - 18:.1f}" width="24" height="23"/>'
        body += text(x + 12, y, str(number), "b")
        x += 31
    label = picture.label(one)
    shown = label if len(label) <= MOST_SIGNS else label[: MOST_SIGNS - 1] + "…"
    return f'<g data-pick="{one.key}">{body}{text(x, y, shown, strong, anchor="start")}</g>'


def lead(picture: PartPicture, one: Lying, start: tuple[float, float], end: tuple[float, float]) -> str:
    """Return the line from a name to its feature."""
    heavy = " b" if one.key == picture.picked else ""
    return f'<path class="hair{heavy}" d="M{start[0]:.1f},{start[1]:.1f}L{end[0]:.1f},{end[1]:.1f}"/>'


def waiting(picture: PartPicture, y: float) -> tuple[str, float]:
    """Return the features that stand nowhere yet, each as a dotted box with what has to be said, and how high they are, [px]."""
    drawn, x, row = "", 24.0, 0
    for one in picture.shaped.features:
        if not one.missing:
            continue
        words = f"{one.name}: {' and '.join(one.missing)}?"
        words = words if len(words) <= MOST_WAITING else words[: MOST_WAITING - 1] + "…"
        wide = 9.0 * len(words) + 20
        if x > 24.0 and x + wide > WIDTH - 10:
            x, row = 24.0, row + 1
        at = y + row * 36
        drawn += f'<rect class="sc-h typed" fill="none" x="{x:.1f}" y="{at:.1f}" width="{wide:.1f}" height="28" rx="5"/>'
        drawn += text(x + 10, at + 19, words, anchor="start")
        x += wide + 14
    return drawn, (row + 1) * 36 + 6 if drawn else 0.0
