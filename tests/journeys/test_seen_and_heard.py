"""What everybody must be able to see, read and hear: every view, both themes, both sizes."""

import re
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Page, expect

from tests.journeys.conftest import BUSHING, CLAMP, PIN, PLATE, SPACER, SPY, STAYS, Server, ready_run

AXE = (Path(__file__).parents[1] / "vendor/axe.min.js").read_text()
VIEWS = {
    "jobs": "/",
    "archived": "/?archived=true",
    "new job": "/jobs/new",
    "part": f"/jobs/{CLAMP}/part",
    "part, editing": f"/jobs/{CLAMP}/part?edit=2",
    "head": f"/jobs/{SPACER}/part?head=true",
    "hold": f"/jobs/{CLAMP}/hold",
    "hold, question": f"/jobs/{CLAMP}/hold?setup=12&ask=depth",
    "hold, figure": f"/jobs/{CLAMP}/hold?setup=12&ask=grip",
    "hold, sheets": f"/jobs/{CLAMP}/hold/sheets",
    "stock, question": f"/jobs/{PIN}/stock?ask=cuts",
    "place": f"/jobs/{CLAMP}/place",
    "tools": f"/jobs/{CLAMP}/tools",
    "run": f"/jobs/{CLAMP}/run",
    "run, lathe": f"/jobs/{PIN}/run",
    "run, closed": f"/jobs/{PLATE}/run",
    "run, unlike": f"/jobs/{STAYS}/run",
    "run, two machines": f"/jobs/{BUSHING}/run",
    "part, the other": f"/jobs/{STAYS}-2/part",
    "place, together": f"/jobs/{STAYS}/place",
    "close, parts": f"/jobs/{STAYS}/close",
    "run, before": f"/jobs/{SPACER}/run",
    "log": f"/jobs/{CLAMP}/run/log",
    "run, table": f"/jobs/{CLAMP}/run/table",
    "time": f"/jobs/{CLAMP}/run/time",
    "charts": f"/jobs/{PIN}/run/charts",
    "prove": f"/jobs/{CLAMP}/prove",
    "rehearsal": f"/jobs/{SPACER}/prove/rehearse?fault=wear",
    "practice": f"/jobs/{CLAMP}/prove/practise?did=gg",
    "study": "/shop/gauges/1/study",
    "close": f"/jobs/{PLATE}/close",
    "close, customer": f"/jobs/{PLATE}/close/customer",
    "close, tags": f"/jobs/{PLATE}/close/tags?of=all",
    "close, piece": f"/jobs/{PLATE}/close/piece/11",
    "close, batches": f"/jobs/{PLATE}/close/batches",
    "close, fit": f"/jobs/{PLATE}/close/fit",
    "gauging sheet": f"/jobs/{CLAMP}/close/gauging",
    "floor": f"/jobs/{STAYS}/prove/floor?hands=2",
    "closing sheet": f"/jobs/{PLATE}/close/sheet",
    "setups proposed": f"/jobs/{CLAMP}/hold/proposed",
    "first plan": f"/jobs/{CLAMP}/method/proposed",
    "first plan, chosen first": f"/jobs/{SPACER}/method/proposed?learn=true",
    "tools proposed": f"/jobs/{SPACER}/tools/proposed",
    "week": "/week",
    "close, empty": f"/jobs/{SPACER}/close",
    **{f"part, {view}": f"/jobs/{SPACER}/part/{view}" for view in ("missing", "finish", "family", "kit")},
    "thread": f"/jobs/{PIN}/part/thread?sheet=19",
    "profile": f"/jobs/{PIN}/part/profile",
    "measured": f"/jobs/{PIN}/part/stock-sizes",
    "method": f"/jobs/{CLAMP}/method",
    "method, new": f"/jobs/{CLAMP}/method?new=true",
    "method, empty": f"/jobs/{PIN}/method",
    "order": f"/jobs/{CLAMP}/method/order",
    "stock": f"/jobs/{PIN}/stock",
    "cuts": f"/jobs/{PIN}/stock/cuts",
    "ordered": f"/jobs/{PIN}/stock/order",
    "features": f"/jobs/{CLAMP}/part/features",
    "ladder": f"/jobs/{PIN}/hold/ladder",
    "setup sheets": f"/jobs/{CLAMP}/hold/sheet",
    "hold, lathe": f"/jobs/{PIN}/hold",
    "holders": "/shop/drawers/holders",
    "coatings": "/shop/drawers/coatings",
    "place, second": f"/jobs/{CLAMP}/place?setup=20",
    "place, holder": f"/jobs/{CLAMP}/place?holder=10",
    "place, station": f"/jobs/{CLAMP}/place?edit=A",
    "find zero": f"/jobs/{CLAMP}/place/find",
    "probed": f"/jobs/{CLAMP}/place/probe/corner?station=9|A",
    "offsets": f"/jobs/{CLAMP}/place/offsets?code=G59.3",
    "pallets": f"/jobs/{CLAMP}/place/pallets",
    "how many": f"/jobs/{CLAMP}/place/stations",
    "fill": f"/jobs/{CLAMP}/place/fill",
    "files": f"/jobs/{CLAMP}/place/files",
    "layout sheet": f"/jobs/{CLAMP}/place/sheet",
    "rotary": f"/jobs/{CLAMP}/place/rotary",
    "table": "/shop/machines/1/table",
    "register": "/shop/machines/1/offsets",
    "exchange": "/shop/drawers/pallets",
    "holder's body": "/shop/drawers/holders?row=367",
    "shop": "/shop",
    "keys": "/keys",
    "components": "/codes",
    "no such page": "/nowhere",
}
SIZES = {"wide": {"width": 1280, "height": 800}, "tall": {"width": 800, "height": 1280}}
SERIOUS = """async () => (await axe.run(document, {resultTypes: ["violations"]})).violations
  .filter((found) => ["serious", "critical"].includes(found.impact))
  .map((found) => `${found.id}: ${found.help}: ${found.nodes.slice(0, 3).map((node) => node.html.slice(0, 160)).join(" | ")}`)"""
