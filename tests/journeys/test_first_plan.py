"""A first plan by keys and ear: a roller spindle on a hand lathe and on a turret lathe, and a plan that is there compared."""

import re

from playwright.sync_api import Page, expect

from tests.journeys.conftest import Server
from tests.journeys.hands import Hands, tab_to
from tests.journeys.test_six_jobs import Keys

SPINDLE = (
    "body 16 x 60",
    "face, free end",
    "shoulder 10 ±0.05 x 12, free end",
    "groove 3 wide to Ø12 at 30",
    "shoulder 10 ±0.05 x 12, chuck end",
)
BLOCK = ("block 60 x 40 x 30", "face, top", "bore 12 H7 through, in the middle, top", "face, bottom")


def describe(page: Page, keys: Keys, address: str, part: str, lines: tuple[str, ...]) -> None:
    """Make a job and describe its features, a line each."""
    page.goto(f"{address}/jobs/new")
    keys.fill("part", part)
    keys.fill("quantity", "60")
    keys.fill("material", "6061-T6", "Enter")
    keys.hears("Made the job")
    for line in lines:
        keys.fill("line", line, "Enter")
        keys.hears("Feature")
        expect(page.locator("[name=line]").first).to_have_value("")


def test_a_roller_spindle_on_a_hand_lathe_or_a_turret_lathe_by_keys(page: Page, empty: Server) -> None:
    hands = Hands(page, empty.address)
    hands.begin("Hand lathe", "manual lathe")
    hands.another_machine("Turret lathe", "lathe with a control")
    keys = Keys(page)
    describe(page, keys, empty.address, "Roller spindle", SPINDLE)
    keys.go("2", "Method.")
    keys.press("q")
    keys.hears("Thorough, chosen:")
    expect(page.locator("h1")).to_contain_text("quick cuts its first piece")
    keys.hears("How many setups? 2 setups: free end, then chuck end.")
    tab_to(page, "Which lathe?")
    keys.press("Enter")
    keys.hears("Turret lathe. Its control cuts while the hands gauge and deburr.")
    expect(page.get_by_role("list", name="Turned down")).to_contain_text("Hand lathe")
    keys.press("ArrowLeft")
    keys.hears("Quick, chosen:")
    expect(page.get_by_role("img", name=re.compile("^1 first side: 1 station"))).to_have_count(2)
    page.goto(f"{page.url}&with=lathe:99")  # a wrong address is a sentence, and nothing is lost
    expect(page.get_by_role("alert")).to_contain_text("Choose one of those that are shown.")
    keys.press("Enter")
    keys.hears("The proposed plan is taken.")
    keys.go("4", "Hold.")
    expect(page.get_by_role("main")).to_contain_text("Hand lathe")
    keys.go("2", "Method.")
    keys.press("z")
    expect(page.get_by_role("link", name="A first plan, proposed")).to_be_visible()
    keys.press("q")
    keys.hears("Thorough, chosen:")
    keys.press("Enter")
    keys.hears("The proposed plan is taken.")
    keys.go("4", "Hold.")
    expect(page.get_by_role("main")).to_contain_text("Turret lathe")
    keys.go("6", "Tools.")
    expect(page.get_by_role("cell").filter(has_text="groove").first).to_be_visible()


def test_a_plan_that_is_there_is_compared_by_ear(page: Page, empty: Server) -> None:
    Hands(page, empty.address).begin("Mill 2", "mill with a control")
    keys = Keys(page)
    describe(page, keys, empty.address, "Keeper", BLOCK)
    job = page.url.rsplit("/part", 1)[0]
    hands = Hands(page, empty.address)
    for name in ("top face", "bore", "second side"):
        page.goto(f"{job}/hold")
        hands.setup(name, "Mill 2", "vise")
    api = f"{empty.address}/api/v1/jobs/{job.rsplit('/', 1)[1]}"
    plan = page.request.get(api).json()
    setups, features = plan["plan"]["setups"], plan["plan"]["features"]
    keys_of = {one["name"]: one["key"] for one in features}
    cuts = (("top face", "outline"), ("bore",), ("bottom face",))
    for setup, names in zip(setups, cuts, strict=True):
        version = page.request.get(api).json()["version"]
        edit = {
            "kind": "set_setup",
            "key": setup["key"],
            "name": setup["name"],
            "machine_id": setup["machine_id"],
            "holds": "vise",
            "cuts": [keys_of[name] for name in names],
        }
        assert page.request.post(f"{api}/edits", data={"version": version, "edit": edit}).ok
    page.goto(f"{job}/method")
    keys.press("q")
    keys.hears("Thorough, chosen:")
    main = page.get_by_role("main")
    expect(main).to_contain_text("2 setups instead of 3: bore is cut with ")
    expect(main).to_contain_text("This job has setups: a proposal can be compared")
    keys.press("ArrowRight")
    keys.hears("As it is, chosen:")
    expect(page.get_by_role("link", name="As it is")).to_have_attribute("aria-current", "true")
    keys.press("Enter")  # what is missing of it comes in: tools and stations
    keys.hears("The plan is completed as proposed.")
    done = page.request.get(api).json()["plan"]
    assert len(done["setups"]) == 3
    assert {one["setup"] for one in done["stations"]} == {one["key"] for one in done["setups"]}
    keys.press("0")
    page.goto(f"{job}/method/proposed?learn=true")
    expect(page.locator("h1")).to_contain_text("Choose first.")
