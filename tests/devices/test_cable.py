"""A gauge on a serial cable: a pair of terminals stands in for it, a small server for the application."""

import json
import os
import tty
from collections.abc import Iterator
from dataclasses import dataclass, field
from http.server import BaseHTTPRequestHandler, HTTPServer
from itertools import islice
from threading import Thread

import pytest

from ditto_run.cli import main
from ditto_run.core.errors import CannotKeep
from ditto_run.devices.cable import address_of, lines_of, send
from ditto_run.formats.gauge_lines import read_line


@dataclass
class Application:
    """Answers as the application does, and keeps what it was asked."""

    address: str
    asked: list[tuple[str, dict[str, str]]] = field(default_factory=list)
    status: int = 200


@pytest.fixture
def application() -> Iterator[Application]:
    class Answers(BaseHTTPRequestHandler):
        def do_POST(self) -> None:
            body = json.loads(self.rfile.read(int(self.headers["Content-Length"])))
            there.asked.append((self.headers["X-Device-Key"], body))
            said = {"said": f"slot {body['line']}"} if there.status == 200 else None
            refused = {"problem": "No reading is asked for now.", "remedy": "Look at the page."}
            answer = json.dumps(said or refused).encode()
            self.send_response(there.status)
            self.send_header("Content-Length", str(len(answer)))
            self.end_headers()
            self.wfile.write(answer)

        def log_message(self, *_: object) -> None:
            """Say nothing."""

    server = HTTPServer(("127.0.0.1", 0), Answers)
    there = Application(f"http://127.0.0.1:{server.server_port}")
    thread = Thread(target=server.serve_forever)
    thread.start()
    yield there
    server.shutdown()
    thread.join()
    server.server_close()


@pytest.fixture
def cable() -> Iterator[tuple[int, str]]:
    ours, theirs = os.openpty()
    tty.setraw(theirs)
    yield ours, os.ttyname(theirs)
    os.close(ours)
    os.close(theirs)


def test_lines_come_whole_whatever_ends_them_and_however_they_are_cut_up(cable: tuple[int, str]) -> None:
    ours, port = cable
    said: list[str] = []

    def says(words: str) -> None:  # what is sent before the port is open is lost, as on a real one
        said.append(words)
        for part in (b"+0020.0", b"040 mm\r\n", b"\x00+20.005\r+20.006 mm\r\n", b"+20.007\n"):
            os.write(ours, part)

    found = list(islice(lines_of(port, 9600, says), 4))
    assert found == ["+0020.0040 mm", "+20.005", "+20.006 mm", "+20.007"]
    assert [read_line(line).text for line in found] == ["20.0040", "20.005", "20.006", "20.007"]
    assert said == [f"Listening on {port}."]


def test_noise_without_an_end_is_dropped_and_the_next_line_is_whole(cable: tuple[int, str]) -> None:
    ours, port = cable

    def says(_: str) -> None:
        for part in (b"\xff" * 200, b"+1.25 in\r"):
            os.write(ours, part)

    assert next(lines_of(port, 9600, says)) == "+1.25 in"


def test_a_line_is_sent_with_its_key_and_what_was_said_is_said(application: Application) -> None:
    said: list[str] = []
    send(application.address, "key-of-the-gauge", "+20.004 mm", said.append)
    send(application.address, "key-of-the-gauge", "+20.004 mm", said.append)
    (key, body), (_, again) = application.asked
    assert (key, body["line"], said[0]) == ("key-of-the-gauge", "+20.004 mm", "slot +20.004 mm")
    assert body["client_key"] != again["client_key"]  # the same size twice is two readings
    application.status = 409
    send(application.address, "key-of-the-gauge", "+20.004 mm", said.append)
    assert said[-1] == "+20.004 mm: No reading is asked for now. Look at the page."


def test_an_application_that_is_away_is_tried_again_with_the_same_key_and_then_given_up(
    application: Application,
) -> None:
    said: list[str] = []
    waits: list[float] = []
    send("http://127.0.0.1:9", "k", "+1", said.append, waits.append)
    assert len(waits) == 30
    assert said[0].startswith("+1: the application does not answer")
    assert said[-1] == "+1: given up. Type it in by hand."
    assert not application.asked


@pytest.mark.parametrize("address", ["", "here", "ftp://127.0.0.1", "file:///etc/passwd"])
def test_what_is_no_address_is_refused(address: str) -> None:
    with pytest.raises(CannotKeep):
        address_of(address)


def test_a_port_that_is_not_there_is_said_by_the_command(
    capsys: pytest.CaptureFixture[str], tmp_path: object
) -> None:
    assert main(["--data", str(tmp_path), "gauge", "--port", f"{tmp_path}/none", "--key", "k"]) == 2
    assert "cannot be opened" in capsys.readouterr().err