SMALL_TEXT = """() => { const found = new Set();
  const walk = document.createTreeWalker(document.getElementById("app"), NodeFilter.SHOW_TEXT);
  while (walk.nextNode()) { const el = walk.currentNode.parentElement;
    if (!walk.currentNode.textContent.trim() || el.closest(".vh, option, script, [hidden]") || !el.getClientRects().length) continue;
    const svg = el.closest("svg"), scale = svg ? svg.getBoundingClientRect().width / svg.viewBox.baseVal.width : 1;
    const size = parseFloat(getComputedStyle(el).fontSize) * scale;
    if (size < 15.5) found.add(`${el.tagName} ${el.className.baseVal ?? el.className} ${size}: ${el.textContent.slice(0, 40)}`); }
  return [...found]; }"""
OVERFLOW = "() => document.documentElement.scrollWidth - document.documentElement.clientWidth"
SMALL_TARGETS = """() => [...document.querySelectorAll("main a[href], main button, main select, main summary")]
  .filter((el) => el.getClientRects().length && !el.closest("p, td, svg, li") && !el.disabled)
  .map((el) => [el.textContent.trim().slice(0, 30), el.getBoundingClientRect().height])
  .filter(([, height]) => height < 43.5)"""

DEAD_KEYS = """() => { const table = JSON.parse(document.getElementById("key-table").textContent);
  const here = document.getElementById("app").dataset.page;
  return [...document.querySelectorAll("[data-key]")].map((el) => el.dataset.key)
    .filter((key) => !table.some((one) => one.key === key && ["everywhere", here].includes(one.place))); }"""


