"""What must come out the same: the part's heading, its characteristics, finishes, families and kits."""

from ditto_run.core.part.characteristic import Characteristic, Grade
from ditto_run.core.part.checks import doubt_about_size, part_findings, stock_findings
from ditto_run.core.part.coated import as_machined, finish_findings
from ditto_run.core.part.finish import Finish
from ditto_run.core.part.heading import Heading, check_heading
from ditto_run.core.part.kit import (
    KitBeside,
    KitLine,
    KitPart,
    check_kit_part,
    complete_sets,
    kit_lines,
    sets_wanted,
)
from ditto_run.core.part.missing import missing, questions_text

__all__ = [
    "Characteristic",
    "Finish",
    "Grade",
    "Heading",
    "KitBeside",
    "KitLine",
    "KitPart",
    "as_machined",
    "check_heading",
    "check_kit_part",
    "complete_sets",
    "doubt_about_size",
    "finish_findings",
    "kit_lines",
    "missing",
    "part_findings",
    "questions_text",
    "sets_wanted",
    "stock_findings",
]
