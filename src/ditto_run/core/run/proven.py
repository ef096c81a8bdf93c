"""How far a cycle is proven: what of its list was gone through on the ground it has now, and which first pieces are accepted."""

from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass

from ditto_run.core.place.offsets import Offset
from ditto_run.core.prove.start_list import ProofItem, proof_items
from ditto_run.core.run.state import ProofMark, RunState
from ditto_run.core.shop import Machine
from ditto_run.core.shop.forgotten import Forgotten


@dataclass(frozen=True, slots=True)
class Proven:
    """One item with what was said of it.

    Args:
        item: it.
        mark: as it was ticked last; None where it never was.
    """

    item: ProofItem
    mark: ProofMark | None

    @property
    def stands(self) -> bool:
        """True if it was gone through, or waived, on the ground it has now."""
        return self.mark is not None and self.mark.ground == self.item.ground

    @property
    def moved(self) -> bool:
        """True if it was, and its ground has moved since."""
        return self.mark is not None and not self.stands


@dataclass(frozen=True, slots=True)
class ProofSoFar:
    """How far a cycle is proven.

    Args:
        items: all of its list.
        missing: names of the setups whose first piece is not accepted yet.
    """

    items: tuple[Proven, ...]
    missing: tuple[str, ...]

    @property
    def left(self) -> Sequence[Proven]:
        """What is still to be gone through: all that does not stand; nothing where the first piece was accepted without a look."""
        return [] if self.is_passed_by else [one for one in self.items if not one.stands]

    @property
    def is_passed_by(self) -> bool:
        """True if the first piece was accepted and nobody looked at any of the list."""
        return not self.missing and all(one.mark is None for one in self.items)

    @property
    def count(self) -> int:
        """How many things are open."""
        return len(self.left) + len(self.missing)

    @property
    def never(self) -> int:
        """How many were never gone through."""
        return sum(one.mark is None for one in self.items)


def proof_of(
    state: RunState,
    machine: Machine | None,
    offsets: Mapping[str, Offset],
    forgotten: Iterable[Forgotten] = (),
) -> ProofSoFar:
    """Return how far the cycle that is looked at is proven.

    Args:
        state: the run.
        machine: it is cut on; None while nobody said it.
        offsets: of the machine as the register has them, by code.
        forgotten: what this shop forgot before.
    """
    run, cycle = state.here, state.plan.cycle(state.cycle)
    items = tuple(
        Proven(one, run.proof.get(one.key))
        for one in proof_items(state.plan, cycle, machine, offsets, forgotten)
    )
    missing = tuple(state.plan.setup(key).name for key in cycle.setups if key not in run.masters)
    return ProofSoFar(items, missing)
