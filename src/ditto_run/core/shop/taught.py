"""What closed batches taught the shop: its own figures for the next plan, by machine, way and material."""

from collections.abc import Iterable
from dataclasses import dataclass, replace
from math import inf
from typing import Literal, get_args

from ditto_run.core.sheets.entries import Entries
from ditto_run.core.units import counted

Teaches = Literal["pace", "handling", "setting up", "scrap", "drift", "speed"]
TEACHES: tuple[Teaches, ...] = get_args(Teaches)
TEACHES_WORDS: dict[Teaches, str] = {
    "pace": "cut, against the plan",
    "handling": "unload and load a piece",
    "setting up": "setting up",
    "scrap": "scrap",
    "drift": "drift in 100 pieces",
    "speed": "speed of a tool",
}
OF_ANY_WAY: frozenset[Teaches] = frozenset({"pace", "drift"})
PACES = (0.05, 20)  # real over planned; beyond them something else was clocked than the cut
SCRAPS = (0, 90)  # of the pieces, %
DRIFTS = (0, 5)  # in 100 pieces of a station, mm
SPEEDS = (1, 200_000)  # of the spindle, rev/min
MOST_FROM = 30  # batches named in a row; older ones still count in it


@dataclass(frozen=True, slots=True)
class Taught:
    """One figure that batches taught.

    Args:
        figure: what it is: pace is the real cycle over the planned one.
        value: mean of the batches. [pace -; handling and setting up s; scrap %; drift mm in 100 pieces of a station; speed rev/min]
        batches: how many it rests on.
        pieces: of all of them. [pieces]
        way: kind of the way, such as several-up, or the tool whose speed it is; empty for any.
        machine: its name.
        material: as the job named it; empty where the figure does not hang on it.
        batches_named: which batches, as job and batch, the newest last.
    """

    figure: Teaches
    value: float
    batches: int
    pieces: int
    way: str
    machine: str
    material: str = ""
    batches_named: tuple[str, ...] = ()

    @property
    def place(self) -> tuple[str, str, str, str]:
        """What tells it from other figures."""
        return self.figure, self.way, self.machine.lower(), self.material.lower()

    @property
    def rests_on(self) -> str:
        """How many batches it rests on, in words."""
        return counted(self.batches, "batch")

    @property
    def shown(self) -> str:
        """Its value as it is read and listed."""
        if self.figure == "pace":
            return f"{self.value:.2f}"
        if self.figure == "drift":
            return f"{self.value:.4f} mm"
        if self.figure == "speed":
            return f"{self.value:.0f}"
        return f"{self.value:.1f} %" if self.figure == "scrap" else f"{self.value:.0f} s"

    @property
    def credible(self) -> bool:
        """Whether it is within what the register takes: a run keyed faster than it was cut teaches no pace."""
        least, most = {"pace": PACES, "scrap": SCRAPS, "drift": DRIFTS, "speed": SPEEDS}.get(
            self.figure, (0, inf)
        )
        return least <= self.value <= most

    @property
    def texts(self) -> dict[str, str]:
        """It as a row of the register."""
        words = (TEACHES_WORDS[self.figure], self.machine, self.way, self.material)
        return {
            "name": ", ".join(word for word in words if word),
            "figure": self.figure,
            "value": self.shown,
            "batches": str(self.batches),
            "pieces": str(self.pieces),
            "way": self.way,
            "machine": self.machine,
            "material": self.material,
            "from": " ".join(self.batches_named),
        }


def read_taught(entries: Entries) -> Taught:
    """Return the figure that a row of the register holds.

    Raises:
        BadEntry: at the column that cannot be read.
    """
    entries.need("name", "scrap, Mill 2")
    figure = TEACHES[TEACHES.index(entries.choice("figure", TEACHES))]
    if figure == "pace":
        value = float(entries.number("value", *PACES))
    elif figure == "speed":
        value = float(entries.number("value", *SPEEDS))
    elif figure == "scrap":
        value = float(entries.percent("value", *SCRAPS))
    elif figure == "drift":
        value = float(entries.mm("value", "0.012 mm", above=False))
    else:
        entries.need("value", "41 s")
        value = entries.seconds("value")
    return Taught(
        figure,
        value,
        entries.whole("batches", 1, 10_000, 1),
        entries.whole("pieces", 0, 10_000_000, 0),
        entries.text("way"),
        entries.need("machine", "Mill 2"),
        entries.text("material"),
        tuple(entries.text("from").split())[-MOST_FROM:],
    )


def taught_with(row: Taught | None, lesson: Taught) -> Taught:
    """Return a figure with one batch more: the mean, each batch weighing the same.

    Args:
        row: what was known; None where nothing was.
        lesson: what one batch says.

    Returns:
        The figure; unchanged where that batch is in it already.

    Source:
        Running mean; own derivation.
    """
    if row is None:
        return lesson
    if set(lesson.batches_named) & set(row.batches_named):
        return row
    batches = row.batches + lesson.batches
    value = (row.value * row.batches + lesson.value * lesson.batches) / batches
    named = (*row.batches_named, *lesson.batches_named)[-MOST_FROM:]
    return replace(row, value=value, batches=batches, pieces=row.pieces + lesson.pieces, batches_named=named)


def taught_for(
    rows: Iterable[Taught], figure: Teaches, way: str, machine: str, material: str = ""
) -> Taught | None:
    """Return what the shop knows of a figure: on that machine, best by that way and of that material; None where nothing.

    Args:
        rows: all that was taught.
        figure: what is looked for.
        way: kind of the way.
        machine: its name.
        material: as the job names it.

    Returns:
        The nearest row: handling, setting up and scrap only by the same kind of way, pace and drift of any way.
    """
    found = [
        row
        for row in rows
        if row.figure == figure
        and row.machine.lower() == machine.strip().lower()
        and (figure in OF_ANY_WAY or row.way == way)
        and (not row.material or row.material.lower() == material.strip().lower())
    ]
    return max(found, key=lambda row: (row.way == way, row.batches), default=None)
