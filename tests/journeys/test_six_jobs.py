"""Six jobs of unlike kinds, each from an empty shop to its closed batch."""

import re

from playwright.sync_api import Browser, Page, expect

from tests.journeys.conftest import SLOWEST, Server
from tests.journeys.hands import Hands

GO = re.compile("^GO")


def test_thirty_backstay_plates_are_bored_on_a_hand_lathe_without_offsets(page: Page, empty: Server) -> None:
    hands = Hands(page, empty.address)
    hands.begin("Hand lathe", "manual lathe", "inches")
    hands.new_job("Backstay plate", 30)
    hands.size("bore", "1.000 plus .001 minus .000", "critical", understood="limits 1.000 to 1.001 in")
    hands.size("thickness", ".250 ±.005")
    hands.step("Hold")
    hands.setup("bore and face", "Hand lathe", "face plate, locating centre", "1:00")
    hands.step("Place")
    hands.say("Where does the piece sit?")
    hands.station()
    hands.step("Tools")
    hands.tool("bore to the dial", "2:30")
    speaks_of_no_control(page, hands)
    hands.step("Run")
    page.get_by_role("button", name="Start the run of 30 piece").click()
    hands.load(1)
    hands.say("Gauge the bore on piece 1.")
    hands.read("1.0004")
    hands.say("Gauge the thickness on piece 1.")
    hands.read(".2505")
    page.get_by_role("button", name="Accept piece 1").click()
    expect(page.get_by_role("button", name="Accept piece 1")).to_have_count(0)  # the board is drawn anew
    hands.load(2)
    hands.read("1.0009")
    hands.form("Dial", what="cross slide", amount="-.0003")
    hands.read(".251")
    for load in (3, 4):
        hands.load(load)
    expect(page.locator("#counts")).to_contain_text("a piece")
    hands.form("Late", loads="26")
    hands.say("Gauge the bore on piece 30.")
    hands.read("1.0006")
    hands.read(".250")
    page.get_by_role("button", name="Take them").click()
    page.get_by_label("Reason").fill("each bore tried with the plug: it went in")
    page.get_by_role("button", name="Keep").click()
    hands.say("All 30 of 30 are good, 27 of them taken without gauging. Close the batch.")
    hands.close("30 good of 30 wanted.")
    expect(page.get_by_text("30 begun = 30 good (27 taken without gauging).")).to_be_visible()


def speaks_of_no_control(page: Page, hands: Hands) -> None:
    """No page of this job speaks of offsets, a table, wear or a control."""
    for view in (
        "hold",
        "hold/sheet",
        "place",
        "place/find",
        "place/stations",
        "place/sheet",
        "tools",
        "run",
    ):
        page.goto(f"{hands.job}/{view}")
        text = page.locator("#main").inner_text().lower()
        for word in ("offset", "wear", "the table of", "control", "g54"):
            assert word not in text, (view, word)


SETUPS = (
    ("face and centre", "Lathe 1", "three-jaw chuck"),
    ("turn first end", "Lathe 1", "collet, live centre"),
    ("turn second end", "Lathe 1", "collet, live centre"),
    ("mill flat", "Knee mill", "vise, V-block"),
    ("grind journal", "Grinder", "between centres"),
)


