"""Every form and address of Place and of a machine's table with strange entries: answered in words, nothing broken."""

import pytest
from starlette.testclient import TestClient

from ditto_run.desk import Desk
from tests.web.placed import HX, TABLE, edit, setting

STRANGE = [
    "",
    "-1",
    "0",
    "1e9",
    "NaN",
    "banana",
    "1,5",
    "<b>&",
    "'; --",
    "½",
    "1" * 300,
    "\u200b",
    "-23.6220 in",
    "m2|G54",
    "1|A",
    "G54",
]
FINE = {200, 404, 409, 422}
FORMS = {
    "/shop/machines/2/table": {**TABLE, "zero_at": "seat"},
    "/shop/machines/2/dialect": {"l20": "extended", "p0": "active", "fine": "true"},
    "/shop/machines/2/offsets": {
        "code": "G54",
        "x": "-1",
        "y": "-2",
        "z": "-3",
        "a": "",
        "b": "",
        "c": "",
        "how": "edge",
        "kept": "true",
        "name": "base",
        "purpose": "p",
        "limit": "0.02",
        "typed": "base",
        "back": "/shop/machines/2/offsets",
    },
    "/shop/machines/2/offsets/restore": {"line": "1", "typed": "base", "back": "//elsewhere"},
    "/jobs/1/place/zeros": {
        "target": "1|A",
        "x": "-600",
        "y": "-100",
        "z": "-400",
        "a": "90",
        "how": "edge",
        "typed": "",
    },
    "/jobs/1/place/look": {"setup": "1", "code": "G54"},
    "/jobs/1/place/files/1/take": {
        "text": "G10 L2 P1 X1",
        "take": "G54",
        "l20": "here",
        "p0": "active",
        "typed G54": "",
    },
    "/jobs/1/place/files/1/program/remove": {"number": "1"},
    "/jobs/1/place/pallets/state": {"row_id": "1", "state": "ready", "setup": "1"},
}
PAGES = {
    "/jobs/1/place": ("setup", "holder", "edit"),
    "/jobs/1/place/offsets": ("setup", "code", "day"),
    "/shop/machines/2/offsets": ("code", "day"),
    "/jobs/1/place/probe/edge": ("station", "crooked", "chip", "wrong", "scatter"),
    "/jobs/1/place/pallets": ("setup", "holder", "base", "turn", "over"),
    "/jobs/1/place/files": ("setup", "kept", "everything"),
    "/jobs/1/place/edge": ("sheet",),
    "/jobs/1/place/files/1/offsets.nc": ("kept",),
}


@pytest.mark.parametrize("address", FORMS)
def test_one_strange_field_of_a_form_is_answered_in_words(
    client: TestClient, desk: Desk, placed_job: int, address: str
) -> None:
    setting(client)
    for name in FORMS[address]:
        for strange in STRANGE:
            answer = client.post(
                address, data=FORMS[address] | {name: strange}, headers=HX, follow_redirects=False
            )
            assert answer.status_code in FINE | {303}, (name, strange, answer.text[:200])
            assert not answer.headers.get("location", "").startswith("//"), strange
            if answer.status_code not in {200, 303}:
                assert 'class="problem' in answer.text, (name, strange)
                assert "<b>&</b>" not in answer.text
    for page in (
        "/jobs/1/place",
        "/jobs/1/place/offsets",
        "/shop/machines/2/table",
        "/jobs/1/place/sheet",
        "/jobs/1/place/files",
    ):
        assert client.get(page).status_code == 200, page


@pytest.mark.parametrize("address", PAGES)
def test_one_strange_part_of_an_address_is_answered(
    client: TestClient, desk: Desk, placed_job: int, address: str
) -> None:
    setting(client)
    for name in PAGES[address]:
        for strange in STRANGE:
            answer = client.get(address, params={name: strange})
            assert answer.status_code in FINE, (name, strange, answer.text[:200])


@pytest.mark.parametrize(
    "address",
    [
        "/jobs/1/place/banana",
        "/jobs/1/place/thread",
        "/jobs/1/place/probe/line?station=1|A",
        "/jobs/1/place/files/9/offsets.nc",
        "/jobs/9/place",
        "/shop/machines/9/table",
        "/shop/machines/9/offsets",
        "/jobs/1/place/files/program/x",
        "/api/v1/jobs/1/layout/9",
        "/api/v1/shop/machines/9/offsets",
    ],
)
def test_what_is_not_there_is_said(client: TestClient, desk: Desk, placed_job: int, address: str) -> None:
    answer = client.get(address)
    assert answer.status_code in {404, 409, 422}
    assert "Something went wrong" not in answer.text


def test_two_hands_on_one_layout_are_told(client: TestClient, desk: Desk, placed_job: int) -> None:
    old = desk.jobs.load(placed_job).version
    key = desk.jobs.load(placed_job).plan.placed[0].key
    assert edit(client, desk, placed_job, kind="change_placed", key=key, change="mirror").status_code == 200
    late = {"version": old, "step": "place", "kind": "change_placed", "key": key, "change": "turn"}
    answer = client.post(f"/jobs/{placed_job}/plan", data=late, headers=HX)
    assert (answer.status_code, "while you had it open" in answer.text) == (409, True)
