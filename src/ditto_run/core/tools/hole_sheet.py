"""The hole sheet: which tools make a hole, in which order, how deep each goes."""

from decimal import Decimal

from ditto_run.core.errors import BadEntry, standing_at
from ditto_run.core.findings import Finding
from ditto_run.core.sheets import Answer, Entries, Entry, Fact, Grid, Known, SheetKind
from ditto_run.core.sizes import Size, read_size
from ditto_run.core.tools.hole import FINER, FINEST_BORED, Hole, HoleMade, HoleTool, make_hole
from ditto_run.core.units import LengthUnit, capital, length_text, to_base

DOES = {"spot": "Spot", "pilot": "Pilot", "drill": "Drill", "ream": "Ream", "bore": "Bore"}
FINISHES = {"drill": "Drill it", "ream": "Drill, then ream", "bore": "Drill, then bore"}


def compute(entries: Entries, known: Known) -> Answer:
    """Return the answer of the hole sheet.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    if not known.drills:
        raise BadEntry("No drill is listed.", "List what the shop has on Shop, Drills.", "hole")
    with standing_at("hole"):
        size = read_size(entries.need("hole", "12 H7"), known.unit)
    through = entries.choice("through", ("blind", "through")) == "through"
    room = entries.maybe_mm("room")
    entry = entries.choice("entry", ("machined", "raw", "round"))
    hole = Hole(
        size.nominal_base,
        _limits(size),
        entries.maybe_mm("depth"),
        through,
        "raw" if entry == "raw" else "round" if entry == "round" else "machined",
        "stub" if entries.choice("drill", ("jobber", "stub")) == "stub" else "jobber",
        entries.maybe_mm("place"),
    )
    made = make_hole(hole, known.drills, known.reamers)
    return Answer(
        _say(made, size, known.unit),
        _why(made),
        tuple(_facts(made, known.unit, through=through)),
        (_tools_grid(made, known.unit),),
        tuple(_findings(made, size, room, known.unit, through=through)),
        result=made,
        source="common practice; grades by ISO 286-1",
    )


def _limits(size: Size) -> tuple[Decimal, Decimal] | None:
    if size.lower is None or size.upper is None:
        return None
    return to_base(size.lower, size.unit), to_base(size.upper, size.unit)


def _say(made: HoleMade, size: Size, unit: LengthUnit) -> str:
    if made.drill is None:
        return f"No drill in the drawer fits before {length_text(size.nominal_base, unit)}."
    names = [_named(tool, unit) for tool in made.tools]
    said = ", ".join(names[:-1]) + (" and " if len(names) > 1 else "") + names[-1]
    return f"{capital(said)}."


def _named(tool: HoleTool, unit: LengthUnit) -> str:
    if not tool.name and tool.across_mm is not None:
        return f"{tool.does} to {length_text(tool.across_mm, unit)}"
    return f"{tool.does} {tool.name}".strip() + (" it" if tool.does == "spot" else "")


def _why(made: HoleMade) -> str:
    last = made.tools[-1] if made.tools else None
    if last is None:
        return ""
    other = {
        "drill": "A reamer or a bar would make it rounder; nothing here asks for that.",
        "ream": "Others bore it: truer in place and straighter, and slower.",
        "bore": "A reamer would be quicker and follows the drilled hole, where one is had that cuts inside the limits.",
    }[made.finish]
    return f"{capital(last.why)}. {other}"


def _facts(made: HoleMade, unit: LengthUnit, *, through: bool) -> list[Fact]:
    spot = next((tool for tool in made.tools if tool.does == "spot"), None)
    found = [Fact("Made by", FINISHES[made.finish], _grade(made.grade))]
    found.append(
        Fact("Spotted", "yes", spot.why)
        if spot is not None
        else Fact("Spotted", "no", "a stub drill on a machined face finds its place; others spot every hole")
    )
    if made.point_mm is not None:
        found.append(Fact("Point of the drill", length_text(made.point_mm, unit, 1), "118°"))
    if made.to_mm is not None:
        word = "past the far face" if through else "to the point, full size above it"
        found.append(Fact("Drill to", length_text(made.to_mm, unit, 1), word))
    if made.pecks is not None and made.slender is not None:
        pecks = made.pecks
        how = (
            "none"
            if pecks.how == "in one"
            else f"{pecks.how}: first {pecks.first:f} ×, then {pecks.then:f} × its diameter"
        )
        found.append(Fact("Pecks", how, f"{made.slender:.1f} diameters deep; common practice"))
    return found


def _grade(grade: int | None) -> str:
    if grade is None:
        return ""
    return f"finer than IT{FINER + 1}" if grade == FINER else f"IT{grade}"


def _tools_grid(made: HoleMade, unit: LengthUnit) -> Grid:
    rows = tuple(
        (
            DOES[tool.does],
            tool.name or "–",
            length_text(tool.across_mm, unit) if tool.across_mm is not None else "–",
            tool.why,
        )
        for tool in made.tools
    )
    return Grid("Tools in the order of the work", ("Does", "Tool", "Across", "Because"), rows)


def _findings(
    made: HoleMade, size: Size, room: Decimal | None, unit: LengthUnit, *, through: bool
) -> list[Finding]:
    found = []
    width = size.upper - size.lower if size.upper is not None and size.lower is not None else None
    if width is not None and made.grade is not None and made.grade < FINEST_BORED:
        found.append(
            Finding(
                "tools",
                "ask",
                "finer-than-bored",
                f"{capital(_grade(made.grade))} is finer than a boring bar holds piece after piece.",
                "Plan to hone or grind it, or ask whether it has to be so close.",
            )
        )
    if "reamer" in made.lacks:
        found.append(
            Finding(
                "tools",
                "note",
                "no-reamers",
                "The shop’s reamers are not listed: whether one cuts inside the limits is not known.",
                "List them on Shop, Reamers, with what each cuts.",
            )
        )
    if "drill" in made.lacks:
        found.append(
            Finding(
                "tools",
                "ask",
                "no-drill-before",
                f"No drill of the drawer fits before {length_text(size.nominal_base, unit)}.",
                "List the drill on Shop, Drills, or mill the hole open from a smaller one.",
            )
        )
    if made.to_mm is not None and room is not None and not through and made.to_mm > room:
        found.append(
            Finding(
                "tools",
                "ask",
                "point-breaks-through",
                f"The point goes to {length_text(made.to_mm, unit, 1)}, and the wall is {length_text(room, unit, 1)}.",
                "Ask whether it may break through, or use a flatter drill and a bottoming tool.",
            )
        )
    return found


HOLE = SheetKind(
    "hole",
    "tools",
    "Hole",
    (
        Entry("hole", "Hole"),
        Entry("through", "Goes", kind="choose", choices=("blind", "through")),
        Entry("depth", "Deep, or the wall it goes through"),
        Entry("room", "Metal behind its mouth"),
        Entry("entry", "It starts on", kind="choose", choices=("machined", "raw", "round")),
        Entry("drill", "Drill", kind="choose", choices=("jobber", "stub")),
        Entry("place", "Its place may be off by"),
    ),
    compute,
)