def test_roller_spindles_go_through_five_setups_on_three_machines(page: Page, empty: Server) -> None:
    hands = Hands(page, empty.address)
    hands.begin("Lathe 1", "lathe with a control")
    hands.another_machine("Knee mill", "manual mill")
    hands.another_machine("Grinder", "other manual machine")
    hands.new_job("Roller spindle", 8)
    hands.step("Hold")
    for name, machine, holds in SETUPS:
        hands.setup(name, machine, holds, "0:30")
    hands.step("Part")
    hands.size("length", "120 +0.1/0", gauged_in="face and centre")
    hands.size("first journal", "12.3 ±0.05", gauged_in="turn first end")
    hands.size("second journal", "10 h9", gauged_in="turn second end")
    hands.size("flat", "9 -0.1", gauged_in="mill flat")
    hands.size("ground journal", "12 g6", "critical", gauged_in="grind journal")
    for number, (name, _, _) in enumerate(SETUPS):
        hands.step("Place")
        hands.of_setup(name)
        hands.station()
        hands.step("Tools")
        hands.of_setup(name)
        hands.tool(f"{name} it", "2:00", "0:20", "" if number > 2 else str(number + 1))
    hands.step("Run")
    page.get_by_role("button", name="Start the run of 8 piece").click()
    readings = ("120.04", "12.31", "9.98", "8.95", "11.988")
    for number in range(len(SETUPS)):
        manual = number > 2
        expect(
            page.locator(".keys").get_by_role("button", name="Dial" if manual else "Offset")
        ).to_be_visible()
        for piece in range(1, 9):
            hands.load(piece)
            hands.say(f"on piece {piece}.")  # only what this setup makes is asked for
            hands.read(readings[number])
            if piece == 1:
                page.get_by_role("button", name="Accept piece 1").click()
                expect(page.get_by_role("button", name="Accept piece 1")).to_have_count(
                    0
                )  # the board is drawn anew
                hands.say("Load A, then start load 2.")
        if number < 4:
            hands.say(f"Go on with {SETUPS[number + 1][0]}.")
            page.get_by_role("button", name="Go on in the next setup").click()
            page.locator("#small-form").get_by_role("button", name="Keep").click()
            hands.say("Load A, then start load 1.")
    hands.close("8 good of 8 wanted.")
    expect(page.get_by_role("rowheader", name="10 ground journal")).to_contain_text("g6")


def test_a_lifting_eye_is_refused_until_its_records_are_complete(page: Page, empty: Server) -> None:
    hands = Hands(page, empty.address)
    hands.begin("Mill 2", "mill with a control")
    hands.new_job("Lifting eye", 3)
    page.get_by_role("link", name="Head of the job").click()
    page.get_by_label("lifts").check()
    page.locator("#heading button.dr-do").click()
    expect(page.get_by_text("This part lifts: every piece is gauged and recorded in full.")).to_be_visible()
    hands.size("eye", "Ø20 +0.2/0", "critical")
    hands.size("thread", "M12")
    hands.step("Hold")
    hands.setup("bore and tap", "Mill 2", "soft jaws", "0:30")
    hands.step("Place")
    hands.station()
    hands.step("Tools")
    hands.tool("bore the eye", "0:50", number="1")
    hands.step("Run")
    hands.say("Not ready to run yet.")
    expect(page.get_by_text("nobody competent has approved its design")).to_be_visible()
    expect(page.get_by_role("button", name="Start the run")).to_have_count(0)
    hands.step("Part")
    page.get_by_role("link", name="Head of the job").click()
    page.get_by_label("Approved by").fill("the club’s engineer")
    page.locator("#heading button.dr-do").click()
    expect(page.locator("#heading")).to_have_count(0)
    hands.step("Run")
    page.get_by_label("Why the open ones may stand").fill("certificate comes with the second bar")
    page.get_by_role("button", name="Start the run of 3 piece").click()
    hands.load(1)
    hands.read("20.11")
    page.get_by_role("button", name=GO).click()
    page.get_by_role("button", name="Accept piece 1").click()
    expect(page.get_by_role("button", name="Accept piece 1")).to_have_count(0)  # the board is drawn anew
    for piece in (2, 3):
        hands.load(piece)
        hands.read("20.08")
        if piece == 2:
            page.get_by_role("button", name=GO).click()
            hands.say("then start load 3.")
    expect(page.get_by_role("button", name="Take them")).to_have_count(0)  # nothing of it is taken unchecked
    page.goto(f"{hands.job}/close")
    refused(page, "1 piece is missing to 3")
    page.goto(f"{hands.job}/run")
    page.get_by_role("button", name=GO).click()
    hands.say("All 3 of 3 are good. Close the batch.")
    page.get_by_role("link", name="Close the batch").click()
    refused(page, "the heat that pieces 1-3 are of is not recorded")
    page.goto(f"{hands.job}/run")
    hands.form("New bar", what="bar 1", heat="H-31", pieces="1-2")
    page.goto(f"{hands.job}/close")
    refused(page, "the heat that piece 3 is of is not recorded")
    page.goto(f"{hands.job}/run")
    hands.form("New bar", what="bar 2", heat="H-32", pieces="3")
    hands.close("3 good of 3 wanted.")
    expect(page.get_by_text("Material: H-31 for 1-2; H-32 for 3.")).to_be_visible()


