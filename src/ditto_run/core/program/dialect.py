"""What the words of a program mean on one machine: a table of meanings, several of them ready-made, named by their kind."""

from collections.abc import Mapping
from dataclasses import dataclass, fields, replace
from typing import Any, Literal, get_args, get_type_hints

from ditto_run.core.errors import BadEntry


@dataclass(frozen=True, slots=True)
class Meanings:
    """One table of meanings.

    Args:
        kind: mill or lathe.
        x: X of a lathe is a radius or a diameter.
        codes: plain codes, or those of lathes on which G90, G92 and G94 are cycles.
        units: codes for inch and millimetre.
        start_unit: unit when the power comes on.
        feed: feed mode when the power comes on.
        no_point: an axis word without a point is as it is, or counts least increments.
        arc_centre: I J K from the start of the arc, or absolute.
        arc_tol_mm: an arc's radii may differ by. [mm]
        g28: moves the named axes home, or all of them.
        dwell_p: P of a dwell in seconds or milliseconds.
        t_word: prepares a tool for M6, or changes at once with the wear offset in its last two digits.
        g76: one block, two blocks, fine boring, or none.
        thread_word: lead of a single thread pass.
        l20: G10 L20 writes extended offsets, or is not used.
        p0: P0 of G10 writes the common offset, the active one, or is not used.
        fine: offsets G59.1 to G59.3 exist.
        rapid_path: straight, or each axis at its own rate.
        peck_gap_mm, chip_gap_mm: a peck begins again so far above the last bottom; chips are broken by going back so far. [mm]
        depths_as_x: depths of a one-block G76 are diameters where X is.
        bare_circle: an arc that names its centre and no end is a full circle; by the standard it is none.
        ends_off: the end code stops spindle and coolant.
        known: words that are harmless on this machine.
    """

    kind: Literal["mill", "lathe"] = "mill"
    x: Literal["radius", "diameter"] = "radius"
    codes: Literal["ngc", "A"] = "ngc"
    units: Literal["G20/G21", "G70/G71"] = "G20/G21"
    start_unit: Literal["mm", "in"] = "mm"
    feed: Literal["G94", "G95"] = "G94"
    no_point: Literal["as is", "least"] = "as is"
    arc_centre: Literal["incremental", "absolute"] = "incremental"
    arc_tol_mm: float = 0.002
    g28: Literal["named", "all"] = "all"
    dwell_p: Literal["s", "ms"] = "s"
    t_word: Literal["prepare", "change"] = "prepare"
    g76: Literal["none", "one block", "two blocks", "fine bore"] = "none"
    thread_word: Literal["K", "F"] = "K"
    l20: Literal["not used", "extended"] = "not used"
    p0: Literal["not used", "active", "common"] = "not used"
    fine: bool = True
    rapid_path: Literal["straight", "dogleg"] = "straight"
    peck_gap_mm: float = 0.254
    chip_gap_mm: float = 0.254
    depths_as_x: bool = True
    bare_circle: bool = False
    ends_off: bool = True
    known: tuple[str, ...] = ()

    @property
    def turns(self) -> bool:
        """True for a lathe."""
        return self.kind == "lathe"


MILL = Meanings()
SHOP_MILL = Meanings(
    no_point="least",
    arc_tol_mm=0.01,
    g28="named",
    dwell_p="ms",
    g76="fine bore",
    thread_word="F",
    l20="extended",
    p0="common",
    fine=False,
    rapid_path="dogleg",
    peck_gap_mm=0.5,
    chip_gap_mm=0.5,
    bare_circle=True,
    known=("M29",),
)
LATHE = Meanings(kind="lathe", x="diameter", g28="named", g76="one block")
DIALECTS: Mapping[str, Meanings] = {
    "mill-ngc": MILL,
    "mill-shop": SHOP_MILL,
    "lathe-ngc": LATHE,
    "lathe-A": replace(
        LATHE,
        codes="A",
        feed="G95",
        arc_tol_mm=0.01,
        dwell_p="ms",
        t_word="change",
        g76="two blocks",
        thread_word="F",
        fine=False,
        rapid_path="dogleg",
        peck_gap_mm=0.5,
        chip_gap_mm=0.5,
        bare_circle=True,
    ),
}
"""Tables of control families, named by their kind; differences between them from memory of the trade."""

DIALECT_WORDS = {
    "mill-ngc": "mill, plain codes",
    "mill-shop": "mill, shop control: least increments, G28 named axes",
    "lathe-ngc": "lathe, plain codes, X as diameter",
    "lathe-A": "lathe on which G90, G92 and G94 are cycles",
}


def dialect_of(name: str, changes: Mapping[str, Any] | None = None) -> Meanings:
    """Return a ready-made table, with some of its keys changed.

    Args:
        name: of the table.
        changes: key to its other value.

    Raises:
        BadEntry: if there is no such table, key or value.
    """
    found = DIALECTS.get(name)
    if found is None:
        raise BadEntry(
            f"There is no table of meanings “{name[:30]}”.", f"Choose {', '.join(DIALECTS)}.", "dialect"
        )
    changed: dict[str, Any] = {key: _checked(key, value) for key, value in (changes or {}).items()}
    return replace(found, **changed)


def _checked(key: str, value: object) -> object:
    """A value that a key may have."""
    kinds = get_type_hints(Meanings)
    if key not in {field.name for field in fields(Meanings)}:
        raise BadEntry(f"A table of meanings has no “{key[:30]}”.", "Change one of its keys.", "dialect_set")
    kind, choices = kinds[key], get_args(kinds[key])
    if kind is float and isinstance(value, int | float) and not isinstance(value, bool):
        return float(value)
    if kind is bool and isinstance(value, bool):
        return value
    if key == "known" and isinstance(value, list | tuple):
        return tuple(str(one).upper() for one in value)
    if value in choices:
        return value
    raise BadEntry(
        f"“{str(value)[:30]}” is no value of {key}.", f"Choose {', '.join(map(str, choices))}.", "dialect_set"
    )
