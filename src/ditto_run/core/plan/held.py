"""How the piece is held in every setup of a plan, by size: the blank of Stock, the jaws of the register, the features of Part."""

from collections.abc import Iterable, Mapping
from dataclasses import replace
from decimal import Decimal

from ditto_run.core.findings import Finding
from ditto_run.core.hold import Setup
from ditto_run.core.hold.contact import contact_of
from ditto_run.core.hold.heights import ANGLE_PLATE, FACE_PLATE, Contact, Vise
from ditto_run.core.hold.pieces import pieces_in, raw_of
from ditto_run.core.hold.spinning import balance_findings, spinning
from ditto_run.core.part.faces import BAR, Form
from ditto_run.core.part.features import Described, Role
from ditto_run.core.part.features.kinds import WHOLE
from ditto_run.core.part.shape.laid import of_kind
from ditto_run.core.part.shape.measures import known_measures, shape_part
from ditto_run.core.place import Layout, Standing, stand
from ditto_run.core.plan.document import Plan
from ditto_run.core.plan.once import Once
from ditto_run.core.plan.worked import Worked, blank_of
from ditto_run.core.shop import Bed, Machine
from ditto_run.core.shop.drawers import Holder, Material
from ditto_run.core.stock.blank import Blank
from ditto_run.core.units import LengthUnit, length_text

NEARLY = 1e-4  # a length that is the same; [mm]
KINDS_SAID = (
    "vacuum",
    "magnet",
    "fixture plate",
    "face plate",
    "angle plate",
    "arbor",
    "pallet",
    "nest",
    "plate",
    "vise",
    "jaws",
)
Three = tuple[Decimal, Decimal, Decimal]


@Once
def contacts(worked: Worked) -> tuple[Contact, ...]:
    """Return every setup as it is held; none while the size of the part is not said.

    Args:
        worked: the plan worked out.
    """
    return contacts_of(worked.plan, worked.result_of("blank"), worked.shop.holders)


def contacts_of(plan: Plan, blank: Blank | None, holders: Mapping[str, Holder]) -> tuple[Contact, ...]:
    """Return every setup of a plan as it is held; none while the size of the part is not said.

    Args:
        plan: the plan.
        blank: as Stock has it; None without one.
        holders: of the register, by name.
    """
    shaped = shape_part(plan.described, plan.form)
    on_bar = any(BAR in (*setup.clamps_on, *setup.locates_on) for setup in plan.setups)
    raw = raw_of(shaped, blank, on_bar=on_bar)
    if raw is None:
        return ()
    return tuple(
        contact_of(piece, shaped, vise_of(piece.setup, plan, holders), plan.heading.unit)
        for piece in pieces_in(shaped, raw, plan.features, plan.setups)
    )


@Once
def _by_themselves(plan: Plan) -> tuple[Contact, ...]:
    """Every setup as it is held, without the shop."""
    return contacts_of(plan, blank_of(plan), {})


def lying_mm(plan: Plan, setup_key: int) -> Three | None:
    """Return X, Y and Z of the piece as it goes into a setup and lies there: along the jaws, across them, up; None while not known, [mm].

    Args:
        plan: the plan.
        setup_key: of the setup.
    """
    found = next((c for c in _by_themselves(plan) if c.setup.key == setup_key), None)
    if found is None:
        blank = blank_of(plan)
        return None if blank is None else _of_blank(blank)
    x, y, z = (Decimal(repr(round(side, 4))) for side in found.lying)
    return x, y, z


def _of_blank(blank: Blank) -> Three:
    if blank.shape == "bar":
        return blank.length_mm, blank.across_mm, blank.across_mm
    x, y, z = blank.blank_mm
    return x, y, z


