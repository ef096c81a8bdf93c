"""A program on Tools: kept and read, compared with the plan, in sentences; and the same as JSON."""

import json
import re
from dataclasses import replace
from pathlib import Path
from time import sleep

import pytest
from starlette.testclient import TestClient

from ditto_run.core.errors import BeingWorkedOut
from ditto_run.core.part import Heading
from ditto_run.core.plan import Plan
from ditto_run.desk import Desk
from tests.core.test_segment_program import LATHE, planned
from tests.core.test_visits import two_tools
from tests.web.conftest import flat

HX = {"HX-Request": "true"}
CASES = Path(__file__).parents[1] / "data/programs"
TEXT = (
    "%\nG21 G17 G90 G94\nT3 M6\nS9000 M3\nG54 G0 X0. Y0.\nG43 H4 Z5. M8\nG1 Z-1. F100.\nG187 (<b>)\nG0 Z50.\n"
    "T5 M6\nG55 G0 X0. Y0.\nM5\nM30\n%\n"
)


@pytest.fixture
def job(desk: Desk) -> int:
    return desk.jobs.new(two_tools(), "RK")


def kept(client: TestClient, job: int, text: str = TEXT, name: str = "first.nc") -> str:
    answer = client.post(
        f"/jobs/{job}/tools/program",
        files={"program": (name, text.encode())},
        data={"dialect": "mill-ngc"},
        headers=HX,
        follow_redirects=False,
    )
    assert answer.status_code == 303, answer.text
    return str(answer.headers["location"])


def ready(client: TestClient, address: str) -> str:
    for _ in range(100):
        page = flat(client.get(address).text)
        if "It is being read." not in page:
            return page
        sleep(0.1)
    raise AssertionError(page)


def test_a_program_is_kept_read_and_compared_with_the_plan_in_sentences(client: TestClient, job: int) -> None:
    assert "Choose the program that is about to be run." in flat(
        client.get(f"/jobs/{job}/tools/program").text
    )
    page = ready(client, kept(client, job))
    assert "places to look at" in page or "could hurt" in page
    for said in (
        "Line 6: H4 is the length or wear of another tool.",
        "Line 10: T5 is not planned.",
        "T4 is planned and never called.",
        "G56 is planned and never used.",
        "Line 13: coolant is still on at the end.",
    ):
        assert said in page, said
    assert 'line 8 <b class="mk">G187</b>' in page
    assert "<b>)" not in page  # a comment is never part of the page
    assert "at least" in page
    assert "rapids through it are not looked for" in page


def test_what_is_no_program_is_a_sentence_and_can_be_read_again(client: TestClient, job: int) -> None:
    page = ready(client, kept(client, job, "<html><body>404</body></html>", "page.nc"))
    assert "This is not a program" in page
    assert "Read it again" in page
    empty = client.post(
        f"/jobs/{job}/tools/program", files={"program": ("e.nc", b"")}, headers=HX, follow_redirects=False
    )
    assert empty.status_code == 422
    assert client.get(f"/jobs/{job}/tools/program?file=99").status_code == 404
    assert client.get(f"/jobs/{job}/tools/program?file=1&dialect=mine").status_code == 422
    assert client.get(f"/jobs/{job}/tools/program?top=side").status_code == 422


def test_a_job_without_a_setup_reads_a_program_by_its_dialect_alone(client: TestClient, desk: Desk) -> None:
    bare = desk.jobs.new(Plan(Heading("Pin", 4)), "RK")
    page = ready(client, kept(client, bare))
    assert "Line 6: H4 is the length or wear of another tool." in page
    assert "planned" not in page


def test_while_it_is_read_it_can_be_stopped(
    client: TestClient, desk: Desk, job: int, monkeypatch: pytest.MonkeyPatch
) -> None:
    where = kept(client, job)

    def slow(*_: object, **__: object) -> None:
        raise BeingWorkedOut(0.1, 0, 20)

    monkeypatch.setattr(desk.worker, "solve", slow)
    page = flat(client.get(where).text)
    assert "It is being read." in page
    stop = re.search(r'action="(/jobs/\d+/tools/program/stop[^"]*)"', page)
    assert stop is not None
    answer = client.post(stop[1].replace("&amp;", "&"), headers=HX, follow_redirects=False)
    assert answer.status_code == 303


