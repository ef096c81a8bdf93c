"""A real server in a process of its own, driven by Debian's Chromium."""

import os
import signal
import subprocess
import sys
from collections.abc import Generator, Iterator
from contextlib import suppress
from dataclasses import dataclass
from pathlib import Path

import pytest
from playwright.sync_api import BrowserContext, Error, Page, expect

ARGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]

SLOWEST = 40_000
"""Milliseconds a journey waits for a page or a sentence. Journeys say what happens, `make bench` how soon: on a
machine whose disk stands still for ten seconds, eight were too few."""
expect.set_options(timeout=SLOWEST / 2)


@dataclass
class Server:
    """A started server."""

    process: subprocess.Popen[str]
    address: str
    folder: Path

    def kill(self) -> None:
        """End it as a power cut would."""
        self.process.send_signal(signal.SIGKILL)
        self.process.communicate()

    def stop(self) -> None:
        """End it as a person would."""
        self.process.terminate()
        try:
            self.process.communicate(timeout=10)
        except subprocess.TimeoutExpired:
            self.kill()


def start_server(folder: Path, command: str = "serve", port: int = 0) -> Server:
    """Start a server and wait until it has printed its address, which it does when it listens."""
    process = subprocess.Popen(
        [sys.executable, "-m", "ditto_run", "--data", str(folder), command, "--port", str(port)],
        stdout=subprocess.PIPE,
        text=True,
        env=os.environ | {"PYTHONUNBUFFERED": "1"},
    )
    assert process.stdout is not None
    for line in process.stdout:
        if line.startswith("http://"):
            return Server(process, line.strip(), folder)
    raise AssertionError("the server did not start")


@pytest.fixture(scope="session")
def browser_type_launch_args(browser_type_launch_args: dict) -> dict:
    return {**browser_type_launch_args, "executable_path": "/usr/bin/chromium", "args": ARGS}


@pytest.fixture(scope="session")
def browser_context_args(browser_context_args: dict) -> dict:
    return {
        **browser_context_args,
        "viewport": {"width": 1280, "height": 800},
        "locale": "en-GB",
        "timezone_id": "UTC",
        "reduced_motion": "reduce",
    }


@pytest.fixture(scope="session")
def demo(tmp_path_factory: pytest.TempPathFactory) -> Iterator[Server]:
    """The demo shop, shared by the tests that only look or that use a job of their own."""
    server = start_server(tmp_path_factory.mktemp("demo"), "demo")
    yield server
    server.stop()


@pytest.fixture
def empty(tmp_path: Path) -> Iterator[Server]:
    """An empty shop."""
    server = start_server(tmp_path)
    yield server
    server.stop()


@pytest.fixture
def page(context: BrowserContext) -> Iterator[Page]:
    """A page that fails the test if a script on it does."""
    faults: list[str] = []
    page = context.new_page()
    page.on("pageerror", lambda error: faults.append(str(error)))
    page.set_default_timeout(SLOWEST)
    yield page
    assert faults == []


@pytest.hookimpl(wrapper=True)
def pytest_runtest_makereport(item: pytest.Item) -> Generator[None, pytest.TestReport, pytest.TestReport]:
    """Beside a journey that fails: what its page shows, and the last lines of its server's log."""
    report = yield
    page = getattr(item, "funcargs", {}).get("page")
    if report.when == "call" and report.failed and page is not None:
        with suppress(Error):
            report.sections.append((f"page {page.url}", page.evaluate("document.body.innerText")))
        for server in filter(None, map(item.funcargs.get, ("empty", "demo"))):
            for log in server.folder.rglob("ditto-run.log"):
                lines = log.read_text(encoding="utf-8").splitlines()
                report.sections.append(("log", "\n".join(lines[-15:])))
    return report


STAYS, BUSHING, SPACER, PLATE, PIN, CLAMP = range(1, 7)  # jobs of the demo, in the order they are made


SPY = """window.heard = []; window.spoken = [];
class FakeParam { setValueAtTime(v) { this.value = v; } }
class FakeNode { constructor() { this.frequency = new FakeParam(); this.gain = new FakeParam(); }
  connect(next) { return next; } start(at) { window.heard.push([this.frequency.value, this.type, at]); } stop() {} }
window.AudioContext = class { constructor() { this.currentTime = 0; this.destination = {}; }
  createOscillator() { return new FakeNode(); } createGain() { return new FakeNode(); } };
window.SpeechSynthesisUtterance = class { constructor(text) { this.text = text; } };
Object.defineProperty(window, "speechSynthesis", { value: { cancel() {}, speak(u) { window.spoken.push(u.text); } } });"""
"""Stands for the browser's tones and voice: what is heard and spoken is kept."""


def ready_job(page: Page, address: str, quantity: int = 6) -> int:
    """Make a job by script that is ready to run: a slot of 20 ±0.03 at stations A and B. Returns its number."""
    api = f"{address}/api/v1"
    job = page.request.post(f"{api}/jobs", data={"part": "Test block", "quantity": quantity}).json()["id"]
    machine = page.request.get(f"{api}/shop").json()["machines"][0]["id"]
    edits = [
        {"kind": "set_characteristic", "name": "slot", "size": "20 ±0.03", "grade": "critical"},
        {
            "kind": "set_setup",
            "name": "first side",
            "machine_id": machine,
            "holds": "vises",
            "handling": "30",
        },
        {"kind": "set_station", "setup": 2, "label": "A", "offset": "G54"},
        {"kind": "set_station", "setup": 2, "label": "B", "offset": "G55"},
        {"kind": "set_tool_step", "setup": 2, "tool": 9, "does": "slot", "cut": "40"},
    ]
    for version, edit in enumerate(edits, 1):
        assert page.request.post(f"{api}/jobs/{job}/edits", data={"version": version, "edit": edit}).ok
    return job


def ready_run(page: Page, address: str, quantity: int = 6) -> tuple[int, int]:
    """Make a job whose first load is cut. Returns job and run."""
    job = ready_job(page, address, quantity)
    run = page.request.post(f"{address}/api/v1/jobs/{job}/run").json()["id"]
    for key in ("start_cycle", "end_cycle"):
        confirm = {"confirm": "1"} if key == "end_cycle" else {}  # far quicker than planned
        sent = {"client_key": key, "command": {"kind": key} | confirm}
        assert page.request.post(f"{address}/api/v1/runs/{run}/commands", data=sent).ok
    return job, run


def gauged(page: Page, address: str, run: int, pieces: int) -> None:
    """Cut and gauge every piece of a run at A and B through the API, as a fast hand would."""

    def do(number: int, **command: object) -> None:
        answer = page.request.post(
            f"{address}/api/v1/runs/{run}/commands", data={"client_key": f"q{number}", "command": command}
        )
        assert answer.ok, answer.text()

    number = 0
    for load in range(1, pieces // 2 + 1):
        if load > 1:  # the first one is cut already
            do(number := number + 1, kind="start_cycle")
            do(number := number + 1, kind="end_cycle", confirm=str(load))
        for piece in (2 * load - 1, 2 * load):
            sent = {"piece": piece, "characteristic": 1, "text": "20.001", "confirm": "20.001"}
            do(number := number + 1, kind="take_reading", **sent)
        if load == 1:
            do(number := number + 1, kind="accept_master", piece=1)
