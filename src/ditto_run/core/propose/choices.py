"""The choices that a whole plan is made of: each with its reason, what was turned down, and what it would take to choose it."""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from math import ceil, floor, inf, isfinite

from ditto_run.core.errors import NotFound
from ditto_run.core.method.crossings import break_even
from ditto_run.core.method.totals import CostLine, Measure
from ditto_run.core.method.verdict import amount_text
from ditto_run.core.part.faces import BAR, FACES
from ditto_run.core.propose.drafts import OWN, Picks, WholeGround
from ditto_run.core.propose.judged import JudgedChain
from ditto_run.core.propose.proposal import FeatureChoice, size_said
from ditto_run.core.propose.whole import WholePlan, figured
from ditto_run.core.units import capital, counted

REMEDY = "Choose one of those that are shown."
SIDES = frozenset({*FACES["block"], *FACES["turned"], BAR, "outside"})
SAME_S = 30  # two times nearer than this are said to be the same


@dataclass(frozen=True, slots=True)
class TurnedDown:
    """What was not chosen: in words, why, and the pick that takes it; no pick where it cannot be taken."""

    words: str
    why: str = ""
    pick: str = ""


@dataclass(frozen=True, slots=True)
class OpenChoice:
    """A choice of a whole plan.

    Args:
        key: what it is called in a pick: chain, mill, lathe, stations:0, way:7, gauge, buy.
        asks: the question.
        said: what is chosen, in words.
        why: its reason, a sentence or two.
        down: what was turned down.
        short: what is chosen, in the words of those turned down; as it is said where that is the same.
    """

    key: str
    asks: str
    said: str
    why: str
    down: tuple[TurnedDown, ...] = ()
    short: str = ""

    @property
    def options(self) -> tuple[tuple[str, str], ...]:
        """What can be chosen: pick and words, in an order that does not give away which is proposed, whose pick is empty."""
        others = [(down.pick, capital(down.words)) for down in self.down if down.pick]
        mine = capital(self.short or self.said.rstrip("."))
        return tuple(sorted([("", mine), *others], key=lambda one: one[1]))

    @property
    def next_pick(self) -> str:
        """The first other that can be taken; empty where there is none."""
        return next((one.pick for one in self.down if one.pick), "")


@dataclass(frozen=True, slots=True)
class Weighed:
    """What was turned down, weighed: what it comes to, how much more or less that is, and from where it would be the better one."""

    down: TurnedDown
    total: str
    more: str
    takes: str


def picked(picks: Picks, text: str) -> Picks:
    """Return picks with one more, as a choice calls it.

    Args:
        picks: as they are.
        text: such as chain:1, mill:3, stations:0:2 or way:7:milled at once.

    Raises:
        NotFound: if it is none of these.
    """
    kind, _, rest = text.partition(":")
    place, _, what = rest.partition(":")
    if kind == "way" and place.isdigit() and what:
        ways = dict(picks.ways) | {int(place): what}
        return replace(picks, ways=tuple(sorted(ways.items())))
    if kind == "stations" and place.isdigit() and what.isdigit():
        at, counts = int(place), [*picks.stations]
        counts += [1] * (at + 1 - len(counts))
        counts[at] = int(what)
        return replace(picks, stations=tuple(counts))
    if kind in {"mill", "lathe"} and place.isdigit() and not what:
        return replace(picks, **{kind: int(place)})  # type: ignore[arg-type] # one of the two
    if kind == "chain" and place.isdigit() and not what:
        return replace(picks, chain=int(place), stations=())
    raise NotFound("choice", text[:40], REMEDY)


def checked(ground: WholeGround, picks: Picks) -> Picks:
    """Return picks if each of them is one that can be taken here.

    Args:
        ground: what whole plans are drafted from.
        picks: the picks.

    Raises:
        NotFound: if a chain, a machine or a number of stations is not there.
    """
    if picks.chain != OWN and not 0 <= picks.chain < len(ground.chains):
        raise NotFound("chain of setups", picks.chain + 1, REMEDY)
    for number, there in ((picks.mill, ground.mills), (picks.lathe, ground.lathes)):
        if number not in there:
            raise NotFound("machine", number, REMEDY)
    drafted = ground.draft(picks)
    for place in range(len(drafted.plan.setups)):
        many = picks.stations[place] if place < len(picks.stations) else 1
        if not 1 <= many <= ground.room(drafted, place):
            raise NotFound("number of stations", many, REMEDY)
    return picks


def choices_of(ground: WholeGround, one: WholePlan) -> tuple[OpenChoice, ...]:
    """Return what a whole plan chooses, in the order of the work.

    Args:
        ground: what it was drafted from.
        one: the plan.
    """
    found = [_setups(ground, one)] if one.picks.chain != OWN else []
    found += _machines(ground, one)
    found += [
        _stations(ground, one, place)
        for place in range(len(one.drafted.plan.setups))
        if ground.room(one.drafted, place) > 1
    ]
    for proposal in one.drafted.tools:
        found += [_way(one, choice) for choice in (proposal.choices if proposal is not None else ())]
    return (*found, _gauging(one), _to_buy(one))


