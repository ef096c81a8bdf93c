"""Sheets of how many: how many stations are worth it, and how many of a holder fit the table."""

from dataclasses import dataclass
from decimal import Decimal

from ditto_run.core.errors import BadEntry
from ditto_run.core.findings import Finding
from ditto_run.core.place.fill import fill_table
from ditto_run.core.place.placed import LAYOUTS, PLACED, Layout, Placed, Standing, stand
from ditto_run.core.place.station import Station
from ditto_run.core.place.worth import CYCLES, Cycle, Worth, knee, worth
from ditto_run.core.sheets import Answer, Entries, Entry, Fact, Grid, Known, SheetKind
from ditto_run.core.shop import Bed
from ditto_run.core.shop.looked_up import HOLDERS, MACHINES
from ditto_run.core.times import read_seconds
from ditto_run.core.units import clock_text, counted, length_text, small_text, span_text

MOST_STATIONS = 60
LETTERS = 26
OWN = "own derivation"


@dataclass(frozen=True, slots=True)
class WorthPicture:
    """Time per piece against the number of stations, the knee and the best marked."""

    rows: tuple[Worth, ...]
    knee: int
    best: int


@dataclass(frozen=True, slots=True)
class FullTable:
    """A table with as many holders as fit."""

    bed: Bed
    standings: tuple[Standing, ...]


