"""Setups in order, what holds the piece in each, and the chain checked before the first cut."""

from ditto_run.core.hold.chain import Chain, centre_findings, check_chain, matrix
from ditto_run.core.hold.feature import FACES, Centre, Feature, FeatureKind, Form, check_feature
from ditto_run.core.hold.setup import Setup, hold_findings

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
