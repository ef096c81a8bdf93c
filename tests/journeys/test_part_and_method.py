"""Describe the demo's pin and bushing from nothing and choose a way, by keyboard alone; wrong entries on the way."""

import re

from playwright.sync_api import Page, expect

from tests.journeys.conftest import Server


def tab_to(page: Page, selector: str, most: int = 120) -> None:
    """Press Tab until the wanted thing has the focus; fails if it cannot be reached."""
    for _ in range(most):
        if page.evaluate("s => document.activeElement.matches(s)", selector):
            return
        page.keyboard.press("Tab")
    raise AssertionError(f"{selector} cannot be reached by Tab")


def type_into(page: Page, selector: str, text: str) -> None:
    tab_to(page, selector)
    page.keyboard.press("Control+A")
    page.keyboard.type(text)


def add_size(page: Page, name: str, size: str, grade: str = "functional") -> None:
    page.locator("#f-name").wait_for()
    type_into(page, "#f-name", name)
    type_into(page, "#f-size", size)
    tab_to(page, "[name=grade]")
    for _ in range({"critical": 1, "functional": 0, "free": 2}[grade]):
        page.keyboard.press("ArrowLeft" if grade == "critical" else "ArrowRight")
    page.keyboard.press("Enter")
    expect(page.get_by_role("rowheader", name=name)).to_be_visible()


def new_job(page: Page, address: str, part: str, quantity: str) -> None:
    page.goto(address)
    page.keyboard.press("n")
    page.locator("#f-part").wait_for()
    page.keyboard.type(part)
    type_into(page, "#f-quantity", quantity)
    page.keyboard.press("Enter")
    page.locator("#f-line").wait_for()
    tab_to(page, "a[href$='/part/sizes']")
    page.keyboard.press("Enter")
    page.locator("#f-size").wait_for()


def test_pin_and_bushing_from_nothing_to_a_chosen_way(page: Page, demo: Server) -> None:
    new_job(page, demo.address, "Pin and bushing", "60")
    add_size(page, "shank", "11.95 0/-0.04", "critical")
    add_size(page, "bushing bore", "12 H7", "critical")
    add_size(page, "thread", "M10", "critical")
    page.goto(f"{page.url.split('/part')[0]}/part/missing")
    expect(page.get_by_role("rowheader", name="Which class has the thread M10×1.5, thread?")).to_be_visible()
    expect(page.locator("#f-text")).to_have_value(re.compile("1. What is it made of"))

    page.goto(page.url.replace("missing", "thread"))
    page.locator("#f-thread").wait_for()
    page.keyboard.type("M99x")
    expect(page.locator("#sheet-form .problem")).to_contain_text("is no thread we know")
    expect(page.locator("#f-thread")).to_have_value("M99x")
    page.keyboard.press("Control+A")
    page.keyboard.type("M10")
    tab_to(page, "#f-side")
    page.keyboard.press("ArrowDown")
    expect(page.locator("#sheet-answer")).to_contain_text("9.850 mm")
    type_into(page, "#f-name", "gate nut thread")
    page.keyboard.press("Enter")
    expect(page.get_by_role("rowheader", name="gate nut thread")).to_be_visible()

    page.goto(page.url.split("/part")[0] + "/part/fit")
    page.locator("#f-nominal").wait_for()
    page.keyboard.type("12")
    type_into(page, "#f-hole", "12.006")
    type_into(page, "#f-shaft", "11.93")
    expect(page.locator("#sheet-answer")).to_contain_text("76 µm (3 thou) of play")

    page.keyboard.press("Escape")
    page.keyboard.press("2")
    page.locator("#start-form").wait_for()
    tab_to(page, "[name=kinds][value='dial-in']")
    page.keyboard.press("Space")
    tab_to(page, "#start-form summary")
    page.keyboard.press("Enter")
    for kind in ("gang-tools", "sub-spindle"):
        tab_to(page, f"[name=kinds][value='{kind}']")
        page.keyboard.press("Space")
    type_into(page, "#f-labour", "42")
    type_into(page, "#f-machine", "banana")
    page.keyboard.press("Enter")
    expect(page.locator("#start-form .problem")).to_contain_text("is not a sum of money")
    expect(page.locator("#f-labour")).to_have_value("42")
    type_into(page, "#f-machine", "34")
    page.keyboard.press("Enter")
    page.locator("#choose-form").wait_for()
    expect(page.get_by_role("heading", level=1)).to_contain_text("less.")
    expect(page.get_by_role("img", name="Total against quantity, 3 ways")).to_be_visible()
    page.keyboard.press("t")
    expect(page.locator(".by [aria-current]")).to_contain_text("Time")
    tab_to(page, "#choose-form button")
    page.keyboard.press("Enter")
    expect(page.locator("#choose-form .problem")).to_contain_text("The choice has no reason")
    type_into(page, "#f-reason", "The turret is free this week.")
    page.keyboard.press("Enter")
    expect(page.get_by_text(re.compile("^Chosen:"))).to_be_visible()
    expect(page.locator(".dr-line [aria-current] .s")).to_have_text("settled")


def test_a_way_is_tried_while_it_is_typed_and_nothing_is_lost(page: Page, demo: Server) -> None:
    page.goto(f"{demo.address}/jobs/6/method")
    page.get_by_role("link", name="Change eight-up plate").click()
    page.locator("#f-cut").fill("0:10")
    expect(page.locator("#compared .answer-say")).to_be_visible()
    page.locator("#f-cut").fill("-3")
    expect(page.locator("#way-form .problem")).to_contain_text("below zero")
    page.locator("[name=ready_time]").first.fill("9/8/7")
    page.get_by_role("button", name="Save").click()
    expect(page.locator("#way-form .problem")).to_be_visible()
    expect(page.locator("[name=ready_time]").first).to_have_value("9/8/7")
    expect(page.locator("#f-cut")).to_have_value("-3")


def test_questions_are_copied_and_finishes_filled_from_the_shop(page: Page, demo: Server) -> None:
    page.goto(f"{demo.address}/jobs/3/part/missing")
    page.get_by_role("button", name="Copy the text").click()
    expect(page.locator("#copied")).not_to_be_empty()
    page.goto(f"{demo.address}/jobs/3/part/finish")
    page.get_by_role("button", name="hard anodise").click()
    expect(page.locator("#f-film_high")).to_have_value("50 µm")