def refused(page: Page, why: str) -> None:
    """Press Close the batch; it is refused for this reason, and the batch stays open."""
    page.get_by_role("button", name="Close the batch").click()
    expect(page.get_by_role("alert")).to_contain_text(why)
    expect(page.get_by_text("The batch is open")).to_be_visible()


def test_a_batch_is_closed_short(page: Page, empty: Server) -> None:
    hands = Hands(page, empty.address)
    hands.begin("Mill 2", "mill with a control", "inches")
    hands.new_job("Footstretcher cleat", 6)
    hands.size("slot", ".312 +.002/-.000", "critical")
    hands.step("Hold")
    hands.setup("mill slot", "Mill 2", "two vises", "0:30")
    hands.step("Place")
    hands.station()
    hands.station()
    hands.step("Tools")
    hands.tool("slot", "0:50", number="2")
    hands.step("Run")
    page.get_by_role("button", name="Start the run of 6 piece").click()
    hands.load(1)
    hands.read(".313")
    page.get_by_role("button", name="Accept piece 1").click()
    expect(page.get_by_role("button", name="Accept piece 1")).to_have_count(0)  # the board is drawn anew
    hands.read(".3135")
    hands.load(2)
    hands.read(".3165")
    expect(page.get_by_text("Held: 3")).to_be_visible()
    hands.read(".313")
    page.get_by_role("button", name="Decide on piece 3").click()
    page.locator("#small-form").get_by_text("scrap", exact=True).click()
    page.get_by_label("Reason").fill("slot too wide")
    page.get_by_role("button", name="Keep").click()
    hands.step("Close")
    hands.say("3 good, 3 missing to 6.")
    refused(page, "3 pieces are missing to 6.")
    page.get_by_label("close it short").check()
    page.get_by_role("button", name="Close the batch").click()
    expect(page.get_by_text("The batch is open")).to_have_count(0)
    hands.say("3 good, 3 missing to 6.")
    expect(page.get_by_text("scrap: slot too wide")).to_be_visible()
    hands.step("Run")
    hands.say("This batch is closed.")
    expect(page.get_by_role("button", name="Start load")).to_have_count(0)


