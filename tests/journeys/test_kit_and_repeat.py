"""A kit of pins, caps and washers with one kind short; plated pieces gauged after; a batch made again with other jaws. By keys."""

import re

from playwright.sync_api import Page, expect

from tests.journeys.conftest import Server, gauged, ready_run


def add(page: Page, name: str, per_set: str, have: str, source: str, by: str = "") -> None:
    """Add a part of the set with the hands on the keys."""
    page.locator("#f-name").focus()
    page.keyboard.type(name)
    page.locator("#f-per_set").fill(per_set)
    page.locator("#f-have").fill(have)
    page.locator("#kit-form").get_by_text(source, exact=True).click()
    if by:
        page.locator("#f-job_id").select_option(label=by)
    page.locator("#f-name").press("Enter")


def test_a_kit_of_three_kinds_with_one_short_until_the_shelf_has_it(page: Page, demo: Server) -> None:
    job, run = ready_run(page, demo.address, 6)
    gauged(page, demo.address, run, 6)
    page.goto(f"{demo.address}/jobs/{job}/part/kit")
    add(page, "pin", "1", "0", "made here", "this job")
    expect(page.locator("h1").first).to_contain_text("complete")
    add(page, "", "1", "0", "bought")
    expect(page.locator("#kit-form")).to_contain_text("The part has no name.")
    add(page, "cap", "1", "8", "bought")
    expect(page.get_by_role("rowheader", name="cap", exact=True)).to_be_visible()
    add(page, "washer", "2", "7", "bought")
    expect(page.locator("h1").first).to_contain_text("3 of 6 sets are complete.")
    page.goto(f"{demo.address}/jobs/{job}/close")
    expect(page.get_by_role("heading", name="Kit: 3 of 6 sets complete")).to_be_visible()
    short = "washer: 5 short of 12, to be bought."
    expect(page.get_by_text(short).first).to_be_visible()
    page.get_by_role("link", name="Closing sheet").press("Enter")
    expect(page.get_by_text(short)).to_be_visible()
    expect(page.get_by_role("heading", name="Kit, 3 of 6 sets complete")).to_be_visible()
    page.goto(f"{demo.address}/shop/drawers/finished")
    page.locator("#f-part").fill("Washer")
    page.locator("#f-there").fill("5")
    page.locator("#f-part").press("Enter")
    expect(page.get_by_text("Washer").first).to_be_visible()
    page.goto(f"{demo.address}/jobs/{job}/part/kit")
    expect(page.locator("h1").first).to_contain_text("All 6 sets are complete.")
    expect(page.get_by_text("5 on the shelf")).to_be_visible()
    # what goes into the set is tried dry, and its function proved, wrong entries on the way
    page.goto(f"{demo.address}/jobs/{job}/close")
    page.locator("summary", has_text="Write what was tried on what").press("Enter")
    page.locator("#f-fit-p").fill("1-9")
    page.locator("#f-with_what").fill("cap 1")
    page.locator("#f-how").select_option("not")
    page.locator("#f-with_what").press("Enter")
    expect(page.locator("#fit-tried")).to_contain_text("There is no piece 7 yet.")
    page.locator("#f-fit-p").fill("2")
    page.locator("#f-fit-p").press("Enter")
    expect(
        page.get_by_text("2, tried with cap 1: does not go. Find another, or decide on it.")
    ).to_be_visible()
    page.locator("summary", has_text="Prove a function").press("Enter")
    page.locator("#f-fun-p").fill("1")
    page.locator("#f-fun-what").fill("force to turn it")
    page.locator("#f-most").fill("4")
    page.locator("#f-unit").fill("N")
    page.locator("#f-unit").press("Enter")
    expect(page.locator("#function-form")).to_contain_text("The reading is missing.")
    page.locator("#f-reading").fill("3.5")
    page.locator("#f-reading").press("Enter")
    expect(page.locator("#tried")).to_contain_text("3.5 N of 4 or less, works")


def test_pieces_are_gauged_after_the_plater_and_one_is_outside(page: Page, demo: Server) -> None:
    job, run = ready_run(page, demo.address, 6)
    gauged(page, demo.address, run, 6)
    page.goto(f"{demo.address}/jobs/{job}/close")
    page.locator("summary", has_text="Send pieces out").press("Enter")
    page.get_by_label("What is done to them").fill("zinc plate")
    page.get_by_label("Where they go").fill("the plater")
    page.get_by_label("Where they go").press("Enter")
    page.get_by_label("Came back").fill("6")
    page.get_by_label("Came back").press("Enter")
    page.get_by_role("link", name="Packing list and sizes after").press("Enter")
    expect(page.locator("#f-piece")).to_be_focused()
    for piece, value in (("1", "20.013"), ("2", "20.012"), ("3", "20.014"), ("4", "20.04")):
        page.keyboard.type(piece)
        page.keyboard.press("Tab")
        page.keyboard.type("200.13" if piece == "1" else value)
        page.keyboard.press("Enter")
        if piece == "1":
            expect(page.locator("#after-form")).to_contain_text("is far from")
            expect(page.locator("#f-value")).to_be_focused()
            page.locator("#f-value").fill(value)
            page.keyboard.press("Enter")
        expect(page.get_by_role("rowheader", name=piece, exact=True).first).to_be_visible()
        expect(page.locator("#f-piece")).to_be_focused()
    expect(page.locator("#after")).to_contain_text("1 of 4 gauged outside 19.97 to 20.03 mm: 4.")
    expect(page.locator("#after")).to_contain_text("It changed by +")
    page.goto(f"{demo.address}/jobs/{job}/close")
    expect(page.get_by_text("Piece 4 came back outside in slot: decide on it.")).to_be_visible()


def test_the_same_job_again_in_other_jaws_is_proved_again_and_nothing_else(page: Page, demo: Server) -> None:
    job, run = ready_run(page, demo.address, 4)
    gauged(page, demo.address, run, 4)
    page.goto(f"{demo.address}/jobs/{job}/close")
    page.keyboard.press("c")
    expect(page.get_by_text("Nothing is left to do")).to_be_visible()
    page.goto(f"{demo.address}/jobs/{job}/run/again")
    before = page.locator("main").inner_text()
    assert "held in" not in before
    page.goto(f"{demo.address}/jobs/{job}/hold?edit=2")
    page.locator("#f-holds").fill("soft jaws")
    page.locator("#f-holds").press("Enter")
    expect(page.get_by_text(re.compile("soft jaws", re.IGNORECASE)).first).to_be_visible()
    page.goto(f"{demo.address}/jobs/{job}/run/again")
    expect(page.get_by_text("first side held in soft jaws, before vises").first).to_be_visible()
    expect(page.get_by_text("the seat, the push test").first).to_be_visible()
    start = page.get_by_role("button", name=re.compile("Start batch 2"))
    note = page.locator("[name=note]")
    if note.count():
        note.first.fill("Bored for this part.")
    start.press("Enter")
    expect(page.locator("h1").first).to_contain_text("start load 1")
    page.goto(f"{demo.address}/jobs/{job}/prove")
    expect(page.locator("main")).to_contain_text(
        "Piece pushed by hand against an indicator: it does not move."
    )
