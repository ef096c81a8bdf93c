"""The spindle sheet: force, torque and power of a tool's cut against its machine, and ways out where it is too heavy."""

from ditto_run.core.entry.quantity import Kind, in_system, mark_of, quantity_text
from ditto_run.core.findings import Finding
from ditto_run.core.method.ability import Cut, Cutting
from ditto_run.core.sheets import Answer, Entries, Entry, Fact, Grid, Known, SheetKind
from ditto_run.core.shop.looked_up import MACHINES
from ditto_run.core.tools.cutting.speed import THIN_BELOW, thinned
from ditto_run.core.tools.cutting.spent import LighterCut, Limits, Spent, lighter_cuts, motor_amps
from ditto_run.core.tools.cutting.work import Work
from ditto_run.core.units import LengthUnit, clock_text, counted, length_text

MOST_RPM = 200_000
HEAVY: dict[Work, Cutting] = {
    "turn": "turn",
    "bore": "turn",
    "part": "turn",
    "drill": "drill",
    "tap": "tap",
    "mill": "mill",
}
WORKS = tuple(HEAVY)
TAPS = ("floating", "rigid", "no")
SHOWN = 3  # machines that are named


def compute(entries: Entries, known: Known) -> Answer:
    """Return the answer of the spindle sheet.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    unit = known.unit
    entries.need("work", "mill")
    work = WORKS[WORKS.index(entries.choice("work", WORKS))]
    cut = _cut(entries, work)
    rpm = float(entries.number("rpm", 0.1, MOST_RPM))
    limits = Limits(
        float(entries.quantity("kc11", 1, 20_000)),
        float(entries.number("mc", 0, 0.9, 0.25)),
        float(entries.quantity("power", 0.01, 1000)) if entries.has("power") else None,
        float(entries.quantity("torque", 0.01, 100_000)) if entries.has("torque") else None,
    )
    spent = limits.spent(cut, rpm)
    heavy = spent.share is not None and spent.share > 1
    ways = tuple(lighter_cuts(cut, rpm, limits)) if heavy else ()
    others = _stronger(known, entries.text("machine"), spent) if heavy else ()
    asked = spent.asked
    return Answer(
        _say(spent, unit),
        _why(spent, unit),
        (
            Fact("Power at the motor", quantity_text("power", asked.power_kw, unit), _has("power", spent.power_kw, unit)),
            Fact("Torque", quantity_text("torque", asked.torque_nm, unit), _has("torque", spent.torque_nm, unit)),
            Fact("Cutting force", quantity_text("force", asked.force_n, unit) if asked.force_n else "–"),
            Fact("Feed a minute", length_text(asked.feed_mm_min, unit, 0)),
            *_thin(cut, unit),
            *_ammeter(entries, spent),
        ),
        (_grid(ways, entries.seconds("takes"), cut, unit),) if ways else (),
        findings=tuple(_findings(spent, _or(ways, cut, unit), others, entries, unit)),
        result=spent,
        source="Fc = kc1.1 b h^(1 − mc); makers’ tables differ by 15 %, and the machine’s manual goes before this",
    )  # fmt: skip


def _cut(entries: Entries, work: Work) -> Cut:
    across, feed = float(entries.mm("across", "12")), float(entries.mm("feed", "0.1"))
    if work in {"drill", "tap"}:
        return Cut(HEAVY[work], across, 1.0, feed)
    deep = float(entries.mm("depth", "2"))
    if work != "mill":
        return Cut("turn", across, 1.0, feed, deep)
    return Cut(
        "mill", across, 1.0, feed, deep, float(entries.mm("width", "6")), entries.whole("teeth", 1, 200, 2)
    )


def _say(spent: Spent, unit: LengthUnit) -> str:
    if spent.share is None:
        return "The machine’s power is not known."
    if spent.by_torque and spent.torque_nm is not None:
        return f"{_two('torque', spent.asked.torque_nm, spent.torque_nm, unit)} of torque."
    return f"{_two('power', spent.asked.power_kw, spent.power_kw or 0.0, unit)}."


def _thin(cut: Cut, unit: LengthUnit) -> list[Fact]:
    """The thickest chip of a narrow cut, and by how much it may be fed faster for a chip as thick as the feed."""
    if cut.cutting != "mill" or cut.width_mm >= THIN_BELOW * cut.diameter_mm:
        return []
    thick = thinned(cut.feed_mm, cut.width_mm, cut.diameter_mm)
    return [
        Fact(
            "Thickest chip",
            length_text(thick, unit),
            f"fed {cut.feed_mm / thick:.1f} times as fast it is as thick as the feed",
        )
    ]


def _ammeter(entries: Entries, spent: Spent) -> list[Fact]:
    """What the motor's ammeter shows about, where its full load is known."""
    if not entries.has("amps") or not spent.power_kw:
        return []
    full = float(entries.number("amps", 0.1, 1000))
    shown = motor_amps(full, spent.asked.power_kw / spent.power_kw)
    return [Fact("Ammeter", f"about {shown:.1f} A", f"of {full:g} A at full load; orders only")]


