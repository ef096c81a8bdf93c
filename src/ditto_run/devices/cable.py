"""A gauge on a serial cable: its lines, each sent once to the application with the key of its row on Shop, Devices.

It runs beside the application, so that a cable that hangs never stops a page.
"""

import json
from collections.abc import Callable, Iterator
from http.client import HTTPException
from time import sleep
from typing import Any
from urllib.error import HTTPError, URLError
from urllib.parse import urlsplit
from urllib.request import Request, urlopen
from uuid import uuid4

from ditto_run.core.errors import CannotKeep

LONGEST_LINE = 200
WAITS_S = 2.0  # until a cable or an application that is away is tried again
ANSWER_S = 10.0
TRIES = 30


def lines_of(
    port: str, baud: int, say: Callable[[str], None], wait: Callable[[float], None] = sleep
) -> Iterator[str]:
    """Give the lines that come over a serial port, for ever; a port that is away is opened again when it is back.

    Args:
        port: such as COM3 or /dev/ttyUSB0.
        baud: its speed. [bit/s]
        say: is told when it goes and comes.
        wait: how to wait, [s].

    Raises:
        CannotKeep: if it cannot be opened at all.
    """
    import serial  # noqa: PLC0415 - only where there is a cable

    begun = False
    while True:
        try:
            with serial.serial_for_url(port, baudrate=baud, timeout=1.0) as cable:
                say(f"Listening on {port}.")
                begun = True
                yield from _lines(cable)
        except (serial.SerialException, OSError) as fault:
            if not begun:
                raise CannotKeep(
                    f"{port} cannot be opened: {fault}.",
                    "Look which port the gauge's cable has, and name it with --port.",
                ) from None
            say(f"{port} is away; it is opened again when it is back.")
            wait(WAITS_S)
        except ValueError as fault:
            raise CannotKeep(f"{port} is no port: {fault}.", "Name it as COM3 or /dev/ttyUSB0.") from None


def _lines(cable: Any) -> Iterator[str]:  # noqa: ANN401 - the library's own type has no words for it
    """Whole lines of a cable; part of one that is not over yet is kept, one without an end is dropped."""
    kept = b""
    while True:
        kept += cable.read_until(b"\r", LONGEST_LINE)
        if not kept.endswith((b"\r", b"\n")):
            if len(kept) >= LONGEST_LINE:
                kept = b""
            continue
        for one in kept.replace(b"\n", b"\r").split(b"\r"):
            bare = one.decode("ascii", "replace").strip("\x00 \t")
            if bare:
                yield bare
        kept = b""


def send(
    address: str, key: str, line: str, say: Callable[[str], None], wait: Callable[[float], None] = sleep
) -> None:
    """Send one line, until the application has taken or refused it; what it answers is said.

    Args:
        address: of the application.
        key: of the device.
        line: as it came.
        say: is told the answer.
        wait: how to wait, [s].
    """
    body = json.dumps({"line": line, "client_key": uuid4().hex}).encode()
    headers = {"Content-Type": "application/json", "X-Device-Key": key}
    asked = Request(f"{address}/api/v1/devices/reading", body, headers)  # noqa: S310 - see address_of
    for n in range(TRIES):
        try:
            with urlopen(asked, timeout=ANSWER_S) as answer:  # noqa: S310
                said = json.load(answer).get("said") or f"{line}: known already."
        except HTTPError as refused:
            said = f"{line}: {_words(refused)}"
        except (URLError, HTTPException, OSError):
            if not n:
                say(f"{line}: the application does not answer; it is tried again.")
            wait(WAITS_S)
            continue
        say(said)
        return
    say(f"{line}: given up. Type it in by hand.")


def _words(refused: HTTPError) -> str:
    try:
        told = json.load(refused)
        return f"{told['problem']} {told['remedy']}"
    except (ValueError, KeyError, TypeError, OSError):
        return f"refused with {refused.code}."


def address_of(text: str) -> str:
    """Return the address of the application as it is asked.

    Raises:
        CannotKeep: if it is none.
    """
    parts = urlsplit(text.strip())
    if parts.scheme not in {"http", "https"} or not parts.netloc:
        raise CannotKeep(f"“{text.strip()[:60]}” is no address.", "Copy it from the application's window.")
    return f"{parts.scheme}://{parts.netloc}"


def bridge(port: str, baud: int, address: str, key: str, say: Callable[[str], None]) -> None:
    """Send every line of a serial port to the application, until it is stopped.

    Raises:
        CannotKeep: if port or address are none.
    """
    to = address_of(address)
    for line in lines_of(port, baud, say):
        send(to, key, line, say)
