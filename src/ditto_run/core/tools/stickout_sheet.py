"""The stick-out sheet: how far a tool has to stand out, against how far it does; flutes, holder, bend."""

from dataclasses import dataclass

from ditto_run.core.findings import Finding
from ditto_run.core.sheets import Answer, Entries, Entry, Fact, Known, SheetKind
from ditto_run.core.tools.cutting.reach import SLENDER, Stands, ToolReach, reach_of
from ditto_run.core.tools.cutting.work import WORKS
from ditto_run.core.units import LengthUnit, bare_length, length_text, small_mm_text

EDGES = ("HSS", "carbide")
NO_FLUTES = {"turn", "bore", "part", "thread", "knurl"}
MUCH = (
    0.25  # of what it stands out, more than needed, from which pushing it in is worth a word; own judgement
)


@dataclass(frozen=True, slots=True)
class ToolOut:
    """A tool in its holder over what it cuts.

    Args:
        reach: what it reaches.
        tip_mm: from what is highest there down to its tip. [mm]
        clear_mm: wanted between the holder and what is highest. [mm]
        across_mm: of the tool; None while not known. [mm]
        nose_mm: of its holder; None while not known. [mm]
        flute_mm: length of its flutes; None while not known. [mm]
        unit: in which it is drawn.
    """

    reach: ToolReach
    tip_mm: float
    clear_mm: float
    across_mm: float | None
    nose_mm: float | None
    flute_mm: float | None
    unit: LengthUnit = "mm"


