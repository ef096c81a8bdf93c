"""What the words of a program mean on one machine: a table of meanings, several of them ready-made, named by their kind."""

import re
from collections.abc import Mapping
from dataclasses import dataclass, fields, replace
from typing import Any, Literal, get_args, get_type_hints

from ditto_run.core.errors import BadEntry

MOST_GAP_MM = 10.0
MOST_WORDS = 40


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


KEYS: dict[str, tuple[str, str]] = {  # label, and for which machines: both, mill or lathe
    "units": ("Codes for inch and millimetre", "both"),
    "start_unit": ("Unit when the power comes on", "both"),
    "feed": ("Feed mode when the power comes on", "both"),
    "no_point": ("A number without a point", "both"),
    "arc_centre": ("I J K count", "both"),
    "arc_tol_mm": ("An arc’s radii may differ by, mm", "both"),
    "bare_circle": ("An arc with a centre and no end is a full circle", "both"),
    "g28": ("G28 moves home", "both"),
    "dwell_p": ("P of a dwell is in", "both"),
    "rapid_path": ("A rapid’s way", "both"),
    "peck_gap_mm": ("A peck begins again above the last bottom by, mm", "both"),
    "chip_gap_mm": ("Chips are broken by going back, mm", "both"),
    "ends_off": ("The end stops spindle and coolant", "both"),
    "known": ("Words without harm on this machine", "both"),
    "x": ("X is a", "lathe"),
    "codes": ("Codes are", "lathe"),
    "t_word": ("T is to", "both"),
    "g76": ("G76 is", "both"),
    "thread_word": ("Lead of a thread is", "both"),
    "depths_as_x": ("Depths of a one-block G76 are diameters where X is", "lathe"),
}
"""Keys of a table that are changed on a machine; how G10 is read is asked by its own form."""
YES, NO = "yes", "no"


def keys_of(table: Meanings) -> dict[str, tuple[str, ...]]:
    """Return the keys that matter on a machine of a table's kind, each with the values it may have; none for what is typed."""
    kinds = get_type_hints(Meanings)
    found: dict[str, tuple[str, ...]] = {}
    for key, (_, which) in KEYS.items():
        if which in {"both", table.kind}:
            found[key] = (YES, NO) if kinds[key] is bool else tuple(map(str, get_args(kinds[key])))
    return found | ({"known": ()} if "known" in found else {})


def key_text(table: Meanings, key: str) -> str:
    """Return what a key of a table says, as it is typed."""
    value = getattr(table, key)
    if isinstance(value, bool):
        return YES if value else NO
    return (
        " ".join(value) if isinstance(value, tuple) else f"{value:g}" if isinstance(value, float) else value
    )


def with_keys(name: str, texts: Mapping[str, str]) -> Meanings:
    """Return a ready-made table with keys as typed; a key that is left empty stays as it is, but for the words without harm.

    Raises:
        BadEntry: at the key that cannot be so.
    """
    base = dialect_of(name)
    changes: dict[str, Any] = {}
    for key, choices in keys_of(base).items():
        text = texts.get(key, "").strip()
        kind = type(getattr(base, key))
        if key not in texts or (not text and key != "known"):
            continue
        if kind is bool and text in choices:
            changes[key] = text == YES
        elif kind is float:
            changes[key] = _gap(key, text)
        elif key == "known":
            changes[key] = _words(text)
        elif text in choices:
            changes[key] = text
        else:
            raise BadEntry(
                f"{KEYS[key][0]}: “{text[:20]}” is none of its values.", f"Choose {', '.join(choices)}.", key
            )
    return replace(base, **changes)


def _gap(key: str, text: str) -> float:
    try:
        found = float(text.replace(",", "."))
    except ValueError:
        found = -1.0
    if not 0 <= found <= MOST_GAP_MM:
        raise BadEntry(
            f"{KEYS[key][0]}: “{text[:20]}” is no such length.",
            f"Type 0 to {MOST_GAP_MM:g} mm, such as 0.25.",
            key,
        )
    return found


def _words(text: str) -> tuple[str, ...]:
    words = tuple(dict.fromkeys(re.split(r"[\s,;]+", text.upper()))) if text else ()
    wrong = next((one for one in words if not re.fullmatch(r"[A-Z]\d{1,4}(\.\d)?", one)), None)
    if wrong is not None or len(words) > MOST_WORDS:
        said = f"“{wrong[:20]}” is no word." if wrong is not None else "These are too many words."
        raise BadEntry(said, f"Type up to {MOST_WORDS} with blanks between, such as M29 M88.", "known")
    return words


def changed_keys(name: str, table: Meanings) -> tuple[tuple[str, str], ...]:
    """Return the keys in which a table differs from its ready-made one, each as it is typed."""
    base = dialect_of(name)
    return tuple(
        (key, key_text(table, key)) for key in keys_of(base) if getattr(table, key) != getattr(base, key)
    )
