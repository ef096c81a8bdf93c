"""Make docs/screenshots again: start the demo shop, look at each main view, keep one picture of each."""

import os
import subprocess
import sys
import tempfile
from pathlib import Path

from playwright.sync_api import sync_playwright

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
    ("part-turned", "/jobs/5/part", WIDE),
    ("open", "/jobs/3/open", WIDE),
    ("method", "/jobs/6/method", WIDE),
    ("stock", "/jobs/5/stock", WIDE),
    ("hold", "/jobs/6/hold", WIDE),
    ("setup-sheet", "/jobs/6/hold/sheet", WIDE),
    ("place", "/jobs/6/place", WIDE),
    ("zero", "/jobs/6/place/probe/bore?station=20|P1", WIDE),
    ("offsets", "/jobs/6/place/offsets?code=G59.3", WIDE),
    ("tool", "/jobs/6/tools?tool=17", WIDE),
    ("tools", "/jobs/6/tools/order", WIDE),
    ("run", "/jobs/6/run", WIDE),
    ("run-night", "/jobs/6/run?theme=night", WIDE),
    ("run-portrait", "/jobs/6/run", TALL),
    ("run-unlike", "/jobs/1/run", WIDE),
    ("close", "/jobs/4/close", WIDE),
    ("shop", "/shop", WIDE),
]


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
                for name, path, size in VIEWS:
                    context = browser.new_context(
                        viewport=size, locale="en-GB", timezone_id="UTC", reduced_motion="reduce"
                    )
                    page = context.new_page()
                    page.goto(address + path)
                    page.wait_for_timeout(500)
                    page.wait_for_selector("#searching", state="detached")
                    if name == "run":
                        page.locator("#rd").fill("977")
                        page.wait_for_timeout(500)
                    page.screenshot(path=SHOTS / f"{name}.png")
                    print(f"docs/screenshots/{name}.png")
                    context.close()
                browser.close()
        finally:
            server.terminate()
            server.communicate()


if __name__ == "__main__":
    main()
