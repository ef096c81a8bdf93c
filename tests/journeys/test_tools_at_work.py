"""A tool at work: looked into and changed by keys alone; a roller spindle's tools on a hand lathe and a turret lathe, by touch upright."""

import re

from playwright.sync_api import Browser, Page, expect

from tests.journeys.conftest import SLOWEST, Server
from tests.journeys.hands import Hands, tab_to


def test_by_keys_a_speed_is_said_otherwise_tried_before_refused_when_it_is_none_and_taken_back(
    page: Page, demo: Server
) -> None:
    page.goto(f"{demo.address}/jobs/6/tools")
    press = page.keyboard.press
    press("Escape")
    press("ArrowDown")
    press("ArrowDown")
    press("Enter")  # the second tool of the list
    expect(page.locator("h1")).to_have_text("T02 reaches, with 26.0 mm to spare.")
    expect(
        page.get_by_role("img", name=re.compile("T02 rough in its setup, mm: 14 is needed"))
    ).to_be_visible()
    rows = page.get_by_role("list", name="Questions of T02")
    expect(rows.get_by_role("link")).to_have_count(6)
    tab_to(page, "How fast?")
    press("Enter")
    expect(page.locator("h1")).to_contain_text("How fast? 6,643 rev/min.")
    press("f")
    field = page.get_by_label("Speed of the spindle", exact=True)
    expect(field).to_be_focused()
    page.keyboard.type("9000")
    expect(page.locator("#would")).to_contain_text("the machine turns 8,000 rev/min at most")
    press("Control+a")
    page.keyboard.type("fast")
    press("Enter")
    expect(
        page.get_by_text("“fast” is not a count.").or_(page.get_by_text(re.compile("“fast”"))).first
    ).to_be_visible()
    expect(field).to_have_value("fast")  # nothing is lost
    press("Control+a")
    page.keyboard.type("4,500")
    press("Tab")
    page.keyboard.type("sings above")
    press("Enter")
    expect(page.locator("h1")).to_contain_text("How fast? 4,500 rev/min.")
    expect(page.get_by_text("sings above")).to_be_visible()
    press("Escape")
    expect(rows).to_contain_text("How fast? 4,500 rev/min.")
    press("ArrowRight")
    expect(page.locator("h1")).to_contain_text("T03 reaches")
    press("ArrowLeft")
    expect(page.locator("h1")).to_contain_text("T02 reaches")
    press("z")  # the demo as it was
    expect(rows).to_contain_text("How fast? 6,643 rev/min.")
    press("6")
    expect(page.locator("h1")).to_have_text("3:53 a piece.")
    tab_to(page, "Tool sheets")
    press("Enter")
    expect(page.locator("h1")).to_have_text("2 tool sheets.")
    expect(page.get_by_role("table", name="Tools of first side")).to_contain_text("6643")


SPINDLE = ("body Ø25 x 120", "journal: shoulder Ø12 g6 x 30, free end", "end: face, free end", "part off 120")


