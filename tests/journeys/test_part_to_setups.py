"""A part said once, feature by feature, and held in its setups: by keyboard, by ear, and by touch on an upright tablet."""

from playwright.sync_api import Browser, Page, expect

from tests.journeys.conftest import Server
from tests.journeys.hands import Hands

CLAMP = (
    "block 60 x 40 x 31.5",
    "top face: face, top",
    "slot 20 ±0.03 x 12 deep x 28 long, R5, in the middle, open right, top",
    "bore 12 H7 through, 16 from left, in the middle, top",
    "bottom face: face, bottom",
    "broken edge 0.3",
)


def begun(page: Page, address: str, part: str, *, touch: bool = False) -> Hands:
    """A new job in the demo shop, on its features."""
    hands = Hands(page, address, touch)
    hands.new_job(part, 24)
    hands.job = page.url.split("/part")[0]
    page.goto(f"{hands.job}/part/features")
    return hands


def said(page: Page, line: str, features: int) -> None:
    """Type a feature; the field has the focus already, and again when it is added."""
    expect(page.locator("#f-line")).to_be_focused()
    page.keyboard.type(line)
    page.keyboard.press("Enter")
    expect(page.locator("table.features tbody tr")).to_have_count(features)


def chosen(page: Page, label: str, word: str) -> None:
    """Choose from a list by typing the word."""
    page.get_by_label(label, exact=True).focus()
    page.keyboard.type(word)


def test_the_clamp_block_from_lines_to_both_setups_without_a_finding_by_keyboard(
    page: Page, demo: Server
) -> None:
    hands = begun(page, demo.address, "Clamp from lines")
    for count, line in enumerate(CLAMP, 1):
        said(page, line, count)
    hands.say("6 features, drawn to scale.")
    expect(page.get_by_text("about 65.4 cm³")).to_be_visible()
    expect(page.get_by_role("img", name="Three views of the part, 60 by 40 by 31.5 mm")).to_be_visible()
    expect(page.locator("table.features tbody tr").nth(3)).to_contain_text("Ø12.000 H7 mm")

    page.goto(f"{hands.job}/stock/blank")  # its sizes are the part's own
    expect(page.locator("#sheet-answer")).to_contain_text("Blank 60.00 mm")
    page.get_by_label("Facing, each end").fill("1.5")
    page.get_by_label("On Ø, or each side").fill("1.5")
    expect(page.locator("#sheet-answer")).to_contain_text("Blank 63.00 mm")
    page.keyboard.press("Enter")
    expect(page.get_by_role("button", name="Forget it: Blank")).to_be_visible()

    page.goto(f"{hands.job}/hold")
    for name, seat, clamp, cuts, parallels in (
        ("first side", "bottom", "front", ("top face", "slot", "bore"), "17"),
        ("second side", "top", "bore", ("bottom face", "outline", "broken edge"), ""),
    ):
        if name == "second side":
            hands.press(page.get_by_role("link", name="Another setup"))
        page.get_by_label("What is done").fill(name)
        chosen(page, "Machine", "Mill 2")
        page.get_by_label("What holds it").fill("Vise 1" if parallels else "pin in the bore")
        chosen(page, "Sits on", seat)
        if seat == "top":
            chosen(page, "Against", "bore")
        chosen(page, "Clamped on", clamp)
        for cut in cuts:
            page.get_by_label(cut, exact=True).focus()
            page.keyboard.press("Space")
        page.get_by_label("Parallels, high").fill(parallels)
        page.keyboard.press("Enter")
        expect(page.locator(".su.on")).to_contain_text(name)
    hands.press(page.get_by_role("link", name="First setup"))
    first = page.get_by_role("img", name="first side from the side, top up, heights in mm above the bed")
    expect(first).to_have_attribute("aria-label", "first side from the side, top up, heights in mm above the bed: raw top 51.5, finished top 50, jaw top 25, seat 17, deepest 12.395, bed 0; cuts top face, slot, bore.")  # fmt: skip
    expect(page.get_by_text("8.000 mm (0.3150 in) gripped, 26.500 mm (1.0433 in) stands up.")).to_be_visible()
    hands.say("First side, setup 1 of 2.")
    expect(
        page.get_by_text("6 features, each made once; every setup has something to sit on.")
    ).to_be_visible()

    page.get_by_role(
        "link", name="Change first side"
    ).focus()  # without parallels the reamer would run into the bed
    page.keyboard.press("Enter")
    page.get_by_label("Parallels, high").fill("as usual")
    page.keyboard.press("Enter")
    expect(page.locator("#setup .problem")).to_contain_text("as usual")
    page.get_by_label("Parallels, high").fill("")
    page.keyboard.press("Enter")
    expect(page.get_by_text("first side: bore goes through and needs 4.605 mm (0.1813 in) below the piece; there is 0.000 mm").first).to_be_visible()  # fmt: skip
    page.keyboard.press("Escape")
    page.keyboard.press("z")
    hands.say("First side, setup 1 of 2.")


