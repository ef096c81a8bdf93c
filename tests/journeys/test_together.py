"""Cut together: two brackets by mouse, both sides by keyboard, two machines by two people, and upright by touch."""

import re

from playwright.sync_api import Browser, Page, expect

from tests.journeys.conftest import Server
from tests.journeys.hands import Hands
from tests.journeys.test_six_jobs import Keys


def cut_together(hands: Hands, name: str, *labels: str, machine: str = "") -> None:
    """Put stations into one cycle on Place."""
    page = hands.page
    if page.locator("#cycles").get_attribute("open") is None:
        hands.press(page.get_by_text("Cut together with one press of start"))
    form = page.locator("#cycle-form")
    form.get_by_label("Cycle", exact=True).fill(name)
    if machine:
        form.get_by_label("On", exact=True).select_option(label=machine)
    for label in labels:
        hands.press(form.locator("label").filter(has_text=re.compile(rf"^\s*{label}\b")))
    hands.press(form.get_by_role("button", name="Cut them together"))


def start(hands: Hands) -> None:
    """Start the run; what is asked may stand."""
    page = hands.page
    hands.step("Run")
    note = page.get_by_label("Why the open ones may stand")
    if note.count():
        note.fill("Known well enough here.")
    hands.press(page.get_by_role("button", name=re.compile("Start the run")))


def brackets(hands: Hands) -> None:
    """Two brackets in two vises, the right one with a tap."""
    page = hands.page
    hands.begin("Mill A", "mill with a control")
    hands.new_job("Stay bracket, left", 2)
    hands.size("depth", "6 ±0.05", "critical")
    hands.step("Hold")
    hands.setup("left side", "Mill A", "vise 1", "30")
    hands.step("Place")
    hands.station()
    hands.step("Tools")
    hands.tool("mill", "60", "10", "3")
    hands.step("Part")
    hands.press(page.get_by_text("Another part made together with it"))
    form = page.locator("#part-form")
    form.get_by_label("Part", exact=True).fill("Stay bracket, left")
    hands.press(form.get_by_role("button", name="Add the part"))
    expect(form.get_by_role("alert").or_(form.locator(".problem"))).to_contain_text("already")
    form.get_by_label("Part", exact=True).fill("Stay bracket, right")
    hands.press(form.get_by_text("Begin with all that is planned for this one"))
    hands.press(form.get_by_role("button", name="Add the part"))
    parts = page.get_by_role("navigation", name="Parts of this job")
    hands.press(parts.get_by_role("link", name="Stay bracket, right: 2"))
    expect(parts.get_by_role("link", name="Stay bracket, right: 2")).to_have_attribute("aria-current", "page")
    hands.step("Tools")
    hands.tool("tap", "30", "10", "8")
    hands.step("Place")
    cut_together(hands, "both brackets", "A left", "A right")
    expect(page.locator("#cycle-form .problem")).to_contain_text("a station A already")
    hands.press(page.get_by_role("link", name="Change station A"))
    hands.station(label="B")
    expect(page.get_by_role("rowheader", name="B", exact=True)).to_be_visible()
    hands.press(page.get_by_role("link", name="Change station B"))
    page.locator("#station [name=offset]").fill("G55")
    hands.press(page.locator("#station button.dr-do"))
    expect(page.get_by_role("cell", name="G55")).to_be_visible()
    cut_together(hands, "both brackets", "A left", "B right")
    expect(page.get_by_role("rowheader", name="both brackets")).to_be_visible()
    expect(page.get_by_role("row", name=re.compile("both brackets"))).to_contain_text(
        "2:50"
    )  # the tap costs at B alone


def run_brackets(hands: Hands) -> None:
    """Run two of each; each piece is asked for its own part's size."""
    page = hands.page
    start(hands)
    hands.say("Load A, B, then start load 1.")
    expect(page.get_by_text("New left in A, new right in B.")).to_be_visible()
    hands.load(1)
    for piece, part in ((1, "left"), (2, "right")):
        hands.say(f"Gauge the depth on piece {piece}.")
        where = f"From station {'AB'[piece - 1]}, load 1, {part}, left side."
        expect(page.locator(".call")).to_contain_text(where)
        hands.read("6.00")
    for piece in (1, 2):
        hands.press(page.get_by_role("button", name=f"Accept piece {piece} as the master"))
        expect(page.get_by_role("button", name=f"Accept piece {piece} as")).to_have_count(0)
    hands.load(2)
    for piece in (3, 4):
        hands.say(f"Gauge the depth on piece {piece}.")
        hands.read("6.01")
    hands.say("All 4 of 4 are good. Close the batch.")
    hands.close("4 good of 4 wanted.")
    for part in ("left", "right"):
        expect(page.get_by_role("row", name=re.compile(rf"^{part} 2 2 0 0$"))).to_be_visible()


