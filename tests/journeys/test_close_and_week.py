"""Close and the week: a batch sent out and counted back short by two; a batch closed and begun again by keys alone; the week by keys."""

import re

from playwright.sync_api import Page, expect

from tests.journeys.conftest import STAYS, Server, gauged, ready_run


def test_a_batch_sent_to_plating_is_counted_back_short_by_two_and_asked_about(
    page: Page, demo: Server
) -> None:
    job, run = ready_run(page, demo.address, 6)
    gauged(page, demo.address, run, 6)
    page.goto(f"{demo.address}/jobs/{job}/close")
    expect(page.locator("h1")).to_contain_text("6 good of 6 wanted.")
    page.locator("summary", has_text="Send pieces out").click()
    page.get_by_label("What is done to them").fill("clear anodise")
    page.get_by_label("Where they go").fill("the plater")
    page.get_by_label("Pieces", exact=True).fill("7")
    page.get_by_role("button", name="They go out").click()
    expect(page.locator("#trip-form")).to_contain_text("7 pieces cannot go out")
    expect(page.get_by_label("Where they go")).to_have_value("the plater")
    page.get_by_label("Pieces", exact=True).fill("6")
    page.get_by_role("button", name="They go out").click()
    expect(page.get_by_text("6 pieces not back from the plater.")).to_be_visible()
    page.get_by_label("Came back").fill("4")
    page.get_by_role("button", name="Count them in").click()
    expect(page.get_by_text("2 pieces not back from the plater.")).to_be_visible()
    page.get_by_label("Good pieces here, counted by hand").fill("3")
    page.get_by_role("button", name="Write the count").click()
    expect(page.get_by_text("Counted by hand: 3, 1 fewer than the log says.").first).to_be_visible()
    expect(
        page.get_by_text("2 pieces out for work done elsewhere: more may have gone than was written.")
    ).to_be_visible()
    page.get_by_role("link", name="For the customer").click()
    expect(page.locator("h1")).to_have_text("6 pieces for the customer.")


def test_a_batch_is_closed_by_keys_its_lesson_put_and_the_next_one_begun(page: Page, demo: Server) -> None:
    job, run = ready_run(page, demo.address, 4)
    gauged(page, demo.address, run, 4)
    page.goto(f"{demo.address}/jobs/{job}/close")
    page.keyboard.press("c")
    expect(page.get_by_text("Nothing is left to do")).to_be_visible()
    field = page.get_by_label("In one sentence")
    field.focus()
    page.keyboard.type("both parallels tried by hand")
    page.keyboard.press("Enter")
    expect(page.get_by_text("both parallels tried by hand: the start list")).to_be_visible()
    expect(page.locator("#said")).to_contain_text("It is in its place: the start list.")
    expect(page.get_by_text("Batch 2 starts from this one")).to_be_visible()
    page.keyboard.press("Escape")
    page.keyboard.press("b")
    expect(page.get_by_text("It starts from")).to_be_visible()
    start = page.get_by_role("button", name=re.compile("Start batch 2"))
    note = page.locator("[name=note]")
    if note.count():
        note.first.fill("Known well.")
    start.click()
    expect(page.locator("h1").first).to_contain_text("start load 1")
    page.goto(f"{demo.address}/jobs/{job}/prove")
    expect(page.get_by_text(re.compile("oth parallels tried by hand")).first).to_be_visible()


def test_the_week_is_looked_at_and_moved_by_keys(page: Page, demo: Server) -> None:
    page.goto(demo.address)
    page.keyboard.press("w")
    expect(page.locator("h1")).to_have_text("The week")
    rows = page.locator("tbody tr")
    assert rows.count() > 3
    page.locator("form", has=page.get_by_role("button", name="Later")).first.get_by_role(
        "button", name="Later"
    ).click()
    expect(page.locator("#said")).to_contain_text("The order of the week is kept.")
    with page.expect_response(
        lambda answer: answer.request.method == "POST" and "/week" in answer.url
    ) as moved:
        page.keyboard.press("e")
    assert moved.value.status < 400
    page.goto(f"{demo.address}/week")
    page.get_by_label("Pairs of hands").fill("none")
    page.get_by_role("button", name="Keep").click()
    expect(page.locator("#hands-form")).to_contain_text("is not a whole number")
    page.keyboard.press("Escape")
    page.keyboard.press("0")
    expect(page.locator("h1")).to_have_text("Ditto Run")


def test_after_a_wrong_number_of_hands_the_right_one_is_typed_on_without_looking(
    page: Page, demo: Server
) -> None:
    """The page comes back with the hand in the field: the digit is typed there and is no step."""
    page.goto(f"{demo.address}/jobs/{STAYS}/prove/floor")
    page.locator("#f-hands").focus()
    page.keyboard.type("-2")
    page.keyboard.press("Enter")
    expect(page.locator("#h-hands")).to_contain_text("is not a whole number")
    expect(page.locator("#f-hands")).to_be_focused()
    page.keyboard.type("2")
    page.keyboard.press("Enter")
    expect(page.locator("h1")).to_contain_text("with 2 pairs of hands")
