"""A turned part on an arbor, located by its bore: which seat it takes, how far off it may sit, what would be cut into it."""

from collections.abc import Iterator

from ditto_run.core.findings import Finding, Weight
from ditto_run.core.hold.heights import Vise
from ditto_run.core.hold.pieces import InSetup, Removed
from ditto_run.core.part.shape.body import TINY, radius_at
from ditto_run.core.part.shape.laid import Shaped
from ditto_run.core.shop.steps_cut import LOOSEST
from ditto_run.core.sizes import Size
from ditto_run.core.units import LengthUnit, length_text, small_mm_text


class OnArbor:
    """A turned part on its arbor, looked at.

    Args:
        piece: the piece in and out.
        shaped: the part.
        vise: the arbor; its steps are its seats, diameter and length.
        unit: in which lengths are said.
    """

    def __init__(self, piece: InSetup, shaped: Shaped, vise: Vise, unit: LengthUnit) -> None:
        self.piece, self.vise, self.unit = piece, vise, unit
        setup = piece.setup
        named = {surface.lower() for surface in (*setup.locates_on, *setup.clamps_on)}
        self.bore = next((one for one in shaped.features if one.inner and one.name.lower() in named), None)
        self.across, self.zone = self._sits()

    def _sits(self) -> tuple[float, tuple[float, float] | None]:
        """The diameter of the bore, and from where to where along the axis it sits; no stretch where there is none by then, [mm]."""
        before = self.piece.before
        inside = [(z, r) for z, r in (self.bore.inner if self.bore else before.inner) if r > 0]
        least = min((r for _, r in inside), default=0.0)
        ends = [z for z, r in inside if r <= least + TINY]
        if not ends or radius_at(before.inner, (min(ends) + max(ends)) / 2) < least - TINY:
            return 0.0, None
        return 2 * least, (max(min(ends), before.low[0]), min(max(ends), before.high[0]))

    def _ask(self, code: str, problem: str, remedy: str, weight: Weight = "ask") -> Finding:
        setup = self.piece.setup
        return Finding(
            "hold", weight, code, f"{setup.name}: {problem}", remedy, f"setup {setup.key}", problem
        )

    def say(self, mm: float) -> str:
        """Return a length as it is said."""
        return length_text(mm, self.unit)

    def findings(self) -> Iterator[Finding]:
        """Return what is wrong with it, and by how much the piece may sit off.

        Source:
            A slip fit centres within half its play; own derivation.
        """
        if self.zone is None:
            yield self._ask(
                "arbor-no-bore",
                "the piece has no bore for the arbor by then.",
                "Bore it in the setup before, and locate on that.",
                "stop",
            )
            return
        yield from self._seats()
        for step in self.piece.steps:
            if self._runs_in(step, self.zone):
                yield self._ask(
                    "cut-meets-arbor",
                    f"{step.feature.name} runs into the arbor inside the bore.",
                    "Make it in another setup, or relieve the arbor there.",
                    "stop",
                )

    def _runs_in(self, step: Removed, zone: tuple[float, float]) -> bool:
        """True where a feature is bored where the arbor is, or goes through the wall across."""
        r = self.across / 2
        bored = any(zone[0] - TINY <= z <= zone[1] + TINY and at > r + TINY for z, at in step.inner)
        return bored or any(
            cut.low < r - TINY and min(cut.reach("x")[1], zone[1]) - max(cut.reach("x")[0], zone[0]) > TINY
            for cut in step.cuts
            if cut.axis != "x" and cut.key is not None and not cut.keeps
        )

    def _limits(self) -> tuple[float, float]:
        """The smallest and the largest the bore may be, [mm]."""
        sizes = self.bore.feature.sizes.values() if self.bore else ()
        size: Size | None = next((one for one in sizes if one.kind in {"diameter", "drill"}), None)
        if size is None:
            return self.across, self.across
        scale = 25.4 if size.unit == "in" else 1.0
        low, high = (
            self.across if limit is None else float(limit) * scale for limit in (size.lower, size.upper)
        )
        return low, high

    def _seats(self) -> Iterator[Finding]:
        """The seat the bore takes, or that an expanding arbor does not span it."""
        low, high = self._limits()
        name = self.vise.name
        if not self.vise.steps:
            small = self.vise.least is not None and low < self.vise.least - TINY
            large = self.vise.opens is not None and high > self.vise.opens + TINY
            if small or large:
                limit = self.vise.least if small else self.vise.opens
                which, bore = ("least", low) if small else ("most", high)
                yield self._ask(
                    "does-not-span",
                    f"{name} takes {self.say(limit or 0.0)} at {which}, and the bore is {self.say(bore)}.",
                    "Take another arbor.",
                    "stop",
                )
            return
        seats = sorted(float(step.across_mm) for step in self.vise.steps)
        seat = max((one for one in seats if one <= low + TINY), default=None)
        if seat is None or high - seat > float(LOOSEST) + TINY:
            have = " and ".join(self.say(one) for one in seats)
            yield self._ask(
                "arbor-no-seat",
                f"the bore is {self.say(low)}, and {name} has {have}.",
                "Turn another seat on it, and keep it on Shop.",
                "stop" if seat is None else "ask",
            )
        elif high - seat > TINY:
            off = small_mm_text((high - seat) / 2, self.unit)
            yield self._ask(
                "arbor-play",
                f"the bore may be {self.say(high)} on a seat of {self.say(seat)}: it may sit {off} off.",
                "Push it one way, or expand the arbor, where that is too much.",
                "note",
            )
