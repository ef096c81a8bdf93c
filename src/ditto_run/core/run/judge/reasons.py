"""Why an advice is given: the figures it rests on, and the sentence for the person, kept apart from the decision."""

from collections.abc import Callable
from dataclasses import dataclass
from enum import Enum, auto


class Ground(Enum):
    """What an advice rests on."""

    DUE = auto()
    CUT_WHILE_OFF = auto()
    MAY_HAVE_MOVED = auto()
    MOVED_OR_SCATTERED = auto()
    GAUGE_IN_DOUBT = auto()
    OFF_TARGET = auto()
    MAY_BE_LOOSE = auto()
    NOTHING_PAYS = auto()
    LAST_PIECE = auto()


@dataclass(frozen=True, slots=True)
class Reason:
    """Figures of an advice.

    Args:
        ground: what it rests on.
        dimension: the dimension it is about.
        off: its deviation from the target, or how far it was dialled. [mm]
        moves: how it goes on. [mm in ten pieces]
        minutes: what is saved. [min]
        chance: of a bad piece, or that it is so. [0 to 1]
        station: from 1.
        piece: the piece it is about.
    """

    ground: Ground
    dimension: str = ""
    off: float = 0.0
    moves: float = 0.0
    minutes: float = 0.0
    chance: float = 0.0
    station: int = 0
    piece: int = 0


def in_mm(length: float) -> str:
    """Return a length without its sign, to a thousandth of a millimetre, [mm]."""
    return f"{abs(length):.3f} mm"


def percent(chance: float) -> str:
    """Return a chance of 0 to 1 in per cent, as fine as anybody would say it, [%]."""
    share = 100 * chance
    if share < 0.1:  # noqa: PLR2004 - finer is not known
        return "under 0.1 %"
    return f"{share:.0f} %" if share >= 10 else f"{share:.1f} %"  # noqa: PLR2004


def sentence(reason: Reason, said: Callable[[float], str] = in_mm) -> str:
    """Return the sentence for the person.

    Args:
        reason: the figures.
        said: how a length is said, given in [mm]; for a shop that works in inch.
    """
    return SENTENCES[reason.ground].format(
        name=reason.dimension,
        off=said(reason.off),
        where="over" if reason.off > 0 else "under",
        goes=f" and moves {said(reason.moves)} in ten pieces" if reason.moves else "",
        minutes=reason.minutes,
        chance=percent(reason.chance),
        station=reason.station,
        piece=reason.piece,
    )


SENTENCES = {
    Ground.DUE: "This load was not gauged yet; piece {piece} is of the station gauged longest ago.",
    Ground.CUT_WHILE_OFF: "Piece {piece} was cut while {name} was off: out of limits with a chance of {chance}.",
    Ground.MAY_HAVE_MOVED: "{name} may have moved, with a chance of {chance}: one or two more say whether.",
    Ground.MOVED_OR_SCATTERED: "One more says whether {name} moved or only scattered, before it is dialled.",
    Ground.GAUGE_IN_DOUBT: "With this turn {name} is dialled {off} since the gauge was tried: try it on its master first.",
    Ground.OFF_TARGET: "{name} is {off} {where} its target{goes}: turned now it saves about {minutes:.1f} min.",
    Ground.MAY_BE_LOOSE: "Station {station} scatters twice as much as it did, with a chance of {chance}.",
    Ground.NOTHING_PAYS: "Out of limits with a chance of {chance} a piece: no turn and no reading before is worth its time.",
    Ground.LAST_PIECE: "The last piece is cut.",
}