def layout_of(plan: Plan, setup_key: int) -> Layout:
    """Return what a setup's layout is checked with: the piece as typed, else as it lies; raised by the parallels of the setup.

    Args:
        plan: the plan.
        setup_key: of the setup.
    """
    layout = plan.layout(setup_key)
    setup = next((one for one in plan.setups if one.key == setup_key), None)
    if setup is None:
        return layout
    cutters = [step.across_mm for step in plan.tools_of(setup_key) if step.across_mm is not None]
    return replace(
        layout,
        piece_mm=layout.piece_mm or lying_mm(plan, setup_key),
        raised_mm=setup.held.parallels_mm,
        cutter_mm=layout.cutter_mm or max(cutters, default=layout.cutter_mm),
    )


def standings(plan: Plan, setup_key: int, bed: Bed, cycle_key: int = 0) -> tuple[Standing, ...]:
    """Return what stands on the table while a setup runs, each with its stations.

    Args:
        plan: the plan.
        setup_key: of the setup.
        bed: the table.
        cycle_key: the cycle that is looked at, where the setup is cut in several; 0 for the first.
    """
    return tuple(
        stand(
            placed,
            plan.stations_in(placed.key),
            layout_of(plan.seen_from(plan.part_of(placed.setup)), placed.setup),
            bed,
        )
        for placed in plan.on_table(setup_key, cycle_key)
    )


def as_it_comes(plan: Plan, blank: Blank | None) -> frozenset[int]:
    """Return the features that need no cut, as the blank has their size: an outline without stock beside it, a body as thick as its bar.

    Args:
        plan: the plan.
        blank: as Stock has it; None without one.
    """
    shaped = shape_part(plan.described, plan.form)
    raw, body = raw_of(shaped, blank), shaped.body
    if raw is None or body is None or not raw.known:
        return frozenset()
    across = (1, 2) if body.profile else (0, 1)
    beside = ((raw.low[i] - body.low[i], raw.high[i] - body.high[i]) for i in across)
    if any(abs(stock) > NEARLY for both in beside for stock in both):
        return frozenset()
    whole = of_kind(plan.described, WHOLE[plan.form])
    return (
        frozenset({whole.key}) if whole is not None and _is_plain(whole.feature, plan.form) else frozenset()
    )


def blank_findings(plan: Plan, blank: Blank | None) -> list[Finding]:
    """Return the sizes at which the blank was planned for another part, or for a smaller one.

    Args:
        plan: the plan.
        blank: as Stock has it; None without one.
    """
    part = known_measures(plan.described, plan.form)
    shape = {"block": "block", "turned": "bar"}[plan.form]
    if blank is None or part is None or blank.shape != shape:
        return []
    own = (part.size[1], part.size[0]) if shape == "bar" else part.size
    words = ("diameter", "length") if shape == "bar" else ("length", "width", "height")
    unit = plan.heading.unit
    return [
        Finding(
            "stock",
            "ask",
            "blank-other-part",
            f"The blank is for {length_text(planned, unit)} of {word}, and the part's is {length_text(size, unit)}.",
            "Empty that field of the blank: it then follows the part.",
            ground=f"{word} {planned} {size:.4f}",
        )
        for word, planned, size in zip(words, blank.finished_mm, own, strict=True)
        if abs(float(planned) - size) > NEARLY
    ]


def _is_plain(whole: Described, form: Form) -> bool:
    """True where a whole part is a rectangle or a plain bar before its features."""
    shaped = whole.extent == "round ends" or {Role.RADIUS, Role.DIAMETER} & set(whole.sizes)
    return whole.corners is None and (form == "turned" or not shaped)


