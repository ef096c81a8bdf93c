"""Part, Method, Stock and Shop by mouse, as somebody would who has never seen them; a wrong entry on each."""

import re
from pathlib import Path

from playwright.sync_api import Page, Route, expect

from tests.journeys.conftest import CLAMP, PIN, SPACER, Server


def make_job(page: Page, address: str, part: str, quantity: str = "6") -> str:
    """Make a job by mouse; return its address."""
    page.goto(f"{address}/jobs/new")
    page.get_by_label("Part", exact=True).fill(part)
    page.get_by_label("Good pieces wanted").fill(quantity)
    page.get_by_role("button", name="Make the job").click()
    page.get_by_role("link", name="Sizes", exact=True).click()
    page.locator("#f-size").wait_for()
    return page.url.split("/part")[0]


def add_size(page: Page, name: str, size: str) -> None:
    page.locator("#f-name").fill(name)
    page.locator("#f-size").fill(size)
    page.get_by_role("button", name="Add", exact=False).first.click()
    expect(page.get_by_role("rowheader", name=name)).to_be_visible()


def test_a_plated_shank_is_machined_thinner_and_run_judges_that(page: Page, demo: Server) -> None:
    job = make_job(page, demo.address, "Plated pin")
    page.get_by_role("link", name="Finish", exact=True).click()
    page.get_by_role("button", name="zinc plate").click()
    page.locator("#f-film_low").fill("50")
    page.get_by_role("button", name="Add").click()
    expect(page.locator("#finish-form .problem")).to_contain_text("least film is above the most")
    expect(page.locator("#f-film_low")).to_have_value("50")
    page.locator("#f-film_low").fill("5")
    page.get_by_role("button", name="Add").click()
    expect(page.get_by_role("rowheader", name="zinc plate")).to_be_visible()
    page.get_by_role("link", name="Sizes", exact=True).first.click()
    page.locator("#f-name").fill("shank")
    page.locator("#f-size").fill("11.95 ±0.03")
    page.get_by_text("critical", exact=True).click()
    page.get_by_text("Finish, mating part, agreements").click()
    page.locator("#f-finish").select_option(label="zinc plate")
    page.locator("#f-face").select_option("outside diameter")
    page.locator("#characteristic button.dr-do").click()
    expect(page.get_by_text("machine to 11.910 to 11.956 mm")).to_be_visible()
    page.goto(f"{job}/part/finish")
    expect(page.get_by_role("cell", name="11.933", exact=True)).to_be_visible()
    page.goto(f"{job}/hold")
    page.locator("#f-name").fill("turn")
    page.locator("#f-machine_id").select_option(label="Lathe 1")
    page.locator("#f-holds").fill("collet")
    page.locator("#setup button.dr-do").click()
    expect(page.locator(".su.on")).to_contain_text("turn")
    key = page.get_by_role("link", name="Change turn").get_attribute("href").rsplit("=", 1)[1]
    version = page.locator("#undo-plan [name=version]").input_value()
    number = int(job.rsplit("/", 1)[1])
    api = f"{demo.address}/api/v1/jobs/{number}"
    for edit in (
        {"kind": "set_station", "setup": int(key), "label": "L", "offset": "G54"},
        {"kind": "set_tool_step", "setup": int(key), "tool": 1, "does": "turn", "cut": "40"},
    ):
        version = page.request.post(f"{api}/edits", data={"version": int(version), "edit": edit}).json()[
            "version"
        ]
    run = page.request.post(f"{api}/run").json()["id"]
    for name in ("start_cycle", "end_cycle"):
        command = {"kind": name} | ({"confirm": "1"} if name == "end_cycle" else {})
        page.request.post(
            f"{demo.address}/api/v1/runs/{run}/commands", data={"client_key": name, "command": command}
        )
    page.goto(f"{job}/run")
    page.locator("#rd").fill("11.960")
    expect(page.locator("#answer")).to_contain_text("over the upper limit")
    page.locator("#rd").fill("11.933")
    expect(page.locator("#answer")).not_to_contain_text("over the upper limit")


