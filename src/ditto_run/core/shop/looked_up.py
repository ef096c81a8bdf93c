"""What of the shop a sheet may look up."""

from collections.abc import Mapping

from ditto_run.core.sheets import Knows
from ditto_run.core.shop.drawers import Holder, Material
from ditto_run.core.shop.registers import Machine

NO_MATERIALS: Mapping[str, Material] = {}
NO_MACHINES: Mapping[int, Machine] = {}
NO_HOLDERS: Mapping[str, Holder] = {}
MATERIALS = Knows("materials", NO_MATERIALS)
"""Materials of the register, by name."""
MACHINES = Knows("machines", NO_MACHINES)
"""Machines of the register, by number."""
HOLDERS = Knows("holders", NO_HOLDERS)
"""Holders of the register, by name."""