def test_a_roller_spindle_by_touch_upright_on_belts_and_then_on_a_turret_lathe(
    browser: Browser, empty: Server
) -> None:
    context = browser.new_context(
        viewport={"width": 800, "height": 1280}, has_touch=True, locale="en-GB", timezone_id="UTC"
    )
    page = context.new_page()
    page.set_default_timeout(SLOWEST)
    hands = Hands(page, empty.address, touch=True)
    hands.begin("Hand lathe", "manual lathe")
    hands.another_machine("Turret lathe", "lathe with a control")
    page.goto(f"{empty.address}/shop?machine=1")
    form = page.locator("#machine-form")
    hands.press(form.get_by_text("What it can do, by its manual"))
    form.get_by_label("Speeds of its belts").fill("65 fast")
    hands.press(form.get_by_role("button", name="Save"))
    expect(form.get_by_text("“fast” is no speed.")).to_be_visible()
    form.get_by_label("Speeds of its belts").fill("65 130 330 850 1800")
    form.get_by_label("Power, kW").fill("1.5")
    hands.press(form.get_by_role("button", name="Save"))
    expect(page.get_by_text("Changed Hand lathe.").first).to_be_visible()
    page.goto(f"{empty.address}/shop/drawers/materials")
    hands.press(page.get_by_role("button", name="Add the usual set"))
    expect(page.get_by_role("rowheader", name=re.compile("^mild steel"))).to_be_visible()
    hands.new_job("Roller spindle", 40)
    hands.press(page.get_by_text("turned", exact=True).first)
    line = page.get_by_label(re.compile("as you would say it"))
    for said in SPINDLE:
        line.fill(said)
        hands.press(page.get_by_role("button", name="Add it"))
        expect(line).to_have_value("")
    job = hands.job
    page.goto(f"{job}/part?head=true")
    page.get_by_label("Material", exact=True).fill("mild steel")
    hands.press(page.locator("#heading button.dr-do"))
    hands.step("Hold")
    setup = page.locator("#setup")
    for feature in setup.locator("[name=cuts]").all():
        feature.check()
    hands.setup("complete", "Hand lathe", "chuck", "0:20")
    hands.step("Tools")
    for number, does in (("1", "turn journal"), ("2", "face end"), ("3", "part off")):
        hands.tool(does, "", number=number)
    expect(page.get_by_text("330 rev/min").first).to_be_visible()
    hands.press(page.get_by_role("button", name=re.compile("Take . computed times?")))
    expect(page.locator("#take-times")).to_have_count(0)
    hands.press(page.get_by_role("link", name=re.compile("^T01")))
    expect(page.get_by_role("img", name=re.compile("Speeds on one scale"))).to_be_visible()
    expect(page.get_by_role("list", name="Questions of T01")).to_contain_text("How fast? 330 rev/min.")
    hands.step("Hold")  # the same on the other lathe: no belts, carbide instead of high-speed steel
    hands.press(page.get_by_role("link", name=re.compile("Change complete")))
    page.locator("#setup").get_by_label("Machine").select_option(label="Turret lathe")
    hands.press(page.locator("#setup button.dr-do"))
    hands.step("Tools")
    expect(page.get_by_text("330 rev/min")).to_have_count(0)
    expect(page.get_by_text("1,496 rev/min").first).to_be_visible()
    context.close()


def test_from_lines_to_tools_that_are_proposed_and_taken_by_keys(page: Page, demo: Server) -> None:
    """Features as lines, a setup that cuts them, one key for their tools; what no way holds is said and not made."""
    api = f"{demo.address}/api/v1"
    job = page.request.post(f"{api}/jobs", data={"part": "Gate block", "quantity": 24}).json()["id"]
    lines = "block 60 x 40 x 20\nface top\nbore 12 H7 through, top, 15 from left, 20 from front\nslot 5 ±0.005 x 3 deep, full width, top"
    edits: list[dict[str, object]] = [{"kind": "add_feature_lines", "lines": lines}]
    for version, edit in enumerate(edits, 1):
        assert page.request.post(f"{api}/jobs/{job}/edits", data={"version": version, "edit": edit}).ok
    keys = [one["key"] for one in page.request.get(f"{api}/jobs/{job}").json()["plan"]["features"]]
    setup = {"kind": "set_setup", "name": "first side", "machine_id": 1, "holds": "vise", "cuts": keys[1:]}
    assert page.request.post(f"{api}/jobs/{job}/edits", data={"version": 2, "edit": setup}).ok
    page.goto(f"{demo.address}/jobs/{job}/tools")
    page.get_by_role("link", name="See which are proposed").press("Enter")
    expect(page.locator("h1").first).to_contain_text("2 of 3 features can be made with these tools.")
    expect(page.get_by_text("No way here holds it: ask for wider limits, or have it ground.")).to_be_visible()
    page.keyboard.press("q")
    expect(page.locator("#said")).to_contain_text("The proposed tools are taken.")
    expect(page.get_by_text("makes bore").first).to_be_visible()
    page.keyboard.press("Escape")
    page.keyboard.press("z")
    expect(page.get_by_role("link", name="See which are proposed")).to_be_visible()
