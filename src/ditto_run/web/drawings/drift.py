"""How an offset has drifted: each axis from where it was first found, with the limit if it has one."""

from collections.abc import Sequence
from decimal import Decimal

from markupsafe import Markup

from ditto_run.core.place.offsets import Offset
from ditto_run.core.units import convert, small_text, to_base
from ditto_run.web.drawings.scale import svg

WIDTH, HEIGHT, LEFT, RIGHT = 780, 190, 30, 110
DASHES = {"x": "", "y": "12 5", "z": "3 5"}
LEAST_MM = Decimal("0.01")


def draw_drift(history: Sequence[tuple[Offset, dict[str, Decimal]]], now: Offset) -> Markup:
    """Return the chart of a history, newest line first, as `drift` gives it reversed."""
    lines = [*reversed(history)]
    limit = to_base(now.limit, now.unit)
    reach = max([abs(value) for _, by in lines for value in by.values()] + [limit, LEAST_MM]) * Decimal(
        "1.25"
    )
    middle, tall = HEIGHT / 2, HEIGHT / 2 - 14
    step = (WIDTH - LEFT - RIGHT) / max(len(lines) - 1, 1)

    def y(value: Decimal) -> float:
        return middle - float(value / reach) * tall

    body = f'<path class="sc-l" d="M{LEFT},{middle:.1f}H{WIDTH - RIGHT}"/>'
    body += _limits(now, y(limit), y(-limit)) if limit else ""
    taken: list[float] = []
    says = []
    for axis, dash in DASHES.items():
        spots = [(LEFT + i * step, y(by[axis])) for i, (_, by) in enumerate(lines) if axis in by]
        if not spots:
            continue
        body += f'<path class="sc" stroke-dasharray="{dash}" d="M{"L".join(f"{px:.1f},{py:.1f}" for px, py in spots)}"/>'
        body += "".join(f'<circle class="fill" cx="{px:.1f}" cy="{py:.1f}" r="3.5"/>' for px, py in spots)
        at = spots[-1][1]
        while any(abs(at - other) < 19 for other in taken):
            at += 5
        taken.append(at)
        moved = next(by[axis] for _, by in reversed(lines) if axis in by)
        said = small_text(convert(moved, "mm", now.unit), now.unit).split(" (")[0]
        body += f'<text class="b" x="{WIDTH - RIGHT + 12}" y="{at + 6:.1f}">{axis.upper()} {said if moved else "0"}</text>'
        says.append(f"{axis.upper()} {said}")
    return Markup(
        svg(WIDTH, HEIGHT, f"How far {now.code} has moved since it was first found: {', '.join(says)}", body)
    )


def _limits(now: Offset, *at: float) -> str:
    body = "".join(
        f'<path class="sc-d" stroke-dasharray="16 5 3 5" d="M{LEFT},{y:.1f}H{WIDTH - RIGHT}"/>' for y in at
    )
    return f'{body}<text class="tx dim" x="{LEFT}" y="{at[0] - 6:.1f}">limit {small_text(now.limit, now.unit)}</text>'
