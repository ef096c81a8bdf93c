"""What the questions of a plan may look at, thing by thing."""

from ditto_run.core.hold import Feature, Setup
from ditto_run.core.hold.chain import PieceInChain
from ditto_run.core.hold.heights import Contact
from ditto_run.core.hold.questions import SetupGround
from ditto_run.core.method import line_of
from ditto_run.core.method.order import OPERATIONS
from ditto_run.core.method.questions import MethodGround
from ditto_run.core.part import Characteristic
from ditto_run.core.part.features import Named
from ditto_run.core.part.features.kinds import WHOLE
from ditto_run.core.part.questions import FeatureGround, SizeGround, fits_into
from ditto_run.core.part.shape.measures import MEASURES
from ditto_run.core.plan.at_work import all_steps_asked
from ditto_run.core.plan.document import Plan
from ditto_run.core.plan.held import vise_of
from ditto_run.core.plan.once import Once
from ditto_run.core.plan.ways import ways_now
from ditto_run.core.plan.worked import Worked, says_of
from ditto_run.core.shop.looked_up import MATERIALS
from ditto_run.core.shop.taught import taught_for
from ditto_run.core.stock.questions import StockGround
from ditto_run.core.tools.questions import ToolsGround

HOLES = frozenset({"hole", "bore"})


def size_ground(worked: Worked, size: Characteristic) -> SizeGround:
    """Return what is known of a size for its questions."""
    plan = worked.plan
    carried = {feature.key for feature in plan.features if feature.characteristic == size.number}
    described = next((named.feature for named in plan.described if named.key in carried), None)
    partner, of = _partner(plan, size)
    maker = maker_of(plan, size) or next(
        (s for s in plan.setups if s.key in {size.made_in, size.setup}), None
    )
    stations = plan.stations_of(maker.key) if maker is not None else ()
    return SizeGround(
        size,
        described,
        plan.form,
        partner,
        of,
        maker_of(plan, size) is not None,
        None if plan.heading.has_consequence else _drift(worked, maker),  # that is gauged piece by piece
        max((station.pieces for station in stations), default=0),
    )


def _drift(worked: Worked, maker: Setup | None) -> tuple[float, str] | None:
    """What batches taught of drift on the machine of a setup, of this material; None where nothing."""
    machine = worked.machines.get(maker.machine_id or 0) if maker is not None else None
    if machine is None:
        return None
    row = taught_for(worked.shop.taught, "drift", "", machine.name, worked.plan.heading.material)
    return None if row is None else (row.value, row.rests_on)


def features_of(plan: Plan, thing: Characteristic | Feature) -> tuple[int, ...]:
    """Return the keys of the features that carry a size; of a feature its own."""
    if isinstance(thing, Feature):
        return (thing.key,)
    return tuple(feature.key for feature in plan.features if feature.characteristic == thing.number)


def maker_of(plan: Plan, thing: Characteristic | Feature) -> Setup | None:
    """Return the setup that makes a feature, or the feature which carries a size; None while none does."""
    made = {*features_of(plan, thing)}
    return next((setup for setup in plan.setups if made & {*setup.cuts}), None)


def _partner(plan: Plan, size: Characteristic) -> tuple[Characteristic | None, str]:
    """The size of another part of the job that goes into this one or over it, and that part's name."""
    for one in plan.companions:
        for other in one.plan.characteristics:
            if fits_into(size, other):
                return other, one.plan.heading.part
    return None, ""


def feature_ground(worked: Worked, named: Named) -> FeatureGround:
    """Return what is known of a feature for its questions.

    Args:
        worked: the plan worked out.
        named: the feature as its line says it.
    """
    plan, part = worked.plan, worked.known.of(MEASURES)
    bends = [one for one in plan.described if one.feature.kind == "bend"]
    flat = part.size if part is not None and bends else None
    return FeatureGround(
        named.key,
        named.feature,
        plan.form,
        bends,
        flat[2] if flat is not None else None,
        flat[0] if flat is not None else None,
        named.name,
        part.size if part is not None else None,
        any(named.key in setup.cuts for setup in plan.setups),
        _machined(plan),
    )


