"""Registers of the shop: machines, gauges, people."""

from ditto_run.core.shop.bed import Bed, KeepOut
from ditto_run.core.shop.body import Body
from ditto_run.core.shop.codes import codes_text, read_codes
from ditto_run.core.shop.dialect import Dialect
from ditto_run.core.shop.registers import (
    MACHINE_KINDS,
    Ability,
    Gauge,
    Machine,
    MachineKind,
    Person,
    Tapping,
    Wear,
)

__all__ = [
    "MACHINE_KINDS",
    "Ability",
    "Bed",
    "Body",
    "Dialect",
    "Gauge",
    "KeepOut",
    "Machine",
    "MachineKind",
    "Person",
    "Tapping",
    "Wear",
    "codes_text",
    "read_codes",
]