def stations(entries: Entries, known: Known) -> Answer:
    """Return how many stations are worth it for a setup.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    cycle = _cycle(entries, known)
    most = entries.whole("most", 1, MOST_STATIONS, 12)
    quantity = entries.whole("quantity", 1, 100_000, known.quantity)
    repeat, zero = (float(entries.maybe_mm(name, above=False) or 0) for name in ("repeat", "zeros"))
    rows = worth(cycle, most, quantity, repeat, zero)
    at = knee(rows)
    best = (
        min(rows, key=lambda row: row.batch_s).stations if cycle.ready_s else at
    )  # free stations are always worth it
    chosen = rows[at - 1]
    more = (
        f"; one more saves {clock_text(chosen.piece_s - rows[at].piece_s)} a piece" if at < len(rows) else ""
    )
    facts = [
        Fact("The gain flattens at", f"{at}", f"{clock_text(chosen.piece_s)} a piece{more}"),
        Fact(
            f"Least time for {quantity}",
            f"{best}",
            f"{span_text(rows[best - 1].batch_s)}, getting ready included",
        )
        if cycle.ready_s
        else Fact(
            f"Least time for {quantity}", "not known", "say how long a station takes to place and zero"
        ),
    ]
    findings = []
    tolerance = entries.maybe_mm("tolerance")
    if tolerance is not None and chosen.spread_mm * 2 > float(tolerance) / 2:
        findings.append(
            Finding(
                "place",
                "ask",
                "stations-spread",
                f"Holders and zeros alone take {small_text(Decimal(repr(chosen.spread_mm * 2)), 'mm')} of {length_text(tolerance, known.unit)}.",
                "Fewer stations, a holder that repeats better, or zeros found more closely.",
            )
        )
    if best < at:
        findings.append(
            Finding(
                "place",
                "note",
                "short-batch",
                f"For {counted(quantity, 'piece')} {best} {'stands' if best == 1 else 'stand'} quicker: more stations take longer to get ready than they save.",
                "Use the knee when the job comes back.",
            )
        )
    grid = tuple(
        (
            str(r.stations),
            clock_text(r.piece_s),
            str(r.at_risk),
            clock_text(r.first_s),
            span_text(r.batch_s),
            small_text(Decimal(repr(r.spread_mm)), "mm") if r.spread_mm else "–",
        )
        for r in rows
    )
    return Answer(
        f"{at} {'station is' if at == 1 else 'stations are'} worth it{'' if best == at else f'; {best} for this batch'}.",
        f"{at} at risk a load, the first checked after {clock_text(chosen.first_s)}; changes and door are shared by all.",
        tuple(facts),
        (
            Grid(
                "By number of stations",
                ("Stations", "A piece", "At risk", "First checked", "Batch", "Holders, ±"),
                grid,
            ),
        ),
        tuple(findings),
        picture=WorthPicture(rows, at, best),
        picture_says=f"Time per piece from 1 to {most} stations; the gain flattens at {at}.",
        result={"knee": at, "best": best, "rows": rows},
        source=OWN,
    )


def _cycle(entries: Entries, known: Known) -> Cycle:
    key = entries.whole("setup", 0, 10**9, 0)
    found = next((cycle for cycle in known.of(CYCLES) if cycle.key == key), None)
    cut, change, handling = (
        read_seconds(entries.text(name), name)
        if entries.has(name)
        else float(getattr(found, f"{name}_s", 0.0))
        for name in ("cut", "change", "handling")
    )
    cycle = Cycle(key, "", None, cut, change, handling, entries.seconds("door"), entries.seconds("ready"))
    if cycle.cut_s <= 0:
        raise BadEntry(
            "No cutting time is known.", "Choose a setup with tool steps, or type the time.", "cut"
        )
    return cycle


def fill(entries: Entries, known: Known) -> Answer:
    """Return how many of a holder fit the table of a setup's machine.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    key = entries.whole("setup", 0, 10**9, 0)
    cycle = next((one for one in known.of(CYCLES) if one.key == key), None)
    if cycle is None:
        raise BadEntry("No setup is chosen.", "Choose the setup whose machine is meant.", "setup")
    machine = known.of(MACHINES).get(cycle.machine_id or 0)
    if machine is None or machine.bed is None:
        raise BadEntry(
            "The table of its machine is not measured.",
            "Type its size, slots and reach on Shop, under Table.",
            "setup",
        )
    holder = known.of(HOLDERS).get(entries.need("holder", "Vise 1"))
    if holder is None or holder.body is None:
        raise BadEntry(
            "That holder has no footprint.", "Type its sizes on Shop, Holders, under On the table.", "holder"
        )
    layout = known.of(LAYOUTS).get(key) or Layout(key)
    like = Placed(
        0,
        key,
        holder.name,
        holder.body,
        Decimal(0),
        Decimal(0),
        handle_off=entries.choice("handle", ("on", "off")) == "off",
    )
    gap = entries.maybe_mm("gap", above=False) or Decimal(0)
    others = known.of(PLACED).get(key, ()) if entries.choice("beside", ("empty", "there")) == "there" else ()
    found = fill_table(like, others, machine.bed, gap, layout)
    per = (len(holder.body.nests) or 1) * (layout.pieces if holder.body.jaw_mm is not None else 1)
    standings = []
    for n, (x, y) in enumerate(found.spots, 1):
        placed = Placed(
            n, key, holder.name, holder.body, x, y, Decimal(found.turn), handle_off=like.handle_off
        )
        label = chr(65 + (n - 1) % LETTERS) + (str((n - 1) // LETTERS + 1) if n > LETTERS else "")
        nests = [Station(key, label, nest=i) for i in range(len(holder.body.nests))] or [Station(key, label)]
        standings.append(stand(placed, tuple(nests), layout, machine.bed))
    count = len(found.spots)
    return Answer(
        f"{count} {holder.name} fit{'s' if count == 1 else ''}, {counted(count * per, 'piece')} a load."
        if count
        else f"No {holder.name} fits.",
        f"Turned {found.turn}°, each in reach with its cutter's radius and clear of what must stay free."
        if count
        else "Move what stands there, or take a smaller one.",
        (
            Fact(
                "Holders",
                str(count),
                f"to have them: Setting out, Place, {count} of it, turned {found.turn}°" if count else "",
            ),
            Fact("Pieces a load", str(count * per)),
        ),
        picture=FullTable(machine.bed, tuple(standings)) if count else None,
        picture_says=f"The table with {count} {holder.name}.",
        result={"count": count, "turn": found.turn, "spots_mm": found.spots},
        source="own method, row by row",
    )


STATIONS = SheetKind(
    "stations",
    "place",
    "How many are worth it",
    (
        Entry("setup", "Setup", kind="setup"),
        Entry("cut", "Cutting a piece"),
        Entry("change", "Tool changes a load"),
        Entry("handling", "Unload and load a piece"),
        Entry("door", "Door and start a load"),
        Entry("ready", "Placing and zeroing a station"),
        Entry("quantity", "Pieces"),
        Entry("repeat", "One holder repeats within, ±"),
        Entry("zeros", "Zeros agree within, ±"),
        Entry("tolerance", "Tolerance it goes into"),
        Entry("most", "Up to"),
    ),
    stations,
)
FILL = SheetKind(
    "fill",
    "place",
    "Fill the table",
    (
        Entry("setup", "Setup", kind="setup"),
        Entry("holder", "Holder", kind="holder"),
        Entry("gap", "Gap between"),
        Entry("handle", "Handles", kind="choose", choices=("on", "off")),
        Entry("beside", "The table is", kind="choose", choices=("empty", "there")),
    ),
    fill,
)
