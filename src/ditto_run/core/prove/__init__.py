"""Before the first load counts: the ladder from the program read to the first piece, and the start list of a setup."""

from ditto_run.core.prove.hazards import MANUAL, hazards_of
from ditto_run.core.prove.start_list import ProofItem, proof_items

__all__ = ["MANUAL", "ProofItem", "hazards_of", "proof_items"]