@pytest.mark.parametrize("name", ["d01", "d12"])
def test_the_api_answers_as_the_truth_does(client: TestClient, name: str) -> None:
    case = json.loads((CASES / f"{name}.json").read_text())
    sent = {"text": (CASES / f"{name}.ngc").read_text(), "given": case["given"]}
    answer = client.post("/api/v1/program/read", json=sent)
    assert answer.status_code == 200, answer.text
    found = answer.json()
    assert found.keys() == case["truth"].keys()
    assert [(one["line"], one["kind"]) for one in found["faults"]] == [
        (one["line"], one["kind"]) for one in case["truth"]["faults"]
    ]
    assert found["length_mm"]["cut"] == pytest.approx(case["truth"]["length_mm"]["cut"], abs=0.02)


def test_the_api_refuses_in_a_sentence(client: TestClient) -> None:
    for sent, status in (
        ({"text": "", "given": {}}, 422),
        ({"text": "G1 X1 F1", "given": {"dialect": "mine"}}, 422),
        ({"text": "G1 X1 F1", "given": {}, "more": 1}, 422),
        ({"given": {}}, 422),
    ):
        answer = client.post("/api/v1/program/read", json=sent)
        assert answer.status_code == status
        assert answer.json()["problem"]


def test_each_revision_is_kept_and_compared_with_the_one_before(
    client: TestClient, desk: Desk, job: int
) -> None:
    first = kept(client, job)
    assert kept(client, job).split("file=")[1] == first.split("file=")[1]  # the same text is no revision
    second = kept(client, job, TEXT.replace("S9000", "S6000"))
    assert len(desk.programs.of_job(job)) == 1
    old, new = desk.programs.revisions(job)
    assert old.seal != new.seal
    page = ready(client, second)
    assert f"against={old.id}" in page
    page = ready(client, f"/jobs/{job}/tools/program?file={new.id}&against={old.id}")
    assert "<del>S9000 M3</del>" in page
    assert "<ins>S6000 M3</ins>" in page
    desk.programs.remove(job, new.id)
    assert desk.programs.revisions(job) == []


def test_why_it_is_another_one_is_asked_once_and_the_copy_of_the_machine_is_compared(
    client: TestClient, desk: Desk, job: int
) -> None:
    assert 'name="why"' not in ready(client, kept(client, job))
    second = kept(client, job, TEXT.replace("S9000", "S6000"))
    assert "Why is it another one?" in ready(client, second)
    number = desk.programs.of_job(job)[0].id
    sent = {"file": number, "asked": second.split("?")[1]}
    at = f"/jobs/{job}/tools/program"
    assert "The reason is empty." in client.post(f"{at}/why", data=sent | {"why": " "}, headers=HX).text
    answer = client.post(f"{at}/why", data=sent | {"why": "chatter"}, headers=HX, follow_redirects=False)
    assert answer.headers["location"].startswith(f"{at}?file={number}&")
    page = ready(client, second)
    assert "Why: chatter." in page
    assert 'name="why"' not in page
    for copy, said in (
        (TEXT.replace("S9000", "S6000").replace("\n", "\r\n"), "Not a line is different."),
        (TEXT.replace("S9000", "S6000").replace("G1 Z-1.", "G1 Z-7."), "<del>G1 Z-7. F100.</del>"),
    ):
        files = {"machine_copy": ("O0001", copy.encode())}
        answer = client.post(f"{at}/readback", data=sent, files=files, headers=HX, follow_redirects=False)
        page = ready(client, answer.headers["location"])
        assert "Against the copy read back from the machine" in page
        assert said in page
    copies = [one for one in desk.programs.revisions(job) if one.read_back]
    assert len(copies) == 1  # the last one alone is kept
    assert [one.id for one in desk.programs.of_job(job)] == [number]  # and it is no revision
    assert client.post(f"{at}/why", data={"file": 99, "why": "x"}, headers=HX).status_code == 404


def test_what_cannot_be_read_is_taken_away(client: TestClient, desk: Desk, job: int) -> None:
    page = ready(client, kept(client, job, "<html><body>404</body></html>", "page.nc"))
    assert "Take page.nc away" in page
    number = desk.programs.of_job(job)[0].id
    answer = client.post(f"/jobs/{job}/tools/program/remove", data={"file": number}, headers=HX)
    assert answer.status_code == 200
    assert desk.programs.of_job(job) == []


