"""Usual tools that stand in where a shop lists none; sizes as they are commonly sold, common practice, no source."""

from dataclasses import dataclass
from decimal import Decimal

from ditto_run.core.propose.proposal import size_said
from ditto_run.core.shop.shop_tools import ShopTool
from ditto_run.core.units import LengthUnit, to_base

REAMED_OVER = Decimal(
    "0.006"
)  # what a reamer for H7 cuts over its size, inside each of these; common practice, no source


@dataclass(frozen=True, slots=True)
class UsualSizes:
    """Usual sizes of a shop's own unit, [mm] or [in], and its threads."""

    end_mills: tuple[str, ...]
    reamers: tuple[str, ...]
    taps: tuple[str, ...]
    face_mill: str
    chamfer: str
    bar: str
    narrow: str


USUAL: dict[LengthUnit, UsualSizes] = {
    "mm": UsualSizes(
        ("16", "12", "10", "8", "6", "5", "4", "3"),
        ("3", "4", "5", "6", "8", "10", "12", "14", "16", "20"),
        ("M3", "M4", "M5", "M6", "M8", "M10", "M12"),
        "50",
        "10",
        "8",
        "3",
    ),
    "in": UsualSizes(
        ("0.625", "0.5", "0.375", "0.25", "0.1875", "0.125"),
        ("0.125", "0.1875", "0.25", "0.3125", "0.375", "0.5", "0.625", "0.75"),
        ("4-40", "6-32", "8-32", "10-24", "10-32", "1/4-20", "5/16-18", "3/8-16", "1/2-13"),
        "2",
        "0.375",
        "0.3125",
        "0.125",
    ),
}


def usual_tools(*, turned: bool, unit: LengthUnit = "mm") -> tuple[ShopTool, ...]:
    """Return usual tools of a mill or a lathe; none has a number.

    Args:
        turned: True for a lathe.
        unit: of the job: its usual sizes.
    """
    sizes = USUAL[unit]

    def tool(kind: str, across: str = "", name: str = "") -> ShopTool:
        mm = to_base(Decimal(across), unit) if across else None
        said = name or (f"{kind} {size_said(mm, unit)}" if mm is not None else kind)
        return ShopTool(said, None, "", kind, mm)

    shared = [tool("tap", name=f"{thread} tap") for thread in sizes.taps]
    shared += [tool("spot drill"), tool("boring bar", sizes.bar)]
    for across in sizes.reamers:
        mm = to_base(Decimal(across), unit)
        shared.append(ShopTool(f"reamer {size_said(mm, unit)} H7", None, "", "reamer", mm + REAMED_OVER))
    if turned:
        turning = [
            tool("turning", name="roughing tool"),
            tool("turning", name="finishing tool"),
            tool("grooving", sizes.narrow),
            tool("parting", sizes.narrow),
            tool("threading"),
            tool("knurl"),
        ]
        return (*turning, *shared)
    mills = [tool("end mill", across) for across in sizes.end_mills]
    return (tool("face mill", sizes.face_mill), *mills, tool("chamfer", sizes.chamfer), *shared)
