"""How many actions it takes from an empty shop to the first judged piece: a click, a key, or a field filled, whatever its length."""

from dataclasses import dataclass

from playwright.sync_api import Locator, Page, expect

from tests.journeys.conftest import Server


@dataclass
class Counted:
    """Hands whose actions are counted."""

    page: Page
    actions: int = 0

    def press(self, role: str, name: str) -> None:
        """Press one key, link or choice of the page."""
        self.actions += 1
        self.page.get_by_role(role, name=name).first.click()  # type: ignore[arg-type]

    def tick(self, words: str) -> None:
        """Choose by its words."""
        self.actions += 1
        self.page.get_by_text(words, exact=True).first.click()

    def fill(self, field: str, text: str, within: str = "main") -> None:
        """Fill one field by its name."""
        self.actions += 1
        self.page.locator(f"{within} [name={field}]").first.fill(text)

    def choose(self, field: Locator, option: str) -> None:
        """Choose one of a list."""
        self.actions += 1
        field.select_option(label=option)

    def key(self, key: str) -> None:
        """Press a command key."""
        self.actions += 1
        self.page.keyboard.press(key)

    def say(self, text: str) -> None:
        """Wait until the page's first sentence holds this; no action."""
        expect(self.page.locator("h1").first).to_contain_text(text)

    def begin(self, address: str, machine: str, kind: str) -> None:
        """Answer the first questions; millimetres and the work offsets are proposed."""
        self.page.goto(address)
        self.fill("machine", machine)
        self.tick(kind)
        self.fill("initials", "MK")
        self.press("button", "Start")
        expect(self.page.get_by_text("No jobs yet.")).to_be_visible()

    def new_job(self, part: str, quantity: int) -> None:
        """Make a job."""
        self.press("link", "New job")
        self.fill("part", part)
        self.fill("quantity", str(quantity))
        self.press("button", "Make the job")
        self.say("What must come out the same?")

    def step(self, name: str) -> None:
        """Go to a step."""
        self.actions += 1
        self.page.get_by_role("navigation", name="Steps of this job").get_by_role("link", name=name).click()
        expect(self.page.locator(f"[aria-current=step]:has-text('{name}')")).to_be_visible()

    def station(self, label: str) -> None:
        """Add the station that is proposed."""
        self.actions += 1
        self.page.locator("#station button.dr-do").click()
        expect(self.page.get_by_role("rowheader", name=label, exact=True)).to_be_visible()

    def lines(self, form: str, text: str, said: str) -> None:
        """Fill the lines of a form and add them."""
        self.fill("lines", text, within=form)
        self.actions += 1
        self.page.locator(f"{form} button").click()
        expect(self.page.locator("#said")).to_contain_text(said)

    def first_piece(self, reading: str, *, timed: bool = True) -> None:
        """Start the run and its first load, end it though it was too short where times are planned, gauge."""
        self.press("button", "Start the run")
        for name in ("Start load 1", "End load 1", *(("Load 1 is done",) if timed else ())):
            self.press("button", name)
        self.say("Gauge")
        self.actions += 2
        self.page.locator("#rd").fill(reading)
        self.page.keyboard.press("Enter")
        expect(self.page.locator("#said")).to_contain_text("piece 1")


def test_a_plate_with_one_hole_on_a_hand_lathe(page: Page, empty: Server) -> None:
    hands = Counted(page)
    hands.begin(empty.address, "Hand lathe", "manual lathe")
    hands.new_job("Backstay plate", 12)
    hands.press("link", "Sizes")
    hands.fill("name", "bore", within="#characteristic")
    hands.fill("size", "25 H8", within="#characteristic")
    hands.key("Enter")
    hands.say("1 size must come out the same.")
    hands.step("Hold")
    hands.fill("name", "bore", within="#setup")
    hands.fill("holds", "face plate", within="#setup")
    hands.key("Enter")
    hands.say("Bore, setup 1 of 1.")
    hands.step("Place")
    hands.station("A")
    hands.step("Tools")
    hands.lines("#tool-lines", "bore to the dial 2:30", "Added 1 tool step")
    hands.step("Run")
    hands.first_piece("25.01")
    assert hands.actions <= 30, hands.actions


def test_a_clamp_block_in_two_setups_and_three_vises(page: Page, empty: Server) -> None:
    hands = Counted(page)
    hands.begin(empty.address, "Mill 2", "mill with a control")
    hands.new_job("Clamp block", 48)
    hands.press("link", "Features")
    hands.actions += 1
    page.locator("summary", has_text="Many at once").click()
    lines = "block 60 x 40 x 31.5\nface 31.5 ±0.05, top\nbore 12 H7 through, 16 from left, in the middle, top\nface, bottom"
    hands.lines("#feature-lines", lines, "Added 4 features")
    hands.step("Hold")
    for name, seat, cuts in (
        ("first side", "bottom", ("face top", "bore")),
        ("second side", "top", ("face bottom", "outline")),
    ):
        if name == "second side":
            hands.press("link", "Another setup")
        hands.fill("name", name, within="#setup")
        hands.fill("holds", "vise", within="#setup")
        hands.choose(page.locator("#f-loc0"), seat)
        hands.choose(page.locator("#f-cl0"), "front")
        for cut in cuts:
            hands.actions += 1
            page.locator("#setup").get_by_label(
                cut.replace("face ", "") + (" face" if "face" in cut else ""), exact=True
            ).check()
        hands.actions += 1
        page.locator("#setup button.dr-do").click()
        expect(page.locator(".su.on")).to_contain_text(name)
    hands.step("Place")
    for label in "ABC":
        hands.station(label)
    hands.press("link", "2 second side")
    expect(page.get_by_role("rowheader", name="A", exact=True)).to_have_count(0)
    hands.station("A")
    hands.step("Tools")
    hands.lines(
        "#tool-lines", "T1 face 0:40 + 0:08\nT2 drill 0:30 + 0:08\nT3 ream 0:20 + 0:08", "Added 3 tool steps"
    )
    hands.press("link", "2 second side")
    expect(page.locator("#tool-lines [name=lines]")).to_be_visible()
    hands.lines("#tool-lines", "T1 face 0:40\nT4 outline 1:10", "Added 2 tool steps")
    hands.step("Run")
    hands.fill("note", "Seen.")
    hands.first_piece("31.52")
    assert hands.actions <= 70, hands.actions


