"""A block between two jaws, looked at by size: what is gripped, what a cut runs into, what is under a hole."""

from collections.abc import Iterator
from decimal import Decimal

from ditto_run.core.findings import Finding, Weight
from ditto_run.core.hold.heights import (
    ANGLE_PLATE,
    FACE_PLATE,
    NEST,
    Heights,
    Vise,
    jaw_axis,
    strap_box,
    up_of,
    walls_of,
)
from ditto_run.core.hold.pieces import InSetup, Removed, without_step
from ditto_run.core.part.features.kinds import Role
from ditto_run.core.part.shape.block import NORMAL
from ditto_run.core.part.shape.body import AXES, FAR, FLAT, TINY, Prism, Solid, material_along
from ditto_run.core.part.shape.holes import ROUND
from ditto_run.core.part.shape.laid import POINT, Shaped, known_mm
from ditto_run.core.part.shape.plane import Oblong
from ditto_run.core.units import LengthUnit, length_text

QUARTER = 0.25  # grip over what stands up; common practice, no source
BEYOND = 1.0  # how far a drill runs out below the piece besides its point; common practice, no source. [mm]
LEAST_SEAT = 0.2  # of the piece's footprint
LEAST_JAW = 0.5  # of the jaw's face that finds metal
LOOKS = 9  # places looked at along the jaws
PLATES = {"vacuum", "magnet", "fixture plate", FACE_PLATE, "plate"}
BACKED = 0.5  # of its height that an angle plate should back; common practice, no source
WORDS = {NEST: "nest", ANGLE_PLATE: "angle plate"}
STARTS = {"chamfer", "broken edge", "hole", "tapped hole", "bore", "centre hole"}


