"""How much material: the blank, bars and cuts, how many to start, what was ordered and what came."""

from ditto_run.core.stock.blank import Blank
from ditto_run.core.stock.incoming import Order, check_order, order_findings

__all__ = ["Blank", "Order", "check_order", "order_findings"]