def compute(entries: Entries, known: Known) -> Answer:
    """Return the answer of the stick-out sheet.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    unit = known.unit
    work = entries.choice("work", ("", *WORKS))
    edge = entries.choice("edge", EDGES)

    def maybe(name: str) -> float | None:
        found = entries.maybe_mm(name)
        return None if found is None else float(found)

    tip, clear = float(entries.mm("tip", "24")), float(entries.mm("clear", "2", above=False))
    force = float(entries.quantity("force", 0, 1e6)) if entries.has("force") else None
    reach = reach_of(
        Stands(
            tip,
            clear,
            there_mm=maybe("out"),
            flute_mm=maybe("flute"),
            cut_mm=maybe("cuts"),
            across_mm=maybe("across"),
            force_n=force,
            edge=edge,
            fluted=work not in NO_FLUTES,
        )
    )
    out = ToolOut(reach, tip, clear, maybe("across"), maybe("nose"), maybe("flute"), unit)
    return Answer(
        _say(reach, unit),
        _why(out, unit),
        tuple(_facts(out, unit)),
        findings=tuple(_findings(out, edge, maybe("longest"), unit)),
        picture=out,
        picture_says=_picture_says(out, unit),
        result=out,
        source="needed = depth to the tip and clearance; bend F L³ / 3 E I of a plain bar, so the tool bends no less",
    )


def _say(reach: ToolReach, unit: LengthUnit) -> str:
    spare = reach.spare_mm
    if spare is None:
        return f"{length_text(reach.needed_mm, unit, 1)} is needed."
    if spare < 0:
        return f"Too short by {length_text(-spare, unit, 1)}."
    return f"By {length_text(spare, unit, 1)}."


def _why(out: ToolOut, unit: LengthUnit) -> str:
    there = out.reach.there_mm
    stands = (
        "nobody has said how far it stands out"
        if there is None
        else f"stands out {bare_length(there, unit)} {unit}"
    )
    return f"{bare_length(out.tip_mm, unit)} to its tip and {bare_length(out.clear_mm, unit)} to spare; {stands}."  # fmt: skip


def _facts(out: ToolOut, unit: LengthUnit) -> list[Fact]:
    reach = out.reach
    found = [Fact("Needed", length_text(reach.needed_mm, unit, 1))]
    if reach.top_mm is not None:
        word = "clears what is highest there" if reach.top_mm >= 0 else "runs into what is highest there"
        found.append(Fact("Holder", length_text(abs(reach.top_mm), unit, 1), word))
    if reach.flute_mm is not None:
        word = "longer than the cut" if reach.flute_mm >= 0 else "shorter than the cut"
        found.append(Fact("Flutes", length_text(abs(reach.flute_mm), unit, 1), word))
    if reach.slender is not None:
        found.append(Fact("Stick-out over diameter", f"{reach.slender:.1f}"))
    if reach.bends_mm is not None:
        at = " at what is needed" if reach.there_mm is not None else ""
        found.append(
            Fact("Bends", small_mm_text(reach.bends_mm[1], unit), f"{small_mm_text(reach.bends_mm[0], unit)}{at}" if at else "")
        )  # fmt: skip
    return found


def _picture_says(out: ToolOut, unit: LengthUnit) -> str:
    there = out.reach.there_mm
    is_there = "" if there is None else f", there {length_text(there, unit, 1)}"
    return f"The tool over its cut: needed {length_text(out.reach.needed_mm, unit, 1)}{is_there}."


def _findings(out: ToolOut, edge: str, longest: float | None, unit: LengthUnit) -> list[Finding]:
    reach, found = out.reach, []
    there = reach.there_mm

    def said(mm: float) -> str:
        return length_text(mm, unit, 1)

    if reach.spare_mm is not None and there is not None and reach.spare_mm < 0:
        found.append(
            Finding(
                "tools",
                "stop",
                "stickout-short",
                f"It stands out {length_text(there, unit, 1)}, and {length_text(reach.needed_mm, unit, 1)} is needed.",
                "Let it stand out farther and measure its length again, or cut it from both sides.",
                ground=f"{there:.4f} {reach.needed_mm:.4f}",
            )
        )
    if longest is not None and (there or reach.needed_mm) > longest:
        found.append(
            Finding(
                "tools",
                "stop",
                "stickout-long",
                f"It stands out {said(there or reach.needed_mm)}, and {said(longest)} is the most that swings past.",
                "Take a shorter one, leave the places beside it empty, or correct the machine on Shop.",
                ground=f"{there or reach.needed_mm:.4f} {longest:.4f}",
            )
        )
    if reach.flute_mm is not None and reach.flute_mm < 0:
        found.append(
            Finding(
                "tools",
                "ask",
                "flutes-short",
                f"Its flutes are {length_text(-reach.flute_mm, unit, 1)} shorter than the cut is deep.",
                "Take one with longer flutes, or one whose shank is thinner than the cut.",
                ground=f"{reach.flute_mm:.4f}",
            )
        )
    if there is not None and reach.slender is not None and reach.slender > SLENDER[edge]:
        spare, less = reach.spare_mm or 0.0, (reach.needed_mm / there) ** 3
        if spare > MUCH * there:
            found.append(
                Finding(
                    "tools",
                    "note",
                    "stickout-early",
                    f"It stands out {reach.slender:.1f} times its diameter, {length_text(spare, unit, 1)} more than it needs.",
                    f"Pushed in to {said(reach.needed_mm)} it bends {less:.0%} as much; measure its length again.",
                )
            )
    return found


STICKOUT = SheetKind(
    "stickout",
    "tools",
    "Stick-out",
    (
        Entry("out", "Stands out"),
        Entry("tip", "Top to its tip"),
        Entry("clear", "Clearance to the holder"),
        Entry("cuts", "Cuts deep, to its tip"),
        Entry("flute", "Flute length"),
        Entry("across", "Its diameter"),
        Entry("nose", "Holder’s nose, Ø"),
        Entry("work", "Cut", kind="choose", choices=WORKS),
        Entry("edge", "Cuts with", kind="choose", choices=EDGES),
        Entry("force", "Cutting force", quantity="force"),
        Entry("longest", "Longest tool of the machine"),
    ),
    compute,
)
