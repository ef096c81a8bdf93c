"""Usual tools that stand in where a shop lists none; sizes as they are commonly sold, common practice, no source."""

from decimal import Decimal

from ditto_run.core.shop.shop_tools import ShopTool

END_MILLS = (16, 12, 10, 8, 6, 5, 4, 3)
REAMERS = (3, 4, 5, 6, 8, 10, 12, 14, 16, 20)
REAMED_OVER = Decimal(
    "0.006"
)  # what a reamer for H7 cuts over its size, inside each of these; common practice, no source
TAPS = ("M3", "M4", "M5", "M6", "M8", "M10", "M12")


def usual_tools(*, turned: bool) -> tuple[ShopTool, ...]:
    """Return usual tools of a mill or a lathe; none has a number.

    Args:
        turned: True for a lathe.
    """

    def tool(kind: str, across: int | None = None, name: str = "") -> ShopTool:
        said = name or (f"{kind} {across} mm" if across else kind)
        return ShopTool(said, None, "", kind, Decimal(across) if across else None)

    shared = [tool("tap", None, f"{thread} tap") for thread in TAPS]
    shared += [tool("spot drill"), tool("boring bar", 8)]
    shared += [ShopTool(f"reamer {d} H7", None, "", "reamer", d + REAMED_OVER) for d in REAMERS]
    if turned:
        turning = [
            tool("turning", None, "roughing tool"),
            tool("turning", None, "finishing tool"),
            tool("grooving", 3),
            tool("parting", 3),
            tool("threading"),
            tool("knurl"),
        ]
        return (*turning, *shared)
    mills = [tool("end mill", across) for across in END_MILLS]
    return (tool("face mill", 50), *mills, tool("chamfer", 10), *shared)
