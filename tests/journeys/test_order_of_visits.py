"""A cleat cut in three vises, from an empty shop: its hole's tools by one key, its order of visits moved and taken, by keys alone."""

import re

from playwright.sync_api import Page, expect

from tests.journeys.conftest import Server
from tests.journeys.hands import Hands, tab_to

LINES = ("block 60 x 40 x 20", "face 20 ±0.1, top", "hole 6 x 10 deep, top, in the middle")


def planned(page: Page, empty: Server) -> Hands:
    """A part of one setup in three vises, up to its tools."""
    hands = Hands(page, empty.address)
    hands.begin("Mill 2", "mill with a control")
    hands.new_job("Stay cleat", 12)
    line = page.get_by_label(re.compile("as you would say it"))
    for said in LINES:
        line.fill(said)
        hands.press(page.get_by_role("button", name="Add it"))
        expect(line).to_have_value("")
    hands.step("Hold")
    form = page.locator("#setup")
    for feature in form.locator("[name=cuts]").all():
        feature.check()
    hands.setup("first side", "Mill 2", "vises", "0:45")
    hands.step("Place")
    for _ in range(3):
        hands.station()
    return hands


def test_by_keys_from_the_hole_to_an_order_that_is_taken(page: Page, empty: Server) -> None:
    planned(page, empty)
    press = page.keyboard.press
    press("Escape")
    press("6")
    expect(page.get_by_role("list", name="Questions of this setup")).to_contain_text(
        "Spot it and drill 6 mm."
    )
    press("Escape")  # out of the field the page puts the hand in
    press("ArrowDown")
    press("Enter")
    expect(page.locator("h1")).to_have_text("Spot it and drill 6 mm.")
    press("Enter")  # the brass key: its tools go to the setup
    expect(page.get_by_text("The setup has it so.")).to_be_visible()
    press("6")
    for number, tool, cut in (("4", "spot hole", "4"), ("5", "drill 6 mm", "12")):
        expect(page.get_by_role("list", name="Questions of this setup")).to_be_visible()
        tab_to(page, f"Change hand {tool}")
        press("Enter")
        expect(page.locator("#tool-step [name=tool]")).to_be_focused()
        press("Control+a")
        page.keyboard.type(number)
        for text in ("", cut, "", "20"):  # what it does stays, as does for how many
            press("Tab")
            page.keyboard.type(text)
        press("Enter")
        expect(page.get_by_role("rowheader", name=f"T0{number}")).to_be_visible()
    press("Escape")
    tab_to(page, "Order of visits")
    press("Enter")
    expect(page.get_by_text("proven shortest")).to_be_visible(timeout=20_000)
    expect(page.get_by_role("img", name="T04 at A, B, C; T05 at C, B, A.")).to_be_visible()
    expect(page.locator("h1")).to_have_text("2 tool changes, 1:28 a load.")  # 3 × 16 + 2 × 20, by hand
    tab_to(page, "6 A T05")
    press("Enter")
    expect(page.locator("#picked")).to_be_focused()
    press("e")
    expect(page.locator("#picked")).to_contain_text("Visit 5: A T05 drill 6 mm")
    expect(page.get_by_role("img", name="T04 at A, B, C; T05 at C, A, B.")).to_be_visible()
    for place in (4, 3, 2, 1):
        press("e")
        expect(page.locator("#picked")).to_contain_text(f"Visit {place}:")
    expect(page.locator("h1")).to_have_text("It breaks 1 rule.")  # drilled before it is spotted, said at once
    press("t")
    expect(page.locator("h1")).to_have_text("4 tool changes, 1:53 a load.")  # 48 + 4 × 14 + 3 × 3
    press("Enter")  # the brass key takes it
    expect(page.get_by_text("This order is taken.")).to_be_visible()
    press("6")
    expect(page.get_by_text(re.compile("cycle 1:53"))).to_be_visible()
    press("Escape")
    press("z")
    expect(page.get_by_text(re.compile("cycle 1:28"))).to_be_visible()