@pytest.mark.parametrize("size", SIZES)
@pytest.mark.parametrize("theme", ["day", "night"])
def test_every_view_can_be_read(browser: Browser, demo: Server, size: str, theme: str) -> None:
    """axe-core without a serious finding, nothing wider than the screen, no text under 16 px, no small target, no dead key."""
    context = browser.new_context(viewport=SIZES[size], reduced_motion="reduce")
    page = context.new_page()
    found: list[str] = []
    for name, path in VIEWS.items():
        page.goto(f"{demo.address}{path}{'&' if '?' in path else '?'}theme={theme}")
        page.wait_for_load_state("load")
        page.evaluate(AXE)
        found += [f"{name}: {line}" for line in page.evaluate(SERIOUS)]
        found += [f"{name}: small text {line}" for line in page.evaluate(SMALL_TEXT)]
        found += [f"{name}: small target {line}" for line in page.evaluate(SMALL_TARGETS)]
        found += [f"{name}: a key that does nothing, {key}" for key in page.evaluate(DEAD_KEYS)]
        if page.evaluate(OVERFLOW) > 0:
            found.append(f"{name}: wider than the screen by {page.evaluate(OVERFLOW)} px")
    context.close()
    assert not found, "\n".join(found)


@pytest.mark.parametrize("size", [(1280, 800), (800, 1280)])
def test_run_fits_the_tablet_without_scrolling_while_one_types_too(
    page: Page, demo: Server, size: tuple[int, int]
) -> None:
    page.set_viewport_size({"width": size[0], "height": size[1]})
    page.goto(f"{demo.address}/jobs/{CLAMP}/run")
    assert page.evaluate("document.documentElement.scrollHeight") <= size[1]
    page.keyboard.type("977")
    expect(page.locator("#answer")).to_contain_text("Only typed")
    assert page.evaluate("document.documentElement.scrollHeight") <= size[1]


def until(page: Page, script: str) -> None:
    """Wait until a script is true; the page's own policy forbids the browser driver's way of waiting."""
    for _ in range(80):
        if page.evaluate(script):
            return
        page.wait_for_timeout(50)
    raise AssertionError(f"never came: {script}")


def reading(page: Page, text: str) -> None:
    seq = page.locator("#board-top").get_attribute("data-seq") or ""
    page.locator("#rd").fill(text)
    page.keyboard.press("Enter")
    expect(page.locator("#board-top")).not_to_have_attribute("data-seq", seq)


def test_two_tones_and_the_voice(page: Page, demo: Server) -> None:
    """Spied on at the browser's own interfaces: silent at first, the master and the piece, doubled and rough outside."""
    page.add_init_script(SPY)
    job, _ = ready_run(page, demo.address)
    page.goto(f"{demo.address}/jobs/{job}/run")
    reading(page, "20.004")
    assert page.evaluate("heard") == []
    page.keyboard.press("q")
    page.keyboard.press("Shift+Q")
    page.evaluate("heard.length = 0; spoken.length = 0")
    page.keyboard.press("Enter")  # accept the master
    expect(page.locator("#said")).to_have_text("Piece 1 is the master. Gauge the slot on piece 2.")
    assert page.evaluate("heard") == []
    reading(page, "20.017")  # half-way from the master to the upper limit: six semitones
    until(page, "heard.length === 2")
    assert [round(tone[0], 1) for tone in page.evaluate("heard")] == [440, 622.3]
    expect(page.locator("#said")).to_have_text(
        "Slot, piece 2, station B: 20.017 mm. Up 13 microns. 13 microns inside the limit."
        " Load A, B, then start load 2."
    )
    assert page.evaluate("spoken.at(-1)") == page.locator("#said").text_content()
    page.evaluate("heard.length = 0")
    page.keyboard.press("Space")
    expect(page.locator("h1")).to_contain_text("Load 2 is cutting")
    page.keyboard.press("Space")
    expect(page.get_by_role("alert")).to_contain_text("Is it done?")
    page.keyboard.press("Enter")  # on the answer that says so
    expect(page.locator("h1")).to_contain_text("Gauge the slot on piece 3.")
    reading(page, "20.035")
    until(page, "heard.length === 3")
    tones = page.evaluate("heard")
    assert [tone[1] for tone in tones] == ["sine", "sawtooth", "sawtooth"]
    assert "Over the limit by 5 microns. Stop. Held: piece 3." in page.evaluate("spoken.at(-1)")
    page.evaluate("spoken.length = 0")
    page.keyboard.press("s")
    until(page, "spoken.length === 1")
    page.keyboard.press("Shift+S")
    until(page, "spoken.length === 2")
    assert "Gauge the slot on piece 4." in page.evaluate("spoken.at(-1)")