def test_what_can_hurt_somebody_is_said_and_asked_for(page: Page, demo: Server) -> None:
    job = make_job(page, demo.address, "Lifting eye")
    page.get_by_role("link", name="The part", exact=True).click()
    page.get_by_role("link", name="Head of the job").click()
    page.get_by_label("lifts").check()
    page.get_by_label("Spares agreed").fill("2")
    page.get_by_label("The customer’s words", exact=True).fill("strong enough for the eight")
    page.locator("#heading button.dr-do").click()
    expect(page.get_by_text("This part lifts: every piece is gauged and recorded in full.")).to_be_visible()
    expect(
        page.get_by_text("A part that lifts has no heat or certificate of its material.", exact=True)
    ).to_be_visible()
    page.get_by_role("link", name="To ask").click()
    expect(page.locator("#f-text")).to_have_value(re.compile("strong enough for the eight"))
    page.get_by_role("link", name="Answer Which heat").click()
    page.get_by_label("Heat, certificate").fill("H-4471")
    page.locator("#heading button.dr-do").click()
    expect(page.locator("#heading")).to_have_count(0)
    page.goto(f"{job}/part/missing")
    expect(page.locator("#f-text")).not_to_have_value(re.compile("heat"))


def test_a_sheet_offers_its_sizes_to_the_part(page: Page, demo: Server) -> None:
    job = make_job(page, demo.address, "Tapped plate")
    page.goto(f"{job}/part/thread")
    page.locator("#f-thread").fill("M6")
    page.locator("#f-percent").fill("140")
    expect(page.locator("#sheet-form .problem")).to_contain_text("outside 1 to 100")
    page.locator("#f-percent").fill("60")
    expect(page.locator("#sheet-answer")).to_contain_text("Drill #5: 60 % of thread.")
    page.get_by_role("button", name="Keep with the job").click()
    page.get_by_role("link", name="Open Thread 1").click()
    page.get_by_role("button", name="Add hole before tapping").click()
    page.get_by_role("link", name="Sizes", exact=True).first.click()
    expect(page.get_by_role("rowheader", name="hole before tapping")).to_be_visible()
    page.get_by_role("button", name=re.compile("Undo")).click()
    expect(page.get_by_role("rowheader", name="hole before tapping")).to_have_count(0)


def test_ways_are_tried_at_other_quantities_added_and_removed(page: Page, demo: Server) -> None:
    page.goto(f"{demo.address}/jobs/{CLAMP}/method")
    say = page.get_by_role("heading", level=1)
    expect(say).to_contain_text("Three vises, then pallet")
    page.get_by_label("Pieces", exact=True).fill("a few")
    page.get_by_role("button", name="Try").click()
    expect(page.locator("#try-form .problem")).to_contain_text("“a few” is not a whole number.")
    expect(page.get_by_label("Pieces", exact=True)).to_have_value("a few")
    expect(page.get_by_label("Pieces", exact=True)).to_be_focused()
    page.get_by_label("Pieces", exact=True).fill("600")
    page.get_by_role("button", name="Try").click()
    expect(say).to_contain_text("Eight-up plate")
    page.get_by_role("link", name="Back to 48").click()
    page.get_by_role("link", name="T Time").click()
    expect(say).to_contain_text(re.compile(r"\d+ (min|h \d\d) less"))
    page.get_by_label("Pieces", exact=True).fill("60")
    page.keyboard.press("Enter")
    expect(page.get_by_role("link", name="Back to 48")).to_be_visible()
    expect(page.get_by_role("link", name="T Time")).to_have_attribute("aria-current", "true")
    page.get_by_role("link", name="Back to 48").click()
    page.get_by_role("link", name="Another way").click()
    page.locator("#f-name").fill("eight-up plate")
    page.locator("#f-cut").fill("1 min")
    page.locator("#way-form button.dr-do").click()
    expect(page.locator("#way-form .problem")).to_contain_text("There is a way eight-up plate already.")
    page.locator("#f-name").fill("wishful")
    expect(page.locator("#compared .answer-say")).to_be_visible()
    page.locator("#way-form button.dr-do").click()
    page.get_by_role("link", name="Change wishful").click()
    page.get_by_role("button", name="Remove this way").click()
    expect(page.get_by_role("link", name="Change wishful")).to_have_count(0)


