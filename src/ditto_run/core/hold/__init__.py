"""Setups in order, and what holds the piece in each."""

from ditto_run.core.hold.setup import Setup, hold_findings

__all__ = ["Setup", "hold_findings"]