def room_findings(held: Contact, machine: Machine | None, unit: LengthUnit) -> list[Finding]:
    """Return what of a piece is too large for the machine of its setup: its travels, or the bar through its spindle.

    Args:
        held: the setup as it is held.
        machine: its machine; None while none is chosen.
        unit: in which lengths are said.
    """
    if machine is None:
        return []
    ability, setup = machine.ability, held.setup
    if held.heights is None:
        r = held.piece.before.high[1]
        on_bar = BAR in (*setup.clamps_on, *setup.locates_on)
        limits = [("bar", 2 * r, ability.bar_mm if on_bar else None), ("swing", 2 * r, ability.swing_mm)]
    elif turns_with_it(held, machine):
        found = spinning(held)
        limits = [("swing", found.swing, ability.swing_mm)] if found is not None else []
    else:
        travels = (ability.travel_x_mm, ability.travel_y_mm, ability.travel_z_mm)
        limits = list(zip(("X travel", "Y travel", "Z travel"), held.lying, travels, strict=True))
    return [
        Finding(
            "hold",
            "stop",
            "piece-over-machine",
            f"{setup.name}: the piece is {length_text(size, unit)}, and {machine.name} has {length_text(limit, unit)} of {word}.",
            "Choose another machine, or turn the piece.",
            f"setup {setup.key}",
            f"{word} {size:.3f} {limit}",
        )
        for word, size, limit in limits
        if limit is not None and size > float(limit)
    ]


def turns_with_it(held: Contact, machine: Machine | None) -> bool:
    """Return whether a block turns with the spindle: on a face plate, or in any holder of a lathe."""
    return held.heights is not None and (
        held.vise.kind == FACE_PLATE or (machine is not None and machine.turns)
    )


def spin_findings(held: Contact, worked: Worked) -> list[Finding]:
    """Return that a block which turns with the spindle is out of balance.

    Args:
        held: the setup as it is held.
        worked: the plan worked out.
    """
    plan = worked.plan
    if not turns_with_it(held, worked.machines.get(held.setup.machine_id or 0)):
        return []
    density = density_of(plan.heading.material, worked.shop.materials.values())
    plate = held.vise.opens if held.vise.kind == FACE_PLATE else None
    return balance_findings(held, density, plate, plan.heading.unit)


def density_of(name: str, materials: Iterable[Material]) -> float | None:
    """Return the density of a material whose name begins as one of the register's, [g/cm³]; None where none does.

    Args:
        name: as the job has it.
        materials: of the register.
    """
    found = material_of(name, materials)
    return float(found.density) if found is not None else None


def material_of(name: str, materials: Iterable[Material]) -> Material | None:
    """Return the row of the register a material belongs to: the longest name it begins with; None where there is none.

    Args:
        name: as the job has it.
        materials: of the register.
    """
    said = name.strip().lower()
    rows = [row for row in materials if said and said.startswith(row.name.lower())]
    return max(rows, key=lambda row: len(row.name), default=None)


def vise_of(setup: Setup, plan: Plan, holders: Mapping[str, Holder]) -> Vise:
    """Return the jaws of a setup: of the holder placed for it, else of the register's of the name that is typed.

    Args:
        setup: the setup.
        plan: with what is placed for it.
        holders: of the register, by name.
    """
    placed = next((p for p in plan.placed if p.setup == setup.key), None)
    name = placed.holder if placed is not None else setup.holds
    holder = next((h for own, h in holders.items() if own.lower() == name.lower()), None)
    body = placed.body if placed is not None else holder.body if holder is not None else None
    words = name.lower()
    kind = holder.kind if holder is not None else next((kind for kind in KINDS_SAID if kind in words), "")
    high = holder.jaw_high_mm if holder is not None else None
    wide, opens = setup.held.jaw_wide_mm, None
    if body is not None and body.jaw_mm is not None:
        high = high if high is not None else body.tall_mm - body.seat_mm
        wide, opens = body.jaw_mm, body.opens_mm or None
    elif body is not None and kind == ANGLE_PLATE:
        high = high if high is not None else body.tall_mm - body.seat_mm
        wide = wide if wide is not None else body.size_mm[0]
    elif holder is not None and holder.high_mm:
        opens = holder.high_mm
    steps = holder.steps if holder is not None else ()
    least = holder.low_mm if holder is not None else None
    return Vise(_mm(high), _mm(wide), _mm(opens), name, steps, kind, _mm(least))


def _mm(size: Decimal | None) -> float | None:
    return None if size is None else float(size)
