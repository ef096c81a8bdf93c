"""Keeps the core's values in SQLite. The only layer that knows the database."""