def test_the_order_of_work_and_the_machine(page: Page, demo: Server) -> None:
    page.goto(f"{demo.address}/jobs/{CLAMP}/method/order")
    page.locator("#f-rows").fill("saw; 50; 10; 5 min; saw\nmill; 2:50; 0:30; 20 min; mill")
    page.locator("#f-lot").fill("1000")
    expect(page.locator("#sheet-form .problem")).to_contain_text("outside 1 to 48")
    page.locator("#f-lot").fill("6")
    expect(page.locator("#sheet-answer")).to_contain_text("Lots of 6")
    page.get_by_role("link", name="All sheets").click()
    page.get_by_role("link", name="Can the machine do it").click()
    page.locator("#f-machine").select_option(label="Old mill")
    page.locator("#f-material").select_option(label="C45")
    page.locator("#f-cutting").select_option("drill")
    for field, text in (("diameter", "25"), ("speed", "25 m/min"), ("feed", "0.3"), ("travel_x", "900")):
        page.locator(f"#f-{field}").fill(text)
    answer = page.locator("#sheet-answer")
    expect(answer).to_contain_text("Drill a pilot of 7.5 mm (0.30 in) first")
    expect(answer).to_contain_text("X travel: 900.0 mm (35.43 in) is wanted")


def test_stock_is_ordered_waited_for_and_taken_in(page: Page, demo: Server) -> None:
    job = make_job(page, demo.address, "Waiting pin")
    page.goto(f"{job}/stock/order")
    page.locator("#f-what").fill("")
    page.get_by_role("button", name="Keep").click()
    expect(page.locator("#order-form .problem")).to_contain_text("Nothing says what is ordered")
    page.locator("#f-what").fill("10 mm bar")
    page.locator("#f-supplier").fill("Quay Metals")
    page.get_by_role("button", name="Keep").click()
    expect(page.get_by_role("heading", level=1)).to_have_text("Waiting for 10 mm bar.")
    page.goto(demo.address)
    expect(page.get_by_text("Waits for 10 mm bar.")).to_be_visible()
    page.goto(f"{job}/stock/order")
    page.get_by_label("It has come").check()
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_role("heading", level=1)).to_have_text("It has come.")


def test_mixed_lengths_are_cut_from_bars_and_offcuts(page: Page, demo: Server) -> None:
    page.goto(f"{demo.address}/jobs/{PIN}/stock/mixed")
    page.locator("#f-rows").fill("700 x 5 strut\n420 x 0 oops")
    page.locator("#f-stock").fill("3000\n1500 x 1 A7 offcut")
    page.locator("#f-kerf").fill("3")
    expect(page.locator("#sheet-form .problem")).to_contain_text("Line 2")
    page.locator("#f-rows").fill("700 x 5 strut\n420 x 2 foot")
    expect(page.locator("#sheet-answer")).to_contain_text("1 new bar", timeout=15_000)
    expect(page.get_by_role("img", name="2 bars to scale with every cut.")).to_be_visible()


def test_a_kit_shows_its_shortage_where_jobs_are_listed(page: Page, demo: Server) -> None:
    page.goto(demo.address)
    expect(page.get_by_text("Kit: gate nut: 4 short of 12, to be bought.")).to_be_visible()
    page.goto(f"{demo.address}/jobs/{SPACER}/part/kit")
    page.get_by_role("link", name="Change gate nut").click()
    page.locator("#f-have").fill("12")
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_role("heading", name="Change gate nut")).to_have_count(0)
    page.goto(demo.address)
    expect(page.get_by_text("gate nut: 4 short")).to_have_count(0)