def _setups(ground: WholeGround, one: WholePlan) -> OpenChoice:
    chain = ground.chains[one.picks.chain]
    if one.picks.chain:
        why = f"It asks {_asked(chain)}; the first one asks {_asked(ground.chains[0])}."
    elif chain.is_fewest:
        why = "Every order of faces was tried; no fewer setups keep every rule of the chain."
    else:
        why = "Every order of faces was tried; what Hold looked at with fewer setups is stopped by a check."
    if ground.plan.form == "turned":
        why = "All that the bar lets be turned first, then the other end, then what a mill cuts."
    pinned = next((one for one in chain.chain.setups if set(one.clamps_on) - SIDES), None)
    if pinned is not None:
        jaws = "" if one.picks.chain else " In jaws it would take more setups, or Hold would stop it."
        why = f"{why}{jaws} The {pinned.name} is held by its {pinned.clamps_on[0]} on {pinned.holds}: look whether that fits it."
    if chain.stops:
        why = f"{why} Hold would still stop it: {chain.stops[0]}"
    down = tuple(
        TurnedDown(
            _chain_words(other),
            _other_chain(other, chain),
            f"chain:{place}",
        )
        for place, other in enumerate(ground.chains)
        if place != one.picks.chain
    )
    return OpenChoice(
        "chain",
        "How many setups?",
        f"{_chain_words(chain)}.",
        why,
        down,
    )


def _other_chain(other: JudgedChain, mine: JudgedChain) -> str:
    """Why another chain is another: what it would be stopped by, how it is held, how much it asks."""
    if other.stops:
        return f"Hold would stop it: {other.stops[0]}"
    held = "held by a hole; " if other.chain.on_pins > mine.chain.on_pins else ""
    return f"{held}asks {_asked(other)}, not {_asked(mine)}"


def _asked(chain: JudgedChain) -> str:
    return counted(len(chain.asks), "question") if chain.asks else "nothing"


def _chain_words(chain: JudgedChain) -> str:
    """A chain in words: how many setups, which side is up in each, and what holds it by a hole."""
    sides = [
        (one.up or "across the axis") + (f" on {one.holds}" if set(one.clamps_on) - SIDES else "")
        for one in chain.chain.setups
    ]
    return f"{counted(len(sides), 'setup')}: {', then '.join(sides)}"


def _machines(ground: WholeGround, one: WholePlan) -> Iterator[OpenChoice]:
    machines = ground.shop.machines
    used = {setup.machine_id for setup in one.drafted.plan.setups}
    for kind, there in (("mill", ground.mills), ("lathe", ground.lathes)):
        mine = one.picks.mill if kind == "mill" else one.picks.lathe
        if mine not in used or mine is None or len(there) < len("ab") or one.picks.chain == OWN:
            continue
        by_hand = machines[mine].is_manual
        why = (
            "By hand nothing is programmed, so the first piece comes soon."
            if by_hand
            else "Its control cuts while the hands gauge and deburr."
        )
        down = tuple(
            TurnedDown(machines[other].name, machines[other].kind_words, f"{kind}:{other}")
            for other in there
            if other is not None and other != mine
        )
        yield OpenChoice(kind, f"Which {kind}?", f"{machines[mine].name}.", why, down)


def _stations(ground: WholeGround, one: WholePlan, place: int) -> OpenChoice:
    plan = one.drafted.plan
    setup, many = plan.setups[place], one.picks.stations[place]
    change = sum(step.change_s for step in plan.tools_of(setup.key))
    if many > 1:
        why = f"One change of tool serves {counted(many, 'piece')}: {round(change / many)} s each instead of {round(change)}."
    elif _longer(one, figured(ground, picked(one.picks, f"stations:{place}:2"))):
        why = f"A further one takes longer to place and zero than it saves of {round(change)} s of changes a piece."
    else:
        why = f"Each piece bears its changes of tool alone: {round(change)} s."
    down = tuple(
        TurnedDown(
            counted(other, "station"),
            f"{round(change / other)} s of changes a piece",
            f"stations:{place}:{other}",
        )
        for other in range(1, ground.room(one.drafted, place) + 1)
        if other != many
    )
    return OpenChoice(
        f"stations:{place}",
        f"How many stations for the {setup.name}?",
        f"{capital(counted(many, 'station'))} in {setup.holds}{' and its like' if many > 1 else ''}.",
        why,
        down,
        counted(many, "station"),
    )


def _longer(one: WholePlan, other: WholePlan) -> bool:
    """True if another plan is known to take longer for the batch."""
    quantity = max(one.drafted.plan.heading.quantity, 1)
    return one.total(quantity, "time") < other.total(quantity, "time") < inf


