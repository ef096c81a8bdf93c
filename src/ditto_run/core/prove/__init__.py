"""Before the first load counts: the ladder from the program read to the first piece, and the start list of a setup."""

from ditto_run.core.prove.start_list import ProofItem, proof_items

__all__ = ["ProofItem", "proof_items"]
