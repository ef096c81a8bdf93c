"""The sheet of mass, cost and chips."""

from math import pi

from ditto_run.core.entry.quantity import quantity_text
from ditto_run.core.errors import BadEntry
from ditto_run.core.money import money_text
from ditto_run.core.part.shape.measures import MEASURES
from ditto_run.core.sheets import Answer, Entries, Entry, Fact, Known, SheetKind
from ditto_run.core.shop.looked_up import MATERIALS
from ditto_run.core.stock.blank import BLANK_FOUND, Blank
from ditto_run.core.stock.cuts_sheet import CUTS_FOUND, Cuts
from ditto_run.core.stock.mass import BULK, material_of


def compute(entries: Entries, known: Known) -> Answer:
    """Return the answer of the sheet.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    part = known.of(MEASURES)
    blank: Blank | None = known.of(BLANK_FOUND)
    if blank is None:
        raise BadEntry("The blank is not described.", "Describe it under Blank first.", "material")
    name = entries.text("material")
    if name not in known.of(MATERIALS):
        raise BadEntry(
            "No material is chosen.", "Choose one; density and price are set on Shop, Materials.", "material"
        )
    material = known.of(MATERIALS)[name]
    finished = (
        float(entries.quantity("finished", 0.001, 1e7)) * 1000
        if entries.has("finished")
        else part.volume
        if part is not None
        else blank.finished_volume_mm3
    )
    chips, litres = entries.choice("chips", tuple(BULK)), float(entries.quantity("bin", 1, 10_000, 60))
    cuts: Cuts | None = known.of(CUTS_FOUND)
    bought, kerfs = blank.volume_mm3 * known.start, 0.0
    if cuts is not None and blank.shape == "bar":
        area = pi / 4 * float(blank.across_mm) ** 2
        bought = area * float(cuts.full.bar_mm) * cuts.bars
        kerfs = area * float(cuts.full.kerf_mm) * known.start
    found = material_of(
        blank.volume_mm3,
        finished,
        known.start,
        known.quantity,
        material.density,
        material.cents_per_kg,
        chips,
        litres,
        bought,
        kerfs,
    )
    return Answer(
        f"{quantity_text('mass', found.all_kg, known.unit, fine=True)} of {name}, {money_text(found.cents, known.money)} in all.",
        f"{money_text(found.cents_each, known.money)} of material in each good piece; {quantity_text('capacity', found.chips_litres, known.unit, fine=True)} of chips fill {found.bins:.1f} bins.",
        (
            Fact("One blank", quantity_text("mass", found.blank_kg, known.unit, fine=True)),
            Fact(
                "One finished piece",
                quantity_text("mass", found.finished_kg, known.unit, fine=True),
                "as typed"
                if entries.has("finished")
                else "from its features"
                if part is not None
                else "its envelope",
            ),
            Fact(
                "Bought",
                quantity_text("mass", found.all_kg, known.unit, fine=True),
                "whole bars" if cuts is not None else f"{known.start} blanks",
            ),
            Fact(
                "Chips, loose",
                quantity_text("capacity", found.chips_litres, known.unit, fine=True),
                f"{chips}: {BULK[chips]} times the metal, {'kerfs' if kerfs else 'kerfs not'} counted; common practice",
            ),
        ),
        result=found,
        source="density times volume; bulk of chips is common practice",
    )


MASS = SheetKind(
    "mass",
    "stock",
    "Mass, cost, chips",
    (
        Entry("material", "Material", kind="material"),
        Entry("finished", "Finished volume", quantity="volume"),
        Entry("chips", "Chips come as", kind="choose", choices=tuple(BULK)),
        Entry("bin", "A bin holds", quantity="capacity"),
    ),
    compute,
)
