"""Pages and API of Part's views, Method and the drawers: wiring, refusals at their field, nothing lost."""

import re
from dataclasses import replace

import pytest
from starlette.testclient import TestClient

from ditto_run.core.edits import (
    AddWays,
    ChooseWay,
    KeepSheet,
    MoveCut,
    SetFeature,
    SetFinish,
    SetKitPart,
    SetSetup,
    SetStockSize,
    SetToolStep,
    apply_edit,
)
from ditto_run.core.errors import BadEntry
from ditto_run.desk import Desk
from tests.conftest import SHOP, planned

PART = {"HX-Request": "true"}
V1 = "/api/v1"


@pytest.fixture
def job(desk: Desk) -> int:
    plan = planned(48)
    for edit in (
        SetFinish("anodise", "8", "15", "0.5"),
        SetStockSize("bar", "12", "11.98"),
        SetKitPart("nut", 1, "bought", 5),
        KeepSheet("taper", {"large": "20", "small": "15", "length": "80"}, "cone"),
        AddWays(("dial-in", "soft-jaws", "several-up")),
    ):
        plan = apply_edit(edit, plan, SHOP).plan
    return desk.jobs.new(plan, "RK")


VIEWS = [
    "missing",
    "finish",
    "thread",
    "fit",
    "taper",
    "profile",
    "pattern",
    "bend",
    "stock-sizes",
    "family",
    "kit",
]


@pytest.mark.parametrize(
    "view",
    [f"part/{view}" for view in VIEWS] + ["method/sheets", "method/order", "method/machine", "method/rules"],
)
def test_every_view_shows_with_and_without_anything(
    client: TestClient, desk: Desk, job: int, view: str
) -> None:
    for number in (job, desk.jobs.new(planned(1), "RK")):
        answer = client.get(f"/jobs/{number}/{view}")
        assert answer.status_code == 200
        assert 'aria-current="page"' in answer.text


def test_a_kept_sheet_opens_with_its_entries_and_answer(client: TestClient, desk: Desk, job: int) -> None:
    key = desk.jobs.load(job).plan.sheets[0].key
    page = client.get(f"/jobs/{job}/part/taper", params={"sheet": key}).text
    assert "Swivel the slide 1.790°" in page
    assert 'value="80"' in page
    assert "Add large end" in page
    assert client.get(f"/jobs/{job}/part/thread", params={"sheet": key}).status_code == 404
    assert client.get(f"/jobs/{job}/part/banana").status_code == 404
    assert client.get(f"/jobs/{job}/part/order").status_code == 404


def test_a_sheet_is_worked_out_while_it_is_typed_and_kept_when_asked(
    client: TestClient, desk: Desk, job: int
) -> None:
    good = client.post(f"/jobs/{job}/sheets/thread/answer", data={"thread": "M6"}, headers=PART)
    assert "Drill 5 mm" in good.text
    assert "every standard drill" in good.text
    bad = client.post(f"/jobs/{job}/sheets/thread/answer", data={"thread": "Q"}, headers=PART)
    assert bad.status_code == 422
    assert 'data-field="thread"' in bad.text
    version = desk.jobs.load(job).version
    form = {
        "kind": "keep_sheet",
        "sheet": "thread",
        "name": "gate",
        "thread": "M6",
        "version": version,
        "step": "part",
        "view": "thread",
    }
    kept = client.post(f"/jobs/{job}/plan", data=form)
    assert kept.url.path == f"/jobs/{job}/part/thread"
    assert desk.jobs.load(job).plan.sheets[-1].texts == {"thread": "M6"}
    long = client.post(f"/jobs/{job}/sheets/profile/answer", data={"rows": "0 1 2\n" * 10_000}, headers=PART)
    assert long.status_code == 422
    assert "10,000 lines" in long.text


def test_the_offer_of_a_sheet_becomes_a_size_of_the_part(client: TestClient, desk: Desk, job: int) -> None:
    version = desk.jobs.load(job).version
    offer = {
        "kind": "set_characteristic",
        "name": "large end",
        "size": "Ø20.000 mm",
        "keep": "Ø20.000 mm",
        "version": version,
        "step": "part",
        "view": "taper",
    }
    client.post(f"/jobs/{job}/plan", data=offer)
    assert desk.jobs.load(job).plan.characteristics[-1].name == "large end"


