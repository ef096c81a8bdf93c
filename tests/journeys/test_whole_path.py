"""One job from the first start to its report, once by mouse and once by keyboard alone."""

from playwright.sync_api import Page, expect

from tests.journeys.conftest import Server

SIZES = ["20.004", "31.502"]


def say(page: Page, text: str) -> None:
    """Wait until the page's first sentence is this."""
    expect(page.locator("h1").first).to_contain_text(text)


def test_by_mouse(page: Page, empty: Server) -> None:
    page.goto(empty.address)
    page.get_by_label("One machine").fill("Mill 2")
    page.get_by_label("Your initials").fill("RK")
    page.get_by_role("button", name="Start").click()
    expect(page.get_by_text("No jobs yet.")).to_be_visible()

    page.get_by_role("link", name="New job").first.click()
    page.get_by_label("Part").fill("Clamp block")
    page.get_by_label("Good pieces wanted").fill("6")
    page.get_by_role("button", name="Make the job").click()
    say(page, "What must come out the same?")

    page.get_by_role("link", name="Sizes", exact=True).click()
    add_size(page, "slot", "banana")
    expect(page.get_by_role("alert")).to_contain_text("cannot be read as a size")
    expect(page.get_by_label("Size", exact=True)).to_have_value("banana")
    expect(page.get_by_label("Size", exact=True)).to_be_focused()
    page.get_by_label("Size", exact=True).fill("20 ±0.03")
    expect(page.locator("#understood")).to_contain_text("limits 19.97 to 20.03 mm")
    page.get_by_label("critical").check()
    page.get_by_role("button", name="Add Enter").click()
    expect(page.get_by_role("row", name="slot")).to_be_visible()
    add_size(page, "height", "31.5 ±0.05")
    say(page, "2 sizes must come out the same.")

    page.get_by_role("link", name="4 Hold").click()
    page.get_by_label("What is done").fill("first side")
    page.get_by_label("Machine").select_option("Mill 2")
    page.get_by_label("What holds it").fill("two vises")
    page.get_by_label("Unload and load").fill("0:45")
    page.get_by_role("button", name="Add Enter").click()
    say(page, "First side, setup 1 of 1.")

    page.get_by_role("link", name="5 Place").click()
    for label, code in (("A", "G54"), ("B", "G54")):
        say(page, "Where does the piece sit?" if label == "A" else "1 station, 1 piece a load.")
        page.get_by_label("Label").fill(label)
        page.get_by_label("Work offset").fill(code)
        page.get_by_role("button", name="Add Enter").click()
    expect(page.get_by_role("alert")).to_contain_text("B and A have the same zero")
    page.get_by_label("Work offset").fill("G55")
    page.get_by_role("button", name="Add Enter").click()
    say(page, "2 stations, 2 pieces a load.")

    page.get_by_role("link", name="6 Tools").click()
    page.get_by_label("T number").fill("3")
    page.get_by_label("What it does").fill("finish slot")
    page.get_by_label("Cuts, each piece").fill("0:41")
    page.get_by_role("button", name="Add Enter").click()
    say(page, "1:26 a piece.")

    page.get_by_role("link", name="8 Run").click()
    page.get_by_role("button", name="Start the run of 6 piece").click()
    say(page, "Load A, B, then start load 1.")
    page.get_by_role("button", name="Start load 1").click()
    say(page, "Load 1 is cutting")
    end_load(page, 1)
    for name, text in zip(("slot", "height"), SIZES, strict=True):
        say(page, f"Gauge the {name} on piece 1.")
        for digit in text:
            page.locator(f'.dr-pad [data-digit="{digit}"]').click()
        page.locator(".dr-pad .dr-do").click()
    say(page, "Accept piece 1 as the master?")
    page.get_by_role("button", name="Accept piece 1").click()
    say(page, "Gauge the slot on piece 2.")
    enter(page, "041")  # over the upper limit
    expect(page.locator(".dev")).to_contain_text("11 µm over the upper limit")
    expect(page.get_by_text("Held: 2")).to_be_visible()
    enter(page, "502")
    say(page, "Decide on piece 2.")
    page.get_by_role("button", name="Decide on piece 2").click()
    page.get_by_label("scrap").check()
    page.get_by_label("Reason").fill("slot too wide")
    page.get_by_role("button", name="Keep").click()
    say(page, "Load A, B, then start load 2.")
    for load in (2, 3, 4):
        page.get_by_role("button", name=f"Start load {load}").click()
        end_load(page, load)
        say(page, "Gauge the slot on piece")
        for _ in range(2 if load < 4 else 1):
            enter(page, "006")
            enter(page, "500")
    say(page, "All 6 of 6 are good. Close the batch.")
    page.get_by_role("link", name="Close the batch").click()
    page.get_by_role("button", name="Close the batch").click()
    say(page, "6 good of 6 wanted.")
    expect(page.get_by_text("scrap: slot too wide")).to_be_visible()
    with page.expect_download() as downloaded:
        page.get_by_role("link", name="Readings CSV").click()
    assert downloaded.value.suggested_filename.endswith(".csv")


