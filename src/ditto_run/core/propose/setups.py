"""A chain of setups proposed: which face is up, what it sits on, what holds it, what is cut; judged by the chain's own checks."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from decimal import Decimal
from itertools import islice, permutations

from ditto_run.core.findings import Finding
from ditto_run.core.hold.chain import Chain, check_chain
from ditto_run.core.hold.feature import Feature
from ditto_run.core.hold.held import Holding
from ditto_run.core.hold.setup import Setup
from ditto_run.core.part.faces import BAR, FACES, OPPOSITE, Form
from ditto_run.core.part.features import Described, Named, Role
from ditto_run.core.propose.ways import HAND_KINDS
from ditto_run.core.shop.drawers import Holder

MOST_FEW, MOST_BY_HOLE = 3, 2  # chains of fewest setups that are given on, and of those held by a hole
MOST_LOOKED_AT = 200  # chains that are stopped, of which the nearest is told
PLATES = ("fixture plate", "nest", "arbor")  # kinds of holders that hold by a hole
TO_MAKE = "fixture plate, to make"
MOST_BESIDE_MM = Decimal(25)  # height that the side of an end mill cuts; common practice, no source
LEAST_HELD_MM = Decimal(5)  # diameter of a hole that holds a piece; own judgement
MORE = 1  # setups beyond the fewest, among which one that asks less is looked for
ON_A_MILL = {"slot", "slit", "flat", "hexagon", "square", "cross hole", "pocket"}  # of a turned part
PAIRS = (("front", "back"), ("left", "right"), ("top", "bottom"))
ORDINAL = ("first", "second", "third", "fourth", "fifth", "sixth")
CUT_LAST, CUT_FIRST = 9, {"face": 0, "outline": 1, "turned": 1}


@dataclass(frozen=True, slots=True)
class ProposedSetup:
    """A setup: its name, the face that is up, machine and holder, faces it sits on and is held by, features it cuts."""

    name: str
    up: str
    machine_id: int | None
    holds: str
    locates_on: tuple[str, ...]
    clamps_on: tuple[str, ...]
    cuts: tuple[int, ...]


@dataclass(frozen=True, slots=True)
class ProposedChain:
    """Setups in order, what the checks would ask about them, and features that are left to the hand."""

    setups: tuple[ProposedSetup, ...]
    asks: tuple[str, ...]
    left: tuple[str, ...]

    @property
    def on_pins(self) -> int:
        """How many setups are held by a hole that was made before: a pin or a nest has to fit it, or is made."""
        sides = {*FACES["block"], *FACES["turned"], BAR, "outside"}
        return sum(any(face not in sides for face in one.clamps_on) for one in self.setups)


@dataclass(frozen=True, slots=True)
class HoldsThere:
    """What there is to hold and cut with.

    Args:
        mill, lathe: number of a machine of each kind; None where there is none.
        holders: of the register.
    """

    mill: int | None
    lathe: int | None
    holders: tuple[Holder, ...] = ()


def propose_setups(chain: Chain, described: Sequence[Named], there: HoldsThere) -> tuple[ProposedChain, ...]:
    """Return chains of setups that break no rule of the chain, the fewest setups first.

    Some are held by a hole, and the one that asks least is among them.

    Args:
        chain: form, features, centres and what is critical; its setups are not looked at.
        described: features as a line describes them.
        there: machines and holders.

    Source:
        Every order of faces tried, judged by `check_chain`; own derivation.
    """
    tried, by_hand = _tried(chain, described, there)
    left = tuple(f.name for f in chain.features if f.key in by_hand)
    found: list[ProposedChain] = []
    for setups in tried:
        if found and len(setups) > len(found[0].setups) + MORE:
            break
        wrong = _judged(setups, chain, by_hand)
        if all(one.weight != "stop" for one in wrong):
            asks = tuple(dict.fromkeys(one.problem for one in wrong if one.weight == "ask"))
            found.append(ProposedChain(setups, asks, left))
    few = sorted(found, key=lambda one: (len(one.setups), one.on_pins, len(one.asks), _key(one)))
    calm = min(few, key=lambda one: (one.on_pins, len(one.asks), len(one.setups), _key(one)), default=None)
    in_jaws, by_hole = ([one for one in few if (one.on_pins > 0) is held] for held in (False, True))
    kept = [*in_jaws[:MOST_FEW], *by_hole[:MOST_BY_HOLE], *([calm] if calm is not None else [])]
    return tuple(one for one in few if one in kept)


def what_stops(chain: Chain, described: Sequence[Named], there: HoldsThere) -> tuple[str, ...]:
    """Return what stops the chain that is stopped by least, of the shortest ones, a sentence each; none where nothing is to be cut.

    Args:
        chain: form, features, centres and what is critical, for which none was proposed.
        described: features as a line describes them.
        there: machines and holders.
    """
    tried, by_hand = _tried(chain, described, there)
    found = [
        tuple(dict.fromkeys(one.problem for one in _judged(setups, chain, by_hand) if one.weight == "stop"))
        for setups in islice(tried, MOST_LOOKED_AT)
    ]
    return min(found, key=len, default=())


def _tried(
    chain: Chain, described: Sequence[Named], there: HoldsThere
) -> tuple[Iterator[tuple[ProposedSetup, ...]], frozenset[int]]:
    """Chains to try, the shortest first, and the features that are left to the hand."""
    said = {one.key: one.feature for one in described}
    by_hand = frozenset(f.key for f in chain.features if f.key in said and said[f.key].kind in HAND_KINDS)
    not_cut = by_hand | chain.as_it_comes
    wanted = [f for f in chain.features if f.key not in not_cut and not f.supplied]
    if not wanted:
        return iter(()), by_hand
    if chain.form == "turned":
        return iter([_turned(wanted, said, there)]), by_hand
    chains = (setups for faces in _orders(wanted, said) for setups in _variants(faces, wanted, said, there))
    return filter(None, chains), by_hand


def _key(one: ProposedChain) -> tuple[int, ...]:
    """Where two are as good, the one whose faces come first."""
    order = (*FACES["block"], *FACES["turned"], "")
    return tuple(order.index(setup.up) for setup in one.setups)


def _judged(setups: Sequence[ProposedSetup], chain: Chain, by_hand: frozenset[int]) -> list[Finding]:
    real = [_setup(n, one) for n, one in enumerate(setups, 1)]
    return check_chain(replace(chain, setups=real, as_it_comes=chain.as_it_comes | by_hand))


def _setup(key: int, one: ProposedSetup) -> Setup:
    return Setup(
        key,
        one.name,
        one.machine_id,
        one.holds,
        locates_on=one.locates_on,
        clamps_on=one.clamps_on,
        cuts=one.cuts,
        held=Holding(up=one.up if one.up in FACES["block"] else ""),
    )


def setups_of(chain: ProposedChain, first_key: int) -> tuple[Setup, ...]:
    """Return a proposed chain as setups of a plan, numbered from a key on."""
    return tuple(_setup(first_key + n, one) for n, one in enumerate(chain.setups))


# a block


def _from(feature: Feature, said: Mapping[int, Described], *, beside: bool = False) -> frozenset[str]:
    """The faces that may be up while a feature is cut; `beside` counts those too from which the side of a cutter reaches it."""
    described = said.get(feature.key)
    if feature.kind == "outline":
        return frozenset({"top", "bottom"})
    own = frozenset({feature.face})
    if described is None:
        return own
    if described.through and feature.kind != "face":
        return own | {OPPOSITE[feature.face]}
    return own | (_from_beside(feature, described, said) if beside else frozenset())


def _from_beside(feature: Feature, described: Described, said: Mapping[int, Described]) -> frozenset[str]:
    """The faces from which the side of a cutter reaches a feature: a step from both its faces, a face that is not high."""
    if described.kind == "step" and described.open_at in OPPOSITE:
        return frozenset({described.open_at})
    if feature.kind != "face":
        return frozenset()
    spans = _spans_of(said)
    low = [pair for pair in PAIRS if (span := spans.get(pair)) is not None and span <= MOST_BESIDE_MM]
    return frozenset(up for pair in low if feature.face not in pair for up in pair)


def _orders(wanted: Sequence[Feature], said: Mapping[int, Described]) -> Iterator[tuple[str, ...]]:
    """Orders of faces from which all is reached, the shortest first."""
    needs = [_from(feature, said, beside=True) for feature in wanted]
    faces = sorted(frozenset().union(*needs), key=FACES["block"].index)
    for many in range(1, len(faces) + 1):
        for order in permutations(faces, many):
            if all(need & set(order) for need in needs):
                yield order


def _variants(
    faces: Sequence[str], wanted: Sequence[Feature], said: Mapping[int, Described], there: HoldsThere
) -> Iterator[tuple[ProposedSetup, ...]]:
    """Setups with these faces up in turn: what goes round cut as early as it is reached, or late; in jaws, or held by a hole.

    Then what the side of a cutter reaches cut from there.
    """
    yield _of_faces(faces, wanted, said, there)
    if any(_from(one, said, beside=True) != _from(one, said) for one in wanted):
        yield _of_faces(faces, wanted, said, there, beside=True)
    if any(feature.kind == "outline" for feature in wanted) and len(faces) > 1:
        late = _of_faces(faces, wanted, said, there, late=True)
        yield late
        yield _held_by_hole(late, wanted, said, there)


def _held_by_hole(
    setups: Sequence[ProposedSetup],
    wanted: Sequence[Feature],
    said: Mapping[int, Described],
    there: HoldsThere,
) -> tuple[ProposedSetup, ...]:
    """The same, a setup that cuts what goes round held by the widest hole made through it before; empty where there is none."""
    of_key = {feature.key: feature for feature in wanted}
    plate = next((one.name for one in there.holders if one.kind in PLATES), TO_MAKE)
    found, made, changed = [], set[int](), False
    for one in setups:
        holes = [
            (across, -key)
            for key in made
            if (described := said.get(key)) is not None
            and described.kind in {"bore", "hole"}
            and described.through
            and one.up in {of_key[key].face, OPPOSITE[of_key[key].face]}
            and (
                across := described.sizes[Role.DIAMETER].nominal_base
                if Role.DIAMETER in described.sizes
                else 0
            )
            >= LEAST_HELD_MM
        ]
        if holes and any(of_key[key].kind == "outline" for key in one.cuts):
            name = of_key[-max(holes)[1]].name
            one = replace(one, locates_on=(OPPOSITE[one.up], name), clamps_on=(name,), holds=plate)  # noqa: PLW2901
            changed = True
        found.append(one)
        made |= set(one.cuts)
    return tuple(found) if changed else ()


def _of_faces(
    faces: Sequence[str],
    wanted: Sequence[Feature],
    said: Mapping[int, Described],
    there: HoldsThere,
    *,
    late: bool = False,
    beside: bool = False,
) -> tuple[ProposedSetup, ...]:
    """Setups with these faces up in turn; each feature as early as it is reached, what goes round late where that is asked.

    Empty where one would cut nothing, or something is not reached.
    """
    cuts: dict[str, list[Feature]] = {face: [] for face in faces}
    for feature in wanted:
        order = faces[::-1] if late and feature.kind == "outline" else faces
        reached = _from(feature, said, beside=beside)
        face = next((up for up in order if up in reached and _leaves_a_pair(up, feature, cuts[up])), "")
        if not face:
            return ()
        cuts[face].append(feature)
    if not all(cuts.values()):
        return ()
    machined: set[str] = set()
    spans, found = _spans_of(said), []
    for n, face in enumerate(faces):
        mine = _in_order(cuts[face])
        cut = frozenset().union(*(feature.machines for feature in mine))
        whole = frozenset().union(*(feature.machines for feature in mine if feature.kind == "face"))
        pair, holder = _held_by(face, (whole, cut), machined if n else None, spans, there.holders)
        found.append(
            ProposedSetup(
                f"{ORDINAL[n]} side",
                face,
                there.mill,
                holder,
                (OPPOSITE[face], *({pair[1]} - cut)),
                pair,
                tuple(feature.key for feature in mine),
            )
        )
        machined |= cut
    return tuple(found)


def _leaves_a_pair(up: str, feature: Feature, others: Sequence[Feature]) -> bool:
    """True if two faces stay for the jaws where a feature is cut from the side with others; one cut from above takes none away."""
    if feature.kind != "face" or feature.face == up:
        return True
    cut = {feature.face, *(one.face for one in others if one.kind == "face" and one.face != up)}
    return any(up not in pair and not cut & {*pair} for pair in PAIRS)


def _in_order(features: Sequence[Feature]) -> list[Feature]:
    """Faces first, then what goes round, then the rest, what is parted off last."""
    rank = {"cut off": CUT_LAST, **CUT_FIRST}
    left = sorted(features, key=lambda one: (rank.get(one.kind, 2), one.key))
    done: list[Feature] = []
    while left:
        machined = frozenset().union(*(one.machines for one in left))
        ready = next((one for one in left if not set(one.refers) & (machined - one.machines)), left[0])
        left.remove(ready)
        done.append(ready)
    return done


def _held_by(
    up: str,
    cut: tuple[frozenset[str], frozenset[str]],
    machined: set[str] | None,
    spans: Mapping[tuple[str, str], Decimal],
    holders: Sequence[Holder],
) -> tuple[tuple[str, str], str]:
    """The two faces that jaws hold, and the holder: free of the cut, machined if that is asked, within what one spans.

    `cut` are the faces that are cut whole, and all that are cut: beside what goes round jaws may still hold.
    """

    def worth(pair: tuple[str, str]) -> tuple[int, int, int, int]:
        raw = 0 if machined is None else len(set(pair) - machined)
        whole, some = (len(faces & set(pair)) for faces in cut)
        return whole, some, raw, int(not _holder(spans.get(pair), holders))

    best = min((pair for pair in PAIRS if up not in pair), key=worth)
    return best, _holder(spans.get(best), holders) or "vise"


def _spans_of(said: Mapping[int, Described]) -> dict[tuple[str, str], Decimal]:
    """How far apart the faces of each pair are, as far as an outline says it, [mm]."""
    whole = next((one for one in said.values() if one.kind == "outline"), None)
    if whole is None:
        return {}
    roles = {PAIRS[0]: Role.WIDTH, PAIRS[1]: Role.LENGTH, PAIRS[2]: Role.HEIGHT}
    return {pair: whole.sizes[role].nominal_base for pair, role in roles.items() if role in whole.sizes}


def _holder(span: Decimal | None, holders: Sequence[Holder]) -> str:
    """The holder with flat jaws that spans it, the smallest that does; empty for none."""
    fits = [
        one
        for one in holders
        if one.shape != "round"
        and "vise" in f"{one.kind} {one.name}".lower()
        and span is not None
        and one.low_mm <= span <= one.high_mm
    ]
    return min(fits, key=lambda one: (one.high_mm, one.name)).name if fits else ""


# a turned part


def _turned(
    wanted: Sequence[Feature], said: Mapping[int, Described], there: HoldsThere
) -> tuple[ProposedSetup, ...]:
    """From the bar: the free end and the outside, then the other end, then what a mill cuts."""
    milled = [f for f in wanted if f.key in said and said[f.key].kind in ON_A_MILL]
    behind = [f for f in wanted if f.face == "chuck end" and f.kind != "cut off" and f not in milled]
    ahead = [f for f in wanted if f not in milled and f not in behind]
    across = next(
        (
            one.sizes[Role.DIAMETER].nominal_base
            for one in said.values()
            if one.kind == "body" and Role.DIAMETER in one.sizes
        ),
        None,
    )
    bar = _round_holder(("collet", "chuck"), across, there.holders) or "collet or chuck"
    turned_round = _round_holder(("soft jaws", "collet", "chuck"), across, there.holders) or "soft jaws"
    parts = (
        (ahead, "free end", there.lathe, (BAR,), (BAR,), bar),
        (behind, "chuck end", there.lathe, ("free end",), ("outside",), turned_round),
        (milled, "", there.mill, ("outside",), ("outside",), "vee jaws"),
    )
    found = [
        ProposedSetup(
            f"{ORDINAL[n]} side",
            up,
            machine,
            holds,
            locates,
            clamps,
            tuple(f.key for f in _in_order(features)),
        )
        for n, (features, up, machine, locates, clamps, holds) in enumerate(one for one in parts if one[0])
    ]
    return tuple(found)


def _round_holder(kinds: Sequence[str], across: Decimal | None, holders: Sequence[Holder]) -> str:
    """The holder of the first of these kinds that takes a diameter and stands on no certain machine, the closest; empty for none."""
    fits = [
        (kinds.index(one.kind), one.high_mm - one.low_mm, one.name)
        for one in holders
        if one.kind in kinds
        and one.shape == "round"
        and not one.machine
        and across is not None
        and one.low_mm <= across <= one.high_mm
    ]
    return min(fits, default=(0, Decimal(0), ""))[2]


def form_words(form: Form) -> str:
    """Return what a proposal for a form rests on, in a sentence."""
    if form == "turned":
        return "From the bar, so far as it lets itself be turned; what lies across the axis goes to a mill."
    return "Every order of faces was tried; what the checks of the chain stop is left out."