def test_a_spindle_with_two_tapped_ends_typed_as_lines_by_ear(page: Page, demo: Server) -> None:
    """By the page's tree alone: roles and names, nothing seen."""
    hands = begun(page, demo.address, "Oar spindle")
    page.get_by_role("radio", name="turned").focus()
    page.keyboard.press("Space")
    page.keyboard.press("Enter")
    expect(page.get_by_text("begin with body Ø20 x 86")).to_be_visible()  # the page of the new form is there
    entry = page.get_by_role("textbox", name="As you would say it")
    expect(entry).to_be_visible()
    lines = (
        ("body Ø20 x 120", "1 feature, drawn to scale."),
        ("shoulder 14 h7 x 30, free end", "2 features, drawn to scale."),
        ("groove 3 wide to Ø12 at 27", "3 features, drawn to scale."),
        ("M8 x 16 deep, both ends", "5 features, drawn to scale."),
    )
    for line, sentence in lines:
        entry.focus()
        page.keyboard.type(line)
        page.keyboard.press("Enter")
        expect(page.get_by_role("heading", level=1)).to_have_text(sentence)
    picture = page.get_by_role(
        "img", name="Half section of the part, 120 long, 20 mm at its largest diameter"
    )
    expect(picture).to_have_attribute("aria-label", "Half section of the part, 120 long, 20 mm at its largest diameter: shoulder, groove, tapped hole, tapped hole, chuck end.")  # fmt: skip
    entry.focus()
    page.keyboard.type("groove 3 wide to Ø12 at wherever")
    expect(page.locator("#understood")).to_contain_text("wherever")  # said while it is typed
    page.keyboard.press("Enter")
    expect(page.locator("#feature-line .problem")).to_contain_text("wherever")
    expect(entry).to_have_value("groove 3 wide to Ø12 at wherever")
    entry.fill("groove 3 wide to Ø12")
    expect(page.locator("#understood")).to_contain_text("Not said yet: where.")
    entry.fill("")

    page.goto(f"{hands.job}/hold")
    page.get_by_role("textbox", name="What is done").fill("first end")
    chosen(page, "Machine", "Lathe 1")
    page.get_by_label("What holds it").fill("three-jaw chuck")
    chosen(page, "Sits on", "chuck end")
    chosen(page, "Clamped on", "chuck end")
    for box in ("body", "shoulder", "groove", "tapped hole"):
        page.get_by_role("checkbox", name=box, exact=True).focus()
        page.keyboard.press("Space")
    page.get_by_role("textbox", name="Gripped").fill("30")
    page.keyboard.press("Enter")
    expect(page.get_by_role("img", name="first end: chuck end held, gripped 30 mm")).to_be_visible()
    expect(page.get_by_text("first end: body runs 30.000 mm (1.1811 in) into the jaws.")).to_have_count(
        0
    )  # nothing is taken off it there
    expect(page.get_by_text("No setup makes tapped hole, chuck end.").first).to_be_visible()


def test_a_supplied_cut_out_plate_located_on_its_hole_by_touch_upright(
    browser: Browser, demo: Server
) -> None:
    context = browser.new_context(viewport={"width": 800, "height": 1280}, has_touch=True, locale="en-GB")
    page = context.new_page()
    hands = begun(page, demo.address, "Cut-out plate", touch=True)
    hands.press(page.get_by_text("Many at once"))
    page.get_by_label("One feature a line").fill(
        "plate 120 x 80 x 8\n"
        "cut-out: hole 22 ±0.5 through, in the middle, top, supplied\n"
        "bore 22.5 H8 through, in the middle, top\n"
        "4x hole 6.6 through, on 90 x 50 centres, in the middle, top"
    )
    hands.press(page.get_by_role("button", name="Add them"))
    hands.say("4 features, drawn to scale.")
    expect(
        page.get_by_text("bore leaves 0.250 mm").first
    ).to_be_visible()  # a side, and the hole comes within 0.5
    hands.press(page.get_by_role("link", name="bore"))
    page.locator("#f-line").fill("bore 24 H8 through, in the middle, top")
    hands.press(page.get_by_role("button", name="Save"))
    expect(page.get_by_text("to clean up")).to_have_count(0)
    expect(page.get_by_text("comes with the blank").first).to_be_visible()
    assert page.evaluate("document.documentElement.scrollWidth") <= 800

    page.goto(f"{hands.job}/hold")
    page.get_by_label("What is done").fill("bore and holes")
    page.get_by_label("What holds it").fill("fixture plate")
    page.get_by_label("Sits on", exact=True).select_option("bottom")
    page.get_by_label("Against", exact=True).select_option("cut-out")
    page.get_by_label("Clamped on", exact=True).select_option("top")
    for cut in ("outline", "bore", "hole"):
        hands.press(page.get_by_label(cut, exact=True))
    hands.press(page.locator("#setup button.dr-do"))
    expect(page.get_by_text("locates on cut-out as it is supplied: its own spread goes into what is measured from it.")).to_be_visible()  # fmt: skip
    page.goto(f"{hands.job}/stock")
    expect(
        page.get_by_text("cut-out comes with the blank; nobody has measured it on arrival.").first
    ).to_be_visible()
    assert page.evaluate("document.documentElement.scrollWidth") <= 800
    context.close()
