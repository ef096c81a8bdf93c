"""At which piece each tool of a run comes up, and the stops at which tools are changed."""

from collections.abc import Sequence
from dataclasses import dataclass

MOST_STOPS = 2_000


@dataclass(frozen=True, slots=True)
class Lived:
    """One tool of a run.

    Args:
        name: T03.
        life: of a fresh one, 1 or more. [pieces]
        left: of the one that is in, 0 or more. [pieces]
        spares: fresh ones there are.
    """

    name: str
    life: int
    left: int
    spares: int = 0


@dataclass(frozen=True, slots=True)
class Stop:
    """A stop between two loads.

    Args:
        after: pieces cut by then; 0 is before the first. [pieces]
        up: tools that would not last another load.
        along: tools changed with them, which would come up before the next stop.
    """

    after: int
    up: tuple[str, ...]
    along: tuple[str, ...] = ()


@dataclass(frozen=True, slots=True)
class Lives:
    """The stops of a run, and what each tool takes.

    Args:
        stops: in order.
        fresh: tool to how many fresh ones are put in.
        short: tools that do not last a load.
    """

    stops: tuple[Stop, ...]
    fresh: dict[str, int]
    short: tuple[str, ...]


def lives(tools: Sequence[Lived], pieces: int, load: int) -> Lives:
    """Return when tools come up over a run; each is changed between two loads, before it is used up.

    At a stop every tool is changed that would come up before the shortest-lived of those changed comes up again, so no two
    stops follow each other that one would do for.

    Args:
        tools: that have a known life.
        pieces: to be cut, 1 or more. [pieces]
        load: pieces of a load, 1 or more. [pieces]

    Source:
        Own derivation; held by a test that walks through a run load by load.
    """
    short = tuple(tool.name for tool in tools if tool.life < load)
    lasting = {tool.name: max(tool.life // load, 1) for tool in tools}  # loads
    left = {tool.name: tool.left // load for tool in tools}
    fresh = dict.fromkeys(left, 0)
    stops: list[Stop] = []
    done, loads = 0, -(-pieces // load)
    while done < loads and tools and len(stops) < MOST_STOPS:
        step = min(left.values())
        done += step
        if done >= loads:
            break
        left = {name: loads_left - step for name, loads_left in left.items()}
        up = tuple(name for name, loads_left in left.items() if not loads_left)
        soon = min(lasting[name] for name in up)
        until = min(done + soon, loads)
        along = tuple(name for name, loads_left in left.items() if loads_left and done + loads_left < until)
        for name in (*up, *along):
            left[name] = lasting[name]
            fresh[name] += 1
        stops.append(Stop(done * load, up, along))
    return Lives(tuple(stops), fresh, short)