def test_two_brackets_with_a_tap_on_one_by_mouse(page: Page, empty: Server) -> None:
    hands = Hands(page, empty.address)
    brackets(hands)
    hands.step("Tools")
    hands.press(page.get_by_role("link", name="Order of visits", exact=True))
    expect(page.get_by_text("proven shortest").first).to_be_visible(timeout=20_000)
    expect(
        page.get_by_role("img", name="T03 at A, B; T08 at B.")
    ).to_be_visible()  # the tap goes to the right one alone
    hands.press(page.get_by_role("button", name=re.compile("Take this order")))
    expect(page.get_by_text("This order is taken.")).to_be_visible()
    run_brackets(hands)


def test_two_brackets_upright_by_touch(browser: Browser, empty: Server) -> None:
    context = browser.new_context(
        viewport={"width": 800, "height": 1280}, has_touch=True, locale="en-GB", timezone_id="UTC"
    )
    page = context.new_page()
    hands = Hands(page, empty.address, touch=True)
    brackets(hands)
    assert page.evaluate("document.scrollingElement.scrollWidth") <= 800
    run_brackets(hands)
    assert page.evaluate("document.scrollingElement.scrollWidth") <= 800
    context.close()


def test_first_and_second_side_in_one_cycle_by_keyboard(page: Page, empty: Server) -> None:
    """By keys and what is said alone: the first loads fill up, the last run empty."""
    Hands(page, empty.address).begin("Mill A", "mill with a control")
    keys = Keys(page)
    page.goto(f"{empty.address}/jobs/new")
    keys.fill("part", "Sill plate")
    keys.fill("quantity", "2", "Enter")
    keys.hears("Made the job")
    keys.sizes()
    for name, size in (("depth", "6 ±0.05"), ("height", "20 ±0.05")):
        keys.fill("name", name)
        keys.fill("size", size, "Enter")
        keys.hears(f"Added {name}")
    keys.go("4", "Hold.")
    for name in ("first side", "second side"):
        if name == "second side":
            keys.press("Escape")
            keys.press("n")
            expect(page.get_by_role("heading", name="Add a setup")).to_be_visible()
        keys.fill("name", name)
        keys.pick("machine_id", "Mill A")
        keys.fill("holds", "vise", "Enter")
        keys.hears(f"Added setup {name}")
    keys.go("1", "Part.")
    for down, name in enumerate(("depth", "height"), 1):
        keys.to(f"{down} {name}")  # a row of the part opens its size
        keys.press("Enter")
        expect(page.get_by_role("heading", name=f"Change {name}")).to_be_visible()
        keys.to("setup")
        for _ in range(down):
            keys.press("ArrowDown")
        keys.to("why")
        keys.press("Enter")
        keys.hears(f"Changed {name}")
    keys.go("5", "Place.")
    keys.fill("label", "A", "Enter")
    keys.hears("Added station A")
    page.get_by_role("link", name="2 second side").focus()
    keys.press("Enter")
    expect(page.get_by_role("link", name="2 second side")).to_have_attribute("aria-current", "true")
    keys.fill("label", "C")
    keys.fill("offset", "G55", "Enter")
    keys.hears("Added station C")
    page.get_by_text("Cut together with one press of start").focus()
    keys.press("Enter")
    keys.fill("name", "both sides")
    for _ in range(2):
        keys.to("seats")
        keys.press("Space")
        keys.press("Tab")
    keys.press("Enter")
    keys.hears("Added cycle both sides")
    keys.go("6", "Tools.")
    keys.fill("tool", "1")
    keys.fill("does", "all")
    keys.fill("cut", "1:00", "Enter")
    keys.hears("Added")
    keys.press("Escape")
    keys.press("8")
    keys.hears("1 open before Run.")
    keys.fill("note", "The rest is known.", "Enter")
    keys.hears("then start load 1")
    keys.load(1)
    keys.hears("Gauge the depth on piece 1")
    keys.fill("text", "6.00", "Enter")
    keys.hears("Accept piece 1")
    keys.press("Enter")
    keys.hears("Load A, C, then start load 2.")
    expect(page.locator(".call")).to_contain_text("Piece 1 from A to C, a new blank in A.")
    keys.load(2)
    for text, said in (("6.01", "Gauge the height on piece 1"), ("20.00", "Accept piece 1")):
        keys.fill("text", text, "Enter")
        keys.hears(said)
    keys.press("Enter")
    keys.hears("Load C, then start load 3.")
    keys.load(3)
    keys.hears("Gauge the height on piece 2")
    keys.fill("text", "20.01", "Enter")
    keys.hears("All 2 of 2 are good. Close the batch.")
    keys.press("Enter")
    keys.hears("2 good of 2 wanted.")
    keys.press("c")
    expect(page.get_by_role("link", name="Begin batch 2")).to_be_visible()
    keys.press("b")
    keys.hears("Ready to run batch 2?")
    keys.press("Space")
    keys.hears("Batch 2 has begun with revision 1. Load A, then start load 1.")


