"""Sizes as a machinist writes them: read, and written back so that they read the same."""

from ditto_run.core.sizes.reading import read_size, read_value
from ditto_run.core.sizes.size import Kind, Size
from ditto_run.core.sizes.writing import limits_text, size_text, understood

__all__ = ["Kind", "Size", "limits_text", "read_size", "read_value", "size_text", "understood"]
