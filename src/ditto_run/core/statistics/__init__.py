"""Statistics of a batch."""

from ditto_run.core.statistics.capability import Capability, capability

__all__ = ["Capability", "capability"]
