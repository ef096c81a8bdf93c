"""A knurled thumb nut in inches on a lathe, from an empty shop to a closed batch: by keys and what is said alone, and upright by touch."""

import re

from playwright.sync_api import Browser, Page, expect

from tests.journeys.conftest import SLOWEST, Server
from tests.journeys.hands import Hands
from tests.journeys.test_six_jobs import Keys

LINES = (
    "body 1.000 x 0.75",  # a shop of lathes begins with turned parts
    "knurl 0.4 long, 0.3 from free end",
    "shoulder 0.6 x 0.25 ±.005 long, free end",
    "tapped hole 1/4-20 through, free end",
    "face, free end",
    "part off",
)
TOOLS = "T1 face 0:10\nT2 turn shoulder 0:20\nT3 drill tapped hole 0:10\nT4 tap 1/4-20 0:10\nT5 knurl 0:10\nT6 part off 0:10"


def test_by_keys_and_what_is_said(page: Page, empty: Server) -> None:
    Hands(page, empty.address).begin("Turret lathe", "lathe with a control", unit="inches")
    keys = Keys(page)
    page.goto(f"{empty.address}/jobs/new")
    keys.fill("part", "Thumb nut")
    keys.fill("quantity", "a few", "Enter")
    expect(page.get_by_text(re.compile("“a few”"))).to_be_visible()
    keys.to("quantity")
    keys.press("Control+a")
    page.keyboard.type("2")
    keys.press("Enter")
    keys.hears("Made the job")
    keys.fill("line", "knurl ever so long", "Enter")
    expect(page.locator("#feature-line .problem")).to_be_visible()
    expect(page.locator("[name=line]").first).to_have_value("knurl ever so long")
    for line in LINES:
        page.locator("[name=line]").first.focus()
        keys.press("Control+a")
        page.keyboard.type(line)
        keys.press("Enter")
        expect(page.locator("[name=line]").first).to_have_value("")
    keys.go("4", "Hold.")
    for feature in page.locator("#setup [name=cuts]").all():
        if not feature.is_checked():
            feature.focus()
            keys.press("Space")
    keys.fill("name", "complete")
    keys.pick("machine_id", "Turret lathe")
    keys.fill("holds", "collet", "Enter")
    keys.hears("Added setup complete")
    keys.go("5", "Place.")
    keys.to("label")
    keys.press("Enter")
    keys.hears("Added station A")
    keys.go("6", "Tools.")
    keys.to("lines")
    page.keyboard.insert_text(TOOLS)
    keys.to("Add them")
    keys.press("Enter")
    keys.hears("6 tool steps")
    keys.press("Escape")
    keys.press("8")
    keys.hears("open before Run.")
    keys.fill("note", "Known well in the collet.", "Enter")
    keys.hears("then start load 1")
    for piece in (1, 2):
        keys.load(piece)
        keys.hears(f"Gauge the shoulder length on piece {piece}")
        if piece == 1:
            keys.fill("text", "2.51", "Enter")
            keys.warned("2.51")
            keys.press("Control+a")
        else:
            keys.to("text")
        page.keyboard.type("0.251")
        keys.press("Enter")
        keys.hears(f"Check the tapped hole on piece {piece}")
        keys.press("Escape")
        keys.press("v")
        if piece == 1:
            keys.hears("Accept piece 1")
            keys.press("Enter")
            keys.hears("then start load 2")
    keys.hears("All 2 of 2 are good. Close the batch.")
    keys.press("Enter")
    keys.hears("2 good of 2 wanted.")


def test_upright_by_touch(browser: Browser, empty: Server) -> None:
    context = browser.new_context(
        viewport={"width": 800, "height": 1280}, has_touch=True, locale="en-GB", timezone_id="UTC"
    )
    page = context.new_page()
    page.set_default_timeout(SLOWEST)
    hands = Hands(page, empty.address, touch=True)
    hands.begin("Turret lathe", "lathe with a control", unit="inches")
    hands.new_job("Thumb nut", 2)
    line = page.get_by_label(re.compile("as you would say it"))
    for said in LINES:
        line.fill(said)
        hands.press(page.get_by_role("button", name="Add it"))
        expect(line).to_have_value("")
    hands.step("Hold")
    for feature in page.locator("#setup [name=cuts]").all():
        feature.check()
    hands.setup("complete", "Turret lathe", "collet", "0:20")
    hands.step("Place")
    hands.station()
    hands.step("Tools")
    page.locator("#tool-lines [name=lines]").fill(TOOLS)
    hands.press(page.get_by_role("button", name="Add them"))
    expect(page.get_by_text("tap 1/4-20").first).to_be_visible()
    assert page.evaluate("document.scrollingElement.scrollWidth") <= 800
    hands.press(page.get_by_role("link", name="Program", exact=True))
    hands.say("Choose the program that is about to be run.")
    hands.press(page.get_by_role("link", name=re.compile("Write a skeleton")))
    hands.say("A skeleton of")
    hands.step("Run")
    page.get_by_label("Why the open ones may stand").fill("Known well in the collet.")
    hands.press(page.get_by_role("button", name=re.compile("Start the run")))
    for piece in (1, 2):
        hands.load(piece)
        hands.say(f"Gauge the shoulder length on piece {piece}.")
        hands.read("0.25")
        hands.say(f"Check the tapped hole on piece {piece}.")
        hands.press(page.get_by_role("button", name=re.compile("^GO")))
        if piece == 1:
            hands.press(page.get_by_role("button", name="Accept piece 1 as the master"))
    hands.say("All 2 of 2 are good. Close the batch.")
    assert page.evaluate("document.scrollingElement.scrollWidth") <= 800
    hands.close("2 good of 2 wanted.")
    context.close()
