"""Setups in order, what holds the piece in each, and the chain checked before the first cut."""

from ditto_run.core.hold.chain import Chain, centre_findings, check_chain, matrix
from ditto_run.core.hold.feature import Centre, Feature, FeatureKind, check_feature
from ditto_run.core.hold.setup import Setup, hold_findings
from ditto_run.core.part.faces import FACES, Form

__all__ = [
    "FACES",
    "Centre",
    "Chain",
    "Feature",
    "FeatureKind",
    "Form",
    "Setup",
    "centre_findings",
    "check_chain",
    "check_feature",
    "hold_findings",
    "matrix",
]
