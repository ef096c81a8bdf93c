"""The machine sheet: power, torque, speed, travel, bar and tapping against the chosen machine."""

from decimal import Decimal

from ditto_run.core.entry.quantity import Kind, quantity_text
from ditto_run.core.errors import BadEntry
from ditto_run.core.findings import Finding
from ditto_run.core.method.ability import PILOT_SHARE, Cut, Cutting, Demand, demand
from ditto_run.core.sheets import Answer, Entries, Entry, Fact, Known, SheetKind
from ditto_run.core.shop import Ability, Machine
from ditto_run.core.shop.drawers import Material
from ditto_run.core.shop.looked_up import MACHINES, MATERIALS
from ditto_run.core.threads import read_thread
from ditto_run.core.units import LengthUnit, length_text, number_text, volume_text

CUTS: tuple[Cutting, ...] = ("turn", "mill", "drill", "tap")


def compute(entries: Entries, known: Known) -> Answer:
    """Return the answer of the machine sheet.

    Raises:
        BadEntry: at the field that cannot be used.
    """
    machine = _machine(entries, known)
    material = _material(entries, known)
    cut = _cut(entries)
    asked = demand(cut, float(material.kc11), float(material.mc))
    ability = machine.ability
    capped = ability.max_rpm is not None and asked.speed_rpm > float(ability.max_rpm)
    if capped:
        asked = demand(cut, float(material.kc11), float(material.mc), float(ability.max_rpm or 0))
    findings = _cut_findings(cut, asked, machine, known.unit, capped=capped) + _room_findings(
        entries, known, machine
    )
    stops = [finding for finding in findings if finding.weight != "note"]
    return Answer(
        _say(machine, len(stops)),
        f"{material.name} at {number_text(Decimal(repr(asked.speed_rpm)), 0)} rev/min asks {quantity_text('power', asked.power_kw, known.unit)} and {quantity_text('torque', asked.torque_nm, known.unit)}.",
        (
            Fact("Spindle", f"{asked.speed_rpm:.0f} rev/min", "the machine's most" if capped else ""),
            Fact("Feed, a minute", length_text(asked.feed_mm_min, known.unit, 0)),
            Fact(
                "Cutting force",
                quantity_text("force", asked.force_n, known.unit) if asked.force_n else "–",
            ),
            Fact(
                "Torque",
                quantity_text("torque", asked.torque_nm, known.unit),
                _has("torque", ability.torque_nm, known.unit),
            ),
            Fact(
                "Power at the motor",
                quantity_text("power", asked.power_kw, known.unit),
                _has("power", ability.power_kw, known.unit),
            ),
            Fact("Metal removed, a minute", volume_text(asked.removal_cm3_min, known.unit)),
        ),
        findings=tuple(findings),
        result=asked,
        source="kc1.1 of the materials register; makers' tables differ by 15 %, and the machine's manual goes before this",
    )


def _say(machine: Machine, stops: int) -> str:
    """Return whether a machine can do it, as far as its limits are known."""
    if stops:
        return f"{machine.name}: {stops} to change first."
    limits = (("power", machine.ability.power_kw), ("torque", machine.ability.torque_nm))
    unknown = [word for word, value in limits if value is None]
    if not unknown:
        return f"{machine.name} has the power and the torque for it."
    verb = "is" if len(unknown) == 1 else "are"
    return f"{machine.name}: its {' and '.join(unknown)} {verb} not known, so nobody can say yet."


def _has(kind: Kind, value: Decimal | None, unit: LengthUnit) -> str:
    return "not known for this machine" if value is None else f"it has {quantity_text(kind, value, unit)}"


def _machine(entries: Entries, known: Known) -> Machine:
    key = entries.text("machine")
    if not key.isdigit() or int(key) not in known.of(MACHINES):
        raise BadEntry(
            "No machine is chosen.", "Choose one; its power and travel are set on Shop.", "machine"
        )
    return known.of(MACHINES)[int(key)]


def _material(entries: Entries, known: Known) -> Material:
    name = entries.text("material")
    if name not in known.of(MATERIALS) or not known.of(MATERIALS)[name].kc11:
        raise BadEntry(
            "No material with a cutting force is chosen.",
            "Choose one; kc1.1 is set on Shop, Materials.",
            "material",
        )
    return known.of(MATERIALS)[name]


def _speed(entries: Entries) -> float:
    entries.need("speed", "100 m/min or 330 ft/min")
    return float(entries.quantity("speed", 0.1, 5000))