def test_fifty_shouldered_pins_by_keyboard_and_ear_with_a_rough_reading(page: Page, empty: Server) -> None:
    """Nothing but keys; what is known of the page is where the focus stands and what is said."""
    keys = Keys(page)
    page.goto(empty.address)
    keys.fill("machine", "Lathe 1")
    keys.choose("kind", "lathe")
    keys.fill("initials", "MK", "Enter")
    keys.hears("Nothing is running.")
    keys.press("n")
    keys.hears("New job.")
    keys.fill("part", "Shouldered pin")
    keys.fill("quantity", "50", "Enter")
    keys.hears("Made the job Shouldered pin. Part. 1 open.")
    keys.sizes()
    keys.fill("name", "shank")
    keys.fill("size", "twelve-ish", "Enter")
    keys.warned("twelve-ish")
    assert keys.at() == "size"
    keys.press("Control+a")
    keys.fill("size", "12 g6")
    keys.choose("grade", "critical", "Enter")
    keys.hears("Added shank")
    keys.fill("name", "shoulder")
    keys.fill("size", "8 ±0.1", "Enter")
    keys.hears("Added shoulder")
    keys.go("4", "Hold.")
    keys.fill("name", "turn the shank")
    keys.pick("machine_id", "Lathe 1")
    keys.fill("holds", "collet", "Enter")
    keys.hears("Added setup turn the shank")
    keys.go("5", "Place.")
    keys.fill("holds", "collet", "Enter")  # label and offset are proposed
    keys.hears("Added station A")
    keys.go("6", "Tools.")
    keys.fill("tool", "1")
    keys.fill("does", "turn")
    keys.fill("cut", "1:10", "Enter")
    keys.hears("Added T01 turn")
    keys.go("8", "Ready to run?")
    keys.press("Space")
    keys.hears("Load A, then start load 1.")
    keys.load(1)
    keys.hears("Gauge the shank on piece 1.")
    keys.fill("text", "12.41")
    keys.press("w")
    keys.status("To be cut again: the reading judges nothing.")
    keys.press("k")  # another key on the way: the number typed is still there after it
    keys.fill("what", "tool post")
    keys.fill("amount", "-.2", "Enter")
    keys.hears("Tool post: −0.2 mm recorded.")
    expect(page.locator("#rd")).to_have_value("12.41")
    keys.press("Enter")
    keys.hears(
        "Shank, piece 1, station A, in mid-cut: 12.410 mm. 422 µm (16.6 thou) over 11.989. To be cut again."
    )
    keys.fill("text", "11.988", "Enter")
    keys.hears("11.988 mm. Near the middle. Gauge the shoulder on piece 1.")
    keys.fill("text", "8.02", "Enter")
    keys.hears("Accept piece 1 as the master?")
    keys.press("Enter")
    keys.hears("Piece 1 is the master. Load A, then start load 2.")
    for load in (2, 3, 4):
        keys.load(load)
        keys.hears(f"Gauge the shank on piece {load}.")
        keys.fill("text", "989", "Enter")
        keys.hears("11.989 mm. Ditto. Gauge the shoulder")
        keys.fill("text", "8.01", "Enter")
        keys.hears(f"Ditto. Load A, then start load {load + 1}.")
    keys.press("z")
    keys.hears("Undone: Shoulder, piece 4")
    keys.press("Shift+Z")
    keys.hears("Redone: Shoulder, piece 4")
    keys.press("t")
    keys.fill("loads", "46", "Enter")
    keys.hears("46 loads written down. Gauge the shank on piece 50.")
    keys.fill("text", "11.990", "Enter")
    keys.fill("text", "8.00", "Enter")
    keys.hears("Gauge the shank on piece 5.")
    keys.to("Take them")
    keys.press("Enter")
    keys.fill("reason", "ring gauge went on each", "Enter")
    keys.hears("All 50 of 50 are good, 45 of them taken without gauging. Close the batch.")
    keys.press("Enter")
    keys.hears("50 good of 50 wanted.")
    keys.to("Close the batch")
    keys.press("Enter")
    expect(page.get_by_text("Closed ")).to_be_visible()


def test_eighteen_collar_nuts_by_touch_on_an_upright_tablet(browser: Browser, empty: Server) -> None:
    context = browser.new_context(
        viewport={"width": 800, "height": 1280}, has_touch=True, locale="en-GB", timezone_id="UTC"
    )
    page = context.new_page()
    page.set_default_timeout(SLOWEST)
    faults: list[str] = []
    page.on("pageerror", lambda error: faults.append(str(error)))
    hands = Hands(page, empty.address, touch=True)
    hands.begin("Lathe 1", "lathe with a control")
    nothing_cut_off(page)
    hands.new_job("Collar nut", 18)
    hands.size("thread", "M10")
    hands.size("collar", "Ø18 0/-0.1", "critical", understood="limits 17.9 to 18.0 mm")
    hands.size("across flats", "17 AF")
    nothing_cut_off(page)
    hands.step("Hold")
    hands.setup("turn, drill, tap", "Lathe 1", "collet", "0:20")
    nothing_cut_off(page)
    hands.step("Place")
    hands.station()
    nothing_cut_off(page)
    hands.step("Tools")
    hands.tool("turn and tap", "1:40", number="1")
    nothing_cut_off(page)
    hands.step("Run")
    # a thread without a feature is a guess of where it is: it may stand with a word
    page.get_by_label("Why the open ones may stand").fill("an inside thread, on the drawing")
    hands.press(page.get_by_role("button", name="Start the run of 18 piece"))
    hands.load(1)
    expect(page.locator("#foot").get_by_text("keep")).to_be_hidden()  # Enter keeps nothing now
    nothing_cut_off(page)
    hands.press(page.get_by_role("button", name=GO))
    expect(page.locator("#foot").get_by_text("keep")).to_be_visible()
    stands = page.locator("#rd").bounding_box()
    by_pad(hands, "17.96", enter=False)
    assert page.locator("#rd").bounding_box() == stands  # what is typed in stays where it is
    nothing_cut_off(page)
    hands.press(page.locator(".dr-pad .dr-do"))
    by_pad(hands, "17")
    hands.press(page.get_by_role("button", name="Accept piece 1"))
    for load in (2, 3):
        hands.load(load)
        hands.press(page.get_by_role("button", name=GO))
        hands.say("Gauge the collar")
        by_pad(hands, "95")
        by_pad(hands, "17")
        nothing_cut_off(page)
    hands.form("Late", loads="15")
    nothing_cut_off(page)
    hands.say("Check the thread on piece 18.")
    hands.press(page.get_by_role("button", name=GO))
    hands.say("Gauge the collar")
    by_pad(hands, "97")
    by_pad(hands, "17")
    hands.press(page.get_by_role("button", name="Take them"))
    nothing_cut_off(page)
    page.get_by_label("Reason").fill("tried on the pin, each one")
    hands.press(page.get_by_role("button", name="Keep"))
    hands.say("All 18 of 18 are good, 14 of them taken without gauging. Close the batch.")
    hands.close("18 good of 18 wanted.")
    nothing_cut_off(page)
    assert faults == []
    context.close()


