"""Which edges of a part are left sharp, made from its features: which, inside or outside, how many, by tool or by hand."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Literal

from ditto_run.core.part.features import Described
from ditto_run.core.plan import Plan
from ditto_run.core.tools.order_rules import kinds_of

EDGES: dict[str, tuple[str, Literal["inside", "outside"], int, int]] = {
    # kind: its edge, where, of one that ends in the piece, of one that goes through
    "hole": ("mouth", "inside", 1, 2),
    "bore": ("mouth", "inside", 1, 2),
    "tapped hole": ("mouth, first thread", "inside", 1, 2),
    "cross hole": ("mouth, and where it meets the bore", "inside", 2, 2),
    "pocket": ("rim", "inside", 1, 2),
    "slot": ("rims", "inside", 2, 2),
    "slit": ("rims", "inside", 2, 2),
    "step": ("edge", "outside", 1, 1),
    "outline": ("edges, top and bottom", "outside", 2, 2),
    "face": ("edge round it", "outside", 1, 1),
    "shoulder": ("end and shoulder", "outside", 2, 2),
    "taper": ("ends", "outside", 2, 2),
    "groove": ("sides", "outside", 2, 2),
    "undercut": ("sides", "outside", 2, 2),
    "outside thread": ("first thread", "outside", 1, 1),
    "part off": ("where it was parted off", "outside", 1, 1),
    "flat": ("edges", "outside", 2, 2),
    "hexagon": ("corners and ends", "outside", 2, 2),
    "square": ("corners and ends", "outside", 2, 2),
}
"""Common practice, no source. A kind that leaves none, such as a chamfer or a knurl, is not here."""
HAND_S = 4.0  # an edge by hand; common practice, no source


@dataclass(frozen=True, slots=True)
class SharpEdge:
    """An edge that is left.

    Args:
        feature: name of its feature.
        edge: which of its edges.
        where: inside or outside.
        count: of one piece. [edges]
        tool: step that breaks it; empty where it is done by hand.
    """

    feature: str
    edge: str
    where: Literal["inside", "outside"]
    count: int
    tool: str = ""


def sharp_edges(plan: Plan) -> tuple[SharpEdge, ...]:
    """Return the edges that are left on a piece of the part that is looked at, those by hand first.

    Args:
        plan: with its features and tool steps.

    Source:
        Common practice, no source; an edge counts as broken by a step that says chamfer or edges and
        makes the feature or names it.
    """
    found = [*_edges(plan)]
    return tuple(sorted(found, key=lambda one: bool(one.tool)))


def by_hand_s(edges: tuple[SharpEdge, ...]) -> float:
    """Return how long the edges by hand of one piece may take, [s]; common practice, no source."""
    return sum(edge.count * HAND_S for edge in edges if not edge.tool)


def _edges(plan: Plan) -> Iterator[SharpEdge]:
    chamfers = [step for step in plan.tool_steps if "chamfer" in kinds_of(step.does)]
    for named in plan.described:
        of = EDGES.get(named.feature.kind)
        if of is None or named.feature.supplied:
            continue
        edge, where, ends, through = of
        each = through if named.feature.through else ends
        tool = next(
            (
                f"{step.name} {step.does}"
                for step in chamfers
                if named.key in step.makes or named.name.lower() in step.does.lower()
            ),
            "",
        )
        if not tool and _is_broken(named.feature):
            tool = "its own chamfer"
        yield SharpEdge(named.name, edge, where, each * named.feature.count, tool)


def _is_broken(feature: Described) -> bool:
    """True where the feature's own line says a chamfer or a countersink."""
    return any(word in {"chamfer", "countersink", "broken edge"} for word in feature.parts)
