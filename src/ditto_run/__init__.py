"""Ditto Run: a one-off part becomes a repeatable small batch."""

__version__ = "0.1.0"
