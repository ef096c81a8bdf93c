"""What of the shop a plan is worked out with."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from decimal import Decimal

from ditto_run.core.shop import Machine
from ditto_run.core.shop.drawers import Holder, Material
from ditto_run.core.shop.own_orders import OwnOrder
from ditto_run.core.shop.shop_tools import ShopTool
from ditto_run.core.shop.taught import Taught


@dataclass(frozen=True, slots=True)
class ShopKnown:
    """What of the shop the sheets of a plan may use.

    Args:
        machines: by number.
        materials, holders: rows of the registers, by name.
        drills, reamers: name and diameter. [mm]
        taps: designation and kind.
        whole_drawer: True if every standard drill stands in for a drawer that is not filled yet.
        money: mark before a sum of money.
        taught: what closed batches taught.
        tools: those of the register with a number, by it.
        rates: what an hour of a machine or of hands costs, by name. [cents/h]
        own_orders: the shop's own rules of order.
        has_drawers: False where only the machines were looked at, as when a plan is checked on its own.
    """

    machines: Mapping[int, Machine] = field(default_factory=dict)
    materials: Mapping[str, Material] = field(default_factory=dict)
    holders: Mapping[str, Holder] = field(default_factory=dict)
    drills: tuple[tuple[str, Decimal], ...] = ()
    reamers: tuple[tuple[str, Decimal], ...] = ()
    taps: tuple[tuple[str, str], ...] = ()
    whole_drawer: bool = False
    money: str = ""
    has_drawers: bool = True
    taught: tuple[Taught, ...] = ()
    rates: Mapping[str, int] = field(default_factory=dict)
    tools: Mapping[int, tuple[ShopTool, ...]] = field(default_factory=dict)
    own_orders: tuple[OwnOrder, ...] = ()

    def tool_of(self, number: int, machine: str) -> ShopTool | None:
        """Return the tool with a number on a machine: the one that is in it, else one that is in none; None where there is none."""
        mine = self.tools.get(number, ())
        near = [tool for tool in mine if not tool.machine or tool.machine.lower() == machine.lower()]
        return max(near, key=lambda tool: bool(tool.machine), default=None)