def _cut(entries: Entries) -> Cut:
    cutting = CUTS[CUTS.index(entries.choice("cutting", CUTS))]
    if cutting == "tap":
        thread = read_thread(entries.text("thread"))
        return Cut("tap", float(thread.mm(thread.major)), _speed(entries), float(thread.mm(thread.pitch)))
    diameter, feed = float(entries.mm("diameter", "20")), float(entries.mm("feed", "0.1"))
    if cutting == "drill":
        return Cut("drill", diameter, _speed(entries), feed)
    depth = float(entries.mm("depth", "2"))
    if cutting == "turn":
        return Cut("turn", diameter, _speed(entries), feed, depth)
    return Cut(
        "mill",
        diameter,
        _speed(entries),
        feed,
        depth,
        float(entries.mm("width", "10")),
        entries.whole("teeth", 1, 200, 4),
    )


def _cut_findings(
    cut: Cut, asked: Demand, machine: Machine, unit: LengthUnit, *, capped: bool
) -> list[Finding]:
    ability, found = machine.ability, []
    if capped:
        found.append(
            Finding(
                "method",
                "note",
                "speed-capped",
                f"{machine.name} turns {ability.max_rpm:f} rev/min at most.",
                "The figures are for that speed.",
            )
        )
    if ability.power_kw is not None and asked.power_kw > float(ability.power_kw):
        share = float(ability.power_kw) / asked.power_kw
        found.append(
            Finding(
                "method",
                "ask",
                "power",
                f"The cut asks {quantity_text('power', asked.power_kw, unit)}, {machine.name} has {quantity_text('power', ability.power_kw, unit)}.",
                _offer(cut, share, unit),
            )
        )
    if ability.torque_nm is not None and asked.torque_nm > float(ability.torque_nm):
        share = float(ability.torque_nm) / asked.torque_nm
        found.append(
            Finding(
                "method",
                "ask",
                "torque",
                f"The cut asks {quantity_text('torque', asked.torque_nm, unit)}, {machine.name} has {quantity_text('torque', ability.torque_nm, unit)}.",
                _offer(cut, share, unit),
            )
        )
    if cut.cutting == "tap" and ability.taps == "no":
        found.append(
            Finding(
                "method",
                "ask",
                "no-tapping",
                f"{machine.name} cannot tap.",
                "Tap by hand or on another machine, or mill the thread.",
            )
        )
    if ability.power_kw is None and ability.torque_nm is None:
        found.append(
            Finding(
                "method",
                "note",
                "ability-unknown",
                f"Nobody has typed the power and torque of {machine.name}.",
                "Its manual has them; type them on Shop.",
            )
        )
    return found


def _offer(cut: Cut, share: float, unit: LengthUnit) -> str:
    """Return what to do about a cut that is too heavy."""
    if cut.cutting == "drill":
        return f"Drill a pilot of {length_text(cut.diameter_mm * PILOT_SHARE, unit, 1)} first, or feed {length_text(cut.feed_mm * share, unit)} a turn, or take a slower pulley."
    if cut.cutting == "tap":
        return "Take a slower pulley, a larger drill (60 %), or a tap with less thread."
    passes = int(1 / share) + 1
    return f"Take {passes} passes of {length_text(cut.depth_mm / passes, unit, 2)}, or a slower pulley."


def _room_findings(entries: Entries, known: Known, machine: Machine) -> list[Finding]:
    """Compare travel and bar with what the machine has."""
    found = []
    ability: Ability = machine.ability
    for name, word, have in (
        ("travel_x", "X travel", ability.travel_x_mm),
        ("travel_y", "Y travel", ability.travel_y_mm),
        ("travel_z", "Z travel", ability.travel_z_mm),
        ("bar", "Bar", ability.bar_mm),
    ):
        wanted = entries.maybe_mm(name)
        if wanted is None:
            continue
        if have is None:
            found.append(
                Finding(
                    "method",
                    "note",
                    f"{name}-unknown",
                    f"The {word.lower()} of {machine.name} is not typed.",
                    "Measure it, type it on Shop.",
                )
            )
        elif wanted > have:
            found.append(
                Finding(
                    "method",
                    "stop",
                    f"{name}-short",
                    f"{word}: {length_text(wanted, known.unit, 1)} is wanted, {machine.name} has {length_text(have, known.unit, 1)}.",
                    "Another machine, or another way of holding it.",
                )
            )
    return found


ABILITY = SheetKind(
    "machine",
    "method",
    "Can the machine do it",
    (
        Entry("machine", "Machine", kind="machine"),
        Entry("material", "Material", kind="material"),
        Entry("cutting", "Cut", kind="choose", choices=("turn", "mill", "drill", "tap")),
        Entry("diameter", "Work, cutter or drill, Ø"),
        Entry("speed", "Cutting speed", quantity="speed"),
        Entry("feed", "Feed"),
        Entry("depth", "Depth of cut"),
        Entry("width", "Width"),
        Entry("teeth", "Teeth"),
        Entry("thread", "Thread"),
        Entry("travel_x", "X travel wanted"),
        Entry("travel_y", "Y travel wanted"),
        Entry("travel_z", "Z travel wanted"),
        Entry("bar", "Bar, Ø"),
    ),
    compute,
)
