"""Features as they are said in the shop: read from one line, written back, and what is still to be asked."""

from ditto_run.core.part.features.described import Arranged, At, Described, Named, ReadPiece
from ditto_run.core.part.features.kinds import KINDS, Role
from ditto_run.core.part.features.line import known_feature, read_feature
from ditto_run.core.part.features.which_form import form_of_first, form_of_shop
from ditto_run.core.part.features.writing import feature_text

__all__ = [
    "KINDS",
    "Arranged",
    "At",
    "Described",
    "Named",
    "ReadPiece",
    "Role",
    "feature_text",
    "form_of_first",
    "form_of_shop",
    "known_feature",
    "read_feature",
]
