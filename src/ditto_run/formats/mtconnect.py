"""What a machine says by MTConnect: documents of streams read into observations, in the order of their sequence.

Open standard; words of states as its model has them (tests hold them to a package generated from it).
"""

import re
from dataclasses import dataclass
from datetime import UTC, datetime
from xml.etree import (
    ElementTree as ET,
)  # no entities are ever declared: a document with a DOCTYPE is refused before

from ditto_run.core.errors import FileNotRead

MOST_CHARACTERS = 4_000_000
FRACTION = re.compile(r"(\.\d{6})\d+")
PLACES = {"Events", "Samples", "Condition"}


@dataclass(frozen=True, slots=True)
class Observed:
    """One observation.

    Args:
        sequence: its number.
        at: when, by the machine's clock.
        item: Execution, PartCount, …; of a condition Fault, Warning, Normal or Unavailable.
        value: as it stands; of a condition its text.
        native: native code of a condition; empty for none.
    """

    sequence: int
    at: datetime
    item: str
    value: str
    native: str = ""


@dataclass(frozen=True, slots=True)
class Streams:
    """A document of streams.

    Args:
        instance: of the agent; another one counts anew.
        next_sequence: to ask for next.
        observed: in order.
        created: when the document was made, by the same clock; None where it does not say.
    """

    instance: str
    next_sequence: int
    observed: tuple[Observed, ...]
    created: datetime | None = None


def read_streams(text: str) -> Streams:
    """Return what a document of streams says.

    Args:
        text: of the document.

    Raises:
        FileNotRead: if it is none, says an error, is too long, or declares entities.
    """
    if len(text) > MOST_CHARACTERS:
        raise FileNotRead(
            "The machine’s document is longer than 4 MB.", "Ask for fewer observations at a time."
        )
    if "<!DOCTYPE" in text or "<!ENTITY" in text:
        raise FileNotRead(
            "The machine’s document declares entities.", "An agent’s documents do not. Check its address."
        )
    try:
        root = ET.fromstring(text)  # noqa: S314 - no entities, see above
    except (ET.ParseError, ValueError):
        raise FileNotRead("The machine’s document is no XML.", "Check the address of the agent.") from None
    if _name(root) == "MTConnectError":
        said = next((one.text or "" for one in root.iter() if _name(one) == "Error"), "")
        raise FileNotRead(
            f"The machine’s agent says an error: {said.strip()[:80] or 'none'}.",
            "Ask it again from its first one.",
        )
    header = next((one for one in root.iter() if _name(one) == "Header"), None)
    if _name(root) != "MTConnectStreams" or header is None:
        raise FileNotRead("That is no document of streams.", "Ask the agent for current or sample.")
    found = [
        one for place in root.iter() if _name(place) in PLACES for child in place if (one := _observed(child))
    ]
    found.sort(key=lambda one: one.sequence)
    ahead = header.get("nextSequence", "")
    next_one = int(ahead) if ahead.isdigit() else (found[-1].sequence + 1 if found else 1)
    return Streams(
        header.get("instanceId", "0"), next_one, tuple(found), _moment(header.get("creationTime", ""))
    )


def _name(element: ET.Element) -> str:
    return element.tag.rpartition("}")[2]


def _observed(element: ET.Element) -> Observed | None:
    """One observation; None where it lacks its number or its moment."""
    sequence = element.get("sequence", "")
    at = _moment(element.get("timestamp", ""))
    if not sequence.isdigit() or at is None:
        return None
    value = (element.text or "").strip()[:200]
    return Observed(int(sequence), at, _name(element), value, element.get("nativeCode", "")[:40])


def _moment(text: str) -> datetime | None:
    try:
        found = datetime.fromisoformat(FRACTION.sub(r"\1", text))
    except ValueError:
        return None
    return found if found.tzinfo else found.replace(tzinfo=UTC)
