"""What the questions of Part may look at: one size, with the line of the feature that carries it."""

from dataclasses import dataclass

from ditto_run.core.part.characteristic import Characteristic
from ditto_run.core.part.faces import Form
from ditto_run.core.part.features import Described


@dataclass(frozen=True)
class SizeGround:
    """One size of the part with what is known of it.

    Args:
        size: the characteristic.
        feature: the feature that carries it, as its line says it; None where no line does.
        form: block or turned.
    """

    size: Characteristic
    feature: Described | None
    form: Form
