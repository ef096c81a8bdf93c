"""What is told beside a program: the machine, offsets as they stand, blanks, the plan."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any, Literal

from ditto_run.core.errors import BadEntry
from ditto_run.core.program.dialect import Meanings, dialect_of

Three = tuple[float, float, float]
AIR_S = 2.0  # feed in the air that is worth a word; own judgement
CORNER_DEG = 10.0  # a turn through which a machine keeps its speed; common practice, no source


@dataclass(frozen=True, slots=True)
class Slides:
    """How a machine moves.

    Args:
        rapid_mm_min: of X, Y and Z; None while not known. [mm/min]
        accel_mm_s2: None while not known. [mm/s²]
        change_s: a tool change. [s]
        corner_deg: a turn through which it keeps its speed. [°]
        most_rpm: None while not known. [rev/min]
        travel_mm: lowest and highest of each axis, machine coordinates; None while not known. [mm]
    """

    rapid_mm_min: Three | None = None
    accel_mm_s2: float | None = None
    change_s: float = 0.0
    corner_deg: float = CORNER_DEG
    most_rpm: float | None = None
    travel_mm: tuple[tuple[float, float], ...] | None = None


@dataclass(frozen=True, slots=True)
class BoxBlank:
    """A block in the coordinates of its offset: lowest and highest corner. [mm, mm]."""

    low: Three
    high: Three


@dataclass(frozen=True, slots=True)
class RoundBlank:
    """A bar in the coordinates of its offset: diameter, from and to along Z, diameter of its hole. [mm]."""

    across_mm: float
    z_mm: tuple[float, float]
    hole_mm: float = 0.0


@dataclass(frozen=True, slots=True)
class ToolFigures:
    """A tool as the plan knows it: diameter [mm] and kind; of a parting tool its width. [mm]."""

    across_mm: float | None = None
    kind: Literal["", "turn", "bore", "drill", "part", "tap"] = ""
    width_mm: float = 0.0


@dataclass(frozen=True, slots=True)
class Planned:
    """What the plan says; an empty tuple means that it says nothing of it.

    Args:
        tools: in order.
        offsets: that are used.
        stops_after: tools after which a piece is gauged.
        figures: of tools, by number.
    """

    tools: tuple[int, ...] = ()
    offsets: tuple[str, ...] = ()
    stops_after: tuple[int, ...] = ()
    figures: Mapping[int, ToolFigures] = field(default_factory=dict)


@dataclass(frozen=True, slots=True)
class Given:
    """What is told beside the text; nothing of it has to be.

    Args:
        dialect: table of meanings.
        slides: of the machine.
        offsets: work offset code to its place, machine coordinates. [mm]
        blanks: by work offset.
        guards: what no tool may touch at each work offset, jaws above all.
        plan: what it says.
        start, home, second_home: machine coordinates. [mm]
        air_s: feed in the air that is worth a word. [s]
    """

    dialect: Meanings
    slides: Slides = field(default_factory=Slides)
    offsets: Mapping[str, Three] = field(default_factory=dict)
    blanks: Mapping[str, BoxBlank | RoundBlank] = field(default_factory=dict)
    guards: Mapping[str, tuple[BoxBlank, ...]] = field(default_factory=dict)
    plan: Planned = field(default_factory=Planned)
    start: Three = (0.0, 0.0, 0.0)
    home: Three = (0.0, 0.0, 0.0)
    second_home: Three = (0.0, 0.0, 0.0)
    air_s: float = AIR_S


def read_given(doc: Mapping[str, Any]) -> Given:
    """Return what a document tells beside a program.

    Args:
        doc: dialect, dialect_set, machine, offsets, blanks, plan, start, home, second_home, air_s; all but the first may be missing.

    Raises:
        BadEntry: at what cannot be.
    """
    machine, plan = _part(doc, "machine"), _part(doc, "plan")
    start, home, second = (
        _three(doc.get(name) or (0, 0, 0), name) for name in ("start", "home", "second_home")
    )
    travel = machine.get("travel_mm")
    rapid = machine.get("rapid_mm_min")
    return Given(
        dialect_of(str(doc.get("dialect", "mill-ngc")), _part(doc, "dialect_set")),
        Slides(
            _three(rapid, "rapid_mm_min", above=True) if rapid is not None else None,
            _positive(machine, "accel_mm_s2"),
            _positive(machine, "tool_change_s") or 0.0,
            _positive(machine, "corner_deg") or CORNER_DEG,
            _positive(machine, "max_rpm"),
            tuple(_pair(one, "travel_mm") for one in travel) if travel is not None else None,
        ),
        {str(code): _three(at, "offsets") for code, at in _part(doc, "offsets").items()},
        {str(code): _blank(one) for code, one in _part(doc, "blanks").items()},
        {},
        Planned(
            tuple(int(_number(one, "tools")) for one in plan.get("tools") or ()),
            tuple(str(one) for one in plan.get("offsets") or ()),
            tuple(int(_number(one.get("after_tool"), "checks")) for one in plan.get("checks") or ()),
            {int(_number(t, "tool_data")): _tool(one) for t, one in _part(plan, "tool_data").items()},
        ),
        start,
        home,
        second,
        _positive(doc, "air_s") or AIR_S,
    )


def _part(doc: Mapping[str, Any], name: str) -> Mapping[str, Any]:
    found = doc.get(name) or {}
    if not isinstance(found, Mapping):
        raise BadEntry(f"{name} is no table.", "Send names with their values.", "given")
    return found


def _number(value: object, name: str) -> float:
    try:
        found = float(value)  # type: ignore[arg-type] # refused just below
    except (TypeError, ValueError, OverflowError):
        found = float("nan")
    if not abs(found) <= 1e7:  # noqa: PLR2004 - farther than any machine; false of what is no number
        raise BadEntry(f"{name} is no number of a machine.", "Send millimetres and seconds.", "given")
    return found


def _positive(doc: Mapping[str, Any], name: str) -> float | None:
    if doc.get(name) is None:
        return None
    found = _number(doc[name], name)
    if found < 0:
        raise BadEntry(f"{name} is below 0.", "Check its sign.", "given")
    return found or None


def _pair(value: object, name: str) -> tuple[float, float]:
    if not isinstance(value, list | tuple) or len(value) != 2:  # noqa: PLR2004 - from and to
        raise BadEntry(f"{name} is no pair.", "Send from and to.", "given")
    return _number(value[0], name), _number(value[1], name)


def _three(value: object, name: str, *, above: bool = False) -> Three:
    if not isinstance(value, list | tuple) or len(value) != 3:  # noqa: PLR2004 - X, Y and Z
        raise BadEntry(f"{name} is not of three axes.", "Send X, Y and Z.", "given")
    x, y, z = (_number(one, name) for one in value)
    if above and min(x, y, z) <= 0:
        raise BadEntry(f"{name} is not above 0.", "Send what the machine does.", "given")
    return x, y, z


def _blank(one: object) -> BoxBlank | RoundBlank:
    if not isinstance(one, Mapping):
        raise BadEntry("A blank is no table.", "Send min and max, or d and z.", "given")
    if "min" in one:
        return BoxBlank(_three(one["min"], "min"), _three(one.get("max"), "max"))
    return RoundBlank(
        _number(one.get("d"), "d"), _pair(one.get("z"), "z"), _number(one.get("hole") or 0, "hole")
    )


def _tool(one: object) -> ToolFigures:
    figures = one if isinstance(one, Mapping) else {}
    kind = str(figures.get("kind", ""))
    return ToolFigures(
        _positive(figures, "dia"),
        kind if kind in {"turn", "bore", "drill", "part", "tap"} else "",  # type: ignore[arg-type] # one of them
        _positive(figures, "width") or 0.0,
    )
