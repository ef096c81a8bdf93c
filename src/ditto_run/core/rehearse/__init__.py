"""A planned batch played on a simulated process before the first cut."""
