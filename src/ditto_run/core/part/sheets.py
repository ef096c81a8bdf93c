"""The sheets of the Part step, declared once: page, job document and API hold to this table."""

from ditto_run.core.part.bend_sheet import BEND
from ditto_run.core.part.fit_sheet import FIT
from ditto_run.core.part.gauging_sheet import GAUGING
from ditto_run.core.part.pattern_sheet import PATTERN
from ditto_run.core.part.profile_sheet import PROFILE
from ditto_run.core.part.taper_sheet import TAPER
from ditto_run.core.part.thread_sheet import THREAD
from ditto_run.core.sheets import SheetKind

PART_SHEETS: tuple[SheetKind, ...] = (THREAD, FIT, TAPER, PROFILE, PATTERN, BEND, GAUGING)
