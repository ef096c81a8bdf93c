"""Kept sheets of before a job's own unit was that of its forces and speeds: a figure typed alone was metric in every job."""

import re
from collections.abc import Mapping

Marks = Mapping[str, Mapping[str, str]]
FORCES: Marks = {  # sheet, field: the unit a figure typed alone had
    "grip": {"cutting": "N", "rated": "N", "torque": "N·m"},
    "clamps": {"torque": "N·m"},
    "nest": {"jack": "N"},
    "thin": {"force": "N"},
    "vacuum": {"vacuum": "kPa", "cutting": "N"},
    "overhang": {"force": "N", "mass": "kg"},
}
_HOLDER = (
    "low",
    "high",
    "repeat",
    "body_x",
    "body_y",
    "tall",
    "seat",
    "jaw_width",
    "jaw_at",
    "chuck",
    "handle_swing",
)
REGISTERS: Marks = {  # drawer, column: the unit a figure typed alone had; a length that of the shop
    "reamers": {"cuts": "length"},
    "offcuts": {"length": "length"},
    "holders": dict.fromkeys(_HOLDER, "length"),
    "materials": {"density": "g/cm³", "price": "/kg", "kc11": "N/mm²"},
    "coatings": dict.fromkeys(("film_low", "film_high"), "µm"),
}
SPEEDS: Marks = {"machine": {"speed": "m/min"}, "mass": {"finished": "cm³", "bin": "l"}}
BARE = re.compile(r"[\d.,\s]+")


def with_metric_marks(kind: str, texts: Mapping[str, str], were: Marks) -> dict[str, str]:
    """Return what was typed into a sheet of a job in inches, each bare figure with the metric unit it had.

    Args:
        kind: which sheet.
        texts: its entries.
        were: which of its fields had which unit.
    """
    marks = were.get(kind, {})
    return {
        name: f"{text} {marks[name]}" if name in marks and BARE.fullmatch(text) and text.strip() else text
        for name, text in texts.items()
    }
