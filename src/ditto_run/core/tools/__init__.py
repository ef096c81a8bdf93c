"""Tool steps in order, and the cycle they make."""

from ditto_run.core.tools.cycle import CycleTime, cycle_time
from ditto_run.core.tools.tool_step import ToolStep, check_tool_step, reach_findings, tool_findings

__all__ = ["CycleTime", "ToolStep", "check_tool_step", "cycle_time", "reach_findings", "tool_findings"]
