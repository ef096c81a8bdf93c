"""Ditto Run: a one-off part becomes a repeatable small batch."""
