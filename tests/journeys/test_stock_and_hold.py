"""The demo's pin from bar to printed setup sheets, and the clamp block's two setups, by keyboard; wrong entries on the way."""

from playwright.sync_api import Page, expect

from tests.journeys.conftest import Server
from tests.journeys.test_part_and_method import new_job, tab_to, type_into


def tick(page: Page, selector: str) -> None:
    tab_to(page, selector)
    page.keyboard.press("Space")


def choose(page: Page, selector: str, word: str) -> None:
    """Choose an option of a list by typing its first letters."""
    tab_to(page, selector)
    page.keyboard.type(word)
    expect(page.locator(f"{selector} option:checked")).to_have_text(word)


def add_feature(page: Page, name: str, kind: str, face: str, *refers: str) -> None:
    tab_to(page, "#by-name summary")
    page.keyboard.press("Enter")
    page.locator("#feature-form #f-name").wait_for()
    type_into(page, "#f-name", name)
    choose(page, "#f-feature_kind", kind)
    choose(page, "#f-face", face)
    for refer in refers:
        tick(page, f"[name=refers][value='{refer}']")
    tab_to(page, "#feature-form button")
    page.keyboard.press("Enter")
    expect(page.get_by_role("rowheader", name=name)).to_be_visible()


def add_line(page: Page, line: str, name: str) -> None:
    """Say a feature in one line and add it; the field has the focus when the page opens."""
    expect(page.locator("#f-line")).to_be_focused()
    page.keyboard.type(line)
    page.keyboard.press("Enter")
    expect(page.get_by_role("rowheader", name=name).first).to_be_visible()


def save(page: Page, form: str) -> None:
    tab_to(page, f"{form} button.dr-do")
    page.keyboard.press("Enter")


def test_the_pin_from_bar_to_setup_sheets(page: Page, demo: Server) -> None:
    new_job(page, demo.address, "Gate pin", "60")
    job = page.url.split("/part")[0]
    page.keyboard.press("Escape")
    page.keyboard.press("3")
    page.get_by_role("link", name="Describe the blank Enter").wait_for()
    tab_to(page, "a.dr-do")
    page.keyboard.press("Enter")
    page.locator("#f-length").wait_for()
    type_into(page, "#f-length", "0")
    expect(page.locator("#sheet-form .problem")).to_contain_text("above zero")
    type_into(page, "#f-length", "86")
    type_into(page, "#f-across", "12")
    type_into(page, "#f-facing", "1")
    expect(page.locator("#sheet-answer")).to_contain_text("88.00 mm")
    page.keyboard.press("Enter")
    expect(page.get_by_role("button", name="Forget it: Blank")).to_be_visible()

    page.goto(f"{job}/stock/starts")
    type_into(page, "#f-scrap", "5")
    expect(page.locator("#sheet-answer")).to_contain_text("Start 66")
    page.keyboard.press("Enter")
    expect(page.get_by_role("button", name="Forget it: How many to start")).to_be_visible()

    page.goto(f"{job}/stock/cuts")
    type_into(page, "#f-bar", "3000")
    type_into(page, "#f-kerf", "300")
    expect(page.locator("#sheet-form .problem")).to_contain_text("longer than the piece")
    expect(page.locator("#f-bar")).to_have_value("3000")
    type_into(page, "#f-kerf", "2.5")
    type_into(page, "#f-remnant", "60")
    expect(page.locator("#sheet-answer")).to_contain_text("3 bars for 66 pieces: 32 a bar.")
    expect(page.get_by_role("img", name="One bar to scale")).to_be_visible()
    save(page, "#sheet-form")
    expect(page.get_by_role("button", name="Forget it: Bars and cuts")).to_be_visible()

    page.goto(f"{job}/part/features")
    tick(page, "[name=part_form][value=block]")
    page.keyboard.press("ArrowRight")
    save_form = "#form-form button"
    tab_to(page, save_form)
    page.keyboard.press("Enter")
    expect(page.get_by_text("begin with body Ø20 x 86")).to_be_visible()
    add_feature(page, "end", "face", "free end")
    add_feature(page, "shank", "turned", "outside", "free end")
    add_feature(page, "part off", "cut off", "bar")
    page.goto(f"{job}/hold")
    type_into(page, "#f-name", "complete")
    choose(page, "#f-machine_id", "Lathe 1")
    type_into(page, "#f-holds", "12 mm collet")
    choose(page, "#f-loc0", "shank")
    choose(page, "#f-cl0", "bar")
    for cut in range(3):
        page.locator("[name=cuts]").nth(cut).focus()
        page.keyboard.press("Space")
    save(page, "#setup")
    expect(
        page.get_by_text("complete locates on shank, which is not made by then.", exact=True)
    ).to_be_visible()
    page.get_by_role("link", name="Change complete").focus()
    page.keyboard.press("Enter")
    expect(page.locator("#f-name")).to_have_value("complete")
    choose(page, "#f-loc0", "bar")
    save(page, "#setup")
    expect(page.get_by_role("heading", level=1)).to_have_text("1 thing to look at.")
    expect(
        page.get_by_text("The bar sticks out 90.5 mm (3.56 in), 7.5 × its diameter.").first
    ).to_be_visible()
    expect(page.locator(".qs")).to_contain_text("Where does the blade stand? First cut at 90.500 mm")
    expect(page.get_by_role("img", name="complete: sits on bar")).to_be_visible()

    page.goto(f"{job}/hold/ladder")
    type_into(page, "#f-count", "1")
    expect(page.locator("#sheet-answer")).to_contain_text("First cut at 90.500 mm")
    page.goto(f"{job}/hold/sheet")
    expect(page.get_by_role("heading", name="1 complete")).to_be_visible()
    page.emulate_media(media="print")
    expect(page.locator(".views")).to_be_hidden()
    assert len(page.pdf(format="A4")) > 5000


