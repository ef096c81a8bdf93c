"""A clamp block by keys alone: from its features to a woven order with a rule, moved by hand, with its printed sheets."""

import re

from playwright.sync_api import Page, expect

from tests.journeys.conftest import Server
from tests.journeys.hands import Hands, tab_to
from tests.journeys.test_six_jobs import Keys

LINES = (
    "block 60 x 40 x 30",
    "top face: face, top",
    "slot 16 x 12 deep x 40 long, in the middle, top",
    "bore 12 H7 through, in the middle, top",
)
TOOLS = (
    "T1 face mill 0:10 + 0:20\nT2 rough slot 0:30 + 0:20\nT5 drill bore 0:12 + 0:20\nT6 ream bore 0:10 + 0:20"
)


def test_a_clamp_block_from_features_to_a_woven_order_and_its_sheets_by_keys(
    page: Page, empty: Server
) -> None:
    Hands(page, empty.address).begin("Mill 2", "mill with a control")
    keys = Keys(page)
    page.goto(f"{empty.address}/jobs/new")
    keys.fill("part", "Clamp block")
    keys.fill("quantity", "24", "Enter")
    keys.hears("Made the job")
    for line in LINES:
        keys.fill("line", line, "Enter")
        keys.hears("Feature")
        expect(page.locator("[name=line]").first).to_have_value("")
    keys.go("4", "Hold.")
    for feature in page.locator("#setup [name=cuts]").all():
        if not feature.is_checked():
            feature.focus()
            keys.press("Space")
    keys.fill("name", "first side")
    keys.pick("machine_id", "Mill 2")
    keys.fill("holds", "vise", "Enter")
    keys.hears("Added setup first side")
    keys.go("5", "Place.")
    for label in "ABC":
        keys.to("label")
        keys.press("Enter")
        keys.hears(f"Added station {label}")
    keys.go("6", "Tools.")
    keys.fill("lines", "T1 face mill 0:10 + soon")
    keys.to("Add them")
    keys.press("Enter")
    expect(page.locator("#tool-lines .problem")).to_contain_text("soon")
    expect(page.locator("#tool-lines [name=lines]")).to_have_value(re.compile("soon"))  # nothing is lost
    page.locator("#tool-lines [name=lines]").focus()
    keys.press("Control+a")
    page.keyboard.insert_text(TOOLS)
    keys.to("Add them")
    keys.press("Enter")
    keys.hears("4 tool steps")
    keys.press("Escape")
    tab_to(page, "Order of visits")
    keys.press("Enter")
    expect(page.get_by_text("proven shortest")).to_be_visible(timeout=20_000)
    expect(page.locator("h1")).to_have_text("4 tool changes, 4:26 a load.")  # 3 × 62 + 4 × 20, by hand
    tab_to(page, "Another rule")
    keys.press("Enter")
    keys.pick("first", "station A")
    keys.to("why")
    page.keyboard.type("the second side waits for A")
    keys.press("Enter")
    keys.warned("No visit is meant by it.")
    expect(page.locator("#rule-form [name=why]")).to_have_value("the second side waits for A")
    page.locator("#rule-form [name=first]").focus()
    keys.pick("then", "station B")
    keys.to("Keep this rule")
    keys.press("Enter")
    keys.hears("Rule A before B")
    expect(page.get_by_text("A before B: the second side waits for A.")).to_be_visible()
    expect(page.get_by_text("proven shortest").first).to_be_visible(timeout=20_000)
    expect(page.locator("h1")).to_contain_text(
        "8 tool changes"
    )  # every tool twice: once for A, once for the others
    tab_to(page, "5 ")
    keys.press("Enter")
    expect(page.locator("#picked")).to_contain_text("Visit 5:")
    keys.press("e")
    expect(page.locator("h1")).to_have_text("It breaks 1 rule.")
    expect(page.get_by_text("against the rule “A before B”")).to_be_visible()
    keys.press("t")
    expect(page.locator("h1")).to_contain_text("8 tool changes")
    keys.press("Enter")
    expect(page.get_by_text("This order is taken.")).to_be_visible()
    tab_to(page, "Tool sheets")
    keys.press("Enter")
    expect(page.locator("h1")).to_have_text("1 tool sheet.")
    card = page.get_by_label("Order of visits", exact=True)
    expect(
        card.get_by_role("img", name=re.compile("^T01 at A; T02 at A; T05 at A; T06 at A;"))
    ).to_be_visible()
    expect(card.get_by_role("listitem")).to_have_count(12)
    page.evaluate("window.print = () => { window.printed = true }")
    keys.press("l")
    assert page.evaluate("window.printed")