def test_method_shows_the_verdict_tries_and_keeps(client: TestClient, desk: Desk, job: int) -> None:
    page = client.get(f"/jobs/{job}/method").text
    say = re.search(r"<h1>([^<]+)</h1>", page).group(1)
    assert "less." in say
    assert "Total against quantity, 3 ways" in page
    assert client.get(f"/jobs/{job}/method", params={"pieces": 4}).text != page
    for wrong in ("0", "-3", "20001", "12.5", "banana"):
        refused = client.get(f"/jobs/{job}/method", params={"pieces": wrong}, headers=PART)
        assert (refused.status_code, 'data-field="pieces"' in refused.text) == (422, True), wrong
    dozen = client.get(f"/jobs/{job}/method", params={"pieces": "two dozen"}).text
    assert 'value="24"' in dozen
    assert "working day" in client.get(f"/jobs/{job}/method", params={"by": "days"}).text
    key = desk.jobs.load(job).plan.ways[0].key
    assert client.get(f"/jobs/{job}/method", params={"edit": key}).text.count("ready_what") >= 4
    assert client.get(f"/jobs/{job}/method", params={"edit": 9999}).status_code == 404
    tried = {
        "kind": "set_way",
        "key": key,
        "name": "magic",
        "cut": "1 s",
        "ready_what": ["jaws", ""],
        "ready_time": ["1", ""],
        "version": 1,
        "step": "method",
    }
    answer = client.post(f"/jobs/{job}/method/try", data=tried, headers=PART)
    assert answer.status_code == 200
    assert "Magic" in answer.text
    assert desk.jobs.load(job).plan.ways[0].name != "magic"
    wrong = client.post(f"/jobs/{job}/method/try", data={**tried, "cut": "-4"}, headers=PART)
    assert 'data-field="cut"' in wrong.text
    version = desk.jobs.load(job).version
    for reason, status in (("", 422), ("Cheapest.", 303)):
        form = {"kind": "choose_way", "key": key, "reason": reason, "version": version, "step": "method"}
        assert (
            client.post(f"/jobs/{job}/plan", data=form, headers=PART, follow_redirects=False).status_code
            == status
        )
    assert "Chosen: dial in each piece" in client.get(f"/jobs/{job}/method").text


def test_siblings_are_made_all_or_none(client: TestClient, desk: Desk, job: int) -> None:
    before = len(desk.jobs.find())
    wrong = client.post(f"/jobs/{job}/part/family", data={"siblings": "A; 4\nB; x"}, headers=PART)
    assert 'data-field="siblings"' in wrong.text
    assert len(desk.jobs.find()) == before
    made = client.post(f"/jobs/{job}/part/family", data={"siblings": "A; 4; slot = 25 ±0.03\nB; 8"})
    assert "25" in made.text
    assert len(desk.jobs.find()) == before + 2


@pytest.mark.parametrize("step", ["hold", "tools"])
def test_earlier_and_later_work_from_a_form(client: TestClient, desk: Desk, step: str) -> None:
    plan = planned(4)
    for edit in (SetSetup("second", 1, "vise"), SetToolStep(plan.setups[0].key, 9, "deburr", "5")):
        plan = apply_edit(edit, plan, SHOP).plan
    job = desk.jobs.new(plan, "RK")
    kind, key = (
        ("move_setup", plan.setups[1].key) if step == "hold" else ("move_tool_step", plan.tool_steps[-1].key)
    )
    form = {"kind": kind, "key": key, "by": "-1", "version": 1, "step": step}
    assert (
        client.post(f"/jobs/{job}/plan", data=form, headers=PART, follow_redirects=False).status_code == 303
    )
    moved = desk.jobs.load(job).plan
    assert (moved.setups[0].name == "second") == (step == "hold")
    assert (moved.tool_steps != plan.tool_steps) == (step == "tools")


def test_the_price_of_the_material_is_typed_once(client: TestClient, desk: Desk, job: int) -> None:
    """On Shop; the mass sheet works it out, and the way and the order propose it."""
    desk.drawers.save("materials", 0, {"name": "Brass", "density": "8.5", "price": "9 /kg", "kc11": "780"})
    for sheet, texts in (
        ("blank", {"shape": "block", "length": "60", "width": "40", "height": "20"}),
        ("mass", {"material": "Brass"}),
    ):
        kept = client.post(f"/api/v1/jobs/{job}/sheets/{sheet}", json={"texts": texts})
        assert kept.status_code == 200, kept.text
        edit = {
            "kind": "keep_sheet",
            "sheet": sheet,
            "name": sheet,
            "version": desk.jobs.load(job).version,
            "step": "stock",
        }
        client.post(f"/jobs/{job}/plan", data=edit | texts)
    mass = desk.worked_out(desk.jobs.load(job)).result_of("mass")
    assert mass.cents > 0
    assert f"{mass.cents / 100:.2f}" in client.get(f"/jobs/{job}/stock/order").text
    assert (
        f"Stock: {mass.cents_each / 100:.2f}." in client.get(f"/jobs/{job}/method", params={"new": True}).text
    )