class BetweenJaws:
    """A block in a setup, looked at."""

    def __init__(self, piece: InSetup, shaped: Shaped, vise: Vise, unit: LengthUnit) -> None:
        self.piece, self.shaped, self.vise, self.unit = piece, shaped, vise, unit
        self.setup = piece.setup
        self.up = up_of(self.setup)
        self.through, self.inward = NORMAL[self.up]
        axis = jaw_axis(self.setup)
        self.axis = axis if axis != self.through and vise.kind not in WORDS else None
        self.walls = walls_of(self.setup, vise.kind)

    def height(self, at: float) -> float:
        """Height above the bed of a place along the direction that is up."""
        index = AXES.index(self.through)
        before = self.piece.before
        above = at - before.low[index] if self.inward < 0 else before.high[index] - at
        return above + float(self.setup.held.parallels_mm)

    def reach(self, cut: Prism) -> tuple[float, float]:
        """Least and largest height of a cut."""
        low, high = sorted(self.height(at) for at in cut.box[AXES.index(self.through)])
        return low, high

    def heights(self) -> Heights:
        """Return what stands how high."""
        held = self.setup.held
        seat = float(held.parallels_mm)
        index = AXES.index(self.through)
        raw = seat + self.piece.before.size[index]
        faced = [
            self.reach(cut)[0]
            for step in self.piece.steps
            for cut in step.cuts
            if cut.key is None and cut.face == self.up
        ]
        finished = min([raw, *faced])
        jaw = float(held.jaw_high_mm) if held.jaw_high_mm is not None else self.vise.high
        grip = None if jaw is None else min(jaw - seat, raw - seat)
        step = float(held.grip_mm) if held.grip_mm is not None else self._step()
        if step is not None:  # cut into the jaws: the piece sits in it
            grip, jaw = step, seat + step
        floors = [
            (step.feature.name, self._floor(cut))
            for step in self.piece.steps
            for cut in step.cuts
            if self._from_above(cut)
        ]
        deepest = min(floors, key=lambda f: f[1], default=None)
        return Heights(
            seat,
            jaw,
            raw,
            finished,
            deepest[1] if deepest else None,
            deepest[0] if deepest else "",
            grip,
            tuple(floors),
        )

    def _step(self) -> float | None:
        """How deep the step is that is cut into the jaws or the nest for a piece as wide as this one; None without one."""
        wide = self._across() if self.vise.kind == NEST else self._across()[-1:] if self.axis else []
        found = next(
            (s for s in self.vise.steps if any(s.takes(one) for one in wide) and not s.is_round), None
        )
        return None if found is None else float(found.deep_mm)

    def _across(self) -> list[Decimal]:
        """How wide the piece is in its two flat directions, the one between the jaws last, [mm]."""
        flat = sorted(FLAT[self.through], key=lambda one: one == self.axis)
        return [Decimal(repr(round(self.piece.before.size[AXES.index(one)], 4))) for one in flat]

    def _from_above(self, cut: Prism) -> bool:
        return (
            cut.key is not None
            and cut.axis == self.through
            and not cut.keeps
            and self.reach(cut)[1] > FAR / 2
        )

    def _floor(self, cut: Prism) -> float:
        """How deep a tool goes: to its floor and its point; below a piece it goes through, its point and a little."""
        floor = self.reach(cut)[0]
        if floor < -FAR / 2:
            r = (cut.shape.bounds[2] - cut.shape.bounds[0]) / 2
            return (
                float(self.setup.held.parallels_mm) - (2 * r * POINT if self._is_hole(cut) else 0.0) - BEYOND
            )
        return floor - cut.tip

    def _is_hole(self, cut: Prism) -> bool:
        laid = self.shaped.laid(cut.key) if cut.key is not None else None
        return laid is not None and laid.feature.kind in ROUND

    def say(self, mm: float) -> str:
        """Return a length as it is said."""
        return length_text(mm, self.unit)

    def ask(self, code: str, problem: str, remedy: str, weight: Weight = "ask") -> Finding:
        """Return a question about the setup."""
        return Finding(
            "hold", weight, code, f"{self.setup.name}: {problem}", remedy, f"setup {self.setup.key}", problem
        )

    def findings(self, heights: Heights) -> Iterator[Finding]:
        """Return what is wrong or has to be asked of the setup."""
        yield from self._seat()
        yield from self._starts()
        yield from self._stop()
        yield from self._on_a_plate()
        yield from self._straps()
        if self.vise.kind == NEST:
            yield from self._goes_in()
        if not self.walls or heights.grip is None or heights.jaw is None:
            return
        yield from self._meets(heights)
        yield from self._under(heights)
        if self.vise.kind == ANGLE_PLATE:
            yield from self._backed(heights)
        if self.axis is not None:
            yield from self._opening()
            yield from self._shallow(heights)
            yield from self._gripped(heights)

    def _seat(self) -> Iterator[Finding]:
        """What it sits on is there to sit on."""
        index = AXES.index(self.through)
        before = self.piece.before
        near = before.low[index] + 1e-4 if self.inward < 0 else before.high[index] - 1e-4
        a, b = (before.size[AXES.index(one)] for one in FLAT[self.through])
        share = before.section(self.through, near).area / (a * b)
        if share < LEAST_SEAT:
            yield self.ask(
                "seat-small",
                f"it sits on {share * 100:.0f} % of its footprint.",
                "Sit it on a face that is left, or support it beside.",
            )

    def _starts(self) -> Iterator[Finding]:
        """A drill or a chamfer that begins where stock still lies above."""
        now = self.piece.before
        for step in self.piece.steps:
            laid = self.shaped.laid(step.feature.key)
            if laid is not None and laid.feature.kind in STARTS and step.feature.face in NORMAL:
                over = _stock_above(now, self.shaped, step.feature.face)
                if over > TINY:
                    yield self.ask(
                        "starts-in-stock",
                        f"{step.feature.name} begins {self.say(over)} deep: the {step.feature.face} is not faced by then.",
                        "Face it first, or let it stand where the tool is long enough.",
                    )
            now = without_step(now, step)

    def _on_a_plate(self) -> Iterator[Finding]:
        """On a plate nothing is under the piece but the plate; on a vacuum a hole lets air in."""
        if self.vise.kind not in PLATES:
            return
        through = [
            step.feature.name
            for step in self.piece.steps
            if any(self._from_above(cut) and self.reach(cut)[0] < -FAR / 2 for cut in step.cuts)
        ]
        if not through:
            return
        names = " and ".join(through)
        if self.vise.kind == "vacuum":
            yield self.ask(
                "vacuum-leaks",
                f"{names} {'goes' if len(through) == 1 else 'go'} through and {'lets' if len(through) == 1 else 'let'} air in.",
                "Leave a skin, plug it from below, or make it where it is clamped.",
                "stop",
            )
        elif not self.setup.held.parallels_mm:
            yield self.ask(
                "through-into-plate",
                f"{names} {'goes' if len(through) == 1 else 'go'} through, and the plate is under it.",
                "Type the riser or parallels, or say in a note that the plate is relieved there.",
            )

    def _stop(self) -> Iterator[Finding]:
        """Cuts that run out of the face the stop is at, and how far below its top where that is said."""
        face, high = self.setup.held.to_stop, self.setup.held.stop_high_mm
        if face not in NORMAL or NORMAL[face][0] == self.through:
            return
        axis, inward = NORMAL[face]
        index = AXES.index(axis)
        edge = self.piece.before.low[index] if inward > 0 else self.piece.before.high[index]
        for step in self.piece.steps:
            floors = [
                self.reach(cut)[0]
                for cut in step.cuts
                if (cut.box[index][0] < edge - TINY if inward > 0 else cut.box[index][1] > edge + TINY)
                and not (cut.key is None and cut.face == self.up)
                and self._takes_something(cut)
            ]
            deep = (
                float(high) - max(min(floors), float(self.setup.held.parallels_mm))
                if floors and high is not None
                else None
            )
            if not floors or (deep is not None and deep <= TINY):
                continue
            how = f", {self.say(deep)} below its top" if deep is not None else ""
            yield self.ask(
                "cut-meets-stop",
                f"{step.feature.name} runs out of the {face}, where the stop is{how}.",
                "Put the stop on the other side, or lower; or say how high it is.",
                "ask" if deep is None else "stop",
            )

    def _straps(self) -> Iterator[Finding]:
        """Cuts from above that a clamp on the face lies over, by how much."""
        from shapely import box  # noqa: PLC0415 - shapely takes 0.2 s

        first, second = (AXES.index(axis) for axis in FLAT[self.through])
        for face, reach in self.setup.held.straps:
            if face not in NORMAL or NORMAL[face][0] == self.through:
                continue
            low, high = strap_box(self.piece.before, face, float(reach))
            strap = box(low[first], low[second], high[first], high[second])
            for step in self.piece.steps:
                over = [
                    cut.shape.polygon.intersection(strap)
                    for cut in step.cuts
                    if cut.axis == self.through and not cut.keeps and self.reach(cut)[1] > FAR / 2
                ]
                sizes = [
                    min(o.bounds[2] - o.bounds[0], o.bounds[3] - o.bounds[1]) for o in over if o.area > TINY
                ]
                if sizes:
                    yield self.ask(
                        "cut-meets-clamp",
                        f"{step.feature.name} runs {self.say(max(sizes))} under the clamp at the {face}.",
                        "Move the clamp, or make it a clamp relay: cut it once the straps are off.",
                        "ask" if self.setup.relay else "stop",
                    )

    def _opening(self) -> Iterator[Finding]:
        wide = self.piece.before.size[AXES.index(self.axis)] if self.axis else 0.0
        if self.vise.opens is not None and wide > self.vise.opens + TINY:
            yield self.ask(
                "jaws-too-narrow",
                f"the piece is {self.say(wide)} between the jaws, which open {self.say(self.vise.opens)}.",
                "Turn it, or take a larger holder.",
                "stop",
            )

    def _shallow(self, heights: Heights) -> Iterator[Finding]:
        stands = heights.stands
        if heights.grip is None or stands is None:
            return
        if heights.grip <= TINY:
            yield self.ask(
                "no-grip", "nothing of the piece is between the jaws.", "Take lower parallels.", "stop"
            )
        elif stands > TINY and heights.grip < QUARTER * stands - TINY:
            yield self.ask(
                "grip-shallow",
                f"{self.say(heights.grip)} is gripped and {self.say(stands)} stands up; a quarter is {self.say(QUARTER * stands)}.",
                "Grip deeper, cut lighter, or support it; common practice.",
            )

    def _goes_in(self) -> Iterator[Finding]:
        """A nest takes the piece: one of its steps is as wide as the piece, and no more than a little wider."""
        steps = [step for step in self.vise.steps if not step.is_round]
        if steps and self._step() is None:
            have = " and ".join(self.say(float(step.across_mm)) for step in steps)
            is_wide = " by ".join(self.say(float(wide)) for wide in self._across())
            yield self.ask(
                "nest-does-not-fit",
                f"{self.vise.name} is cut for {have}, and the piece is {is_wide} there.",
                "Cut another step, and keep it on Shop; or take another holder.",
            )

    def _backed(self, heights: Heights) -> Iterator[Finding]:
        """How much of the piece stands above the angle plate."""
        high = heights.raw - heights.seat
        backed = max(min(heights.grip or 0.0, high), 0.0)
        if backed < BACKED * high - TINY:
            yield self.ask(
                "backed-short",
                f"the angle plate backs {self.say(backed)} of {self.say(high)}; half is usual.",
                "Take a higher plate, cut lighter, or back it above; common practice.",
            )

    def _along(self, axis: str) -> tuple[float, float]:
        """From where to where the holder reaches along a face whose direction that is."""
        index = next(i for i, one in enumerate(AXES) if one not in {self.through, axis})
        low, high = self.piece.before.low[index], self.piece.before.high[index]
        if self.vise.wide is None or self.vise.kind == NEST:
            return low, high
        middle = (low + high) / 2
        return middle - self.vise.wide / 2, middle + self.vise.wide / 2

    def _meets(self, heights: Heights) -> Iterator[Finding]:
        """Cuts that run into a jaw, a nest or an angle plate, each feature once, by how much below its top."""
        jaw = heights.jaw or 0.0
        word = WORDS.get(self.vise.kind, "jaws")
        ends = f"{'they end' if word == 'jaws' else 'it ends'} at {self.say(jaw)} above the bed"
        for step in self.piece.steps:
            over = [
                jaw - max(self.reach(cut)[0], heights.seat)
                for cut in (*step.cuts, *self._edges(step))
                if any(self._beside(cut, face) for face in self.walls) and self._takes_something(cut)
            ]
            deep = max(over, default=0.0)
            if deep > TINY:
                facing = any(c.key is None and c.face == self.up for c in step.cuts)
                yield self.ask(
                    "faces-below-jaws" if facing else "cut-meets-jaws",
                    f"{step.feature.name} runs {self.say(deep)} into the {word}: {ends}.",
                    "Raise it on parallels, cut a step into the jaws, or make it in another setup."
                    if word == "jaws"
                    else "Raise it, relieve the holder there, or make it in another setup.",
                    "stop",
                )

    def _takes_something(self, cut: Prism) -> bool:
        """True where there is stock for a cut to take; with no blank known, an outline has none beside it."""
        before = self.piece.before
        return all(
            min(b, high) - max(a, low) > TINY
            for (a, b), low, high in zip(cut.box, before.low, before.high, strict=True)
        )

    def _beside(self, cut: Prism, face: str) -> bool:
        """True where a cut lies in the stretch of what stands at a face, more than touching it."""
        axis, inward = NORMAL[face]
        index = AXES.index(axis)
        along = next(i for i, one in enumerate(AXES) if one not in {self.through, axis})
        left, right = self._along(axis)
        low, high = (
            (-FAR, self.piece.before.low[index]) if inward > 0 else (self.piece.before.high[index], FAR)
        )
        a, b = cut.box[index]
        reaches = min(b, high) - max(a, low) > TINY
        return reaches and min(cut.box[along][1], right) - max(cut.box[along][0], left) > TINY

    def _edges(self, step: Removed) -> tuple[Prism, ...]:
        """The bevel of a chamfer all round, as deep as it is."""
        laid = self.shaped.laid(step.feature.key)
        if (
            laid is None
            or laid.feature.kind not in {"chamfer", "broken edge"}
            or laid.feature.face not in {self.up, ""}
        ):
            return ()
        size = known_mm(laid.feature.sizes, Role.SIZE)
        body = self.shaped.body
        if size is None or body is None:
            return ()
        index = AXES.index(self.through)
        low, high = (body.high[index] - size, FAR) if self.inward < 0 else (-FAR, body.low[index] + size)
        return (Prism(None, step.feature.name, self.through, Oblong(-FAR, -FAR, FAR, FAR), low, high),)

    def _gripped(self, heights: Heights) -> Iterator[Finding]:
        """What is between the jaws is there, before and after, and it is solid across."""
        for body, when in ((self.piece.before, "goes in"), (self.piece.after, "comes out")):
            share, open_share, wall = self._metal(body, heights)
            if share < LEAST_JAW:
                yield self.ask(
                    "grip-missing",
                    f"the jaws find metal on {share * 100:.0f} % of what they reach as the piece {when}.",
                    "Grip where it is left, or cut that in another setup.",
                    "stop" if share < TINY else "ask",
                )
                return
            if open_share > LEAST_JAW:
                yield self.ask(
                    "squeezed-open",
                    f"as the piece {when}, the jaws squeeze it across an opening: walls of {self.say(wall)} bear it.",
                    "Fill it with a plug, grip the other way, or tighten lightly and measure it released.",
                )
                return

    def _metal(self, body: Solid, heights: Heights) -> tuple[float, float, float]:
        """Share of looks at which a jaw finds metal on both sides, share of those with an opening between, and the least wall."""
        axis = self.axis or "y"
        index = AXES.index(axis)
        along = next(i for i, one in enumerate(AXES) if one not in {self.through, axis})
        left, right = self._along(axis)
        left, right = max(left, self.piece.before.low[along]), min(right, self.piece.before.high[along])
        # the jaws stand where the piece is widest at the height they grip
        low, high = body.high[index], body.low[index]
        rows: list[list[tuple[float, float]]] = []
        for i in range(LOOKS):
            for share in (0.2, 0.8):
                up = share * (heights.grip or 0.0)
                at = left + (i + 0.5) / LOOKS * (right - left)
                spans = material_along(body, axis, self._spot(at, up))
                rows.append(spans)
                if spans:
                    low, high = min(low, spans[0][0]), max(high, spans[-1][1])
        held = [spans for spans in rows if spans and spans[0][0] < low + 1e-3 and spans[-1][1] > high - 1e-3]
        opened = [spans for spans in held if len(spans) > 1]
        wall = min((b - a for spans in opened for a, b in spans), default=0.0)
        return len(held) / len(rows), len(opened) / max(len(held), 1), wall

    def _spot(self, along: float, up: float) -> tuple[float, float]:
        """Where a line in the jaws' direction stands in the other two."""
        index = AXES.index(self.through)
        before = self.piece.before
        level = before.low[index] + up if self.inward < 0 else before.high[index] - up
        first, _ = FLAT[self.axis or "y"]
        return (level, along) if first == self.through else (along, level)

    def _under(self, heights: Heights) -> Iterator[Finding]:
        """What is under a hole that goes through: room, or the parallel itself."""
        index = AXES.index(self.axis or "y")
        before = self.piece.before
        thick = self.setup.held.parallel_wide_mm
        for step in self.piece.steps:
            for cut in step.cuts:
                if not self._from_above(cut) or self.reach(cut)[0] > -FAR / 2:
                    continue
                floor = self._floor(cut)
                if floor < -TINY:
                    need = heights.seat - floor
                    yield self.ask(
                        "through-no-room",
                        f"{step.feature.name} goes through and needs {self.say(need)} below the piece; there is {self.say(heights.seat)}.",
                        "Put it on parallels that high, or over a gap.",
                        "stop",
                    )
                    break
                a, b = (
                    cut.shape.bounds[FLAT[cut.axis].index(AXES[index])],
                    cut.shape.bounds[FLAT[cut.axis].index(AXES[index]) + 2],
                )
                room = min(a - before.low[index], before.high[index] - b)
                if thick is not None and heights.seat > TINY and room < float(thick) - TINY:
                    yield self.ask(
                        "hole-meets-parallel",
                        f"{step.feature.name} runs into a parallel: {self.say(max(room, 0.0))} from the jaw, "
                        f"and the parallel is {self.say(float(thick))} thick.",
                        "Take a thinner parallel, or set it clear of the hole.",
                        "stop",
                    )
                    break


def _stock_above(now: Solid, shaped: Shaped, face: str) -> float:
    """How much stock lies above a face of the part, [mm]."""
    body = shaped.body
    if body is None:
        return 0.0
    axis, inward = NORMAL[face]
    index = AXES.index(axis)
    beyond = body.low[index] - now.low[index] if inward > 0 else now.high[index] - body.high[index]
    return max(beyond, 0.0)
