"""What the questions of Hold may look at: one setup with everything the job and the shop know of it."""

from collections.abc import Sequence
from dataclasses import dataclass
from decimal import Decimal
from typing import Any

from ditto_run.core.hold.feature import Feature
from ditto_run.core.hold.heights import Contact
from ditto_run.core.hold.setup import Setup
from ditto_run.core.part import Characteristic
from ditto_run.core.part.faces import Form
from ditto_run.core.part.features import Described
from ditto_run.core.questions import Source, Sourced
from ditto_run.core.shop import Machine
from ditto_run.core.shop.drawers import Holder
from ditto_run.core.shop.groups import group_of

LATHES = {"lathe", "manual lathe"}
CHUCKS = {"chuck", "collet"}


@dataclass(frozen=True)
class SetupGround:
    """One setup with what is known of it.

    Args:
        setup: the setup.
        contact: it by size; None while the part's size is not said.
        holder: its row of the register; None where it is not in it.
        kind: of its holder, by the register or by its name; empty where neither says it.
        machine: None while not chosen.
        form: block or turned.
        material: of the job, as typed.
        sizes: those that the features it makes carry, with the feature.
        described: the features it makes as their lines say them.
        one_sided: True if the piece has a side by then, so that it matters which way round it goes in.
        is_first: True for the first setup.
        cutting: largest cutting force worked out on Method, and by which sheet; None while none is. [N]
        stock: results of Stock's sheets by kind.
        sides: at which side its stations have their stop.
        machined: faces that are machined by then.
        cut_later: faces that a later setup cuts.
        on_hole: the hole or bore it is located by; None where it is located by none.
    """

    setup: Setup
    contact: Contact | None
    holder: Holder | None
    kind: str
    machine: Machine | None
    form: Form
    material: str
    sizes: Sequence[tuple[Feature, Characteristic]]
    described: Sequence[Described]
    one_sided: bool
    is_first: bool
    cutting: tuple[float, str] | None
    stock: dict[str, Any]
    sides: tuple[str, ...] = ()
    machined: frozenset[str] = frozenset()
    cut_later: frozenset[str] = frozenset()
    on_hole: Described | None = None

    @property
    def on_lathe(self) -> bool:
        """True if it is cut on a lathe."""
        return self.machine.kind in LATHES if self.machine is not None else self.form == "turned"

    @property
    def in_chuck(self) -> bool:
        """True if a chuck or collet holds it, as far as that is known."""
        return self.kind in CHUCKS or (self.on_lathe and self.kind in {"", "soft jaws"})

    @property
    def stuff(self) -> str:
        """The class of its material; empty where its name does not tell."""
        group = group_of(self.material)
        return group.stuff if group is not None else ""


PLACED_BY_STOP = {"face", "outline", "turned", "cut off"}
"""Kinds of features whose size a stop makes: no cutter's diameter, no depth from the top."""


def mm(value: Decimal | float) -> str:
    """Return a length as it would be typed in any job, [mm]."""
    exact = value if isinstance(value, Decimal) else Decimal(repr(round(value, 6)))
    return f"{exact.normalize():f} mm"


def newtons(value: float) -> str:
    """Return a force as it would be typed in any job, [N]."""
    return f"{value:.6g} N"


def said(text: str) -> Sourced | None:
    """Return what was said on the setup itself; None where nothing was."""
    return Sourced(text, "said", "setup") if text else None


def of_register(ground: SetupGround, text: str) -> Sourced | None:
    """Return a figure of the holder's row; None without one."""
    return Sourced(text, "register", ground.holder.name) if ground.holder is not None and text else None


def stuff(ground: SetupGround) -> Sourced | None:
    """Return the class of the material."""
    return Sourced(ground.stuff, "drawing", ground.material) if ground.stuff else None


def cutting(ground: SetupGround) -> Sourced | None:
    """Return the largest cutting force that was worked out on Method."""
    return Sourced(newtons(ground.cutting[0]), "computed", ground.cutting[1]) if ground.cutting else None


def narrowest(ground: SetupGround, *, across: bool | None = None, face: str = "") -> Characteristic | None:
    """Return the size of the narrowest tolerance that is made in the setup; None where none has limits.

    Args:
        ground: the setup.
        across: True for diameters alone, False for others alone.
        face: only sizes measured from this face.
    """
    found = [
        (size.upper - size.lower, c)
        for feature, c in ground.sizes
        for size in (c.size,)
        if size.lower is not None
        and size.upper is not None
        and size.unit in {"mm", "in"}
        and (across is None or (size.kind == "diameter") == across)
        and (not face or (face in feature.refers and feature.kind in PLACED_BY_STOP))
    ]
    return (
        min(found, key=lambda one: one[0] * (1 if one[1].size.unit == "mm" else Decimal("25.4")))[1]
        if found
        else None
    )


def tolerance(
    *, across: bool | None = None, at_stop: bool = False, share: Decimal = Decimal(1)
) -> Source[SetupGround]:
    """Return a source that looks for the narrowest tolerance the setup makes.

    Args:
        across: True for diameters alone, False for others alone.
        at_stop: only sizes measured from the face against the stop.
        share: how much of it.
    """

    def find(ground: SetupGround) -> Sourced | None:
        face = ground.setup.held.to_stop
        if at_stop and not face:
            return None
        size = narrowest(ground, across=across, face=face if at_stop else "")
        if size is None or size.size.upper is None or size.size.lower is None:
            return None
        whole = (size.size.upper - size.size.lower) * share
        return Sourced(f"{whole.normalize():f} {size.size.unit}", "drawing", size.name)

    return find
