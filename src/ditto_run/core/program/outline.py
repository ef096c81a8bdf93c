"""The outline of a bar on a lathe, as it is cut so far."""

from collections.abc import Iterable
from itertools import pairwise

from ditto_run.core.program.given import RoundBlank, Three, ToolFigures
from ditto_run.core.program.paths import ON_MM, Line, Path

STEP_MM = 0.05  # of an outline
MOST_STEPS = 40_000


class BarOutline:
    """A bar's outline as it is cut so far, in steps along Z.

    Args:
        blank: the bar in the coordinates of its offset.
    """

    def __init__(self, blank: RoundBlank) -> None:
        import numpy as np  # noqa: PLC0415 - only a lathe wants it

        low, high = sorted(blank.z_mm)
        self.step = max(STEP_MM, (high - low) / MOST_STEPS)
        self.z = np.arange(low + self.step / 2, high, self.step)
        self.outside = np.full(self.z.shape, blank.across_mm / 2)
        self.hole = np.full(self.z.shape, blank.hole_mm / 2)

    def cut(self, path: Path, tool: ToolFigures) -> None:
        """Take off what a feed move takes off.

        Args:
            path: of the tip, X as radius.
            tool: its kind, and the width of a parting tool.
        """
        import numpy as np  # noqa: PLC0415 - only a lathe wants it

        points = [path.at(t) for t in np.linspace(0, 1, 2 if isinstance(path, Line) else 65)]
        for a, b in pairwise(points):
            self._cut(a, b, tool)

    def _cut(self, a: Three, b: Three, tool: ToolFigures) -> None:
        import numpy as np  # noqa: PLC0415 - only a lathe wants it

        low, high = min(a[2], b[2]), max(a[2], b[2])
        if tool.kind in {"drill", "tap"} and tool.across_mm and abs(a[0]) + abs(b[0]) < ON_MM:
            self.hole[self.z > low] = np.maximum(self.hole[self.z > low], tool.across_mm / 2)
            return
        wide = (self.z > low - ON_MM - self.step / 2) & (
            self.z < high + ON_MM + tool.width_mm + self.step / 2
        )
        if high > low:
            radius = np.abs(np.interp(self.z[wide], *_rising(a, b)))
        else:
            radius = np.full(int(wide.sum()), min(abs(a[0]), abs(b[0])))
        if tool.kind == "bore":
            self.hole[wide] = np.maximum(self.hole[wide], radius)
        elif high > low or tool.width_mm:
            self.outside[wide] = np.minimum(self.outside[wide], radius)
        if min(a[0], b[0]) <= ON_MM < max(a[0], b[0]) and tool.kind != "bore":
            self.outside[self.z > low] = 0.0  # to the middle or past it: nothing is left in front

    def meets(self, way: Iterable[Line]) -> float:
        """Return how much of a way lies in what is left, [mm]."""
        import numpy as np  # noqa: PLC0415 - only a lathe wants it

        found = 0.0
        for leg in way:
            many = max(2, int(leg.length / self.step) + 1)
            shares = (np.arange(many) + 0.5) / many
            x = np.abs(leg.start[0] + (leg.end[0] - leg.start[0]) * shares)
            z = leg.start[2] + (leg.end[2] - leg.start[2]) * shares
            at = (
                np.floor((z - self.z[0] + self.step / 2) / self.step).astype(int)
                if len(self.z)
                else np.zeros(0, int)
            )
            there = (at >= 1) & (at < len(self.z) - 1)
            cells = at[there]
            # between two cells a corner may lie: only what is inside both neighbours counts
            left = np.minimum(
                np.minimum(self.outside[cells - 1], self.outside[cells]), self.outside[cells + 1]
            )
            open_to = np.maximum(np.maximum(self.hole[cells - 1], self.hole[cells]), self.hole[cells + 1])
            within = (x[there] < left - ON_MM * 10) & ((x[there] > open_to + ON_MM * 10) | (open_to <= 0))
            found += float(within.sum()) * leg.length / many
        return found


def _rising(a: Three, b: Three) -> tuple[list[float], list[float]]:
    """Z and X of two points, the lower Z first."""
    first, second = (a, b) if a[2] <= b[2] else (b, a)
    return [first[2], second[2]], [first[0], second[0]]
