"""Kept sheets of before a job's own unit was that of its forces: a figure typed alone was metric in every job."""

import re
from collections.abc import Mapping

WERE_METRIC = {  # sheet, field: the unit a figure typed alone had
    "grip": {"cutting": "N", "rated": "N", "torque": "N·m"},
    "clamps": {"torque": "N·m"},
    "nest": {"jack": "N"},
    "thin": {"force": "N"},
    "vacuum": {"vacuum": "kPa", "cutting": "N"},
    "overhang": {"force": "N", "mass": "kg"},
}
BARE = re.compile(r"[\d.,\s]+")


def with_metric_marks(kind: str, texts: Mapping[str, str]) -> dict[str, str]:
    """Return what was typed into a sheet of a job in inches, each bare figure with the metric unit it had.

    Args:
        kind: which sheet.
        texts: its entries.
    """
    marks = WERE_METRIC.get(kind, {})
    return {
        name: f"{text} {marks[name]}" if name in marks and BARE.fullmatch(text) and text.strip() else text
        for name, text in texts.items()
    }