def end_load(page: Page, load: int) -> None:
    """End a load by mouse; it is over far too soon here, so it is asked about."""
    page.get_by_role("button", name=f"End load {load}").click()
    expect(page.get_by_role("alert")).to_contain_text("Is it done?")
    page.get_by_role("button", name=f"Load {load} is done").click()


def leave(page: Page) -> None:
    """Leave the field that the page gave the focus to, so that single keys are live."""
    expect(page.locator("[autofocus]").first).to_be_focused()
    page.keyboard.press("Escape")


def add_size(page: Page, name: str, size: str) -> None:
    page.get_by_label("Name", exact=True).fill(name)
    page.get_by_label("Size", exact=True).fill(size)
    page.get_by_role("button", name="Add Enter").click()


def enter(page: Page, text: str) -> None:
    """Type a reading and wait for the answer."""
    seq = page.locator("#board-top").get_attribute("data-seq")
    page.locator("#rd").fill(text)
    page.keyboard.press("Enter")
    expect(page.locator("#board-top")).not_to_have_attribute("data-seq", seq or "")


def test_by_keyboard_alone(page: Page, empty: Server) -> None:
    """Nothing but keys from the first page on; where focus stands is part of what is tested."""
    press = page.keyboard.press
    typed = page.keyboard.type

    def to(name: str) -> None:
        """Tab on until the field of that name has the focus."""
        for _ in range(60):
            if page.evaluate(
                "document.activeElement.name || document.activeElement.textContent.trim()"
            ).startswith(name):
                return
            press("Tab")
        raise AssertionError(f"{name} cannot be reached with Tab")

    page.goto(empty.address)
    to("machine")
    typed("Mill 2")
    to("initials")
    typed("RK")
    press("Enter")
    expect(page.get_by_text("No jobs yet.")).to_be_visible()
    press("n")
    say(page, "New job")
    to("part")
    typed("Pin")
    to("quantity")
    typed("3")
    press("Enter")
    say(page, "What must come out the same?")
    expect(page.get_by_label("The part, as you would say it")).to_be_focused()
    to("Sizes")
    press("Enter")
    expect(page.get_by_label("Name", exact=True)).to_be_focused()
    typed("shank")
    press("Tab")
    typed("1,000 ±0.02")
    press("Enter")
    say(page, "1 size must come out the same.")
    leave(page)
    press("z")
    say(page, "What must come out the same?")
    expect(page.get_by_label("Name", exact=True)).to_be_focused()
    typed("shank")
    press("Tab")
    typed("12 ±0.02")
    press("Tab")
    press("ArrowLeft")  # functional to critical
    press("Enter")
    say(page, "1 size must")
    leave(page)
    press("4")
    say(page, "How is the piece held?")
    typed("turn")
    press("Tab")
    press("ArrowDown")
    press("Tab")
    typed("collet")
    press("Enter")
    say(page, "Turn, setup 1 of 1.")
    press("5")
    say(page, "Where does the piece sit?")
    typed("L")  # in the place of the A that is proposed; so is G54
    press("Enter")
    say(page, "1 station, 1 piece a load.")
    leave(page)
    press("6")
    say(page, "Which tools, in which order?")
    typed("T1 turn 0:30")  # a line for each tool
    press("Tab")
    press("Enter")
    say(page, "0:30 a piece.")
    leave(page)
    press("8")
    say(page, "Ready to run?")
    press("Space")
    say(page, "Load L, then start load 1.")
    for load in (1, 2, 3):
        press("Space")
        say(page, f"Load {load} is cutting")
        press("Space")
        expect(page.get_by_role("alert")).to_contain_text("Is it done?")
        press("Enter")
        say(page, f"Gauge the shank on piece {load}.")
        expect(page.locator("#rd")).to_be_focused()
        typed("12.001" if load == 1 else f"00{load}")
        press("Enter")
        if load == 1:
            say(page, "Accept piece 1 as the master?")
            press("Enter")
    say(page, "All 3 of 3 are good.")
    press("e")
    expect(page.get_by_label("One sentence")).to_be_focused()
    typed("sounded clean")
    press("Enter")
    expect(page.locator("#said")).to_contain_text("Noted about piece 3: sounded clean")
    press("z")
    expect(page.locator("#said")).to_contain_text("Undone: Noted about piece 3: sounded clean")
    press("Shift+Z")
    expect(page.locator("#said")).to_contain_text("Redone: Noted about piece 3: sounded clean")
    press("z")
    expect(page.locator("#said")).to_contain_text("Undone: ")
    press("ArrowLeft")
    press("Enter")
    say(page, "3 good of 3 wanted.")
    to("Close the batch")
    press("Enter")
    expect(page.get_by_text("Closed ")).to_be_visible()
