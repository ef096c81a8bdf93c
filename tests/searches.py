"""How long the searching tests search: a little with every change, much longer under `make test-long`."""

import os
from typing import Any

from hypothesis import settings

LONGER = int(os.environ.get("DITTO_SEARCH", "1"))


def searches(examples: int, **more: Any) -> settings:
    """Return the settings of a searching test that tries so many cases, or as many times more as was asked."""
    return settings(max_examples=examples * LONGER, deadline=None, **more)
