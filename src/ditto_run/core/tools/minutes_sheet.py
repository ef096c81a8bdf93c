"""The sheet of minutes: where the time of a load goes, floor to floor, and what of it would be worth taking away."""

from dataclasses import dataclass
from typing import Literal

from ditto_run.core.errors import BadEntry
from ditto_run.core.sheets import Answer, Entries, Entry, Fact, Known, SheetKind
from ditto_run.core.units import clock_text, counted, span_text

Part = Literal["cutting", "in the air", "changes and moves", "hands", "gauging"]
MOST_PIECES = 1_000_000
MOST_LOAD = 100_000
WAYS: dict[Part, str] = {
    "cutting": "Faster, deeper or by a larger cutter: each tool says what its machine has left.",
    "in the air": "Shorter moves: start nearer, lift less, and let the program be read for slow moves in the air.",
    "changes and moves": "Fewer changes: the order of visits, more pieces a load, one tool for two cuts.",
    "hands": "Hands beside the cut: a second pallet or vise, a stop that needs no finding, two pieces at a time.",
    "gauging": "Gauge as often as the drift asks, and while it cuts.",
}


@dataclass(frozen=True, slots=True)
class Minutes:
    """Where the time of a load goes.

    Args:
        parts: each kind with its time, in the order of the work. [s]
        pieces: in the load. [pieces]
        pace: real over planned of what the machine does; 1 where nothing was taught. [-]
    """

    parts: tuple[tuple[Part, float], ...]
    pieces: int
    pace: float

    @property
    def load_s(self) -> float:
        """Floor to floor of a load, [s]."""
        return sum(seconds for _, seconds in self.parts)

    @property
    def piece_s(self) -> float:
        """The same, shared by its pieces, [s]."""
        return self.load_s / self.pieces

    @property
    def machine_s(self) -> float:
        """What the machine does of it, [s]."""
        return sum(seconds for part, seconds in self.parts if part not in {"hands", "gauging"})


def compute(entries: Entries, _known: Known) -> Answer:
    """Return the answer of the sheet of minutes.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    pieces = entries.whole("pieces", 1, MOST_LOAD, 1)
    pace = float(entries.number("pace", 0.05, 20, 1))
    cut, air = entries.seconds("cut"), entries.seconds("air")
    if air > cut:
        raise BadEntry("The moves in the air take more than all of the cut.", "They are a part of it.", "air")
    gauging = _gauging(entries)
    parts: tuple[tuple[Part, float], ...] = (
        ("cutting", (cut - air) * pace),
        ("in the air", air * pace),
        ("changes and moves", entries.seconds("change") * pace),
        ("hands", entries.seconds("hands") * pieces),
        ("gauging", gauging * pieces),
    )
    found = Minutes(tuple(one for one in parts if one[1] > 0), pieces, pace)
    if not found.parts:
        raise BadEntry(
            "None of it has a time yet.",
            "Give the tool steps their times, or take the computed ones.",
            "cut",
        )
    start = entries.whole("start", 1, MOST_PIECES, pieces)
    loads = -(-start // pieces)
    most = max(found.parts, key=lambda one: one[1])
    return Answer(
        f"{clock_text(round(found.piece_s))} a piece.",
        f"{most[1] / found.load_s:.0%} of it is {most[0]}. {WAYS[most[0]]}",
        tuple(_facts(found, loads)),
        picture=found,
        picture_says=_picture_says(found),
        result=found,
        source="sums of the steps; gauging counts where it does not fit beside the cut. The clock goes before it",
    )


def _facts(found: Minutes, loads: int) -> list[Fact]:
    rows = [
        Fact(part.capitalize(), clock_text(round(seconds)), f"{seconds / found.load_s:.0%} of a load")
        for part, seconds in found.parts
    ]
    rows.append(Fact("Load to load", clock_text(round(found.load_s)), counted(found.pieces, "piece")))
    return [*rows, Fact("All of them", span_text(found.load_s * loads), counted(loads, "load"))]


def _gauging(entries: Entries) -> float:
    """What gauging adds to a piece: its share of the loads, as far as it does not fit beside the cut, [s]."""
    every = entries.whole("every", 1, 10_000, 1)
    each = entries.seconds("gauge") / every
    beside = entries.choice("beside", ("yes", "no")) == "yes"
    pieces = entries.whole("pieces", 1, MOST_LOAD, 1)
    return max(each - entries.seconds("cut") / pieces, 0.0) if beside else each


def _picture_says(found: Minutes) -> str:
    rows = ", ".join(f"{part} {clock_text(round(seconds))}" for part, seconds in found.parts)
    return f"One load of {counted(found.pieces, 'piece')}: {rows}."


MINUTES = SheetKind(
    "minutes",
    "tools",
    "Where the minutes go",
    (
        Entry("cut", "Cuts, a load"),
        Entry("air", "Of that in the air"),
        Entry("change", "Changes and moves, a load"),
        Entry("hands", "Unload and load, a piece"),
        Entry("gauge", "Gauging, a piece"),
        Entry("every", "Gauged every so many loads"),
        Entry("beside", "While it cuts", kind="choose", choices=("yes", "no")),
        Entry("pieces", "Pieces of a load"),
        Entry("start", "Pieces to start"),
        Entry("pace", "Pace: real over planned"),
    ),
    compute,
)