def by_pad(hands: Hands, digits: str, *, enter: bool = True) -> None:
    """Type a reading with the pad on the screen."""
    for digit in digits:
        hands.press(hands.page.locator(f'.dr-pad [data-digit="{digit}"]'))
    if enter:
        seq = hands.page.locator("#board-top").get_attribute("data-seq")
        hands.press(hands.page.locator(".dr-pad .dr-do"))
        expect(hands.page.locator("#board-top")).not_to_have_attribute("data-seq", seq or "")


def nothing_cut_off(page: Page) -> None:
    """Nothing of the page lies beside the screen, and no line of text is wider than the box it stands in."""
    assert page.evaluate("document.scrollingElement.scrollWidth") <= 800


class Keys:
    """Somebody who only presses keys and listens."""

    def __init__(self, page: Page) -> None:
        self.page, self.press = page, page.keyboard.press

    def at(self) -> str:
        """The name of the field or the words of the key that has the focus."""
        return self.page.evaluate(
            "document.activeElement.name || document.activeElement.textContent.trim() || document.activeElement.tagName"
        )

    def to(self, name: str) -> None:
        """Tab on until the focus stands there."""
        for _ in range(80):
            if self.at().startswith(name):
                return
            self.press("Tab")
        raise AssertionError(f"{name} cannot be reached with Tab from where the page puts the hand")

    def sizes(self) -> None:
        """Go from the part to its sizes."""
        self.to("Sizes")
        self.press("Enter")
        expect(self.page.locator("#characteristic")).to_be_visible()

    def fill(self, name: str, text: str, *then: str) -> None:
        """Go to a field and type; what it held is replaced, as after Tab."""
        self.to(name)
        self.page.keyboard.type(text)
        for key in then:
            self.press(key)

    def choose(self, name: str, value: str, *then: str) -> None:
        """Choose among radio buttons with the arrow keys."""
        self.to(name)
        for _ in range(8):
            if self.page.evaluate("document.activeElement.value") == value:
                break
            self.press("ArrowDown")
        else:
            raise AssertionError(f"{value} cannot be chosen")
        for key in then:
            self.press(key)

    def pick(self, name: str, words: str) -> None:
        """Choose from a list by typing how it begins."""
        self.to(name)
        self.page.keyboard.type(words)
        assert self.page.evaluate("document.activeElement.selectedOptions[0].textContent.trim()") == words

    def go(self, key: str, says: str) -> None:
        """Leave the field and go to another step."""
        self.press("Escape")
        self.press(key)
        self.hears(says)

    def load(self, number: int) -> None:
        """Start a load and end it with the key of the clock; it was far too short, so it is asked about."""
        self.press("Space")
        self.hears(f"Load {number} is cutting")
        self.press("Space")
        self.warned("Is it done?")
        self.press("Enter")

    def status(self, text: str) -> None:
        """Wait until this is announced, though nothing was recorded."""
        expect(self.page.locator("#status")).to_have_text(text)

    def warned(self, text: str) -> None:
        """Wait until this refusal or question is called out."""
        expect(self.page.get_by_role("alert")).to_contain_text(text)

    def hears(self, text: str) -> None:
        """Wait until this is said."""
        expect(self.page.locator("#said")).to_contain_text(text)