def test_drawers_come_in_and_go_out_as_tables(page: Page, demo: Server, tmp_path: Path) -> None:
    page.goto(f"{demo.address}/shop")
    page.get_by_role("link", name="Reamers").click()
    page.locator("#f-name").fill("banana")
    page.get_by_role("button", name="Add Enter").click()
    expect(page.locator("#drawer-form .problem")).to_be_visible()
    expect(page.locator("#f-name")).to_have_value("banana")
    table = tmp_path / "reamers.csv"
    table.write_text("name,cuts\n9 mm,9.004\n9.5 mm,oops\n")
    page.locator("#f-file").set_input_files(table)
    page.get_by_role("button", name="Bring in", exact=True).click()
    expect(page.locator("#drawer-csv .problem")).to_contain_text("Row 2, cuts")
    table.write_text("name,cuts\n9 mm,9.004\n")
    page.locator("#f-file").set_input_files(table)
    page.get_by_role("button", name="Bring in", exact=True).click()
    expect(page.get_by_role("rowheader", name="9 mm", exact=True)).to_be_visible()
    with page.expect_download() as download:
        page.get_by_role("link", name="Take out as CSV").click()
    assert "9 mm,9.004" in Path(download.value.path()).read_text()


def test_siblings_are_made_from_a_job(page: Page, demo: Server) -> None:
    job = make_job(page, demo.address, "Pin 12")
    add_size(page, "shank", "11.95 ±0.02")
    page.goto(f"{job}/part/family")
    page.locator("#f-siblings").fill("Pin 10; 40; shaft = 9.95 ±0.02")
    page.get_by_role("button", name="Make them").click()
    expect(page.locator("#family-form .problem")).to_contain_text("no size called “shaft”")
    page.locator("#f-siblings").fill("Pin 10; 40; shank = 9.95 ±0.02\nPin 14; 20; shank = 13.95 ±0.02")
    page.get_by_role("button", name="Make them").click()
    expect(page.get_by_role("heading", level=1)).to_have_text("2 siblings of Pin 12.")
    expect(page.get_by_role("cell", name="9.95 ±0.02 mm")).to_be_visible()


def test_the_open_list_is_walked_with_arrows_and_left_with_enter_for_the_step_of_the_chosen_thing(
    page: Page, demo: Server
) -> None:
    page.goto(f"{demo.address}/jobs/{SPACER}/part")
    page.keyboard.press("Escape")
    page.keyboard.press("a")
    chosen = page.locator("[data-row][aria-current]")
    expect(chosen).to_contain_text("turn and part has no station.")
    page.keyboard.press("ArrowDown")
    expect(chosen).to_contain_text("diameter is critical")
    page.keyboard.press("Enter")
    expect(page).to_have_url(re.compile(f"/jobs/{SPACER}/part$"))


def test_a_key_pressed_before_the_scripts_are_there_is_not_lost(page: Page, demo: Server) -> None:
    held: list[Route] = []
    page.route("**/keys.js", lambda route: held.append(route))  # noqa: PLW0108 - it looks at the hands of a function
    page.goto(f"{demo.address}/jobs/{SPACER}/close", wait_until="commit")
    page.wait_for_function("() => window.dittoEarly && document.getElementById('foot')")
    page.keyboard.press("a")
    for route in held:
        route.continue_()
    expect(page).to_have_url(re.compile(f"/jobs/{SPACER}/open$"))


def test_what_was_typed_is_back_after_a_look_at_shop_and_what_was_sent_is_not(
    page: Page, demo: Server
) -> None:
    job = make_job(page, demo.address, "Kept entry")
    page.locator("#f-name").fill("slot")
    page.locator("#f-size").fill("20 ±0.03")
    page.get_by_text("critical", exact=True).click()
    page.goto(f"{demo.address}/shop")
    page.goto(f"{job}/part/sizes")
    expect(page.locator("#said-shown")).to_have_text("What you had typed here is back.")
    expect(page.locator("#f-size")).to_have_value("20 ±0.03")
    expect(page.get_by_label("critical")).to_be_checked()
    page.locator("#characteristic button.dr-do").click()
    expect(page.get_by_role("rowheader", name="slot")).to_be_visible()
    page.goto(f"{demo.address}/shop")
    page.locator("#f-money").fill("€")
    page.locator("#money-form button").click()  # a form the browser sends itself
    page.wait_for_load_state()
    page.goto(f"{job}/part/sizes")
    expect(page.locator("#f-size")).to_have_value("")
    page.goto(f"{demo.address}/shop")
    expect(page.locator("#f-money")).to_have_value("€")
    expect(page.locator("#said-shown")).to_have_text("Shop.")
    page.locator("#f-money").fill("")
    page.locator("#money-form button").click()
