"""The demo shop: made-up jobs of a shop that makes rowing-boat rigging, run through the real core."""

from ditto_run.demo.shop import add_demo_jobs, make_demo_shop

__all__ = ["add_demo_jobs", "make_demo_shop"]