def test_a_tool_step_at_some_stations_by_form(client: TestClient, desk: Desk) -> None:
    job = desk.jobs.new(planned(12), "RK")
    setup = desk.jobs.load(job).plan.setups[0].key
    form = {
        "kind": "set_tool_step",
        "setup": setup,
        "tool": "5",
        "does": "tap",
        "cut": "30",
        "version": 1,
        "step": "tools",
    }
    page = client.post(f"/jobs/{job}/plan", data={**form, "stations": ["B", "C"]}).text
    assert desk.jobs.load(job).plan.tool_steps[-1].stations == ("B", "C")
    assert "only at B, C" in page
    assert client.post(f"/jobs/{job}/plan", data={**form, "version": 2}).status_code == 200
    assert desk.jobs.load(job).plan.tool_steps[-1].stations == ()


def test_the_order_of_cuts_is_changed_and_outlives_another_change(client: TestClient, desk: Desk) -> None:
    plan = planned(4)
    for edit in (SetFeature("top face"), SetFeature("pocket", feature_kind="pocket", refers=("top",))):
        plan = apply_edit(edit, plan, SHOP).plan
    setup, (face, pocket) = plan.setups[0], [feature.key for feature in plan.features]
    plan = apply_edit(SetSetup("first side", 1, "vise", key=setup.key, cuts=(pocket, face)), plan, SHOP).plan
    job = desk.jobs.new(plan, "RK")
    page = client.get(f"/jobs/{job}/hold", params={"edit": setup.key}).text
    assert page.index(f'name="cuts" value="{pocket}"') < page.index(f'name="cuts" value="{face}"')
    form = {"kind": "move_cut", "setup": setup.key, "feature": face, "by": "-1", "version": 1, "step": "hold"}
    client.post(f"/jobs/{job}/plan", data=form)
    assert desk.jobs.load(job).plan.setups[0].cuts == (face, pocket)
    wrong = {**form, "version": 2, "feature": 999}
    assert client.post(f"/jobs/{job}/plan", data=wrong, headers=PART).status_code == 404
    gone = replace(desk.jobs.load(job).plan, setups=(replace(setup, cuts=(face,)),))
    with pytest.raises(BadEntry, match="does not make pocket"):
        apply_edit(MoveCut(setup.key, pocket, 1), gone, SHOP)


@pytest.mark.parametrize(
    "view", ["stock", "hold", "part/features", "hold/sheet", "stock/order", "hold/vacuum", "stock/mixed"]
)
def test_stock_and_hold_show(client: TestClient, job: int, view: str) -> None:
    answer = client.get(f"/jobs/{job}/{view}")
    assert answer.status_code == 200
    if view != "stock":  # a front page of questions has no row of views
        assert f'aria-current="{"true" if view == "hold" else "page"}"' in answer.text


