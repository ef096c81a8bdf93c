"""A program read on Tools by keys: stepped along its path, a file that is none refused, its revision compared."""

import re
from pathlib import Path

from playwright.sync_api import Page, expect

from tests.journeys.conftest import Server
from tests.journeys.hands import tab_to

FIRST = (
    "%\nG21 G17 G40 G90 G94\nT1 M6\nS2100 M3\nG54 G0 X-30. Y25.\nG43 H1 Z25. M8\nZ-1.\nG1 X110. F1200.\nG0 Z25.\n"
    "G0 Z-1.\nG0 X-30.\nM9\nM5\nM30\n%\n"
)


def test_by_keys_a_program_is_read_stepped_and_compared(page: Page, demo: Server, tmp_path: Path) -> None:
    first, second, none = (tmp_path / name for name in ("side.nc", "again/side.nc", "page.nc"))
    second.parent.mkdir()
    first.write_text(FIRST)
    second.write_text(FIRST.replace("G0 X-30.\n", "G0 Z25.\n"))
    none.write_text("<html><body>404</body></html>")
    press = page.keyboard.press
    page.goto(f"{demo.address}/jobs/6/tools")
    press("Escape")
    tab_to(page, "Program")
    press("Enter")
    expect(page.locator("h1")).to_have_text(
        re.compile("Choose the program that is about|Which program is run")
    )

    def send(path: Path) -> None:
        page.set_input_files("#program-form [name=program]", path)
        page.locator("#program-form button").focus()
        press("Enter")
        expect(page.locator("h1")).not_to_have_text("It is being read.", timeout=20_000)

    send(none)
    expect(page.locator("h1")).to_contain_text("This is not a program", timeout=20_000)
    send(first)
    expect(page.get_by_role("list", name="What it says")).to_contain_text(
        "T2 is planned and never called.", timeout=20_000
    )
    zero = page.get_by_label("X0 Y0 stands on the piece")
    zero.focus()
    page.keyboard.type("left front")
    page.get_by_role("button", name="Read it so").focus()
    press("Enter")
    says = page.get_by_role("list", name="What it says")
    expect(says).to_contain_text("Line 11: a rapid goes through the blank.", timeout=20_000)
    expect(page.locator("h1")).to_contain_text("could hurt")
    tab_to(page, "Stop Line 11: a rapid")
    press("Enter")  # the heaviest one: its line is picked
    expect(page.get_by_role("img", name="Line 11: rapid to X-30.00")).to_be_visible()
    press("ArrowLeft")
    expect(page.get_by_text("Line 10", exact=True)).to_be_visible()
    press("ArrowRight")
    expect(page.get_by_role("img", name="Line 11: rapid to X-30.00")).to_be_visible()
    send(second)
    expect(page.get_by_text("seal")).to_be_visible(timeout=20_000)
    tab_to(page, "Against 1")
    press("Enter")
    table = page.get_by_role("table", name="Differences")
    expect(table).to_contain_text("G0 X-30.", timeout=20_000)
    expect(table.get_by_role("row")).to_have_count(3)
