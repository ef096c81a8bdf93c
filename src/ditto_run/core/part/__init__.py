"""What must come out the same: the part's heading and its characteristics."""

from ditto_run.core.part.characteristic import Characteristic, Grade
from ditto_run.core.part.checks import doubt_about_size, part_findings
from ditto_run.core.part.heading import Heading, check_heading

__all__ = ["Characteristic", "Grade", "Heading", "check_heading", "doubt_about_size", "part_findings"]