def test_the_chain_and_its_override_by_form_and_by_script(client: TestClient, desk: Desk, job: int) -> None:
    def send(**form: object) -> int:
        version = desk.jobs.load(job).version
        return client.post(
            f"/jobs/{job}/plan",
            data={**form, "version": version, "step": "hold"},
            headers=PART,
            follow_redirects=False,
        ).status_code

    assert send(kind="set_feature", name="top face", face="top", feature_kind="face") == 303
    assert send(kind="set_feature", name="", face="top", feature_kind="face") == 422
    assert send(kind="set_feature_line", line="hole 6 through") == 422
    assert (
        send(
            kind="add_feature_lines",
            lines="outline 60 x 40 x 10\nhole 6 through, top, 1 from left, 9 from front",
        )
        == 303
    )
    assert "breaks out of the side" in client.get(f"/jobs/{job}/part/features").text
    for feature in desk.jobs.load(job).plan.features[-2:]:
        assert send(kind="remove_feature", key=feature.key) == 303
    read = client.get(f"/jobs/{job}/part/feature", params={"line": "hole 6 through"}).text
    assert "on which face" in read
    assert "no word we know" in client.get(f"/jobs/{job}/part/feature", params={"line": "wibble"}).text
    plan = desk.jobs.load(job).plan
    setup = {
        "kind": "set_setup",
        "key": plan.setups[0].key,
        "name": "first side",
        "machine_id": 1,
        "holds": "vise",
    }
    assert (
        send(**setup, locates_on=["top", "", ""], clamps_on=["front", ""], cuts=[str(plan.features[0].key)])
        == 303
    )
    chain = client.get(f"{V1}/jobs/{job}/chain").json()
    assert chain["matrix"]["top"] == [["made", "located on"]]
    problem = next(f["problem"] for f in chain["findings"] if f["code"] == "locating-cut")
    assert send(kind="override_finding", problem=problem, note="Only skimmed.") == 303
    assert desk.jobs.load(job).plan.overrides[0].who == "RK"
    assert all(f["problem"] != problem for f in client.get(f"{V1}/jobs/{job}/chain").json()["findings"])
    assert "Only skimmed." in client.get(f"/jobs/{job}/hold").text
    assert "sits on top" in client.get(f"/jobs/{job}/hold/sheet").text
    assert client.get(f"{V1}/jobs/{job}/holders").json() == []
    client.post("/shop/drawers/holders/standard")
    assert send(kind="keep_sheet", sheet="blank", shape="bar", length="30", across="12") == 303
    assert client.get(f"{V1}/jobs/{job}/holders").json()[0]["name"] == "Collets"
    spared = client.get(f"{V1}/jobs/{job}/holders?marks=none&thin=true").json()
    assert "spares a thin wall" in spared[0]["reasons"]
    assert {"leaves light marks"} <= {
        reason for found in spared if not found["fits"] for reason in found["reasons"]
    }
    page = client.get(f"/jobs/{job}/hold?marks=none&thin=true").text
    assert '<option value="none" selected>' in page
    assert "spares a thin wall" in page
    assert client.get(f"{V1}/jobs/{job}/holders?marks=some").status_code == 422


def test_an_order_waits_on_the_list_of_jobs(client: TestClient, desk: Desk, job: int) -> None:
    form = {
        "kind": "set_order",
        "what": "12 mm bar",
        "bars": "3",
        "expected": "2026-12-04",
        "version": desk.jobs.load(job).version,
        "step": "stock",
        "view": "order",
    }
    assert "Waiting for 12 mm bar." in client.post(f"/jobs/{job}/plan", data=form).text
    assert "Waits for 12 mm bar, expected 2026-12-04." in client.get("/").text


def test_a_shortage_stands_on_the_list_of_jobs(client: TestClient, job: int) -> None:
    assert "nut: 43 short of 48, to be bought." in client.get("/").text
    assert client.get(f"{V1}/jobs/{job}/kit").json()["lines"][0]["short"] == 43


def test_drawers_are_filled_changed_and_exchanged_as_csv(client: TestClient, desk: Desk) -> None:
    assert client.post("/shop/drawers/drills/standard").status_code == 200
    count = len(desk.drawers.rows("drills"))
    assert count > 300
    client.post("/shop/drawers/drills/standard")
    assert len(desk.drawers.rows("drills")) == count
    twice = client.post("/shop/drawers/drills", data={"row_id": "0", "name": "#7"}, headers=PART)
    assert 'data-field="name"' in twice.text
    wrong = client.post(
        "/shop/drawers/materials", data={"row_id": "0", "name": "x", "density": "-2"}, headers=PART
    )
    assert 'data-field="density"' in wrong.text
    table = client.get("/shop/drawers/drills/csv").text
    assert table.splitlines()[0] == "name"
    assert (
        client.post(
            "/shop/drawers/drills/csv", files={"file": ("d.csv", table)}, data={"whole": "true"}
        ).status_code
        == 200
    )
    assert len(desk.drawers.rows("drills")) == count
    faulty = client.post(
        "/shop/drawers/reamers/csv", files={"file": ("r.csv", "name,cuts\n12 mm,12.006\n,3")}, headers=PART
    )
    assert "Row 2" in faulty.text
    assert desk.drawers.rows("reamers") == []
    row = desk.drawers.rows("drills")[0]
    client.post("/shop/drawers/drills/remove", data={"row_id": row.id})
    assert len(desk.drawers.rows("drills")) == count - 1
    assert client.get("/shop/drawers/banana").status_code == 404