def test_the_strip_is_walked_with_arrow_keys(page: Page, demo: Server) -> None:
    page.goto(f"{demo.address}/jobs/{CLAMP}/run")
    grid = page.locator(".strip-grid:visible")
    assert grid.locator('[tabindex="0"]').count() == 1
    grid.locator('[tabindex="0"]').focus()
    for key in ("ArrowLeft", "ArrowUp", "ArrowUp", "ArrowDown"):
        page.keyboard.press(key)
    name = page.evaluate("document.activeElement.getAttribute('aria-label')")
    assert name.startswith("Piece ")
    assert "station B" in name
    page.keyboard.press("Enter")
    expect(page).to_have_url(
        f"{demo.address}/jobs/{CLAMP}/run?piece={name.split(',')[0].removeprefix('Piece ')}"
    )


def test_enter_on_a_mark_chooses_its_piece_and_presses_no_key_of_the_page(page: Page, demo: Server) -> None:
    page.goto(f"{demo.address}/jobs/{CLAMP}/run")
    page.evaluate(  # as where a first piece waits to be accepted
        """() => { const brass = document.createElement("button"); brass.className = "brass-enter";
        brass.onclick = () => (sessionStorage.pressed = "yes"); document.getElementById("act").append(brass); }"""
    )
    page.locator(".strip-grid:visible [tabindex='0']").focus()
    page.keyboard.press("Enter")
    expect(page).to_have_url(re.compile(r"/run\?piece=\d+$"))
    assert page.evaluate("sessionStorage.pressed") is None


def test_single_letters_can_be_switched_off_and_the_night_comes_by_key(page: Page, demo: Server) -> None:
    page.goto(f"{demo.address}/keys")
    page.keyboard.press("Shift+N")
    expect(page.locator("html")).to_have_attribute("data-theme", "night")
    page.keyboard.press("Shift+N")
    page.get_by_label("Single letters and digits off").check()
    page.locator("main").click(position={"x": 5, "y": 5})
    page.keyboard.press("u")
    page.wait_for_timeout(200)
    assert page.url.endswith("/keys")
    page.get_by_label("Single letters and digits off").uncheck()
    page.locator("h2").first.click()
    page.keyboard.press("u")
    expect(page.locator("h1")).to_have_text("Shop")


@pytest.mark.parametrize("paper", ["A4", "Letter"])
def test_the_report_prints(page: Page, demo: Server, paper: str, tmp_path: Path) -> None:
    """Every piece is on the paper, no navigation is, and nothing is cut off at the side."""
    from pypdf import PdfReader

    page.goto(f"{demo.address}/jobs/{PLATE}/close")
    file = tmp_path / "report.pdf"
    page.pdf(path=str(file), format=paper, print_background=False)
    text = " ".join("\n".join(sheet.extract_text() for sheet in PdfReader(file).pages).split())
    assert "Foot stretcher plate" in text
    assert "Customer tried it in the rail and takes it." in text
    assert "Readings CSV" not in text
    assert all(
        f"{number} load {(number + 1) // 2} at {'AB'[(number + 1) % 2]}" in text for number in range(1, 25)
    )
    page.emulate_media(media="print")
    page.set_viewport_size({"width": 700, "height": 1000})  # the printable width of A4 at 96 px an inch
    wide = page.evaluate(
        "[...document.querySelectorAll('main table')].map((t) => t.getBoundingClientRect().right)"
    )
    pictures = page.evaluate(
        "[...document.querySelectorAll('main svg')].filter((s) => s.getClientRects().length).map((s) => s.getBoundingClientRect().right)"
    )
    assert max(wide + pictures) <= 700
