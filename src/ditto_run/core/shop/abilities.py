"""What a machine can do, as typed from its manual."""

from dataclasses import replace
from decimal import Decimal

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
}
TAPS: tuple[Tapping, ...] = ("floating", "rigid", "no")


def read_ability(entries: Entries) -> Ability:
    """Return what a machine can do; empty fields stay unknown.

    Args:
        entries: power [kW], torque [N·m], max_rpm [rev/min], travel, bar and swing as lengths, taps.

    Raises:
        BadEntry: at the field that cannot be used.
    """

    def known(name: str, high: float) -> Decimal | None:
        return entries.number(name, 0, high) if entries.has(name) else None

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
    )


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
