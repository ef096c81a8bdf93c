"""Devices that send what they say: a gauge its readings, a machine its documents; each with a key of its own."""

from dataclasses import dataclass
from typing import Literal

from ditto_run.core.errors import BadEntry
from ditto_run.core.sheets.entries import Entries

DeviceKind = Literal["gauge", "machine"]
DEVICE_KINDS: tuple[DeviceKind, ...] = ("gauge", "machine")
SHORTEST = 12  # letters of a key


@dataclass(frozen=True, slots=True)
class Device:
    """One device.

    Args:
        name: as the shop calls it.
        kind: what it is.
        of: the gauge or machine of the register it belongs to, by name; empty for any gauge.
        key: that it sends with each line.
    """

    name: str
    kind: DeviceKind
    of: str
    key: str


def read_device(entries: Entries) -> Device:
    """Return a row of the register.

    Raises:
        BadEntry: at the column that cannot be read.
    """
    name = entries.need("name", "micrometer at Mill 2")
    kind = DEVICE_KINDS[DEVICE_KINDS.index(entries.choice("kind", DEVICE_KINDS))]
    of = entries.text("of")
    if kind == "machine" and not of:
        raise BadEntry("Which machine is not said.", "Type its name as on Shop.", "of")
    key = entries.need("key", "some twenty letters")
    if len(key) < SHORTEST or not key.isascii() or any(letter.isspace() for letter in key):
        raise BadEntry(
            f"That key is shorter than {SHORTEST} letters, or has blanks.",
            "Letters and digits, best some twenty.",
            "key",
        )
    return Device(name, kind, of, key)