@Once
def _machined(plan: Plan) -> frozenset[str]:
    """Faces that some setup machines."""
    cut = {key for setup in plan.setups for key in setup.cuts}
    return frozenset(face for f in plan.features if f.key in cut for face in f.machines)


def method_ground(worked: Worked) -> MethodGround:
    """Return what is known of making the part for the questions of Method.

    Args:
        worked: the plan worked out.
    """
    plan = worked.plan
    ways = [way for way in ways_now(says_of(worked)) if not way.lacks]
    chosen = next((way for way in ways if plan.choice is not None and way.key == plan.choice.way), None)
    wanted = plan.heading.quantity
    quick = min(ways, key=lambda way: float(line_of(way, "time").at(wanted)), default=None)
    return MethodGround(
        plan.form,
        [named.feature for named in plan.described],
        worked.known.of(MEASURES),
        len(plan.setups),
        all(operation.piece_s > 0 for operation in worked.known.of(OPERATIONS)),
        chosen or quick,
        chosen is not None,
        len(ways),
        plan.heading.purpose == "hurry",
        any(setup.centres for setup in plan.setups),
        _machines(worked),
    )


def _machines(worked: Worked) -> tuple[tuple[str, float, float], ...]:
    """Each machine of the job that has times, with what a load runs and what the hands do at it, [s].

    Cycles on one machine follow each other.
    """
    plan = worked.plan
    found: dict[str, tuple[float, float]] = {}
    for cycle in plan.all_cycles:
        machine = worked.machines.get(cycle.machine_id or plan.setup(cycle.setups[0]).machine_id or 0)
        times = plan.times(cycle.key)
        if machine is None or times.cycle_s <= 0:
            continue
        runs, hands = found.get(machine.name, (0.0, 0.0))
        found[machine.name] = (runs + times.cycle_s, hands + times.load_to_load_s - times.cycle_s)
    return tuple((name.replace(";", ","), runs, hands) for name, (runs, hands) in found.items())


def ground_of(worked: Worked, setup: Setup, contact: Contact | None, piece: PieceInChain) -> SetupGround:
    """Return what is known of a setup for its questions.

    Args:
        worked: the plan worked out.
        setup: which.
        contact: it by size; None while the part's size is not said.
        piece: it in the chain, as it comes into the setup.
    """
    plan = worked.plan
    vise = contact.vise if contact is not None else vise_of(setup, plan, worked.shop.holders)
    made = [feature for feature in plan.features if feature.key in setup.cuts]
    sizes = {c.number: c for c in plan.characteristics}
    sides = tuple(dict.fromkeys(s.stop for s in plan.stations_of(setup.key) if s.stop))
    return SetupGround(
        setup,
        contact,
        worked.shop.holders.get(vise.name),
        vise.kind,
        worked.machines.get(setup.machine_id or 0),
        plan.form,
        plan.heading.material,
        [(f, sizes[f.characteristic]) for f in made if f.characteristic in sizes],
        [named.feature for named in plan.described if named.key in setup.cuts],
        piece.one_sided,
        plan.position(setup.key) == 1,
        _cutting(worked, setup),
        {kind: worked.result_of(kind) for kind in ("blank", "cuts")},
        sides,
        piece.machined,
        _cut_later(plan, setup),
        next(
            (
                named.feature
                for named in plan.described
                if named.feature.kind in HOLES
                and named.name.lower() in {on.lower() for on in setup.locates_on}
            ),
            None,
        ),
    )


def _cut_later(plan: Plan, setup: Setup) -> frozenset[str]:
    """Faces that the setups after one cut."""
    at = plan.position(setup.key)
    later = {key for one in plan.setups[at:] for key in one.cuts}
    return frozenset(face for f in plan.features if f.key in later for face in f.machines)


