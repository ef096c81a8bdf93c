"""How a control reads G10: the same words mean different things on different controls, so it is asked once a machine."""

from dataclasses import dataclass
from typing import Literal

L20 = Literal["not used", "extended", "here"]
P0 = Literal["not used", "active", "common"]


@dataclass(frozen=True, slots=True)
class Dialect:
    """How a control reads G10.

    Args:
        l20: what `G10 L20 Pn` does: sets the extended offset G54.1 Pn (extended), sets offset n so that the present
            position reads as typed (here), or is not known to it.
        p0: what `P0` means: the offset active now (active), a common shift under all others (common), or not known to it.
        fine: True if it numbers G59.1 to G59.3 as P7 to P9, as RS-274/NGC does.
        reads: name of the table of meanings by which it reads programs; empty for the plain one of its kind.
        keys: of that table in which this machine differs, each as it is typed.

    Source:
        [ngc] for P1 to P9; that L20 differs between controls is a fact of the trade, no source.
    """

    l20: L20 = "not used"
    p0: P0 = "not used"
    fine: bool = True
    reads: str = ""
    keys: tuple[tuple[str, str], ...] = ()


PLAIN_DIALECT = Dialect()
L20_WORDS = (
    ("not used", "it does not know L20"),
    ("extended", "L20 Pn sets G54.1 Pn"),
    ("here", "L20 sets where it stands to what is typed"),
)
P0_WORDS = (
    ("not used", "it does not know P0"),
    ("active", "the offset active now"),
    ("common", "a common shift under all others"),
)
