"""The desk: one function for each thing a person or a script can do.

Pages, API, command line, devices and demo call it and nothing else; it owns the transaction, the locks and what is
kept in memory. Nobody but the desk writes to the store.
"""

from ditto_run.desk.desk import Desk, open_desk

__all__ = ["Desk", "open_desk"]