def tools_ground(worked: Worked, setup: Setup) -> ToolsGround:
    """Return what is known of the tools of a setup for their questions.

    Args:
        worked: the plan worked out.
        setup: which.
    """
    plan = worked.plan
    machine = worked.machines.get(setup.machine_id or 0)
    name = machine.name if machine is not None else ""
    steps = [(s, worked.shop.tool_of(s.tool, name) if s.tool else None) for s in plan.tools_of(setup.key)]
    load = sum(station.pieces for station in plan.stations_of(setup.key))
    at_once, asked = max(load, 1), all_steps_asked(worked)
    cut_s, cycles = sum(step.cut_for_s(at_once) for step, _ in steps), plan.cycles_of(setup.key)
    alone = len(cycles) == 1 and cycles[0].setups == (setup.key,)  # an order of visits that was taken counts
    times = plan.times(setup.key)
    air = {
        step.key: one.answer.result.air_s * one.answer.result.pace
        for step, _ in steps
        for one in asked.get(step.key, ())
        if one.question == "cutting" and one.answer is not None
    }
    gauged = [size for size in plan.gauged_in(setup.key) if size.grade != "free"]
    pace = taught_for(worked.shop.taught, "pace", "", name, plan.heading.material) if name else None
    return ToolsGround(
        setup,
        steps,
        worked.known.start,
        load,
        cut_s,
        max(times.cycle_s - cut_s, 0.0) if alone else sum(step.change_s for step, _ in steps),
        sum(air.values()) * at_once,
        len(gauged),
        max(plan.heading.gauge_every or 1, 1),
        (pace.value, pace.rests_on) if pace is not None else None,
    )


def stock_ground(worked: Worked) -> StockGround:
    """Return what is known of the part for the questions of Stock.

    Args:
        worked: the plan worked out.
    """
    plan, known = worked.plan, worked.known
    cut = {key for setup in plan.setups for key in setup.cuts}
    kinds = {f.key: f.kind for f in plan.features}
    whole = {named.key for named in plan.described if named.feature.kind == WHOLE[plan.form]}
    bars = [size for size in plan.stock if "bar" in size.name.lower()]
    way = plan.chosen_way
    return StockGround(
        plan.form,
        plan.heading.unit,
        known.of(MEASURES),
        plan.heading.material,
        tuple(known.of(MATERIALS)),
        plan.order,
        bars[0].used_mm(plan.heading.unit) if bars else None,
        bool(whole & cut),
        any(kinds.get(key) == "cut off" for key in cut),
        bool(cut),
        way.trials if way is not None else None,
        float(way.scrap) if way is not None else None,
        history=_history(worked, way.kind if way is not None else ""),
    )


def _history(worked: Worked, way: str) -> tuple[int, int, str] | None:
    """What batches on the first machine made of this material, good and in all; None where nothing was taught."""
    plan = worked.plan
    machine = worked.machines.get(plan.setups[0].machine_id or 0) if plan.setups else None
    taught = worked.shop.taught
    row = (
        taught_for(taught, "scrap", way, machine.name, plan.heading.material) if machine is not None else None
    )
    if row is None or not row.pieces:
        return None
    return round(row.pieces * (1 - row.value / 100)), row.pieces, row.rests_on


def _cutting(worked: Worked, setup: Setup) -> tuple[float, str] | None:
    """The largest cutting force that a kept sheet of Method worked out or a tool of the setup asks, with its name."""
    found = [
        (float(answer.result.force_n), sheet.name)
        for sheet in worked.plan.sheets
        if sheet.kind == "machine"
        and (answer := worked.answers.get(sheet.key)) is not None
        and answer.result.force_n
    ]
    steps = {step.key: step for step in worked.plan.tools_of(setup.key)}
    for key, asked in all_steps_asked(worked).items():
        forces = [
            one.answer.result.asked.force_n
            for one in asked
            if key in steps and one.question == "spindle" and one.answer is not None
        ]
        found += [(force, f"{steps[key].name} {steps[key].does}") for force in forces if force]
    return max(found, default=None)
