"""A machine that tells what it does, as an agent's documents say it, and a stand-in that works when its button is pressed."""

from collections.abc import Callable
from dataclasses import dataclass, field
from datetime import UTC, datetime, timedelta
from typing import Protocol
from xml.sax.saxutils import escape, quoteattr

from ditto_run.core.errors import NotNow
from ditto_run.formats.mtconnect import Observed

SPACE = "urn:mtconnect.org:MTConnectStreams:1.3"
DEVICES = "urn:mtconnect.org:MTConnectDevices:1.3"
XML = '<?xml version="1.0" encoding="UTF-8"?>'
MOST = 1000  # observations in one answer
ITEMS = (
    ("EVENT", "EXECUTION"),
    ("EVENT", "PART_COUNT"),
    ("EVENT", "AVAILABILITY"),
    ("CONDITION", "SYSTEM"),
    ("SAMPLE", "LOAD"),
)
CONDITIONS = {"Fault", "Normal", "Warning"}
SAMPLES = {"Load"}


class MachineFeed(Protocol):
    """What an agent answers."""

    def probe(self) -> str:
        """Return what the machine can say."""
        ...

    def current(self) -> str:
        """Return what it says now, of each thing the newest."""
        ...

    def sample(self, since: int, count: int = MOST) -> str:
        """Return what it said from an observation on, oldest first."""
        ...


@dataclass(slots=True)
class SimulatedMachine:
    """A stand-in: it cuts for as long as it was told once its button is pressed.

    Args:
        name: of the machine.
        clock: tells the time.
        cycle_s: of a load. [s]
        speed: how many times as fast as the wall clock.
        instance: of its agent.
    """

    name: str
    clock: Callable[[], datetime]
    cycle_s: float
    speed: float = 1.0
    instance: int = 1
    _said: list[Observed] = field(default_factory=list)
    _ends: datetime | None = None
    _parts: int = 0

    def __post_init__(self) -> None:
        """Say what it is when it is switched on."""
        now = self.clock()
        for item, value in (
            ("Availability", "AVAILABLE"),
            ("Execution", "READY"),
            ("PartCount", "0"),
            ("Normal", ""),
            ("Load", "0"),
        ):
            self._say(now, item, value)

    def press(self) -> None:
        """Press its button.

        Raises:
            NotNow: while it cuts, or after a fault that nobody cleared.
        """
        self._go_on()
        if self._ends is not None:
            raise NotNow("The machine is cutting.", "Wait until it is done.")
        if self._last("Fault", "Normal") == "Fault":
            raise NotNow("The machine has an alarm.", "Clear it first.")
        now = self.clock()
        self._say(now, "Execution", "ACTIVE")
        self._say(now, "Load", "38")
        self._ends = now + timedelta(seconds=self.cycle_s / self.speed)

    def fail(self, words: str, code: str = "1042") -> None:
        """Let it stop with an alarm."""
        self._go_on()
        now, self._ends = self.clock(), None
        self._say(now, "Fault", words, code)
        self._say(now, "Execution", "INTERRUPTED")

    def clear(self) -> None:
        """Clear its alarm."""
        now = self.clock()
        self._say(now, "Normal", "")
        self._say(now, "Execution", "READY")

    @property
    def is_cutting(self) -> bool:
        """True while it cuts."""
        self._go_on()
        return self._ends is not None

    def probe(self) -> str:
        """Return what the machine can say."""
        items = "".join(
            f'<DataItem category="{category}" id="i{n}" type="{kind}"/>'
            for n, (category, kind) in enumerate(ITEMS)
        )
        name = quoteattr(self.name)
        device = f'<Device id="d1" name={name} uuid="stand-in-{self.instance}"><DataItems>{items}</DataItems></Device>'
        return f'{XML}<MTConnectDevices xmlns="{DEVICES}">{self._header(1)}<Devices>{device}</Devices></MTConnectDevices>'

    def current(self) -> str:
        """Return what it says now, of each thing the newest."""
        self._go_on()
        newest = {("Condition" if one.item in CONDITIONS else one.item): one for one in self._said}
        return self._document(sorted(newest.values(), key=lambda one: one.sequence), len(self._said) + 1)

    def sample(self, since: int, count: int = MOST) -> str:
        """Return what it said from an observation on, oldest first."""
        self._go_on()
        first = max(since, 1)
        shown = self._said[first - 1 : first - 1 + count]
        return self._document(shown, first + len(shown))

    def _go_on(self) -> None:
        """Say that it is done, once it is."""
        if self._ends is None or self.clock() < self._ends:
            return
        at, self._ends = self._ends, None
        self._parts += 1
        self._say(at, "Execution", "PROGRAM_COMPLETED")
        self._say(at, "PartCount", str(self._parts))
        self._say(at, "Load", "0")
        self._say(at, "Execution", "READY")

    def _say(self, at: datetime, item: str, value: str, native: str = "") -> None:
        self._said.append(Observed(len(self._said) + 1, at, item, value, native))

    def _last(self, *items: str) -> str:
        return next(one.item for one in reversed(self._said) if one.item in items)

    def _header(self, next_sequence: int) -> str:
        said = f'instanceId="{self.instance}" version="1.3.0.0" bufferSize="131072" firstSequence="1"'
        ends = f'lastSequence="{len(self._said)}" nextSequence="{next_sequence}"'
        return f'<Header creationTime="{_stamp(self.clock())}" sender="stand-in" {said} {ends}/>'

    def _document(self, shown: list[Observed], next_sequence: int) -> str:
        places: dict[str, list[str]] = {"Samples": [], "Events": [], "Condition": []}
        for one in shown:
            place = "Condition" if one.item in CONDITIONS else "Samples" if one.item in SAMPLES else "Events"
            native = f" nativeCode={quoteattr(one.native)}" if one.native else ""
            kind = ' type="SYSTEM"' if place == "Condition" else ""
            when = f'timestamp="{_stamp(one.at)}" sequence="{one.sequence}"'
            begins = f'<{one.item} dataItemId="{one.item.lower()}" {when}{kind}{native}>'
            places[place].append(f"{begins}{escape(one.value)}</{one.item}>")
        body = "".join(f"<{name}>{''.join(of)}</{name}>" for name, of in places.items() if of)
        parts = f'<ComponentStream component="Controller" componentId="c1">{body}</ComponentStream>'
        device = f'<DeviceStream name={quoteattr(self.name)} uuid="stand-in-{self.instance}">{parts}</DeviceStream>'
        streams = (
            f'<MTConnectStreams xmlns="{SPACE}">{self._header(next_sequence)}<Streams>{device}</Streams>'
        )
        return f"{XML}{streams}</MTConnectStreams>"


def _stamp(at: datetime) -> str:
    return at.astimezone(UTC).strftime("%Y-%m-%dT%H:%M:%S.%fZ")
