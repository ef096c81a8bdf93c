"""Make docs/screenshots again: start the demo shop, look at each main view, keep one picture of each."""

import os
import subprocess
import sys
import tempfile
from pathlib import Path

from playwright.sync_api import APIRequestContext, Browser, sync_playwright

SHOTS = Path(__file__).parents[1] / "docs/screenshots"
ARGS = [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
]
WIDE, TALL = {"width": 1280, "height": 800}, {"width": 800, "height": 1280}
VIEWS = [  # name, address, size
    ("jobs", "/", WIDE),
    ("part", "/jobs/6/part", WIDE),
    ("open", "/jobs/3/open", WIDE),
    ("method", "/jobs/6/method", WIDE),
    ("first-plan", "/jobs/6/method/proposed?name=thorough", WIDE),
    ("stock", "/jobs/5/stock", WIDE),
    ("hold", "/jobs/6/hold", WIDE),
    ("setup-sheet", "/jobs/6/hold/sheet", WIDE),
    ("place", "/jobs/6/place", WIDE),
    ("tool", "/jobs/6/tools?tool=17", WIDE),
    ("tools", "/jobs/6/tools/order", WIDE),
    ("program", "/jobs/6/tools/program?file=1&line=10&stations=true", WIDE),
    ("rehearsal", "/jobs/6/prove/rehearse?fault=wear", WIDE),
    ("run", "/jobs/6/run", WIDE),
    ("run-portrait", "/jobs/6/run", TALL),
    ("run-unlike", "/jobs/1/run", WIDE),
    ("close", "/jobs/4/close", WIDE),
    ("week", "/week", WIDE),
    ("shop", "/shop", WIDE),
]

CUT = "{} G0 X-10. Y-20.\nZ-1.\nG1 X75. F600.\nY-32.\nX-10.\nG0 Z25.\n"
PROGRAM = (  # the third station is forgotten, and the second cut again
    "%\n(RIGGER CLAMP BLOCK)\nG21 G17 G40 G49 G80 G90 G94\nT1 M6\nS2100 M3\nG54 G0 X-10. Y-20.\nG43 H1 Z25. M8\n"
    + "".join(CUT.format(code) for code in ("G54", "G55", "G55"))
    + "M9\nM5\nG53 G0 Z0.\nM30\n%\n"
)


def main() -> None:
    """Write every picture."""
    SHOTS.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as folder:
        command = [sys.executable, "-m", "ditto_run", "--data", folder, "demo", "--port", "0"]
        server = subprocess.Popen(
            command, stdout=subprocess.PIPE, text=True, env=os.environ | {"PYTHONUNBUFFERED": "1"}
        )
        address = next(line.strip() for line in server.stdout if line.startswith("http"))
        try:
            with sync_playwright() as playwright:
                browser = playwright.chromium.launch(executable_path="/usr/bin/chromium", args=ARGS)
                send_program(playwright.request.new_context(), address)
                for name, path, size in VIEWS:
                    take(browser, address, name, path, size)
                browser.close()
        finally:
            server.terminate()
            server.communicate()


def send_program(by_hand: APIRequestContext, address: str) -> None:
    """Keep a program with the clamp block, as somebody would who is about to run it."""
    sent = {"program": {"name": "block.nc", "mimeType": "text/plain", "buffer": PROGRAM.encode()}}
    by_hand.post(f"{address}/jobs/6/tools/program", multipart=sent, headers={"Origin": address})
    by_hand.dispose()


def take(browser: Browser, address: str, name: str, path: str, size: dict[str, int]) -> None:
    """Take one picture."""
    context = browser.new_context(viewport=size, locale="en-GB", timezone_id="UTC", reduced_motion="reduce")
    page = context.new_page()
    page.goto(address + path)
    page.wait_for_timeout(500)
    page.wait_for_selector("#searching", state="detached")
    page.wait_for_selector("text=It is being read.", state="detached")
    if name == "run":
        page.locator("#rd").fill("977")
        page.wait_for_timeout(500)
    page.screenshot(path=SHOTS / f"{name}.png")
    print(f"docs/screenshots/{name}.png")
    context.close()


if __name__ == "__main__":
    main()
