"""Whether the first line said of a part speaks of a turned one."""

from collections.abc import Iterable

from ditto_run.core.errors import DittoError
from ditto_run.core.part.faces import Form
from ditto_run.core.part.features.described import Described
from ditto_run.core.part.features.kinds import Role
from ditto_run.core.part.features.line import read_feature
from ditto_run.core.units import LengthUnit


def form_of_shop(turns: Iterable[bool]) -> Form:
    """Return the form a new part begins with: turned in a shop that has nothing but lathes.

    Args:
        turns: of each machine, whether it is a lathe.
    """
    found = list(turns)
    return "turned" if found and all(found) else "block"


def form_of_first(line: str, form: Form, unit: LengthUnit) -> Form:
    """Return the form of a part of which nothing was said before this line.

    A block becomes turned where its line is only understood on a turned part, as of a taper, or where the
    whole of it has a diameter. A part that is turned was said to be, and stays.

    Args:
        line: in shop language.
        form: that the part has so far.
        unit: of figures typed without one. [mm or inch]
    """
    if form == "turned":
        return form
    turned = _read(line, "turned", unit)
    if turned is None or not turned.kind:
        return form
    block = _read(line, "block", unit)
    if block is None:
        return "turned"
    return "turned" if block.kind == "outline" and Role.DIAMETER in block.sizes else form


def _read(line: str, form: Form, unit: LengthUnit) -> Described | None:
    try:
        return read_feature(line, form, unit)
    except DittoError:
        return None
