"""Which tools come up along the run, by what the register says of their lives."""

from collections.abc import Sequence
from dataclasses import dataclass

from ditto_run.core.hold import Setup
from ditto_run.core.questions import Question, Sourced
from ditto_run.core.shop.shop_tools import Lasting, ShopTool
from ditto_run.core.tools.lives_sheet import LIVES
from ditto_run.core.tools.tool_step import ToolStep

MINUTE_S = 60


@dataclass(frozen=True)
class ToolsGround:
    """What is known of the tools of a setup.

    Args:
        setup: which.
        steps: its tool steps, each with the register's row of its tool; None where it has none.
        pieces: to start. [pieces]
        load: of it at once, at most; 0 while there are no stations. [pieces]
        cut_s, change_s: of a load, by its steps. [s]
        air_s: of a load, moves in the air, of the steps whose way is known. [s]
        gauged: sizes that are gauged on a piece.
        every: so many loads they are gauged.
        pace: real over planned that batches taught on this machine, and how many; None for nothing. [-]
    """

    setup: Setup
    steps: Sequence[tuple[ToolStep, ShopTool | None]]
    pieces: int
    load: int
    cut_s: float = 0.0
    change_s: float = 0.0
    air_s: float = 0.0
    gauged: int = 0
    every: int = 1
    pace: tuple[float, str] | None = None


def _known(ground: ToolsGround) -> list[tuple[str, float, ShopTool]]:
    """Each tool once, with all it cuts for one piece, where its life follows."""
    cuts: dict[str, float] = {}
    rows: dict[str, ShopTool] = {}
    for step, row in ground.steps:
        if row is not None:
            cuts[step.name] = cuts.get(step.name, 0.0) + step.cut_for_s(1)
            rows[step.name] = row
    return [
        (name, cuts[name], row)
        for name, row in rows.items()
        if row.life is not None and (row.life.of(cuts[name]) or 0) >= 1
    ]


def _lasts(lasting: Lasting | None) -> str:
    if lasting is None:
        return ""
    if lasting.cutting_s is None:
        return f"{lasting.pieces} pieces"
    whole = lasting.cutting_s % MINUTE_S == 0
    return f"{lasting.cutting_s / MINUTE_S:g} min" if whole else f"{lasting.cutting_s:g} s"


def _rows(ground: ToolsGround) -> Sourced | None:
    lines = [
        "; ".join(
            (name, f"{cut_s:g} s" if cut_s else "", _lasts(row.life), _lasts(row.left), str(row.sisters))
        )
        for name, cut_s, row in _known(ground)
    ]
    return Sourced("\n".join(lines), "register", "Shop, Tools") if lines else None


def _pieces(ground: ToolsGround) -> Sourced:
    return Sourced(str(ground.pieces), "computed", "how many to start")


def _load(ground: ToolsGround) -> Sourced | None:
    return Sourced(str(ground.load), "computed", "stations") if ground.load else None


LIVES_ASKED: Question[ToolsGround] = Question(
    "lives",
    "tools",
    lambda ground: bool(_known(ground)),
    {"rows": (_rows,), "pieces": (_pieces,), "load": (_load,)},
    LIVES,
)
