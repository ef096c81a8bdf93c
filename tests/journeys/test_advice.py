"""What to dial, in the control's own inches, by keys and what is said: a slot that comes out too wide is brought back by the number that is said."""

import re

from playwright.sync_api import Page, expect

from tests.journeys.conftest import Server, ready_job
from tests.journeys.hands import Hands


def test_a_slot_that_is_too_wide_is_dialled_back_by_the_number_that_is_said(page: Page, demo: Server) -> None:
    job = ready_job(page, demo.address, 40)
    hands = Hands(page, demo.address)
    page.goto(f"{demo.address}/jobs/{job}/run")
    note = page.locator("[name=note]")
    if note.count():
        note.first.fill("Known well.")
    page.get_by_role("button", name=re.compile("Start")).first.click()
    hands.say("start load 1")
    advice = page.locator("#advice")
    turned = False
    for load in range(1, 8):
        hands.load(load)
        while not hands_are_free(page, load + 1):
            gauge_or_accept(hands, "20.001" if load == 1 else "20.019")
        turned = advice.get_attribute("data-kind") == "turn"
        if turned:
            break
    assert turned
    expect(advice).to_contain_text(re.compile(r"Add \+0\.\d+ in to the T09 diameter wear"))
    expect(advice).to_contain_text("over its target")
    expect(page.locator("#board-top")).to_have_attribute("data-said", re.compile(r"Add \+0\.\d+ in"))
    page.keyboard.press("y")
    expect(page.locator("#said-shown")).to_contain_text(re.compile(r"wear: \+0\.\d+ in recorded\."))
    expect(advice).not_to_have_attribute("data-kind", "turn")


def hands_are_free(page: Page, load: int) -> bool:
    """True once the page asks for the next load."""
    expect(page.locator("h1").first).to_contain_text(re.compile(f"Gauge|Accept|start load {load}"))
    return f"start load {load}" in page.locator("h1").first.inner_text()


def gauge_or_accept(hands: Hands, size: str) -> None:
    """Do what the page asks before the next load."""
    if "Gauge" in hands.page.locator("h1").first.inner_text():
        hands.read(size)
        return
    seq = hands.page.locator("#board-top").get_attribute("data-seq")
    hands.page.keyboard.press("Enter")  # the first piece is the master
    expect(hands.page.locator("#board-top")).not_to_have_attribute("data-seq", seq or "")
