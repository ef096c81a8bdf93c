"""What a machine can do, as typed from its manual."""

import re
from dataclasses import replace
from decimal import Decimal

from ditto_run.core.errors import BadEntry
from ditto_run.core.sheets.entries import Entries
from ditto_run.core.shop.bed import Bed, read_bed
from ditto_run.core.shop.registers import Ability, Tapping

LABELS = {
    "power": "Power",
    "torque": "Torque",
    "max_rpm": "Speed",
    "travel_x": "X travel",
    "travel_y": "Y travel",
    "travel_z": "Z travel",
    "bar": "Bar",
    "swing": "Swing",
    "speeds": "Speeds of its belts or gears",
    "rapid": "Rapid",
    "accel": "Gathers speed",
    "change": "Tool change",
    "longest": "Longest tool",
    "amps": "Motor current",
}
MOST_SPEEDS = 60
MOST_RPM = 200_000
TAPS: tuple[Tapping, ...] = ("floating", "rigid", "no")


def read_ability(entries: Entries) -> Ability:
    """Return what a machine can do; empty fields stay unknown.

    Args:
        entries: power [kW], amps [A], torque [N·m], max_rpm and speeds [rev/min], rapid [m/min], accel [m/s²], change [s];
            travel, bar, swing and longest tool as lengths; taps.

    Raises:
        BadEntry: at the field that cannot be used.
    """

    def known(name: str, high: float, least: float = 0) -> Decimal | None:
        return entries.number(name, least, high) if entries.has(name) else None

    return Ability(
        known("power", 1000),
        known("torque", 100_000),
        known("max_rpm", 200_000),
        entries.maybe_mm("travel_x"),
        entries.maybe_mm("travel_y"),
        entries.maybe_mm("travel_z"),
        entries.maybe_mm("bar"),
        TAPS[TAPS.index(entries.choice("taps", TAPS))],
        entries.maybe_mm("swing"),
        read_speeds(entries.text("speeds")),
        known("rapid", 200, 0.01),
        known("accel", 30, 0.01),
        known("change", 600),
        entries.maybe_mm("longest"),
        known("amps", 1000, 0.1),
    )


def read_speeds(text: str) -> tuple[Decimal, ...]:
    """Return speeds of belts or gears as typed with blanks or commas between them, the slowest first, each once, [rev/min].

    Raises:
        BadEntry: at the field `speeds`.
    """
    words = re.findall(r"[^\s,;/]+", text)
    wrong = next((word for word in words if not re.fullmatch(r"\d{1,6}(\.\d+)?", word)), None)
    found = sorted({Decimal(word) for word in words}) if wrong is None else []
    if wrong is not None or len(found) > MOST_SPEEDS or (found and not 0 < found[0] <= found[-1] <= MOST_RPM):
        said = f"“{wrong[:20]}” is no speed." if wrong is not None else "These speeds cannot all be."
        raise BadEntry(said, f"Type up to {MOST_SPEEDS} in rev/min, such as 80 150 280 500 900.", "speeds")
    return tuple(found)


def read_table(entries: Entries, ability: Ability) -> tuple[Bed, Ability]:
    """Return a machine's table from what was typed, and what it can do with the travels typed beside it.

    Args:
        entries: as for `read_bed`, and travel_x, travel_y, travel_z; an empty one stays as the machine has it.
        ability: what the machine can do so far.

    Raises:
        BadEntry: at the field that cannot be used, or at a travel that nobody knows.
    """
    x, y, z = (
        entries.maybe_mm(name) if entries.has(name) else so_far
        for name, so_far in zip(("travel_x", "travel_y", "travel_z"), ability.travel_mm, strict=True)
    )
    known = replace(ability, travel_x_mm=x, travel_y_mm=y, travel_z_mm=z)
    return read_bed(entries, known.travel_mm), known