def _way(one: WholePlan, choice: FeatureChoice) -> OpenChoice:
    way, wanted = choice.way, choice.wanted
    if way is None:
        return OpenChoice(f"way:{choice.key}", f"{capital(choice.name)}?", "Left.", " ".join(choice.lacks))
    holds = "" if way.grade is None else f"it holds IT{way.grade}{_shown(way.shown_on)}"
    wants = "No size of it has two limits" if wanted is None else f"Its {wanted.role} wants IT{wanted.grade}"
    why = f"{wants}; {holds}." if holds else f"{wants}; its tool makes the size."
    if way.leaves_um is not None:
        why = f"{why} It leaves about Ra {way.leaves_um} µm."
    if choice.within_mm is not None and way.place_mm is not None:
        unit = one.drafted.plan.heading.unit
        near, left = (size_said(mm, unit) for mm in (choice.within_mm, way.place_mm))
        why = f"{why} Its place wants ±{near}; it is left within {left} as a rule."
    if not choice.held:
        why = f"{why} No way here holds it: ask for wider limits, or have it ground."
    down = tuple(
        TurnedDown(
            *_parted(words), f"way:{choice.key}:{name}" if (name := _parted(words)[0]) in choice.could else ""
        )
        for words in choice.turned_down
    )
    said = f"{capital(way.name)}." if not choice.lacks else f"{capital(way.name)}: {choice.lacks[0]}"
    return OpenChoice(f"way:{choice.key}", f"{capital(choice.name)}?", said, why, down)


def _shown(pieces: int) -> str:
    return f" here, over {counted(pieces, 'piece')}" if pieces else " as a rule"


def _parted(words: str) -> tuple[str, str]:
    """A way that was turned down, and why; a way that would do has no reason."""
    name, mark, why = words.partition(": ")
    return (name, why.rstrip(".")) if mark else (name.removesuffix(" would do too."), "holds it too")


def _gauging(one: WholePlan) -> OpenChoice:
    loads, said = one.gauged.loads, one.gauged
    often = "Every load." if loads == 1 else f"Every {counted(loads, 'load')}."
    if one.drafted.plan.heading.has_consequence:
        why = "What fails here hurts somebody: each piece is gauged."
    elif said.size:
        why = f"{capital(said.size)} then goes half of the way to a limit at most before it is seen, by {said.rests_on}."
    else:
        why = "Nothing says yet how a size moves on these machines: the clock and the gauge will."
        why = f"As the job says. {why}" if loads > 1 else why
    return OpenChoice("gauge", "Gauge how often?", often, why)


def _to_buy(one: WholePlan) -> OpenChoice:
    lacks = one.drafted.lacks
    if not lacks:
        stands = " Usual tools stand in: Shop lists none." if one.drafted.usual else ""
        return OpenChoice(
            "buy",
            "To buy or make?",
            "Nothing." if not stands else "Not known.",
            f"Each way has its tools.{stands}",
        )
    return OpenChoice("buy", "To buy or make?", capital(counted(len(lacks), "thing")) + ".", " ".join(lacks))


def weighed(ground: WholeGround, one: WholePlan, choice: OpenChoice, measure: Measure) -> tuple[Weighed, ...]:
    """Return what a choice turned down, each with what the plan would come to with it.

    Args:
        ground: what it was drafted from.
        one: the plan.
        choice: one of its choices.
        measure: time or cost.

    Source:
        Each worked out as a whole plan; the quantity from which it is the better one in closed form, see `break_even`.
    """
    quantity = max(one.drafted.plan.heading.quantity, 1)
    found = []
    for down in choice.down:
        if not down.pick:
            found.append(Weighed(down, "", "", ""))
            continue
        other = figured(ground, picked(one.picks, down.pick))
        mine, theirs = (each.total(quantity, measure) for each in (one, other))
        if not isfinite(mine) or not isfinite(theirs):
            found.append(Weighed(down, "not known", "", ""))
            continue
        found.append(
            Weighed(
                down,
                amount_text(theirs, measure, ground.shop.money),
                more_text(theirs - mine, measure, ground.shop.money),
                _takes(_line(one, measure), _line(other, measure)),
            )
        )
    return tuple(found)


def _line(one: WholePlan, measure: Measure) -> CostLine | None:
    return one.cost if measure == "cost" else one.time


def _takes(mine: CostLine | None, other: CostLine | None) -> str:
    """From which quantity another line lies lower, in words; empty where it never does or that is not known."""
    if mine is None or other is None:
        return ""
    at = break_even(mine, other)
    if at is None:
        return "less at every quantity" if other.at(1) < mine.at(1) else ""
    if mine.each < other.each:
        return f"less up to {counted(floor(at - 1e-9), 'piece')}" if at > 1 else ""
    return f"less from {counted(ceil(at + 1e-9), 'piece')} on"


def more_text(more: float, measure: Measure, mark: str) -> str:
    """Return how much more or less something takes, [s] or [cents], in words: 54 min more.

    Args:
        more: below 0 where it takes less.
        measure: time or cost.
        mark: before a sum of money.
    """
    if abs(more) < (SAME_S if measure == "time" else 1):
        return "as much"
    return f"{amount_text(abs(more), measure, mark)} {'more' if more > 0 else 'less'}"