def test_a_trouble_is_written_down_where_it_happened(client: TestClient, desk: Desk, job: int) -> None:
    where = kept(client, job)
    assert "None is written down." in ready(client, where)
    assert 'value="first.nc, line 7"' in ready(client, f"{where}&line=7")
    cycle = desk.jobs.load(job).plan.all_cycles[0].key
    form = {"kind": "set_trouble", "version": desk.jobs.load(job).version, "step": "tools", "view": "program"}
    form |= {"cycle": cycle, "what": "drill broke", "file": "first.nc, line 7", "mended": ""}
    assert client.post(f"/jobs/{job}/plan", data=form, headers=HX).status_code == 200
    page = ready(client, where)
    assert "<b>drill broke</b>, first.nc, line 7" in page
    assert 'name="mended"' in page
    assert "drill broke, and nothing says what mended it." in flat(client.get(f"/jobs/{job}/open").text)


def test_its_times_go_into_the_tool_steps_by_one_key(client: TestClient, desk: Desk, job: int) -> None:
    text = "%\nG21 G17 G90 G94\nT3 M6\nS900 M3\nG54 G0 X0. Y0.\nG43 H3 Z5.\nG1 X10. F60.\nG1 X40.\nG0 Z50.\nM5\nM30\n%\n"
    where = kept(client, job, text)
    assert "Take its times for the tool steps" in ready(client, where)
    number, version = desk.programs.of_job(job)[0].id, desk.jobs.load(job).version
    form = {"file": number, "setup": "", "dialect": "mill-ngc", "version": version}
    answer = client.post(f"/jobs/{job}/tools/program/times", data=form, headers=HX, follow_redirects=False)
    assert answer.status_code == 303, answer.text
    step = next(one for one in desk.jobs.load(job).plan.tool_steps if one.tool == 3)
    assert (step.cut_s, step.time_by) == (
        13.3,
        "program",
    )  # 40 mm at 1 mm/s over three stations
    none = text.replace("T3", "T77")
    kept(client, job, none, "other.nc")
    form |= {"file": desk.programs.of_job(job)[-1].id, "version": desk.jobs.load(job).version}
    refused = client.post(f"/jobs/{job}/tools/program/times", data=form, headers=HX)
    assert "No tool of the program is one of this cycle." in refused.text


def test_a_machine_says_by_which_table_its_programs_are_read(
    client: TestClient, desk: Desk, job: int
) -> None:
    machine = desk.jobs.load(job).plan.setups[0].machine_id
    form = {"l20": "not used", "p0": "not used", "reads": "mill-shop"}
    wrong = client.post(f"/shop/machines/{machine}/dialect", data=form | {"reads": "mine"}, headers=HX)
    assert wrong.status_code == 422
    assert client.post(f"/shop/machines/{machine}/dialect", data=form, headers=HX).status_code in {200, 303}
    page = flat(client.get(f"/jobs/{job}/tools/program").text)
    assert '<option value="mill-shop" selected>' in page


def test_keys_of_a_table_are_changed_on_the_machine_and_what_they_move_is_shown(
    client: TestClient, desk: Desk, job: int
) -> None:
    """Dwell of 500: seconds on the plain table, milliseconds where the machine's P is; the rest of the time is the same."""
    machine = desk.jobs.load(job).plan.setups[0].machine_id
    page = flat(client.get(f"/shop/machines/{machine}/table").text)
    assert "P of a dwell is in" in page
    assert "X is a" not in page  # of lathes
    where = kept(client, job, TEXT.replace("G0 Z50.", "G4 P500\nG0 Z50."))
    assert "Keys of this machine’s table" not in ready(client, where)
    at = f"/shop/machines/{machine}/keys"
    for wrong, said in (
        ({"dwell_p": "h"}, "P of a dwell is in: “h” is none of its values."),
        ({"peck_gap_mm": "-1"}, "“-1” is no such length."),
        ({"known": "M29 stop"}, "“STOP” is no word."),
    ):
        refused = client.post(at, data=wrong, headers=HX)
        assert refused.status_code == 422, refused.text
        assert said in refused.text
    sent = {"dwell_p": "ms", "peck_gap_mm": "0.254", "known": "m29, M88"}
    answer = client.post(at, data=sent, headers=HX, follow_redirects=False)
    assert answer.status_code == 303
    assert desk.shop.machine(machine or 0).dialect.keys == (("dwell_p", "ms"), ("known", "M29 M88"))
    page = ready(client, where)
    assert (
        "P of a dwell is in: <b>ms</b>, ready-made s; Words without harm on this machine: <b>M29 M88</b>"
        in page
    )
    for _ in range(50):
        if "is being worked out" not in page:
            break
        sleep(0.1)
        page = flat(client.get(where).text)
    assert re.search(r"dwells, s</th> *<td[^>]*>500</td> *<td[^>]*>0.5</td>", page.replace("\n", " "))
    assert "way at feed" not in page
    other = {"l20": "not used", "p0": "not used", "reads": "mill-shop"}
    client.post(f"/shop/machines/{machine}/dialect", data=other, headers=HX)
    assert desk.shop.machine(machine or 0).dialect.keys == ()  # they were another table's