def test_two_lathes_by_two_people_in_two_browsers(browser: Browser, empty: Server) -> None:
    """Each page acts on its own machine, whatever the other one does in between."""
    screen = {"width": 1280, "height": 800}
    ours, theirs = (browser.new_context(locale="en-GB", timezone_id="UTC", viewport=screen) for _ in range(2))
    one = Hands(ours.new_page(), empty.address)
    one.begin("Lathe 1", "lathe with a control")
    one.another_machine("Lathe 2", "lathe with a control", "G54-G59")
    one.new_job("Gate bushing", 4)
    one.size("outside", "16 ±0.05", "critical")
    one.step("Hold")
    one.setup("turn", "Lathe 1", "collet")
    one.step("Place")
    one.station(label="L")
    one.station(label="R")
    one.step("Tools")
    one.tool("turn", "60", "10", "1")
    one.step("Place")
    cut_together(one, "first lathe", "L")
    expect(one.page.get_by_role("rowheader", name="first lathe")).to_be_visible()
    cut_together(one, "second lathe", "R", machine="Lathe 2")
    expect(one.page.get_by_role("rowheader", name="second lathe")).to_be_visible()
    start(one)
    one.say("Load L, then start load 1.")
    two = Hands(theirs.new_page(), empty.address)
    two.page.goto(one.page.url.split("?")[0])
    two.press(two.page.get_by_role("button", name="Setup"))
    two.press(two.page.get_by_text("second lathe", exact=True).last)
    two.press(two.page.locator("#small-form").get_by_text("marked", exact=True))
    two.press(two.page.locator("#small-form").get_by_role("button", name="Keep"))
    two.say("Load R, then start load 1.")
    two.press(two.page.get_by_role("button", name="Start load 1"))
    two.say("Load 1 is cutting: end it when done.")
    one.say("Load L, then start load 1.")  # it was told of it, and is still at its own machine
    expect(one.page.get_by_role("navigation", name="Cycles of this job")).to_contain_text(
        "second lathe, load 1 cutting"
    )
    one.load(1)
    one.say("Gauge the outside on piece 2.")
    two.say("Load 1 is cutting: end it when done.")
    one.read("16.00")
    one.press(one.page.get_by_role("button", name="Accept piece 2 as the master"))
    one.say("Load L, then start load 2.")
    two.press(two.page.get_by_role("button", name="End load 1"))
    two.press(two.page.get_by_role("button", name="Load 1 is done"))
    two.say("Gauge the outside on piece 1.")
    two.read("16.02")
    two.press(two.page.get_by_role("button", name="Accept piece 1 as the master"))
    two.say("Load R, then start load 2.")
    for hands, piece in ((two, 3), (one, 4)):
        hands.load(2)
        hands.say(f"Gauge the outside on piece {piece}.")
        hands.read("16.01")
    one.say("All 4 of 4 are good. Close the batch.")
    ours.close()
    theirs.close()
