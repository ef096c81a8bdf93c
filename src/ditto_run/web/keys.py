"""The one table of keys. Handlers, the `?` sheet and a test for collisions all read it.

A key presses the control that bears its `data-key`; where there is none on the page it does nothing.
"""

from dataclasses import dataclass
from typing import Literal

Place = Literal[
    "everywhere",
    "run",
    "jobs",
    "method",
    "stock",
    "place",
    "open",
    "close",
    "hold",
    "part",
    "tools",
    "prove",
    "week",
]


@dataclass(frozen=True, slots=True)
class Key:
    """One key.

    Args:
        key: as the browser names it, with Shift+ where wanted.
        place: the pages where it is live.
        does: what it does, in words.
        letter: True if it is a single character that can be switched off.
    """

    key: str
    place: Place
    does: str
    letter: bool = True


STEP_KEYS = tuple(
    Key(str(n), "everywhere", f"step {n}; on the list of jobs, open row {n}") for n in range(1, 10)
)
KEYS = (
    *STEP_KEYS,
    Key("0", "everywhere", "all jobs"),
    Key("a", "everywhere", "what is open in this job"),
    Key("Arrows", "open", "up and down: the next thing of the list", letter=False),
    Key("Enter", "open", "go where the chosen thing is settled", letter=False),
    Key("r", "stock", "put what is left of the last bar on the shelf"),
    Key("e", "open", "let the chosen thing stand: why it may"),
    Key("s", "everywhere", "say the last thing again"),
    Key("Shift+S", "everywhere", "say where I am and what is open"),
    Key("l", "everywhere", "print"),
    Key("Shift+N", "everywhere", "night theme"),
    Key("?", "everywhere", "all keys and shapes"),
    Key("F1", "everywhere", "how this step works", letter=False),
    Key("z", "everywhere", "undo"),
    Key("Shift+Z", "everywhere", "redo"),
    Key("u", "everywhere", "Shop: machines, gauges, people, backup"),
    Key("w", "jobs", "the week: what next on which machine"),
    Key("e", "week", "the chosen job earlier on its machine"),
    Key("t", "week", "the chosen job later"),
    Key("p", "week", "take the order that is proposed"),
    Key("n", "jobs", "new job"),
    Key("/", "jobs", "search"),
    Key("t", "method", "compare times"),
    Key("c", "method", "compare cost"),
    Key("d", "method", "compare days until all are there"),
    Key("p", "method", "try another number of pieces"),
    Key("w", "method", "another way"),
    Key("q", "method", "a first plan, proposed"),
    Key("o", "method", "the chosen plan as it was proposed"),
    Key("ArrowLeft", "method", "the proposal before", letter=False),
    Key("ArrowRight", "method", "the proposal after", letter=False),
    Key("Arrows", "method", "up and down: the next question; Enter opens it", letter=False),
    Key("Enter", "method", "do the brass thing, or open the question that has the focus", letter=False),
    Key("f", "method", "another figure; of a proposed plan, the next thing turned down"),
    Key("j", "method", "find a sheet"),
    Key("t", "place", "turn the chosen holder a quarter"),
    Key("m", "place", "mirror the chosen holder"),
    Key("h", "place", "take its handle off, or put it on"),
    Key("g", "place", "go to a station's holder: then its label"),
    Key("Arrows", "place", "move the holder that has the focus; with Shift a tenth of a step", letter=False),
    Key("Arrows", "hold", "up and down: the next question; Enter opens it", letter=False),
    Key("Enter", "hold", "do the brass thing, or open the question that has the focus", letter=False),
    Key("c", "hold", "change this setup"),
    Key("n", "hold", "another setup"),
    Key("o", "hold", "the next setup"),
    Key("f", "hold", "another figure"),
    Key("j", "hold", "find a sheet"),
    Key("n", "part", "say another feature"),
    Key("Arrows", "part", "up and down: the next size, feature or question; Enter opens it", letter=False),
    Key("Enter", "part", "open the row that has the focus", letter=False),
    Key("f", "part", "another figure"),
    Key("j", "part", "find a sheet"),
    Key("Arrows", "tools", "up and down: the next question, order or visit; Enter opens it", letter=False),
    Key("Enter", "tools", "take the order that is shown, or open the row that has the focus", letter=False),
    Key("f", "tools", "another figure"),
    Key("e", "tools", "the picked visit earlier"),
    Key("t", "tools", "the picked visit later"),
    Key("ArrowLeft", "tools", "the tool before", letter=False),
    Key("ArrowRight", "tools", "the tool after", letter=False),
    Key("c", "tools", "change the tool that is shown"),
    Key("q", "hold", "take the fewest setups that are proposed"),
    Key("h", "hold", "take those that ask less"),
    Key("q", "tools", "take the quick tools that are proposed"),
    Key("h", "tools", "take the thorough ones"),
    Key("w", "tools", "write the skeleton of a program"),
    Key("d", "tools", "take out the program that was written"),
    Key("Arrows", "stock", "up and down: the next question; Enter opens it", letter=False),
    Key("Enter", "stock", "do the brass thing, or open the question that has the focus", letter=False),
    Key("f", "stock", "another figure"),
    Key("j", "stock", "find a sheet"),
    Key("c", "close", "close the batch"),
    Key("t", "close", "teach the shop what a closed batch says"),
    Key("b", "close", "begin the next batch of a closed job"),
    Key("Space", "prove", "the thing in large was looked at; in a practice, cut the next load", letter=False),
    Key("ArrowLeft", "prove", "in a rehearsal, the load before", letter=False),
    Key("ArrowRight", "prove", "in a rehearsal, the load after", letter=False),
    Key("e", "prove", "what was forgotten: it is asked first next time"),
    Key("k", "prove", "the knob was set at the machine as the trials say"),
    Key("Space", "run", "start or end the cycle", letter=False),
    Key("Enter", "run", "accept the reading, or do the brass thing", letter=False),
    Key("i", "run", "millimetres or inches for this entry"),
    Key("v", "run", "GO"),
    Key("Shift+V", "run", "NO-GO"),
    Key("d", "run", "load step by step; in it, this is done"),
    Key("n", "run", "the usual charts, to look at"),
    Key("f", "run", "when it will be done, and where the time went"),
    Key("h", "run", "held pieces: gauge the first"),
    Key("y", "run", "do what is advised, or say that it is done"),
    Key("x", "run", "mark the piece in hand: hold, scrap, rework"),
    Key("w", "run", "a reading in mid-cut: measured, then cut again"),
    Key("j", "run", "this size: in another setup, how often, or not on this piece"),
    Key("p", "run", "what the plan says of this setup"),
    Key("k", "run", "offset, dial, stop or setting changed"),
    Key("e", "run", "note"),
    Key("b", "run", "new bar, box of blanks or shift"),
    Key("m", "run", "stations: switch on and off, short load"),
    Key("t", "run", "write loads down later"),
    Key("r", "run", "readings and log: correct one"),
    Key("o", "run", "go on in another setup"),
    Key("g", "run", "go to a station: then its label"),
    Key("c", "run", "close the batch, or take a changed plan"),
    Key("q", "run", "tones on or off"),
    Key("Shift+Q", "run", "app voice on or off"),
)