def test_a_skeleton_is_shown_with_what_was_proven_and_taken_out(
    client: TestClient, desk: Desk, job: int
) -> None:
    page = flat(client.get(f"/jobs/{job}/tools/program/skeleton").text)
    assert (
        "2 tool changes, offsets G54, G55, G56, no word unknown, no fault but that G54, G55, G56 are" in page
    )
    text = client.get(f"/jobs/{job}/tools/program/skeleton.nc").text
    assert text.startswith("%\n(")
    bare = desk.jobs.new(Plan(Heading("Pin", 4)), "RK")
    assert "There is no cycle to write." in flat(client.get(f"/jobs/{bare}/tools/program/skeleton").text)


def test_a_program_that_is_chosen_stands_among_what_is_open(client: TestClient, desk: Desk, job: int) -> None:
    page = ready(client, kept(client, job))
    assert "It is the program of" in page
    number, version = desk.programs.of_job(job)[0].id, desk.jobs.load(job).version
    form = {
        "file": number,
        "setup": "",
        "dialect": "mill-ngc",
        "zero": "",
        "top": "finished",
        "version": version,
    }
    answer = client.post(f"/jobs/{job}/tools/program/choose", data=form, headers=HX, follow_redirects=False)
    assert answer.status_code == 303, answer.text
    page = ready(client, answer.headers["location"])
    assert "What is said of it stands among what is open." in page
    opened = flat(client.get(f"/jobs/{job}/open").text)
    assert "first.nc: line 6: H4 is the length or wear of another tool." in opened
    assert "words or moves that were not understood" in opened
    cycle = desk.jobs.load(job).plan.all_cycles[0].key
    given_up = client.post(
        f"/jobs/{job}/plan",
        data={
            "kind": "give_up_program",
            "cycle": cycle,
            "step": "tools",
            "view": "program",
            "version": version + 1,
        },
        headers=HX,
        follow_redirects=False,
    )
    assert given_up.status_code == 303
    assert given_up.headers["location"].startswith(f"/jobs/{job}/tools/program")
    assert "first.nc" not in flat(client.get(f"/jobs/{job}/open").text)


def test_a_slender_bar_is_written_in_segments_where_hold_has_them(client: TestClient, desk: Desk) -> None:
    lathe = desk.shop.save_machine(replace(LATHE, id=0))
    desk.drawers.save(
        "tools",
        0,
        {"name": "T01 turn", "machine": LATHE.name, "kind": "turning", "edge": "carbide"},
    )
    bar = desk.jobs.new(planned(machine=lathe), "RK")
    page = flat(client.get(f"/jobs/{bar}/tools/program").text)
    assert "Write the segments" in page
    page = flat(client.get(f"/jobs/{bar}/tools/program/segments").text)
    assert "2 segments, 1 pull." in page
    assert "every segment ends 35" in page
    assert "M0 (PULL THE BAR 35. MM, TIGHTEN)" in client.get(f"/jobs/{bar}/tools/program/segments.nc").text
    plain = desk.jobs.new(two_tools(), "RK")
    page = flat(client.get(f"/jobs/{plain}/tools/program/segments").text)
    assert "Segments are written for a lathe with a control." in page
    assert client.get(f"/jobs/{plain}/tools/program/segments.nc").status_code == 409
