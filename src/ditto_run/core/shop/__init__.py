"""Registers of the shop: machines, gauges, people."""

from ditto_run.core.shop.codes import codes_text, read_codes
from ditto_run.core.shop.registers import Gauge, Machine, MachineKind, Person, Wear

__all__ = ["Gauge", "Machine", "MachineKind", "Person", "Wear", "codes_text", "read_codes"]
