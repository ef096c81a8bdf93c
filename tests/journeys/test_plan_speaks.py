"""A tapered thole pin, a kind no demo has, from an empty shop to a closed batch: said once, answered from there, and taught to the shop."""

import re

from playwright.sync_api import Browser, Page, expect

from tests.journeys.conftest import SLOWEST, Server
from tests.journeys.hands import Hands

LINES = (
    "body Ø25 x 80",
    "taper 10° Ø20 x 30 long, free end",
    "shank: shoulder 16 h9 x 20 ±0.1 long, chuck end",
)


def say_part(hands: Hands) -> None:
    """Say the part on its front page, with a wrong word on the way."""
    page = hands.page
    line = page.get_by_label(re.compile("as you would say it"))
    line.fill("body Ø25 x wibble")
    expect(page.locator("#understood")).to_contain_text("wibble")
    hands.press(page.get_by_role("button", name="Add it"))
    expect(page.locator("#feature-line .problem")).to_contain_text("wibble")
    expect(line).to_have_value("body Ø25 x wibble")
    for said in LINES:
        line.fill(said)
        hands.press(page.get_by_role("button", name="Add it"))
        expect(line).to_have_value("")
    expect(page.get_by_role("img", name=re.compile("Half section of the part"))).to_be_visible()
    expect(page.get_by_role("list", name="Questions of the part")).to_contain_text("Swivel the slide 5.000°")


def make(hands: Hands) -> None:
    """Hold, place, tools; then a way that follows them, and the stock by one key."""
    page = hands.page
    hands.step("Hold")
    hands.setup("turn", "Lathe 1", "chuck", "0:30")
    hands.step("Place")
    hands.station()
    hands.step("Tools")
    hands.tool("turn the taper and the shank", "2:00", "0:20", "1")
    hands.step("Method")
    expect(page.get_by_role("checkbox", name="as planned")).to_be_checked()
    hands.press(page.get_by_role("button", name="Compare them"))
    hands.say("As planned:")
    hands.press(page.get_by_role("button", name="Keep this way"))
    expect(page.locator("#choose-form .problem")).to_contain_text("The choice has no reason")
    page.get_by_label("Because").fill("It is what the plan says.")
    hands.press(page.get_by_role("button", name="Keep this way"))
    expect(page.get_by_text(re.compile("^Chosen: as planned"))).to_be_visible()
    hands.step("Stock")
    hands.press(page.get_by_role("button", name="Plan it so"))
    expect(page.get_by_role("link", name="Note the order")).to_be_visible()
    expect(
        page.get_by_text("Bar as bought, 3000 mm, is a guess.", exact=True)
    ).to_be_visible()  # nobody has said


def run(hands: Hands) -> None:
    """Four pieces, gauged."""
    page = hands.page
    hands.step("Run")
    note = page.get_by_label("Why the open ones may stand")
    note.fill("bars are measured when they come")
    hands.press(page.get_by_role("button", name="Start the run of 4 piece"))
    for piece in range(1, 5):
        hands.load(piece)
        for reading in ("15.98", "20.02"):
            hands.say("Gauge")
            hands.read(reading)
        if piece == 1:
            hands.press(page.get_by_role("button", name="Accept piece 1"))
            expect(page.get_by_role("button", name="Accept piece 1")).to_have_count(0)
    hands.close("4 good of 4 wanted.")


def test_by_mouse_from_an_empty_shop_to_the_next_plan(page: Page, empty: Server) -> None:
    hands = Hands(page, empty.address)
    hands.begin("Lathe 1", "lathe with a control")
    hands.new_job("Thole pin", 4)
    say_part(hands)
    make(hands)
    run(hands)
    expect(page.get_by_role("heading", name="What it teaches the shop")).to_be_visible()
    page.get_by_label("Setting up took").fill("soonish")
    page.get_by_role("button", name="Keep Setting up took").click()
    expect(page.locator("#fact-setting_up")).to_contain_text("soonish")
    page.get_by_label("Setting up took").fill("40 min")
    page.get_by_role("button", name="Keep Setting up took").click()
    expect(page.get_by_text("Setting up took 40 min, as said above: it is taught too.")).to_be_visible()
    page.get_by_role("button", name="Teach the shop").click()
    expect(page.get_by_text("this batch is in it").first).to_be_visible()

    page.goto(f"{empty.address}/jobs/new")
    page.get_by_label("Part", exact=True).fill("Thole pin, long")
    page.get_by_label("Good pieces wanted").fill("6")
    page.get_by_label("Begin like").select_option(label="Thole pin")
    page.get_by_role("button", name="Make the job").click()
    expect(page.get_by_role("list", name="Questions of the part")).to_contain_text("Swivel the slide 5.000°")
    hands.step("Method")
    hands.press(page.get_by_role("button", name="Compare them"))
    page.get_by_role("link", name="Change as planned").click()
    expect(page.get_by_label("Line 1: time")).to_have_value("40:00")
    expect(page.get_by_text(re.compile("learned: 1 batch")).first).to_be_visible()


def test_upright_by_touch_the_key_to_press_is_on_the_first_screen(browser: Browser, empty: Server) -> None:
    context = browser.new_context(
        viewport={"width": 800, "height": 1280}, has_touch=True, locale="en-GB", timezone_id="UTC"
    )
    page = context.new_page()
    page.set_default_timeout(SLOWEST)
    hands = Hands(page, empty.address, touch=True)
    hands.begin("Lathe 1", "lathe with a control")
    hands.new_job("Thole pin", 4)
    say_part(hands)
    make(hands)
    for step in ("part", "method", "stock", "hold"):
        page.goto(f"{page.url.split('/jobs')[0]}/jobs/1/{step}")
        key = page.locator(".dr-do").first
        expect(key).to_be_visible()
        box = key.bounding_box()
        assert box is not None
        assert box["y"] + box["height"] <= 1280, step
        assert page.evaluate("document.scrollingElement.scrollTop") == 0, step
        assert page.evaluate("document.scrollingElement.scrollWidth") <= 800, step
    context.close()