def test_a_clamp_block_by_what_is_proposed(page: Page, empty: Server) -> None:
    """From its lines on in 25 actions: setups and tools are proposed and taken, stations too; a piece is cut and judged."""
    hands = Counted(page)
    hands.begin(empty.address, "Mill 2", "mill with a control")
    hands.new_job("Clamp block", 48)
    hands.actions = 0
    hands.press("link", "Features")
    hands.actions += 1
    page.locator("summary", has_text="Many at once").click()
    lines = "block 60 x 40 x 31.5\nface 31.5 ±0.05, top\nbore 12 H7 through, 16 from left, in the middle, top\nface, bottom"
    hands.lines("#feature-lines", lines, "Added 4 features")
    hands.step("Hold")
    hands.press("link", "See which setups are proposed")
    hands.say("2 setups make all of it.")
    hands.key("q")
    expect(page.locator("#said")).to_contain_text("The proposed setups are taken.")
    hands.step("Place")
    hands.station("A")
    hands.press("link", "2 second side")
    expect(page.get_by_role("rowheader", name="A", exact=True)).to_have_count(0)
    hands.station("A")
    hands.step("Tools")
    hands.press("link", "Proposed")
    hands.say("features, ")
    hands.key("q")
    hands.say("1 feature, 1 tool change for a piece.")  # of the second side, at once
    hands.key("q")
    expect(page.locator("#said")).to_contain_text("The proposed tools are taken.")
    hands.step("Run")
    hands.fill("note", "Seen.")
    hands.first_piece("31.52", timed=False)
    assert hands.actions <= 25, hands.actions


def test_a_clamp_block_by_a_whole_plan(page: Page, empty: Server) -> None:
    """From its lines on in 15 actions: one key takes setups, stations, tools, times and the way; a piece is cut and judged."""
    hands = Counted(page)
    hands.begin(empty.address, "Mill 2", "mill with a control")
    hands.new_job("Clamp block", 48)
    hands.actions = 0
    hands.press("link", "Features")
    hands.actions += 1
    page.locator("summary", has_text="Many at once").click()
    lines = "block 60 x 40 x 31.5\nface 31.5 ±0.05, top\nbore 12 H7 through, 16 from left, in the middle, top\nface, bottom"
    hands.lines("#feature-lines", lines, "Added 4 features")
    hands.step("Method")
    hands.key("q")
    hands.say("no time comes out until Part says the material")
    hands.key("Enter")
    expect(page.locator("#said")).to_contain_text("The proposed plan is taken.")
    hands.step("Run")
    hands.fill("note", "Seen.")
    hands.first_piece("31.52", timed=False)
    assert hands.actions <= 15, hands.actions


def test_a_roller_spindle_of_five_setups(page: Page, empty: Server) -> None:
    hands = Counted(page)
    hands.begin(empty.address, "Lathe 1", "lathe with a control")
    hands.new_job("Roller spindle", 20)
    hands.step("Hold")
    hands.actions += 1
    page.locator("summary", has_text="As lines").click()
    setups = (
        "face and centre; chuck",
        "first end; collet",
        "second end; collet",
        "mill flat; vise",
        "grind; centres",
    )
    hands.lines("#setup-lines", "\n".join(setups), "Added 5 setups")
    hands.step("Part")
    hands.press("link", "Sizes")
    for name, size, gauged in (("length", "86 ±0.05", 1), ("flat", "9 ±0.05", 4), ("journal", "12 h6", 5)):
        hands.fill("name", name, within="#characteristic")
        hands.fill("size", size, within="#characteristic")
        hands.actions += 1
        page.locator("#characteristic [name=setup]").select_option(index=gauged)
        hands.actions += 1
        page.locator("#characteristic button.dr-do").click()
        expect(page.get_by_role("rowheader", name=name, exact=True)).to_be_visible()
    hands.step("Place")
    for number, line in enumerate(setups, 1):
        if number > 1:
            hands.press("link", f"{number} {line.split(';')[0]}")
            expect(page.get_by_role("rowheader", name="A", exact=True)).to_have_count(0)
        hands.station("A")
    hands.step("Tools")
    for number, line in enumerate(setups, 1):
        if number > 1:
            hands.press("link", f"{number} {line.split(';')[0]}")
            expect(
                page.locator(".views.setups [aria-current=true], [aria-current=true]").first
            ).to_be_visible()
        hands.lines("#tool-lines", "T1 rough 1:00\nT2 finish 0:30", "Added 2 tool steps")
    hands.step("Run")
    hands.first_piece("86.00")
    assert hands.actions <= 90, hands.actions