def test_what_a_machine_can_do_is_kept(client: TestClient, desk: Desk) -> None:
    form = {"name": "Mill 9", "kind": "mill", "power": "5.5", "travel_x": "30 in", "taps": "rigid"}
    client.post("/shop/machines", data=form)
    ability = next(m for m in desk.shop.load().machines.values() if m.name == "Mill 9").ability
    assert (str(ability.power_kw), float(ability.travel_x_mm), ability.taps) == ("5.5", 762, "rigid")
    wrong = client.post("/shop/machines", data={**form, "power": "lots"}, headers=PART)
    assert 'data-field="power"' in wrong.text


def test_the_same_by_script(client: TestClient, job: int) -> None:
    kinds = {sheet["kind"] for sheet in client.get(f"{V1}/sheets").json()}
    assert {"thread", "fit", "taper", "profile", "pattern", "bend", "order", "machine", "rules"} < kinds
    answer = client.post(
        f"{V1}/jobs/{job}/sheets/fit", json={"texts": {"nominal": "25", "classes": "H7/g6"}}
    ).json()
    assert answer["result"]["fit"]["hole_mm"] == ["25.000", "25.021"]
    assert client.post(f"{V1}/jobs/{job}/sheets/fit", json={"texts": {}}).json()["field"] == "nominal"
    found = client.get(f"{V1}/jobs/{job}/method", params={"quantity": 300}).json()
    assert found["winner"] == "several up"
    assert client.get(f"{V1}/jobs/{job}/missing").json()["questions"]
    assert client.get(f"{V1}/jobs/{job}/finish").json() == []
    empty = client.post(f"{V1}/jobs", json={"part": "Pin", "quantity": 2}).json()["id"]
    assert client.get(f"{V1}/jobs/{empty}/method").status_code == 409
    made = client.post(f"{V1}/shop/drawers/reamers", json={"name": "12 mm", "cuts": "12.006"}).json()["id"]
    assert (
        client.put(f"{V1}/shop/drawers/reamers/{made}", json={"name": "12 mm", "cuts": "12.004"}).status_code
        == 200
    )
    assert client.get(f"{V1}/shop/drawers/reamers").json()[0]["texts"]["cuts"] == "12.004 mm"
    assert client.post(f"{V1}/shop/drawers/taps/csv", json="thread,lead\nM6,plug\nM8,plug").json() == {
        "added": 2
    }
    assert client.get(f"{V1}/shop/drawers/taps/csv").text.splitlines()[1] == "M6,plug"
    assert client.delete(f"{V1}/shop/drawers/reamers/{made}").json() == []


def test_a_photo_of_a_holder_is_shown_where_it_fits(client: TestClient, desk: Desk, job: int) -> None:
    client.post("/shop/drawers/holders/standard")
    rows = client.get("/shop/drawers/holders").text
    number = re.search(r'href="\?row=(\d+)" aria-label="Change Collets"', rows).group(1)
    at = f"/shop/drawers/holders/{number}/photo"
    kept = client.post(at, files={"photo": ("collets.png", b"\x89PNG\r\n\x1a\n", "image/png")})
    assert f'src="{at}"' in kept.text
    assert client.get(at).headers["content-type"] == "image/png"
    refused = client.post(at, files={"photo": ("collets.pdf", b"%PDF", "application/pdf")}, headers=PART)
    assert 'data-field="photo"' in refused.text
    assert "collets.pdf is no picture." in refused.text
    blank = {
        "kind": "keep_sheet",
        "sheet": "blank",
        "texts": {"shape": "bar", "length": "30", "across": "12"},
    }
    sent = client.post(f"{V1}/jobs/{job}/edits", json={"version": desk.jobs.load(job).version, "edit": blank})
    assert sent.status_code == 200
    assert 'alt="Photo of Collets"' in client.get(f"/jobs/{job}/hold").text
    assert f'src="{at}"' not in client.post(f"{at}/remove").text
    assert client.get(at).status_code == 404


def test_features_stand_under_the_tabs_of_part_and_their_old_address_leads_there(
    client: TestClient, job: int
) -> None:
    page = client.get(f"/jobs/{job}/part/features").text
    tabs = page[page.index('aria-label="Views of') :]
    assert f'href="/jobs/{job}/part/features" aria-current="page"' in tabs
    assert f"/jobs/{job}/hold/offsets" not in page
    old = client.get(f"/jobs/{job}/hold/features", follow_redirects=False)
    assert (old.status_code, old.headers["location"]) == (301, f"/jobs/{job}/part/features")


