"""What hands do again and again on the way from an empty shop to a closed batch, by the words on the page."""

import re
from dataclasses import dataclass

from playwright.sync_api import Locator, Page, expect

NAMED = "document.activeElement.getAttribute('aria-label') || document.activeElement.textContent"


def tab_to(page: Page, words: str) -> None:
    """Tab on until the link or key with these words has the focus."""
    for _ in range(90):
        if page.evaluate(NAMED).strip().startswith(words):
            return
        page.keyboard.press("Tab")
    raise AssertionError(f"{words} cannot be reached with Tab")


@dataclass
class Hands:
    """Somebody at one browser, on one job."""

    page: Page
    address: str
    touch: bool = False
    job: str = ""

    def press(self, key: Locator) -> None:
        """Press a key or a choice, by mouse or by finger."""
        if self.touch:
            key.tap()
        else:
            key.click()

    def say(self, text: str) -> None:
        """Wait until the page's first sentence holds this."""
        expect(self.page.locator("h1").first).to_contain_text(text)

    def begin(self, machine: str, kind: str, unit: str = "millimetres", codes: str = "G54-G59") -> None:
        """Answer the questions of the first start."""
        page = self.page
        page.goto(self.address)
        self.press(page.get_by_text(unit, exact=True))
        page.get_by_label("One machine").fill(machine)
        self.press(page.get_by_text(kind, exact=True))
        if "control" in kind:
            page.get_by_label("Its work offsets").fill(codes)
        page.get_by_label("Your initials").fill("MK")
        self.press(page.get_by_role("button", name="Start"))
        expect(page.get_by_text("No jobs yet.")).to_be_visible()

    def another_machine(self, name: str, kind: str, codes: str = "") -> None:
        """Add a machine on Shop."""
        page = self.page
        page.goto(f"{self.address}/shop")
        form = page.locator("#machine-form")
        form.get_by_label("Name").fill(name)
        self.press(form.get_by_text(kind, exact=True))
        form.get_by_label("Work offsets or presets").fill(codes)
        self.press(form.get_by_role("button", name="Add"))
        expect(page.get_by_role("rowheader", name=name, exact=True)).to_be_visible()

    def new_job(self, part: str, quantity: int) -> None:
        """Make a job."""
        page = self.page
        page.goto(f"{self.address}/jobs/new")
        page.get_by_label("Part", exact=True).fill(part)
        page.get_by_label("Good pieces wanted").fill(str(quantity))
        self.press(page.get_by_role("button", name="Make the job"))
        self.say("What must come out the same?")
        self.job = page.url.rsplit("/part", 1)[0]

    def step(self, name: str) -> None:
        """Go to a step by the line at the top."""
        self.press(self.page.get_by_role("navigation").get_by_role("link", name=re.compile(rf"^\d {name}\b")))
        expect(self.page).to_have_url(re.compile(f"/{name.lower()}"))

    def size(self, name: str, size: str, grade: str = "", understood: str = "", gauged_in: str = "") -> None:
        """Add a size; `understood` is what the page must have said of it before it is kept."""
        form = self.page.locator("#characteristic")
        if not form.count():
            self.press(self.page.get_by_role("link", name="Sizes", exact=True))
        form.get_by_label("Name", exact=True).fill(name)
        form.get_by_label("Size", exact=True).fill(size)
        if understood:
            expect(self.page.locator("#understood")).to_contain_text(understood)
        if grade:
            self.press(form.get_by_text(grade, exact=True))
        if gauged_in:
            form.get_by_label("Gauged in").select_option(label=gauged_in)
        self.press(form.locator("button.dr-do"))
        expect(self.row(name)).to_be_visible()

    def row(self, name: str) -> Locator:
        """The row of a table that is headed by this."""
        return self.page.get_by_role("rowheader", name=name, exact=True)

    def setup(self, name: str, machine: str, holds: str, handling: str = "") -> None:
        """Add a setup on Hold."""
        another = self.page.get_by_role("link", name="Another setup")
        if another.count():
            self.press(another)
        form = self.page.locator("#setup")
        form.get_by_label("What is done").fill(name)
        form.get_by_label("Machine").select_option(label=machine)
        form.get_by_label("What holds it").fill(holds)
        form.get_by_label("Unload and load").fill(handling)
        self.press(form.locator("button.dr-do"))
        expect(self.page.get_by_role("navigation", name="Setups")).to_contain_text(name)

    def of_setup(self, name: str) -> None:
        """Choose which setup Place or Tools shows, where there are several."""
        chosen = self.page.get_by_role("main").get_by_role("link", name=re.compile(rf"^\d {name}$"))
        self.press(chosen)
        expect(chosen).to_have_attribute("aria-current", "true")

    def station(self, **entries: str) -> None:
        """Add a station; what is not given stays as the page proposes it."""
        form = self.page.locator("#station")
        for label, text in entries.items():
            form.locator(f"[name={label}]").fill(text)
        name = form.locator("[name=label]").input_value()
        self.press(form.locator("button.dr-do"))
        expect(self.row(name)).to_be_visible()

    def tool(self, does: str, cut: str, change: str = "", number: str = "") -> None:
        """Add a tool step."""
        form = self.page.locator("#tool-step")
        if number:
            form.locator("[name=tool]").fill(number)
        form.get_by_label("What it does").fill(does)
        form.get_by_label("Cuts, each piece").fill(cut)
        form.get_by_label("Change and moves").fill(change)
        self.press(form.locator("button.dr-do"))
        expect(self.page.get_by_role("cell").filter(has_text=does).first).to_be_visible()

    def load(self, number: int) -> None:
        """Start a load and end it; it is over far too soon here, so it is asked about."""
        page = self.page
        self.press(page.get_by_role("button", name=f"Start load {number}"))
        self.press(page.get_by_role("button", name=f"End load {number}"))
        self.press(page.get_by_role("button", name=f"Load {number} is done"))
        expect(page.get_by_role("button", name=f"End load {number}")).to_have_count(0)

    def read(self, text: str) -> None:
        """Type a reading and wait until it is recorded."""
        seq = self.page.locator("#board-top").get_attribute("data-seq")
        self.page.locator("#rd").fill(text)
        self.page.keyboard.press("Enter")
        expect(self.page.locator("#board-top")).not_to_have_attribute("data-seq", seq or "")

    def form(self, key: str, **entries: str) -> None:
        """Open one of Run's small forms by its key's word, fill it and keep it."""
        page = self.page
        self.press(page.locator(".keys").get_by_role("button", name=key))
        form = page.locator("#small-form")
        for name, text in entries.items():
            form.locator(f"[name={name}]").fill(text)
        self.press(form.get_by_role("button", name="Keep"))
        expect(form).to_have_count(0)

    def close(self, says: str) -> None:
        """Close the batch; its report begins with this."""
        self.press(self.page.get_by_role("link", name="Close the batch"))
        self.press(self.page.get_by_role("button", name="Close the batch"))
        expect(self.page.get_by_text("The batch is open")).to_have_count(0)
        self.say(says)
