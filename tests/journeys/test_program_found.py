"""What a program would do wrong is found before it is run: a station whose offset was forgotten, a rapid into the bar; a skeleton drawn."""

import re
from pathlib import Path

from playwright.sync_api import Page, expect

from tests.journeys.conftest import CLAMP, PIN, Server
from tests.journeys.hands import tab_to


def cut(code: str) -> str:
    return f"{code} G0 X-25. Y-20.\nZ2.\nG1 Z-1. F300.\nX80. F600.\nY-30.\nX-25.\nG0 Z25.\n"


def program(*codes: str) -> str:
    start = "%\nG21 G17 G40 G49 G80 G90 G94\nT1 M6\nS2100 M3\nG54 G0 X-25. Y-20.\nG43 H1 Z25. M8\n"
    return f"{start}{''.join(map(cut, codes))}M9\nM5\nG53 G0 Z0.\nM30\n%\n"


def send(page: Page, path: Path) -> None:
    page.set_input_files("#program-form [name=program]", path)
    page.locator("#program-form button").focus()
    page.keyboard.press("Enter")
    expect(page.get_by_text("seal")).to_be_visible()


def test_a_forgotten_offset_is_found_mended_read_again_and_kept_by_keys(
    page: Page, demo: Server, tmp_path: Path
) -> None:
    """Three vises, and the third section cuts under the second one's offset again."""
    wrong, right = tmp_path / "block.nc", tmp_path / "again/block.nc"
    right.parent.mkdir()
    wrong.write_text(program("G54", "G55", "G55"))
    right.write_text(program("G54", "G55", "G56"))
    page.goto(f"{demo.address}/jobs/{CLAMP}/tools/program")
    send(page, wrong)
    says = page.get_by_role("list", name="What it says")
    expect(says).to_contain_text("the same cuts again under G55.")
    expect(says).to_contain_text("G56 is planned and never used.")
    expect(page.get_by_label("X0 Y0 stands on the piece")).to_have_value("left back")  # as Place has it
    tab_to(page, "Ask Line 21")
    page.keyboard.press("Enter")
    expect(page.get_by_role("status").filter(has_text="G55")).to_be_visible()
    tab_to(page, "All stations")
    page.keyboard.press("Enter")
    expect(page.get_by_role("img", name=re.compile("All 3 stations from above"))).to_be_visible()
    send(page, right)
    expect(says).not_to_contain_text("the same cuts again")
    expect(says).not_to_contain_text("G56 is planned and never used.")
    page.get_by_label("Why is it another one?").focus()
    page.keyboard.type("third vise forgotten")
    page.keyboard.press("Enter")
    expect(page.get_by_text("Why: third vise forgotten.")).to_be_visible()
    tab_to(page, "It is the program of first side")
    page.keyboard.press("Enter")
    expect(page.get_by_text("It is the program of first side.")).to_be_visible()
    tab_to(page, "Give the program up")  # the demo is shared
    page.keyboard.press("Enter")
    expect(page.get_by_text("It is the program of first side.")).to_have_count(0)


def test_a_rapid_into_the_bar_is_found_and_drawn(page: Page, demo: Server, tmp_path: Path) -> None:
    """Down to 11 of a bar of 12 for 20 mm, and from there at rapid on into what is still 12."""
    path = tmp_path / "pin.nc"
    path.write_text(
        "%\nG21 G18 G40 G49 G80 G90 G95\nT1 M6\nG97 S1500 M3\nG54 G0 X24. Z5.\nG43 H1 Z1. M8\nG0 X11.\n"
        "G1 Z-20. F0.15\nG0 Z-40.\nG1 X30. F0.2\nG0 X60. Z60.\nM9\nM5\nM30\n%\n"
    )
    page.goto(f"{demo.address}/jobs/{PIN}/tools/program")
    send(page, path)
    says = page.get_by_role("list", name="What it says")
    expect(says.get_by_role("listitem").first).to_contain_text("Stop Line 9: a rapid goes through the blank.")
    says.get_by_role("link").first.click()
    expect(page.get_by_role("img", name=re.compile("Line 9: rapid to X5.50"))).to_be_visible()
    expect(page.locator("h1")).to_contain_text("could hurt")


def test_the_skeleton_of_the_clamp_block_is_written_read_back_and_drawn(page: Page, demo: Server) -> None:
    page.goto(f"{demo.address}/jobs/{CLAMP}/tools/program")
    page.keyboard.press("w")
    expect(page.locator("h1")).to_contain_text("A skeleton of")
    expect(page.get_by_text("no rapid meets anything")).to_be_visible()
    expect(page.get_by_role("img", name=re.compile("Path under one offset: 0 feed moves"))).to_be_visible()
    with page.expect_download() as taken:
        page.keyboard.press("d")
    text = Path(taken.value.path()).read_text()
    assert "(CUT HERE: FACE MILL AT A)" in text
    assert re.search(r"G54\nG0 X[\d.-]+ Y[\d.-]+\nG43 H1 Z[\d.]+\n", text)
    page.keyboard.press("Escape")
    expect(page.get_by_text("Programs of this job")).to_be_visible()