def test_the_rest_of_the_last_bar_is_shelved_by_one_key_and_offered_to_the_next_job(
    client: TestClient, desk: Desk, job: int
) -> None:
    refused = client.post(f"/jobs/{job}/stock/shelve")
    assert (refused.status_code, "Nobody knows yet what is left" in refused.text) == (409, True)
    for kind, texts in (
        ("blank", {"shape": "bar", "across": "12 mm", "length": "86 mm", "facing": "1 mm"}),
        ("cuts", {"bar": "3000 mm", "kerf": "3 mm", "remnant": "60 mm", "pieces": "60"}),
    ):
        edit = {"kind": "keep_sheet", "sheet": kind, "name": "", "texts": texts}
        sent = client.post(
            f"/api/v1/jobs/{job}/edits", json={"version": desk.jobs.load(job).version, "edit": edit}
        )
        assert sent.status_code == 200, sent.text
    assert client.post(f"/jobs/{job}/stock/shelve", follow_redirects=False).status_code == 303
    again = client.post(f"/jobs/{job}/stock/shelve")
    assert (again.status_code, f"already, as Job {job}, rest" in again.text) == (409, True)
    row = desk.drawers.rows("offcuts")[-1].value
    left = desk.worked_out(desk.jobs.load(job)).known.told["cuts"].last.left_mm
    assert (row.name, row.section, row.length_mm) == (f"Job {job}, rest", "Ø12 mm", left)
    assert "Shelve what is left" in client.get(f"/jobs/{job}/stock").text


@pytest.mark.parametrize(("size", "kept"), [("10-32", False), ("1,250", False), ("0.001", True)])
def test_only_what_is_understood_can_be_kept_as_typed(
    client: TestClient, desk: Desk, job: int, size: str, kept: bool
) -> None:
    """A key that keeps what nobody can read asked the same question for ever."""
    sent = {"kind": "set_characteristic", "name": "odd", "size": size, "grade": "functional"}
    page = client.post(
        f"/jobs/{job}/plan",
        data=sent | {"version": desk.jobs.load(job).version, "step": "part"},
        headers={"HX-Request": "true"},
    )
    assert page.status_code == 422
    assert ("data-keep" in page.text) == kept
    again = client.post(
        f"/jobs/{job}/plan",
        data=sent | {"version": desk.jobs.load(job).version, "step": "part", "keep": size},
        follow_redirects=False,
    )
    assert (again.status_code == 303) == kept


def test_comparing_nothing_is_answered_with_what_to_choose(client: TestClient, desk: Desk) -> None:
    number = desk.jobs.new(planned(6), "RK")
    sent = {"kind": "add_ways", "version": "1", "step": "method"}
    refused = client.post(f"/jobs/{number}/plan", data=sent, headers=PART)
    assert (refused.status_code, "No starting point is chosen." in refused.text) == (422, True)


def test_a_job_begins_like_another_with_what_was_only_so_for_that_one_left_out(
    client: TestClient, desk: Desk, job: int
) -> None:
    old = desk.jobs.load(job)
    key = old.plan.ways[0].key
    desk.jobs.change(job, old.version, "RK", ChooseWay(key, "It is set up."))
    filled = desk.jobs.load(job)
    desk.jobs.change(job, filled.version, "RK", AddWays(("planned",)))
    page = client.get("/jobs/new").text
    assert "Begin like" in page
    sent = {"part": "Clamp block, long", "quantity": "30", "unit": "in", "like": str(job)}
    assert client.post("/jobs", data=sent, follow_redirects=False).status_code == 303
    new = desk.jobs.find()[0].plan
    was = desk.jobs.load(job).plan
    assert (new.heading.part, new.heading.quantity, new.heading.unit) == ("Clamp block, long", 30, "mm")
    assert (new.setups, new.characteristics) == (was.setups, was.characteristics)
    assert len(new.ways) == len(was.ways) - 1
    assert "planned" not in {way.kind for way in new.ways}  # filled anew, for the shop may have learnt since
    assert was.choice is not None
    assert (new.choice, new.order, new.overrides) == (None, None, ())
    assert [size.measured for size in new.stock] == [""]  # another bar will come
    wrong = client.post("/jobs", data={**sent, "quantity": "0"}, headers=PART)
    assert (wrong.status_code, 'data-field="quantity"' in wrong.text) == (422, True)
    assert client.post("/jobs", data={**sent, "like": "999"}).status_code == 404