def _two(kind: Kind, need: float, has: float, unit: LengthUnit) -> str:
    return f"{in_system(kind, need, unit)} of {in_system(kind, has, unit)} {mark_of(kind, unit)}"


def _why(spent: Spent, unit: LengthUnit) -> str:
    if spent.share is None:
        return f"The cut asks {quantity_text('power', spent.asked.power_kw, unit)}; type what the machine has on Shop, by its manual."
    if spent.share > 1:
        return "More than it has: the spindle slows down or stops in the cut."
    return f"{spent.share:.0%} of what it has."


def _has(kind: Kind, value: float | None, unit: LengthUnit) -> str:
    return "not known for this machine" if value is None else f"it has {quantity_text(kind, value, unit)}"


def _does(way: LighterCut, cut: Cut, unit: LengthUnit) -> str:
    if way.by == "passes":
        return f"{counted(int(way.amount), 'pass')} of {length_text(cut.depth_mm / way.amount, unit, 2)}"
    if way.by == "pilot":
        return f"a pilot of {length_text(way.amount, unit, 1)} first"
    if way.by == "feed":
        return f"feed {length_text(way.amount, unit)}"
    return f"{way.amount:,.0f} rev/min, or the slower range"


def _grid(ways: tuple[LighterCut, ...], takes: float, cut: Cut, unit: LengthUnit) -> Grid:
    rows = tuple(
        (
            _does(way, cut, unit),
            quantity_text("power", way.spent.asked.power_kw, unit),
            quantity_text("torque", way.spent.asked.torque_nm, unit),
            "and the pilot’s own time"
            if way.by == "pilot"
            else clock_text(takes * way.times)
            if takes
            else f"{way.times:.2g} times as long",
        )
        for way in ways
    )
    return Grid("Ways out, each by itself", ("Cut it with", "Power", "Torque", "Takes then"), rows)


def _stronger(known: Known, name: str, spent: Spent) -> tuple[str, ...]:
    """Machines of the same kind that have the power and the torque for it, as far as both are known."""
    machines = known.of(MACHINES).values()
    own = next((one for one in machines if one.name == name), None)
    return tuple(
        one.name
        for one in machines
        if one.name != name
        and (own is None or one.turns == own.turns)
        and one.ability.power_kw is not None
        and one.ability.torque_nm is not None
        and float(one.ability.power_kw) >= spent.asked.power_kw
        and float(one.ability.torque_nm) >= spent.asked.torque_nm
    )[:SHOWN]


def _findings(
    spent: Spent, ways: str, others: tuple[str, ...], entries: Entries, unit: LengthUnit
) -> list[Finding]:
    found = []
    if spent.share is not None and spent.share > 1:
        kind: Kind = "torque" if spent.by_torque else "power"
        need, has = (
            (spent.asked.torque_nm, spent.torque_nm)
            if spent.by_torque
            else (spent.asked.power_kw, spent.power_kw)
        )
        out = f"Take {ways}" if ways else "Take a smaller tool"
        on = f", or cut it on {' or '.join(others)}" if others else ""
        found.append(
            Finding(
                "tools",
                "ask",
                f"over-{kind}",
                f"The cut asks {quantity_text(kind, need, unit)}, and the machine has {quantity_text(kind, has or 0.0, unit)}.",
                f"{out}{on}.",
                ground=f"{need:.4g} {has:.4g}",
            )
        )
    if entries.text("work") == "tap" and entries.choice("taps", TAPS) == "no":
        found.append(
            Finding(
                "tools",
                "ask",
                "cannot-tap",
                "The machine cannot tap by itself.",
                "Tap by hand, with the spindle turned by hand or a tapping head, on another machine, or mill the thread.",
            )
        )
    return found


def _or(ways: tuple[LighterCut, ...], cut: Cut, unit: LengthUnit) -> str:
    return ", or ".join(_does(way, cut, unit) for way in ways)


SPINDLE = SheetKind(
    "spindle",
    "tools",
    "Power of a cut",
    (
        Entry("depth", "Depth of a pass"),
        Entry("work", "Cut", kind="choose", choices=WORKS),
        Entry("across", "Tool, or work that turns, Ø"),
        Entry("rpm", "Speed of the spindle"),
        Entry("feed", "Feed, a tooth or a turn"),
        Entry("width", "Width that engages"),
        Entry("teeth", "Teeth"),
        Entry("kc11", "kc1.1", quantity="stress"),
        Entry("mc", "mc"),
        Entry("machine", "Machine"),
        Entry("power", "Power it has", quantity="power"),
        Entry("torque", "Torque it has", quantity="torque"),
        Entry("amps", "Its motor at full load, A"),
        Entry("taps", "It taps", kind="choose", choices=TAPS),
        Entry("takes", "It takes now"),
    ),
    compute,
)