def test_the_clamp_block_in_two_setups(page: Page, demo: Server) -> None:
    new_job(page, demo.address, "Clamp block again", "12")
    job = page.url.split("/part")[0]
    page.goto(f"{job}/part/features")
    add_line(page, "face top", "top face")
    expect(page.locator("#f-line")).to_be_focused()
    page.keyboard.type("bore 12 H7 wibble")
    expect(page.locator("#understood")).to_contain_text("“wibble” is no word we know")
    page.keyboard.press("Enter")
    expect(page.locator("#feature-line .problem")).to_contain_text("wibble")
    expect(page.locator("#f-line")).to_have_value("bore 12 H7 wibble")
    page.keyboard.press("Control+a")
    page.keyboard.type("bore 12 H7 x 20 deep, top")
    expect(page.locator("#understood")).to_contain_text("limits 12.000 to 12.018 mm diameter")
    expect(page.locator("#understood")).to_contain_text("Not said yet: where.")
    page.keyboard.press("Enter")
    expect(page.get_by_role("rowheader", name="bore")).to_contain_text("Not said yet: where.")
    add_line(page, "face bottom", "bottom face")
    page.goto(f"{job}/part/sizes")
    expect(page.get_by_role("rowheader", name="bore")).to_be_visible()
    page.goto(f"{job}/hold")
    for name, seat, cuts in (("first side", "bottom", (0, 1)), ("second side", "back", (2,))):
        if name == "second side":
            page.keyboard.press("Escape")
            page.keyboard.press("n")
            expect(page.get_by_role("heading", name="Add a setup")).to_be_visible()
        type_into(page, "#f-name", name)
        choose(page, "#f-machine_id", "Mill 2")
        type_into(page, "#f-holds", "vise")
        choose(page, "#f-loc0", seat)
        choose(page, "#f-cl0", "front")
        for cut in cuts:
            page.locator("[name=cuts]").nth(cut).focus()
            page.keyboard.press("Space")
        save(page, "#setup")
        expect(page.locator(".su.on")).to_contain_text(name)
    raw = page.get_by_text("second side locates on back, which is still raw.")
    expect(raw.first).to_be_visible()
    page.locator("summary", has_text="Override with a note").first.focus()
    page.keyboard.press("Enter")
    page.get_by_role("button", name="Override with this note").first.focus()
    page.keyboard.press("Enter")
    expect(page.locator(".override .problem")).to_contain_text("wants a note")
    page.locator(".override [name=note]").first.fill("The sawn face is ground.")
    page.keyboard.press("Enter")
    expect(page.get_by_text("1 overridden with a note")).to_be_visible()
    tab_to(page, "button[aria-label='Move second side earlier']", 200)
    page.keyboard.press("Enter")
    expect(page.locator(".su").first).to_contain_text("second side")
    page.keyboard.press("Escape")
    page.keyboard.press("z")
    expect(page.locator(".su").first).to_contain_text("first side")
