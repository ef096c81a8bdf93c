"""Programs of a machine: read by its dialect, compared with the plan, timed."""
